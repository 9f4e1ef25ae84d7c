import { Inject, Injectable } from '@nestjs/common';
import { and, asc, count, eq, inArray, isNull, sql } from 'drizzle-orm';
import type { LotUsed } from '@norther/contracts';
import { Database, type Transaction } from '../database/database.ts';
import { sayWhat } from '../stock/stock.ts';
import { attachment, job, report, stockEntry, stockLot } from '../database/schema.ts';

/** All SQL of issued reports: their source is only ever added, their paper once. */
@Injectable()
export class ReportRepository {
  readonly database: Database;
  constructor(@Inject(Database) database: Database) {
    this.database = database;
  }

  async howMany(tx: Transaction, jobId: string): Promise<number> {
    const [found] = await tx.select({ n: count() }).from(report).where(eq(report.jobId, jobId));
    return found?.n ?? 0;
  }

  async add(tx: Transaction, values: typeof report.$inferInsert): Promise<string> {
    const [stored] = await tx.insert(report).values(values).returning({ id: report.id });
    if (!stored) throw new Error('report not stored');
    return stored.id;
  }

  /** What went into a motor, by lot; what was brought back is taken off. */
  async lotsUsed(tx: Transaction, jobId: string): Promise<LotUsed[]> {
    const used = sql<number>`sum(case ${stockEntry.kind} when 'used' then abs(${stockEntry.quantity}) when 'returned' then -abs(${stockEntry.quantity}) else 0 end)`;
    const rows = await tx
      .select({ lot: stockLot.lot, what: stockLot.what, unit: stockLot.unit, quantity: used.mapWith(Number) })
      .from(stockEntry)
      .innerJoin(stockLot, eq(stockLot.id, stockEntry.lotId))
      .where(eq(stockEntry.jobId, jobId))
      .groupBy(stockLot.id)
      .orderBy(asc(stockLot.lot));
    return rows.filter((r) => r.quantity > 0).map((r) => ({ ...r, what: sayWhat(r.what) }));
  }

  /** Photographs by their ids, as they were sent. */
  async photographs(ids: readonly string[]): Promise<{ id: string; content: Buffer }[]> {
    if (ids.length === 0) return [];
    return this.database.tables
      .select({ id: attachment.id, content: attachment.content })
      .from(attachment)
      .where(inArray(attachment.id, [...ids]));
  }

  async paper(id: string): Promise<{ revision: number; content: Buffer | null } | undefined> {
    const [row] = await this.database.tables
      .select({ revision: report.revision, content: report.content })
      .from(report)
      .where(eq(report.id, id));
    return row;
  }

  /** What a report says, and whether its paper is laid out. */
  async source(id: string) {
    const [row] = await this.database.tables
      .select({
        revision: report.revision,
        source: report.source,
        number: job.number,
        done: sql<boolean>`${report.content} is not null`,
      })
      .from(report)
      .innerJoin(job, eq(job.id, report.jobId))
      .where(eq(report.id, id));
    return row;
  }

  async putPaper(tx: Transaction, id: string, content: Buffer, sha256: string): Promise<void> {
    await tx
      .update(report)
      .set({ content, sha256 })
      .where(and(eq(report.id, id), isNull(report.content)));
  }

  /** Reports without a paper that no work stands for. */
  async leftBehind(): Promise<string[]> {
    const rows = await this.database.tables
      .select({ id: report.id })
      .from(report)
      .where(
        and(
          isNull(report.content),
          sql`not exists (select 1 from work w where w.kind = 'report' and w.data->>'reportId' = ${report.id}::text)`,
        ),
      )
      .orderBy(asc(report.at));
    return rows.map((r) => r.id);
  }
}
