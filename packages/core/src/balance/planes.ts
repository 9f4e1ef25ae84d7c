import { add, angleDegOf, polar, scale, sizeOf, subtract, type Complex } from '../winding/complex.ts';

/** A vector of unbalance or vibration as it is written: size and angle, 0 ≤ angle < 360. */
export interface Vector {
  size: number;
  angleDeg: number;
}
export const complexOf = (v: Vector): Complex => polar(v.size, v.angleDeg);
/** The vector of a complex number; the angle of nothing is 0. */
export function vectorOf(z: Complex): Vector {
  const size = sizeOf(z);
  const angle = size === 0 ? 0 : angleDegOf(z);
  const turned = ((angle % 360) + 360) % 360;
  return { size, angleDeg: turned === 360 ? 0 : turned };
}

/** Where bearings and correction planes of a rotor stand along its axis, mm from one datum; plane 1 at the end of bearing A. */
export interface Planes {
  bearingAMm: number;
  bearingBMm: number;
  /** centre of mass */
  centreMm: number;
  planesMm: readonly number[];
}

/** Unbalances of the planes as the bearings feel them: U_A = Σ U_i (x_B − x_i)/L, U_B = Σ U_i (x_i − x_A)/L. Derived. */
export function atBearings(of: Planes, unbalances: readonly Complex[]): [Complex, Complex] {
  const span = of.bearingBMm - of.bearingAMm;
  const sum = (share: (x: number) => number) =>
    of.planesMm.reduce<Complex>((s, x, i) => add(s, scale(unbalances[i] ?? { re: 0, im: 0 }, share(x))), {
      re: 0,
      im: 0,
    });
  return [sum((x) => (of.bearingBMm - x) / span), sum((x) => (x - of.bearingAMm) / span)];
}

/** Unbalances of two planes from those at the bearings. Derived. */
export function atPlanes(of: Planes, [a, b]: readonly [Complex, Complex]): [Complex, Complex] {
  const [x1 = 0, x2 = 0] = of.planesMm;
  const apart = x2 - x1;
  const { bearingAMm: xa, bearingBMm: xb } = of;
  return [
    scale(add(scale(a, x2 - xa), scale(b, x2 - xb)), 1 / apart),
    scale(add(scale(a, xa - x1), scale(b, xb - x1)), 1 / apart),
  ];
}

/** Static part and couple of two planes about the middle between them. */
export function staticAndCouple(
  u1: Complex,
  u2: Complex,
  apartMm: number,
): { staticGMm: Vector; coupleGMm: Vector; momentGMm2: number } {
  const couple = scale(subtract(u1, u2), 0.5);
  return {
    staticGMm: vectorOf(add(u1, u2)),
    // at plane 1; its opposite stands at plane 2
    coupleGMm: vectorOf(couple),
    momentGMm2: sizeOf(couple) * Math.abs(apartMm),
  };
}

/** Planes nearer to each other than a third of the bearing span: the masses grow large for little. Common practice. */
export const planesAreClose = (of: Planes): boolean =>
  of.planesMm.length === 2 &&
  Math.abs((of.planesMm[1] ?? 0) - (of.planesMm[0] ?? 0)) < Math.abs(of.bearingBMm - of.bearingAMm) / 3;

/** Centrifugal force of an unbalance, N. @example forceN(350, 3000) // 34.54 */
export const forceN = (gMm: number, rpm: number): number => gMm * 1e-6 * ((2 * Math.PI * rpm) / 60) ** 2;
