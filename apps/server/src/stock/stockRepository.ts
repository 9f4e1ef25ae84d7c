import type { StockEntryView, StockLotView } from '@norther/contracts';
import { lotsWithin, type LotParent, type WindingPart } from '@norther/core';
import { Inject, Injectable } from '@nestjs/common';
import { and, desc, eq, gte, inArray, sql } from 'drizzle-orm';
import { Database, type Reader, type Transaction } from '../database/database.ts';
import { customer, job, lotParent, materialSheet, stepAttempt, stockEntry, stockLot } from '../database/schema.ts';
import type { JobRow } from '../job/jobRepository.ts';

export type LotRow = typeof stockLot.$inferSelect;
export type NewLot = typeof stockLot.$inferInsert;
export type NewEntry = typeof stockEntry.$inferInsert;
type OfJob = Pick<JobRow, 'id'>;
/** A bill as altered and the lists made of it. */
export type SheetValues = Pick<typeof materialSheet.$inferSelect, 'version' | 'typed' | 'lists'>;

const { kind, quantity } = stockEntry;
const LEFT = sql<number>`coalesce(sum(case ${kind} when 'received' then ${quantity} when 'counted' then ${quantity} when 'returned' then ${quantity} when 'used' then -${quantity} else 0 end), 0)`;
const RESERVED = sql<number>`coalesce(sum(case ${kind} when 'reserved' then ${quantity} when 'freed' then -${quantity} else 0 end), 0)`;
const USED = sql<number>`coalesce(sum(case ${kind} when 'used' then ${quantity} when 'returned' then -${quantity} else 0 end), 0)`;
/** Binary dust of many sums. */
const clean = (x: number): number => Math.round(x * 1e8) / 1e8;

/** All SQL of lots, their entries and the bills that are drawn from them. */
@Injectable()
export class StockRepository {
  readonly database: Database;
  constructor(@Inject(Database) database: Database) {
    this.database = database;
  }

  /** Lots by their number, each with what its entries leave. */
  async lots(reader: Reader = this.database.tables, id?: string): Promise<StockLotView[]> {
    const rows = await reader
      .select({ lot: stockLot, left: LEFT, reserved: RESERVED })
      .from(stockLot)
      .leftJoin(stockEntry, eq(stockEntry.lotId, stockLot.id))
      .where(id === undefined ? undefined : eq(stockLot.id, id))
      .groupBy(stockLot.id)
      .orderBy(stockLot.lot);
    const views = rows.map(({ lot, left, reserved }) => lotView(lot, Number(left), Number(reserved)));
    const edges = await this.parents(reader);
    return edges.length === 0 ? views : withHolds(views, edges, await this.quarantined(reader));
  }

  /** Which lot was mixed of which, by their ids. */
  async parents(reader: Reader): Promise<LotParent[]> {
    return reader.select({ lot: lotParent.lotId, parent: lotParent.parentId }).from(lotParent);
  }

  private async quarantined(reader: Reader): Promise<Map<string, string>> {
    const rows = await reader
      .select({ id: stockLot.id, lot: stockLot.lot })
      .from(stockLot)
      .where(eq(stockLot.quarantined, true));
    return new Map(rows.map((r) => [r.id, r.lot]));
  }

  async addParents(tx: Transaction, rows: (typeof lotParent.$inferInsert)[]): Promise<void> {
    if (rows.length > 0) await tx.insert(lotParent).values(rows);
  }

  /** The lot of this number, as its label says. */
  async byNumber(reader: Reader, lot: string): Promise<StockLotView | undefined> {
    const [row] = await reader.select({ id: stockLot.id }).from(stockLot).where(eq(stockLot.lot, lot));
    return row ? (await this.lots(reader, row.id))[0] : undefined;
  }

  /** Motors that some lots went into: by what was drawn from the stock, and by what was written at a step. */
  async motorsOf(
    reader: Reader,
    lots: readonly { id: string; lot: string }[],
  ): Promise<{ job: string; what: string; customer: string; lot: string; code: string | null; at: Date }[]> {
    if (lots.length === 0) return [];
    const ids = lots.map((l) => l.id);
    const numbers = lots.map((l) => l.lot);
    const drawn = await reader
      .select({
        job: job.number,
        what: job.what,
        customer: customer.name,
        lot: stockLot.lot,
        code: stockEntry.code,
        at: stockEntry.at,
      })
      .from(stockEntry)
      .innerJoin(stockLot, eq(stockLot.id, stockEntry.lotId))
      .innerJoin(job, eq(job.id, stockEntry.jobId))
      .innerJoin(customer, eq(customer.id, job.customerId))
      .where(and(inArray(stockEntry.lotId, ids), eq(stockEntry.kind, 'used')));
    const written = await reader
      .select({
        job: job.number,
        what: job.what,
        customer: customer.name,
        lot: sql<string>`trim(${stepAttempt.typed} ->> 'lot')`,
        code: stepAttempt.code,
        at: stepAttempt.startedAt,
      })
      .from(stepAttempt)
      .innerJoin(job, eq(job.id, stepAttempt.jobId))
      .innerJoin(customer, eq(customer.id, job.customerId))
      .where(inArray(sql`trim(${stepAttempt.typed} ->> 'lot')`, numbers));
    return [...drawn, ...written];
  }

  /** What a motor has in it: lots drawn from the stock, and numbers written at its steps. */
  async lotsOf(reader: Reader, number: string): Promise<{ lot: string; code: string | null }[]> {
    const drawn = await reader
      .select({ lot: stockLot.lot, code: stockEntry.code })
      .from(stockEntry)
      .innerJoin(stockLot, eq(stockLot.id, stockEntry.lotId))
      .innerJoin(job, eq(job.id, stockEntry.jobId))
      .where(and(eq(job.number, number), eq(stockEntry.kind, 'used')))
      .groupBy(stockLot.lot, stockEntry.code);
    const written = await reader
      .select({ lot: sql<string>`trim(${stepAttempt.typed} ->> 'lot')`, code: stepAttempt.code })
      .from(stepAttempt)
      .innerJoin(job, eq(job.id, stepAttempt.jobId))
      .where(and(eq(job.number, number), sql`${stepAttempt.typed} ->> 'lot' is not null`));
    return [...drawn, ...written];
  }

  /** What was used of each lot on each day since a time. */
  async usedByDay(reader: Reader, since: Date): Promise<{ lotId: string; day: string; used: number }[]> {
    const rows = await reader
      .select({
        lotId: stockEntry.lotId,
        day: sql<string>`to_char(${stockEntry.at} at time zone 'UTC', 'YYYY-MM-DD')`,
        used: USED,
      })
      .from(stockEntry)
      .where(and(gte(stockEntry.at, since), inArray(stockEntry.kind, ['used', 'returned'])))
      .groupBy(stockEntry.lotId, sql`2`);
    return rows.map((r) => ({ ...r, used: Number(r.used) }));
  }

  /** Entries of a lot, the newest first. */
  async entries(id: string, most: number): Promise<StockEntryView[]> {
    const rows = await this.database.tables
      .select({ entry: stockEntry, number: job.number })
      .from(stockEntry)
      .leftJoin(job, eq(job.id, stockEntry.jobId))
      .where(eq(stockEntry.lotId, id))
      .orderBy(desc(stockEntry.id))
      .limit(most);
    return rows.map(({ entry, number }) => ({
      id: entry.id,
      kind: entry.kind,
      quantity: entry.quantity,
      job: number,
      code: entry.code,
      reason: entry.reason,
      person: entry.personName,
      at: entry.at.toISOString(),
    }));
  }

  async isLot(tx: Transaction, lot: string): Promise<boolean> {
    return (await tx.select({ id: stockLot.id }).from(stockLot).where(eq(stockLot.lot, lot))).length > 0;
  }

  async addLot(tx: Transaction, values: NewLot): Promise<LotRow> {
    const [row] = await tx.insert(stockLot).values(values).returning();
    if (!row) throw new Error('lot not stored');
    return row;
  }

  async changeLot(tx: Transaction, id: string, values: Partial<NewLot>): Promise<void> {
    await tx.update(stockLot).set(values).where(eq(stockLot.id, id));
  }

  async lock(tx: Transaction, id: string): Promise<void> {
    await tx.select({ id: stockLot.id }).from(stockLot).where(eq(stockLot.id, id)).for('no key update');
  }

  /** All lots, locked in one order, so that two who need several never wait for each other. */
  async lockAll(tx: Transaction): Promise<void> {
    await tx.select({ id: stockLot.id }).from(stockLot).orderBy(stockLot.id).for('no key update');
  }

  /** What was taken of a lot and has not come back. */
  async usedOf(tx: Transaction, id: string): Promise<number> {
    const [row] = await tx.select({ out: USED }).from(stockEntry).where(eq(stockEntry.lotId, id));
    return clean(Number(row?.out ?? 0));
  }

  async addEntries(tx: Transaction, values: readonly NewEntry[]): Promise<void> {
    if (values.length > 0) await tx.insert(stockEntry).values([...values]);
  }

  /** What is reserved and used of each lot for one winding. */
  async usesOf(row: OfJob, part: WindingPart, reader: Reader) {
    const rows = await reader
      .select({
        lotId: stockLot.id,
        lot: stockLot.lot,
        what: stockLot.what,
        unit: stockLot.unit,
        reserved: RESERVED,
        used: USED,
      })
      .from(stockEntry)
      .innerJoin(stockLot, eq(stockLot.id, stockEntry.lotId))
      .where(and(eq(stockEntry.jobId, row.id), eq(stockEntry.part, part)))
      .groupBy(stockLot.id)
      .orderBy(stockLot.lot);
    return rows.map((r) => ({ ...r, reserved: Number(r.reserved), used: Number(r.used) }));
  }

  async sheet(row: OfJob, part: WindingPart, reader: Reader = this.database.tables): Promise<SheetValues | undefined> {
    const [found] = await reader
      .select()
      .from(materialSheet)
      .where(and(eq(materialSheet.jobId, row.id), eq(materialSheet.part, part)));
    return found;
  }

  async putSheet(tx: Transaction, row: OfJob, part: WindingPart, next: SheetValues): Promise<void> {
    await tx
      .insert(materialSheet)
      .values({ jobId: row.id, part, ...next })
      .onConflictDoUpdate({ target: [materialSheet.jobId, materialSheet.part], set: next });
  }
}

export function lotView(row: LotRow, left: number, reserved: number): StockLotView {
  return {
    id: row.id,
    lot: row.lot,
    what: row.what,
    unit: row.unit,
    left: clean(left),
    reserved: clean(reserved),
    free: Math.max(0, clean(left - reserved)),
    pricePerUnit: row.pricePerUnit,
    spools: row.spools,
    expires: row.expires,
    quarantined: row.quarantined,
    heldBy: null,
    note: row.note,
    receivedAt: row.receivedAt.toISOString(),
    version: row.version,
  };
}

/** A lot is held with any lot that is in it. */
function withHolds(
  lots: readonly StockLotView[],
  edges: readonly LotParent[],
  quarantined: ReadonlyMap<string, string>,
): StockLotView[] {
  return lots.map((l) => {
    if (l.quarantined) return l;
    const by = lotsWithin(l.id, edges).find((id) => quarantined.has(id));
    return by === undefined ? l : { ...l, quarantined: true, heldBy: quarantined.get(by) ?? null };
  });
}
