import type { MaterialLists, StockUnit, StockWhat } from '@norther/contracts';
import type { TankSetUp, Verdict, WindingPart } from '@norther/core';
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
import { id, now, verdictIn, type EntryKind, type Typed, type Values } from './columns.ts';
import { job, ofPart } from './jobs.ts';

/** The bill of one winding: what was altered, and the cutting and picking lists once they are made. */
export const materialSheet = pgTable(
  'material_sheet',
  {
    jobId: uuid('job_id').notNull(),
    part: text('part').$type<WindingPart>().notNull(),
    version: integer('version').notNull().default(1),
    typed: jsonb('typed').$type<Typed>().notNull(),
    lists: jsonb('lists').$type<MaterialLists>(),
  },
  (t) => [primaryKey({ name: 'material_sheet_key', columns: [t.jobId, t.part] }), ofPart('material_sheet_part_of', t)],
);

/** A lot as it came in. What is left of it is the sum of its entries. */
export const stockLot = pgTable(
  'stock_lot',
  {
    id: id(),
    lot: text('lot').notNull(),
    what: jsonb('what').$type<StockWhat>().notNull(),
    unit: text('unit').$type<StockUnit>().notNull(),
    pricePerUnit: doublePrecision('price_per_unit'),
    spools: integer('spools'),
    expires: date('expires'),
    quarantined: boolean('quarantined').notNull().default(false),
    note: text('note').notNull().default(''),
    receivedAt: now('received_at'),
    version: integer('version').notNull().default(1),
  },
  (t) => [
    unique('stock_lot_unique').on(t.lot),
    check('stock_lot_unit', sql`${t.unit} in ('kg','m','sheets','pieces')`),
    check('stock_lot_price', sql`${t.pricePerUnit} is null or ${t.pricePerUnit} >= 0`),
  ],
);

/** What came, was reserved, freed, used, brought back or counted. Never changed: a mistake is put right by another entry. */
export const stockEntry = pgTable(
  'stock_entry',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    lotId: uuid('lot_id').notNull(),
    kind: text('kind').$type<EntryKind>().notNull(),
    quantity: doublePrecision('quantity').notNull(),
    jobId: uuid('job_id'),
    part: text('part').$type<WindingPart>(),
    code: text('code'),
    reason: text('reason'),
    personName: text('person_name').notNull(),
    at: now('at'),
  },
  (t) => [
    foreignKey({ name: 'stock_entry_lot', columns: [t.lotId], foreignColumns: [stockLot.id] }),
    foreignKey({ name: 'stock_entry_job', columns: [t.jobId], foreignColumns: [job.id] }),
    index('stock_entry_lot_index').on(t.lotId),
    index('stock_entry_job_index').on(t.jobId),
    check('stock_entry_kind', sql`${t.kind} in ('received','counted','reserved','freed','used','returned')`),
    check('stock_entry_quantity', sql`${t.kind} = 'counted' or ${t.quantity} > 0`),
  ],
);

/** From which lots a lot was mixed: a topped-up tank holds what was in it and what came. Only ever added. */
export const lotParent = pgTable(
  'lot_parent',
  {
    lotId: uuid('lot_id').notNull(),
    parentId: uuid('parent_id').notNull(),
    quantity: doublePrecision('quantity').notNull(),
  },
  (t) => [
    primaryKey({ name: 'lot_parent_key', columns: [t.lotId, t.parentId] }),
    foreignKey({ name: 'lot_parent_lot', columns: [t.lotId], foreignColumns: [stockLot.id] }),
    foreignKey({ name: 'lot_parent_parent', columns: [t.parentId], foreignColumns: [stockLot.id] }),
    index('lot_parent_of').on(t.parentId),
    check('lot_parent_apart', sql`${t.lotId} <> ${t.parentId}`),
  ],
);

/** A resin tank: what its resin is to be like, and which lot it holds now. */
export const tank = pgTable(
  'tank',
  {
    id: id(),
    name: text('name').notNull(),
    resin: text('resin').notNull(),
    typed: jsonb('typed').$type<Typed>().notNull(),
    setUp: jsonb('set_up').$type<TankSetUp>().notNull(),
    lotId: uuid('lot_id'),
    active: boolean('active').notNull().default(true),
    version: integer('version').notNull().default(1),
    at: now('at'),
  },
  (t) => [
    uniqueIndex('tank_name').on(sql`lower(${t.name})`),
    foreignKey({ name: 'tank_lot', columns: [t.lotId], foreignColumns: [stockLot.id] }),
  ],
);

/** A shelf test of what a tank holds, judged by what the tank was set to then. Only ever added. */
export const tankTest = pgTable(
  'tank_test',
  {
    id: id(),
    tankId: uuid('tank_id').notNull(),
    lotId: uuid('lot_id'),
    typed: jsonb('typed').$type<Typed>().notNull(),
    values: jsonb('values').$type<Values>().notNull(),
    setUp: jsonb('set_up').$type<TankSetUp>().notNull(),
    atReference: doublePrecision('at_reference').notNull(),
    verdict: text('verdict').$type<Verdict>().notNull(),
    reason: text('reason').notNull(),
    day: date('day').notNull(),
    personName: text('person_name').notNull(),
    at: now('at'),
  },
  (t) => [
    foreignKey({ name: 'tank_test_tank', columns: [t.tankId], foreignColumns: [tank.id] }),
    foreignKey({ name: 'tank_test_lot', columns: [t.lotId], foreignColumns: [stockLot.id] }),
    index('tank_test_of').on(t.tankId, t.at.desc()),
    check('tank_test_verdict', verdictIn('verdict')),
  ],
);
