import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { METRIC_DEFAULTS, readForm } from '../quantity/fields.ts';
import {
  capacitanceF,
  capacitor,
  capacitorTest,
  capacitorVolts,
  judgeRunCapacitor,
  judgeStartCapacitor,
} from './capacitor.ts';
import { noLoadSingle, ratedInputW } from './noLoadSingle.ts';
import { mainHalves, singlePhaseResistance, singlePhaseResistanceTest, sortLeads } from './singlePhaseResistance.ts';
import { startSwitch } from './startSwitch.ts';

const ohms = (more: object) => worked(singlePhaseResistance, { windingC: 20, ...more });
const three = { r12Ohm: 3.05, r13Ohm: 8.42, r23Ohm: 11.46, leadNames: ['red', 'blue', 'white'] };

describe('three leads of main and auxiliary (tests reference 7.1)', () => {
  it('C73 3.05, 8.42, 11.46: −0.087 %, red common, main 3.05', () => {
    const judged = ohms(three);
    expect(judged.sumPercent).toBeCloseTo(-0.08718, 5);
    expect(judged).toMatchObject({ verdict: 'pass', commonLead: 1, mainOhm: 3.05, auxOhm: 8.42 });
    expect(judged.reason).toMatch(/red is common, blue the main's/);
  });
  it.each([
    [1, { r12: 3, r13: 8, r23: 11 }, 2],
    [2, { r12: 3, r13: 11, r23: 8 }, 1],
    [3, { r12: 11, r13: 3, r23: 8 }, 1],
  ])('lead %i is common where the largest pair does not touch it', (common, readings, mainLead) => {
    expect(sortLeads(readings, { digitOhm: 0 })).toMatchObject({ fits: true, common, mainOhm: 3, auxOhm: 8, mainLead });
  });
  it('the plan says which is main, also where it is the larger', () => {
    const by = { digitOhm: 0, planMainOhm: 9, planAuxOhm: 3 };
    expect(sortLeads({ r12: 3, r13: 8, r23: 11 }, by)).toMatchObject({ mainOhm: 8, auxOhm: 3, mainLead: 3 });
  });
  it.each([
    ['at 2 %', 11.0 * 1.02, 0, true],
    ['above 2 %', 11.0 * 1.0201, 0, false],
    ['below by more', 11.0 * 0.9799, 0, false],
    ['above 2 % but within one digit', 11.3, 0.3, true],
    ['above a digit', 11.31, 0.3, false],
  ])('the sum is met %s', (_, r23, digitOhm, fits) => {
    expect(sortLeads({ r12: 3, r13: 8, r23 }, { digitOhm }).fits).toBe(fits);
  });
  it('not met: joined wrongly or leads mixed, fail; no main is guessed', () => {
    const judged = ohms({ ...three, r23Ohm: 10 });
    expect(judged.verdict).toBe('fail');
    expect(judged.mainOhm).toBeUndefined();
  });
  it.each([
    [1.029, 'pass'],
    [1.031, 'attention'],
    [1.049, 'attention'],
    [1.051, 'fail'],
    [0.969, 'attention'],
    [0.949, 'fail'],
  ] as const)('main at %d of the plan: %s; the auxiliary alike', (share, verdict) => {
    const plan = { plannedMain20Ohm: 3, plannedAux20Ohm: 8, newWinding: true };
    expect(ohms({ mainOhm: 3 * share, auxOhm: 8, ...plan }).verdict).toBe(verdict);
    expect(ohms({ mainOhm: 3, auxOhm: 8 * share, ...plan }).verdict).toBe(verdict);
    expect(ohms({ mainOhm: 3, auxOhm: 8 * share, ...plan, newWinding: false }).verdict).toBe('pass');
  });
  it('an auxiliary that the plan has and nobody read cannot be judged', () => {
    expect(ohms({ mainOhm: 3, plannedMain20Ohm: 3, plannedAux20Ohm: 8, newWinding: true }).verdict).toBe(
      'cannot judge',
    );
  });
  it('a reading over the range is an open winding; through the switch nothing is judged', () => {
    expect(ohms({ mainOhm: 3, open: ['auxiliary'] })).toMatchObject({
      verdict: 'fail',
      reason: expect.stringMatching(/Open: auxiliary.*switch or capacitor/),
    });
    expect(ohms({ ...three, behindSwitch: false }).verdict).toBe('cannot judge');
  });
  it('C75 halves 1.412 and 1.446: 1.18964 %, 0.7144 Ω at 115 V, 2.858 Ω at 230 V, ratio 4', () => {
    const halves = mainHalves(1.412, 1.446);
    expect(halves.deviationPercent).toBeCloseTo(1.18964, 5);
    expect(halves.parallelOhm).toBeCloseTo(0.7144, 4);
    expect(halves.seriesOhm).toBeCloseTo(2.858, 9);
    expect(mainHalves(1.4, 1.4).seriesOhm / mainHalves(1.4, 1.4).parallelOhm).toBeCloseTo(4, 12);
  });
  it.each([
    [2, 'pass'],
    [2.001, 'attention'],
    [5, 'attention'],
    [5.001, 'fail'],
  ] as const)('halves %d %% apart: %s', (percent, verdict) => {
    const judged = ohms({ half1Ohm: 1 + percent / 100, half2Ohm: 1 - percent / 100 });
    expect(judged.verdict).toBe(verdict);
  });
  it('the plan with halves in parallel compares their parallel value', () => {
    const plan = { half1Ohm: 1.4, half2Ohm: 1.4, newWinding: true, plannedMain20Ohm: 0.7 };
    expect(ohms({ ...plan, circuits: 2 }).verdict).toBe('pass');
    expect(ohms({ ...plan, circuits: 1 }).verdict).toBe('fail');
  });
  it('speed taps rise from high to low speed', () => {
    expect(ohms({ tapsOhm: [9.1, 12.4, 15] }).verdict).toBe('pass');
    expect(ohms({ tapsOhm: [9.1, 15, 12.4] })).toMatchObject({
      verdict: 'fail',
      reason: expect.stringMatching(/mixed/),
    });
    expect(ohms({ tapsOhm: [9.1, 9.1] }).verdict).toBe('fail');
  });
  it('half a reading is asked for by its field', () => {
    const lacks = (typed: Record<string, string>) =>
      singlePhaseResistanceTest.lacks?.(readForm(singlePhaseResistanceTest.fields, typed, METRIC_DEFAULTS).values)
        ?.field;
    expect(lacks({})).toBe('r12');
    expect(lacks({ r12: '3', r23: '11' })).toBe('r13');
    expect(lacks({ half1: '1.4' })).toBe('half2');
    expect(lacks({ main: '3' })).toBeUndefined();
    expect(lacks({ r12: '3', r13: '8', r23: '>200' })).toBeUndefined();
  });
});

describe('capacitors', () => {
  it('C74 2.05 A at 60 Hz and 236 V is 23.0415 µF; marked 25: attention', () => {
    expect(capacitanceF(2.05, 60, 236) * 1e6).toBeCloseTo(23.0415, 4);
    const judged = worked(capacitor, { frequencyHz: 60, runA: 2.05, runV: 236, runMarkedF: 25e-6 });
    expect(judged.runOffPercent).toBeCloseTo(-7.83, 2);
    expect(judged.verdict).toBe('attention');
  });
  it('start 9.4 A at 118 V: 211.3 µF', () => expect(capacitanceF(9.4, 60, 118) * 1e6).toBeCloseTo(211.3, 1));
  it.each([
    [5, undefined, 'pass'],
    [-5, undefined, 'pass'],
    [5.01, undefined, 'attention'],
    [-10, undefined, 'attention'],
    [10.01, undefined, 'fail'],
    [10, 10, 'pass'],
    [10.01, 10, 'fail'],
    [5.01, 5, 'attention'],
  ] as const)('run capacitor %d %% off, marked ± %s %%: %s', (off, tolerance, verdict) => {
    expect(judgeRunCapacitor(off, tolerance, {})).toBe(verdict);
  });
  it.each([
    [-10, 'pass'],
    [-10.01, 'attention'],
    [-20, 'attention'],
    [-20.01, 'fail'],
    [20, 'pass'],
    [20.01, 'attention'],
    [30, 'attention'],
    [30.01, 'fail'],
  ] as const)('start capacitor %d %% off: %s', (off, verdict) => {
    expect(judgeStartCapacitor(off, {})).toBe(verdict);
  });
  it.each([
    [1, 'pass'],
    [1.001, 'attention'],
    [1.1, 'attention'],
    [1.101, 'fail'],
  ] as const)('%d of its rating across it while running: %s', (share, verdict) => {
    const runningA = share * 400 * 2 * Math.PI * 50 * 25e-6;
    const judged = worked(capacitor, { frequencyHz: 50, runMarkedF: 25e-6, runningA, ratedV: 400 });
    expect(judged.acrossV).toBeCloseTo(share * 400, 6);
    expect(judged.verdict).toBe(verdict);
    expect(capacitorVolts(runningA, 50, 25e-6)).toBeCloseTo(share * 400, 6);
  });
  it('without a mark, a frequency or a reading nothing is judged', () => {
    const of = (input: object) => worked(capacitor, input).verdict;
    expect(of({ frequencyHz: 50, runA: 2, runV: 230 })).toBe('cannot judge');
    expect(of({ runA: 2, runV: 230, runMarkedF: 25e-6 })).toBe('cannot judge');
    expect(of({ frequencyHz: 50 })).toBe('cannot judge');
    expect(of({ frequencyHz: 50, runA: 2 })).toBe('cannot judge');
  });
  it('belongs to motors with a capacitor; asks only for those it has', () => {
    const of = (auxKind: string) => ({ machine: 'single-phase', record: { kind: 'single-phase', auxKind } }) as never;
    expect(capacitorTest.for?.(of('split phase'))).toBe(false);
    expect(capacitorTest.for?.(of('capacitor run'))).toBe(true);
    expect(capacitorTest.hides?.(of('capacitor run'))).toContain('startA');
    expect(capacitorTest.hides?.(of('capacitor start'))).toContain('runA');
    expect(capacitorTest.hides?.(of('capacitor start and run'))).toEqual([]);
  });
});

describe('start switch and protector', () => {
  const sound = { closedAtRest: true, opensRpm: 1125, synchronousRpm: 1500, leftA: 0, mainA: 4 };
  const of = (more: object) => worked(startSwitch, { ...sound, ...more });
  it.each([
    [{}, 'pass'],
    [{ opensRpm: 1050 }, 'pass'],
    [{ opensRpm: 1049 }, 'attention'],
    [{ opensRpm: 1275 }, 'pass'],
    [{ opensRpm: 1276 }, 'attention'],
    [{ leftA: 0.2 }, 'pass'],
    [{ leftA: 0.201 }, 'fail'],
    [{ closedAtRest: false }, 'fail'],
    [{ closedAtRest: undefined }, 'cannot judge'],
    [{ leftA: undefined }, 'cannot judge'],
    [{ protector: 'closed when cold' }, 'pass'],
    [{ protector: 'none' }, 'pass'],
    [{ protector: 'open when cold' }, 'fail'],
    [{ calibrationExpired: true }, 'attention'],
  ])('%j: %s', (more, verdict) => {
    expect(of(more).verdict).toBe(verdict);
  });
});

describe('no-load run of a single-phase motor', () => {
  const base = {
    voltsV: 230,
    ampsA: 4.9,
    powerW: 235,
    ratedV: 230,
    ratedA: 6.2,
    ratedInputW: 950,
    turns: 'clockwise',
    turnsWanted: 'clockwise',
  };
  const run = (more: object = {}) => worked(noLoadSingle, { ...base, ...more });
  it('4.9 of 6.2 A, 235 of 950 W: 0.790, 0.247, pass', () => {
    const judged = run();
    expect(judged.currentShare).toBeCloseTo(0.79, 3);
    expect(judged.wattsShare).toBeCloseTo(0.2474, 4);
    expect(judged.verdict).toBe('pass');
  });
  it.each([
    [0.3, false, 'pass'],
    [0.299, false, 'attention'],
    [0.9, false, 'pass'],
    [0.901, false, 'attention'],
    [1, false, 'attention'],
    [1.001, false, 'fail'],
    [1.1, true, 'attention'],
    [1.101, true, 'fail'],
  ] as const)('current %d of rated, run capacitor %s: %s', (share, runCapacitor, verdict) => {
    expect(run({ ampsA: 6.2 * share, runCapacitor }).verdict).toBe(verdict);
  });
  it.each([
    [0.45, 'pass'],
    [0.4501, 'attention'],
    [0.6, 'attention'],
    [0.6001, 'fail'],
  ] as const)('watts %d of the rated input: %s', (share, verdict) => {
    expect(run({ powerW: 950 * share }).verdict).toBe(verdict);
  });
  it.each([
    [1, undefined, 'pass'],
    [1.001, undefined, 'attention'],
    [1.05, undefined, 'attention'],
    [1.051, undefined, 'fail'],
    [1.15, 1.15, 'pass'],
    [1.16, 1.15, 'attention'],
    [1.21, 1.15, 'fail'],
  ] as const)('%d of rated at rated load, service factor %s: %s', (share, serviceFactor, verdict) => {
    expect(run({ loadA: 6.2 * share, serviceFactor }).verdict).toBe(verdict);
  });
  it.each([
    [1.05, 'pass'],
    [1.051, 'cannot judge'],
    [0.95, 'pass'],
    [0.949, 'cannot judge'],
  ] as const)('at %d of the rated voltage: %s', (share, verdict) => {
    expect(run({ voltsV: 230 * share }).verdict).toBe(verdict);
  });
  it('opposite direction fails and says what to exchange; unsaid cannot be judged', () => {
    expect(run({ turns: 'anticlockwise' })).toMatchObject({ verdict: 'fail', reason: expect.stringMatching(/T5, T8/) });
    expect(run({ turnsWanted: undefined }).verdict).toBe('cannot judge');
    expect(run({ voltsV: undefined }).verdict).toBe('cannot judge');
    expect(run({ ratedA: undefined }).verdict).toBe('cannot judge');
  });
  it('rated input by efficiency, else by volts, amperes and power factor', () => {
    expect(ratedInputW({ outputW: 750, efficiencyPercent: 75 }, {})).toBe(1000);
    expect(ratedInputW({ powerFactor: 0.9 }, { voltageV: 230, currentA: 6 })).toBeCloseTo(1242, 9);
    expect(ratedInputW({ outputW: 750 }, { voltageV: 230, currentA: 6 })).toBeUndefined();
  });
});
