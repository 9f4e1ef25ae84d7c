import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { draws } from '../../../../scripts/testing/draws.ts';
import { bench, entry, guide, HIDDEN, QUIET, rotor, setUp, weakly } from '../../../../scripts/testing/standBench.ts';
import { polar, type Complex } from '../winding/complex.ts';
import type { BalanceEntry } from './entries.ts';
import { conditionOf, influenceOf } from './influence.ts';
import { atPlanes, vectorOf } from './planes.ts';
import { balanceNow } from './session.ts';
import { balanceSession } from './sessionCalculation.ts';
import { guideOf, judgeSetUp, ROTOR_KINDS, toleranceOf, USUAL_GRADE } from './setUp.ts';
import { seeded, STAND_NOISE, standRun, type StandRotor } from './stand.ts';

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
      e.kind === 'correction' || e.kind === 'moved' ? [] : e.readings.map((r) => polar(r.size, r.angleDeg));
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
      { numRuns: draws(1000) },
    );
    // stated: at least 95 of 100; a handful of draws (`npm run mutate`) cannot tell 95 from 92
    expect(inside / all).toBeGreaterThanOrEqual(all >= 500 ? 0.95 : 0.9);
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
