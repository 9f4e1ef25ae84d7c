import { add, divide, multiply, polar, scale, sizeOf, subtract, type Complex } from '../winding/complex.ts';

/** Influence of each plane on each bearing: a[bearing][plane], reading per g·mm. */
export type Influence = readonly (readonly Complex[])[];

const ZERO: Complex = { re: 0, im: 0 };

/** What a run with a trial mass is worked from: readings of the bearings, and the trial (g·mm, angle as complex). */
export interface TrialRun {
  readings: readonly Complex[];
  trial: Complex;
}

/**
 * Influence coefficients from the first run and one run for each plane with a trial mass in it: a_ik = (V_ik − V_i0)/U_k. A trial that
 * stayed in while the next plane was tried is part of what that run is compared with. Derived.
 */
export function influenceOf(first: readonly Complex[], trials: readonly TrialRun[], staysIn = false): Influence {
  return first.map((v0, i) =>
    trials.map(({ readings, trial }, k) => {
      const before = staysIn && k > 0 ? (trials[k - 1]?.readings[i] ?? ZERO) : v0;
      return divide(subtract(readings[i] ?? ZERO, before), trial);
    }),
  );
}

const determinant = ([[a = ZERO, b = ZERO] = [], [c = ZERO, d = ZERO] = []]: Influence): Complex =>
  subtract(multiply(a, d), multiply(b, c));

/**
 * Condition number (2-norm) of an influence matrix of two planes, its columns brought to unit length first; 1 where there is one plane.
 * Infinite where the planes cannot be told apart.
 */
export function conditionOf(a: Influence): number {
  if ((a[0]?.length ?? 0) < 2) return 1;
  const columns = [0, 1].map((k) => a.map((row) => row[k] ?? ZERO));
  const unit = columns.map((c) => {
    const length = Math.hypot(...c.map(sizeOf));
    return length === 0 ? c : c.map((z) => scale(z, 1 / length));
  });
  if (columns.some((c) => Math.hypot(...c.map(sizeOf)) === 0)) return Infinity;
  // eigenvalues of the Gram matrix of unit columns: 1 ± |<c1, c2>|
  const inner = (unit[0] ?? []).reduce<Complex>((s, z, i) => {
    const w = unit[1]?.[i] ?? ZERO;
    return add(s, multiply({ re: z.re, im: -z.im }, w));
  }, ZERO);
  const g = Math.min(1, sizeOf(inner));
  // 1 − g by the determinant, which does not cancel where the columns are nearly alike
  const det = sizeOf(determinant([0, 1].map((i) => unit.map((c) => c[i] ?? ZERO))));
  const low = (det * det) / (1 + g);
  return low === 0 ? Infinity : Math.sqrt((1 + g) / low);
}

/** What to add in each plane so that these readings vanish: a U = −V. Undefined where the planes cannot be told apart. */
export function correctionsFor(a: Influence, readings: readonly Complex[]): Complex[] | undefined {
  const planes = a[0]?.length ?? 0;
  if (planes === 1) {
    // one plane: the bearings together, by least squares
    const up = a.reduce<Complex>(
      (s, [c = ZERO], i) => add(s, multiply({ re: c.re, im: -c.im }, readings[i] ?? ZERO)),
      ZERO,
    );
    const down = a.reduce((s, [c = ZERO]) => s + sizeOf(c) ** 2, 0);
    return down === 0 ? undefined : [scale(up, -1 / down)];
  }
  const det = determinant(a);
  if (sizeOf(det) === 0) return undefined;
  const [[a1 = ZERO, a2 = ZERO] = [], [b1 = ZERO, b2 = ZERO] = []] = a;
  const [va = ZERO, vb = ZERO] = readings;
  return [
    divide(subtract(multiply(vb, a2), multiply(va, b2)), det),
    divide(subtract(multiply(va, b1), multiply(vb, a1)), det),
  ];
}

/** Readings that are expected once these unbalances are added. */
export const predicted = (a: Influence, readings: readonly Complex[], added: readonly Complex[]): Complex[] =>
  readings.map((v, i) => (a[i] ?? []).reduce((s, c, k) => add(s, multiply(c, added[k] ?? ZERO)), v));

/** Unbalance of the planes that these readings tell of: the heavy spots. */
export const unbalanceFrom = (a: Influence, readings: readonly Complex[]): Complex[] | undefined =>
  correctionsFor(a, readings)?.map((u) => scale(u, -1));

/** How far a trial altered a reading: the amplitude in percent, the phase in degrees. */
export function responseOf(before: Complex, after: Complex): { percent: number; deg: number } {
  const size = Math.max(sizeOf(before), 1e-12);
  const turn = Math.abs(
    Math.atan2(after.im * before.re - after.re * before.im, after.re * before.re + after.im * before.im),
  );
  return { percent: (100 * Math.abs(sizeOf(after) - sizeOf(before))) / size, deg: (turn * 180) / Math.PI };
}

/** Readings of repeated runs together: the mean, and the largest distance of one from it. */
export function meanOf(runs: readonly Complex[]): { mean: Complex; scatter: number } {
  const mean = scale(runs.reduce(add, ZERO), 1 / runs.length);
  return { mean, scatter: runs.length < 2 ? 0 : Math.max(...runs.map((v) => sizeOf(subtract(v, mean)))) };
}

/** Whether a stored influence agrees with one newly tried: within so many percent and degrees. */
export function agrees(stored: Complex, tried: Complex, percent: number, deg: number): boolean {
  const { percent: off, deg: turned } = responseOf(stored, tried);
  return off <= percent && turned <= deg;
}

/** A reading with its phase as lead, whatever the meter shows: a lag grows against rotation. */
export const asLead = (size: number, angleDeg: number, phase: 'lead' | 'lag'): Complex =>
  polar(size, phase === 'lead' ? angleDeg : -angleDeg);
