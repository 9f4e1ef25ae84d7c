import { z } from 'zod';
import { limit, type ShopLimits } from '../limits/limits.ts';
import { formatNumber } from '../quantity/format.ts';
import { notAbove, notBelow, type Judged } from '../verdict.ts';

/** Sizes that the fits are kept for, over and up to, mm. */
const SIZES = [10, 18, 30, 50, 80, 120, 180, 250, 315, 400] as const;
type Band = readonly [low: number, high: number];

/** Limits of journals, µm from the nominal size, by size as above. Source: ISO 286-2 (from memory). */
const JOURNALS = {
  j5: [
    [-3, 5],
    [-4, 5],
    [-5, 6],
    [-7, 6],
    [-9, 6],
    [-11, 7],
    [-13, 7],
    [-16, 7],
    [-18, 7],
  ],
  k5: [
    [1, 9],
    [2, 11],
    [2, 13],
    [2, 15],
    [3, 18],
    [3, 21],
    [4, 24],
    [4, 27],
    [4, 29],
  ],
  k6: [
    [1, 12],
    [2, 15],
    [2, 18],
    [2, 21],
    [3, 25],
    [3, 28],
    [4, 33],
    [4, 36],
    [4, 40],
  ],
  m5: [
    [7, 15],
    [8, 17],
    [9, 20],
    [11, 24],
    [13, 28],
    [15, 33],
    [17, 37],
    [20, 43],
    [21, 46],
  ],
  m6: [
    [7, 18],
    [8, 21],
    [9, 25],
    [11, 30],
    [13, 35],
    [15, 40],
    [17, 46],
    [20, 52],
    [21, 57],
  ],
} as const satisfies Record<string, readonly Band[]>;
/** Limits of housings, likewise. Source: ISO 286-2 (from memory). */
const HOUSINGS = {
  H6: [
    [0, 11],
    [0, 13],
    [0, 16],
    [0, 19],
    [0, 22],
    [0, 25],
    [0, 29],
    [0, 32],
    [0, 36],
  ],
  H7: [
    [0, 18],
    [0, 21],
    [0, 25],
    [0, 30],
    [0, 35],
    [0, 40],
    [0, 46],
    [0, 52],
    [0, 57],
  ],
  J7: [
    [-8, 10],
    [-9, 12],
    [-11, 14],
    [-12, 18],
    [-13, 22],
    [-14, 26],
    [-16, 30],
    [-16, 36],
    [-18, 39],
  ],
} as const satisfies Record<string, readonly Band[]>;
export type JournalFit = keyof typeof JOURNALS;
export type HousingFit = keyof typeof HOUSINGS;
export const JOURNAL_FITS = Object.keys(JOURNALS) as [JournalFit, ...JournalFit[]];
export const HOUSING_FITS = Object.keys(HOUSINGS) as [HousingFit, ...HousingFit[]];
/** Where nobody says otherwise. Common practice. */
export const USUAL_FITS = { journal: 'k5', housing: 'H6' } as const;

const LARGEST = SIZES[SIZES.length - 1] ?? 0;
/** Whether the fits are kept for a size, mm. */
export const sizeHasFit = (mm: number): boolean => mm > SIZES[0] && mm <= LARGEST;
export const sizesSaid = (): string => `fits are kept for bearings over ${SIZES[0]} up to ${LARGEST} mm`;

/** The limits of a fit at a size, mm; a size on the border belongs to the smaller row. Undefined where none are kept. */
export function fitLimitsMm(fit: JournalFit | HousingFit, nominalMm: number): Band | undefined {
  if (!sizeHasFit(nominalMm)) return undefined;
  const row = SIZES.findIndex((over, i) => i > 0 && nominalMm <= over) - 1;
  const table: readonly Band[] = { ...JOURNALS, ...HOUSINGS }[fit];
  const [low, high] = table[row] ?? [0, 0];
  return [nominalMm + low / 1000, nominalMm + high / 1000];
}

const size = z.number().positive().max(2000);
export const seat = z.strictObject({
  end: z.enum(['drive', 'other']),
  of: z.enum(['journal', 'housing']),
  fit: z.enum([...JOURNAL_FITS, ...HOUSING_FITS]),
  /** of the bearing there: its bore, its outside */
  nominalMm: size,
  measuredMm: size,
});

/** A seat of a bearing against its fit: loose it creeps, tight it loses its play. */
export function judgeFit(x: z.output<typeof seat>, limits: ShopLimits): Judged {
  const what = `${x.end === 'drive' ? 'Drive-end' : 'Other-end'} ${x.of}`;
  const band = fitLimitsMm(x.fit, x.nominalMm);
  if (!band)
    return { verdict: 'cannot judge', reason: `${what}: ${sizesSaid()}, not for ${formatNumber(x.nominalMm)} mm.` };
  const percent = limit('assembly.fitPercent', limits);
  const more = ((band[1] - band[0]) * (percent / 100 - 1)) / 2;
  const [low, high] = [band[0] - more, band[1] + more];
  const mm = (n: number) => n.toFixed(3);
  const wanted = `${what} ${mm(x.measuredMm)} mm; ${mm(low)} to ${mm(high)} mm is ${x.fit}${percent === 100 ? '' : ` at the shop’s ${formatNumber(percent)} % of its width`} (ISO 286-2, from memory)`;
  if (notBelow(x.measuredMm, low) && notAbove(x.measuredMm, high)) return { verdict: 'pass', reason: `${wanted}.` };
  const small = x.measuredMm < low;
  const loose = small === (x.of === 'journal');
  return {
    verdict: 'fail',
    reason: `${wanted}: too ${loose ? 'loose, the ring creeps' : 'tight, the bearing loses its play'}.`,
  };
}
