import type { Signed } from '@norther/contracts';
import { Injectable } from '@nestjs/common';
import { and, asc, desc, eq, isNull } from 'drizzle-orm';
import type { Reader, Transaction } from '../database/database.ts';
import { balanceEntry, balanceSession } from '../database/schema.ts';

export type SessionRow = typeof balanceSession.$inferSelect;
export type EntryRow = typeof balanceEntry.$inferSelect;

/** All SQL of balances as sessions on the stand. */
@Injectable()
export class BalanceRepository {
  /** Sessions of a motor, the newest first. */
  async ofJob(reader: Reader, row: { id: string }): Promise<{ session: SessionRow; entries: EntryRow[] }[]> {
    const sessions = await reader
      .select()
      .from(balanceSession)
      .where(eq(balanceSession.jobId, row.id))
      .orderBy(desc(balanceSession.at));
    const entries = await reader
      .select({ entry: balanceEntry })
      .from(balanceEntry)
      .innerJoin(balanceSession, eq(balanceSession.id, balanceEntry.sessionId))
      .where(eq(balanceSession.jobId, row.id))
      .orderBy(asc(balanceEntry.ordinal));
    return sessions.map((session) => ({
      session,
      entries: entries.map((e) => e.entry).filter((e) => e.sessionId === session.id),
    }));
  }

  async one(
    tx: Transaction,
    row: { id: string },
    id: string,
  ): Promise<{ session: SessionRow; entries: EntryRow[] } | undefined> {
    const [session] = await tx
      .select()
      .from(balanceSession)
      .where(and(eq(balanceSession.id, id), eq(balanceSession.jobId, row.id)));
    if (!session) return undefined;
    const entries = await tx
      .select()
      .from(balanceEntry)
      .where(eq(balanceEntry.sessionId, id))
      .orderBy(asc(balanceEntry.ordinal));
    return { session, entries };
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
