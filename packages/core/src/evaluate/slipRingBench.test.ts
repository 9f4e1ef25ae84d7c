import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { insulationResistance } from './insulationResistance.ts';
import { ringPattern, ringVoltage, ringVoltageTest } from './ringVoltage.ts';
import { rotorResistanceTest } from './rotorResistance.ts';
import { rotorSwing, rotorSwingTest } from './rotorSwing.ts';

const context = (more: object = {}) =>
  ({
    nameplate: { voltagesV: [400], poles: 6, rotorVoltageV: 160 },
    record: undefined,
    rotor: undefined,
    figures: undefined,
    newWinding: false,
    machine: 'slip-ring',
    limits: {},
    ...more,
  }) as never;

describe('ring voltages: each rule just inside, at and just outside', () => {
  const run = (more: object = {}) =>
    worked(ringVoltage, { klV: 64, lmV: 64, mkV: 64, appliedV: 160, ratedV: 400, plateV: 160, ...more });
  const spread = (percent: number) => ({ klV: 64 * (1 + percent / 100), lmV: 64 * (1 - percent / 100) });
  it.each([
    [
      {},
      'pass',
      /^Ring voltages 0 % off their mean, at most 2 % \(common practice\)\. 160 V at rated stator voltage against 160 V on the plate: 0 %, within 5 %/,
    ],
    [spread(2), 'pass', /2 % off their mean, at most 2 %/],
    [spread(2.1), 'attention', /2\.1 % off their mean, at most 5 % .*Turn the rotor by a tooth and repeat/],
    [spread(5.1), 'fail', /5\.1 % off their mean, above 5 % .*Turn the rotor by a tooth/],
    [{ ...spread(3), limits: { 'rings.unbalancePassPercent': 3 } }, 'pass', /at most 3 %/],
    [{ ...spread(4), limits: { 'rings.unbalanceFailPercent': 3.5 } }, 'fail', /above 3\.5 %/],
    [{ plateV: 168.5 }, 'attention', /-5\.04 %, within 10 %/],
    [{ plateV: 178 }, 'fail', /-10\.1 %, above 10 %/],
    [{ plateV: 168.5, limits: { 'rings.voltsPassPercent': 6 } }, 'pass', /within 6 %/],
    [{ plateV: 178, limits: { 'rings.voltsFailPercent': 11 } }, 'attention', /within 11 %/],
    [{ plateV: undefined, designV: 160 }, 'pass', /against 160 V by the two windings/],
    [{ designV: 300 }, 'pass', /on the plate/],
    [{ plateV: undefined }, 'cannot judge', /neither plate nor windings say what it should be/],
    [{ ratedV: undefined }, 'pass', /^Ring voltages[^V]*$/],
    [{ klV: undefined }, 'cannot judge', /^All three ring pairs are needed/],
    [{ lmV: undefined }, 'cannot judge', /^All three ring pairs are needed/],
    [{ mkV: undefined }, 'cannot judge', /^All three ring pairs are needed/],
    [{ appliedV: undefined }, 'cannot judge', /^The voltage on the stator is needed/],
    [{ appliedV: undefined, supplyV: [159, 160, 161] }, 'pass', /160 V at rated/],
    [{ klV: 0, lmV: 0, mkV: 0 }, 'fail', /^No ring pair shows a voltage/],
    [{ supplyV: [161.6, 160, 158.4] }, 'pass', /at most 2 %/],
    [{ supplyV: [161.7, 160, 158.3] }, 'cannot judge', /^The supply is 1\.06 % unbalanced, more than 1 %/],
    [{ supplyV: [161.7, 160, 158.3], limits: { 'rings.supplyPercent': 2 } }, 'pass', /at most/],
    [{ appliedV: 59.9 }, 'cannot judge', /^The stator had 15 % of its rated voltage; 15 to 100 %/],
    [{ appliedV: 60, klV: 24, lmV: 24, mkV: 24 }, 'pass', /160 V at rated/],
    [{ appliedV: 400.1 }, 'cannot judge', /^The stator had 100 % of/],
    [{ calibrationExpired: true }, 'attention', /out of calibration/],
    // a phase turned: two pairs at 0.577 of the third; its size says nothing then
    [
      { klV: 64 / Math.sqrt(3), mkV: 64 / Math.sqrt(3) },
      'fail',
      /the rotor phase at ring K is turned\. \d+\.?\d* V at rated stator voltage\.$/,
    ],
    [{ lmV: 2, mkV: 2 }, 'fail', /Two pairs dead: the phase of ring M is open/],
  ] as const)('%j: %s', (more, verdict, reason) => {
    const x = run(more);
    expect([x.verdict, x.reason]).toEqual([verdict, expect.stringMatching(reason)]);
  });
  it('keeps what it found', () => {
    const x = run({ ...spread(1), plateV: 158 });
    expect(x.unbalancePercent).toBeCloseTo(1, 9);
    expect(x.atRatedV).toBeCloseTo(160, 9);
    expect(x.offPercent).toBeCloseTo(100 * (160 / 158 - 1), 9);
    expect(run({ plateV: undefined })).not.toHaveProperty('offPercent');
    expect(run({ ratedV: undefined })).not.toHaveProperty('atRatedV');
  });
  const t = 1 / Math.sqrt(3);
  it.each([
    [1, 1, 1, undefined],
    [t, 1, t, /ring K is turned/],
    [t, t, 1, /ring L is turned/],
    [1, t, t, /ring M is turned/],
    [t * 1.039, 1, t, /ring K/],
    [t * 1.041, 1, t, undefined],
    [t * 0.961, 1, t, /ring K/],
    [t * 0.959, 1, t, undefined],
    [0.049, 0.049, 1, /ring L is open/],
    [1, 0.049, 0.049, /ring M is open|ring K is open|ring L is open/],
    [0.05, 0.05, 1, undefined],
    [0.049, 1, 1, undefined],
  ] as const)('pairs %d, %d, %d: %s', (kl, lm, mk, said) => {
    const got = ringPattern(kl, lm, mk);
    if (said === undefined) expect(got).toBeUndefined();
    else expect(got).toMatch(said);
  });
  it('two dead pairs meet at the ring whose phase is open', () => {
    // K–L alone lives: L–M and M–K are dead, they meet at M
    expect(ringPattern(1, 0, 0)).toMatch(/ring M is open/);
    expect(ringPattern(0, 1, 0)).toMatch(/ring K is open/);
    expect(ringPattern(0, 0, 1)).toMatch(/ring L is open/);
    expect(ringPattern(t * 1.05, 1, t, { 'resistance.ratioNearPercent': 6 })).toMatch(/ring K is turned/);
  });
  it('hands over readings, plate, and nothing of a winding that is not recorded', () => {
    const of = (values: object, c = context()) => ringVoltageTest.input?.(values as never, c);
    const values = { kl: 1, lm: 2, mk: 3, applied: 100, u12: 99, u23: 100, u31: 101 };
    expect(of(values)).toEqual({
      klV: 1,
      lmV: 2,
      mkV: 3,
      appliedV: 100,
      supplyV: [99, 100, 101],
      ratedV: 400,
      plateV: 160,
      designV: undefined,
    });
    for (const missing of ['u12', 'u23', 'u31'])
      expect(of({ ...values, [missing]: undefined })).toMatchObject({ supplyV: undefined });
    // a record that is not whole gives no design voltage, and no error
    expect(of(values, context({ record: {}, rotor: {} }))).toMatchObject({ designV: undefined });
    expect(ringVoltageTest.for?.({ machine: 'slip-ring', record: undefined })).toBe(true);
    expect(ringVoltageTest.for?.({ machine: 'three-phase', record: undefined })).toBe(false);
  });
});

describe('rotor resistance at the bench', () => {
  it('reads pairs of rings, and says when brushes lie in the path', () => {
    const of = (where: string) =>
      rotorResistanceTest.input?.({ where, ab: 0.1, bc: 0.2, ca: 0.3, windingC: 20, bcOverRange: true }, context());
    expect(of('on the rings, brushes lifted')).toMatchObject({
      reading: 'lead to lead',
      abOhm: 0.1,
      bcOhm: 0.2,
      caOhm: 0.3,
      open: ['bc'],
      throughBrushes: false,
    });
    expect(of('through the brushes')).toMatchObject({ throughBrushes: true });
    expect(rotorResistanceTest.for?.({ machine: 'slip-ring', record: undefined })).toBe(true);
    expect(rotorResistanceTest.for?.({ machine: 'two-speed', record: undefined })).toBe(false);
    expect(rotorResistanceTest.part).toBe('wound-rotor');
  });
});

describe('swing of the rotor test: each rule just inside, at and just outside', () => {
  /** currents round one ampere with this swing per cent */
  const swung = (percent: number) => ({ maxA: 1 + percent / 200, minA: 1 - percent / 200 });
  const run = (more: object) => worked(rotorSwing, { poles: 4, ...more });
  it.each([
    [swung(3), 'pass', /^Swing 3 %, at most 3 % .*this is no proof of health\.$/],
    [swung(3.01), 'attention', /^Swing 3\.01 %, above 3 %[^.]*\)\.$/],
    [swung(5), 'attention', /^Swing 5 %, above 3 %/],
    [
      swung(5.01),
      'fail',
      /^Swing 5\.01 %, above 5 % .* Repeat on another pair of leads before the rotor is condemned\.$/,
    ],
    [{ ...swung(4), limits: { 'rotor.swingPassPercent': 4 } }, 'pass', /at most 4 %/],
    [{ ...swung(6), limits: { 'rotor.swingFailPercent': 6 } }, 'attention', /above 3 %/],
    [{ ...swung(4), dips: 4 }, 'attention', / 4 dips for 4 poles: a bar that is open/],
    [{ ...swung(4), dips: 3 }, 'attention', /^(?!.*dips)/],
    [{ ...swung(4), dips: 4, poles: undefined }, 'attention', /^(?!.*dips)/],
    [
      { ...swung(4), dips: 3, pattern: 'a dip at each pole' },
      'attention',
      /A dip at each pole is the mark of an open bar/,
    ],
    [{ ...swung(4), dips: 4, pattern: 'one swing a turn' }, 'attention', /4 dips for 4 poles/],
    [{ ...swung(4), pattern: 'fine ripple of the slots' }, 'attention', /slotting, not a fault/],
    [{ ...swung(4), pattern: 'one swing a turn' }, 'attention', /eccentricity/],
    [{ ...swung(4), pattern: 'not looked at' }, 'attention', /\)\.$/],
    [{ ...swung(2), calibrationExpired: true }, 'attention', /out of calibration\.$/],
    [{ ...swung(6), calibrationExpired: true }, 'fail', /out of calibration\.$/],
    [{ maxA: 1 }, 'cannot judge', /^The largest and the smallest current/],
    [{ minA: 1 }, 'cannot judge', /^The largest and the smallest current/],
    [{ maxA: 0, minA: 0 }, 'cannot judge', /^Both currents must be above zero/],
    [{ maxA: 1, minA: 0 }, 'cannot judge', /^Both currents must be above zero/],
    [{ maxA: 1, minA: 1.1 }, 'cannot judge', /^The smallest current is above the largest/],
    [{ maxA: 1, minA: 1 }, 'pass', /^Swing 0 %/],
  ] as const)('%j: %s', (more, verdict, reason) => {
    const x = run(more);
    expect([x.verdict, x.reason]).toEqual([verdict, expect.stringMatching(reason)]);
  });
  it('hands over readings and the poles of record or plate', () => {
    const of = (c = context()) => rotorSwingTest.input?.({ maxA: 2, minA: 1, dips: 6, pattern: 'one swing a turn' }, c);
    expect(of()).toEqual({ maxA: 2, minA: 1, dips: 6, pattern: 'one swing a turn', poles: 6 });
    expect(of(context({ record: { poles: 8 } }))).toMatchObject({ poles: 8 });
  });
});

describe('a reading below the range of the instrument: each rule just inside, at and just outside', () => {
  const below = (megohm: number, more: object = {}) =>
    worked(insulationResistance, {
      kind: 'random-wound',
      ratedV: 400,
      testV: 500,
      windingC: 40,
      r1min: { megohm, underRange: true },
      ...more,
    });
  it.each([
    [0.1, {}, 'fail', /^R at 1 min below 0\.1 MΩ, the lowest range: earth fault.*No higher voltage\. Part the phases/],
    [0.101, {}, 'fail', /^R at 1 min below 0\.101 MΩ, below 0\.101 MΩ at 40 °C .*No higher voltage\. Part/],
    [0.2, { limits: { 'ir.earthFaultMegohm': 0.2 } }, 'fail', /earth fault/],
    [4.99, {}, 'fail', /minimum 5 MΩ/],
    [5, {}, 'cannot judge', /too coarse: use a lower one\.$/],
    [9.99, { measured: 'one phase, others earthed' }, 'fail', /below 4.995 MΩ at 40/],
    [10, { measured: 'one phase, others earthed' }, 'cannot judge', /too coarse/],
    [14.99, { measured: 'one phase, others guarded' }, 'fail', /minimum/],
    [15, { measured: 'one phase, others guarded' }, 'cannot judge', /too coarse/],
    [1, { kind: undefined }, 'cannot judge', /^The kind of winding decides/],
    [1, { ratedV: undefined }, 'cannot judge', /^The rated voltage decides/],
    [1, { windingC: undefined }, 'cannot judge', /at an unknown temperature it cannot be corrected \(10 to 85 °C\)/],
    [1, { windingC: 9.9 }, 'cannot judge', /winding at 9\.9 °C it cannot be corrected/],
    [1, { windingC: 85.1 }, 'cannot judge', /it cannot be corrected/],
    [0.5, { windingC: 85 }, 'fail', /2\.73 MΩ at 40 °C/],
    [1, { windingC: 10 }, 'fail', /MΩ at 40 °C/],
    // close to the dew point: 40 °C air at 60 % dews at 30.8 °C
    [1, { windingC: 33.6, airC: 40, humidityPercent: 60 }, 'cannot judge', /Close to the dew point of 30\.8 °C/],
    [1, { windingC: 33.8, airC: 40, humidityPercent: 60 }, 'fail', /No higher voltage/],
    [
      1,
      { windingC: 33.8, airC: 40, humidityPercent: 60, limits: { 'ir.dewPointMarginK': 4 } },
      'cannot judge',
      /dew point/,
    ],
    [1, { windingC: 33.6, airC: 40 }, 'fail', /No higher voltage/],
    [1, { windingC: 33.6, humidityPercent: 60 }, 'fail', /No higher voltage/],
    // old insulation while hot: ten times the factor at 73.2 °C
    [0.1, { system: 'thermoplastic', windingC: 73 }, 'fail', /^(?!.*cool it)/],
    [0.1, { system: 'thermoplastic', windingC: 73.3 }, 'fail', /cool it below 60 °C/],
    [0.3, { system: 'thermoplastic', windingC: 73.3 }, 'fail', /cool it below 60 °C/],
    [0.1, { system: 'thermosetting', windingC: 85 }, 'fail', /^(?!.*cool it)/],
  ] as const)('below %d MΩ, %j: %s', (megohm, more, verdict, reason) => {
    const x = below(megohm, more);
    expect([x.verdict, x.reason, x.mayTestHighVoltage]).toEqual([verdict, expect.stringMatching(reason), false]);
  });
  it('keeps the factor and the minimum, where there are any', () => {
    expect(below(0.1).factor).toBe(1);
    expect(below(0.1, { windingC: undefined })).not.toHaveProperty('factor');
    expect(below(1)).toMatchObject({ factor: 1, minimumMegohm: 5 });
    expect(below(1, { windingC: 33.6, airC: 40, humidityPercent: 60 }).dewPointC).toBeCloseTo(30.75, 1);
  });
});
