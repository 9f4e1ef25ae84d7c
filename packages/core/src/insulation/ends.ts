import { insulatedDiameterM, type WireGrade } from '../wire/insulatedDiameter.ts';
import type { Strand } from '../wire/strands.ts';

/**
 * Joints of a winding by count: series = G − m·a·s; total = series + leads + internal star.
 * @param halves 2 where each phase is brought out in two halves (9 and 12 leads), else 1; circuits are then of a half
 */
export function jointCount(x: {
  groups: number;
  phases: number;
  circuits: number;
  halves: 1 | 2;
  leads: number;
  internalStars: number;
}): { series: number; total: number } {
  const series = x.groups - x.phases * x.circuits * x.halves;
  return { series, total: series + x.leads + x.internalStars };
}

/**
 * Lacing cord of one end: N·(k·P + π·Dm/N) + 2·tail.
 * @param loops turns of cord per stitch
 */
export function lacingCordM(x: {
  stitches: number;
  loops: number;
  perimeterM: number;
  meanDiameterM: number;
  tailM: number;
}): number {
  return x.stitches * (x.loops * x.perimeterM + (Math.PI * x.meanDiameterM) / x.stitches) + 2 * x.tailM;
}

/** Banding tape: Σ over layers of turns·π·(D + (2j+1)·t). */
export function bandingTapeM(x: { diameterM: number; thicknessM: number; layers: number; turns: number }): number {
  let length = 0;
  for (let j = 0; j < x.layers; j++) length += x.turns * Math.PI * (x.diameterM + (2 * j + 1) * x.thicknessM);
  return length;
}

/** Braze alloy, kg: joints × lap × width × gap × density. */
export function brazeMassKg(x: { joints: number; lapM: number; widthM: number; gapM: number; densityKgM3: number }) {
  return x.joints * x.lapM * x.widthM * x.gapM * x.densityKgM3;
}

/** Bores sleeving is sold in, mm (common practice). */
export const SLEEVE_BORES_MM = [0.5, 0.8, 1, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10, 12, 14, 16, 18, 20, 25, 30] as const;
/** How densely round wires lie in a bundle that is twisted by hand (common practice). */
const BUNDLE_PACKING = 0.75;

/** Diameter of a bundle of insulated wires: those of all ends that meet. One wire is its own diameter. */
export function bundleDiameterM(strands: readonly Strand[], ends: number, grade: WireGrade): number {
  const squares = strands.reduce((a, s) => a + s.count * insulatedDiameterM(s.bareM, grade) ** 2, 0) * ends;
  const count = strands.reduce((a, s) => a + s.count, 0) * ends;
  return count <= 1 ? Math.sqrt(squares) : Math.sqrt(squares / BUNDLE_PACKING);
}

/** Smallest sleeve bore sold that is at least 1.2 times the bundle (common practice), m; undefined above the largest. */
export function sleeveBoreM(bundleM: number): number | undefined {
  const bore = SLEEVE_BORES_MM.find((b) => b / 1000 >= bundleM * 1.2 - 1e-12);
  return bore === undefined ? undefined : bore / 1000;
}
