import { describe, expect, it } from 'vitest';
import { worked as workedOf } from '../../../../scripts/testing/worked.ts';
import { calculationOf } from '../catalogue.ts';
import { curveReadings } from './insulationCurve.ts';
import { serviceDcV } from './steppedVoltage.ts';
import { testKind } from './tests.ts';
import { waterLimits } from './waterTest.ts';

const N4 = ['N', 'S', 'N', 'S'];

const worked = (id: string, input: object) => workedOf(calculationOf(id) as never, input) as Record<string, unknown>;

describe('compass round the bore', () => {
  const bore = (x: object) => worked('evaluate.boreCheck', { poles: 4, ...x });
  const phase = (centres: string[], name = 'U') => ({ name, centres });
  it.each<[string, object, string, RegExp]>([
    ['sound', { phases: [phase(N4)] }, 'pass', /4 poles, neighbours alternate/],
    ['begins with S', { phases: [phase(['S', 'N', 'S', 'N'])] }, 'pass', /./],
    ['too few', { phases: [phase(['N', 'S', 'N'])] }, 'fail', /3 group centres, not 4/],
    ['too many', { phases: [phase([...N4, 'N'])] }, 'fail', /5 group centres/],
    [
      'one turned',
      { phases: [phase(['N', 'N', 'N', 'S'])], groups: [[1, 4, 7, 10]] },
      'fail',
      /group 4 stands against/,
    ],
    ['one turned, groups not known', { phases: [phase(['N', 'S', 'N', 'N'])] }, 'fail', /in its own order group 4/],
    [
      'half turned',
      { phases: [phase(['N', 'S', 'S', 'N'])], groups: [[1, 4, 7, 10]] },
      'fail',
      /groups 7, 10 stand.*other half/,
    ],
    ['one phase of three', { phases: [phase(N4), phase(['N', 'S', 'N', 'N'], 'V')] }, 'fail', /^Phase V/],
    ['consequent, all alike', { consequent: true, phases: [phase(['N', 'N'])] }, 'pass', /all group centres alike/],
    [
      'consequent, one unlike',
      { consequent: true, poles: 6, phases: [phase(['S', 'N', 'S'])], groups: [[2, 5, 8]] },
      'fail',
      /group 5 stands/,
    ],
    ['consequent, counted as every pole', { consequent: true, phases: [phase(N4)] }, 'fail', /not 2 \(consequent/],
    ['turns as wanted', { rotationSeen: 'clockwise', rotationWanted: 'clockwise' }, 'pass', /as wanted/],
    [
      'turns the other way',
      { rotationSeen: 'clockwise', rotationWanted: 'counter-clockwise' },
      'fail',
      /exchange two leads/,
    ],
    ['which way is wanted is not said', { rotationSeen: 'clockwise' }, 'cannot judge', /not said/],
    ['nothing read', {}, 'cannot judge', /Nothing was read/],
    ['instrument out of date', { phases: [phase(N4)], calibrationExpired: true }, 'attention', /out of calibration/],
  ])('%s', (_, x, verdict, says) => {
    const out = bore(x);
    expect(out['verdict']).toBe(verdict);
    expect(out['reason']).toMatch(says);
  });
  it('names the groups', () => {
    expect(bore({ phases: [phase(['N', 'N', 'N', 'S'])], groups: [[1, 4, 7, 10]] })['turned']).toEqual([
      { phase: 'U', groups: [4] },
    ]);
  });
});

describe('phase balance at reduced voltage', () => {
  const balance = (amps: number[], volts = [100, 100, 100]) => worked('evaluate.phaseBalance', { volts, amps });
  it('divides the unbalance of the supply out', () => {
    expect(balance([10, 9, 11], [100, 90, 110])).toMatchObject({ verdict: 'pass' });
    expect(balance([10, 9, 11], [100, 90, 110])['offPercent']).toBeCloseTo(0, 12);
  });
  // Z off the mean by exactly p %: 1, 1 + p, 1 − p
  it.each([
    [5, 'pass'],
    [5.01, 'attention'],
    [10, 'attention'],
    [10.01, 'fail'],
  ])('%s %%: %s', (p, verdict) => {
    const out = balance([100, 100 / (1 + p / 100), 100 / (1 - p / 100)]);
    expect(out['offPercent']).toBeCloseTo(p, 9);
    expect(out['verdict']).toBe(verdict);
  });
  it('zero is no reading', () => {
    const kind = testKind('phaseBalance');
    expect(kind?.lacks?.({ voltsU: 10, voltsV: 10, voltsW: 10, ampsU: 1, ampsV: 0, ampsW: 1 })?.field).toBe('ampsV');
    expect(kind?.lacks?.({ voltsU: 10, voltsV: 10, voltsW: 10, ampsU: 1, ampsV: 1, ampsW: 1 })).toBeUndefined();
  });
});

describe('growler', () => {
  const growled = (x: object) => worked('evaluate.growler', { what: 'lap winding', slots: 36, ...x });
  it.each<[string, object, string, RegExp]>([
    ['no pull', {}, 'pass', /none of 36/],
    ['one coil of a lap winding', { found: [9, 1] }, 'fail', /slots 1, 9: shorted coil there. As many as one/],
    ['three slots', { found: [1, 9, 20] }, 'fail', /shows 2: more than one/],
    [
      'wave winding, four slots of four poles',
      { what: 'wave winding', poles: 4, found: [1, 10, 19, 28] },
      'fail',
      /\(4\)/,
    ],
    ['wave winding, poles not known', { what: 'wave winding', found: [1, 10] }, 'fail', /shorted coil there\.$/],
    ['equalised', { equalised: true, found: [1, 9] }, 'cannot judge', /bar to bar/],
    ['a slot that is none', { found: [37] }, 'cannot judge', /no slot 37/],
    ['the last slot', { found: [36, 8] }, 'fail', /8, 36/],
    ['cage, all pull', { what: 'cage', slots: 28 }, 'pass', /All 28 bars pull alike/],
    ['cage, one does not', { what: 'cage', slots: 28, found: [7, 7] }, 'fail', /Bar 7 of 28 does not pull/],
    ['cage, two do not', { what: 'cage', slots: 28, found: [8, 7] }, 'fail', /Bars 7, 8 of 28 do not/],
  ])('%s', (_, x, verdict, says) => {
    const out = growled(x);
    expect(out['verdict']).toBe(verdict);
    expect(out['reason']).toMatch(says);
  });
});

describe('water test, NEMA MG 1 20.18 (from memory)', () => {
  const wet = (x: object) =>
    worked('evaluate.waterTest', { lineV: 460, immersedMin: 30, tension: 31, megohm: 62, testV: 529, heldS: 60, ...x });
  it('460 V: 7.3 MΩ and 529 V', () => {
    expect(waterLimits(460).megohm).toBeCloseTo(7.3, 12);
    expect(waterLimits(460).testV).toBeCloseTo(529, 12);
  });
  it.each<[string, object, string]>([
    ['all met, by equality', { megohm: 7.3 }, 'pass'],
    ['resistance short', { megohm: 7.29 }, 'fail'],
    ['below the range', { megohm: 20, underRange: true }, 'fail'],
    ['over a range that reaches', { megohm: 100, overRange: true }, 'pass'],
    ['over a range that ends too low', { megohm: 5, overRange: true }, 'cannot judge'],
    ['resistance missing', { megohm: undefined }, 'cannot judge'],
    ['breakdown', { brokeDown: true }, 'fail'],
    ['voltage short', { testV: 528 }, 'cannot judge'],
    ['time short', { heldS: 59 }, 'cannot judge'],
    ['voltage missing', { testV: undefined }, 'cannot judge'],
    ['29 min', { immersedMin: 29.9 }, 'cannot judge'],
    ['time under water missing', { immersedMin: undefined }, 'cannot judge'],
    ['too little wetting agent', { tension: 31.1 }, 'cannot judge'],
    ['tension not known', { tension: undefined }, 'pass'],
    ['sprayed', { way: 'sprayed', immersedMin: undefined }, 'attention'],
    ['not sold as sealed', { sealed: false }, 'cannot judge'],
  ])('%s', (_, x, verdict) => expect(wet(x)['verdict']).toBe(verdict));
});

describe('stepped direct voltage', () => {
  const stepped = (amps: number[], x: object = {}) =>
    worked('evaluate.steppedVoltage', { steps: amps.map((a, i) => ({ volts: 1000 * (i + 1), amps: a * 1e-6 })), ...x });
  it('IEEE 95 (from memory): 125 to 150 % of the line voltage, times 1.7', () => {
    const [low, high] = serviceDcV(4160);
    expect(low).toBeCloseTo(8840, 9);
    expect(high).toBeCloseTo(10_608, 9);
  });
  it.each<[string, number[], object, string, number | undefined]>([
    ['straight', [1, 2, 3, 4], {}, 'pass', undefined],
    ['twice as steep is met', [1, 2, 4], {}, 'pass', undefined],
    ['more than twice as steep', [1, 2, 4.1], {}, 'attention', 3],
    ['the first step is compared with nothing', [5, 6], {}, 'pass', undefined],
    ['at the second step', [1, 3.1], {}, 'attention', 2],
    ['fell, then rose as before', [2, 1.9, 2.5], {}, 'pass', undefined],
    ['fell, then rose steeply', [2, 1.9, 4], {}, 'attention', 3],
    ['nothing, then something', [0, 0, 1], {}, 'attention', 3],
    ['rose while it was held', [1, 2], { ended: 'current rose while the voltage was held' }, 'attention', undefined],
    ['collapse', [1, 2], { ended: 'collapse' }, 'fail', undefined],
    ['not far enough', [1, 2], { requiredV: 2100 }, 'cannot judge', undefined],
    ['exactly 97 %', [1, 2], { requiredV: 2000 / 0.97 }, 'pass', undefined],
    ['instrument out of date', [1, 2], { calibrationExpired: true }, 'attention', undefined],
  ])('%s', (_, amps, x, verdict, knee) => {
    const out = stepped(amps, x);
    expect(out['verdict']).toBe(verdict);
    expect((out['knee'] as { step: number } | undefined)?.step).toBe(knee);
    expect(out['reason']).toMatch(/Earth for at least \d+ min/);
  });
  it('a voltage that does not rise is refused; the form wants both of each step, and the discharge', () => {
    expect(() =>
      worked('evaluate.steppedVoltage', {
        steps: [
          { volts: 10, amps: 0 },
          { volts: 10, amps: 0 },
        ],
      }),
    ).toThrow(/must rise/);
    const kind = testKind('steppedVoltage');
    expect(kind?.lacks?.({ volts: [1, 2], amps: [1], discharged: true })?.field).toBe('amps');
    expect(kind?.lacks?.({ volts: [1, 2], amps: [1, 2], discharged: false })?.field).toBe('discharged');
    expect(kind?.lacks?.({ volts: [1, 2], amps: [1, 2], discharged: true })).toBeUndefined();
  });
});

describe('insulation resistance over time', () => {
  it('reads on the line between samples, and only where there are any near', () => {
    const t = [10, 20, 28, 58, 62, 590, 610];
    const r = [100, 200, 280, 580, 620, 5900, 6100];
    expect(curveReadings(t, r)).toEqual({ r30s: 300, r1min: 600, r10min: 6000 });
    expect(curveReadings([15, 30, 60, 600], [1, 2, 3, 6])).toEqual({ r15s: 1, r30s: 2, r1min: 3, r10min: 6 });
    expect(curveReadings([60, 599], [3, 6])).toEqual({ r1min: 3, r10min: 6 });
    expect(curveReadings([60, 580], [3, 6])).toEqual({ r1min: 3 });
    expect(curveReadings([], [])).toEqual({});
  });
  it('the borders: a tenth of the time on either side, a fiftieth beyond the end', () => {
    expect(curveReadings([54, 80], [54, 80])).toEqual({ r1min: 60 });
    expect(curveReadings([53.9, 80], [53.9, 80])).toEqual({});
    expect(curveReadings([40, 66], [40, 66])).toEqual({ r1min: 60 });
    expect(curveReadings([40, 66.1], [40, 66.1])).toEqual({});
    expect(curveReadings([58.8], [7])).toEqual({ r1min: 7 });
    expect(curveReadings([58.79], [7])).toEqual({});
    // a curve that begins after a time does not tell it
    expect(curveReadings([61, 70], [5, 6])).toEqual({});
    expect(curveReadings([60.5], [5])).toEqual({});
    // readings of nothing are none
    expect(curveReadings([60], [0])).toEqual({});
    expect(curveReadings([59, 61], [0, 0])).toEqual({});
    expect(curveReadings([59.5], [0])).toEqual({});
    expect(curveReadings([60, 61], [0, 4])).toEqual({});
    // more times than readings
    expect(curveReadings([59, 61], [3])).toEqual({});
    expect(curveReadings([59, 61, 62], [3, 5])).toEqual({ r1min: 4 });
  });
  it('gives the ratios, each under its own name', () => {
    const out = worked('evaluate.insulationCurve', { seconds: [15, 30, 60, 600], megohm: [400, 500, 600, 1500] });
    expect(out).toMatchObject({ polarizationIndex: 2.5, absorptionRatio: 1.2, ratio60to15: 1.5 });
    expect(worked('evaluate.insulationCurve', { seconds: [15, 30], megohm: [4, 5] })).toEqual({ r15s: 4, r30s: 5 });
    expect(() => worked('evaluate.insulationCurve', { seconds: [1, 2], megohm: [4, 5, 6] })).toThrow(/2 times and 3/);
    expect(() => worked('evaluate.insulationCurve', { seconds: [2, 2], megohm: [4, 5] })).toThrow(/must rise/);
    expect(() => worked('evaluate.insulationCurve', { seconds: [2, 3, 1], megohm: [4, 5, 6] })).toThrow(/must rise/);
    // it may begin at the switch itself
    expect(worked('evaluate.insulationCurve', { seconds: [0, 60], megohm: [4, 5] })).toEqual({ r1min: 5 });
    expect(worked('evaluate.insulationCurve', { seconds: [60, 600], megohm: [4, 6] })).toEqual({
      r1min: 4,
      r10min: 6,
      polarizationIndex: 1.5,
    });
  });
});
