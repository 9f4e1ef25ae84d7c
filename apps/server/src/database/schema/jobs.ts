import type { Intake, Priority } from '@norther/contracts';
import type { Impregnation, Nameplate, PartKind, ReadingDefaults, RouteId, WhatCame } from '@norther/core';
import { sql } from 'drizzle-orm';
import {
  check,
  date,
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
import type { ReportSource } from '../../report/reportSource.ts';
import { bytea, id, now, when, type Typed } from './columns.ts';

export const customer = pgTable(
  'customer',
  { id: id(), name: text('name').notNull(), createdAt: now('created_at') },
  (t) => [uniqueIndex('customer_name_unique').on(sql`lower(${t.name})`)],
);

/** What ties the visits of one machine together: whose it is and its serial number. What its plate said stands with each visit. */
export const motor = pgTable(
  'motor',
  {
    id: id(),
    customerId: uuid('customer_id').notNull(),
    serial: text('serial'),
  },
  (t) => [
    foreignKey({ name: 'motor_customer', columns: [t.customerId], foreignColumns: [customer.id] }),
    index('motor_serial').on(sql`lower(${t.serial})`),
    uniqueIndex('motor_customer_serial').on(t.customerId, sql`lower(${t.serial})`),
  ],
);

export const job = pgTable(
  'job',
  {
    id: id(),
    number: text('number').notNull(),
    motorId: uuid('motor_id').notNull(),
    /** customer, title and nameplate of this visit, as they were then */
    customerId: uuid('customer_id').notNull(),
    nameplateTyped: jsonb('nameplate_typed').$type<Typed>().notNull(),
    nameplate: jsonb('nameplate').$type<Nameplate>().notNull(),
    readWith: jsonb('read_with').$type<ReadingDefaults>().notNull(),
    what: text('what').notNull(),
    came: text('came').$type<WhatCame>().notNull(),
    quantity: integer('quantity').notNull().default(1),
    intake: jsonb('intake').$type<Intake>().notNull(),
    route: text('route').$type<RouteId>().notNull(),
    impregnation: text('impregnation').$type<Impregnation>().notNull(),
    /** its own route, where a foreman edited it; else that of its kind */
    ownRoute: jsonb('own_route').$type<Record<string, string[]>>(),
    priority: text('priority').$type<Priority>().notNull(),
    promised: date('promised'),
    /** what it is compared with (core's familyOf), as the nameplate of this visit says */
    family: text('family'),
    takenInAt: now('taken_in_at'),
    closedAt: when('closed_at'),
    importedFrom: text('imported_from'),
    version: integer('version').notNull().default(1),
  },
  (t) => [
    unique('job_number_unique').on(t.number),
    foreignKey({ name: 'job_motor', columns: [t.motorId], foreignColumns: [motor.id] }),
    foreignKey({ name: 'job_customer', columns: [t.customerId], foreignColumns: [customer.id] }),
    index('job_motor_index').on(t.motorId),
    index('job_customer_index').on(t.customerId),
    index('job_open')
      .on(t.takenInAt)
      .where(sql`closed_at is null`),
    index('job_closed')
      .on(t.closedAt.desc(), t.takenInAt)
      .where(sql`closed_at is not null`),
    index('job_family').on(t.family, t.takenInAt.desc()),
    check('job_came_known', sql`${t.came} in ('whole motor','stator only','rotor only')`),
    check('job_quantity', sql`${t.quantity} between 1 and 100000`),
  ],
);

export const ofJob = (name: string, t: { jobId: Parameters<typeof foreignKey>[0]['columns'][0] }) =>
  foreignKey({ name, columns: [t.jobId], foreignColumns: [job.id] });

/** What came in with a visit: stator, rotor, a second winding. Records, tests and balances hang on a part. */
export const part = pgTable(
  'part',
  { jobId: uuid('job_id').notNull(), kind: text('kind').$type<PartKind>().notNull() },
  (t) => [
    primaryKey({ name: 'part_key', columns: [t.jobId, t.kind] }),
    ofJob('part_job', t),
    check(
      'part_kind',
      sql`${t.kind} in ('stator','second','cage-rotor','wound-rotor','armature','field-frame','magnet-rotor')`,
    ),
  ],
);

type Column = Parameters<typeof foreignKey>[0]['columns'][0];
/** What hangs on a part of a visit. */
export const ofPart = (name: string, t: { jobId: Column; part: Column }) =>
  foreignKey({ name, columns: [t.jobId, t.part], foreignColumns: [part.jobId, part.kind] });

/** One piece of a job of many alike: what is measured and done piece by piece hangs on it. */
export const unit = pgTable(
  'unit',
  {
    id: id(),
    jobId: uuid('job_id').notNull(),
    ordinal: integer('ordinal').notNull(),
    serial: text('serial'),
    at: now('at'),
  },
  (t) => [
    ofJob('unit_job', t),
    unique('unit_ordinal').on(t.jobId, t.ordinal),
    uniqueIndex('unit_serial').on(t.jobId, sql`lower(${t.serial})`),
    check('unit_ordinal_range', sql`${t.ordinal} between 1 and 100000`),
  ],
);
export const ofUnit = (name: string, t: { unitId: Column }) =>
  foreignKey({ name, columns: [t.unitId], foreignColumns: [unit.id] });

export const jobCounter = pgTable('job_counter', {
  year: integer('year').primaryKey(),
  last: integer('last').notNull(),
});

export const attachment = pgTable(
  'attachment',
  {
    id: id(),
    jobId: uuid('job_id').notNull(),
    name: text('name').notNull(),
    mediaType: text('media_type').notNull(),
    bytes: integer('bytes').notNull(),
    content: bytea('content').notNull(),
    /** the operation it was taken at */
    code: text('code'),
    personName: text('person_name').notNull(),
    at: now('at'),
  },
  (t) => [
    ofJob('attachment_job', t),
    index('attachment_job_index').on(t.jobId),
    check('attachment_size', sql`${t.bytes} between 1 and 15728640`),
  ],
);

export const report = pgTable(
  'report',
  {
    id: id(),
    jobId: uuid('job_id').notNull(),
    revision: integer('revision').notNull(),
    /** what the report says, as it stood when it was issued; its paper is laid out from this */
    source: jsonb('source').$type<ReportSource>(),
    content: bytea('content'),
    sha256: text('sha256'),
    personName: text('person_name').notNull(),
    at: now('at'),
  },
  (t) => [unique('report_revision').on(t.jobId, t.revision), ofJob('report_job', t)],
);
