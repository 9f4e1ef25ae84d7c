import { WINDING_PARTS } from '@norther/core';
import { z } from 'zod';
import { intakeSchema, typedSchema } from './job.ts';

const at = z.string();
const signed = z.object({ by: z.string(), role: z.string(), at, meaning: z.string(), reason: z.string() }).nullable();
const verdict = z.enum(['pass', 'attention', 'fail', 'cannot judge']);
const values = z.record(z.string(), z.unknown());

/** A job as a file: everything that was recorded, authors as names, photographs and documents as base64. */
export const jobFileSchema = z.object({
  format: z.literal('norther-job'),
  formatVersion: z.literal(1),
  exportedAt: at,
  shop: z.string(),
  job: z.object({
    number: z.string().min(1).max(40),
    what: z.string(),
    customer: z.string(),
    route: z.enum(['ac_random_rewind', 'overhaul']),
    impregnation: z.enum(['dip', 'vacuum-pressure', 'trickle', 'bonded wire']),
    priority: z.enum(['ordinary', 'urgent']),
    promised: z.string().nullable(),
    takenInAt: at,
    closedAt: at.nullable(),
    nameplateTyped: typedSchema,
    nameplate: values,
    readWith: z.record(z.string(), z.string()),
    intake: intakeSchema,
  }),
  windings: z.array(
    z.object({
      part: z.enum(WINDING_PARTS).default('stator'),
      role: z.enum(['as_found', 'planned']),
      revision: z.number(),
      typed: typedSchema,
      record: values,
      readWith: z.record(z.string(), z.string()),
      reason: z.string().nullable(),
      person: z.string(),
      at,
      released: signed,
      /** a changed rewind: what it changes and its nameplate */
      redesign: z.record(z.string(), z.unknown()).nullable().default(null),
    }),
  ),
  /** bill as altered, and the cutting and picking lists as they were made; lots stay with the shop they stand in */
  material: z
    .array(z.object({ part: z.enum(WINDING_PARTS), typed: typedSchema, lists: values.nullable() }))
    .default([]),
  /** since the joints are kept: ticks and joints as made, by winding */
  joints: z
    .array(z.object({ part: z.enum(WINDING_PARTS), order: z.string(), ticks: values, asMade: z.string() }))
    .default([]),
  steps: z.array(
    z.object({
      code: z.string(),
      state: z.enum(['open', 'running', 'passed', 'attention', 'undecided', 'failed', 'waived', 'recheck']),
      changedAt: at.nullable(),
      waived: signed,
      notes: z.array(z.object({ by: z.string(), role: z.string(), at, meaning: z.string(), reason: z.string() })),
      attempts: z.array(
        z.object({
          number: z.number(),
          startedBy: z.string(),
          startedAt: at,
          override: z.string().nullable(),
          finishedBy: z.string().nullable(),
          finishedAt: at.nullable(),
          typed: typedSchema,
          values,
          verdict: verdict.nullable(),
          reason: z.string(),
          signed,
        }),
      ),
    }),
  ),
  tests: z.array(
    z.object({
      id: z.uuid(),
      stage: z.string(),
      kind: z.string(),
      typed: typedSchema,
      values,
      calculation: z.string().nullable(),
      calculationVersion: z.number().nullable(),
      limits: z.record(z.string(), z.number()),
      verdict,
      reason: z.string(),
      result: z.unknown(),
      person: z.string(),
      takenAt: at,
      supersedes: z.uuid().nullable(),
      correctionReason: z.string().nullable(),
      signed,
    }),
  ),
  cures: z.array(
    z.object({
      fileName: z.string(),
      resin: values,
      timesMin: z.array(z.number()),
      channels: z.array(z.object({ name: z.string(), role: z.string(), valuesC: z.array(z.number().nullable()) })),
      badRows: z.array(z.object({ line: z.number(), text: z.string(), reason: z.string() })),
      verdict,
      reason: z.string(),
      result: z.unknown(),
      person: z.string(),
      at,
    }),
  ),
  balances: z.array(
    z.object({ typed: typedSchema, values, verdict, reason: z.string(), result: z.unknown(), person: z.string(), at }),
  ),
  attachments: z.array(
    z.object({ name: z.string(), mediaType: z.string(), base64: z.string(), person: z.string(), at }),
  ),
  reports: z.array(z.object({ revision: z.number(), base64: z.string(), sha256: z.string(), person: z.string(), at })),
});
export type JobFile = z.output<typeof jobFileSchema>;
