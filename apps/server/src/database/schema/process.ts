import type { Signed, SpellEnd } from '@norther/contracts';
import type { Impregnation, RouteId, StepState, Verdict, WhatCame } from '@norther/core';
import { sql } from 'drizzle-orm';
import {
  check,
  foreignKey,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  unique,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';
import { id, now, verdictIn, when, type Typed, type Values } from './columns.ts';
import { ofJob, ofUnit } from './jobs.ts';

export const routeStep = pgTable(
  'route_step',
  {
    jobId: uuid('job_id').notNull(),
    code: text('code').notNull(),
    state: text('state').$type<StepState>().notNull().default('open'),
    changedAt: when('changed_at'),
    waived: jsonb('waived').$type<Signed>(),
    notes: jsonb('notes').$type<Signed[]>().notNull().default([]),
  },
  (t) => [
    primaryKey({ name: 'route_step_key', columns: [t.jobId, t.code] }),
    ofJob('route_step_job', t),
    check(
      'route_step_state',
      sql`${t.state} in ('open','running','passed','attention','undecided','failed','waived','recheck')`,
    ),
  ],
);

/** Where a step stands for one piece of a job of many; the job's own step stands for all of them. */
export const unitStep = pgTable(
  'unit_step',
  {
    unitId: uuid('unit_id').notNull(),
    code: text('code').notNull(),
    state: text('state').$type<StepState>().notNull().default('open'),
    changedAt: when('changed_at'),
  },
  (t) => [
    primaryKey({ name: 'unit_step_key', columns: [t.unitId, t.code] }),
    ofUnit('unit_step_unit', t),
    check(
      'unit_step_state',
      sql`${t.state} in ('open','running','passed','attention','undecided','failed','waived','recheck')`,
    ),
  ],
);

export const stepAttempt = pgTable(
  'step_attempt',
  {
    id: id(),
    jobId: uuid('job_id').notNull(),
    code: text('code').notNull(),
    /** null: of the job as a whole */
    unitId: uuid('unit_id'),
    number: integer('number').notNull(),
    startedBy: text('started_by').notNull(),
    startedAt: now('started_at'),
    override: text('override'),
    finishedBy: text('finished_by'),
    finishedAt: when('finished_at'),
    typed: jsonb('typed').$type<Typed>().notNull().default({}),
    values: jsonb('values').$type<Values>().notNull().default({}),
    verdict: text('verdict').$type<Verdict>(),
    reason: text('reason').notNull().default(''),
    signed: jsonb('signed').$type<Signed>(),
  },
  (t) => [
    unique('step_attempt_number').on(t.jobId, t.code, t.unitId, t.number).nullsNotDistinct(),
    ofUnit('step_attempt_unit', t),
    foreignKey({
      name: 'step_attempt_step',
      columns: [t.jobId, t.code],
      foreignColumns: [routeStep.jobId, routeStep.code],
    }),
    check('step_attempt_verdict', sql`${t.verdict} is null or ${verdictIn('verdict')}`),
  ],
);

/** A stretch that somebody worked at a step: from when, to when, and how it ended. Two may stand at one step. */
export const stepSpell = pgTable(
  'step_spell',
  {
    id: id(),
    jobId: uuid('job_id').notNull(),
    attemptId: uuid('attempt_id').notNull(),
    personId: uuid('person_id').notNull(),
    personName: text('person_name').notNull(),
    startedAt: now('started_at'),
    endedAt: when('ended_at'),
    ended: text('ended').$type<SpellEnd>(),
    handedTo: text('handed_to'),
  },
  (t) => [
    ofJob('step_spell_job', t),
    foreignKey({ name: 'step_spell_attempt', columns: [t.attemptId], foreignColumns: [stepAttempt.id] }),
    index('step_spell_of_job').on(t.jobId),
    uniqueIndex('step_spell_open')
      .on(t.attemptId, t.personId)
      .where(sql`${t.endedAt} is null`),
    check('step_spell_ended', sql`${t.ended} is null or ${t.ended} in ('pause','hand over','finish')`),
  ],
);

/** A route that the shop keeps under a name, made from one of its jobs. It is retired, never changed. */
export const routeTemplate = pgTable(
  'route_template',
  {
    id: id(),
    name: text('name').notNull(),
    route: text('route').$type<RouteId>().notNull(),
    came: text('came').$type<WhatCame>().notNull(),
    impregnation: text('impregnation').$type<Impregnation>().notNull(),
    graph: jsonb('graph').$type<Record<string, string[]>>().notNull(),
    fromJob: text('from_job').notNull(),
    personName: text('person_name').notNull(),
    at: now('at'),
    retired: jsonb('retired').$type<Signed>(),
  },
  (t) => [
    uniqueIndex('route_template_name')
      .on(sql`lower(${t.name})`)
      .where(sql`retired is null`),
  ],
);
