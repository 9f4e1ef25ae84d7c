import type { Signed } from '@norther/contracts';
import { balanceEntrySchema, balanceSetUpSchema } from '@norther/core';
import { Injectable } from '@nestjs/common';
import { and, asc, desc, eq, gte, isNull, or, type SQL } from 'drizzle-orm';
import type { Reader, Transaction } from '../database/database.ts';
import { balanceEntry, balanceSession, instrument, trace, unit } from '../database/schema.ts';

export type SessionRow = typeof balanceSession.$inferSelect & { piece: number | null };
/** Runs that stands sent, at most so many shown. */
const MOST_RUNS = 12;
/** As it is kept today: what a set-up had not yet when it was written is as it was without it. */
const ofNow = <T extends Pick<typeof balanceSession.$inferSelect, 'setUp'>>(s: T): T => ({
  ...s,
  setUp: balanceSetUpSchema.parse(s.setUp),
});
const entryOfNow = (e: EntryRow): EntryRow => ({ ...e, entry: balanceEntrySchema.parse(e.entry) });
export type EntryRow = typeof balanceEntry.$inferSelect;

/** All SQL of balances as sessions on the stand. */
@Injectable()
export class BalanceRepository {
  /** Sessions of a motor, the newest first. */
  async ofJob(reader: Reader, row: { id: string }): Promise<{ session: SessionRow; entries: EntryRow[] }[]> {
    const sessions = await this.sessions(reader, eq(balanceSession.jobId, row.id));
    const entries = await reader
      .select({ entry: balanceEntry })
      .from(balanceEntry)
      .innerJoin(balanceSession, eq(balanceSession.id, balanceEntry.sessionId))
      .where(eq(balanceSession.jobId, row.id))
      .orderBy(asc(balanceEntry.ordinal));
    return sessions.map((session) => ({
      session,
      entries: entries
        .map((e) => e.entry)
        .filter((e) => e.sessionId === session.id)
        .map(entryOfNow),
    }));
  }

  private async sessions(reader: Reader, which: SQL | undefined): Promise<SessionRow[]> {
    const rows = await reader
      .select({ session: balanceSession, piece: unit.ordinal })
      .from(balanceSession)
      .leftJoin(unit, eq(unit.id, balanceSession.unitId))
      .where(which)
      .orderBy(desc(balanceSession.at));
    return rows.map(({ session, piece }) => ({ ...ofNow(session), piece }));
  }

  /** What stands have sent since a balance began, for this job or for none, the newest first. */
  async sentSince(reader: Reader, row: { id: string }, since: Date) {
    return reader
      .select({
        id: trace.id,
        stream: trace.stream,
        at: trace.at,
        endedAt: trace.endedAt,
        instrument: instrument.name,
        simulated: instrument.simulated,
        calibratedUntil: instrument.calibratedUntil,
      })
      .from(trace)
      .innerJoin(instrument, eq(instrument.id, trace.instrumentId))
      .where(and(eq(trace.what, 'balance'), gte(trace.at, since), or(isNull(trace.jobId), eq(trace.jobId, row.id))))
      .orderBy(desc(trace.at))
      .limit(MOST_RUNS);
  }

  async one(
    tx: Reader,
    row: { id: string },
    id: string,
  ): Promise<{ session: SessionRow; entries: EntryRow[] } | undefined> {
    const [session] = await this.sessions(tx, and(eq(balanceSession.id, id), eq(balanceSession.jobId, row.id)));
    if (!session) return undefined;
    const entries = await tx
      .select()
      .from(balanceEntry)
      .where(eq(balanceEntry.sessionId, id))
      .orderBy(asc(balanceEntry.ordinal));
    return { session, entries: entries.map(entryOfNow) };
  }

  /** Its id; undefined where this part stands on a stand already. */
  async begin(tx: Transaction, values: typeof balanceSession.$inferInsert): Promise<string | undefined> {
    const [made] = await tx
      .insert(balanceSession)
      .values(values)
      .onConflictDoNothing()
      .returning({ id: balanceSession.id });
    return made?.id;
  }

  async add(tx: Transaction, values: typeof balanceEntry.$inferInsert): Promise<void> {
    await tx.insert(balanceEntry).values(values);
  }

  async end(tx: Transaction, id: string, ended: Signed, balanceId: string | null): Promise<void> {
    await tx
      .update(balanceSession)
      .set({ ended, ...(balanceId === null ? {} : { balanceId }) })
      .where(and(eq(balanceSession.id, id), isNull(balanceSession.ended)));
  }
}
