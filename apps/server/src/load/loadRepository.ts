import type { GuardState } from '@norther/core';
import { Inject, Injectable } from '@nestjs/common';
import { and, asc, desc, eq, gt, isNotNull, isNull, sql } from 'drizzle-orm';
import { Database } from '../database/database.ts';
import { instrument, loadRun, testTrace, trace, traceChunk } from '../database/schema.ts';
import type { Reader, Transaction } from '../database/tables.ts';

export type LoadRunRow = typeof loadRun.$inferSelect;
/** Runs of one motor that are shown. */
const MOST_RUNS = 20;

/** All SQL of motors under load. */
@Injectable()
export class LoadRepository {
  readonly database: Database;
  constructor(@Inject(Database) database: Database) {
    this.database = database;
  }

  async add(tx: Transaction, values: typeof loadRun.$inferInsert): Promise<LoadRunRow | undefined> {
    const [row] = await tx.insert(loadRun).values(values).onConflictDoNothing().returning();
    return row;
  }

  /** The run that is under way on an instrument, locked. */
  async openOn(tx: Transaction, instrumentId: string): Promise<LoadRunRow | undefined> {
    const [row] = await tx
      .select()
      .from(loadRun)
      .where(and(eq(loadRun.instrumentId, instrumentId), isNull(loadRun.endedAt)))
      .for('no key update');
    return row;
  }

  async locked(tx: Transaction, jobId: string, id: string): Promise<LoadRunRow | undefined> {
    const [row] = await tx
      .select()
      .from(loadRun)
      .where(and(eq(loadRun.id, id), eq(loadRun.jobId, jobId)))
      .for('no key update');
    return row;
  }

  async guarded(tx: Transaction, id: string, guard: GuardState, traceId: string): Promise<void> {
    await tx.update(loadRun).set({ guard, traceId }).where(eq(loadRun.id, id));
  }

  async letGoOn(tx: Transaction, id: string, guard: GuardState): Promise<void> {
    await tx.update(loadRun).set({ guard }).where(eq(loadRun.id, id));
  }

  async end(tx: Transaction, id: string, endedAt: Date, why: string): Promise<void> {
    await tx
      .update(loadRun)
      .set({ endedAt, why })
      .where(and(eq(loadRun.id, id), isNull(loadRun.endedAt)));
  }

  /** The runs of a motor with what sent them, the newest first. */
  async ofJob(reader: Reader, jobId: string) {
    return reader
      .select({
        run: loadRun,
        instrument,
        channels: trace.channels,
        taken: sql<boolean>`exists (select 1 from ${testTrace} where ${testTrace.traceId} = ${loadRun.traceId})`,
      })
      .from(loadRun)
      .leftJoin(instrument, eq(instrument.id, loadRun.instrumentId))
      .leftJoin(trace, eq(trace.id, loadRun.traceId))
      .where(eq(loadRun.jobId, jobId))
      .orderBy(desc(loadRun.at))
      .limit(MOST_RUNS);
  }

  /** What was sent of a motor of a kind, with what sent it, the newest first. */
  async sent(reader: Reader, jobId: string, what: string) {
    return reader
      .select({
        trace,
        instrument,
        taken: sql<boolean>`exists (select 1 from ${testTrace} where ${testTrace.traceId} = ${trace.id})`,
      })
      .from(trace)
      .innerJoin(instrument, eq(instrument.id, trace.instrumentId))
      .where(and(eq(trace.jobId, jobId), eq(trace.what, what), isNotNull(trace.startAt)))
      .orderBy(desc(trace.startAt))
      .limit(MOST_RUNS);
  }

  /** The newest chunks of a trace, in order. */
  async lastChunks(reader: Reader, traceId: string, most: number) {
    const rows = await reader
      .select({ first: traceChunk.first, count: traceChunk.count, packed: traceChunk.packed })
      .from(traceChunk)
      .where(eq(traceChunk.traceId, traceId))
      .orderBy(desc(traceChunk.first))
      .limit(most);
    return rows.reverse();
  }

  /** Chunks of a trace after one that is known, in order. */
  async chunksAfter(
    reader: Reader,
    traceId: string,
    first: number,
  ): Promise<{ first: number; count: number; packed: Buffer }[]> {
    return reader
      .select({ first: traceChunk.first, count: traceChunk.count, packed: traceChunk.packed })
      .from(traceChunk)
      .where(and(eq(traceChunk.traceId, traceId), gt(traceChunk.first, first)))
      .orderBy(asc(traceChunk.first));
  }
}
