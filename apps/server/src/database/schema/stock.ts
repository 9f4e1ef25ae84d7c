import type { MaterialLists, StockUnit, StockWhat } from '@norther/contracts';
import type { WindingPart } from '@norther/core';
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
  uuid,
} from 'drizzle-orm/pg-core';
import { id, now, type EntryKind, type Typed } from './columns.ts';
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
