import { polar, sizeOf, subtract, type Complex } from '../winding/complex.ts';

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
  // the single ones stand from 1 on
  const last = out.n;
  if (most === 2)
    for (let i = 1; i < last; i++) {
      const [re, im, place, mass] = [out.re[i] as number, out.im[i] as number, at0[i] as number, m0[i] as number];
      for (let j = i + 1; j < last; j++) {
        if (at0[j] === place) continue;
        const k = out.n++;
        out.re[k] = re + (out.re[j] as number);
        out.im[k] = im + (out.im[j] as number);
        at0[k] = place;
        at1[k] = at0[j] as number;
        m0[k] = mass;
        m1[k] = m0[j] as number;
      }
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
  /** The sums within `radius` of a point: calls for each, with the square of its distance; what it gives is the radius from then on. */
  near(re: number, im: number, radius: number, each: (i: number, off2: number) => number): void {
    const { re: res, im: ims } = this.sums;
    let r2 = radius * radius;
    const fromX = Math.max(0, this.column(re - radius));
    const fromY = Math.max(0, this.row(im - radius));
    const toX = Math.min(this.wide - 1, this.column(re + radius));
    const toY = Math.min(this.high - 1, this.row(im + radius));
    for (let y = fromY; y <= toY; y++)
      for (let x = fromX; x <= toX; x++) {
        const c = y * this.wide + x;
        const end = this.first[c + 1] as number;
        for (let k = this.first[c] as number; k < end; k++) {
          const i = this.order[k] as number;
          const dr = (res[i] as number) - re;
          const di = (ims[i] as number) - im;
          const off2 = dr * dr + di * di;
          if (off2 <= r2) {
            const next = each(i, off2);
            r2 = next * next;
          }
        }
      }
  }
}

/** Sums of planes that are alike, and of one plane as it gets more masses, are made once. */
class Store {
  private readonly grids = new Map<string, Grid>();
  grid(plane: PlaneToFill, most: 0 | 1 | 2): Grid {
    const key = JSON.stringify([most, plane.places, plane.stockG]);
    const there = this.grids.get(key);
    if (there) return there;
    const made = new Grid(sumsOf(plane, most));
    this.grids.set(key, made);
    return made;
  }
}

/** Ways of filling one plane with up to `most` masses, as two sums of up to two each. */
class Ways {
  readonly wanted: Complex;
  private readonly far: number;
  private readonly outer: Sums;
  private readonly grid: Grid;
  constructor(plane: PlaneToFill, most: number, store: Store) {
    this.wanted = plane.wanted;
    this.far = sizeOf(plane.wanted);
    this.grid = store.grid(plane, most <= 1 ? 1 : 2);
    this.outer = store.grid(plane, most >= 4 ? 2 : most <= 2 ? 0 : 1).sums;
  }
  /**
   * Whether a first sum need not be looked at: of two sums of the same list that come within `radius` of what is wanted, one reaches at
   * least half of the way there, and the pair is found from that one.
   */
  private isShort(i: number, radius: number): boolean {
    if (this.outer !== this.grid.sums) return false;
    const along = (this.outer.re[i] as number) * this.wanted.re + (this.outer.im[i] as number) * this.wanted.im;
    return along < ((0.5 - 1e-9) * this.far - 0.5 * radius) * this.far;
  }
  private clash(i: number, j: number): boolean {
    const inner = this.grid.sums;
    const [a0, a1] = this.outer.at as [Int16Array, Int16Array];
    const [b0, b1] = inner.at as [Int16Array, Int16Array];
    const [p, q, x, y] = [a0[i] as number, a1[i] as number, b0[j] as number, b1[j] as number];
    return (p >= 0 && (p === x || p === y)) || (q >= 0 && (q === x || q === y));
  }
  /** The way that leaves the least of what is wanted. */
  least(): { fixed: Fixed[]; left: Complex } {
    let best = Math.hypot(this.wanted.re, this.wanted.im);
    let at: [number, number] = [0, 0];
    for (let i = 0; i < this.outer.n; i++) {
      if (this.isShort(i, best)) continue;
      this.grid.near(
        this.wanted.re - (this.outer.re[i] ?? 0),
        this.wanted.im - (this.outer.im[i] ?? 0),
        best,
        (j, off2) => {
          const off = Math.sqrt(off2);
          if (off < best && !this.clash(i, j)) {
            best = off;
            at = [i, j];
          }
          return best;
        },
      );
    }
    return this.way(...at);
  }
  private way(i: number, j: number): { fixed: Fixed[]; left: Complex } {
    return {
      fixed: [...masses(this.outer, i), ...masses(this.grid.sums, j)].sort((a, b) => a.place - b.place),
      left: subtract(this.wanted, {
        re: (this.outer.re[i] ?? 0) + (this.grid.sums.re[j] ?? 0),
        im: (this.outer.im[i] ?? 0) + (this.grid.sums.im[j] ?? 0),
      }),
    };
  }
  /** Every way that leaves at most so much, each once; undefined where there are too many of them. */
  within(radius: number): { fixed: Fixed[]; left: Complex }[] | undefined {
    const found = new Map<string, { fixed: Fixed[]; left: Complex }>();
    for (let i = 0; i < this.outer.n && found.size <= MOST_WAYS; i++) {
      if (this.isShort(i, radius)) continue;
      this.grid.near(
        this.wanted.re - (this.outer.re[i] ?? 0),
        this.wanted.im - (this.outer.im[i] ?? 0),
        radius,
        (j) => {
          if (found.size > MOST_WAYS) return -1;
          if (this.clash(i, j)) return radius;
          const way = this.way(i, j);
          const key = way.fixed.map((f) => `${f.place}:${f.massG}`).join(' ');
          if (!found.has(key)) found.set(key, way);
          return radius;
        },
      );
    }
    return found.size > MOST_WAYS ? undefined : [...found.values()];
  }
  /** Some of the nearest ways, where there are too many to take them all. */
  nearest(least: number): { fixed: Fixed[]; left: Complex }[] {
    let ways: { fixed: Fixed[]; left: Complex }[] = [];
    for (let radius = Math.max(least * 1.02, 1e-6); ways.length < SOME_WAYS; radius *= 1.25) {
      const more = this.within(radius);
      if (!more || more.length === this.outer.n * this.grid.sums.n) break;
      ways = more;
      if (radius > 1e9) break;
    }
    return ways;
  }
}
const masses = (s: Sums, i: number): Fixed[] =>
  s.at.flatMap((a, k) => {
    const place = a[i] ?? -1;
    return place < 0 ? [] : [{ place, massG: s.mass[k]?.[i] ?? 0 }];
  });

/** Ways of a plane that are looked at together with those of the other; beyond, only some of the nearest. */
const MOST_WAYS = 1500;
const SOME_WAYS = 150;

/**
 * The best way of fixing masses of the stock at the places of both planes together, with at most so many a plane: the least of the larger
 * share of the bearings' tolerance that stays. Of equal ones the fewest masses. Exact (docs/derivations.md 37), but where the masses do not
 * reach what is wanted: then the best of the nearest ways.
 */
export function bestSplit(
  planes: readonly PlaneToFill[],
  bearings: Bearings,
  most: number = MOST_MASSES,
  store: Store = new Store(),
): Split {
  const ways = planes.map((p) => new Ways(p, most, store));
  // the best of each plane by itself; then what a plane may leave while the whole stays as good
  let best = pick(
    ways.map((w) => [w.least()]),
    bearings,
  );
  const reach = reachOf(bearings, planes.length);
  const radii = reach.map((k) => k * best.worst * (1 + 1e-9) + 1e-12);
  const all = ways.map((w, i) => w.within(radii[i] ?? 0) ?? w.nearest(sizeOf(best.left[i] ?? { re: 0, im: 0 })));
  best = pick(all, bearings, best);
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

type Way = { fixed: Fixed[]; left: Complex };
function pick(ways: readonly (readonly Way[])[], bearings: Bearings, than?: Split): Split {
  const [one = [], two] = ways;
  const { felt, allowedGMm } = bearings;
  let best: { a: Way; b: Way | undefined; worst: number; n: number } | undefined;
  const count = (s: Split): number => s.fixed.reduce((n, f) => n + f.length, 0);
  const before = than ? { worst: than.worst, n: count(than) } : { worst: Infinity, n: Infinity };
  const none: Way = { fixed: [], left: { re: 0, im: 0 } };
  for (const a of one)
    for (const b of two ?? [none]) {
      // in plain numbers: there may be millions of pairs
      let worst = 0;
      for (let i = 0; i < felt.length; i++) {
        const row = felt[i] as readonly number[];
        const k = row[0] ?? 0;
        const l = two ? (row[1] ?? 0) : 0;
        const share =
          Math.hypot(k * a.left.re + l * b.left.re, k * a.left.im + l * b.left.im) / (allowedGMm[i] ?? Infinity);
        if (share > worst) worst = share;
      }
      const now = best ?? before;
      const tie = 1e-9 * Math.max(1, worst);
      if (worst > now.worst + tie) continue;
      const n = a.fixed.length + b.fixed.length;
      if (worst < now.worst - tie || n < now.n) best = { a, b: two ? b : undefined, worst, n };
    }
  if (!best) return than ?? { fixed: ways.map(() => []), left: [], worst: Infinity };
  const { a, b, worst } = best;
  return { fixed: b ? [a.fixed, b.fixed] : [a.fixed], left: b ? [a.left, b.left] : [a.left], worst };
}

/** The best with one, two, three and four masses a plane; and the one with the fewest that leaves no more than `enough` of the tolerance. */
export function splitLadder(
  planes: readonly PlaneToFill[],
  bearings: Bearings,
  enough: number,
): { steps: Split[]; chosen: number } {
  const steps: Split[] = [];
  const store = new Store();
  for (let most = 1; most <= MOST_MASSES; most++) {
    const next = bestSplit(planes, bearings, most, store);
    const before = steps.at(-1);
    // a further mass that betters nothing is none
    if (before && next.worst >= before.worst - 1e-9) continue;
    steps.push(next);
    if (next.worst <= enough) break;
  }
  return { steps, chosen: steps.length - 1 };
}
