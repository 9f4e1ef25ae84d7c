import {
  IMPREGNATIONS,
  JOINT_ORDERS,
  nameplateSchema,
  inOrder,
  operationIf,
  resinSchema,
  ROUTE_IDS,
  STEP_STATES,
  TEST_STAGES,
  TEST_KINDS,
  PART_KINDS,
  recordOfBefore,
  windingPartSchema,
  windingRecordSchema,
} from '@norther/core';
import { z } from 'zod';
import {
  at,
  code,
  fieldValues,
  kept,
  limits,
  line,
  readWith,
  balanceSessionsOfFile,
  loadRunsOfFile,
  failuresOfFile,
  sensorsOfFile,
  testTracesOfFile,
  signed,
  verdict,
} from './exchangeParts.ts';
import { intakeSchema, SPELL_ENDS, type JobDetail, type WindingView } from './job.ts';
import { typedSchema } from './typed.ts';
import type { JointTick } from './joints.ts';
import type { MaterialLists } from './material.ts';
import type { ShopSettings } from './shop.ts';
import { MOST_UNITS } from './unit.ts';
import { STOCK_UNITS, stockWhatSchema } from './stock.ts';

/** Kept as it came, but only where it is what it should be. */
const like = <S extends z.ZodType>(schema: S, what: string) =>
  kept<z.output<S>>(
    z.record(z.string(), z.unknown()).superRefine((value, context) => {
      const read = schema.safeParse(value);
      if (read.success) return;
      const [issue] = read.error.issues;
      context.addIssue({
        code: 'custom',
        path: issue?.path ?? [],
        message: `${what}: ${issue?.message ?? 'not readable'}`,
      });
    }),
  );
/** A record as files of any age hold it. */
const pastRecordSchema = z.preprocess((value) => {
  try {
    return recordOfBefore(value as Record<string, unknown>);
  } catch {
    return value;
  }
}, windingRecordSchema);
const nameplate = like(nameplateSchema, 'This is no nameplate');
const result = z.looseObject({
  id: z.string(),
  version: z.number(),
  values: z.looseObject({}),
  working: z.array(
    z.looseObject({
      name: z.string(),
      symbol: z.string(),
      formula: z.string(),
      numbers: z.string(),
      value: z.union([z.number(), z.string()]),
      unit: z.string(),
      source: z.string(),
    }),
  ),
  sources: z.array(z.string()),
});

/** A job as a file: everything that was recorded, authors as names, photographs and documents as base64. */
export const jobFileSchema = z.object({
  format: z.literal('norther-job'),
  formatVersion: z.literal(1),
  exportedAt: at,
  shop: line,
  job: z.object({
    number: line.min(1).max(40),
    what: line.min(1).max(200),
    customer: line.min(1).max(200),
    route: z.enum(ROUTE_IDS),
    impregnation: z.enum(IMPREGNATIONS),
    /** its own route, where it was edited */
    ownRoute: z
      .record(z.string().max(6), z.array(z.string().max(6)).max(40))
      .refine((graph) => {
        try {
          return inOrder(graph).every((code) => operationIf(code) !== undefined && Object.hasOwn(graph, code));
        } catch {
          return false;
        }
      }, 'This route is none: an operation is not known, or it runs in a circle.')
      .nullable()
      .default(null),
    priority: z.enum(['ordinary', 'urgent']),
    promised: z.iso.date('Write the date as 2026-11-30.').nullable(),
    takenInAt: at,
    closedAt: at.nullable(),
    nameplateTyped: typedSchema,
    nameplate,
    readWith,
    intake: intakeSchema,
  }),
  /** pieces of a job of many */
  units: z
    .array(
      z.object({
        ordinal: z.int().min(1).max(MOST_UNITS),
        serial: line.nullable(),
        /** operations walked piece by piece that are done for it */
        steps: z
          .array(z.object({ code: z.string().max(10), at }))
          .max(100)
          .default([]),
      }),
    )
    .max(MOST_UNITS)
    .default([]),
  /** parts that came in; files of before say them by their windings */
  parts: z.array(z.enum(PART_KINDS)).default([]),
  windings: z.array(
    z.object({
      part: windingPartSchema.default('stator'),
      role: z.enum(['as_found', 'planned']),
      revision: z.int().min(1),
      typed: typedSchema,
      /** as it was kept then; the kinds of records came later */
      record: like(pastRecordSchema, 'This is no winding record'),
      readWith,
      reason: z.string().nullable(),
      person: line,
      at,
      released: signed,
      /** a changed rewind: what it changes and its nameplate */
      redesign: kept<NonNullable<WindingView['redesign']>>(
        z.looseObject({
          changes: z.array(z.looseObject({ field: z.string(), label: z.string(), was: z.string(), is: z.string() })),
          fromRevision: z.int(),
          nameplate,
          warnings: z.array(z.string()),
        }),
      )
        .nullable()
        .default(null),
    }),
  ),
  /** bill as altered, and the cutting and picking lists as they were made; lots stay with the shop they stand in */
  material: z
    .array(
      z.object({
        part: windingPartSchema,
        version: z.int().min(1).default(1),
        typed: typedSchema,
        lists: kept<MaterialLists>(
          z.looseObject({
            by: line,
            at,
            planRevision: z.int(),
            bill: z.looseObject({
              lines: z.array(z.looseObject({ use: z.string(), material: z.string(), quantity: z.number() })),
              figures: z.looseObject({}),
              system: z.looseObject({}),
              warnings: z.array(z.string()),
            }),
            lines: z.array(
              z.looseObject({
                picks: z.array(z.looseObject({ lotId: z.string(), lot: z.string(), quantity: z.number() })),
                short: z.number(),
                cost: z.number().nullable(),
              }),
            ),
          }),
        ).nullable(),
      }),
    )
    .default([]),
  /** since the joints are kept: ticks and joints as made, by winding */
  joints: z
    .array(
      z.object({
        part: windingPartSchema,
        version: z.int().min(1).default(1),
        order: z.enum(JOINT_ORDERS),
        ticks: kept<Record<string, JointTick>>(
          z.record(
            z.string(),
            z.looseObject({
              kind: z.string(),
              by: line,
              at,
              checkedBy: line.nullable(),
              checkedAt: at.nullable(),
            }),
          ),
        ),
        asMade: z.string(),
      }),
    )
    .default([]),
  failures: failuresOfFile,
  steps: z.array(
    z.object({
      code,
      state: z.enum(STEP_STATES),
      changedAt: at.nullable(),
      waived: signed,
      notes: z.array(z.object({ by: line, role: line, at, meaning: line, reason: z.string() })),
      attempts: z.array(
        z.object({
          number: z.int().min(1),
          startedBy: line,
          startedAt: at,
          override: z.string().nullable(),
          finishedBy: line.nullable(),
          finishedAt: at.nullable(),
          typed: typedSchema,
          values: fieldValues,
          verdict: verdict.nullable(),
          reason: z.string(),
          signed,
          /** who worked at it; left out in files of before */
          spells: z
            .array(
              z.object({
                person: line,
                personId: z.uuid(),
                from: at,
                to: at.nullable(),
                ended: z.enum(SPELL_ENDS).nullable(),
                handedTo: line.nullable(),
              }),
            )
            .default([]),
        }),
      ),
    }),
  ),
  tests: z.array(
    z.object({
      id: z.uuid(),
      /** left out in files of before: what came in says it */
      part: z.enum(PART_KINDS).optional(),
      /** the piece, by its ordinal */
      unit: z.int().min(1).nullable().default(null),
      stage: z.enum(TEST_STAGES),
      kind: z.enum(TEST_KINDS.map((t) => t.id) as [string, ...string[]]),
      typed: typedSchema,
      values: fieldValues,
      calculation: z.string().nullable(),
      calculationVersion: z.int().nullable(),
      limits,
      verdict,
      reason: z.string(),
      result: result.nullable().default(null),
      person: line,
      takenAt: at,
      supersedes: z.uuid().nullable(),
      correctionReason: z.string().nullable(),
      signed,
      override: signed.default(null),
      lesser: z.string().max(200).nullable().default(null),
      traces: testTracesOfFile,
    }),
  ),
  sensors: sensorsOfFile,
  cures: z.array(
    z.object({
      part: z.enum(PART_KINDS).optional(),
      /** the bake that it is of */
      code: code.default('CUR'),
      fileName: line,
      /** how its temperatures came, and when its first minute was */
      source: z.enum(['file', 'instrument', 'by hand']).default('file'),
      startAt: at.nullable().default(null),
      resin: like(resinSchema, 'This is no resin'),
      limits: limits.default({}),
      calculation: z.string().optional(),
      calculationVersion: z.int().optional(),
      timesMin: z.array(z.number()),
      channels: z.array(z.object({ name: z.string(), role: z.string(), valuesC: z.array(z.number().nullable()) })),
      badRows: z.array(z.object({ line: z.number(), text: z.string(), reason: z.string() })),
      verdict,
      reason: z.string(),
      result: result.extend({ values: z.looseObject({ maxC: z.number(), maxGapMin: z.number() }) }),
      person: line,
      at,
    }),
  ),
  balances: z.array(
    z.object({
      part: z.enum(PART_KINDS).optional(),
      unit: z.int().min(1).nullable().default(null),
      typed: typedSchema,
      values: fieldValues,
      limits: limits.default({}),
      calculation: z.string().optional(),
      calculationVersion: z.int().optional(),
      verdict,
      reason: z.string(),
      result,
      person: line,
      at,
    }),
  ),
  balanceSessions: balanceSessionsOfFile,
  loadRuns: loadRunsOfFile,
  attachments: z.array(
    z.object({
      name: line.min(1).max(200),
      mediaType: line,
      base64: z.string(),
      /** the operation it was taken at */
      step: line.nullable().default(null),
      person: line,
      at,
    }),
  ),
  reports: z.array(
    z.object({
      revision: z.int().min(1),
      /** null of a report whose paper was not laid out yet; it is then laid out from its source */
      base64: z.string().nullable(),
      sha256: z.string().nullable(),
      source: z
        .looseObject({
          job: kept<JobDetail>(z.looseObject({})),
          settings: kept<ShopSettings>(z.looseObject({})),
          issuer: kept<{ name: string; role: string; at: string }>(z.looseObject({})),
        })
        .nullable()
        .default(null),
      person: line,
      at,
    }),
  ),
  /** lots that material was taken from, with what was reserved and used for this job */
  stock: z
    .array(
      z.object({
        lot: line.min(1).max(60),
        what: stockWhatSchema,
        unit: z.enum(STOCK_UNITS),
        entries: z.array(
          z.object({
            kind: z.enum(['reserved', 'freed', 'used', 'returned']),
            quantity: z.number().positive(),
            part: windingPartSchema.nullable(),
            code: z.string().nullable(),
            reason: z.string().nullable(),
            person: line,
            at,
          }),
        ),
      }),
    )
    .default([]),
  /** every change with its author */
  history: z
    .array(
      z.object({
        at,
        person: line,
        action: line,
        summary: z.string(),
        before: z.unknown().default(null),
        after: z.unknown().default(null),
      }),
    )
    .default([]),
});
export type JobFile = z.output<typeof jobFileSchema>;
