import { atSlip, seen, type Circuit } from './circuit.ts';

/** Readings of the no-load and the locked-rotor test that a circuit is worked out from: per line, per phase of a star reckoned. */
export interface CircuitReadings {
  ratedV: number;
  frequencyHz: number;
  poles: number;
  noLoad: { lineV: number; amps: number; watts: number };
  locked: { lineV: number; amps: number; watts: number; frequencyHz: number };
  /** resistance of a phase of a star (half of lead to lead) at the no-load run, and at the locked test */
  r1: number;
  r1Locked: number;
  frictionW: number;
  /** X1 over X2 */
  ratio: number;
}

/** X1/X2 by design of the cage. Source: IEEE 112 (from memory). */
export const REACTANCE_RATIOS = { A: 1, B: 0.67, C: 0.43, D: 1, 'wound rotor': 1 } as const;
export type CageDesign = keyof typeof REACTANCE_RATIOS;

const MOST_ROUNDS = 200;

/**
 * The circuit by the steps of the standard: reactive powers, a ratio that is repeated until it stays.
 * Source: IEEE 112 (from memory). R2 is at the temperature of the locked test.
 * @returns undefined where the readings leave no reactive power, or the repetition does not settle
 */
export function circuitBySteps(x: CircuitReadings): Circuit | undefined {
  const m = 3;
  const [v0, vl] = [x.noLoad.lineV / Math.sqrt(3), x.locked.lineV / Math.sqrt(3)];
  const { amps: i0, watts: p0 } = x.noLoad;
  const { amps: il, watts: pl, frequencyHz: fl } = x.locked;
  const q0 = Math.sqrt((m * v0 * i0) ** 2 - p0 ** 2);
  const ql = Math.sqrt((m * vl * il) ** 2 - pl ** 2);
  if (!(q0 > 0) || !(ql > 0)) return undefined;
  let [r, x1, xm] = [0.05, 0, 0];
  for (let round = 0; round < MOST_ROUNDS; round++) {
    xm = (m * v0 ** 2) / ((q0 - m * i0 ** 2 * x1) * (1 + r) ** 2);
    x1 = ((x.frequencyHz / fl) * (ql * (x.ratio + r))) / (m * il ** 2 * (1 + x.ratio + r));
    const next = x1 / xm;
    if (!(next > 0) || !Number.isFinite(next)) return undefined;
    const settled = Math.abs(next - r) <= 1e-13 * r;
    r = next;
    if (settled) break;
    if (round === MOST_ROUNDS - 1) return undefined;
  }
  const x2 = x1 / x.ratio;
  const coreW = p0 - x.frictionW - m * i0 ** 2 * x.r1;
  if (!(coreW > 0)) return undefined;
  const conductance = (coreW * (1 + r) ** 2) / (m * v0 ** 2);
  const x2Locked = ((fl / x.frequencyHz) * x1) / x.ratio;
  const r2 = (pl / (m * il ** 2) - x.r1Locked) * (1 + x2 / xm) ** 2 - x2Locked ** 2 * conductance;
  return r2 > 0 ? { r1: x.r1, x1, r2, x2, xm, rfe: 1 / conductance, frictionW: x.frictionW } : undefined;
}

/** What a circuit would read at no load, turning as fast as its friction lets it, and locked. */
export function readingsOf(c: Circuit, x: CircuitReadings): [i0: number, p0: number, vl: number, pl: number] {
  const supply = { lineV: x.noLoad.lineV, frequencyHz: x.frequencyHz, poles: x.poles };
  // the slip at which what crosses the gap only turns the rotor
  let [low, high] = [0, 0.2];
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2;
    if (atSlip(c, supply, middle).shaftW < 0) low = middle;
    else high = middle;
  }
  const idle = atSlip(c, supply, high);
  const { z } = seen({ ...c, r1: x.r1Locked }, 1, x.locked.frequencyHz / x.frequencyHz);
  return [idle.amps, idle.inW, Math.sqrt(3) * x.locked.amps * Math.hypot(z[0], z[1]), 3 * x.locked.amps ** 2 * z[0]];
}

/**
 * The circuit that reads exactly what was read, by Newton's method from the one by steps: four readings, four unknowns.
 * Source: derived.
 * @returns undefined where it does not settle
 */
export function circuitExactly(x: CircuitReadings): Circuit | undefined {
  const start = circuitBySteps(x);
  if (!start) return undefined;
  const wanted = [x.noLoad.amps, x.noLoad.watts, x.locked.lineV, x.locked.watts];
  const made = (u: readonly number[]): Circuit => {
    const [x1, xm, r2, rfe] = u.map(Math.exp) as [number, number, number, number];
    return { r1: x.r1, x1, r2, x2: x1 / x.ratio, xm, rfe, frictionW: x.frictionW };
  };
  const off = (u: readonly number[]): number[] => readingsOf(made(u), x).map((read, k) => read / (wanted[k] ?? 1) - 1);
  let u = [start.x1, start.xm, start.r2, start.rfe].map(Math.log);
  for (let round = 0; round < 25; round++) {
    const now = off(u);
    const error = Math.hypot(...now);
    if (!Number.isFinite(error)) return undefined;
    if (error < 1e-12) return made(u);
    const step = 1e-6;
    const columns = u.map((_, k) => {
      const [up, down] = [step, -step].map((d) => off(u.map((v, i) => (i === k ? v + d : v))));
      return (up ?? []).map((v, i) => (v - (down?.[i] ?? 0)) / (2 * step));
    });
    const change = solve(
      now.map((_, row) => columns.map((c) => c[row] ?? 0)),
      now.map((v) => -v),
    );
    if (!change) return undefined;
    // no more than a tenth at a time, or less where that is worse
    const most = Math.max(...change.map(Math.abs));
    let share = most > 0.5 ? 0.5 / most : 1;
    let next = u;
    for (let half = 0; half < 10; half++, share /= 2) {
      next = u.map((v, i) => v + share * (change[i] ?? 0));
      if (Math.hypot(...off(next)) < error) break;
    }
    if (next.every((v, i) => Math.abs(v - (u[i] ?? 0)) < 1e-15)) break;
    u = next;
  }
  return Math.hypot(...off(u)) < 1e-8 ? made(u) : undefined;
}

/** Solves a small linear system by elimination with pivots; undefined where it is singular. */
function solve(matrix: readonly (readonly number[])[], right: readonly number[]): number[] | undefined {
  const rows = matrix.map((row, i) => [...row, right[i] ?? 0]);
  const n = rows.length;
  for (let k = 0; k < n; k++) {
    const pivot = rows
      .slice(k)
      .reduce((best, row, i) => (Math.abs(row[k] ?? 0) > Math.abs(rows[best]?.[k] ?? 0) ? k + i : best), k);
    [rows[k], rows[pivot]] = [rows[pivot] as number[], rows[k] as number[]];
    const own = rows[k] as number[];
    if (!(Math.abs(own[k] ?? 0) > 1e-300)) return undefined;
    for (let i = 0; i < n; i++) {
      if (i === k) continue;
      const row = rows[i] as number[];
      const factor = (row[k] ?? 0) / (own[k] as number);
      for (let j = k; j <= n; j++) row[j] = (row[j] ?? 0) - factor * (own[j] ?? 0);
    }
  }
  return rows.map((row, k) => (row[n] ?? 0) / (row[k] as number));
}
