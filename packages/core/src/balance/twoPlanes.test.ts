import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { draws } from '../../../../scripts/testing/draws.ts';
import { add, multiply, polar, scale, sizeOf, subtract, type Complex } from '../winding/complex.ts';
import {
  agrees,
  asLead,
  conditionOf,
  correctionsFor,
  influenceOf,
  meanOf,
  predicted,
  responseOf,
  unbalanceFrom,
  type Influence,
} from './influence.ts';
import { drilled, drillDepth, flatDepth, flatMilled, halfKeyG, toothDepth, toothMilled } from './material.ts';
import { atBearings, atPlanes, forceN, planesAreClose, staticAndCouple, vectorOf } from './planes.ts';
import { standReadings } from './stand.ts';
import { combined, residualByMoving, withoutCrosstalk } from './testMass.ts';
import { trialMass } from './trialMass.ts';
import { permissibleUnbalanceGMm } from './tolerance.ts';

const close = (got: number, wanted: number, relative: number) =>
  expect(Math.abs(got / wanted - 1), `${got} for ${wanted}`).toBeLessThanOrEqual(relative);
const angle = (got: Complex, wanted: number, within = 0.01) => {
  const off = Math.abs(((((vectorOf(got).angleDeg - wanted) % 360) + 540) % 360) - 180);
  expect(off, `${vectorOf(got).angleDeg}° for ${wanted}°`).toBeLessThanOrEqual(within);
};

/** Section 7 of the balancing reference: readings as found and with 500 g·mm in each plane. */
const FIRST = [polar(7.2, 40), polar(5.1, 215)];
const TRIALS = [
  { readings: [polar(9, 72), polar(4.4, 190)], trial: polar(500, 0) },
  { readings: [polar(6.3, 62), polar(8.6, 255)], trial: polar(500, 90) },
];

describe('two planes (balancing reference, check values)', () => {
  const a = influenceOf(FIRST, TRIALS);
  const [u1, u2] = correctionsFor(a, FIRST) as [Complex, Complex];
  it('influence coefficients of section 7', () => {
    const shown = a.flat().map((z) => vectorOf(scale(z, 1000)));
    expect(shown.map((v) => [v.size.toFixed(4), v.angleDeg.toFixed(2)])).toEqual([
      ['9.5777', '124.82'],
      ['5.4464', '69.93'],
      ['4.3335', '94.11'],
      ['11.4495', '199.93'],
    ]);
  });
  it('B11 to B14 corrections', () => {
    close(sizeOf(u1), 497.8059, 1e-5);
    angle(u1, 74.4306);
    close(sizeOf(u2), 591.2305, 1e-5);
    angle(u2, 181.71);
  });
  it('nothing is left where they are added; the heavy spots stand opposite', () => {
    expect(Math.max(...predicted(a, FIRST, [u1, u2]).map(sizeOf))).toBeLessThan(1e-12);
    const [h1] = unbalanceFrom(a, FIRST) as [Complex];
    angle(h1, 74.4306 + 180);
  });
  it('a trial that stayed in is what the next run is compared with', () => {
    const both = [TRIALS[0], { readings: [] as Complex[], trial: polar(500, 90) }] as typeof TRIALS;
    // what would be read with both trials in, by the influences
    (both[1] as { readings: Complex[] }).readings = predicted(a, FIRST, [polar(500, 0), polar(500, 90)]);
    const stayed = influenceOf(FIRST, both, true);
    stayed.flat().forEach((z, i) => expect(sizeOf(subtract(z, a.flat()[i] as Complex))).toBeLessThan(1e-12));
  });
  it('one plane read at two bearings, by least squares; planes that cannot be told apart', () => {
    const one: Influence = [[polar(0.02, 40)], [polar(0.01, 130)]];
    const [u] = correctionsFor(one, predicted(one, [polar(0, 0), polar(0, 0)], [polar(200, 15)])) as [Complex];
    close(sizeOf(u), 200, 1e-12);
    angle(u, 195, 1e-9);
    const alike: Influence = [
      [polar(1, 0), polar(1, 0)],
      [polar(1, 0), polar(1, 0)],
    ];
    expect(correctionsFor(alike, FIRST)).toBeUndefined();
    expect(conditionOf(alike)).toBe(Infinity);
    expect(correctionsFor([[polar(0, 0)]], [polar(1, 0)])).toBeUndefined();
    expect(
      conditionOf([
        [polar(0, 0), polar(1, 0)],
        [polar(0, 0), polar(2, 0)],
      ]),
    ).toBe(Infinity);
  });
  it('B07 force, B25 trial mass, the range by the tolerance (section 9)', () => {
    close(forceN(350, 3000), 34.5436, 1e-5);
    const trial = trialMass(20, 3000, permissibleUnbalanceGMm(2.5, 20, 3000) / 2);
    close(trial.byForceGMm, 99.3961, 1e-5);
    expect(trial.byToleranceGMm.map((x) => x.toFixed(1))).toEqual(['397.9', '795.8']);
    expect(trial.gMm).toBe(trial.byForceGMm);
    // slow: the force rule asks for much more, the tolerance is the smaller
    const slow = trialMass(20, 900, permissibleUnbalanceGMm(2.5, 20, 3000) / 2);
    close(slow.byForceGMm, 1104.4, 1e-4);
    expect([slow.gMm, slow.mostGMm]).toEqual([slow.byToleranceGMm[0], slow.byForceGMm]);
    close(slow.forceN, forceN(slow.gMm, 900), 1e-12);
  });
  it('B15 B16 static part and couple (section 8)', () => {
    const x = staticAndCouple(polar(300, 20), polar(180, 170), 220);
    close(x.staticGMm.size, 169.9096, 1e-5);
    expect(x.staticGMm.angleDeg).toBeCloseTo(51.98, 2);
    close(x.coupleGMm.size, 232.34, 1e-4);
    expect(x.coupleGMm.angleDeg).toBeCloseTo(8.83, 2);
    close(x.momentGMm2, 51115.18, 1e-5);
    expect(staticAndCouple(polar(300, 20), polar(180, 170), -220).momentGMm2).toBe(x.momentGMm2);
  });
  it('B24 from the bearings to the planes and back (section 3)', () => {
    const of = { bearingAMm: 0, bearingBMm: 400, centreMm: 200, planesMm: [80, 300] };
    const [p1, p2] = atPlanes(of, [polar(300, 20), polar(180, 170)]);
    close(sizeOf(p1), 481.6879, 1e-5);
    angle(p1, 15.13);
    close(sizeOf(p2), 360.44, 1e-4);
    angle(p2, 178.7);
    const [a0, b0] = atBearings(of, [p1, p2]);
    close(sizeOf(a0), 300, 1e-12);
    angle(b0, 170, 1e-9);
  });
  it.each([
    [[100, 233.4], false],
    [[100, 233.3], true],
    [[233.3, 100], true],
    [[100], false],
  ])('planes at %s of a span of 400 are close: %s', (planesMm, is) =>
    expect(planesAreClose({ bearingAMm: 0, bearingBMm: 400, centreMm: 200, planesMm })).toBe(is),
  );
  it('B18 masses of a plane together (section 10), and what cancels', () => {
    const sum = combined([
      { massG: 4, radiusMm: 50, angleDeg: 10 },
      { massG: 6, radiusMm: 50, angleDeg: 130 },
      { massG: 3, radiusMm: 60, angleDeg: 250 },
    ]);
    close(sizeOf(sum), 111.36, 1e-4);
    angle(sum, 121.052);
    const pair = (g: number) => [
      { massG: g, radiusMm: 50, angleDeg: 0 },
      { massG: 10, radiusMm: 50, angleDeg: 180 },
    ];
    expect(combined(pair(9.91))).toEqual({ re: 0, im: 0 });
    expect(sizeOf(combined(pair(9.89)))).toBeCloseTo(5.5, 9);
    expect(combined([])).toEqual({ re: 0, im: 0 });
  });
  it('B22 B23 residual by moving a test mass (section 12)', () => {
    const read = [4.319, 4.7, 4.721, 4.376, 3.808, 3.327, 3.296, 3.743];
    const found = residualByMoving(
      read.map((amplitude, i) => ({ angleDeg: 45 * i, amplitude })),
      200,
    );
    close(found?.gMm ?? 0, 37.9923, 1e-4);
    expect(found?.angleDeg).toBeCloseTo(70.01, 2);
    close(found?.simpleGMm ?? 0, 37.4817, 1e-4);
    expect(found?.r2).toBeGreaterThan(0.99);
    expect(found?.tooSmall).toBe(false);
    expect(
      residualByMoving(
        read.slice(0, 2).map((amplitude, i) => ({ angleDeg: 45 * i, amplitude })),
        200,
      ),
    ).toBeUndefined();
    expect(
      residualByMoving(
        read.map((amplitude) => ({ angleDeg: 0, amplitude })),
        200,
      ),
    ).toBeUndefined();
    expect(
      residualByMoving(
        read.map((_, i) => ({ angleDeg: 45 * i, amplitude: 0 })),
        200,
      ),
    ).toBeUndefined();
  });
  it('moving a mass is exact for a linear stand, at equal steps and others; too small a mass is told', () => {
    const at = (residual: number, test: number, angles: readonly number[]) =>
      residualByMoving(
        angles.map((angleDeg) => ({
          angleDeg,
          amplitude: 0.013 * sizeOf(add(polar(test, angleDeg), polar(residual, 200))),
        })),
        test,
      );
    for (const angles of [[0, 120, 240], [0, 30, 90, 200, 310], Array.from({ length: 12 }, (_, i) => 30 * i)]) {
      const found = at(60, 300, angles);
      expect(found?.gMm).toBeCloseTo(60, 9);
      expect(found?.angleDeg).toBeCloseTo(200, 6);
    }
    // x = 0.5 is q = 0.8
    const steps = Array.from({ length: 8 }, (_, i) => 45 * i);
    expect(at(149.9, 300, steps)?.tooSmall).toBe(false);
    expect(at(150.1, 300, steps)?.tooSmall).toBe(true);
    expect(at(0, 300, steps)?.gMm).toBeCloseTo(0, 9);
  });
  it('B29 B30 without what the other plane adds, judged at the bearings (section 12)', () => {
    const set: Influence = [
      [polar(0.82e-3, 91), polar(0.22e-3, 87)],
      [polar(0.32e-3, 88), polar(0.96e-3, 92)],
    ];
    const [p1, p2] = withoutCrosstalk(set, polar(71, 44), polar(96, 52)) as [Complex, Complex];
    close(sizeOf(p1), 49.7433, 1e-4);
    angle(p1, 40.95);
    close(sizeOf(p2), 80.1, 1e-4);
    angle(p2, 55.08);
    const of = { bearingAMm: 0, bearingBMm: 500, centreMm: 300, planesMm: [120, 420] };
    const [atA, atB] = atBearings(of, [p1, p2]);
    close(sizeOf(atA), 50.3309, 1e-4);
    angle(atA, 44.51);
    close(sizeOf(atB), 78.92, 1e-4);
    angle(atB, 52.96);
    expect(
      withoutCrosstalk(
        [
          [polar(0, 0), polar(1, 0)],
          [polar(1, 0), polar(1, 0)],
        ],
        polar(1, 0),
        polar(1, 0),
      ),
    ).toBeUndefined();
    expect(
      withoutCrosstalk(
        [
          [polar(1, 0), polar(1, 0)],
          [polar(1, 0), polar(1, 0)],
        ],
        polar(1, 0),
        polar(1, 0),
      ),
    ).toBeUndefined();
  });
  it('B26 B27 the simulated stand (section 16), and its trials lead back to what was hidden', () => {
    const rotor = {
      massKg: 12,
      inertiaKgM2: 0.11,
      bearingAMm: 0,
      bearingBMm: 320,
      centreMm: 150,
      stiffness: [200000, 200000],
      damping: [40, 40],
    } as const;
    const hidden = [
      { gMm: 400, angleDeg: 30, xMm: 60 },
      { gMm: 250, angleDeg: 200, xMm: 260 },
    ];
    const read = standReadings(rotor, 900, hidden);
    close(sizeOf(read[0]), 0.994012, 1e-5);
    angle(read[0], 121.21);
    close(sizeOf(read[1]), 0.3648, 2e-4);
    angle(read[1], 278.313);
    const tried = [60, 260].map((xMm) => ({
      readings: standReadings(rotor, 900, [...hidden, { gMm: 300, angleDeg: 0, xMm }]),
      trial: polar(300, 0),
    }));
    const [c1, c2] = correctionsFor(influenceOf(read, tried), read) as [Complex, Complex];
    close(sizeOf(c1), 400, 1e-9);
    angle(c1, 210, 1e-6);
    close(sizeOf(c2), 250, 1e-9);
    angle(c2, 20, 1e-6);
  });
  it('B19 B20 a drilled hole, B21 a flat, a tooth top, B28 half a key (sections 4, 11)', () => {
    const drill = { diameterMm: 10, radiusMm: 60 };
    close(drilled(drill, 15).massG, 8.01322, 1e-5);
    close(drilled(drill, 15).gMm, 428.56, 1e-5);
    close(drillDepth(drill, 350, 30) ?? 0, 12.36291, 1e-4);
    const flat = { radiusMm: 25, lengthMm: 30, densityGMm3: 7.45e-3 };
    close(flatMilled(flat, 0.6).chordMm, 10.889, 1e-4);
    close(flatMilled(flat, 0.6).gMm, 24.0438, 1e-4);
    close(flatDepth(flat, 24.0438, 3) ?? 0, 0.6, 1e-4);
    const tooth = { radiusMm: 25, lengthMm: 30, widthMm: 2.5, densityGMm3: 7.45e-3 };
    close(toothMilled(tooth, 1.2), 16.36, 1e-3);
    close(toothDepth(tooth, 16.36, 3) ?? 0, 1.2, 1e-3);
    close(halfKeyG({ widthMm: 8, heightMm: 7, lengthMm: 40 }), 8.792, 1e-6);
    expect(halfKeyG({ widthMm: 8, heightMm: 7, lengthMm: 40, densityGMm3: 15.7e-3 })).toBeCloseTo(17.584, 9);
  });
  it('the cone alone, where the drill only just enters; too deep a hole is none', () => {
    const drill = { diameterMm: 10, radiusMm: 60 };
    const cone = 5 / Math.tan((59 * Math.PI) / 180);
    const [under, over] = [drilled(drill, cone * (1 - 1e-9)), drilled(drill, cone * (1 + 1e-9))];
    close(under.massG, over.massG, 1e-6);
    close(under.gMm, over.gMm, 1e-6);
    expect(drilled(drill, 1).massG).toBeCloseTo(((7.85e-3 * Math.PI) / 3) * Math.tan((59 * Math.PI) / 180) ** 2, 12);
    expect(drilled(drill, 0)).toEqual({ massG: 0, gMm: 0 });
    expect(drillDepth(drill, 0, 30)).toBe(0);
    expect(drillDepth(drill, 429, 15)).toBeUndefined();
    expect(drillDepth(drill, drilled(drill, 15).gMm, 15)).toBeCloseTo(15, 6);
    expect(drilled({ ...drill, pointDeg: 90 }, 1).massG).toBeCloseTo((7.85e-3 * Math.PI) / 3, 12);
    expect(flatMilled({ radiusMm: 25, lengthMm: 30 }, -1).gMm).toBe(0);
  });
});

describe('readings', () => {
  it.each([
    [10, 0, 12.5, 0, 25, 0],
    [10, 350, 10, 20, 0, 30],
    [10, 20, 10, 350, 0, 30],
    [10, 0, 5, 180, 50, 180],
  ])('%d∠%d° to %d∠%d°: %d %% and %d°', (s0, a0, s1, a1, percent, deg) => {
    const r = responseOf(polar(s0, a0), polar(s1, a1));
    expect(r.percent).toBeCloseTo(percent, 9);
    expect(r.deg).toBeCloseTo(deg, 9);
  });
  it('repeated runs: their mean and how far they stray', () => {
    expect(meanOf([polar(3, 0)])).toEqual({ mean: polar(3, 0), scatter: 0 });
    const { mean, scatter } = meanOf([polar(3, 0), polar(5, 0)]);
    expect([mean.re, scatter]).toEqual([4, 1]);
  });
  it.each([
    [1.1, 0, true],
    [1.101, 0, false],
    [0.9, 0, true],
    [0.899, 0, false],
    [1, 10, true],
    [1, 10.1, false],
    [1, -10, true],
  ])('a stored influence and one tried at %d times, %d° on, agree: %s', (times, deg, is) =>
    expect(agrees(polar(2, 30), polar(2 * times, 30 + deg), 10 + 1e-9, 10 + 1e-9)).toBe(is),
  );
  it('a lag is a lead the other way round; a vector of nothing has no angle', () => {
    angle(asLead(3, 40, 'lag'), 320, 1e-9);
    angle(asLead(3, 40, 'lead'), 40, 1e-9);
    expect(vectorOf({ re: 0, im: 0 })).toEqual({ size: 0, angleDeg: 0 });
    expect(vectorOf(polar(2, -1e-15)).angleDeg).toBeLessThan(360);
  });
});

describe('any rotor', () => {
  const z = fc
    .record({
      size: fc.double({ min: 0.1, max: 20, noNaN: true }),
      at: fc.double({ min: 0, max: 359.99, noNaN: true }),
    })
    .map((v) => polar(v.size, v.at));
  const matrix = fc.tuple(z, z, z, z).map(([a, b, c, d]): Influence => [
    [a, b],
    [c, d],
  ]);
  const unbalance = fc
    .record({ size: fc.double({ min: 1, max: 900, noNaN: true }), at: fc.double({ min: 0, max: 359.99, noNaN: true }) })
    .map((v) => polar(v.size, v.at));
  it('of a condition up to 30 is solved to 1e-9 of its size; swapped planes and mirrored angles give the like', () => {
    fc.assert(
      fc.property(matrix, unbalance, unbalance, unbalance, unbalance, (a, h1, h2, t1, t2) => {
        fc.pre(conditionOf(a) <= 30);
        const none: Complex[] = [
          { re: 0, im: 0 },
          { re: 0, im: 0 },
        ];
        const first = predicted(a, none, [h1, h2]);
        const trials = [
          { readings: predicted(a, first, [t1, { re: 0, im: 0 }]), trial: t1 },
          { readings: predicted(a, first, [{ re: 0, im: 0 }, t2]), trial: t2 },
        ];
        const size = Math.max(sizeOf(h1), sizeOf(h2));
        // trials much smaller than what is hidden lose their digits in the difference
        const digits = 1e-9 * Math.max(1, size / Math.min(sizeOf(t1), sizeOf(t2)));
        const found = correctionsFor(influenceOf(first, trials), first) as [Complex, Complex];
        expect(sizeOf(add(found[0], h1))).toBeLessThanOrEqual(digits * size);
        expect(sizeOf(add(found[1], h2))).toBeLessThanOrEqual(digits * size);
        const swapped: Influence = a.map((row) => [...row].reverse());
        const other = correctionsFor(swapped, first) as [Complex, Complex];
        const same = correctionsFor(a, first) as [Complex, Complex];
        expect(sizeOf(subtract(other[0], same[1]))).toBeLessThanOrEqual(1e-8 * size);
        const mirror = (v: Complex): Complex => ({ re: v.re, im: -v.im });
        const mirrored = correctionsFor(
          a.map((row) => row.map(mirror)),
          first.map(mirror),
        ) as [Complex, Complex];
        expect(sizeOf(subtract(mirrored[0], mirror(same[0])))).toBeLessThanOrEqual(1e-8 * size);
      }),
      { numRuns: draws(1000) },
    );
  });
  it('the condition number is that of the singular values, however the columns are scaled', () => {
    // columns of unit length with an inner product g: (1 + g)/(1 − g) under the root
    const of = (g: number): Influence => [
      [polar(1, 0), polar(g, 30)],
      [polar(0, 0), polar(Math.sqrt(1 - g * g), 75)],
    ];
    for (const g of [0, 0.3, 0.9, 0.99, 0.9978]) {
      const wanted = Math.sqrt((1 + g) / (1 - g));
      close(conditionOf(of(g)), wanted, 1e-9);
      const scaled = of(g).map((row) => row.map((v, k) => multiply(v, polar(k === 0 ? 7 : 0.02, 50))));
      close(conditionOf(scaled), wanted, 1e-9);
    }
    expect(conditionOf([[polar(3, 0)], [polar(1, 0)]])).toBe(1);
  });
});
