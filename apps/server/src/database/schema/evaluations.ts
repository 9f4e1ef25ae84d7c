import type { Signed } from '@norther/contracts';
import type {
  BalanceEntry,
  BalanceSetUp,
  PartKind,
  Resin,
  SensorStage,
  StoredSet,
  TestStage,
  Verdict,
} from '@norther/core';
import { sql } from 'drizzle-orm';
import {
  bigserial,
  boolean,
  check,
  doublePrecision,
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
import { id, now, verdictIn, type BadRow, type Limits, type Typed, type Values } from './columns.ts';
import { ofJob, ofPart, ofUnit } from './jobs.ts';
import { trace } from './instruments.ts';

/** A reading is never overwritten: a correction is a new row that supersedes an old one, with its reason. */
export const testRun = pgTable(
  'test_run',
  {
    id: id(),
    jobId: uuid('job_id').notNull(),
    part: text('part').$type<PartKind>().notNull(),
    unitId: uuid('unit_id'),
    stage: text('stage').$type<TestStage>().notNull(),
    kind: text('kind').notNull(),
    typed: jsonb('typed').$type<Typed>().notNull(),
    values: jsonb('values').$type<Values>().notNull(),
    calculation: text('calculation'),
    calculationVersion: integer('calculation_version'),
    limits: jsonb('limits').$type<Limits>().notNull(),
    verdict: text('verdict').$type<Verdict>().notNull(),
    reason: text('reason').notNull(),
    result: jsonb('result'),
    personName: text('person_name').notNull(),
    takenAt: now('taken_at'),
    supersedes: uuid('supersedes'),
    correctionReason: text('correction_reason'),
    signed: jsonb('signed').$type<Signed>(),
    /** who let it go on although a lower test barred it, and why */
    override: jsonb('override').$type<Signed>(),
    /** what stood in for the instrument that was wanted */
    lesser: text('lesser'),
  },
  (t) => [
    ofPart('test_run_part_of', t),
    ofUnit('test_run_unit', t),
    index('test_run_job_index').on(t.jobId),
    unique('test_run_superseded_once').on(t.supersedes),
    foreignKey({ name: 'test_run_supersedes', columns: [t.supersedes], foreignColumns: [t.id] }),
    check('test_run_verdict', verdictIn('verdict')),
    check('test_run_correction', sql`${t.supersedes} is null or ${t.correctionReason} is not null`),
    check('test_run_stage', sql`${t.stage} in ('IN','BS','AB','AC','VC','AA','FI')`),
  ],
);

/** Traces that a reading is made of: waves, curves. Only ever added. */
export const testTrace = pgTable(
  'test_trace',
  {
    testId: uuid('test_id').notNull(),
    ordinal: integer('ordinal').notNull(),
    traceId: uuid('trace_id').notNull(),
  },
  (t) => [
    primaryKey({ name: 'test_trace_key', columns: [t.testId, t.ordinal] }),
    foreignKey({ name: 'test_trace_test', columns: [t.testId], foreignColumns: [testRun.id] }),
    foreignKey({ name: 'test_trace_trace', columns: [t.traceId], foreignColumns: [trace.id] }),
    index('test_trace_of').on(t.traceId),
  ],
);

export const cureRun = pgTable(
  'cure_run',
  {
    id: id(),
    jobId: uuid('job_id').notNull(),
    part: text('part').$type<PartKind>().notNull(),
    /** the bake that it is of: CUR, or a further coat's */
    code: text('code').notNull().default('CUR'),
    fileName: text('file_name').notNull(),
    resin: jsonb('resin').$type<Resin>().notNull(),
    limits: jsonb('limits').$type<Limits>().notNull(),
    traceId: uuid('trace_id').notNull(),
    badRows: jsonb('bad_rows').$type<BadRow[]>().notNull(),
    calculation: text('calculation').notNull(),
    calculationVersion: integer('calculation_version').notNull(),
    verdict: text('verdict').$type<Verdict>().notNull(),
    reason: text('reason').notNull(),
    result: jsonb('result').notNull(),
    personName: text('person_name').notNull(),
    at: now('at'),
  },
  (t) => [
    ofPart('cure_run_part_of', t),
    foreignKey({ name: 'cure_run_trace', columns: [t.traceId], foreignColumns: [trace.id] }),
    index('cure_run_job_index').on(t.jobId),
    check('cure_run_verdict', verdictIn('verdict')),
  ],
);

export const balanceRun = pgTable(
  'balance_run',
  {
    id: id(),
    jobId: uuid('job_id').notNull(),
    part: text('part').$type<PartKind>().notNull(),
    unitId: uuid('unit_id'),
    typed: jsonb('typed').$type<Typed>().notNull(),
    values: jsonb('values').$type<Values>().notNull(),
    limits: jsonb('limits').$type<Limits>().notNull(),
    calculation: text('calculation').notNull(),
    calculationVersion: integer('calculation_version').notNull(),
    verdict: text('verdict').$type<Verdict>().notNull(),
    reason: text('reason').notNull(),
    result: jsonb('result').notNull(),
    personName: text('person_name').notNull(),
    at: now('at'),
  },
  (t) => [
    ofPart('balance_run_part_of', t),
    ofUnit('balance_run_unit', t),
    index('balance_run_job_index').on(t.jobId),
    check('balance_run_verdict', verdictIn('verdict')),
  ],
);

/**
 * One row for each measured quantity of a test, step or balance, beside its document: trends, before and after and statistics ask
 * these. Only ever added; what a correction replaced is known by its test.
 */
export const measurement = pgTable(
  'measurement',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    jobId: uuid('job_id').notNull(),
    source: text('source').notNull(),
    sourceId: uuid('source_id').notNull(),
    what: text('what').notNull(),
    /** in the quantity's base unit */
    value: doublePrecision('value').notNull(),
    unit: text('unit').notNull(),
    bound: text('bound'),
    typed: text('typed'),
    stage: text('stage'),
    part: text('part').$type<PartKind>(),
    unitId: uuid('unit_id'),
    at: now('at'),
    personName: text('person_name'),
    verdict: text('verdict').$type<Verdict>(),
  },
  (t) => [
    ofJob('measurement_job', t),
    ofUnit('measurement_unit', t),
    index('measurement_job_what').on(t.jobId, t.what, t.at.desc()),
    unique('measurement_once').on(t.sourceId, t.what),
    check('measurement_source', sql`${t.source} in ('test','step','balance')`),
    check('measurement_bound', sql`${t.bound} is null or ${t.bound} in ('above','below')`),
    check('measurement_verdict', sql`${t.verdict} is null or ${verdictIn('verdict')}`),
  ],
);

/** A sensor or heater that is fitted to a motor, until it is taken out again. */
export const fittedSensor = pgTable(
  'fitted_sensor',
  {
    id: id(),
    jobId: uuid('job_id').notNull(),
    part: text('part').$type<PartKind>().notNull(),
    typed: jsonb('typed').$type<Typed>().notNull(),
    values: jsonb('values').$type<Values>().notNull(),
    personName: text('person_name').notNull(),
    at: now('at'),
    /** who took it out, when and why; once */
    removed: jsonb('removed').$type<Signed>(),
  },
  (t) => [ofPart('fitted_sensor_part_of', t), index('fitted_sensor_job_index').on(t.jobId)],
);

/** What was read of a sensor or heater at a stage. Only ever added. */
export const sensorReading = pgTable(
  'sensor_reading',
  {
    id: id(),
    sensorId: uuid('sensor_id').notNull(),
    stage: text('stage').$type<SensorStage>().notNull(),
    typed: jsonb('typed').$type<Typed>().notNull(),
    values: jsonb('values').$type<Values>().notNull(),
    limits: jsonb('limits').$type<Limits>().notNull(),
    verdict: text('verdict').$type<Verdict>().notNull(),
    reason: text('reason').notNull(),
    personName: text('person_name').notNull(),
    at: now('at'),
  },
  (t) => [
    foreignKey({ name: 'sensor_reading_sensor', columns: [t.sensorId], foreignColumns: [fittedSensor.id] }),
    index('sensor_reading_of').on(t.sensorId, t.at),
    check('sensor_reading_verdict', verdictIn('verdict')),
    check('sensor_reading_stage', sql`${t.stage} in ('fitted','AC','VC','AA')`),
  ],
);

/** A rotor on the stand, from its set-up on; what was entered stands beside it. Ended with a verdict, or broken off. */
export const balanceSession = pgTable(
  'balance_session',
  {
    id: id(),
    jobId: uuid('job_id').notNull(),
    part: text('part').$type<PartKind>().notNull(),
    /** one piece of a job of many alike */
    unitId: uuid('unit_id'),
    typed: jsonb('typed').$type<Typed>().notNull(),
    setUp: jsonb('set_up').$type<BalanceSetUp>().notNull(),
    limits: jsonb('limits').$type<Limits>().notNull(),
    personName: text('person_name').notNull(),
    at: now('at'),
    /** who ended it, when and how; once */
    ended: jsonb('ended').$type<Signed>(),
    balanceId: uuid('balance_id'),
  },
  (t) => [
    ofPart('balance_session_part_of', t),
    foreignKey({ name: 'balance_session_balance', columns: [t.balanceId], foreignColumns: [balanceRun.id] }),
    index('balance_session_job_index').on(t.jobId),
    // one rotor stands on one stand
    uniqueIndex('balance_session_open')
      .on(t.jobId, t.part, sql`coalesce(unit_id, '00000000-0000-0000-0000-000000000000'::uuid)`)
      .where(sql`ended is null`),
    ofUnit('balance_session_unit_of', t),
  ],
);

/** A run, a trial or a correction of a balance. A mistake is superseded by a new row with its reason. */
export const balanceEntry = pgTable(
  'balance_entry',
  {
    sessionId: uuid('session_id').notNull(),
    ordinal: integer('ordinal').notNull(),
    entry: jsonb('entry').$type<BalanceEntry>().notNull(),
    /** the row that this one stands for, or only takes back where it is `withdrawn` */
    supersedes: integer('supersedes'),
    withdrawn: boolean('withdrawn').notNull().default(false),
    reason: text('reason').notNull().default(''),
    personName: text('person_name').notNull(),
    at: now('at'),
  },
  (t) => [
    primaryKey({ name: 'balance_entry_key', columns: [t.sessionId, t.ordinal] }),
    foreignKey({ name: 'balance_entry_session', columns: [t.sessionId], foreignColumns: [balanceSession.id] }),
    check('balance_entry_reason', sql`${t.supersedes} is null or length(${t.reason}) >= 3`),
  ],
);

/** Rotors of one kind: how they are set up, and what their planes do on the stand they were balanced on. */
export const rotorFamily = pgTable(
  'rotor_family',
  {
    id: id(),
    name: text('name').notNull(),
    typed: jsonb('typed').$type<Typed>().notNull(),
    setUp: jsonb('set_up').$type<BalanceSetUp>().notNull(),
    influence: jsonb('influence').$type<StoredSet['influence']>(),
    fromJob: text('from_job').notNull(),
    personName: text('person_name').notNull(),
    at: now('at'),
    retired: jsonb('retired').$type<Signed>(),
  },
  (t) => [
    uniqueIndex('rotor_family_name')
      .on(sql`lower(${t.name})`)
      .where(sql`retired is null`),
  ],
);
