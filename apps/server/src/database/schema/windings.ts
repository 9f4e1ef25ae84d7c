import type { Signed } from '@norther/contracts';
import type {
  CalculationResult,
  FailureFound,
  Verdict,
  JointOrder,
  Nameplate,
  ReadingDefaults,
  WindingPart,
  WindingRecord,
} from '@norther/core';
import { sql } from 'drizzle-orm';
import { check, integer, jsonb, pgTable, primaryKey, text, unique, uuid } from 'drizzle-orm/pg-core';
import {
  id,
  now,
  type JointTicks,
  type Redesigned,
  type Typed,
  type Values,
  verdictIn,
  type WindingRole,
} from './columns.ts';
import { ofPart } from './jobs.ts';

/** Every save is a row of its own; the newest revision of a role is the one in force. */
export const windingRecord = pgTable(
  'winding_record',
  {
    id: id(),
    jobId: uuid('job_id').notNull(),
    part: text('part').$type<WindingPart>().notNull().default('stator'),
    role: text('role').$type<WindingRole>().notNull(),
    revision: integer('revision').notNull(),
    typed: jsonb('typed').$type<Typed>().notNull(),
    record: jsonb('record').$type<WindingRecord>().notNull(),
    readWith: jsonb('read_with').$type<ReadingDefaults>().notNull(),
    reason: text('reason'),
    personName: text('person_name').notNull(),
    at: now('at'),
    released: jsonb('released').$type<Signed>(),
    /** what a changed rewind changes and its new nameplate; null = rewound as found */
    redesign: jsonb('redesign').$type<Redesigned>(),
  },
  (t) => [
    unique('winding_record_revision').on(t.jobId, t.part, t.role, t.revision),
    ofPart('winding_record_part_of', t),
    check('winding_record_role', sql`${t.role} in ('as_found','planned')`),
  ],
);

/** Old windings brought in from a table; those of jobs are found where they stand. */
export const archiveRecord = pgTable('archive_record', {
  id: id(),
  title: text('title').notNull(),
  nameplateTyped: jsonb('nameplate_typed').$type<Typed>().notNull(),
  nameplate: jsonb('nameplate').$type<Nameplate>().notNull(),
  typed: jsonb('typed').$type<Typed>().notNull(),
  record: jsonb('record').$type<WindingRecord>().notNull(),
  readWith: jsonb('read_with').$type<ReadingDefaults>().notNull(),
  fileName: text('file_name').notNull(),
  personName: text('person_name').notNull(),
  at: now('at'),
});

/** What a failure analysis of a part came to: every save is a row of its own, the newest revision is in force. */
export const failureRecord = pgTable(
  'failure_record',
  {
    id: id(),
    jobId: uuid('job_id').notNull(),
    part: text('part').$type<WindingPart>().notNull(),
    revision: integer('revision').notNull(),
    typed: jsonb('typed').$type<Typed>().notNull(),
    values: jsonb('values').$type<Values>().notNull(),
    verdict: text('verdict').$type<Verdict>().notNull(),
    reason: text('reason').notNull(),
    /** the calculation as it stood: causes with what speaks for and against each */
    result: jsonb('result').$type<CalculationResult<FailureFound>>().notNull(),
    personName: text('person_name').notNull(),
    at: now('at'),
  },
  (t) => [
    unique('failure_record_revision').on(t.jobId, t.part, t.revision),
    ofPart('failure_record_part_of', t),
    check('failure_record_verdict', verdictIn('verdict')),
  ],
);

/** The joints of one winding: ticks by person and time, and the joints as they really were made. */
export const jointSheet = pgTable(
  'joint_sheet',
  {
    jobId: uuid('job_id').notNull(),
    part: text('part').$type<WindingPart>().notNull(),
    version: integer('version').notNull().default(1),
    order: text('joint_order').$type<JointOrder>().notNull().default('jumpers first'),
    ticks: jsonb('ticks').$type<JointTicks>().notNull(),
    asMade: text('as_made').notNull().default(''),
  },
  (t) => [primaryKey({ name: 'joint_sheet_key', columns: [t.jobId, t.part] }), ofPart('joint_sheet_part_of', t)],
);
