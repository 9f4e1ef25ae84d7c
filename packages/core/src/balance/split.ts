import { add, polar, scale, sizeOf, subtract, type Complex } from '../winding/complex.ts';

/** A place where a mass may be fixed: its angle, radius, and the most that it holds. */
export interface Place {
  angleDeg: number;
  radiusMm: number;
  /** g; left out: any mass of the stock */
  mostG?: number;
}
/** One plane as it is filled: what is wanted in it, where masses may go, which there are. */
export interface PlaneToFill {
  /** to add, g·mm */
  wanted: Complex;
  places: readonly Place[];
  stockG: readonly number[];
}
export interface Fixed {
  /** index of the place */
  place: number;
  massG: number;
}
export interface Split {
  /** for each plane */
  fixed: Fixed[][];
  /** what is left in each plane, g·mm: to be added still */
  left: Complex[];
  /** the larger of what is left over what is allowed at the bearings */
  worst: number;
}

/** Masses at most in one plane. */
export const MOST_MASSES = 4;

/** How what is left in the planes counts: each bearing's allowed unbalance and what it feels of each plane. */
export interface Bearings {
  /** felt[bearing][plane] */
  felt: readonly (readonly number[])[];
  allowedGMm: readonly number[];
}
const worstOf = (b: Bearings, left: readonly Complex[]): number =>
  Math.max(
    ...b.felt.map((row, i) => {
      const sum = row.reduce<Complex>((s, k, plane) => add(s, scale(left[plane] ?? { re: 0, im: 0 }, k)), {
        re: 0,
        im: 0,
      });
      return sizeOf(sum) / (b.allowedGMm[i] ?? Infinity);
    }),
  );

/** Sums of up to so many masses at different places, as flat arrays. */
interface Sums {
  re: Float64Array;
  im: Float64Array;
  /** places of the masses, −1 where there is none */
  at: Int16Array[];
  mass: Float64Array[];
  n: number;
}

/** Each mass of the stock at each place that holds it. */
function singles(plane: PlaneToFill): { place: number; massG: number; z: Complex }[] {
  return plane.places.flatMap((p, place) =>
    [...new Set(plane.stockG)]
      .filter((g) => g > 0 && (p.mostG === undefined || g <= p.mostG + 1e-9))
      .map((massG) => ({ place, massG, z: polar(massG * p.radiusMm, p.angleDeg) })),
  );
}

/** All sums of up to `most` (0 to 2) masses. */
function sumsOf(plane: PlaneToFill, most: 0 | 1 | 2): Sums {
  const one = most === 0 ? [] : singles(plane);
  const n = 1 + one.length + (most === 2 ? (one.length * (one.length - 1)) / 2 : 0);
  const out: Sums = {
    re: new Float64Array(n),
    im: new Float64Array(n),
    at: [new Int16Array(n).fill(-1), new Int16Array(n).fill(-1)],
    mass: [new Float64Array(n), new Float64Array(n)],
    n: 1,
  };
  const [at0, at1] = out.at as [Int16Array, Int16Array];
  const [m0, m1] = out.mass as [Float64Array, Float64Array];
  for (const s of one) {
    const k = out.n++;
    out.re[k] = s.z.re;
    out.im[k] = s.z.im;
    at0[k] = s.place;
    m0[k] = s.massG;
  }
  if (most === 2)
    for (let i = 0; i < one.length; i++)
      for (let j = i + 1; j < one.length; j++) {
        const [a, b] = [one[i], one[j]];
        if (!a || !b || a.place === b.place) continue;
        const k = out.n++;
        out.re[k] = a.z.re + b.z.re;
        out.im[k] = a.z.im + b.z.im;
        at0[k] = a.place;
        at1[k] = b.place;
        m0[k] = a.massG;
        m1[k] = b.massG;
      }
  return out;
}

/** Sums in the cells of a grid, to find those near a point. */
class Grid {
  readonly sums: Sums;
  private readonly cell: number;
  private readonly low: { re: number; im: number };
  private readonly wide: number;
  private readonly high: number;
  private readonly first: Int32Array;
  private readonly order: Int32Array;
  constructor(sums: Sums) {
    this.sums = sums;
    const { re, im, n } = sums;
    let [lowRe, highRe, lowIm, highIm] = [Infinity, -Infinity, Infinity, -Infinity];
    for (let i = 0; i < n; i++) {
      lowRe = Math.min(lowRe, re[i] ?? 0);
      highRe = Math.max(highRe, re[i] ?? 0);
      lowIm = Math.min(lowIm, im[i] ?? 0);
      highIm = Math.max(highIm, im[i] ?? 0);
    }
    this.low = { re: lowRe, im: lowIm };
    // about two sums in a cell
    const area = Math.max(1e-9, (highRe - lowRe) * (highIm - lowIm));
    this.cell = Math.max(1e-6, Math.sqrt((2 * area) / n));
    this.wide = Math.floor((highRe - lowRe) / this.cell) + 1;
    this.high = Math.floor((highIm - lowIm) / this.cell) + 1;
    const count = new Int32Array(this.wide * this.high + 1);
    const cells = new Int32Array(n);
    for (let i = 0; i < n; i++) {
      const c = this.cellOf(re[i] ?? 0, im[i] ?? 0);
      cells[i] = c;
      count[c + 1] = (count[c + 1] ?? 0) + 1;
    }
    for (let c = 0; c < this.wide * this.high; c++) count[c + 1] = (count[c + 1] ?? 0) + (count[c] ?? 0);
    this.first = count;
    const next = count.slice();
    this.order = new Int32Array(n);
    for (let i = 0; i < n; i++) {
      const c = cells[i] ?? 0;
      this.order[next[c] ?? 0] = i;
      next[c] = (next[c] ?? 0) + 1;
    }
  }
  private column(re: number): number {
    return Math.floor((re - this.low.re) / this.cell);
  }
  private row(im: number): number {
    return Math.floor((im - this.low.im) / this.cell);
  }
  private cellOf(re: number, im: number): number {
    return Math.min(this.high - 1, this.row(im)) * this.wide + Math.min(this.wide - 1, this.column(re));
  }
  /** Calls for every sum within `radius` of a point; the radius may shrink while it is called. */
  near(re: number, im: number, radius: () => number, each: (i: number, off2: number) => void): void {
    const r = radius();
    const from = { x: Math.max(0, this.column(re - r)), y: Math.max(0, this.row(im - r)) };
    const to = { x: Math.min(this.wide - 1, this.column(re + r)), y: Math.min(this.high - 1, this.row(im + r)) };
    for (let y = from.y; y <= to.y; y++)
      for (let x = from.x; x <= to.x; x++) {
        const c = y * this.wide + x;
        const end = this.first[c + 1] ?? 0;
        for (let k = this.first[c] ?? 0; k < end; k++) {
          const i = this.order[k] ?? 0;
          const dr = (this.sums.re[i] ?? 0) - re;
          const di = (this.sums.im[i] ?? 0) - im;
          const off2 = dr * dr + di * di;
          if (off2 <= radius() ** 2) each(i, off2);
        }
      }
  }
}

/** Ways of filling one plane with up to `most` masses, as two sums of up to two each. */
class Ways {
  readonly wanted: Complex;
  private readonly outer: Sums;
  private readonly grid: Grid;
  constructor(plane: PlaneToFill, most: number) {
    this.wanted = plane.wanted;
    this.outer = sumsOf(plane, most <= 2 ? 0 : most === 3 ? 1 : 2);
    this.grid = new Grid(sumsOf(plane, most <= 1 ? 1 : 2));
  }
  private clash(i: number, j: number): boolean {
    const inner = this.grid.sums;
    for (const a of this.outer.at) {
      const p = a[i] ?? -1;
      if (p >= 0 && inner.at.some((b) => b[j] === p)) return true;
    }
    return false;
  }
  /** The least that can be left of what is wanted, g·mm. */
  least(): number {
    let best = Math.hypot(this.wanted.re, this.wanted.im);
    for (let i = 0; i < this.outer.n && best > 0; i++)
      this.grid.near(
        this.wanted.re - (this.outer.re[i] ?? 0),
        this.wanted.im - (this.outer.im[i] ?? 0),
        () => best,
        (j, off2) => {
          const off = Math.sqrt(off2);
          if (off < best && !this.clash(i, j)) best = off;
        },
      );
    return best;
  }
  /** Every way that leaves at most so much, the masses at their places with it; each once. */
  within(radius: number): { fixed: Fixed[]; left: Complex }[] {
    const found = new Map<string, { fixed: Fixed[]; left: Complex }>();
    for (let i = 0; i < this.outer.n; i++)
      this.grid.near(
        this.wanted.re - (this.outer.re[i] ?? 0),
        this.wanted.im - (this.outer.im[i] ?? 0),
        () => radius,
        (j) => {
          if (this.clash(i, j)) return;
          const fixed = [...masses(this.outer, i), ...masses(this.grid.sums, j)].sort((a, b) => a.place - b.place);
          const key = fixed.map((f) => `${f.place}:${f.massG}`).join(' ');
          if (!found.has(key))
            found.set(key, {
              fixed,
              left: subtract(this.wanted, {
                re: (this.outer.re[i] ?? 0) + (this.grid.sums.re[j] ?? 0),
                im: (this.outer.im[i] ?? 0) + (this.grid.sums.im[j] ?? 0),
              }),
            });
        },
      );
    return [...found.values()];
  }
}
const masses = (s: Sums, i: number): Fixed[] =>
  s.at.flatMap((a, k) => {
    const place = a[i] ?? -1;
    return place < 0 ? [] : [{ place, massG: s.mass[k]?.[i] ?? 0 }];
  });

/** Candidates of a plane that are looked at together with those of the other. */
const MOST_WAYS = 4000;

/**
 * The best way of fixing masses of the stock at the places of both planes together, with at most so many a plane: the least of the larger
 * share of the bearings' tolerance that stays. Of equal ones the fewest masses. Exact (docs/derivations.md 36).
 */
export function bestSplit(planes: readonly PlaneToFill[], bearings: Bearings, most: number = MOST_MASSES): Split {
  const ways = planes.map((p) => new Ways(p, most));
  const least = ways.map((w) => w.least());
  // what one plane may leave while the whole stays as good as the best of each plane by itself
  const first = ways.map((w, i) => w.within((least[i] ?? 0) * (1 + 1e-12) + 1e-9));
  let best = pick(first, bearings);
  const reach = reachOf(bearings, planes.length);
  const radii = reach.map((k) => k * best.worst * (1 + 1e-9) + 1e-12);
  const all = ways.map((w, i) => w.within(radii[i] ?? 0));
  if (all.every((a) => a.length > 0 && a.length <= MOST_WAYS)) best = pick(all, bearings, best);
  return best;
}

/** How far what is left in a plane can be while no bearing feels more than its own allowed unbalance. */
function reachOf({ felt, allowedGMm }: Bearings, planes: number): number[] {
  if (planes === 1)
    return [Math.min(...felt.map(([k = 0], i) => (k === 0 ? Infinity : (allowedGMm[i] ?? 0) / Math.abs(k))))];
  const [[a1 = 0, a2 = 0] = [], [b1 = 0, b2 = 0] = []] = felt;
  const det = Math.abs(a1 * b2 - a2 * b1);
  const [sa = 0, sb = 0] = allowedGMm;
  return [(Math.abs(b2) * sa + Math.abs(a2) * sb) / det, (Math.abs(b1) * sa + Math.abs(a1) * sb) / det];
}

function pick(
  ways: readonly (readonly { fixed: Fixed[]; left: Complex }[])[],
  bearings: Bearings,
  than?: Split,
): Split {
  let best = than;
  const count = (s: Split | undefined): number => s?.fixed.reduce((n, f) => n + f.length, 0) ?? Infinity;
  const [one = [], two] = ways;
  for (const a of one)
    for (const b of two ?? [undefined]) {
      const left = b ? [a.left, b.left] : [a.left];
      const worst = worstOf(bearings, left);
      const split: Split = { fixed: b ? [a.fixed, b.fixed] : [a.fixed], left, worst };
      const tie = 1e-9 * Math.max(1, worst);
      if (!best || worst < best.worst - tie || (worst <= best.worst + tie && count(split) < count(best))) best = split;
    }
  return best ?? { fixed: ways.map(() => []), left: [], worst: Infinity };
}

/** The best with one, two, three and four masses a plane; and the one with the fewest that leaves no more than `enough` of the tolerance. */
export function splitLadder(
  planes: readonly PlaneToFill[],
  bearings: Bearings,
  enough: number,
): { steps: Split[]; chosen: number } {
  const steps: Split[] = [];
  for (let most = 1; most <= MOST_MASSES; most++) {
    const next = bestSplit(planes, bearings, most);
    const before = steps.at(-1);
    // a further mass that betters nothing is none
    if (before && next.worst >= before.worst - 1e-9) continue;
    steps.push(next);
    if (next.worst <= enough) break;
  }
  return { steps, chosen: steps.length - 1 };
}

/** Where material can be taken away or added in any amount up to a cap: a share to the two nearest free places, the rest further out. */
export function spread(
  wanted: Complex,
  places: readonly { angleDeg: number; mostGMm: number }[],
): { gMm: number[]; left: Complex } {
  const gMm = places.map(() => 0);
  let left = wanted;
  const whole = sizeOf(wanted);
  const full = new Set(places.flatMap((p, i) => (p.mostGMm <= 0 ? [i] : [])));
  for (let round = 0; round < 4 * places.length && sizeOf(left) > 1e-9 * Math.max(1, whole); round++) {
    const at = (Math.atan2(left.im, left.re) * 180) / Math.PI;
    const turn = (a: number) => ((((a - at) % 360) + 540) % 360) - 180;
    const free = places.map((p, i) => ({ i, off: turn(p.angleDeg) })).filter(({ i }) => !full.has(i));
    const before = free.filter((f) => f.off <= 0 && f.off > -90).sort((a, b) => b.off - a.off)[0];
    const after = free.filter((f) => f.off > 0 && f.off < 90).sort((a, b) => a.off - b.off)[0];
    const near = (before && before.off > -1e-9 ? [before] : [before, after]).filter((f) => f !== undefined);
    const [one, two] = near;
    if (!one) break;
    const size = sizeOf(left);
    const sin = (deg: number) => Math.sin((deg * Math.PI) / 180);
    const parts = two
      ? [(size * sin(two.off)) / sin(two.off - one.off), (size * sin(-one.off)) / sin(two.off - one.off)]
      : [size * Math.cos((one.off * Math.PI) / 180)];
    near.forEach(({ i }, k) => {
      const place = places[i];
      const room = (place?.mostGMm ?? 0) - (gMm[i] ?? 0);
      const put = Math.min(room, parts[k] ?? 0);
      if (put >= room - 1e-12) full.add(i);
      gMm[i] = (gMm[i] ?? 0) + put;
      left = subtract(left, polar(put, place?.angleDeg ?? 0));
    });
    // one place alone leaves what it cannot reach
    if (near.length === 1 && !full.has(near[0]?.i ?? -1)) break;
  }
  return { gMm, left };
}
