import {
  balanceEntrySchema,
  failureAnalysis,
  balanceSetUpSchema,
  operationIf,
  PART_KINDS,
  SENSOR_STAGES,
  windingPartSchema,
  type CalculationResult,
  type FailureFound,
  type FieldValue,
  type GuardSettings,
  type GuardState,
  type ReadingDefaults,
} from '@norther/core';
import { z } from 'zod';
import { typedSchema } from './typed.ts';

/** What is checked by a looser form than the type it has from there on: what more a file holds is kept. */
export const kept = <T>(schema: z.ZodType) => schema as z.ZodType<T>;

export const at = z.iso.datetime({ offset: true, error: 'Write the time as 2026-11-23T14:05:00Z.' });
/** Text on one line: it becomes part of headers, file names and titles. */

export const line = z
  .string()
  // eslint-disable-next-line no-control-regex
  .regex(/^[^\u0000-\u001f\u007f]*$/, 'This holds a line break or another character that no name has.');
export const signed = z.object({ by: line, role: line, at, meaning: line, reason: z.string() }).nullable();
export const verdict = z.enum(['pass', 'attention', 'fail', 'cannot judge']);
const fieldValue = z.union([z.string(), z.number(), z.boolean(), z.array(z.unknown()), z.looseObject({}), z.null()]);
export const fieldValues = kept<Record<string, FieldValue>>(z.record(z.string(), fieldValue));
export const readWith = kept<ReadingDefaults>(z.record(z.string(), z.string()));
export const limits = z.record(z.string(), z.number());
export const code = z
  .string()
  .max(6)
  .refine((c) => operationIf(c) !== undefined, 'Name an operation that there is.');

/** Sensors and heaters in a job's file, with what was read of them. */
export const sensorsOfFile = z
  .array(
    z.object({
      part: z.enum(PART_KINDS),
      typed: typedSchema,
      values: fieldValues,
      person: line,
      at,
      removed: signed,
      readings: z.array(
        z.object({
          stage: z.enum(SENSOR_STAGES),
          typed: typedSchema,
          values: fieldValues,
          limits,
          verdict,
          reason: z.string(),
          person: line,
          at,
        }),
      ),
    }),
  )
  .default([]);

/** Balances on the stand in a job's file: set-up, every row that was entered, and which of the file's verdicts each ended in. */
export const balanceSessionsOfFile = z
  .array(
    z.object({
      part: z.enum(PART_KINDS),
      unit: z.int().min(1).nullable().default(null),
      typed: typedSchema,
      setUp: balanceSetUpSchema,
      limits,
      person: line,
      at,
      ended: signed,
      /** place of its verdict among the balances of this file */
      balance: z.int().min(0).nullable().default(null),
      entries: z
        .array(
          z.object({
            ordinal: z.int().min(1),
            entry: balanceEntrySchema,
            supersedes: z.int().min(1).nullable(),
            withdrawn: z.boolean(),
            reason: z.string(),
            person: line,
            at,
          }),
        )
        .max(200),
    }),
  )
  .default([]);

/** A trace in a job's file, whole: what an instrument sent, a file held, somebody typed. */
const traceOfFile = z
  .object({
    what: line.max(40),
    channels: z
      .array(z.object({ name: line.max(60), unit: line.max(20), role: line.max(40).default('') }))
      .min(1)
      .max(64),
    source: z.enum(['file', 'instrument', 'by hand']),
    sourceName: line.max(200),
    startAt: at.nullable(),
    at,
    /** seconds, rising */
    x: z.array(z.number()).min(1).max(1_000_000),
    values: z.array(z.array(z.number().nullable())).min(1).max(64),
  })
  .refine((t) => t.values.length === t.channels.length && t.values.every((v) => v.length === t.x.length), {
    path: ['values'],
    message: 'Every channel needs a value for each x.',
  });

/** Traces that a reading is made of, in a job's file: waves, curves. */
export const testTracesOfFile = z.array(traceOfFile).max(16).default([]);

const figure = z.number();
/** Load runs in a job's file, those too that broke off. */
export const loadRunsOfFile = z
  .array(
    z.object({
      stage: z.enum(['AA', 'FI']),
      sourceName: line.max(200),
      settings: kept<GuardSettings>(
        z.looseObject({ ratedA: figure, loadFactor: figure, overS: figure, unloadFactor: figure, overloadS: figure }),
      ),
      guard: kept<GuardState>(
        z.looseObject({
          says: z.enum(['ok', 'hold', 'unload']),
          why: z.string(),
          at: figure,
          bad: figure,
          past: z.array(z.looseObject({})),
        }),
      ),
      person: line,
      at,
      endedAt: at,
      why: z.string(),
      /** what was sent; null where nothing was, or where a test of this file holds it */
      trace: traceOfFile.nullable(),
      /** the test of this file that is made of it, and the place of its trace there */
      test: z.object({ id: z.uuid(), trace: z.int().min(0) }).nullable(),
    }),
  )
  .max(200)
  .default([]);

/** Failure analyses in a job's file, every revision. */
export const failuresOfFile = z
  .array(
    z.object({
      part: windingPartSchema,
      revision: z.int().min(1),
      typed: typedSchema,
      values: fieldValues,
      verdict,
      reason: z.string(),
      result: kept<CalculationResult<FailureFound>>(
        z.looseObject({
          id: z.string(),
          version: z.number(),
          values: failureAnalysis.output,
          working: z.array(z.looseObject({})),
          sources: z.array(z.string()),
        }),
      ),
      person: line,
      at,
    }),
  )
  .default([]);
