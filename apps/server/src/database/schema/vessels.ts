import type { VesselEventKind } from '@norther/contracts';
import type { VesselSetUp, VesselStage } from '@norther/core';
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
  serial,
  text,
  unique,
  uniqueIndex,
  uuid,
} from 'drizzle-orm/pg-core';
import { id, now, when, type Typed } from './columns.ts';
import { ofJob } from './jobs.ts';
import { instrument, trace } from './instruments.ts';
import { tank } from './stock.ts';

/** A vacuum-pressure vessel: its size and set points, the tank its resin comes from, the instrument that reads it. */
export const vessel = pgTable(
  'vessel',
  {
    id: id(),
    name: text('name').notNull(),
    typed: jsonb('typed').$type<Typed>().notNull(),
    setUp: jsonb('set_up').$type<VesselSetUp>().notNull(),
    tankId: uuid('tank_id'),
    instrumentId: uuid('instrument_id'),
    active: boolean('active').notNull().default(true),
    version: integer('version').notNull().default(1),
    at: now('at'),
  },
  (t) => [
    uniqueIndex('vessel_name').on(sql`lower(${t.name})`),
    foreignKey({ name: 'vessel_tank', columns: [t.tankId], foreignColumns: [tank.id] }),
    foreignKey({ name: 'vessel_instrument', columns: [t.instrumentId], foreignColumns: [instrument.id] }),
  ],
);

/** One cycle of a vessel, from the load to the lid; judged by the set points it began with. */
export const vesselCycle = pgTable(
  'vessel_cycle',
  {
    id: id(),
    number: serial('number').notNull(),
    vesselId: uuid('vessel_id').notNull(),
    setUp: jsonb('set_up').$type<VesselSetUp>().notNull(),
    partHeightMm: doublePrecision('part_height_mm').notNull(),
    typed: jsonb('typed').$type<Typed>().notNull(),
    lot: text('lot'),
    traceId: uuid('trace_id'),
    traceFrom: doublePrecision('trace_from'),
    begunBy: text('begun_by').notNull(),
    begunAt: now('begun_at'),
    endedBy: text('ended_by'),
    endedAt: when('ended_at'),
    /** what the records of the motors take of it */
    figures: jsonb('figures').$type<Typed>(),
  },
  (t) => [
    unique('vessel_cycle_number').on(t.number),
    foreignKey({ name: 'vessel_cycle_vessel', columns: [t.vesselId], foreignColumns: [vessel.id] }),
    foreignKey({ name: 'vessel_cycle_trace', columns: [t.traceId], foreignColumns: [trace.id] }),
    uniqueIndex('vessel_cycle_open')
      .on(t.vesselId)
      .where(sql`${t.endedAt} is null`),
  ],
);
const ofCycle = (name: string, t: { cycleId: Parameters<typeof foreignKey>[0]['columns'][0] }) =>
  foreignKey({ name, columns: [t.cycleId], foreignColumns: [vesselCycle.id] });

/** A motor in a cycle. */
export const vesselPart = pgTable(
  'vessel_part',
  { id: id(), cycleId: uuid('cycle_id').notNull(), jobId: uuid('job_id').notNull(), code: text('code').notNull() },
  (t) => [
    ofCycle('vessel_part_cycle', t),
    ofJob('vessel_part_job', t),
    unique('vessel_part_once').on(t.cycleId, t.jobId),
    index('vessel_part_of_job').on(t.jobId),
  ],
);

/** A stage begun, a leak test begun, a stage begun over a lamp that is out: by whom, when, why. */
export const vesselEvent = pgTable(
  'vessel_event',
  {
    id: id(),
    cycleId: uuid('cycle_id').notNull(),
    kind: text('kind').$type<VesselEventKind>().notNull(),
    stage: text('stage').$type<VesselStage>(),
    /** interlocks that did not hold */
    missing: jsonb('missing').$type<string[]>().notNull().default([]),
    note: text('note').notNull().default(''),
    personName: text('person_name').notNull(),
    at: now('at'),
    /** on the cycle's own axis, min */
    atMin: doublePrecision('at_min').notNull(),
  },
  (t) => [
    ofCycle('vessel_event_cycle', t),
    index('vessel_event_of').on(t.cycleId, t.at),
    check('vessel_event_stage', sql`(${t.kind} = 'stage') = (${t.stage} is not null)`),
  ],
);

/** A signal as a person read it, where the plant does not send it. */
export const vesselSignal = pgTable(
  'vessel_signal',
  {
    id: id(),
    cycleId: uuid('cycle_id').notNull(),
    name: text('name').notNull(),
    value: doublePrecision('value').notNull(),
    personName: text('person_name').notNull(),
    at: now('at'),
    atMin: doublePrecision('at_min').notNull(),
  },
  (t) => [ofCycle('vessel_signal_cycle', t), index('vessel_signal_of').on(t.cycleId, t.at)],
);
