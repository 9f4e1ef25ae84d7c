import { METRE_PER_INCH } from '../quantity/units.ts';
import { awgDiameterM, METRIC_R40_EXTRA_MM } from './gauge.ts';

/** Enamel build: grade 1 / single or grade 2 / heavy. */
export type WireGrade = 1 | 2;

/** IEC 60317-0-1 maximum overall diameters, mm: bare, grade 1, grade 2 (from memory; the shop may override). */
const IEC_MAX_OVERALL_MM: readonly (readonly [number, number, number])[] = [
  [0.1, 0.117, 0.125],
  [0.112, 0.13, 0.139],
  [0.125, 0.144, 0.154],
  [0.14, 0.16, 0.171],
  [0.16, 0.182, 0.194],
  [0.18, 0.204, 0.217],
  [0.2, 0.226, 0.239],
  [0.224, 0.252, 0.266],
  [0.25, 0.281, 0.297],
  [0.28, 0.312, 0.329],
  [0.315, 0.349, 0.367],
  [0.355, 0.392, 0.411],
  [0.4, 0.439, 0.459],
  [0.45, 0.491, 0.513],
  [0.5, 0.544, 0.566],
  [0.56, 0.606, 0.63],
  [0.63, 0.679, 0.704],
  [0.71, 0.762, 0.789],
  [0.8, 0.855, 0.884],
  [0.9, 0.959, 0.989],
  [1, 1.062, 1.094],
  [1.12, 1.184, 1.217],
  [1.25, 1.316, 1.349],
  [1.4, 1.468, 1.502],
  [1.6, 1.67, 1.706],
  [1.8, 1.872, 1.909],
  [2, 2.074, 2.112],
  [2.24, 2.316, 2.355],
  [2.5, 2.578, 2.618],
  [2.8, 2.88, 2.922],
  [3.15, 3.233, 3.276],
  [3.55, 3.635, 3.679],
  [4, 4.088, 4.133],
  [4.5, 4.591, 4.637],
  [5, 5.093, 5.141],
];

/** NEMA MW 1000 maximum overall diameters, inch: gauge number, single, heavy (from memory; the shop may override). */
const AWG_MAX_OVERALL_INCH: readonly (readonly [number, number, number])[] = [
  [14, 0.0666, 0.0682],
  [15, 0.0594, 0.0609],
  [16, 0.0531, 0.0545],
  [17, 0.0475, 0.0488],
  [18, 0.0424, 0.0437],
  [19, 0.0379, 0.0391],
  [20, 0.0339, 0.0351],
  [21, 0.0303, 0.0314],
  [22, 0.027, 0.0281],
  [23, 0.0243, 0.0253],
  [24, 0.0217, 0.0227],
  [25, 0.0194, 0.0203],
  [26, 0.0173, 0.0182],
  [27, 0.0156, 0.0164],
  [28, 0.014, 0.0147],
  [29, 0.0126, 0.0133],
  [30, 0.0112, 0.0119],
  [31, 0.01, 0.0108],
  [32, 0.0091, 0.0098],
  [33, 0.0081, 0.0088],
  [34, 0.0072, 0.0078],
  [35, 0.0064, 0.007],
  [36, 0.0058, 0.0063],
  [37, 0.0052, 0.0057],
  [38, 0.0047, 0.0051],
  [39, 0.0041, 0.0045],
  [40, 0.0037, 0.004],
];

/** The inch table, where a wire is of a gauge number to within its rounding. */
function gaugeOverallM(bareM: number, grade: WireGrade): number | undefined {
  const row = AWG_MAX_OVERALL_INCH.find(([n]) => Math.abs(awgDiameterM(n) - bareM) < 1e-6);
  return row === undefined ? undefined : row[grade] * METRE_PER_INCH;
}

/**
 * Largest overall diameter of round enamelled wire.
 * A wire of a gauge number: the inch table (NEMA MW 1000). Tabled R20 size: the table; R40 size between two: build of the next larger R20 size; anything else: build
 * interpolated linearly in bare diameter. Source: IEC 60317-0-1 (from memory).
 * @param bareM bare diameter, m
 * @returns overall diameter, m
 */
export function insulatedDiameterM(bareM: number, grade: WireGrade): number {
  const inch = gaugeOverallM(bareM, grade);
  if (inch !== undefined) return inch;
  const bare = bareM * 1000;
  const column = grade === 1 ? 1 : 2;
  const same = (a: number) => Math.abs(a - bare) < 5e-4;
  const tabled = IEC_MAX_OVERALL_MM.find((row) => same(row[0]));
  if (tabled) return tabled[column] / 1000;
  const build = (row: readonly [number, number, number]) => row[column] - row[0];
  const first = IEC_MAX_OVERALL_MM[0] as readonly [number, number, number];
  const last = IEC_MAX_OVERALL_MM[IEC_MAX_OVERALL_MM.length - 1] as readonly [number, number, number];
  const upperIndex = IEC_MAX_OVERALL_MM.findIndex((row) => row[0] > bare);
  if (upperIndex === 0) return (bare + build(first)) / 1000;
  if (upperIndex < 0) return (bare + build(last)) / 1000;
  const upper = IEC_MAX_OVERALL_MM[upperIndex] as readonly [number, number, number];
  if (METRIC_R40_EXTRA_MM.some(same)) return (bare + build(upper)) / 1000;
  const lower = IEC_MAX_OVERALL_MM[upperIndex - 1] as readonly [number, number, number];
  const share = (bare - lower[0]) / (upper[0] - lower[0]);
  return (bare + build(lower) + share * (build(upper) - build(lower))) / 1000;
}
