import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { draws } from '../../../../scripts/testing/draws.ts';
import { polar, type Complex } from '../winding/complex.ts';
import { conditionOf, influenceOf, responseOf } from './influence.ts';
import { atPlanes, vectorOf, type Vector } from './planes.ts';
import { balanceEntrySchema, balanceNow, balanceSession, depthFor, type BalanceEntry } from './session.ts';
import {
  balanceSetUpSchema,
  guideOf,
  judgeSetUp,
  toleranceOf,
  USUAL_GRADE,
  ROTOR_KINDS,
  type BalanceSetUp,
} from './setUp.ts';
import { seeded, standRun, STAND_NOISE, type Heavy, type StandNoise, type StandRotor } from './stand.ts';

const QUIET: StandNoise = { gain: 0, phaseDeg: 0, mmS: 0 };
const setUp = (more: object = {}): BalanceSetUp =>
  balanceSetUpSchema.parse({
    kind: 'cage rotor',
    massKg: 20,
    grade: 2.5,
    serviceRpm: 3000,
    balancingRpm: 900,
    bearingAMm: 0,
    bearingBMm: 400,
    centreMm: 200,
    planes: [
      { xMm: 80, radiusMm: 60 },
      { xMm: 320, radiusMm: 60 },
    ],
    ...more,
  });
const rotor: StandRotor = {
  massKg: 20,
  inertiaKgM2: 0.3,
  bearingAMm: 0,
  bearingBMm: 400,
  centreMm: 200,
  stiffness: [200000, 180000],
  damping: [60, 60],
};
const HIDDEN: Heavy[] = [
  { gMm: 900, angleDeg: 130, xMm: 80 },
  { gMm: 500, angleDeg: 300, xMm: 320 },
];
const entry = (e: object): BalanceEntry => balanceEntrySchema.parse(e);

/** A rotor on the simulated stand, balanced as a person would do what is said. */
function bench(
  of: BalanceSetUp,
  hidden: readonly Heavy[],
  seed = 1,
  noise: StandNoise = QUIET,
  on: StandRotor = rotor,
) {
  const random = seeded(seed);
  const heavy = [...hidden];
  const entries: BalanceEntry[] = [];
  const read = (extra: readonly Heavy[] = []): Vector[] =>
    standRun(on, of.balancingRpm, [...heavy, ...extra], random, noise).map(vectorOf);
  const now = () => balanceNow(of, entries);
  return {
    entries,
    heavy,
    now,
    read,
    run: () => entries.push(entry({ kind: 'run', readings: read() })),
    trial: (plane: number, gMm: number, angleDeg: number, staysIn = false) => {
      const extra = { gMm, angleDeg, xMm: of.planes[plane - 1]?.xMm ?? 0 };
      entries.push(entry({ kind: 'trial', plane, gMm, angleDeg, readings: read([extra]), staysIn }));
      if (staysIn) heavy.push(extra);
    },
    /** fixes what is said */
    correct: () => {
      const is = now();
      const masses = (is.next ?? []).flatMap((n) => {
        const p = of.planes[n.plane - 1];
        return n.masses.map((m) => ({
          plane: n.plane,
          angleDeg: m.angleDeg,
          massG: p?.way === 'add' ? m.massG : -m.massG,
          radiusMm: p?.radiusMm ?? 1,
        }));
      });
      entries.push(entry({ kind: 'correction', masses }));
      for (const m of masses)
        heavy.push({ gMm: m.massG * m.radiusMm, angleDeg: m.angleDeg, xMm: of.planes[m.plane - 1]?.xMm ?? 0 });
      return is;
    },
  };
}
const guide = guideOf(setUp());
/** Whether the last trial altered neither amplitude nor phase of any bearing enough. */
function weakly(entries: readonly BalanceEntry[]): boolean {
  const [first] = entries;
  const last = entries.at(-1);
  if (first?.kind !== 'run' || last?.kind !== 'trial') return false;
  return last.readings.every((r, i) => {
    const { percent, deg } = responseOf(
      polar(first.readings[i]?.size ?? 0, first.readings[i]?.angleDeg ?? 0),
      polar(r.size, r.angleDeg),
    );
    return percent < 25 && deg < 30;
  });
}

describe('a balance in two planes, from set-up to verdict', () => {
  it('goes from run to run, and without noise is inside after one correction', () => {
    const b = bench(setUp(), HIDDEN);
    expect(b.now()).toMatchObject({ stage: 'first run', verdict: 'cannot judge' });
    b.run();
    expect(b.now()).toMatchObject({ stage: 'trial 1', reason: expect.stringMatching(/plane 1/) as string });
    b.trial(1, 600, 0);
    expect(b.now().stage).toBe('trial 2');
    b.trial(2, 600, 90);
    const before = b.now();
    expect(before.stage).toBe('correct');
    expect(before.verdict).toBe('fail');
    expect(before.unbalance?.map((u) => [u.size.toFixed(3), u.angleDeg.toFixed(3)])).toEqual([
      ['900.000', '130.000'],
      ['500.000', '300.000'],
    ]);
    expect(before.next?.[0]).toMatchObject({ plane: 1, says: 'Plane 1, radius 60 mm: fix 15 g at 310°.' });
    expect(before.next?.[1]?.says).toBe('Plane 2, radius 60 mm: fix 8.333 g at 120°.');
    expect(before.expected).toBeCloseTo(0, 9);
    b.correct();
    const waits = b.now();
    expect(waits.stage).toBe('check run');
    expect(waits.expected).toBeCloseTo(0, 9);
    expect(waits.inPlanes[0]).toMatchObject({ size: expect.closeTo(900, 6) as number });
    b.run();
    const done = b.now();
    expect([done.stage, done.verdict]).toEqual(['done', 'pass']);
    expect(done.history).toHaveLength(2);
    expect(done.history[1]?.reductionPercent).toBeCloseTo(100, 6);
    expect(done.reason).toMatch(
      /^Bearing A .* of 79\.58 g·mm, Bearing B .*: G 2\.5 at 3000 r\/min \(ISO 21940-11\)\.$/,
    );
  });
  it('material is taken away on the heavy side; what is left is the same', () => {
    const drill = (way: string) => ({
      planes: [80, 320].map((xMm) => ({
        xMm,
        radiusMm: 60,
        way,
        drillMm: 12,
        widthMm: 6,
        lengthMm: 60,
        mostDepthMm: 30,
      })),
    });
    for (const way of ['drill', 'mill a flat', 'mill tooth tops']) {
      const b = bench(setUp(drill(way)), HIDDEN);
      b.run();
      b.trial(1, 600, 0);
      b.trial(2, 600, 90);
      const is = b.correct();
      expect(is.next?.[0]?.atDeg).toBeCloseTo(130, 3);
      expect(is.next?.[0]?.masses[0]?.depthMm).toBeGreaterThan(0);
      expect(is.next?.[0]?.says).toMatch(/mm deep at 130°/);
      b.run();
      expect([way, b.now().verdict]).toEqual([way, 'pass']);
    }
    const p = setUp(drill('drill')).planes[0];
    expect(p && depthFor(p, 1e6)).toBeUndefined();
    expect(depthFor({ ...(p as never as object), way: 'add' } as never, 100)).toBeUndefined();
  });
  it('on the places and with the masses that there are; taken places are left out', () => {
    const places = { places: 12, firstDeg: 10, taken: [1, 2], mostG: 12 };
    const b = bench(
      setUp({ planes: [80, 320].map((xMm) => ({ xMm, radiusMm: 60, ...places })), stockG: [1, 2, 5, 10] }),
      HIDDEN,
    );
    b.run();
    b.trial(1, 600, 0);
    b.trial(2, 600, 90);
    const is = b.correct();
    for (const n of is.next ?? [])
      for (const m of n.masses) {
        expect([1, 2, 5, 10]).toContain(m.massG);
        expect([1, 2]).not.toContain(m.place);
        expect(m.angleDeg).toBeCloseTo((10 + 30 * ((m.place ?? 0) - 1)) % 360, 9);
      }
    expect(is.expected).toBeLessThanOrEqual(0.3);
    b.run();
    const done = b.now();
    expect(done.stage).toBe('done');
    const worst = Math.max(...(done.bearings ?? []).map((x) => x.gMm / x.allowedGMm));
    expect(worst).toBeCloseTo(is.expected ?? 0, 6);
  });
  it('trials that stay in are part of what is corrected', () => {
    const b = bench(setUp(), HIDDEN);
    b.run();
    b.trial(1, 600, 0, true);
    b.trial(2, 600, 90, true);
    expect(b.now().unbalance?.[0]).toMatchObject({ size: expect.closeTo(900, 6) as number });
    b.correct();
    b.run();
    expect(b.now().verdict).toBe('pass');
    expect(b.now().inPlanes[0]?.size).toBeCloseTo(900, 4);
  });
  it('a mass at a wrong place is entered as it is, and the next step is reckoned from there', () => {
    const b = bench(setUp(), HIDDEN);
    b.run();
    b.trial(1, 600, 0);
    b.trial(2, 600, 90);
    const wrong = { plane: 1, angleDeg: 130, massG: 15, radiusMm: 60 };
    b.entries.push(entry({ kind: 'correction', masses: [wrong] }));
    b.heavy.push({ gMm: 900, angleDeg: 130, xMm: 80 });
    expect(b.now().expected).toBeGreaterThan(5);
    b.run();
    const is = b.now();
    expect(is.stage).toBe('correct');
    expect(is.reason).toMatch(/took away -\d/);
    expect(is.unbalance?.[0]).toMatchObject({ size: expect.closeTo(1800, 3) as number });
    b.correct();
    b.run();
    expect(b.now().stage).toBe('done');
  });
  it('planes from a stand that separates them are taken as they are; inside at once is inside', () => {
    const of = setUp({ readings: 'unbalance per plane' });
    const direct = (...planes: [number, number][]) =>
      balanceNow(of, [entry({ kind: 'run', readings: planes.map(([size, angleDeg]) => ({ size, angleDeg })) })]);
    const found = direct([900, 130], [500, 300]);
    expect(found.stage).toBe('correct');
    expect(found.next?.[0]?.says).toMatch(/15 g at 310°/);
    const fine = direct([20, 130], [30, 300]);
    expect([fine.stage, fine.verdict]).toEqual(['done', 'pass']);
    expect(fine.reason).toMatch(/As found; no correction is needed/);
  });
  it('a disc in one plane, by both bearings', () => {
    const of = setUp({ planes: [{ xMm: 200, radiusMm: 60 }], bodyMm: 40 });
    const b = bench(of, [{ gMm: 700, angleDeg: 45, xMm: 200 }]);
    b.run();
    b.trial(1, 600, 200);
    expect(b.now().unbalance?.[0]).toMatchObject({ size: expect.closeTo(700, 4) as number });
    b.correct();
    b.run();
    expect(b.now()).toMatchObject({ stage: 'done', verdict: 'pass' });
    const noTrial = balanceNow(of, [
      entry({ kind: 'run', readings: [{ size: 4, angleDeg: 0 }] }),
      entry({ kind: 'trial', plane: 1, gMm: 300, angleDeg: 0, readings: [{ size: 4, angleDeg: 0 }] }),
    ]);
    expect(noTrial.reason).toMatch(/changed nothing/);
  });
  it('a meter that shows lag gives the same, its phases turned round', () => {
    const mirrored = (of: BalanceEntry): BalanceEntry =>
      of.kind === 'correction'
        ? of
        : { ...of, readings: of.readings.map((r) => ({ ...r, angleDeg: (360 - r.angleDeg) % 360 })) };
    const b = bench(setUp(), HIDDEN);
    b.run();
    b.trial(1, 600, 0);
    b.trial(2, 600, 90);
    const lag = balanceNow(setUp({ phase: 'lag' }), b.entries.map(mirrored));
    expect(lag.unbalance?.map((u) => u.angleDeg.toFixed(6))).toEqual(
      b.now().unbalance?.map((u) => u.angleDeg.toFixed(6)),
    );
    // mixed, it is another rotor, and the correction makes it worse: that is said
    const mixed = balanceNow(setUp(), b.entries.map(mirrored));
    expect(mixed.unbalance?.[0]?.angleDeg.toFixed(1)).not.toBe('130.0');
  });
});

describe('what is refused, and what is said', () => {
  const standing = (more: object, limits = {}) => judgeSetUp(setUp(more), limits);
  it.each([
    [{ seatTirMm: 0.01 }, undefined],
    [{ seatTirMm: 0.0101 }, 'fail'],
    [{ shaftEndTirMm: 0.05, shaftMm: 41 }, undefined],
    [{ shaftEndTirMm: 0.051, shaftMm: 41 }, 'fail'],
    [{ shaftEndTirMm: 0.051 }, 'fail'],
    [{ shaftEndTirMm: 0.075, shaftMm: 42 }, undefined],
    [{ shaftEndTirMm: 0.076, shaftMm: 42 }, 'fail'],
    [{ coreTirMm: 0.05, airGapMm: 0.5 }, undefined],
    [{ coreTirMm: 0.051, airGapMm: 0.5 }, 'attention'],
    [{ coreTirMm: 9 }, undefined],
    [{ commutatorTirMm: 0.05 }, undefined],
    [{ commutatorTirMm: 0.051 }, 'attention'],
    [{ criticalRpm: 4300 }, undefined],
    [{ criticalRpm: 4285 }, 'cannot judge'],
    [{ loose: true }, 'fail'],
    [{ balancingRpm: 3000 }, undefined],
    [{ balancingRpm: 3001 }, 'attention'],
    [
      {
        planes: [
          { xMm: 100, radiusMm: 60 },
          { xMm: 233.4, radiusMm: 60 },
        ],
      },
      undefined,
    ],
    [
      {
        planes: [
          { xMm: 100, radiusMm: 60 },
          { xMm: 233.3, radiusMm: 60 },
        ],
      },
      'attention',
    ],
    [{ planes: [{ xMm: 200, radiusMm: 60 }], bodyMm: 79.9 }, undefined],
    [{ planes: [{ xMm: 200, radiusMm: 60 }], bodyMm: 80 }, 'cannot judge'],
    [{ planes: [{ xMm: 200, radiusMm: 60 }] }, 'cannot judge'],
  ] as const)('%j: %s', (more, verdict) => expect(standing(more)[0]?.verdict).toBe(verdict));
  it('the limits are the shop’s', () => {
    expect(standing({ seatTirMm: 0.02 }, { 'route.journalTirMm': 0.02 })).toEqual([]);
    expect(standing({ commutatorTirMm: 0.08 }, { 'balance.commutatorTirMm': 0.1 })).toEqual([]);
    expect(standing({ criticalRpm: 4000 }, { 'balance.rigidPercent': 80 })).toEqual([]);
  });
  it('a bent shaft is refused before anything is spun; what it shifts is said', () => {
    const is = balanceNow(setUp({ seatTirMm: 0.02 }), []);
    expect([is.stage, is.verdict]).toEqual(['refused', 'fail']);
    // 20 kg and 0.010 mm of eccentricity (balancing reference, section 15)
    expect(is.reason).toMatch(/by 200 g·mm/);
  });
  const readAll = (more: object = {}, limits = {}) => {
    const b = bench(setUp(), HIDDEN);
    b.run();
    b.trial(1, 600, 0);
    b.trial(2, 600, 90);
    return balanceNow(setUp(more), b.entries, limits);
  };
  it('planes that cannot be told apart are refused above the condition, said above a third of it', () => {
    const b = bench(setUp(), HIDDEN);
    b.run();
    b.trial(1, 600, 0);
    b.trial(2, 600, 90);
    const [first, t1, t2] = b.entries as [BalanceEntry, BalanceEntry, BalanceEntry];
    const of = (e: BalanceEntry): Complex[] =>
      e.kind === 'correction' ? [] : e.readings.map((r) => polar(r.size, r.angleDeg));
    const condition = conditionOf(
      influenceOf(of(first), [
        { readings: of(t1), trial: polar(600, 0) },
        { readings: of(t2), trial: polar(600, 90) },
      ]),
    );
    expect(b.now().condition).toBeCloseTo(condition, 9);
    const at = (id: string, value: number) => balanceNow(setUp(), b.entries, { [id]: value });
    expect(at('balance.conditionMost', condition * 0.999).reason).toMatch(/cannot be told apart/);
    expect(at('balance.conditionMost', condition * 1.001).stage).toBe('correct');
    expect(at('balance.conditionAttention', condition * 0.999).notes[0]?.reason).toMatch(/hard to tell apart/);
    expect(at('balance.conditionAttention', condition * 1.001).notes).toEqual([]);
  });
  it('a trial too weak is said', () => {
    const b = bench(setUp(), HIDDEN);
    b.run();
    b.trial(1, 20, 0);
    b.trial(2, 600, 90);
    expect(b.now().notes[0]).toMatchObject({
      verdict: 'attention',
      reason: expect.stringMatching(/trial in plane 1/) as string,
    });
    expect(readAll().notes).toEqual([]);
  });
  it('repeat runs are averaged, their scatter widens the band; a rotor that does not repeat is not judged', () => {
    const b = bench(setUp(), HIDDEN);
    b.run();
    const again = (times: number, deg = 0) => {
      const [first] = b.entries as [Extract<BalanceEntry, { kind: 'run' }>];
      const r = first.readings.map((x) => ({ size: x.size * times, angleDeg: x.angleDeg + deg }));
      return balanceNow(setUp(), [first, entry({ kind: 'run', readings: r, repeat: true })]);
    };
    // half of the difference lies on each side of the mean
    expect(again(1.1).notes).toEqual([]);
    expect(again(1.12).notes[0]?.verdict).toBe('cannot judge');
    expect(again(1, 9.9).notes).toEqual([]);
    expect(again(1, 10.5).notes[0]?.verdict).toBe('cannot judge');
  });
  it('a run at another speed is none of this balance', () => {
    const at = (rpm: number) =>
      balanceNow(setUp(), [
        entry({
          kind: 'run',
          readings: [
            { size: 1, angleDeg: 0 },
            { size: 1, angleDeg: 0 },
          ],
          rpm,
        }),
      ]).notes;
    expect([at(918), at(882), at(919), at(881)].map((n) => n[0]?.verdict)).toEqual([
      undefined,
      undefined,
      'cannot judge',
      'cannot judge',
    ]);
  });
  it('inside, within the uncertainty, outside: each bearing by its own share', () => {
    const of = (a: number, more: object = {}) => {
      const s = setUp({ readings: 'unbalance per plane', ...more });
      const [u1, u2] = atPlanes({ bearingAMm: 0, bearingBMm: 400, centreMm: 200, planesMm: [80, 320] }, [
        polar(a, 10),
        polar(0, 0),
      ]);
      return balanceNow(s, [entry({ kind: 'run', readings: [vectorOf(u1), vectorOf(u2)] })]);
    };
    const share = toleranceOf(setUp()).sharesGMm[0];
    expect(of(share - 0.01).verdict).toBe('pass');
    expect(of(share + 0.01).verdict).toBe('fail');
    expect(of(share - 4.9, { uncertaintyGMm: 5 }).verdict).toBe('attention');
    expect(of(share - 5.1, { uncertaintyGMm: 5 }).verdict).toBe('pass');
    expect(of(share + 4.9, { uncertaintyGMm: 5 }).verdict).toBe('attention');
    expect(of(share + 5.1, { uncertaintyGMm: 5 }).verdict).toBe('fail');
    // the stricter figure counts
    expect(of(share - 0.01, { ownGMm: 100 }).verdict).toBe('fail');
    expect(of(49.9, { ownGMm: 100 }).reason).toMatch(/stricter figure/);
    expect(of(share + 0.01, { ownGMm: 1000 }).verdict).toBe('fail');
  });
  it('steps that better little, and too many of them, are said', () => {
    const s = setUp({ readings: 'unbalance per plane' });
    const run = (size: number) =>
      entry({
        kind: 'run',
        readings: [
          { size, angleDeg: 0 },
          { size: 0, angleDeg: 0 },
        ],
      });
    const fix = entry({ kind: 'correction', masses: [{ plane: 1, angleDeg: 180, massG: 1, radiusMm: 60 }] });
    const after = (...sizes: number[]) =>
      balanceNow(
        s,
        sizes.flatMap((x, i) => (i === 0 ? [run(x)] : [fix, run(x)])),
      ).notes;
    expect(after(1000, 500)).toEqual([]);
    expect(after(1000, 501)[0]).toMatchObject({ verdict: 'attention' });
    expect(after(1000, 500, 250, 125)).toEqual([]);
    expect(after(4000, 2000, 1000, 500, 250)[0]).toMatchObject({
      verdict: 'cannot judge',
      reason: expect.stringMatching(/3 corrections/) as string,
    });
  });
  it('places that hold too little leave a rest that is said', () => {
    const is = readAll({ planes: [80, 320].map((xMm) => ({ xMm, radiusMm: 60, places: 6, mostG: 2 })) });
    expect(is.expected).toBeGreaterThan(1);
    for (const n of is.next ?? []) for (const m of n.masses) expect(m.massG).toBeLessThanOrEqual(2 + 1e-9);
  });
  it('trial masses by both rules, half key and force of what is allowed', () => {
    expect(guide.trials[0]?.massG).toBeCloseTo((guide.trials[0]?.gMm ?? 0) / 60, 9);
    const key = guideOf(setUp({ keyMm: { width: 8, height: 7, length: 40 }, keyRadiusMm: 12 }));
    expect(key.halfKeyG).toBeCloseTo(8.792, 6);
    expect(key.halfKeyGMm).toBeCloseTo(105.5, 1);
    expect([guide.halfKeyG, guide.halfKeyGMm]).toEqual([undefined, undefined]);
    for (const kind of ROTOR_KINDS) expect(USUAL_GRADE[kind].grade).toBeGreaterThan(0);
  });
  it('as a calculation: its example is worked, with what it was worked from', () => {
    const out = balanceSession.compute(balanceSession.input.parse(balanceSession.example));
    expect(out).toMatchObject({ stage: 'correct', verdict: 'fail' });
    expect(out.next).toHaveLength(2);
  });
});

describe('on the simulated stand', () => {
  const geometry = fc.record({
    massKg: fc.double({ min: 5, max: 120, noNaN: true }),
    x1: fc.double({ min: 40, max: 160, noNaN: true }),
    x2: fc.double({ min: 240, max: 360, noNaN: true }),
    u1: fc.double({ min: 3, max: 25, noNaN: true }),
    u2: fc.double({ min: 3, max: 25, noNaN: true }),
    a1: fc.double({ min: 0, max: 359, noNaN: true }),
    a2: fc.double({ min: 0, max: 359, noNaN: true }),
    seed: fc.integer({ min: 1, max: 1e6 }),
  });
  it('with the usual scatter most rotors are inside within two corrections', () => {
    let [inside, all] = [0, 0];
    fc.assert(
      fc.property(geometry, (g) => {
        const of = setUp({
          massKg: g.massKg,
          grade: 6.3,
          serviceRpm: 1500,
          planes: [g.x1, g.x2].map((xMm) => ({ xMm, radiusMm: 60 })),
        });
        const share = toleranceOf(of).sharesGMm[0];
        const on: StandRotor = { ...rotor, massKg: g.massKg, inertiaKgM2: g.massKg * 0.012 };
        const b = bench(
          of,
          [
            { gMm: g.u1 * share, angleDeg: g.a1, xMm: g.x1 },
            { gMm: g.u2 * share, angleDeg: g.a2, xMm: g.x2 },
          ],
          g.seed,
          STAND_NOISE,
          on,
        );
        b.run();
        // as a person does: a larger trial where the response is too weak
        for (const plane of [1, 2])
          for (let gMm = 8 * share; ; gMm *= 2) {
            b.trial(plane, gMm, plane === 1 ? 0 : 90);
            if (!weakly(b.entries) || gMm > 60 * share) break;
            b.entries.pop();
          }
        fc.pre((b.now().condition ?? 99) <= 30);
        for (let i = 0; i < 2 && b.now().stage === 'correct'; i++) {
          b.correct();
          b.run();
        }
        all += 1;
        if ((b.now().bearings ?? []).every((x) => x.verdict === 'pass')) inside += 1;
      }),
      { numRuns: draws(200) },
    );
    // stated: at least 95 of 100
    expect(inside / all).toBeGreaterThanOrEqual(0.95);
  });
  it('the same seed gives the same lesson; faults are what they say', () => {
    const at = (faults = {}, seed = 3) => standRun(rotor, 900, HIDDEN, seeded(seed), QUIET, faults);
    expect(at()).toEqual(at());
    expect(standRun(rotor, 900, HIDDEN, seeded(3))).toEqual(standRun(rotor, 900, HIDDEN, seeded(3)));
    expect(standRun(rotor, 900, HIDDEN, seeded(3))).not.toEqual(standRun(rotor, 900, HIDDEN, seeded(4)));
    const [a] = at();
    const [mirrored] = at({ mirrored: true });
    expect([mirrored.re, mirrored.im]).toEqual([a.re, -a.im]);
    const [loose] = at({ loose: 0.5 });
    expect(Math.hypot(loose.re, loose.im)).toBeGreaterThan(Math.hypot(a.re, a.im));
    // a bent shaft stays where the unbalance is gone
    const bent = { bentMm: [polar(0.02, 0), polar(0.01, 90)] as const };
    const [still] = standRun(rotor, 900, [], seeded(1), QUIET, bent);
    expect(Math.hypot(still.re, still.im)).toBeCloseTo((0.02 * 2 * Math.PI * 15) / Math.SQRT2, 9);
    const jumping = { jumping: { gMm: 300, xMm: 80 } };
    const random = seeded(9);
    expect(standRun(rotor, 900, HIDDEN, random, QUIET, jumping)).not.toEqual(
      standRun(rotor, 900, HIDDEN, random, QUIET, jumping),
    );
    expect(at({ drift: 0.03 })).not.toEqual(at());
  });
});
