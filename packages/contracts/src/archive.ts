import {
  windingPartSchema,
  type Nameplate,
  type ReadingDefaults,
  type WindingPart,
  type WindingRecord,
} from '@norther/core';
import { z } from 'zod';
import { typedSchema } from './typed.ts';

/** Old records to keep, as typed in their table; each is read and checked again by the server. */
export const archiveImportBody = z.strictObject({
  fileName: z.string().trim().min(1).max(200),
  rows: z
    .array(
      z.strictObject({
        line: z.int().min(1),
        title: z.string().trim().min(1).max(200),
        plateTyped: typedSchema,
        typed: typedSchema,
      }),
    )
    .min(1, 'Choose at least one row.')
    .max(5000, 'At most 5000 rows are taken at once.'),
});

/** What a search in the archive may name. */
export const archiveQuery = z.object({ q: z.string().trim().max(120).optional() });

/** A winding that the others are compared with: one of the archive, or what is being typed for a job. */
export const similarBody = z.union([
  z.strictObject({ key: z.string().min(1).max(120) }),
  z.strictObject({
    number: z.string().min(1).max(40),
    part: windingPartSchema.default('stator'),
    typed: typedSchema,
  }),
]);

/** The most alike, or the work in the background that compares a large archive. */
export type SimilarAnswer = { entries: ArchiveEntry[] } | { work: string };
/** How many old records were kept, or the work in the background that reads a long table. */
export type BroughtAnswer = { kept: number } | { work: string };

/** A winding kept in the archive, of a job or brought in. */
export interface ArchiveEntry {
  /** "job/26-0001/stator" or "old/<id>" */
  key: string;
  title: string;
  from: string;
  part: WindingPart;
  nameplate: Nameplate;
  record: WindingRecord;
  /** as typed, and what bare numbers meant then: for taking it over */
  typed: Record<string, string>;
  readWith: ReadingDefaults;
  at: string;
  /** beside another winding: 0…1 and what differs */
  score?: number;
  differs?: string[];
}
