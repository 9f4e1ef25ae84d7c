import { z } from 'zod';

export const YIELD_BY = ['test', 'month', 'poles', 'customer', 'lot'] as const;
export type YieldBy = (typeof YIELD_BY)[number];
export const YIELD_TITLES: Readonly<Record<YieldBy, string>> = {
  test: 'Test and stage',
  month: 'Month',
  poles: 'Kind of motor, by poles',
  customer: 'Customer',
  lot: 'Lot of wire or resin',
};

/** First readings of a stretch of days, by what they are counted. */
export const yieldQuery = z
  .strictObject({
    by: z.enum(YIELD_BY).default('test'),
    from: z.iso.date().optional(),
    to: z.iso.date().optional(),
  })
  .refine(({ from, to }) => from === undefined || to === undefined || from <= to, {
    path: ['to'],
    message: 'to: the last day comes after the first.',
  });

/** How many first readings passed at once, of one group; the motors of those that did not. */
export interface YieldGroup {
  name: string;
  /** of "test": its kind and its stage */
  kind: string | null;
  stage: string | null;
  tested: number;
  passed: number;
  /** motors whose first reading did not pass, the newest first, at most fifty */
  others: string[];
}
