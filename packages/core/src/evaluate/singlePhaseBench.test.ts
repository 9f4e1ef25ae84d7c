import { describe, expect, it } from 'vitest';
import { singlePhaseContext as context } from '../../../../scripts/testing/singlePhase.ts';
import { worked } from '../../../../scripts/testing/worked.ts';
import { capacitor, capacitorTest } from './capacitor.ts';
import { singlePhaseResistance, singlePhaseResistanceTest, sortLeads } from './singlePhaseResistance.ts';

describe('main and auxiliary: each rule just inside, at and just outside', () => {
  const run = (more: object) => worked(singlePhaseResistance, { windingC: 20, ...more });
  const three = { r12Ohm: 3, r13Ohm: 8, r23Ohm: 11 };
  it.each([
    [
      three,
      'pass',
      /^Largest reading 0 % off the sum of the others: lead 1 is common, lead 2 the main's \(3 Ω\), auxiliary 8 Ω\.$/,
    ],
    [{ ...three, leadNames: ['red', 'blue', 'white'] }, 'pass', /red is common, blue the main's/],
    [{ ...three, r23Ohm: 11.23 }, 'fail', /The largest reading is 2\.09 % off .*more than 2 % .*leads mixed up/],
    [{ ...three, r23Ohm: 11.23, resolutionOhm: 0.23 }, 'pass', /is common/],
    [{ ...three, r23Ohm: 11.23, limits: { 'single.sumPercent': 3 } }, 'pass', /is common/],
    [{ ...three, r12Ohm: 0 }, 'cannot judge', /^Every reading must be above zero/],
    [{ ...three, r13Ohm: 0 }, 'cannot judge', /^Every reading must be above zero/],
    [{ ...three, r23Ohm: 0 }, 'cannot judge', /^Every reading must be above zero/],
    [{ r12Ohm: 3, r13Ohm: 8 }, 'cannot judge', /^Of three leads all three pairs are needed/],
    [{ r12Ohm: 3, r23Ohm: 8 }, 'cannot judge', /^Of three leads all three pairs are needed/],
    [{ r13Ohm: 3, r23Ohm: 8 }, 'cannot judge', /^Of three leads all three pairs are needed/],
    [{ r23Ohm: 8, mainOhm: 3 }, 'cannot judge', /^Of three leads all three pairs are needed/],
    // halves: 2 and 5 % off their mean
    [
      { half1Ohm: 1.02, half2Ohm: 0.98 },
      'pass',
      /^Main halves 2 % apart, at most 2 % .*in parallel 0\.4998 Ω, in series 2 Ω/,
    ],
    [{ half1Ohm: 1.021, half2Ohm: 0.979 }, 'attention', /2\.1 % apart, at most 5 %/],
    [{ half1Ohm: 1.05, half2Ohm: 0.95 }, 'attention', /5 % apart, at most 5 %/],
    [{ half1Ohm: 1.051, half2Ohm: 0.949 }, 'fail', /5\.1 % apart, above 5 %/],
    [{ half1Ohm: 1.03, half2Ohm: 0.97, limits: { 'single.halvesPassPercent': 3 } }, 'pass', /at most 3 %/],
    [{ half1Ohm: 1.03, half2Ohm: 0.97, limits: { 'single.halvesFailPercent': 2.5 } }, 'fail', /above 2\.5 %/],
    [{ half1Ohm: 1 }, 'cannot judge', /^Both halves of the main are needed/],
    [{ half2Ohm: 1 }, 'cannot judge', /^Both halves of the main are needed/],
    [{ half1Ohm: 0, half2Ohm: 1 }, 'cannot judge', /^Both halves of the main must read above zero/],
    [{ half1Ohm: 1, half2Ohm: 0 }, 'cannot judge', /^Both halves of the main must read above zero/],
    // speed taps
    [{ tapsOhm: [9, 12, 15] }, 'pass', /^Speed taps rise from high to low speed: 9, 12, 15 Ω\.$/],
    [{ tapsOhm: [9, 15, 12] }, 'fail', /^Speed taps 9, 15, 12 Ω do not rise/],
    [{ tapsOhm: [9, 9] }, 'fail', /do not rise/],
    [{ tapsOhm: [9] }, 'cannot judge', /^Enter the three pairs/],
    [{ tapsOhm: [9], mainOhm: 3 }, 'pass', /^Recorded; there is no plan/],
    [{}, 'cannot judge', /^Enter the three pairs of leads, or main and auxiliary/],
    [{ mainOhm: 3 }, 'pass', /^Recorded; there is no plan to compare with\.$/],
    [{ auxOhm: 3 }, 'pass', /^Recorded; there is no plan to compare with\.$/],
    [{ mainOhm: 0 }, 'cannot judge', /^The main must read above zero/],
    [{ auxOhm: 0 }, 'cannot judge', /^The auxiliary must read above zero/],
    [{ mainOhm: 3, windingC: undefined }, 'cannot judge', /^The winding temperature is needed/],
    [{ mainOhm: 3, open: ['auxiliary'] }, 'fail', /^Open: auxiliary\. An open auxiliary may be its switch/],
    [{ mainOhm: 3, behindSwitch: false }, 'cannot judge', /^Switch or capacitor lie in the path/],
    [{ mainOhm: 3, behindSwitch: true }, 'pass', /^Recorded/],
    [{ mainOhm: 3, calibrationExpired: true }, 'attention', /out of calibration/],
    // against the plan
    [
      { mainOhm: 3.09, plannedMain20Ohm: 3, newWinding: true },
      'pass',
      /^Main 3\.09 Ω at 20 °C against 3 Ω planned: 3 % off, within 3 %/,
    ],
    [{ mainOhm: 3.1, plannedMain20Ohm: 3, newWinding: true }, 'attention', /within 5 %/],
    [{ mainOhm: 3.16, plannedMain20Ohm: 3, newWinding: true }, 'fail', /above 5 %/],
    [{ mainOhm: 3.16, plannedMain20Ohm: 3, newWinding: true, meanTurnEstimated: true }, 'attention', /only estimated/],
    [{ mainOhm: 3.3, plannedMain20Ohm: 3 }, 'pass', /^Main 3\.3 Ω at 20 °C against 3 Ω by the record: 10 % off\.$/],
    [{ auxOhm: 7, plannedAux20Ohm: 8 }, 'pass', /^Auxiliary 7 Ω at 20 °C against 8 Ω by the record: 12\.5 % off\.$/],
    [
      { mainOhm: 3, plannedMain20Ohm: 3, plannedAux20Ohm: 8, newWinding: true },
      'cannot judge',
      /The auxiliary was not read/,
    ],
    [{ auxOhm: 8, plannedMain20Ohm: 3, plannedAux20Ohm: 8, newWinding: true }, 'cannot judge', /The main was not read/],
    [{ mainOhm: 3, plannedAux20Ohm: 8 }, 'pass', /^Recorded/],
    [{ auxOhm: 8, plannedMain20Ohm: 3 }, 'pass', /^Recorded/],
    [{ auxOhm: 8, plannedAux20Ohm: 8, newWinding: true }, 'pass', /^Auxiliary/],
  ] as const)('%j: %s', (more, verdict, reason) => {
    const x = run(more);
    expect([x.verdict, x.reason]).toEqual([verdict, expect.stringMatching(reason)]);
  });
  it('to 20 °C by the constant of the metal, both windings', () => {
    const x = run({ mainOhm: 3, auxOhm: 8, windingC: 30 });
    expect([x.main20Ohm, x.aux20Ohm]).toEqual([expect.closeTo((3 * 255) / 265, 9), expect.closeTo((8 * 255) / 265, 9)]);
    expect(run({ mainOhm: 3, windingC: 30, material: 'aluminium' }).main20Ohm).toBeCloseTo((3 * 245) / 255, 9);
    expect(run({ mainOhm: 3, windingC: 30, constantC: 234.5 }).main20Ohm).toBeCloseTo((3 * 254.5) / 264.5, 9);
    expect(run({ mainOhm: 3 })).not.toHaveProperty('auxOhm');
    expect(run({ auxOhm: 3 })).not.toHaveProperty('mainOhm');
    const off = run({ mainOhm: 3.16 * (265 / 255), plannedMain20Ohm: 3, newWinding: true, windingC: 30 });
    expect(off.reason).toMatch(/5\.33 % off|5\.3 % off/);
  });
  it('halves stand in series or parallel as the plan has them', () => {
    const halves = { half1Ohm: 2, half2Ohm: 2 };
    expect(run(halves)).toMatchObject({ mainOhm: 4, seriesOhm: 4, parallelOhm: 1, halvesPercent: 0 });
    expect(run({ ...halves, circuits: 2 }).mainOhm).toBe(1);
    expect(run({ half1Ohm: 1, half2Ohm: 3 })).toMatchObject({ halvesPercent: 50, parallelOhm: 0.75 });
  });
  it('the plan names the main only where it knows both and they differ', () => {
    const leads = { r12: 3, r13: 8, r23: 11 };
    const main = (planMainOhm?: number, planAuxOhm?: number) =>
      sortLeads(leads, { digitOhm: 0, planMainOhm, planAuxOhm }).mainOhm;
    expect([main(9, 3), main(3, 9), main(5, 5), main(9), main(undefined, 1), main()]).toEqual([8, 3, 3, 3, 3, 3]);
    // of two equal largest pairs the first is the series one
    expect(sortLeads({ r12: 5, r13: 5, r23: 1 }, { digitOhm: 0 }).common).toBe(3);
  });
  it('hands over readings, open ones by name, the leads and its plan', () => {
    const of = (values: object, c = context()) => singlePhaseResistanceTest.input?.(values as never, c);
    expect(
      of({
        r12: 1,
        r13: 2,
        r23: 3,
        main: 4,
        aux: 5,
        half1: 6,
        half2: 7,
        auxOverRange: true,
        leadNames: 'red, blue/ white',
        taps: [1, 2],
        behind: 'yes',
        windingC: 21,
        resolution: 0.01,
      }),
    ).toEqual({
      r12Ohm: 1,
      r13Ohm: 2,
      r23Ohm: 3,
      mainOhm: 4,
      auxOhm: 5,
      half1Ohm: 6,
      half2Ohm: 7,
      open: ['auxiliary'],
      leadNames: ['red', 'blue', 'white'],
      tapsOhm: [1, 2],
      behindSwitch: true,
      windingC: 21,
      resolutionOhm: 0.01,
      circuits: 2,
      plannedMain20Ohm: 3,
      plannedAux20Ohm: 8,
      meanTurnEstimated: true,
      newWinding: true,
      material: 'copper',
    });
    const bare = of(
      { behind: 'no' },
      context({ record: { circuits: 1, material: 'aluminium' }, figures: { meanTurnFrom: 'mass' } }),
    );
    expect(bare).toMatchObject({
      behindSwitch: false,
      circuits: 1,
      material: 'aluminium',
      meanTurnEstimated: false,
      open: [],
      leadNames: undefined,
      tapsOhm: undefined,
      plannedMain20Ohm: undefined,
    });
    expect(of({}, context({ record: undefined, figures: undefined }))).toMatchObject({
      behindSwitch: undefined,
      circuits: 1,
      material: 'copper',
      plannedAux20Ohm: undefined,
    });
    const names = (leadNames: string) => (of({ leadNames }) as { leadNames?: string[] }).leadNames;
    expect(names('red;blue;white')).toEqual(['red', 'blue', 'white']);
    expect(names(`${'x'.repeat(20)}, b, c`)).toHaveLength(3);
    expect([names('red, blue'), names('red, , white'), names(`${'x'.repeat(21)}, b, c`)]).toEqual([
      undefined,
      undefined,
      undefined,
    ]);
  });
  it.each([
    [{}, 'r12'],
    [{ r12: 1 }, 'r13'],
    [{ r12: 1, r13: 1 }, 'r23'],
    [{ r13: 1, r23: 1 }, 'r12'],
    [{ r23: 1 }, 'r12'],
    [{ r12: 1, r13: 1, r23: 1 }, undefined],
    [{ half1: 1 }, 'half2'],
    [{ half2: 1 }, 'half1'],
    [{ half1: 1, half2: 1 }, undefined],
    [{ main: 1 }, undefined],
    [{ aux: 1 }, undefined],
  ])('with %j typed %s is still needed', (values, field) =>
    expect(singlePhaseResistanceTest.lacks?.(values as never)?.field).toBe(field),
  );
});

describe('capacitors: each rule just inside, at and just outside', () => {
  /** the current that this capacitance takes at 230 V, 50 Hz */
  const amps = (farad: number) => 2 * Math.PI * 50 * 230 * farad;
  const run = (more: object) => worked(capacitor, { frequencyHz: 50, ...more }, 0);
  const ran = (share: number, more: object = {}) =>
    run({ runA: amps(2e-5 * share), runV: 230, runMarkedF: 2e-5, ...more });
  const started = (share: number, more: object = {}) =>
    run({ startA: amps(8e-5 * share), startV: 230, startMarkedF: 8e-5, ...more });
  it.each([
    [1.05, {}, 'pass'],
    [1.0501, {}, 'attention'],
    [1.1, {}, 'attention'],
    [1.1001, {}, 'fail'],
    [0.95, {}, 'pass'],
    [0.9499, {}, 'attention'],
    [0.9, {}, 'attention'],
    [0.8999, {}, 'fail'],
    [1.08, { runTolerancePercent: 10 }, 'pass'],
    [1.11, { runTolerancePercent: 10 }, 'fail'],
    [1.11, { runTolerancePercent: 12 }, 'pass'],
    [1.13, { runTolerancePercent: 12 }, 'fail'],
    [1.06, { limits: { 'capacitor.runPassPercent': 7 } }, 'pass'],
    [1.11, { limits: { 'capacitor.runFailPercent': 12 } }, 'attention'],
    [1, { calibrationExpired: true }, 'attention'],
  ] as const)('a run capacitor at %d of its mark, %j: %s', (share, more, verdict) =>
    expect(ran(share, more).verdict).toBe(verdict),
  );
  it.each([
    [0.9, {}, 'pass'],
    [0.8999, {}, 'attention'],
    [0.8, {}, 'attention'],
    [0.7999, {}, 'fail'],
    [1.2, {}, 'pass'],
    [1.2001, {}, 'attention'],
    [1.3, {}, 'attention'],
    [1.3001, {}, 'fail'],
    [0.88, { limits: { 'capacitor.startLowPassPercent': 12 } }, 'pass'],
    [0.78, { limits: { 'capacitor.startLowFailPercent': 22 } }, 'attention'],
    [1.22, { limits: { 'capacitor.startHighPassPercent': 22 } }, 'pass'],
    [1.32, { limits: { 'capacitor.startHighFailPercent': 32 } }, 'attention'],
  ] as const)('a start capacitor at %d of its mark, %j: %s', (share, more, verdict) =>
    expect(started(share, more).verdict).toBe(verdict),
  );
  it.each([
    [{ frequencyHz: undefined, runA: 1, runV: 1 }, /^The frequency is needed/],
    [{}, /^Enter current and voltage of the run or the start capacitor\.$/],
    [{ runA: 1 }, /^The run capacitor needs its current and its voltage\.$/],
    [{ runV: 1 }, /^The run capacitor needs its current and its voltage\.$/],
    [{ startA: 1 }, /^The start capacitor needs its current and its voltage\.$/],
    [{ startV: 1 }, /^The start capacitor needs its current and its voltage\.$/],
    [{ runA: amps(2e-5), runV: 230 }, /^Run capacitor 20 µF: what is marked on it\?$/],
    [{ startA: amps(8e-5), startV: 230 }, /^Start capacitor 80 µF: what is marked on it\?$/],
    [{ runMarkedF: 2e-5 }, /^Enter current and voltage/],
    [{ runningA: 2 }, /^Enter current and voltage/],
  ])('%j cannot be judged', (more, reason) => {
    const x = run(more);
    expect([x.verdict, x.reason]).toEqual(['cannot judge', expect.stringMatching(reason)]);
  });
  it('says what was measured, in µF and per cent', () => {
    const x = ran(1.02);
    expect([x.runF, x.runOffPercent]).toEqual([expect.closeTo(2.04e-5, 12), expect.closeTo(2, 9)]);
    expect(x.reason).toBe('Run capacitor 20.4 µF, marked 20 µF: 2 % (common practice).');
    expect(x).not.toHaveProperty('startF');
    const y = started(0.95);
    expect([y.startF, y.startOffPercent]).toEqual([expect.closeTo(7.6e-5, 12), expect.closeTo(-5, 9)]);
    expect(y).not.toHaveProperty('acrossV');
    expect(run({ runA: 1, runV: 230 })).not.toHaveProperty('runOffPercent');
    expect(run({ startA: 1, startV: 230 })).not.toHaveProperty('startOffPercent');
  });
  it.each([
    [400, 'pass', /400 V across the run capacitor while running, rated 400 V\.$/],
    [400.1, 'attention', /never above 1\.1 .*times that/],
    [440, 'attention', /never above/],
    [440.1, 'fail', /never above/],
  ] as const)('%d V across a run capacitor of 400 V: %s', (volts, verdict, reason) => {
    const runningA = 2 * Math.PI * 50 * 2e-5 * volts;
    const x = ran(1, { runningA, ratedV: 400 });
    expect([x.verdict, x.reason]).toEqual([verdict, expect.stringMatching(reason)]);
    expect(x.acrossV).toBeCloseTo(volts, 6);
    // by its mark where it was not measured itself
    expect(run({ runMarkedF: 2e-5, runningA, ratedV: 400 }).verdict).toBe(verdict);
    const unrated = ran(1, { runningA });
    expect([unrated.verdict, unrated.acrossV]).toEqual(['pass', expect.closeTo(volts, 6)]);
  });
  it('hands over readings, and what the record knows where the form is blank', () => {
    const of = (values: object, c = context()) => capacitorTest.input?.(values as never, c);
    const typed = {
      frequency: 60,
      runA: 1,
      runV: 2,
      runMarked: 3,
      runTolerance: 5,
      startA: 6,
      startV: 7,
      startMarked: 8,
      runningA: 9,
      capacitorV: 10,
    };
    const record = { auxKind: 'capacitor start and run', capacitorF: 2e-5, startCapacitorF: 8e-5, auxCapacitorV: 450 };
    expect(of(typed, context({ record }))).toEqual({
      frequencyHz: 60,
      runA: 1,
      runV: 2,
      runMarkedF: 3,
      runTolerancePercent: 5,
      startA: 6,
      startV: 7,
      startMarkedF: 8,
      runningA: 9,
      ratedV: 10,
    });
    expect(of({}, context({ record }))).toMatchObject({
      frequencyHz: 50,
      runMarkedF: 2e-5,
      startMarkedF: 8e-5,
      ratedV: 450,
    });
    // the one capacitor of a capacitor-start motor is the start capacitor
    expect(of({}, context({ record: { auxKind: 'capacitor start', capacitorF: 9e-5 } }))).toMatchObject({
      runMarkedF: undefined,
      startMarkedF: 9e-5,
    });
    expect(of({}, context({ record: { auxKind: 'capacitor run', capacitorF: 2e-5 } }))).toMatchObject({
      runMarkedF: 2e-5,
      startMarkedF: undefined,
    });
    expect(of({}, context({ record: undefined }))).toMatchObject({ runMarkedF: undefined, startMarkedF: undefined });
  });
  it('which fields a motor has no use for, and what is still needed', () => {
    const hides = (auxKind?: string) =>
      capacitorTest.hides?.({ machine: 'single-phase', record: auxKind ? ({ auxKind } as never) : undefined });
    expect(hides('capacitor run')).toEqual(['startA', 'startV', 'startMarked']);
    expect(hides('capacitor start')).toContain('runMarked');
    expect([hides('capacitor start and run'), hides()]).toEqual([[], []]);
    const lacks = (v: object) => capacitorTest.lacks?.(v as never)?.field;
    expect([lacks({}), lacks({ runA: 1 }), lacks({ startA: 1 })]).toEqual(['runA', undefined, undefined]);
    const is = (machine: string, auxKind?: string) =>
      capacitorTest.for?.({ machine: machine as never, record: auxKind ? ({ auxKind } as never) : undefined });
    expect([is('single-phase'), is('single-phase', 'split phase'), is('three-phase')]).toEqual([true, false, false]);
  });
});
