import { Inject, Injectable } from '@nestjs/common';
import { and, desc, eq, inArray, lt, sql } from 'drizzle-orm';
import { now } from '../clock/clock.ts';
import { Database } from '../database/database.ts';
import { work, worker } from '../database/schema.ts';
import type { Reader, Transaction } from '../database/tables.ts';
import { QUEUE_SCHEMA, type WorkData, type WorkKind } from './kinds.ts';

export type WorkRow = typeof work.$inferSelect;

/**
 * Who is there is told and compared in the database's own time, which all workers share; what people read is the one clock's. A worker
 * that was not heard of for so long is gone; what it had in hand is taken up by another.
 */
export const LOST_MS = 10_000;
const lost = sql`now() - interval '${sql.raw(String(LOST_MS))} milliseconds'`;

/** Bytes of what work was given that are kept after it has ended. */
const MOST_DATA_KEPT = 8192;

/** All SQL of background work. */
@Injectable()
export class QueueRepository {
  readonly database: Database;
  constructor(@Inject(Database) database: Database) {
    this.database = database;
  }

  /** Whether the queue's own tables are made. */
  async isThere(): Promise<boolean> {
    const found = await this.database.pool.query(`select 1 from ${QUEUE_SCHEMA}.version`).catch(() => undefined);
    return found !== undefined;
  }

  async add<K extends WorkKind>(
    tx: Reader,
    row: { kind: K; data: WorkData[K]; personName: string; jobId?: string | undefined },
  ): Promise<string> {
    const [made] = await tx
      .insert(work)
      .values({ ...row, jobId: row.jobId ?? null, at: now(), heartbeatAt: sql`now()` })
      .returning({ id: work.id });
    if (!made) throw new Error('work not stored');
    return made.id;
  }

  /** Takes up waiting work; undefined when it is no longer waiting. */
  async take(id: string, workerId: string): Promise<WorkRow | undefined> {
    const [row] = await this.database.tables
      .update(work)
      .set({
        state: 'running',
        workerId,
        attempt: sql`${work.attempt} + 1`,
        heartbeatAt: sql`now()`,
        startedAt: sql`now()`,
        progress: null,
      })
      .where(and(eq(work.id, id), eq(work.state, 'waiting'), eq(work.cancelAsked, false)))
      .returning();
    return row;
  }

  /** Says that an attempt still runs. False when it was cancelled or is no longer the newest. */
  async stillMine(row: Pick<WorkRow, 'id' | 'attempt'>, progress?: number): Promise<boolean> {
    const [mine] = await this.database.tables
      .update(work)
      .set({ heartbeatAt: sql`now()`, ...(progress === undefined ? {} : { progress }) })
      .where(and(eq(work.id, row.id), eq(work.attempt, row.attempt), eq(work.state, 'running')))
      .returning({ cancelAsked: work.cancelAsked });
    return mine !== undefined && !mine.cancelAsked;
  }

  /** Ends an attempt; false when it is no longer the newest and nothing of it may stand. */
  async end(
    tx: Reader,
    row: Pick<WorkRow, 'id' | 'attempt'>,
    state: 'done' | 'failed' | 'cancelled' | 'waiting',
    more: { result?: object | undefined; problem?: string | undefined } = {},
  ): Promise<boolean> {
    const done = await tx
      .update(work)
      .set({
        state,
        result: more.result ?? null,
        problem: more.problem ?? null,
        // what it was given has served: a log or a table is not kept twice
        ...(state === 'waiting'
          ? {}
          : {
              endedAt: now(),
              data: sql`case when pg_column_size(${work.data}) > ${MOST_DATA_KEPT} then '{}'::jsonb else ${work.data} end`,
            }),
        ...(state === 'done' ? { progress: 1 } : {}),
      })
      .where(and(eq(work.id, row.id), eq(work.attempt, row.attempt), eq(work.state, 'running')))
      .returning({ id: work.id });
    return done.length > 0;
  }

  /** Work whose worker is gone waits again; work that waits and is asked to stop is cancelled. Gives what must be handed out again. */
  async supervise(): Promise<string[]> {
    const orphans = await this.database.tables
      .update(work)
      .set({ state: 'waiting' })
      .where(and(eq(work.state, 'running'), lt(work.heartbeatAt, lost)))
      .returning({ id: work.id });
    await this.database.tables
      .update(work)
      .set({ state: 'cancelled', endedAt: now() })
      .where(and(eq(work.state, 'waiting'), eq(work.cancelAsked, true)));
    const waiting = await this.database.tables
      .select({ id: work.id })
      .from(work)
      .where(and(eq(work.state, 'waiting'), lt(work.heartbeatAt, lost)))
      .limit(50);
    return [...new Set([...orphans, ...waiting].map((w) => w.id))];
  }

  async askCancel(tx: Transaction, id: string): Promise<WorkRow | undefined> {
    const [row] = await tx
      .update(work)
      .set({ cancelAsked: true })
      .where(and(eq(work.id, id), inArray(work.state, ['waiting', 'running'])))
      .returning();
    return row;
  }

  async one(id: string): Promise<WorkRow | undefined> {
    const [row] = await this.database.tables.select().from(work).where(eq(work.id, id));
    return row;
  }

  /** What waits and runs, and what ended last. */
  async newest(): Promise<WorkRow[]> {
    const open = await this.database.tables
      .select()
      .from(work)
      .where(inArray(work.state, ['waiting', 'running']))
      .orderBy(work.at)
      .limit(50);
    const ended = await this.database.tables
      .select()
      .from(work)
      .where(inArray(work.state, ['done', 'failed', 'cancelled']))
      .orderBy(desc(work.at))
      .limit(12);
    return [...open, ...ended];
  }

  async lastDone(kind: WorkKind): Promise<WorkRow | undefined> {
    const [row] = await this.database.tables
      .select()
      .from(work)
      .where(and(eq(work.kind, kind), eq(work.state, 'done')))
      .orderBy(desc(work.endedAt))
      .limit(1);
    return row;
  }

  /** How much waits, and since when the oldest. */
  async depth(): Promise<{ waiting: number; running: number; workers: number }> {
    const { rows } = await this.database.pool.query<{ waiting: number; running: number; workers: number }>({
      name: 'queue-depth',
      text: `select count(*) filter (where state = 'waiting')::int as waiting, count(*) filter (where state = 'running')::int as running,
          (select count(*)::int from worker where heartbeat_at > now() - interval '${LOST_MS} milliseconds') as workers
        from work where state in ('waiting', 'running')`,
    });
    return rows[0] ?? { waiting: 0, running: 0, workers: 0 };
  }

  async waitingOf(kind: WorkKind): Promise<number> {
    const [row] = await this.database.tables
      .select({ n: sql<number>`count(*)::int` })
      .from(work)
      .where(and(eq(work.kind, kind), inArray(work.state, ['waiting', 'running'])));
    return row?.n ?? 0;
  }

  async here(row: { id: string; host: string; pid: number }): Promise<void> {
    await this.database.tables
      .insert(worker)
      .values(row)
      .onConflictDoUpdate({ target: worker.id, set: { heartbeatAt: sql`now()` } });
    await this.database.tables.delete(worker).where(lt(worker.heartbeatAt, sql`now() - interval '1 day'`));
  }

  async gone(id: string): Promise<void> {
    await this.database.tables.delete(worker).where(eq(worker.id, id));
  }
}
