import { describe, expect, it } from 'vitest';
import { againstPlate } from './againstPlate.ts';
import type { FoundTest } from './circuitOfTests.ts';

const PLATE = {
  outputW: 15_000,
  frequencyHz: 50,
  speedRpm: 1460,
  poles: 4,
  efficiencyPercent: 89,
  powerFactor: 0.83,
};
const row = (outCorrectedW: number, slip: number) => ({ outCorrectedW, slip });
const load = (more: object = {}): FoundTest => ({
  kind: 'loadTest',
  values: {},
  found: {
    efficiencyPercent: 89,
    powerFactor: 0.83,
    methods: [{ method: '2-1-1B', rows: [row(16_000, 0.03), row(14_000, 0.024)] }],
    ...more,
  },
});
const of = (tests: FoundTest[], what: string, plate: object = PLATE) =>
  againstPlate(tests, plate as never).find((r) => r.what === what);

describe('against the plate, quantity by quantity', () => {
  // tests.md 9.6: 0.89 at 15 kW down to 0.8735; 0.83 down to 0.8017
  it.each([
    [87.35, 'pass'],
    [87.349, 'fail'],
    [89, 'pass'],
    [95, 'pass'],
  ] as const)('efficiency %s %%: %s', (efficiencyPercent, verdict) => {
    expect(of([load({ efficiencyPercent })], 'efficiency')?.verdict).toBe(verdict);
  });
  it.each([
    [0.83 - 0.17 / 6, 'pass'],
    [0.8016, 'fail'],
  ] as const)('power factor %s: %s', (powerFactor, verdict) => {
    expect(of([load({ powerFactor })], 'power factor')?.verdict).toBe(verdict);
  });
  it('slip at rated output lies on the line between its points, within 20 % of the plate’s', () => {
    // plate 40/1500 = 2.667 %; half way between 3 and 2.4 %
    const found = of([load()], 'slip');
    expect(found?.measured).toBeCloseTo(0.027, 12);
    expect(found?.declared).toBeCloseTo(0.026667, 5);
    expect(found?.verdict).toBe('pass');
    const at = (slip: number) =>
      of([load({ methods: [{ method: '2-1-1B', rows: [row(15_000, slip)] }] })], 'slip')?.verdict;
    expect([at(0.8 * 0.0266667), at(0.0213), at(1.2 * 0.0266666), at(0.03201)]).toEqual([
      'pass',
      'fail',
      'pass',
      'fail',
    ]);
    expect(of([load({ methods: [{ method: 'B', rows: [row(14_000, 0.02)] }] })], 'slip')).toBeUndefined();
  });
  it('the slip is that of the method that was asked for, else of the one with its residual, else of the first', () => {
    const two = {
      methods: [
        { method: 'B1', rows: [row(15_000, 0.02)] },
        { method: '2-1-1B', rows: [row(15_000, 0.03)] },
      ],
    };
    const slip = (values: FoundTest['values'], found: object = two) =>
      of([{ ...load(found), values }], 'slip')?.measured;
    expect(slip({ method: 'B1' })).toBe(0.02);
    expect(slip({})).toBe(0.03);
    expect(slip({ method: 7 })).toBe(0.03);
    expect(slip({ method: 'gone' })).toBe(0.02);
    expect(slip({}, { methods: undefined })).toBeUndefined();
  });
  it('no slip is declared by a plate that lacks speed, frequency or poles, or runs at its synchronous speed', () => {
    const declared = (more: object, poles?: number) =>
      againstPlate([load()], { ...PLATE, ...more } as never, poles).find((r) => r.what === 'slip')?.declared;
    for (const more of [{ speedRpm: undefined }, { frequencyHz: undefined }, { poles: undefined }, { speedRpm: 1500 }])
      expect(declared(more), JSON.stringify(more)).toBeUndefined();
    expect(declared({ poles: undefined }, 4)).toBeCloseTo(40 / 1500, 9);
    expect(declared({ speedRpm: 1499 })).toBeCloseTo(1 / 1500, 9);
  });
  it('the newest of each kind counts; input-output where there is no load test; no figure, no line', () => {
    const simple: FoundTest = { kind: 'inputOutput', values: {}, found: { efficiencyPercent: 80 } };
    expect(of([load(), load({ efficiencyPercent: 91 })], 'efficiency')?.measured).toBeCloseTo(0.91, 12);
    expect(of([simple], 'efficiency')?.measured).toBeCloseTo(0.8, 12);
    expect(of([simple, load()], 'efficiency')?.measured).toBeCloseTo(0.89, 12);
    expect(of([load({ efficiencyPercent: NaN })], 'efficiency')).toBeUndefined();
    expect(of([load({ efficiencyPercent: '89' })], 'efficiency')).toBeUndefined();
    expect(againstPlate([], PLATE as never)).toEqual([]);
  });
  it('locked rotor: current up to 20 % more, torque −15 to +25 %; nothing declared, not judged', () => {
    const locked = (ampsAtRated: number, torqueNm: number, values: object): FoundTest => ({
      kind: 'lockedRotor',
      values: values as never,
      found: { ampsAtRated, torqueNm },
    });
    const both = (amps: number, nm: number, values: object = { declaredA: 100, declaredNm: 200 }) =>
      againstPlate([locked(amps, nm, values)], PLATE).map((r) => r.verdict);
    expect(both(120, 170)).toEqual(['pass', 'pass']);
    expect(both(120.1, 169.9)).toEqual(['fail', 'fail']);
    expect(both(10, 250)).toEqual(['pass', 'pass']);
    expect(both(10, 250.1)).toEqual(['pass', 'fail']);
    expect(both(10, 250, {})).toEqual(['cannot judge', 'cannot judge']);
  });
  it('what was not measured is not shown; the simple way stands in; the newest counts', () => {
    expect(againstPlate([], PLATE)).toEqual([]);
    const simple: FoundTest = { kind: 'inputOutput', values: {}, found: { efficiencyPercent: 88 } };
    expect(of([simple], 'efficiency')?.measured).toBeCloseTo(0.88, 12);
    expect(of([load({ efficiencyPercent: 80 }), load()], 'efficiency')?.measured).toBeCloseTo(0.89, 12);
    expect(of([load()], 'slip', { ...PLATE, poles: undefined })?.verdict).toBe('cannot judge');
  });
});
