import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import {
  againstPlan,
  deltaPhases,
  unbalancePercent,
  windingResistance,
  windingResistanceTest,
} from './windingResistance.ts';

const at20 = { abOhm: 1, bcOhm: 1, caOhm: 1, windingC: 20, connection: 'wye' };
const run = (more: object = {}) => worked(windingResistance, { ...at20, ...more });
/** three readings with this unbalance per cent round one ohm */
const uneven = (percent: number) => ({
  abOhm: 1 + percent / 100,
  bcOhm: 1 - percent / 200,
  caOhm: 1 - percent / 200,
});
const planned = (ratio: number, more: object = {}) =>
  run({ abOhm: ratio, bcOhm: ratio, caOhm: ratio, planned20Ohm: 1, newWinding: true, ...more });

describe('winding resistance: each rule just inside, at and just outside', () => {
  it.each([
    [uneven(2), 'pass', /^Unbalance lead to lead 2 %, at most 2 % \(random-wound, common practice\)\./],
    [uneven(2.01), 'attention', /^Unbalance lead to lead 2\.01 %, at most 5 %/],
    [uneven(5), 'attention', /5 %, at most 5 %/],
    [uneven(5.01), 'fail', /5\.01 %, above 5 %/],
    [{ ...uneven(1), windingKind: 'form-wound' }, 'pass', /at most 1 % \(form-wound/],
    [{ ...uneven(1.01), windingKind: 'form-wound' }, 'attention', /at most 2 %/],
    [{ ...uneven(2.01), windingKind: 'form-wound' }, 'fail', /above 2 %/],
    [{ ...uneven(3), limits: { 'resistance.randomPassPercent': 3 } }, 'pass', /at most 3 %/],
    [{ ...uneven(3), limits: { 'resistance.randomFailPercent': 2.5 } }, 'fail', /above 2\.5 %/],
    [{ ...uneven(1.5), windingKind: 'form-wound', limits: { 'resistance.formPassPercent': 1.5 } }, 'pass', /1\.5 %/],
    [{ ...uneven(1.9), windingKind: 'form-wound', limits: { 'resistance.formFailPercent': 1.8 } }, 'fail', /1\.8 %/],
    // the instrument: one digit at most half of what passes
    [{ resolutionOhm: 0.01 }, 'pass', /^Unbalance/],
    [
      { resolutionOhm: 0.0101 },
      'cannot judge',
      /^One digit of the instrument is 1 % .*half the limit of 2 % .*finer range/,
    ],
    [{ resolutionOhm: 0.0051, windingKind: 'form-wound' }, 'cannot judge', /limit of 1 %/],
    // against the plan
    [{ planned20Ohm: 1, newWinding: true, ...uneven(0) }, 'pass', /planned: 0 % off, within 3 %/],
    // mixed metals, cold air, calibration
    [{ material: 'mixed' }, 'attention', /Mixed metals have no single temperature constant/],
    [{ ambientC: 18 }, 'pass', /^Unbalance/],
    [{ ambientC: 17.9 }, 'attention', /Winding 20 °C, air 17\.9 °C: more than 2 K apart is not a cold reading/],
    [{ ambientC: 22 }, 'pass', /^Unbalance/],
    [{ ambientC: 22.1 }, 'attention', /not a cold reading/],
    [{ ambientC: 17, limits: { 'wr.coldAirK': 3 } }, 'pass', /^Unbalance/],
    [{ calibrationExpired: true }, 'attention', /out of calibration/],
    // what cannot be judged
    [{ abOhm: undefined }, 'cannot judge', /^All three readings are needed, lead to lead\.$/],
    [{ bcOhm: undefined, reading: 'phase by phase', othersOpen: true }, 'cannot judge', /needed, one of each phase\.$/],
    [{ caOhm: undefined }, 'cannot judge', /^All three/],
    [{ abOhm: 0 }, 'cannot judge', /^Every reading must be above zero/],
    [{ bcOhm: 0 }, 'cannot judge', /^Every reading must be above zero/],
    [{ caOhm: 0 }, 'cannot judge', /^Every reading must be above zero/],
    [{ windingC: undefined }, 'cannot judge', /^The winding temperature is needed/],
    [{ throughBrushes: true }, 'cannot judge', /^Brushes and their contact/],
    [{ reading: 'phase by phase' }, 'cannot judge', /^Phase by phase, say first/],
    [{ abOhm: 2 }, 'cannot judge', /^The three readings cannot come from one winding/],
    [{ abOhm: 2, connection: 'delta' }, 'cannot judge', /^The three readings cannot come from one winding/],
    [{ abOhm: 2, connection: undefined }, 'fail', /^Unbalance/],
    [{ abOhm: 2, reading: 'phase by phase', othersOpen: true }, 'fail', /over phases/],
  ] as const)('%j: %s', (more, verdict, reason) => {
    const x = run(more);
    expect([x.verdict, x.reason]).toEqual([verdict, expect.stringMatching(reason)]);
  });

  it.each([
    [1.03, {}, 'pass', /: 3 % off, within 3 %/],
    [1.031, {}, 'attention', /: 3\.1 % off, within 5 %/],
    [1.05, {}, 'attention', /: 5 % off, within 5 %/],
    [1.051, {}, 'fail', /: 5\.1 % off, above 5 %/],
    [0.97, {}, 'pass', /3 % off/],
    [0.969, {}, 'attention', /3\.1 % off/],
    [0.949, {}, 'fail', /5\.1 % off, above 5 %/],
    [1.051, { meanTurnEstimated: true }, 'attention', /The mean turn was only estimated\./],
    [1.02, { meanTurnEstimated: true }, 'pass', /within 3 %[^.]*\.$/],
    [1.04, { limits: { 'resistance.planPassPercent': 4 } }, 'pass', /within 4 %/],
    [1.04, { limits: { 'resistance.planFailPercent': 3.5 } }, 'fail', /above 3\.5 %/],
    // one strand of four: 4/3 of the resistance, ± 4 %
    [4 / 3, { strandsInHand: 4 }, 'fail', /One of 4 strands missing or broken\?/],
    [(4 / 3) * 1.04, { strandsInHand: 4 }, 'fail', /One of 4 strands/],
    [(4 / 3) * 0.96, { strandsInHand: 4 }, 'fail', /One of 4 strands/],
    [(4 / 3) * 1.039, { strandsInHand: 4 }, 'fail', /One of 4 strands/],
    [(4 / 3) * 1.041, { strandsInHand: 4 }, 'fail', /above 5 % \(common practice\)\. Unbalance/],
    [(4 / 3) * 0.961, { strandsInHand: 4 }, 'fail', /One of 4 strands/],
    [(4 / 3) * 0.959, { strandsInHand: 4 }, 'fail', /above 5 % \(common practice\)\. Unbalance/],
    [4 / 3, { strandsInHand: 5 }, 'fail', /above 5 % \(common practice\)\. Unbalance/],
    [1.25, { strandsInHand: 5 }, 'fail', /One of 5 strands/],
    [4 / 3, {}, 'fail', /above 5 % \(common practice\)\. Unbalance/],
  ] as const)('%d of the plan, %j: %s', (ratio, more, verdict, reason) => {
    const x = planned(ratio, more);
    expect([x.verdict, x.reason]).toEqual([verdict, expect.stringMatching(reason)]);
    expect(x.againstPlanPercent).toBeCloseTo(100 * (ratio - 1), 9);
  });
  it('what is read of an old winding is compared, never condemned by its record', () => {
    const x = planned(1.2, { newWinding: false });
    expect([x.verdict, x.againstPlanPercent]).toEqual(['pass', expect.closeTo(20, 9)]);
    expect(x.reason).not.toMatch(/plan|record/);
    expect(planned(4, { newWinding: false }).reason).toMatch(/against 1 Ω by the record, ratio 4: half the circuits/);
    expect(planned(4).reason).toMatch(/against 1 Ω planned, ratio 4: half the circuits/);
    expect(planned(0.5).reason).toMatch(/ratio 0\.5: the readings look like phases read alone/);
  });
  it('the connection of the plan decides the ratio where that of the reading is another', () => {
    // a plan in delta, read as a wye: three times the pairs
    expect(planned(3, { plannedBy: 'delta' }).reason).toMatch(/connected in wye instead of delta/);
    expect(planned(3).reason).not.toMatch(/instead/);
    expect(planned(3, { connection: 'delta' }).reason).toMatch(/connected in wye instead of delta/);
    expect(planned(1 / 3, { connection: undefined }).reason).toMatch(/connected in delta instead of wye/);
  });
  it('above 5 % unbalance the pattern is named, at 5 % the ratio', () => {
    const open = { abOhm: 1.5, bcOhm: 1.5, caOhm: 1, connection: 'delta' };
    expect(run(open).reason).toMatch(/two circuits one is open/);
    expect(run({ ...open, reading: 'phase by phase', othersOpen: true }).reason).not.toMatch(/two circuits/);
    const four = (percent: number) =>
      run({
        ...Object.fromEntries(Object.entries(uneven(percent)).map(([k, v]) => [k, 4 * v])),
        planned20Ohm: 1,
        newWinding: true,
      }).reason;
    expect(four(5)).toMatch(/half the circuits/);
    expect(four(5.1)).not.toMatch(/half the circuits/);
    expect(run({ ...open, limits: { 'resistance.patternPercent': 40 } }).reason).not.toMatch(/two circuits/);
  });
});

describe('winding resistance, worked by hand', () => {
  it('to 20 °C by the constant of the metal, phases of a wye', () => {
    const x = run({ abOhm: 1.012, bcOhm: 1.034, caOhm: 1.021, windingC: 30 });
    const factor = 255 / 265;
    expect(x.correctedOhm?.map((r) => r.toFixed(6))).toEqual([1.012, 1.034, 1.021].map((r) => (r * factor).toFixed(6)));
    expect(x.meanOhm).toBeCloseTo(3.067 / 3, 12);
    expect(x.correctedMeanOhm).toBeCloseTo((3.067 / 3) * factor, 12);
    expect(x.phasesOhm?.map((r) => r.toFixed(4))).toEqual(['0.4995', '0.5125', '0.5215']);
    expect(x.phaseUnbalancePercent).toBeCloseTo(100 * (1 - 0.4995 / (1.5335 / 3)), 9);
    expect(x.reason).toMatch(/Phases 0\.4995, 0\.5125, 0\.5215 Ω, unbalance 2\.28 %\./);
    expect(run({ windingC: 30, material: 'aluminium' }).correctedMeanOhm).toBeCloseTo(245 / 255, 9);
    expect(run({ windingC: 30, constantC: 234.5 }).correctedMeanOhm).toBeCloseTo(254.5 / 264.5, 9);
    expect(run({ windingC: 30, referenceC: 25 }).correctedMeanOhm).toBeCloseTo(260 / 265, 9);
    // the plan stands at 20 °C whatever the reference
    expect(planned(1, { windingC: 30, referenceC: 75 }).againstPlanPercent).toBeCloseTo(100 * (255 / 265 - 1), 9);
  });
  it('phases of a delta: branches 3, 4, 5 read back', () => {
    const [ab, bc, ca] = [(3 * 9) / 12, (4 * 8) / 12, (5 * 7) / 12];
    expect(deltaPhases(ab, bc, ca)?.map((r) => r.toFixed(9))).toEqual(['3.000000000', '4.000000000', '5.000000000']);
    expect(deltaPhases(2, 1, 1)).toBeUndefined();
    expect(deltaPhases(1, 2, 1)).toBeUndefined();
    expect(deltaPhases(1, 1, 2)).toBeUndefined();
    const x = run({ abOhm: ab, bcOhm: bc, caOhm: ca, connection: 'delta' });
    expect(x.phaseUnbalancePercent).toBeCloseTo(25, 9);
    expect(x.phasesOhm?.[2]).toBeCloseTo(5, 9);
    expect(run({ connection: undefined })).not.toHaveProperty('phasesOhm');
    expect(run({ connection: undefined })).not.toHaveProperty('phaseUnbalancePercent');
    expect(run()).not.toHaveProperty('againstPlanPercent');
  });
  it('readings that no winding gives keep what was read', () => {
    const x = run({ abOhm: 2.5 });
    expect([x.meanOhm, x.correctedOhm]).toEqual([1.5, [2.5, 1, 1]]);
    expect(x).not.toHaveProperty('unbalancePercent');
  });
  it('unbalance is the largest deviation from the mean, below it too', () => {
    expect(unbalancePercent([1, 1, 0.7])).toBeCloseTo((100 * 0.2) / 0.9, 9);
    expect(unbalancePercent([1, 1, 1.3])).toBeCloseTo((100 * 0.2) / 1.1, 9);
  });
  it('against the plan says the bound that counts', () => {
    const of = (off: number, more: object = {}) =>
      againstPlan({ told: 'R', off, ratio: 1 + off / 100, meanTurnEstimated: false, limits: {}, ...more }).reason;
    expect(of(2)).toBe('R: 2 % off, within 3 % (common practice).');
    expect(of(4)).toBe('R: 4 % off, within 5 % (common practice).');
    expect(of(6)).toBe('R: 6 % off, above 5 % (common practice).');
    expect(of(6, { meanTurnEstimated: true })).toBe(
      'R: 6 % off, above 5 % (common practice). The mean turn was only estimated.',
    );
  });
});

describe('winding resistance at the bench', () => {
  const context = (more: object = {}) =>
    ({
      nameplate: {},
      record: { kind: 'three-phase', connection: 'wye', leads: '6', material: 'aluminium' },
      figures: { phaseResistance20Ohm: 0.6, meanTurnFrom: 'geometry', wiresInHand: 3 },
      newWinding: true,
      machine: 'three-phase',
      limits: {},
      ...more,
    }) as never;
  const read = { ab: 1.1, bc: 1.2, ca: 1.3, windingC: 21, ambientC: 20, resolution: 0.001 };
  it('hands over readings, what is open, and what its winding should read', () => {
    expect(windingResistanceTest.input?.({ ...read, bcOverRange: true }, context())).toEqual({
      reading: 'lead to lead',
      abOhm: 1.1,
      bcOhm: 1.2,
      caOhm: 1.3,
      open: ['bc'],
      windingC: 21,
      ambientC: 20,
      resolutionOhm: 0.001,
      connection: 'wye',
      material: 'aluminium',
      windingKind: 'random-wound',
      planned20Ohm: 1.2,
      meanTurnEstimated: true,
      newWinding: true,
      strandsInHand: 3,
      othersOpen: undefined,
    });
    const phases = windingResistanceTest.input?.({ ...read, reading: 'phase by phase', othersOpen: 'yes' }, context());
    expect(phases).toMatchObject({ reading: 'phase by phase', planned20Ohm: 0.6, othersOpen: true, open: [] });
    expect(windingResistanceTest.input?.({ ...read, othersOpen: 'no' }, context())).toMatchObject({
      othersOpen: false,
    });
    const bare = windingResistanceTest.input?.(
      read,
      context({ record: undefined, figures: undefined, newWinding: false }),
    );
    expect(bare).toMatchObject({
      connection: undefined,
      planned20Ohm: undefined,
      material: 'copper',
      meanTurnEstimated: false,
      windingKind: 'random-wound',
      newWinding: false,
    });
    const form = context({
      record: { kind: 'form-wound', connection: 'delta' },
      figures: { phaseResistance20Ohm: 0.6 },
    });
    expect(windingResistanceTest.input?.(read, form)).toMatchObject({
      windingKind: 'form-wound',
      planned20Ohm: expect.closeTo(0.4, 9),
      meanTurnEstimated: false,
    });
    expect(windingResistanceTest.input?.(read, context({ figures: {} }))).toMatchObject({ planned20Ohm: undefined });
  });
  it('six and twelve leads are asked how they were read; single-phase motors have a form of their own', () => {
    const hides = (leads?: string) =>
      windingResistanceTest.hides?.({ machine: 'three-phase', record: leads ? ({ leads } as never) : undefined });
    expect([hides('6'), hides('12')]).toEqual([[], []]);
    expect([hides('3'), hides('9'), hides()]).toEqual([
      ['reading', 'othersOpen'],
      ['reading', 'othersOpen'],
      ['reading', 'othersOpen'],
    ]);
    const is = (machine: string) => windingResistanceTest.for?.({ machine: machine as never, record: undefined });
    expect([is('three-phase'), is('two-speed'), is('single-phase')]).toEqual([true, true, false]);
  });
});
