import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { runCalculation } from '../calculation.ts';
import { METRIC_DEFAULTS, readForm, typedWithUnit } from '../quantity/fields.ts';
import { KILOLINES_PER_SQUARE_INCH_PER_TESLA, fluxFigures, machineFlux } from './flux.ts';
import { machinePoles, NAMEPLATE_FIELDS, nameplateSchema, polesFrom } from './nameplate.ts';

/** Machine M1 (docs/derivations.md 7). */
const M1 = {
  lineVoltageV: 400,
  frequencyHz: 50,
  connection: 'delta',
  seriesTurns: 204,
  windingFactor: 0.945214,
  poles: 4,
  boreM: 0.15,
  coreLengthM: 0.14,
  slots: 36,
  toothWidthM: 0.007,
  backIronM: 0.025,
} as const;

describe('flux (docs/derivations.md 7)', () => {
  const f = fluxFigures(M1);
  it.each([
    ['flux, mWb', f.fluxWb * 1000, 9.3382],
    ['air gap, T', f.airGapT, 0.8894],
    ['tooth, T', f.toothT ?? 0, 1.7506],
    ['back iron, T', f.backIronT ?? 0, 1.4042],
    ['flux, kilolines', f.fluxWb * 1e5, 933.8],
    ['volts per turn', f.voltsPerTurn, 1.9608],
  ])('%s', (_, got, wanted) => expect(Math.abs(got / wanted - 1)).toBeLessThan(1e-3));
  it('1.4 T in kilolines per square inch (check 64)', () =>
    expect(1.4 * KILOLINES_PER_SQUARE_INCH_PER_TESLA).toBeCloseTo(90.32, 2));
  it('agrees with the formula in lines and inches, E = 4.44 f N k_w Φ 10⁻⁸', () => {
    const lines = (400 / (4.44288 * 50 * 204 * 0.945214)) * 1e8;
    const area = (Math.PI * (0.15 / 0.0254) * (0.14 / 0.0254)) / 4;
    const average = lines / area / 1000 / KILOLINES_PER_SQUARE_INCH_PER_TESLA;
    expect(f.airGapT).toBeCloseTo((average * Math.PI) / 2, 4);
  });
  it('scales as it must: twice the turns half the flux, wye against delta √3, ducts and stacking raise iron densities only', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 10, max: 2000, noNaN: true }),
        fc.double({ min: 0.5, max: 1, noNaN: true }),
        (turns, kw) => {
          const one = fluxFigures({ ...M1, seriesTurns: turns, windingFactor: kw });
          const two = fluxFigures({ ...M1, seriesTurns: 2 * turns, windingFactor: kw });
          const wye = fluxFigures({ ...M1, connection: 'wye', seriesTurns: turns, windingFactor: kw });
          expect(two.fluxWb * 2).toBeCloseTo(one.fluxWb, 12);
          expect(wye.airGapT * Math.sqrt(3)).toBeCloseTo(one.airGapT, 9);
          const ducted = fluxFigures({ ...M1, seriesTurns: turns, windingFactor: kw, ductCount: 2, ductWidthM: 0.01 });
          expect(ducted.airGapT).toBe(one.airGapT);
          expect(ducted.toothT ?? 0).toBeGreaterThan(one.toothT ?? 0);
        },
      ),
    );
  });
  it('leaves out what was not measured', () => {
    const part = runCalculation(machineFlux, { ...M1, toothWidthM: undefined, backIronM: undefined });
    expect(part.values.toothT).toBeUndefined();
    expect(part.working.map((w) => w.symbol)).toEqual(['Φ', 'B_g']);
  });
  it('refuses impossible input naming the field', () => {
    expect(() => runCalculation(machineFlux, { ...M1, windingFactor: 1.2 })).toThrow(
      /windingFactor: This must be at most 1/,
    );
    expect(() => runCalculation(machineFlux, { ...M1, poles: 3 })).toThrow(
      /poles: This is the number of poles, not of pole pairs/,
    );
    expect(() => runCalculation(machineFlux, { ...M1, boreM: 0 })).toThrow(/boreM: This must be more than 0/);
  });
});

describe('poles', () => {
  it('finds the pole number back for any induction motor', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 24 }),
        fc.constantFrom(16.7, 50, 60, 400),
        fc.double({ min: 0.001, max: 0.03, noNaN: true }),
        (pairs, hertz, slip) => {
          const speed = ((60 * hertz) / pairs) * (1 - slip);
          // below some pole number two synchronous speeds lie closer than the slip; then the next above is found
          fc.pre(slip < 1 / (pairs + 1));
          expect(polesFrom(speed, hertz).poles).toBe(2 * pairs);
        },
      ),
    );
  });
  it('says when no pole number fits', () => {
    expect(polesFrom(1200, 50).likely).toBe('not an induction motor speed');
    expect(worked(machinePoles, { speedRpm: 1320, frequencyHz: 50 }).likely).toBe('high slip');
  });
});

describe('the nameplate as typed', () => {
  const read = (typed: Record<string, string>, defaults = METRIC_DEFAULTS) =>
    readForm(NAMEPLATE_FIELDS, typed, defaults);
  it('takes horsepower, dual voltages, decimal commas, and gives SI', () => {
    const r = read({
      outputW: '7,5 hp',
      voltagesV: '230/400 V',
      currentsA: '20,1/11.6',
      frequencyHz: '50',
      ambientC: '104 °F',
      massKg: '120 lb',
      powerFactor: '0,86',
    });
    expect(r.problems).toEqual([]);
    expect(nameplateSchema.safeParse(r.values).success).toBe(true);
    expect(r.values['outputW']).toBeCloseTo(5592.7, 1);
    expect(r.values['voltagesV']).toEqual([230, 400]);
    expect(r.values['ambientC']).toBeCloseTo(40, 9);
    expect(r.values['massKg']).toBeCloseTo(54.43, 2);
  });
  it('a horsepower shop types a bare 10 as horsepower', () => {
    expect(read({ outputW: '10' }, { ...METRIC_DEFAULTS, powerUnit: 'hp' }).values['outputW']).toBeCloseTo(7457, 0);
  });
  it.each([
    ['powerFactor', '1.2', /at most 1/],
    ['efficiencyPercent', '0,5', /at least 1/],
    ['poles', '3', /even/],
    ['outputW', '-4', /more than 0/],
    ['insulationClass', 'Z', /Choose one of/],
    ['outputW', '4 kg', /not a unit/],
  ])('%s "%s" is refused with what would be right', (field, text, message) => {
    const r = read({ [field]: text });
    expect(r.problems[0]?.message).toMatch(message);
    expect(r.values).not.toHaveProperty(field);
  });
  it('shows a bare number with the unit it stood for', () => {
    const field = (name: string) => NAMEPLATE_FIELDS.find((f) => f.name === name) as (typeof NAMEPLATE_FIELDS)[number];
    expect(typedWithUnit(field('voltagesV'), '230/400', METRIC_DEFAULTS)).toBe('230/400 V');
    expect(typedWithUnit(field('outputW'), '10 hp', METRIC_DEFAULTS)).toBe('10 hp');
    expect(typedWithUnit(field('serial'), 'A-1', METRIC_DEFAULTS)).toBe('A-1');
  });
});
