import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { due, input, lacks } from '../../../../scripts/testing/onBench.ts';
import { equivalentCircuit } from './equivalentCircuit.ts';
import { leadRotation } from './leadRotation.ts';
import { lockedRotor } from './lockedRotorTest.ts';
import { rotateLeads, type LeadAmps } from './rotateLeads.ts';
import { temperatureRise } from './riseTest.ts';
import { lifeHours, readWithinS, riseAtRest, riseByResistance, riseLimitK } from './temperatureRise.ts';

const COLD = { coldOhm: 0.452, coldC: 22, coolantC: 24.5, k: 234.5, ratedKW: 7.5 };
const FALLING = [0.5789, 0.5746, 0.5705, 0.5666, 0.5628, 0.5591].map((ohm, i) => ({ ohm, seconds: 30 * (i + 1) }));

describe('temperature rise by resistance', () => {
  it('C48: 67.79 K with 234.5, 67.93 K with 235', () => {
    const x = { coldOhm: 0.452, coldC: 22, hotOhm: 0.5785, coolantC: 26 };
    expect(riseByResistance({ ...x, k: 234.5 })).toBeCloseTo(67.786, 3);
    expect(riseByResistance({ ...x, k: 235 })).toBeCloseTo(67.926, 3);
  });
  it('C49: drawn back to the switch 71.98 K, time constant 852 s; the first reading alone 69.51 K', () => {
    const found = riseAtRest(FALLING, COLD);
    expect(found).toMatchObject({ how: 'extrapolated', riseK: expect.closeTo(71.9805, 3) });
    expect(found.timeConstantS).toBeCloseTo(852.4, 0);
    expect(found.r2).toBeGreaterThan(0.99998);
    expect(found.doubtful).toBeUndefined();
    expect(riseAtRest(FALLING.slice(0, 1), COLD)).toEqual({
      how: 'first reading in time',
      riseK: expect.closeTo(69.51, 2),
    });
    // in any order
    expect(riseAtRest(FALLING.toReversed(), COLD).riseK).toBeCloseTo(found.riseK, 9);
  });
  it('how soon a reading counts, by size; later than twice that it tells nothing', () => {
    expect([50, 50.1, 200, 200.1].map(readWithinS)).toEqual([30, 90, 90, 120]);
    const late = (seconds: number, ratedKW: number) =>
      riseAtRest(
        FALLING.map((r) => ({ ...r, seconds: r.seconds - 30 + seconds })),
        { ...COLD, ratedKW },
      ).how;
    expect([late(60, 50), late(61, 50), late(180, 60), late(181, 60)]).toEqual([
      'extrapolated',
      'none',
      'extrapolated',
      'none',
    ]);
    expect(riseAtRest([{ seconds: 31, ohm: 0.57 }], COLD)).toMatchObject({
      how: 'none',
      why: expect.stringMatching(/1 falling/),
    });
    expect(riseAtRest([], COLD).how).toBe('none');
  });
  it('few readings, a loose line, a winding that still warms up', () => {
    expect(riseAtRest(FALLING.slice(0, 4), COLD).doubtful).toBe(true);
    expect(riseAtRest(FALLING.slice(0, 5), COLD).doubtful).toBeUndefined();
    expect(riseAtRest(FALLING, { ...COLD, limits: { 'load.riseFit': 0.999999 } }).doubtful).toBe(true);
    const warming = [0.57, 0.575, 0.573, 0.57].map((ohm, i) => ({ ohm, seconds: 20 * (i + 1) }));
    expect(riseAtRest(warming, COLD)).toMatchObject({
      how: 'highest reading',
      riseK: expect.closeTo(riseByResistance({ ...COLD, hotOhm: 0.575 }), 9),
    });
  });
  it('limits by class, rule, altitude, coolant', () => {
    const iec = 'IEC, 600 W to below 5000 kW' as const;
    const nema = 'NEMA, service factor 1.0' as const;
    expect(riseLimitK({ rule: iec, thermalClass: 'F' })).toBe(105);
    expect(riseLimitK({ rule: iec, thermalClass: 'F', altitudeM: 1000 })).toBe(105);
    expect(riseLimitK({ rule: iec, thermalClass: 'F', altitudeM: 2500 })).toBeCloseTo(89.25, 9);
    expect(riseLimitK({ rule: nema, thermalClass: 'F', altitudeM: 6600 * 0.3048 })).toBeCloseTo(94.5, 9);
    expect(riseLimitK({ rule: nema, thermalClass: 'F', altitudeM: 3300 * 0.3048 })).toBeCloseTo(105, 9);
    expect(riseLimitK({ rule: iec, thermalClass: 'F', coolantC: 50 })).toBe(95);
    expect(riseLimitK({ rule: iec, thermalClass: 'F', coolantC: 30 })).toBe(115);
    expect(riseLimitK({ rule: iec, thermalClass: 'F', coolantC: 0 })).toBe(135);
    expect(riseLimitK({ rule: nema, thermalClass: 'E' })).toBeUndefined();
    expect(riseLimitK({ rule: 'NEMA, service factor 1.15 and more', thermalClass: 'H' })).toBeUndefined();
  });
  it('C59: life by the rule of ten kelvin', () => {
    expect(lifeHours('F', 165)).toBe(10_000);
    expect(lifeHours('F', 140)).toBeCloseTo(56_568.5, 1);
    expect(lifeHours('F', 141, 14)).toBe(40_000);
  });
  const at = (riseK: number, more: object = {}) => {
    // the resistance that makes exactly this rise
    const ohm = (COLD.coldOhm * (riseK + 234.5 + COLD.coolantC)) / (234.5 + COLD.coldC);
    return worked(temperatureRise, { ...COLD, readings: [{ seconds: 20, ohm }], thermalClass: 'F', ...more });
  };
  it.each([
    [100, {}, 'pass'],
    [100.01, {}, 'attention'],
    [105, {}, 'attention'],
    [105.01, {}, 'fail'],
    [100.01, { limits: { 'load.riseMarginK': 4 } }, 'pass'],
    [80, { loadPercent: 95 }, 'pass'],
    [80, { loadPercent: 94.9 }, 'cannot judge'],
    [80, { loadPercent: 105.1 }, 'cannot judge'],
    [90, { altitudeM: 2500 }, 'fail'],
    [96, { ratedCoolantC: 50 }, 'fail'],
    [80, { thermalClass: undefined }, 'cannot judge'],
    [80, { thermalClass: 'N' }, 'cannot judge'],
    [80, { ratedKW: undefined }, 'cannot judge'],
    [80, { calibrationExpired: true }, 'attention'],
  ])('%d K %o: %s', (riseK, more, verdict) => expect(at(riseK, more)['verdict']).toBe(verdict));
  it('says how it was found, the limit and what is left; life beside it', () => {
    const out = worked(temperatureRise, { ...COLD, readings: FALLING, thermalClass: 'B' });
    expect(out).toMatchObject({
      verdict: 'pass',
      reason:
        '72 K (drawn back to the switch, time constant 14.2 min); class B allows 80 K (IEC, 600 W to below 5000 kW; from memory).',
      limitK: 80,
      hottestC: expect.closeTo(96.48, 2),
      lifeH: expect.closeTo(20_000 * 2 ** ((130 - 96.48) / 10), -3),
    });
    const few = worked(temperatureRise, { ...COLD, readings: FALLING.slice(0, 3), thermalClass: 'F' });
    expect(few).toMatchObject({ verdict: 'attention', reason: expect.stringMatching(/loose \(3 readings/) });
  });
  it('on the bench: class of the plate filled in, lists of one length', () => {
    expect(due('temperatureRise', { nameplate: { insulationClass: 'F' } })?.typed).toEqual({ thermalClass: 'F' });
    expect(due('temperatureRise', { nameplate: {} })?.typed).toBeUndefined();
    expect(lacks('temperatureRise', { seconds: [1, 2], ohms: [1] })).toBe('ohms');
    expect(lacks('temperatureRise', { seconds: [1, 2], ohms: [1, 2] })).toBeUndefined();
    expect(
      input(
        'temperatureRise',
        { coldOhm: 1, coldC: 20, coolantC: 25, seconds: [30], ohms: [1.3], load: 98 },
        {
          nameplate: { outputW: 11_000, ambientC: 45 },
          found: { record: { kind: 'three-phase', material: 'aluminium' } },
        },
      ),
    ).toMatchObject({ readings: [{ seconds: 30, ohm: 1.3 }], ratedKW: 11, k: 225, loadPercent: 98, ratedCoolantC: 45 });
  });
});

describe('leads rotated over the lines', () => {
  const SUPPLY: [LeadAmps, LeadAmps, LeadAmps] = [
    [10.7, 9.7, 9.6],
    [9.9, 9.5, 10.6],
    [9.7, 10.5, 9.8],
  ];
  it('C34: what stays with the line is the supply', () => {
    const found = rotateLeads(SUPPLY);
    expect(found.meanA).toBeCloseTo(10, 12);
    expect(found.lineA.map((a) => a.toFixed(6))).toEqual(['0.600000', '-0.200000', '-0.400000']);
    expect(found.leadA.map((a) => Number(a.toFixed(6)))).toEqual([0.1, -0.1, 0]);
    expect(found.linePercent).toBeCloseTo(6, 9);
    expect(found.leadPercent).toBeCloseTo(1, 9);
    expect(found).toMatchObject({ follows: 'supply', drifted: false });
  });
  /** Runs with so much of each lead and of each line. */
  const made = (lead: LeadAmps, line: LeadAmps, drift: LeadAmps = [0, 0, 0]) =>
    [0, 1, 2].map((p) =>
      [0, 1, 2].map((t) => 10 + (lead[t] ?? 0) + (line[(t + p) % 3] ?? 0) + (drift[p] ?? 0)),
    ) as never;
  it.each<[string, LeadAmps, LeadAmps, string]>([
    ['nothing', [0, 0, 0], [0, 0, 0], 'balanced'],
    ['both at the border', [0.3, -0.3, 0], [0.3, 0, -0.3], 'balanced'],
    ['a lead above it', [0.31, -0.31, 0], [0, 0, 0], 'motor'],
    ['twice as much in the lines', [0.3, -0.3, 0], [0.6, -0.6, 0], 'supply'],
    ['less than twice', [0.31, -0.31, 0], [0.6, -0.6, 0], 'both'],
    ['twice as much in the leads', [0.6, -0.6, 0], [0.3, -0.3, 0], 'motor'],
  ])('%s', (_, lead, line, follows) => expect(rotateLeads(made(lead, line)).follows).toBe(follows));
  it('a supply that drifts is told', () => {
    expect(rotateLeads(made([0, 0, 0], [0, 0, 0], [0.15, 0, -0.15])).drifted).toBe(false);
    expect(rotateLeads(made([0, 0, 0], [0, 0, 0], [0.16, 0, -0.15])).drifted).toBe(true);
  });
  it('judged: the supply is no fault of the motor; what follows the motor is held to the limits of a no-load run', () => {
    const run = (runs: unknown, more: object = {}) => worked(leadRotation, { runs, ...more });
    expect(run(SUPPLY)).toMatchObject({
      verdict: 'pass',
      reason: expect.stringMatching(
        /^The unbalance follows the supply lines: the motor is not to blame\. .*6 % \(line 1 most\)/,
      ),
    });
    expect(run(made([1, -0.5, -0.5], [0, 0, 0]))['verdict']).toBe('pass');
    expect(run(made([1.01, -0.5, -0.51], [0, 0, 0]))).toMatchObject({
      verdict: 'attention',
      reason: expect.stringMatching(/^The unbalance follows lead U of the motor: its winding or its joints/),
    });
    expect(run(made([2.01, -1, -1.01], [0, 0, 0]))['verdict']).toBe('fail');
    expect(run(made([0, 0, 0], [0, 0, 0], [0.3, 0, -0.3]))).toMatchObject({
      verdict: 'cannot judge',
      reason: expect.stringMatching(/drifted, repeat/),
    });
    expect(run(SUPPLY, { calibrationExpired: true })['verdict']).toBe('attention');
    expect(run(made([0.3, -0.3, 0], [0, 0, 0]), { limits: { 'load.balancedPercent': 2 } })).toMatchObject({
      follows: 'motor',
    });
    expect(
      input(
        'leadRotation',
        Object.fromEntries([1, 2, 3].flatMap((p) => ['U', 'V', 'W'].map((l, t) => [`run${p}${l}`, 10 * p + t]))),
      ),
    ).toEqual({
      runs: [
        [10, 11, 12],
        [20, 21, 22],
        [30, 31, 32],
      ],
    });
  });
});

describe('locked rotor, judged', () => {
  const POINTS = [
    { volts: 120, amps: 25 },
    { volts: 160, amps: 34 },
    { volts: 200, amps: 43 },
  ];
  const run = (x: object = {}) => worked(lockedRotor, { points: POINTS, ratedV: 400, outputW: 7500, ...x });
  it('brings it to the rated voltage, with its code letter', () => {
    const out = run();
    const n = Math.log(43 / 25) / Math.log(200 / 120);
    expect(out['exponent']).toBeCloseTo(n, 2);
    expect(out['verdict']).toBe('pass');
    expect(out['kvaPerHp']).toBeCloseTo((Math.sqrt(3) * 400 * Number(out['ampsAtRated'])) / 1000 / (7500 / 745.7), 3);
    expect(out['reason']).toMatch(/^\d+(\.\d+)? A at 400 V, \d+\.\d+ kVA\/hp: code letter [A-Z]\.$/);
    expect(run({ ratedV: undefined })['verdict']).toBe('cannot judge');
    expect(run({ outputW: undefined })).not.toHaveProperty('codeLetter');
  });
  it('one voltage is taken as linear; an exponent outside the usual is told', () => {
    expect(run({ points: [{ volts: 160, amps: 25 }] })).toMatchObject({
      verdict: 'attention',
      ampsAtRated: 62.5,
      reason: expect.stringMatching(/^One voltage only: taken as linear/),
    });
    const power = (n: number) => [100, 200].map((volts) => ({ volts, amps: 20 * (volts / 100) ** n }));
    expect([0.99, 1, 1.15, 1.16].map((n) => run({ points: power(n) })['verdict'])).toEqual([
      'attention',
      'pass',
      'pass',
      'attention',
    ]);
    expect(run({ points: power(1.16), limits: { 'load.lockedExponentHigh': 1.2 } })['verdict']).toBe('pass');
  });
  it('torque as read, else from the power; against what is declared', () => {
    const linear = (more: object) => run({ points: [100, 200].map((volts) => ({ volts, amps: volts / 4, ...more })) });
    expect(linear({})).not.toHaveProperty('torqueNm');
    const read = run({
      points: [
        { volts: 100, amps: 25 },
        { volts: 200, amps: 50, torqueNm: 10 },
      ],
    });
    expect(read).toMatchObject({ torqueNm: expect.closeTo(40, 9), torqueFrom: 'read' });
    const worked_ = run({
      points: [
        { volts: 100, amps: 25 },
        { volts: 200, amps: 50, watts: 9000 },
      ],
      lineOhm: 1,
      synchronousRpm: 1500,
    });
    expect(worked_).toMatchObject({
      torqueFrom: 'worked out from the power',
      torqueNm: expect.closeTo(((30 / Math.PI) * 0.91 * (36_000 - 1.5 * 100 ** 2)) / 1500, 6),
    });
    const against = (declaredA: number) =>
      linear({}) &&
      run({
        points: [
          { volts: 100, amps: 25 },
          { volts: 200, amps: 50 },
        ],
        declaredA,
      })['verdict'];
    // 100 A at 400 V: declared 83.33 A allows exactly 100
    expect([against(100 / 1.2), against(83.3), against(500)]).toEqual(['pass', 'fail', 'pass']);
    const torque = (declaredNm: number) =>
      run({
        points: [
          { volts: 100, amps: 25 },
          { volts: 200, amps: 50, torqueNm: 10 },
        ],
        declaredNm,
      });
    expect([torque(32), torque(40 / 0.85), torque(31.9), torque(47.1)].map((o) => o['verdict'])).toEqual([
      'pass',
      'pass',
      'fail',
      'fail',
    ]);
    expect(torque(47.1)['reason']).toMatch(/^The locked-rotor torque of 40 N m is below 40\.0\d* N m/);
  });
  it('on the bench', () => {
    expect(lacks('lockedRotor', { volts: [1, 2], amps: [1, 2], watts: [1] })).toBe('watts');
    expect(input('lockedRotor', { volts: [100, 200], amps: [25, 50], torques: [3, 10], declaredA: 90 })).toMatchObject({
      points: [
        { volts: 100, amps: 25, torqueNm: 3 },
        { volts: 200, amps: 50, torqueNm: 10 },
      ],
      ratedV: 400,
      outputW: 11_000,
      phases: 3,
      synchronousRpm: 1500,
      declaredA: 90,
    });
    expect(due('lockedRotor')?.says[0]).toMatch(/rising until 22 to 66 A flow\. Pulses under 5 to 10 s/);
  });
});

describe('equivalent circuit as a calculation', () => {
  const READ = {
    ratedV: 400,
    frequencyHz: 50,
    poles: 4,
    noLoad: { lineV: 400, amps: 6.78, watts: 331.7 },
    locked: { lineV: 32.52, amps: 15, watts: 712.3, frequencyHz: 12.5 },
    r1Ohm: 0.62,
    frictionW: 70,
    outputW: 7500,
  };
  it('shows both solutions, the curve of the exact one, estimates above 0.3', () => {
    const out = worked(equivalentCircuit, READ);
    expect(out).toMatchObject({
      verdict: 'pass',
      bySteps: { x1: expect.closeTo(1.11217, 4) },
      exact: { x1: expect.closeTo(1.0719, 3) },
      breakdown: { gapNm: expect.closeTo(144.83, 1), slip: expect.closeTo(0.1771, 3) },
      atOutput: { rpm: expect.closeTo(1459.3, 0), estimate: false },
    });
    const at = (slip: number) => out.curve.find((p) => p.slip === slip);
    expect(at(0.3)?.estimate).toBe(false);
    expect(at(0.4)?.estimate).toBe(true);
    expect(at(1)).not.toHaveProperty('shaftW');
    expect(at(1)).not.toHaveProperty('efficiency');
    expect(out.reason).toMatch(
      /^Breakdown 144\.8 N m at a slip of 0\.177; at 7\.5 kW 1459\.3 r\/min, 14\.48 A, power factor 0\.831, efficiency 89\.99 %\./,
    );
    expect(worked(equivalentCircuit, { ...READ, outputW: 90_000 })).not.toHaveProperty('atOutput');
    expect(worked(equivalentCircuit, { ...READ, frictionW: 320 })).toMatchObject({
      verdict: 'cannot judge',
      curve: [],
    });
    expect(worked(equivalentCircuit, { ...READ, design: 'A' }).exact?.x1).not.toBeCloseTo(out.exact?.x1 ?? 0, 2);
    expect(worked(equivalentCircuit, { ...READ, design: 'A', reactanceRatio: 0.67 }).exact?.x1).toBeCloseTo(
      out.exact?.x1 ?? 0,
      9,
    );
  });
});
