import { METRE_PER_INCH } from '../quantity/units.ts';
/**
 * Bare diameter of American wire gauge `number` (0 for 1/0, −1 for 2/0, half sizes allowed).
 * Source: ASTM B258, d = 0.127 mm · 92^((36 − n)/39).
 * @returns metres
 * @example awgDiameterM(18) // 0.0010237
 */
export function awgDiameterM(number: number): number {
  return 0.127e-3 * 92 ** ((36 - number) / 39);
}

/** Legacy imperial standard wire gauge, bare diameter in inches (from memory). */
const SWG_INCH: Readonly<Record<string, number>> = {
  '7/0': 0.5,
  '6/0': 0.464,
  '5/0': 0.432,
  '4/0': 0.4,
  '3/0': 0.372,
  '2/0': 0.348,
  '0': 0.324,
  '1': 0.3,
  '2': 0.276,
  '3': 0.252,
  '4': 0.232,
  '5': 0.212,
  '6': 0.192,
  '7': 0.176,
  '8': 0.16,
  '9': 0.144,
  '10': 0.128,
  '11': 0.116,
  '12': 0.104,
  '13': 0.092,
  '14': 0.08,
  '15': 0.072,
  '16': 0.064,
  '17': 0.056,
  '18': 0.048,
  '19': 0.04,
  '20': 0.036,
  '21': 0.032,
  '22': 0.028,
  '23': 0.024,
  '24': 0.022,
  '25': 0.02,
  '26': 0.018,
  '27': 0.0164,
  '28': 0.0148,
  '29': 0.0136,
  '30': 0.0124,
  '31': 0.0116,
  '32': 0.0108,
  '33': 0.01,
  '34': 0.0092,
  '35': 0.0084,
  '36': 0.0076,
  '37': 0.0068,
  '38': 0.006,
  '39': 0.0052,
  '40': 0.0048,
  '41': 0.0044,
  '42': 0.004,
  '43': 0.0036,
  '44': 0.0032,
  '45': 0.0028,
  '46': 0.0024,
  '47': 0.002,
  '48': 0.0016,
  '49': 0.0012,
  '50': 0.001,
};

/** Legacy gauge numbers of the table, thickest first. */
export const SWG_NUMBERS: readonly string[] = Object.entries(SWG_INCH)
  .sort((a, b) => b[1] - a[1])
  .map(([n]) => n);

/** Legacy gauge number -> bare diameter in metres, undefined when the table has no such number. */
export function swgDiameterM(number: string): number | undefined {
  const inch = SWG_INCH[number];
  return inch === undefined ? undefined : inch * METRE_PER_INCH;
}

/** Preferred metric diameters in mm: R20 first choice, R40 between them (IEC 60317). */
export const METRIC_R20_MM = [
  0.1, 0.112, 0.125, 0.14, 0.16, 0.18, 0.2, 0.224, 0.25, 0.28, 0.315, 0.355, 0.4, 0.45, 0.5, 0.56, 0.63, 0.71, 0.8, 0.9,
  1, 1.12, 1.25, 1.4, 1.6, 1.8, 2, 2.24, 2.5, 2.8, 3.15, 3.55, 4, 4.5, 5,
] as const;
export const METRIC_R40_EXTRA_MM = [
  0.106, 0.118, 0.132, 0.15, 0.17, 0.19, 0.212, 0.236, 0.265, 0.3, 0.335, 0.375, 0.425, 0.475, 0.53, 0.6, 0.67, 0.75,
  0.85, 0.95, 1.06, 1.18, 1.32, 1.5, 1.7, 1.9, 2.12, 2.36, 2.65, 3, 3.35, 3.75, 4.25, 4.75,
] as const;
