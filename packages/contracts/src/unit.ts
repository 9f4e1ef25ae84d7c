import { z } from 'zod';
import type { TestView } from './evaluate.ts';
import type { BalanceView } from './job.ts';

/** Pieces of one job at most. */
export const MOST_UNITS = 100_000;
/** Pieces that one request names, and those that one answer lists. */
export const MOST_SERIALS = 5_000;
export const UNITS_A_PAGE = 200;

const serial = z.string().trim().min(1, 'A serial number is blank.').max(80);

/** More pieces of a job: so many without a serial number, or one for each serial number. */
export const newUnitsBody = z.union([
  z.strictObject({ count: z.int().min(1).max(MOST_UNITS) }),
  z.strictObject({ serials: z.array(serial).min(1).max(MOST_SERIALS) }),
]);
/** The serial number of a piece that has none yet. */
export const unitBody = z.strictObject({ serial });
export const unitsQuery = z.strictObject({
  /** pieces after this ordinal */
  after: z.coerce.number().int().min(0).default(0),
  /** an ordinal, or a part of a serial number */
  q: z.string().trim().max(80).default(''),
});

/** Which pieces an operation is done for, as one writes them down ("1-4, 7", "all"), or is not done for after all. */
export const markPiecesBody = z.strictObject({
  pieces: z.string().trim().min(1, 'Type which pieces, for example 1-4, 7, or all.').max(2000),
  done: z.boolean().default(true),
});

/** One piece of a job of many alike. */
export interface UnitView {
  ordinal: number;
  serial: string | null;
  /** readings and balances recorded of it, and the worst of their verdicts */
  readings: number;
  verdict: string | null;
}
export interface UnitsView {
  /** pieces that are numbered, of those the job says there are */
  total: number;
  quantity: number;
  units: UnitView[];
}
/** A piece with what was recorded of it. */
export interface UnitDetail extends UnitView {
  /** operations that are walked piece by piece and done for this one */
  steps: { code: string; at: string }[];
  tests: TestView[];
  balances: BalanceView[];
}
