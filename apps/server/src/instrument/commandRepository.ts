import type { CommandName, CommandView } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import { and, asc, eq, gt, isNull, sql } from 'drizzle-orm';
import { Database, type Transaction } from '../database/database.ts';
import { instrument, instrumentCommand } from '../database/schema.ts';
import type { InstrumentRow } from './instrumentRepository.ts';

export type CommandRow = typeof instrumentCommand.$inferSelect;
/** Commands of an instrument that are shown. */
const MOST_SHOWN = 5;
/** A command stream that was not open for so long is not open. */
const HEARS_S = 8;

/** All SQL of what instruments are told. Times are compared as they were written, by the one clock. */
@Injectable()
export class CommandRepository {
  readonly database: Database;
  constructor(@Inject(Database) database: Database) {
    this.database = database;
  }

  async add(tx: Transaction, values: typeof instrumentCommand.$inferInsert): Promise<number> {
    const [made] = await tx.insert(instrumentCommand).values(values).returning({ id: instrumentCommand.id });
    if (!made) throw new Error('command not stored');
    return made.id;
  }

  /** What an instrument has still to do, after a command it knows, in order. */
  async waiting(instrumentId: string, after: number, at: Date): Promise<CommandRow[]> {
    return this.database.tables
      .select()
      .from(instrumentCommand)
      .where(
        and(
          eq(instrumentCommand.instrumentId, instrumentId),
          gt(instrumentCommand.id, after),
          isNull(instrumentCommand.answeredAt),
          gt(instrumentCommand.expiresAt, at),
        ),
      )
      .orderBy(asc(instrumentCommand.id));
  }

  async locked(tx: Transaction, instrumentId: string, id: number): Promise<CommandRow | undefined> {
    const [row] = await tx
      .select()
      .from(instrumentCommand)
      .where(and(eq(instrumentCommand.id, id), eq(instrumentCommand.instrumentId, instrumentId)))
      .for('no key update');
    return row;
  }

  async answer(tx: Transaction, id: number, set: Pick<CommandRow, 'answer' | 'said' | 'answeredAt'>): Promise<void> {
    await tx.update(instrumentCommand).set(set).where(eq(instrumentCommand.id, id));
  }

  async setState(tx: Transaction, id: string, state: InstrumentRow['state']): Promise<void> {
    await tx.update(instrument).set({ state }).where(eq(instrument.id, id));
  }

  /** Its command stream is open, or has just been closed. */
  async hears(id: string, open: boolean): Promise<void> {
    await this.database.tables
      .update(instrument)
      .set({ heardAt: open ? sql`now()` : null })
      .where(eq(instrument.id, id));
  }

  /** Which instruments hear commands now. */
  async hearing(): Promise<Set<string>> {
    const rows = await this.database.tables
      .select({ id: instrument.id })
      .from(instrument)
      .where(sql`${instrument.heardAt} > now() - make_interval(secs => ${HEARS_S})`);
    return new Set(rows.map((r) => r.id));
  }

  /** The newest commands of every instrument. */
  async newest(at: Date): Promise<Map<string, CommandView[]>> {
    const { rows } = await this.database.pool.query<{
      instrumentId: string;
      id: string;
      command: CommandName;
      value: number | null;
      person: string;
      at: Date;
      answer: CommandView['answer'];
      said: string;
    }>({
      name: 'commands-newest',
      text: `select i.id as "instrumentId", c.id, c.command, c.value, c.person_name as person, c.at, c.said,
          coalesce(c.answer, case when c.expires_at <= $1 then 'expired' else 'waiting' end) as answer
        from instrument i cross join lateral
          (select * from instrument_command where instrument_id = i.id order by id desc limit ${MOST_SHOWN}) c`,
      values: [at],
    });
    const all = new Map<string, CommandView[]>();
    for (const { instrumentId, id, at: when, ...rest } of rows)
      all.set(instrumentId, [...(all.get(instrumentId) ?? []), { ...rest, id: Number(id), at: when.toISOString() }]);
    return all;
  }
}
