import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { METRIC_DEFAULTS, readForm } from '../quantity/fields.ts';
import { insulationTemperatureFactor } from './insulationCorrection.ts';
import { insulationResistance, insulationResistanceTest } from './insulationResistance.ts';

const below = (megohm: number, more: object = {}) =>
  worked(insulationResistance, {
    kind: 'random-wound',
    ratedV: 400,
    testV: 500,
    windingC: 22,
    r1min: { megohm, underRange: true },
    ...more,
  });

describe('insulation below the range of the instrument (tests reference 1, rule 0)', () => {
  it('C69 "< 0.1" at 85 °C is below 0.5467 MΩ at 40 °C', () => {
    expect(0.1 * insulationTemperatureFactor(85, 'thermosetting')).toBeCloseTo(0.5467, 4);
  });
  it.each([
    ['at 22 °C', {}],
    ['at an unknown temperature', { windingC: undefined }],
    ['outside the correction', { windingC: 5 }],
    ['without a winding kind', { kind: undefined }],
    ['in damp air', { airC: 22, humidityPercent: 99 }],
    ['with a good index at intake', { stage: 'IN', r10min: { megohm: 5 } }],
  ])('"< 0.1" is an earth fault %s', (_, more) => {
    const judged = below(0.1, more);
    expect(judged.verdict).toBe('fail');
    expect(judged.mayTestHighVoltage).toBe(false);
    expect(judged.polarizationIndex).toBeUndefined();
    expect(judged.reason).toMatch(/earth fault/);
  });
  it('"< 1" at 22 °C: 0.785 MΩ, fail against 5', () => {
    const judged = below(1);
    expect(judged.verdict).toBe('fail');
    expect(insulationTemperatureFactor(22, 'thermosetting')).toBeCloseTo(0.785, 3);
  });
  it('C70 "< 10" at 25 °C: below 8.186 MΩ, too coarse to judge', () => {
    const judged = below(10, { windingC: 25 });
    expect(judged.verdict).toBe('cannot judge');
    expect(judged.reason).toMatch(/8.19 MΩ.*too coarse/);
  });
  it.each([
    ['temperature missing', { windingC: undefined }, 'cannot judge'],
    ['outside the correction', { windingC: 9 }, 'cannot judge'],
    ['near the dew point', { airC: 22, humidityPercent: 95 }, 'cannot judge'],
    ['in dry air', { airC: 22, humidityPercent: 40 }, 'fail'],
    ['at intake with a good index all the same', { stage: 'IN', r10min: { megohm: 9 } }, 'fail'],
    ['no winding kind', { kind: undefined }, 'cannot judge'],
    ['no rated voltage', { ratedV: undefined }, 'cannot judge'],
  ] as const)('"< 1", %s: %s', (_, more, verdict) => {
    const judged = below(1, more);
    expect(judged.verdict).toBe(verdict);
    expect(judged.mayTestHighVoltage).toBe(false);
  });
  it('the bound that meets the minimum exactly is no proof', () => {
    const range = 5 / insulationTemperatureFactor(22, 'thermosetting');
    expect(below(range * 1.0001).verdict).toBe('cannot judge');
    expect(below(range * 0.9999).verdict).toBe('fail');
  });
  it('one phase with the others earthed: half of it counts', () => {
    expect(below(10, { measured: 'one phase, others earthed' }).verdict).toBe('fail');
  });
  it('hot old insulation fails, but is cooled before it is condemned', () => {
    const hot = (windingC: number) => below(0.1, { system: 'thermoplastic', windingC });
    expect(hot(74).reason).toMatch(/cool it below 60 °C/);
    expect(hot(73).reason).not.toMatch(/cool it/);
    expect(hot(74).verdict).toBe('fail');
  });
  it('is typed as at the bench; a bare zero asks for the range', () => {
    const read = (r1min: string) => readForm(insulationResistanceTest.fields, { r1min }, METRIC_DEFAULTS);
    expect(read('<0.1').values).toEqual({ r1min: 0.1, r1minUnderRange: true });
    expect(read('< 50 kΩ').values).toEqual({ r1min: 0.05, r1minUnderRange: true });
    expect(read('>2000').values).toEqual({ r1min: 2000, r1minOverRange: true });
    expect(read('0').values).toEqual({});
    expect(read('0').problems[0]?.message).toMatch(/lowest range.*<0\.1/);
  });
  it('the temperature may stay unknown only then', () => {
    const lacks = (values: object) => insulationResistanceTest.lacks?.(values as never)?.field;
    expect(lacks({ r1min: 0.1, r1minUnderRange: true })).toBeUndefined();
    expect(lacks({ r1min: 100 })).toBe('windingC');
    expect(lacks({ r1min: 100, windingC: 20 })).toBeUndefined();
  });
});
