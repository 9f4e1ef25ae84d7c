import type { CommandName, INSTRUMENT_STATES } from '@norther/contracts';
import type {
  AnalyserOrder,
  GuardSettings,
  GuardState,
  LoadOrder,
  PartKind,
  SpinOrder,
  TestStage,
} from '@norther/core';
import { sql } from 'drizzle-orm';
import {
  bigserial,
  boolean,
  check,
  date,
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
import { bytea, id, now, when, type TraceChannelKept } from './columns.ts';
import { ofJob, ofUnit } from './jobs.ts';

/** What measures and sends by itself: a principal beside people, known by its key. */
export const instrument = pgTable(
  'instrument',
  {
    id: id(),
    name: text('name').notNull(),
    kind: text('kind').notNull(),
    keyHash: text('key_hash').notNull(),
    calibratedUntil: date('calibrated_until'),
    mayWrite: jsonb('may_write').$type<string[]>().notNull(),
    simulated: boolean('simulated').notNull().default(false),
    active: boolean('active').notNull().default(true),
    /** as it says of itself */
    state: text('state').$type<(typeof INSTRUMENT_STATES)[number]>(),
    /** when a server last had its command stream open */
    heardAt: when('heard_at'),
    lastSeenAt: when('last_seen_at'),
    /** seconds between its batches, as they came */
    intervalS: doublePrecision('interval_s'),
    /** its clock against ours, seconds */
    clockOffS: doublePrecision('clock_off_s'),
    version: integer('version').notNull().default(1),
    at: now('at'),
  },
  (t) => [uniqueIndex('instrument_name').on(sql`lower(${t.name})`), unique('instrument_key').on(t.keyHash)],
);

/** A long sampled series: an oven log, a load run. Its samples stand in chunks, apart from the verdict made of it. */
export const trace = pgTable(
  'trace',
  {
    id: id(),
    jobId: uuid('job_id'),
    part: text('part').$type<PartKind>(),
    unitId: uuid('unit_id'),
    what: text('what').notNull(),
    /** name, unit and role of each channel, in the order of its values */
    channels: jsonb('channels').$type<TraceChannelKept[]>().notNull(),
    xUnit: text('x_unit').notNull(),
    /** when its x is zero; null where the file did not say */
    startAt: when('start_at'),
    /** file, instrument or by hand, and its name */
    source: text('source').notNull(),
    sourceName: text('source_name').notNull(),
    instrumentId: uuid('instrument_id'),
    /** the run on the instrument that it is */
    stream: text('stream'),
    at: now('at'),
    endedAt: when('ended_at'),
  },
  (t) => [
    ofJob('trace_job', t),
    ofUnit('trace_unit', t),
    foreignKey({ name: 'trace_instrument', columns: [t.instrumentId], foreignColumns: [instrument.id] }),
    unique('trace_stream').on(t.instrumentId, t.stream),
    index('trace_job_index').on(t.jobId),
    check('trace_source', sql`${t.source} in ('file','instrument','by hand')`),
    check('trace_x_unit', sql`${t.xUnit} in ('min','s')`),
  ],
);

/** Samples of a trace (core's `Chunk`, packed as little-endian doubles), only ever added. */
export const traceChunk = pgTable(
  'trace_chunk',
  {
    traceId: uuid('trace_id').notNull(),
    first: integer('first').notNull(),
    count: integer('count').notNull(),
    from: doublePrecision('x_from').notNull(),
    to: doublePrecision('x_to').notNull(),
    packed: bytea('packed').notNull(),
    overview: bytea('overview').notNull(),
  },
  (t) => [
    primaryKey({ name: 'trace_chunk_key', columns: [t.traceId, t.first] }),
    foreignKey({ name: 'trace_chunk_trace', columns: [t.traceId], foreignColumns: [trace.id] }),
    check('trace_chunk_count', sql`${t.count} between 1 and 4096`),
  ],
);

/** What an instrument was told, and what became of it. */
export const instrumentCommand = pgTable(
  'instrument_command',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    instrumentId: uuid('instrument_id').notNull(),
    command: text('command').$type<CommandName>().notNull(),
    value: doublePrecision('value'),
    /** what a simulated stand has to know of the rotor on it */
    detail: jsonb('detail').$type<SpinOrder | AnalyserOrder | LoadOrder>(),
    personName: text('person_name').notNull(),
    at: now('at'),
    expiresAt: when('expires_at').notNull(),
    answeredAt: when('answered_at'),
    answer: text('answer').$type<'done' | 'refused'>(),
    said: text('said').notNull().default(''),
  },
  (t) => [
    foreignKey({
      name: 'instrument_command_instrument',
      columns: [t.instrumentId],
      foreignColumns: [instrument.id],
    }),
    index('instrument_command_of').on(t.instrumentId, t.id.desc()),
    check('instrument_command_answer', sql`${t.answer} is null or ${t.answer} in ('done','refused')`),
  ],
);

/** Batches of samples as they came, so that a repeat is stored once. */
export const instrumentBatch = pgTable(
  'instrument_batch',
  {
    traceId: uuid('trace_id').notNull(),
    batch: integer('batch').notNull(),
    receivedAt: now('received_at'),
    /** the instrument's time of its last sample */
    sentAt: when('sent_at').notNull(),
  },
  (t) => [
    primaryKey({ name: 'instrument_batch_key', columns: [t.traceId, t.batch] }),
    foreignKey({ name: 'instrument_batch_trace', columns: [t.traceId], foreignColumns: [trace.id] }),
  ],
);

/** A motor under load: what was sent of it is its trace; how it was guarded, and how it ended. */
export const loadRun = pgTable(
  'load_run',
  {
    id: id(),
    jobId: uuid('job_id').notNull(),
    stage: text('stage').$type<TestStage>().notNull(),
    /** null: from a file */
    instrumentId: uuid('instrument_id'),
    sourceName: text('source_name').notNull(),
    /** what was sent of it, once something was */
    traceId: uuid('trace_id'),
    settings: jsonb('settings').$type<GuardSettings>().notNull(),
    guard: jsonb('guard').$type<GuardState>().notNull(),
    personName: text('person_name').notNull(),
    at: now('at'),
    endedAt: when('ended_at'),
    /** how it ended */
    why: text('why'),
  },
  (t) => [
    ofJob('load_run_job', t),
    foreignKey({ name: 'load_run_instrument', columns: [t.instrumentId], foreignColumns: [instrument.id] }),
    foreignKey({ name: 'load_run_trace', columns: [t.traceId], foreignColumns: [trace.id] }),
    index('load_run_of').on(t.jobId),
    // one motor on an instrument, and one run of a motor, at a time
    uniqueIndex('load_run_on')
      .on(t.instrumentId)
      .where(sql`${t.endedAt} is null`),
    uniqueIndex('load_run_open')
      .on(t.jobId)
      .where(sql`${t.endedAt} is null`),
    check('load_run_ended', sql`(${t.endedAt} is null) = (${t.why} is null)`),
  ],
);
