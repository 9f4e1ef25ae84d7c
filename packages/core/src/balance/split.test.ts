import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { draws } from '../../../../scripts/testing/draws.ts';
import { add, polar, scale, sizeOf, subtract, type Complex } from '../winding/complex.ts';
import { bestSplit, MOST_MASSES, splitLadder, type Bearings, type PlaneToFill } from './split.ts';
import { spread } from './spread.ts';

const ring = (n: number, radiusMm = 50, mostG?: number) =>
  Array.from({ length: n }, (_, i) => ({
    angleDeg: (360 * i) / n,
    radiusMm,
    ...(mostG === undefined ? {} : { mostG }),
  }));
/** Planes at 100 and 300 of bearings at 0 and 400. */
const BEARINGS: Bearings = {
  felt: [
    [0.75, 0.25],
    [0.25, 0.75],
  ],
  allowedGMm: [100, 80],
};
const worst = (b: Bearings, left: readonly Complex[]): number =>
  Math.max(
    ...b.felt.map(
      (row, i) =>
        sizeOf(row.reduce((s, k, p) => add(s, scale(left[p] ?? polar(0, 0), k)), polar(0, 0))) / (b.allowedGMm[i] ?? 1),
    ),
  );
const sumOf = (plane: PlaneToFill, fixed: readonly { place: number; massG: number }[]): Complex =>
  fixed.reduce(
    (s, f) => {
      const p = plane.places[f.place];
      return add(s, polar(f.massG * (p?.radiusMm ?? 0), p?.angleDeg ?? 0));
    },
    polar(0, 0),
  );

/** Everything that may be fixed in a plane, one by one. */
function every(plane: PlaneToFill, most: number): { n: number; left: Complex }[] {
  const out: { n: number; left: Complex }[] = [];
  const go = (from: number, n: number, left: Complex): void => {
    out.push({ n, left });
    if (n === most) return;
    for (let i = from; i < plane.places.length; i++) {
      const p = plane.places[i];
      for (const g of plane.stockG)
        if (p && (p.mostG === undefined || g <= p.mostG))
          go(i + 1, n + 1, subtract(left, polar(g * p.radiusMm, p.angleDeg)));
    }
  };
  go(0, 0, plane.wanted);
  return out;
}
function brute(planes: readonly PlaneToFill[], bearings: Bearings, most: number): { worst: number; n: number } {
  let best = { worst: Infinity, n: Infinity };
  const [one = [], two = [{ n: 0, left: undefined }]] = planes.map((p) => every(p, most));
  for (const a of one)
    for (const b of two) {
      const w = worst(bearings, b.left ? [a.left, b.left] : [a.left]);
      const n = a.n + b.n;
      if (w < best.worst - 1e-9 || (w <= best.worst + 1e-9 && n < best.n)) best = { worst: w, n };
    }
  return best;
}
const same = (planes: readonly PlaneToFill[], bearings: Bearings, most: number): void => {
  const found = bestSplit(planes, bearings, most);
  const wanted = brute(planes, bearings, most);
  expect(found.worst).toBeCloseTo(wanted.worst, 8);
  planes.forEach((p, i) => {
    const fixed = found.fixed[i] ?? [];
    expect(fixed.length).toBeLessThanOrEqual(most);
    expect(new Set(fixed.map((f) => f.place)).size).toBe(fixed.length);
    for (const f of fixed) {
      expect(p.stockG).toContain(f.massG);
      expect(f.massG).toBeLessThanOrEqual(p.places[f.place]?.mostG ?? Infinity);
    }
    expect(sizeOf(subtract(found.left[i] as Complex, subtract(p.wanted, sumOf(p, fixed))))).toBeLessThan(1e-6);
  });
  expect(worst(bearings, found.left)).toBeCloseTo(found.worst, 9);
};

describe('masses of the stock at the places of a rotor', () => {
  it('one plane, one mass: the nearest; on a place exactly it leaves nothing', () => {
    const plane = { wanted: polar(500, 90), places: ring(4), stockG: [5, 10, 20] };
    const one: Bearings = { felt: [[1]], allowedGMm: [50] };
    expect(bestSplit([plane], one, 1)).toMatchObject({ fixed: [[{ place: 1, massG: 10 }]] });
    expect(bestSplit([plane], one, 1).worst).toBeCloseTo(0, 9);
    expect(bestSplit([{ ...plane, wanted: polar(0, 0) }], one, 4).fixed).toEqual([[]]);
  });
  it('a place that is full, or holds too little, is left out', () => {
    const places = ring(4).map((p, i) => (i === 1 ? { ...p, mostG: 4 } : p));
    const one: Bearings = { felt: [[1]], allowedGMm: [50] };
    const plane = { wanted: polar(500, 90), places, stockG: [5, 10] };
    expect(bestSplit([plane], one, 2).fixed).toEqual([[]]);
    expect(bestSplit([{ ...plane, stockG: [4, 10] }], one, 1).fixed).toEqual([[{ place: 1, massG: 4 }]]);
    expect(bestSplit([{ ...plane, places: [] }], one, 4).worst).toBeCloseTo(10, 9);
    expect(bestSplit([{ ...plane, stockG: [] }], one, 4).worst).toBeCloseTo(10, 9);
  });
  const wanted = fc
    .record({ size: fc.double({ min: 0, max: 900, noNaN: true }), at: fc.double({ min: 0, max: 359.9, noNaN: true }) })
    .map((v) => polar(v.size, v.at));
  const stock = fc.uniqueArray(fc.integer({ min: 1, max: 14 }), { minLength: 1, maxLength: 3 });
  it('one plane: as everything tried one by one, up to 12 places and 3 masses', () =>
    fc.assert(
      fc.property(
        wanted,
        stock,
        fc.integer({ min: 3, max: 12 }),
        fc.integer({ min: 1, max: 4 }),
        (u, stockG, n, most) =>
          same([{ wanted: u, places: ring(n, 50, 12), stockG }], { felt: [[0.6], [0.4]], allowedGMm: [60, 50] }, most),
      ),
      { numRuns: draws(25) },
    ));
  it('two planes together: as everything tried one by one', () =>
    fc.assert(
      fc.property(
        wanted,
        wanted,
        stock,
        fc.integer({ min: 3, max: 12 }),
        fc.integer({ min: 3, max: 6 }),
        fc.integer({ min: 1, max: 2 }),
        fc.double({ min: 0.05, max: 0.45, noNaN: true }),
        (u1, u2, stockG, n1, n2, most, near) =>
          same(
            [
              { wanted: u1, places: ring(n1), stockG },
              { wanted: u2, places: ring(n2, 62), stockG },
            ],
            {
              felt: [
                [1 - near, near],
                [near, 1 - near],
              ],
              allowedGMm: [70, 110],
            },
            most,
          ),
      ),
      { numRuns: draws(25) },
    ));
  it('is never worse than the best single place, and no worse with more masses', () =>
    fc.assert(
      fc.property(wanted, wanted, (u1, u2) => {
        const planes = [u1, u2].map((w) => ({ wanted: w, places: ring(9), stockG: [2, 5, 9] }));
        const single = bestSplit(planes, BEARINGS, 1);
        const { steps, chosen } = splitLadder(planes, BEARINGS, 0.3);
        expect(steps[0]?.worst).toBeCloseTo(single.worst, 12);
        const last = steps[chosen];
        expect(last?.worst).toBeLessThanOrEqual(single.worst + 1e-12);
        steps.slice(1).forEach((s, i) => expect(s.worst).toBeLessThan(steps[i]?.worst ?? 0));
        // the fewest that leave little enough; all of them where none does
        expect(steps.slice(0, -1).every((s) => s.worst > 0.3)).toBe(true);
      }),
      { numRuns: draws(25) },
    ));
  it('36 places and 10 masses a plane', () => {
    const stockG = [1, 2, 3, 5, 7, 10, 14, 20, 28, 40];
    const planes = [polar(812, 33), polar(530, 211)].map((w) => ({ wanted: w, places: ring(36), stockG }));
    const found = bestSplit(planes, BEARINGS, MOST_MASSES);
    expect(found.worst).toBeLessThan(0.01);
    planes.forEach((p, i) =>
      expect(
        sizeOf(subtract(subtract(p.wanted, sumOf(p, found.fixed[i] ?? [])), found.left[i] as Complex)),
      ).toBeLessThan(1e-6),
    );
  });
});

describe('material in any amount up to a cap', () => {
  const places = (n: number, mostGMm: number) =>
    Array.from({ length: n }, (_, i) => ({ angleDeg: (360 * i) / n, mostGMm }));
  const check = (u: Complex, of: { angleDeg: number; mostGMm: number }[]) => {
    const { gMm, left } = spread(u, of);
    gMm.forEach((g, i) => {
      expect(g).toBeGreaterThanOrEqual(-1e-9);
      expect(g).toBeLessThanOrEqual((of[i]?.mostGMm ?? 0) + 1e-9);
    });
    const sum = gMm.reduce((s, g, i) => add(s, polar(g, of[i]?.angleDeg ?? 0)), polar(0, 0));
    expect(sizeOf(subtract(subtract(u, sum), left))).toBeLessThan(1e-6);
    return { gMm, left };
  };
  it('the two neighbours share it (balancing reference, section 10)', () => {
    const { gMm, left } = check(polar(120, 200), places(10, 500));
    expect(gMm[5]).toBeCloseTo(56.27, 2);
    expect(gMm[6]).toBeCloseTo(69.83, 2);
    expect(sizeOf(left)).toBeLessThan(1e-6);
  });
  it('on a place it is one', () => {
    const { gMm } = check(polar(120, 72), places(10, 500));
    expect(gMm.filter((g) => g > 1e-6)).toEqual([expect.closeTo(120, 6)]);
  });
  it('what a place cannot hold goes to the next further out', () => {
    const { gMm, left } = check(polar(120, 200), places(10, 40));
    expect([gMm[5], gMm[6]]).toEqual([40, 40]);
    expect((gMm[4] ?? 0) + (gMm[7] ?? 0)).toBeGreaterThan(10);
    expect(sizeOf(left)).toBeLessThan(1e-6);
  });
  it('what no place holds is said', () => {
    const { left } = check(polar(900, 200), places(10, 40));
    expect(sizeOf(left)).toBeGreaterThan(600);
    expect(sizeOf(check(polar(100, 0), []).left)).toBe(100);
    expect(sizeOf(check(polar(100, 0), places(6, 0)).left)).toBe(100);
    // one place alone reaches its own direction only
    expect(sizeOf(check(polar(100, 30), [{ angleDeg: 0, mostGMm: 500 }]).left)).toBeCloseTo(50, 9);
    expect(check(polar(100, 180), [{ angleDeg: 0, mostGMm: 500 }]).gMm).toEqual([0]);
  });
  it('holds for any vector and any caps', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 500, noNaN: true }),
        fc.double({ min: 0, max: 359.9, noNaN: true }),
        fc.array(fc.record({ angleDeg: fc.integer({ min: 0, max: 359 }), mostGMm: fc.integer({ min: 0, max: 200 }) }), {
          maxLength: 12,
        }),
        (size, at, of) => {
          const { left } = check(polar(size, at), of);
          expect(sizeOf(left)).toBeLessThanOrEqual(size + 1e-6);
        },
      ),
      { numRuns: draws(200) },
    ));
});

describe('a share to the nearest places', () => {
  const at = (...angles: number[]) => angles.map((angleDeg) => ({ angleDeg, mostGMm: 100 }));
  it('two places share what lies between them, by the parallelogram', () => {
    const { gMm, left } = spread(polar(100, 30), at(0, 90));
    expect(gMm[0]).toBeCloseTo(100 * Math.cos(Math.PI / 6), 9);
    expect(gMm[1]).toBeCloseTo(50, 9);
    expect(sizeOf(left)).toBeLessThan(1e-6);
    const unlike = spread(polar(100, 20), at(10, 50));
    const sin = (d: number) => Math.sin((d * Math.PI) / 180);
    expect(unlike.gMm[0]).toBeCloseTo((100 * sin(30)) / sin(40), 9);
    expect(unlike.gMm[1]).toBeCloseTo((100 * sin(10)) / sin(40), 9);
  });
  it('a place that lies right there takes it alone, also a hair beside', () => {
    expect(spread(polar(50, 90), at(0, 90, 180)).gMm.map((g) => Number(g.toFixed(6)))).toEqual([0, 50, 0]);
    expect(spread(polar(50, 0), at(359.9999999999, 30)).gMm[1]).toBeCloseTo(0, 6);
  });
  it('a full place hands on; one that takes nothing is none', () => {
    const { gMm, left } = spread(polar(150, 90), at(60, 90, 120));
    expect(gMm[1]).toBeCloseTo(100, 9);
    expect(gMm[0]).toBeCloseTo(gMm[2] ?? 0, 9);
    expect(gMm[0]).toBeCloseTo(25 / Math.cos(Math.PI / 6), 9);
    expect(sizeOf(left)).toBeLessThan(1e-6);
    const none = spread(polar(10, 90), [{ angleDeg: 90, mostGMm: 0 }, ...at(80, 110)]);
    expect(none.gMm[0]).toBe(0);
    expect(sizeOf(none.left)).toBeLessThan(1e-6);
  });
  it('what no place can take is left', () => {
    const { gMm, left } = spread(polar(50, 0), at(60));
    expect(gMm).toEqual([expect.closeTo(25, 9)]);
    expect(sizeOf(left)).toBeCloseTo(50 * Math.sin(Math.PI / 3), 9);
    expect(spread(polar(50, 0), at(90, 180, 270)).gMm).toEqual([0, 0, 0]);
    expect(sizeOf(spread(polar(500, 0), at(0)).left)).toBeCloseTo(400, 9);
    expect(spread(polar(0, 0), at(0, 90)).gMm).toEqual([0, 0]);
    expect(spread(polar(5, 0), [])).toMatchObject({ gMm: [] });
  });
});
