import { Inject, Injectable } from '@nestjs/common';
import { and, asc, desc, eq, isNull, sql } from 'drizzle-orm';
import { Database } from '../database/database.ts';
import { instrument, instrumentBatch, trace } from '../database/schema.ts';
import type { Reader, Transaction } from '../database/tables.ts';

export type InstrumentRow = typeof instrument.$inferSelect;
export type TraceRow = typeof trace.$inferSelect;

/** All SQL of instruments and their batches. */
@Injectable()
export class InstrumentRepository {
  readonly database: Database;
  constructor(@Inject(Database) database: Database) {
    this.database = database;
  }

  async ofKey(keyHash: string): Promise<InstrumentRow | undefined> {
    const [row] = await this.database.tables
      .select()
      .from(instrument)
      .where(and(eq(instrument.keyHash, keyHash), eq(instrument.active, true)));
    return row;
  }

  async all(): Promise<InstrumentRow[]> {
    return this.database.tables.select().from(instrument).orderBy(asc(instrument.name));
  }

  async one(reader: Reader, id: string): Promise<InstrumentRow | undefined> {
    const [row] = await reader.select().from(instrument).where(eq(instrument.id, id));
    return row;
  }

  async add(tx: Transaction, row: typeof instrument.$inferInsert): Promise<InstrumentRow | undefined> {
    const [made] = await tx.insert(instrument).values(row).onConflictDoNothing().returning();
    return made;
  }

  /** Changes an instrument that is still at this version. */
  async change(
    tx: Transaction,
    id: string,
    version: number,
    set: Partial<InstrumentRow>,
  ): Promise<InstrumentRow | undefined> {
    const [row] = await tx
      .update(instrument)
      .set({ ...set, version: version + 1 })
      .where(and(eq(instrument.id, id), eq(instrument.version, version)))
      .returning();
    return row;
  }

  /** The newest trace of each instrument, with how many of its batches have not come. */
  async newest(): Promise<Map<string, TraceRow & { missing: number }>> {
    const rows = await this.database.tables
      .selectDistinctOn([trace.instrumentId], {
        trace,
        missing: sql<number>`(select coalesce(max(batch) + 1 - count(*), 0)::int from instrument_batch b where b.trace_id = ${trace.id})`,
      })
      .from(trace)
      .where(sql`${trace.instrumentId} is not null`)
      .orderBy(trace.instrumentId, desc(trace.at));
    return new Map(rows.map((r) => [r.trace.instrumentId ?? '', { ...r.trace, missing: r.missing }]));
  }

  async stream(tx: Transaction, instrumentId: string, stream: string): Promise<TraceRow | undefined> {
    const [row] = await tx
      .select()
      .from(trace)
      .where(and(eq(trace.instrumentId, instrumentId), eq(trace.stream, stream)));
    return row;
  }

  /** The trace of a stream: made by its first batch, whichever comes first and however many come at once. */
  async streamFor(tx: Transaction, row: typeof trace.$inferInsert): Promise<TraceRow> {
    await tx.insert(trace).values(row).onConflictDoNothing();
    const made = await this.stream(tx, row.instrumentId ?? '', row.stream ?? '');
    if (!made) throw new Error('trace not stored');
    return made;
  }

  /** Notes a batch; false when it was here already. */
  async noteBatch(tx: Transaction, row: typeof instrumentBatch.$inferInsert): Promise<boolean> {
    const made = await tx.insert(instrumentBatch).values(row).onConflictDoNothing().returning();
    return made.length > 0;
  }

  async missing(tx: Transaction, traceId: string): Promise<number> {
    const [row] = await tx
      .select({ n: sql<number>`coalesce(max(${instrumentBatch.batch}) + 1 - count(*), 0)::int` })
      .from(instrumentBatch)
      .where(eq(instrumentBatch.traceId, traceId));
    return row?.n ?? 0;
  }

  async seen(tx: Transaction, id: string, seen: { at: Date; intervalS: number; clockOffS: number }): Promise<void> {
    await tx
      .update(instrument)
      .set({ lastSeenAt: seen.at, intervalS: seen.intervalS, clockOffS: seen.clockOffS })
      .where(eq(instrument.id, id));
  }

  async end(tx: Transaction, traceId: string, at: Date): Promise<void> {
    await tx
      .update(trace)
      .set({ endedAt: at })
      .where(and(eq(trace.id, traceId), isNull(trace.endedAt)));
  }
}
