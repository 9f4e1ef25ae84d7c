import type { OvenEventKind, ProbeRole } from '@norther/contracts';
import type { CorePlate, OvenUse, Resin, Verdict } from '@norther/core';
import { sql } from 'drizzle-orm';
import {
  boolean,
  check,
  doublePrecision,
  foreignKey,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  serial,
  text,
  unique,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';
import { id, now, verdictIn, when, type Limits, type Typed } from './columns.ts';
import { ofJob } from './jobs.ts';
import { instrument, trace } from './instruments.ts';

/** An oven or burn-off chamber of the shop: its door, what it takes, what it is for, the logger that reads it. */
export const chamber = pgTable(
  'chamber',
  {
    id: id(),
    name: text('name').notNull(),
    uses: jsonb('uses').$type<OvenUse[]>().notNull(),
    typed: jsonb('typed').$type<Typed>().notNull(),
    doorWidthMm: doublePrecision('door_width_mm').notNull(),
    doorHeightMm: doublePrecision('door_height_mm').notNull(),
    mostKg: doublePrecision('most_kg').notNull(),
    highestC: doublePrecision('highest_c').notNull(),
    instrumentId: uuid('instrument_id'),
    active: boolean('active').notNull().default(true),
    version: integer('version').notNull().default(1),
    at: now('at'),
  },
  (t) => [
    uniqueIndex('chamber_name').on(sql`lower(${t.name})`),
    foreignKey({ name: 'chamber_instrument', columns: [t.instrumentId], foreignColumns: [instrument.id] }),
    check('chamber_sizes', sql`${t.doorWidthMm} > 0 and ${t.doorHeightMm} > 0 and ${t.mostKg} > 0`),
  ],
);

/** One load of a chamber, from the first part in to the last one out; judged by what the shop had settled on when it was begun. */
export const ovenLoad = pgTable(
  'oven_load',
  {
    id: id(),
    number: serial('number').notNull(),
    chamberId: uuid('chamber_id').notNull(),
    use: text('use').$type<OvenUse>().notNull(),
    resin: jsonb('resin').$type<Resin>(),
    setPointC: doublePrecision('set_point_c').notNull(),
    limits: jsonb('limits').$type<Limits>().notNull(),
    school: text('school').$type<'equivalent time' | 'hold only'>().notNull(),
    begunBy: text('begun_by').notNull(),
    begunAt: now('begun_at'),
    startedBy: text('started_by'),
    startedAt: when('started_at'),
    /** the run of the logger that was on when the load began, and where it stood */
    traceId: uuid('trace_id'),
    traceFrom: doublePrecision('trace_from'),
    endedAt: when('ended_at'),
    /** where each run of the logger stood when the load ended */
    tracesTo: jsonb('traces_to').$type<Record<string, number>>(),
  },
  (t) => [
    unique('oven_load_number').on(t.number),
    foreignKey({ name: 'oven_load_chamber', columns: [t.chamberId], foreignColumns: [chamber.id] }),
    foreignKey({ name: 'oven_load_trace', columns: [t.traceId], foreignColumns: [trace.id] }),
    uniqueIndex('oven_load_open')
      .on(t.chamberId)
      .where(sql`${t.endedAt} is null`),
    check('oven_load_use', sql`${t.use} in ('bake','dry','burn-off')`),
    check('oven_load_resin', sql`(${t.use} = 'bake') = (${t.resin} is not null)`),
  ],
);
const ofLoad = (name: string, t: { loadId: Parameters<typeof foreignKey>[0]['columns'][0] }) =>
  foreignKey({ name, columns: [t.loadId], foreignColumns: [ovenLoad.id] });

/** A part in a load: scanned in, scanned out, with what its own temperature said. */
export const ovenPart = pgTable(
  'oven_part',
  {
    id: id(),
    loadId: uuid('load_id').notNull(),
    jobId: uuid('job_id').notNull(),
    code: text('code').notNull(),
    typed: jsonb('typed').$type<Typed>().notNull(),
    massKg: doublePrecision('mass_kg').notNull(),
    widthMm: doublePrecision('width_mm').notNull(),
    heightMm: doublePrecision('height_mm').notNull(),
    corePlate: text('core_plate').$type<CorePlate>(),
    inBy: text('in_by').notNull(),
    inAt: now('in_at'),
    outBy: text('out_by'),
    outAt: when('out_at'),
    outReason: text('out_reason'),
    verdict: text('verdict').$type<Verdict>(),
    says: text('says'),
    figures: jsonb('figures').$type<Record<string, Typed>>(),
    calculation: text('calculation'),
    calculationVersion: integer('calculation_version'),
    result: jsonb('result'),
    traceId: uuid('trace_id'),
  },
  (t) => [
    ofLoad('oven_part_load', t),
    ofJob('oven_part_job', t),
    foreignKey({ name: 'oven_part_trace', columns: [t.traceId], foreignColumns: [trace.id] }),
    index('oven_part_of_load').on(t.loadId),
    index('oven_part_of_job').on(t.jobId),
    uniqueIndex('oven_part_inside')
      .on(t.jobId)
      .where(sql`${t.outAt} is null`),
    check('oven_part_verdict', sql`${t.verdict} is null or ${verdictIn('verdict')}`),
  ],
);

/** Where a sensor sits, from when on; a correction supersedes it and says why. */
export const ovenProbe = pgTable(
  'oven_probe',
  {
    id: id(),
    loadId: uuid('load_id').notNull(),
    channel: text('channel').notNull(),
    role: text('role').$type<ProbeRole>().notNull(),
    partId: uuid('part_id'),
    personName: text('person_name').notNull(),
    at: now('at'),
    reason: text('reason').notNull().default(''),
    supersededAt: when('superseded_at'),
  },
  (t) => [
    ofLoad('oven_probe_load', t),
    foreignKey({ name: 'oven_probe_part', columns: [t.partId], foreignColumns: [ovenPart.id] }),
    uniqueIndex('oven_probe_now')
      .on(t.loadId, t.channel)
      .where(sql`${t.supersededAt} is null`),
    check('oven_probe_role', sql`${t.role} in ('part','oven air','not used')`),
    check('oven_probe_on', sql`${t.role} = 'part' or ${t.partId} is null`),
  ],
);

/** A part's temperature as a person read it, where no logger did. */
export const ovenReading = pgTable(
  'oven_reading',
  {
    id: id(),
    loadId: uuid('load_id').notNull(),
    partId: uuid('part_id').notNull(),
    typed: jsonb('typed').$type<Typed>().notNull(),
    c: doublePrecision('c').notNull(),
    readAt: when('read_at').notNull(),
    personName: text('person_name').notNull(),
    at: now('at'),
  },
  (t) => [
    ofLoad('oven_reading_load', t),
    foreignKey({ name: 'oven_reading_part', columns: [t.partId], foreignColumns: [ovenPart.id] }),
    index('oven_reading_of_load').on(t.loadId),
  ],
);

/** What happened at a load: started, burner off, door opened, a part out. */
export const ovenEvent = pgTable(
  'oven_event',
  {
    id: id(),
    loadId: uuid('load_id').notNull(),
    kind: text('kind').$type<OvenEventKind>().notNull(),
    note: text('note').notNull().default(''),
    personName: text('person_name').notNull(),
    at: now('at'),
  },
  (t) => [ofLoad('oven_event_load', t), index('oven_event_of_load').on(t.loadId)],
);

/** A secret address under which the ovens hang on a wall: no customer, no person, nothing writable. */
export const wall = pgTable(
  'wall',
  {
    id: id(),
    name: text('name').notNull(),
    secretHash: text('secret_hash').notNull(),
    personName: text('person_name').notNull(),
    at: now('at'),
    revokedAt: when('revoked_at'),
  },
  (t) => [unique('wall_secret').on(t.secretHash)],
);

/** A log of a load that came as a file: read beside what the logger sends. Only ever added. */
export const ovenLog = pgTable(
  'oven_log',
  {
    loadId: uuid('load_id').notNull(),
    traceId: uuid('trace_id').notNull(),
    personName: text('person_name').notNull(),
    at: now('at'),
  },
  (t) => [
    primaryKey({ name: 'oven_log_key', columns: [t.loadId, t.traceId] }),
    foreignKey({ name: 'oven_log_load', columns: [t.loadId], foreignColumns: [ovenLoad.id] }),
    foreignKey({ name: 'oven_log_trace', columns: [t.traceId], foreignColumns: [trace.id] }),
  ],
);
