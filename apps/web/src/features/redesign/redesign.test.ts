import {
  EXAMPLE_PLATE,
  EXAMPLE_RECORD,
  METRIC_DEFAULTS,
  redesign,
  redesignWishSchema,
  type Candidate,
} from '@norther/core';
import { describe, expect, it } from 'vitest';
import { candidateName, pass, saySpans, sayWires, signed, type Filters } from './candidates.ts';
import { readWish, WISH_FIELDS } from './wishFields.ts';

const read = (typed: Record<string, string>) => readWish(typed, EXAMPLE_RECORD, EXAMPLE_PLATE, METRIC_DEFAULTS);

describe('the wish', () => {
  it('blank is as found', () => {
    expect(read({}).wish).toEqual(redesignWishSchema.parse({}));
    // what is typed but is as found is no wish
    expect(read({ voltage: '400 V', frequency: '50' }).wish).toEqual(redesignWishSchema.parse({}));
  });
  it('is read as at the bench: kV, hp, 1-N, decimal comma', () => {
    expect(read({ voltage: '0.44 kV' }).wish?.lineVoltageV).toBeCloseTo(440, 9);
    expect(read({ power: '12,1' }).wish?.powerRatio).toBeCloseTo(1.1, 9);
    expect(read({ power: '10 hp' }).wish?.powerRatio).toBeCloseTo(0.678, 3);
    expect(read({ span: '1-9' }).wish?.spanSlots).toBe(8);
    expect(read({ converter: 'yes', loss: '5', form: 'concentric', layers: 'single' }).wish).toMatchObject({
      converterFed: true,
      lossAtMostPercent: 5,
      form: 'concentric',
      layers: 'single',
    });
  });
  it('what cannot be wished is said with its field', () => {
    expect(read({ voltage: '3300' }).problem).toMatch(/^Line voltage: .*up to 1000 V/);
    expect(read({ poles: '5' }).problem).toMatch(/^Poles: .*even/);
    expect(read({ power: '100 kW' }).problem).toMatch(/^Output: between a fifth and three times/);
    expect(read({ voltage: '5 kg' }).problem).toMatch(/^Line voltage: /);
    const { outputW: _, ...without } = EXAMPLE_PLATE;
    expect(readWish({ power: '5' }, EXAMPLE_RECORD, without, METRIC_DEFAULTS).problem).toMatch(/no output to compare/);
  });
  it('every field has a name of its own', () => {
    expect(new Set(WISH_FIELDS.map((f) => f.name)).size).toBe(WISH_FIELDS.length);
  });
});

describe('candidates as they are shown', () => {
  const stock = [0.71, 0.8, 0.85, 0.9, 1].map((d) => ({
    bareM: d / 1000,
    label: String(d),
    massKg: d === 0.8 ? 0.1 : 50,
  }));
  const all = redesign(EXAMPLE_RECORD, EXAMPLE_PLATE, redesignWishSchema.parse({}), stock, { many: 60 }).candidates;
  const off: Filters = { clean: false, inStock: false, oneSize: false, fill: '' };
  const count = (f: Partial<Filters>) => all.filter((c) => pass(c, { ...off, ...f })).length;
  it('filters leave what they say', () => {
    expect(count({})).toBe(all.length);
    expect(all.filter((c) => pass(c, { ...off, clean: true })).every((c) => c.warnings.length === 0)).toBe(true);
    expect(all.filter((c) => pass(c, { ...off, inStock: true })).every((c) => c.enoughInStock)).toBe(true);
    expect(all.filter((c) => pass(c, { ...off, oneSize: true })).every((c) => c.strands.length === 1)).toBe(true);
    expect(count({ inStock: true })).toBeLessThan(all.length);
    expect(count({ fill: '0.1' })).toBe(0);
    expect(count({ fill: 'wide' })).toBe(all.length);
  });
  it('names are one for each, words plain', () => {
    expect(new Set(all.map(candidateName)).size).toBe(all.length);
    expect(sayWires({ strands: [{ count: 2, bareM: 0.00085, label: '0.85' }] })).toBe('2 × 0.85');
    expect(saySpans({ spansSlots: [10, 8] })).toBe('1-11, 2-10');
  });
  it('a per cent that rounds to nothing has no sign', () => {
    expect([signed(-0.01), signed(0), signed(2.34), signed(-2.36)]).toEqual(['0.0 %', '0.0 %', '+2.3 %', '−2.4 %']);
    expect(signed((all[0] as Candidate).fluxErrorPercent)).toMatch(/ %$/);
  });
});
