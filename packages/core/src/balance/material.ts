/** Steel of a shaft or ring, g/mm³. */
export const STEEL_G_MM3 = 7.85e-3;
/** Point of a usual drill, degrees. */
export const DRILL_POINT_DEG = 118;

export interface Drill {
  diameterMm: number;
  /** radius of the surface where it enters, flat */
  radiusMm: number;
  pointDeg?: number;
  densityGMm3?: number;
}

/** Mass and unbalance that a radial hole takes, depth to the tip of the drill, mm. Derived (cylinder and cone). */
export function drilled(drill: Drill, depthMm: number): { massG: number; gMm: number } {
  const { diameterMm: d, radiusMm: r, pointDeg = DRILL_POINT_DEG, densityGMm3: rho = STEEL_G_MM3 } = drill;
  const half = Math.tan(((pointDeg / 2) * Math.PI) / 180);
  const cone = d / 2 / half;
  if (depthMm <= 0) return { massG: 0, gMm: 0 };
  if (depthMm < cone) {
    const massG = ((rho * Math.PI) / 3) * (depthMm * half) ** 2 * depthMm;
    return { massG, gMm: massG * (r - depthMm / 4) };
  }
  const area = (Math.PI * d * d) / 4;
  const shank = depthMm - cone;
  const massG = rho * area * (depthMm - (2 * cone) / 3);
  const gMm = rho * (area * shank * (r - shank / 2) + ((area * cone) / 3) * (r - depthMm + (3 * cone) / 4));
  return { massG, gMm };
}

/** Depth to the tip for an unbalance, mm; undefined where the hole would go deeper than `mostMm`. */
export function drillDepth(drill: Drill, gMm: number, mostMm: number): number | undefined {
  return solve((h) => drilled(drill, h).gMm, gMm, mostMm);
}

/** Unbalance of a flat milled on a cylinder: ρ l c³/12 with the chord c = 2 √(2Rt − t²), exactly. Derived. */
export function flatMilled(
  of: { radiusMm: number; lengthMm: number; densityGMm3?: number },
  depthMm: number,
): { chordMm: number; gMm: number } {
  const chordMm = 2 * Math.sqrt(Math.max(0, 2 * of.radiusMm * depthMm - depthMm ** 2));
  return { chordMm, gMm: ((of.densityGMm3 ?? STEEL_G_MM3) * of.lengthMm * chordMm ** 3) / 12 };
}
/** Depth of a flat for an unbalance, mm; undefined beyond `mostMm`. */
export const flatDepth = (
  of: { radiusMm: number; lengthMm: number; densityGMm3?: number },
  gMm: number,
  mostMm: number,
): number | undefined => solve((t) => flatMilled(of, t).gMm, gMm, mostMm);

/** Unbalance of a slot milled on the top of a tooth: ρ w t l (R − t/2). */
export const toothMilled = (
  of: { radiusMm: number; lengthMm: number; widthMm: number; densityGMm3?: number },
  depthMm: number,
): number => (of.densityGMm3 ?? STEEL_G_MM3) * of.widthMm * depthMm * of.lengthMm * (of.radiusMm - depthMm / 2);
export const toothDepth = (
  of: { radiusMm: number; lengthMm: number; widthMm: number; densityGMm3?: number },
  gMm: number,
  mostMm: number,
): number | undefined => solve((t) => toothMilled(of, t), gMm, mostMm);

/** Where a growing function reaches a value, by halving; undefined where it does not up to `most`. */
function solve(of: (x: number) => number, wanted: number, most: number): number | undefined {
  if (wanted <= 0) return 0;
  const end = of(most);
  if (end < wanted * (1 - 1e-12)) return undefined;
  let [low, high] = [0, most];
  for (let i = 0; i < 200 && high - low > 1e-12 * most; i++) {
    const mid = (low + high) / 2;
    if (of(mid) < wanted) low = mid;
    else high = mid;
  }
  return (low + high) / 2;
}

/** Mass of half a key, g: balanced with the shaft, the other half with the coupling. */
export const halfKeyG = (key: { widthMm: number; heightMm: number; lengthMm: number; densityGMm3?: number }): number =>
  ((key.densityGMm3 ?? STEEL_G_MM3) * key.widthMm * key.heightMm * key.lengthMm) / 2;
