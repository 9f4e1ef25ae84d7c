import fc from 'fast-check';
import { draws } from '../../../scripts/testing/draws.ts';
import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { CalculationInputError, runCalculation } from './calculation.ts';
import { CATALOGUE } from './catalogue.ts';
import { worked } from '../../../scripts/testing/worked.ts';

describe('every calculation of the catalogue', () => {
  it('has its own id', () => expect(new Set(CATALOGUE.map((c) => c.id)).size).toBe(CATALOGUE.length));
  it.each(CATALOGUE.map((c) => [c.id, c] as const))(
    '%s: its example runs, fits its output, names sources, has a JSON schema',
    (_, calculation) => {
      const result = runCalculation(calculation, calculation.example);
      expect(calculation.output.safeParse(result.values).success).toBe(true);
      expect(result.sources.length).toBeGreaterThan(0);
      for (const step of result.working) {
        expect(step.source).not.toBe('');
        expect(`${step.numbers} ${step.value}`).not.toMatch(/NaN|undefined/);
      }
      expect(() => z.toJSONSchema(calculation.input, { unrepresentable: 'any', io: 'input' })).not.toThrow();
    },
  );
  it.each(CATALOGUE.map((c) => [c.id, c] as const))(
    '%s: each printed line comes to what it says, with and without working the same',
    (_, calculation) => {
      worked(calculation, calculation.example);
    },
  );
  it.each(CATALOGUE.map((c) => [c.id, c] as const))('%s: working is made only when asked for', (_, calculation) => {
    expect(runCalculation(calculation, calculation.example, { working: 'none' }).working).toEqual([]);
  });
  it.each(CATALOGUE.map((c) => [c.id, c] as const))(
    '%s: nonsense is refused with a sentence and a field, never a crash',
    (_, calculation) => {
      fc.assert(
        fc.property(fc.anything(), (input) => {
          try {
            runCalculation(calculation, input);
          } catch (error) {
            expect(error).toBeInstanceOf(CalculationInputError);
            for (const p of (error as CalculationInputError).problems) expect(p.message).toMatch(/[.?]$/);
          }
        }),
        { numRuns: draws(60) },
      );
    },
  );
});
