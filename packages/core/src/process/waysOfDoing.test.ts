import { describe, expect, it } from 'vitest';
import { judgeRecord } from './judgeRecord.ts';
import { STAGES, type AcceptRule } from './operation.ts';
import { operation, OPERATIONS } from './operations.ts';

const DONE = 'Recorded and complete.';
const context = { limits: {}, earlier: {}, person: { name: 'Ada' } };
const judge = (rule: AcceptRule, values: object) =>
  judgeRecord(
    {
      code: 'XXX',
      title: 'X',
      accept: [rule],
      fields: [
        ['gap', 'Gap'],
        ['size', 'Size'],
      ].map(([name, label]) => ({ name, label, read: { kind: 'quantity', dimension: 'length', unit: 'mm' } })),
    } as never,
    values as never,
    context,
  );

describe('rules of steps that are done in more than one way', () => {
  it.each([
    ['braze', false, 'fail'],
    ['braze', true, 'pass'],
    ['crimp', false, 'pass'],
    [undefined, false, 'pass'],
  ])('yes, only where it applies: %s, %s', (method, seated, verdict) => {
    const when = { field: 'method', is: ['braze', 'solder'] };
    expect(judge({ rule: 'yes', field: 'seated', otherwise: 'No.', when }, { method, seated }).verdict).toBe(verdict);
  });
  it.each([
    ['crimp', 'die 16', 'pass'],
    ['crimp', ' ', 'attention'],
    ['crimp', undefined, 'attention'],
    ['braze', undefined, 'pass'],
    [undefined, undefined, 'pass'],
  ])('named where it applies: %s, %s', (method, tool, verdict) => {
    const rule = {
      rule: 'named',
      field: 'tool',
      when: { field: 'method', is: ['crimp'] },
      otherwise: 'Name it.',
    } as const;
    expect(judge(rule, { method, tool })).toEqual({ verdict, reason: verdict === 'pass' ? DONE : 'Name it.' });
  });
  it.each([
    [1.05, 1, 'pass', DONE],
    [0.95, 1, 'pass', DONE],
    [1.06, 1, 'attention', /^Gap is 6 % more than size; within .*5/],
    [0.94, 1, 'attention', /^Gap is 6 % less than size/],
    [1.06, undefined, 'pass', DONE],
    [1.06, 0, 'pass', DONE],
    [undefined, 1, 'pass', DONE],
  ] as const)('near what was worked out: %s of %s', (gap, size, verdict, reason) => {
    const judged = judge({ rule: 'near', field: 'gap', of: 'size', percent: 'route.tricklePercent' }, { gap, size });
    expect(judged.verdict).toBe(verdict);
    if (typeof reason === 'string') expect(judged.reason).toBe(reason);
    else expect(judged.reason).toMatch(reason);
  });
  // R/R0 = (K + T)/(K + T0), K 234.5: 256.5 at 22 °C
  const bondOhm = (c: number, lead = 0) => lead + ((0.5 - lead) * (234.5 + c)) / 256.5;
  it.each([
    ['below the window', { r: bondOhm(179.9) }, 'fail'],
    ['at its beginning', { r: bondOhm(180) + 1e-12 }, 'pass'],
    ['at its end', { r: bondOhm(200) - 1e-12 }, 'pass'],
    ['above it', { r: bondOhm(200.1) }, 'attention'],
    ['the leads stay cold', { r: bondOhm(190, 0.05), lead: 0.05 }, 'pass'],
    ['the leads left out of it', { r: bondOhm(190, 0.05) }, 'fail'],
    ['the window of its own wire', { r: bondOhm(170), from: 160, to: 175 }, 'pass'],
    ['a window that ends before it begins', { r: bondOhm(190), from: 200, to: 180 }, 'cannot judge'],
    ['aluminium, K 225', { r: (0.5 * (225 + 190)) / 247, material: 'aluminium' }, 'pass'],
    ['no reading at the end', {}, 'cannot judge'],
    ['an open winding', { r: 1e9 }, 'cannot judge'],
  ] as const)('bond: %s', (_, more, verdict) =>
    expect(judge({ rule: 'bond' }, { r0: 0.5, t0: 22, ...more }).verdict).toBe(verdict),
  );
  it.each([
    ['braze', { filler: 'Ag 15, L-1' }, 'pass'],
    ['braze', {}, 'attention'],
    ['solder', {}, 'attention'],
    ['crimp', {}, 'attention'],
    ['crimp', { tool: 'die 16' }, 'pass'],
    ['weld', {}, 'pass'],
    ['weld', { shielded: false }, 'attention'],
    ['crimp', { tool: 'die 16', shielded: false }, 'pass'],
    ['crimp', { tool: 'die 16', prepared: false }, 'fail'],
    ['braze', { filler: 'Ag 15, L-1', inspected: false }, 'fail'],
  ])('joints made to %s, with %o', (method, more, verdict) =>
    expect(
      judgeRecord(
        operation('CON'),
        { joints: 16, method, prepared: true, shielded: true, inspected: true, ...more },
        context,
      ).verdict,
    ).toBe(verdict),
  );
});

describe('the list of operations', () => {
  it('every operation has a stage of at most a dozen, and cautions for dangerous work', () => {
    expect(STAGES.length).toBeLessThanOrEqual(12);
    for (const op of OPERATIONS.values()) {
      expect(STAGES).toContain(op.stage);
      for (const rule of op.accept) {
        const names =
          rule.rule === 'bond'
            ? ['r0', 't0', 'r', 'lead', 'from', 'to', 'material']
            : 'fields' in rule
              ? [...rule.fields, rule.of]
              : [rule.field, ...('when' in rule && rule.when ? [rule.when.field] : [])];
        for (const name of names)
          expect(
            op.fields.map((f) => f.name),
            `${op.code} ${name}`,
          ).toContain(name);
      }
    }
    expect(operation('BRN').cautions).toContain('S5');
  });
});
