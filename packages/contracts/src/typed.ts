import { PART_KINDS } from '@norther/core';
import { z } from 'zod';

/** What was typed, by field name. */
export const typedSchema = z
  .record(z.string().max(60), z.string().max(4000))
  .refine((t) => Object.keys(t).length <= 200, 'At most 200 fields are taken.');

export const day = z.string().regex(/^\d{4}-\d{2}-\d{2}$/, 'Type the date as year-month-day, for example 2026-11-30.');

export const partKindSchema = z.enum(PART_KINDS);

export interface Signed {
  by: string;
  role: string;
  at: string;
  meaning: string;
  reason: string;
}
