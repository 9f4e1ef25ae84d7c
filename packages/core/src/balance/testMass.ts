import { add, divide, multiply, scale, subtract, type Complex } from '../winding/complex.ts';
import type { Influence } from './influence.ts';

const ZERO: Complex = { re: 0, im: 0 };

/** A residual found by moving a test mass round: size and angle of the heavy spot as the bearing sees it. */
export interface MovedMass {
  gMm: number;
  angleDeg: number;
  /** first harmonic of the amplitude itself: reads low for a large residual */
  simpleGMm: number;
  /** share of the scatter that the fit explains */
  r2: number;
  /** the test mass was too small to tell residual and mass apart */
  tooSmall: boolean;
}

/** More than half the test mass: which of the two turns round the other is not told. */
const MOST_Q = 0.8;

/**
 * Residual unbalance from amplitudes read with a test mass at equal steps: A² = a0 + c cos θ + s sin θ, exact for a linear stand. Derived.
 * @param positions angle of the mass, degrees, and the amplitude read there
 */
export function residualByMoving(
  positions: readonly { angleDeg: number; amplitude: number }[],
  testGMm: number,
): MovedMass | undefined {
  const n = positions.length;
  if (n < 3) return undefined;
  const fit = (value: (a: number) => number) => {
    const rad = Math.PI / 180;
    const v = positions.map((p) => value(p.amplitude));
    // least squares of 1, cos, sin: equal steps make the three orthogonal, other steps are solved as they are
    const rows = positions.map((p) => [1, Math.cos(p.angleDeg * rad), Math.sin(p.angleDeg * rad)] as const);
    const m = [0, 1, 2].map((i) => [0, 1, 2].map((j) => rows.reduce((s, r) => s + (r[i] ?? 0) * (r[j] ?? 0), 0)));
    const b = [0, 1, 2].map((i) => rows.reduce((s, r, k) => s + (r[i] ?? 0) * (v[k] ?? 0), 0));
    const x = solve3(m, b);
    if (!x) return undefined;
    const [a0, c, s] = x;
    const mean = v.reduce((t, y) => t + y, 0) / n;
    const total = v.reduce((t, y) => t + (y - mean) ** 2, 0);
    const left = v.reduce((t, y, k) => {
      const [, co = 0, si = 0] = rows[k] ?? [];
      return t + (y - a0 - c * co - s * si) ** 2;
    }, 0);
    return { a0, c, s, r2: total === 0 ? 0 : 1 - left / total };
  };
  const squares = fit((a) => a * a);
  const plain = fit((a) => a);
  if (!squares || !plain || squares.a0 <= 0 || plain.a0 <= 0) return undefined;
  const q = Math.hypot(squares.c, squares.s) / squares.a0;
  const x = q === 0 ? 0 : q >= 1 ? 1 : (1 - Math.sqrt(1 - q * q)) / q;
  const angle = (Math.atan2(squares.s, squares.c) * 180) / Math.PI;
  return {
    gMm: x * testGMm,
    angleDeg: ((angle % 360) + 360) % 360,
    simpleGMm: (testGMm * Math.hypot(plain.c, plain.s)) / plain.a0,
    r2: squares.r2,
    tooSmall: q > MOST_Q,
  };
}

/** Three equations by Cramer's rule. */
function solve3(m: readonly (readonly number[])[], b: readonly number[]): [number, number, number] | undefined {
  const det = (c: readonly (readonly number[])[]): number => {
    const at = (i: number, j: number) => c[i]?.[j] ?? 0;
    return (
      at(0, 0) * (at(1, 1) * at(2, 2) - at(1, 2) * at(2, 1)) -
      at(0, 1) * (at(1, 0) * at(2, 2) - at(1, 2) * at(2, 0)) +
      at(0, 2) * (at(1, 0) * at(2, 1) - at(1, 1) * at(2, 0))
    );
  };
  const d = det(m);
  if (Math.abs(d) < 1e-12) return undefined;
  const put = (j: number) => m.map((row, i) => row.map((x, k) => (k === j ? (b[i] ?? 0) : x)));
  return [det(put(0)) / d, det(put(1)) / d, det(put(2)) / d];
}

/**
 * Residuals of two planes from what moving a mass in each told at its bearing: bearing A feels plane 2 too, so both are solved with the
 * influence set. Derived.
 */
export function withoutCrosstalk(a: Influence, q1: Complex, q2: Complex): [Complex, Complex] | undefined {
  const [[a1 = ZERO, a2 = ZERO] = [], [b1 = ZERO, b2 = ZERO] = []] = a;
  if ([a1, b2].some((z) => z.re === 0 && z.im === 0)) return undefined;
  const [c1, c2] = [divide(a2, a1), divide(b1, b2)];
  const down = subtract({ re: 1, im: 0 }, multiply(c1, c2));
  if (down.re === 0 && down.im === 0) return undefined;
  return [divide(subtract(q1, multiply(c1, q2)), down), divide(subtract(q2, multiply(c2, q1)), down)];
}

/** Masses of one plane as one vector: Σ m r e^jθ. Nothing where they cancel to under 1 % of the largest. */
export function combined(masses: readonly { massG: number; radiusMm: number; angleDeg: number }[]): Complex {
  const parts = masses.map((m) => {
    const rad = (m.angleDeg * Math.PI) / 180;
    return scale({ re: Math.cos(rad), im: Math.sin(rad) }, m.massG * m.radiusMm);
  });
  const sum = parts.reduce(add, ZERO);
  const largest = Math.max(0, ...parts.map((p) => Math.hypot(p.re, p.im)));
  return Math.hypot(sum.re, sum.im) < 0.01 * largest ? ZERO : sum;
}
