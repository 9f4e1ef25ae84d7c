import type { UnitView } from '@norther/contracts';
import type { PieceRange } from '@norther/core';
import { Inject, Injectable } from '@nestjs/common';
import { and, asc, count, desc, eq, getTableColumns, inArray, max, sql } from 'drizzle-orm';
import { Database, type Reader, type Transaction } from '../database/database.ts';
import { balanceRun, testRun, unit, unitStep } from '../database/schema.ts';
import { tracesOfTest } from '../trace/traceStatements.ts';
import type { JobRow } from './jobRepository.ts';

type OfJob = Pick<JobRow, 'id'>;
export type UnitRow = typeof unit.$inferSelect;

/** All SQL of the pieces of a job. */
@Injectable()
export class UnitRepository {
  readonly database: Database;
  constructor(@Inject(Database) database: Database) {
    this.database = database;
  }

  async howMany(row: OfJob, reader: Reader = this.database.tables): Promise<number> {
    const [found] = await reader.select({ n: count() }).from(unit).where(eq(unit.jobId, row.id));
    return found?.n ?? 0;
  }

  /** Of some serial numbers those that a piece of the job has already, whatever their case. */
  async known(tx: Transaction, row: OfJob, serials: readonly string[]): Promise<string[]> {
    const rows = await tx
      .select({ serial: unit.serial })
      .from(unit)
      .where(
        and(
          eq(unit.jobId, row.id),
          inArray(
            sql`lower(${unit.serial})`,
            serials.map((s) => s.toLowerCase()),
          ),
        ),
      );
    return rows.flatMap((r) => (r.serial === null ? [] : [r.serial]));
  }

  /** Pieces numbered on from the last, in one statement. */
  async add(tx: Transaction, row: OfJob, more: number | readonly string[], at: Date): Promise<void> {
    const [last] = await tx
      .select({ n: max(unit.ordinal) })
      .from(unit)
      .where(eq(unit.jobId, row.id));
    const from = last?.n ?? 0;
    await (typeof more === 'number'
      ? tx.execute(sql`insert into unit (job_id, ordinal, at)
          select ${row.id}, n, ${at} from generate_series(${from + 1}::int, ${from + more}::int) n`)
      : tx.insert(unit).values(more.map((serial, i) => ({ jobId: row.id, ordinal: from + 1 + i, serial, at }))));
  }

  async get(row: OfJob, ordinal: number, reader: Reader = this.database.tables): Promise<UnitRow | undefined> {
    const [found] = await reader
      .select()
      .from(unit)
      .where(and(eq(unit.jobId, row.id), eq(unit.ordinal, ordinal)));
    return found;
  }

  async setSerial(tx: Transaction, id: string, serial: string): Promise<void> {
    await tx.update(unit).set({ serial }).where(eq(unit.id, id));
  }

  /** Pieces after an ordinal, or those a word fits: an ordinal or a part of a serial number. */
  async page(row: OfJob, after: number, word: string, most: number): Promise<UnitView[]> {
    const like = `%${word.replaceAll(/[%_\\]/g, '\\$&')}%`;
    const { rows } = await this.database.pool.query<UnitView>({
      name: 'units',
      text: `select u.ordinal, u.serial, coalesce(r.n, 0)::int as readings, r.verdict from unit u
        left join lateral (
          select count(*) as n, (array_agg(x.verdict order by array_position(array['fail','cannot judge','attention','pass'], x.verdict)))[1] as verdict
          from (select verdict from test_run t where t.unit_id = u.id
              and not exists (select 1 from test_run c where c.supersedes = t.id)
            union all select verdict from balance_run b where b.unit_id = u.id) x) r on true
        where u.job_id = $1 and u.ordinal > $2 and ($3 = '' or u.ordinal::text = $3 or u.serial ilike $4)
        order by u.ordinal limit $5`,
      values: [row.id, after, word, like, most],
    });
    return rows;
  }

  /** Marks an operation as done, or not done after all, for pieces of some ranges; how many pieces that changed. */
  async mark(
    tx: Transaction,
    row: OfJob,
    x: { code: string; ranges: readonly PieceRange[]; done: boolean; at: Date },
  ): Promise<number> {
    const wanted = sql.join(
      x.ranges.map(([from, to]) => sql`u.ordinal between ${from} and ${to}`),
      sql` or `,
    );
    const changed = await tx.execute(sql`insert into unit_step (unit_id, code, state, changed_at)
      select u.id, ${x.code}, ${x.done ? 'passed' : 'open'}, ${x.at} from unit u where u.job_id = ${row.id} and (${wanted})
      on conflict (unit_id, code) do update set state = excluded.state, changed_at = excluded.changed_at
        where unit_step.state <> excluded.state`);
    return changed.rowCount ?? 0;
  }

  /** An operation is open again for every piece. */
  async unmark(tx: Transaction, row: OfJob, code: string, at: Date): Promise<void> {
    await tx.execute(sql`update unit_step s set state = 'open', changed_at = ${at} from unit u
      where s.unit_id = u.id and u.job_id = ${row.id} and s.code = ${code} and s.state <> 'open'`);
  }

  /** For how many pieces each operation that is walked piece by piece is done. */
  async marked(row: OfJob, reader: Reader): Promise<Map<string, number>> {
    const { rows } = await reader.execute<{ code: string; n: number }>(sql`select s.code, count(*)::int as n
      from unit u join unit_step s on s.unit_id = u.id where u.job_id = ${row.id} and s.state = 'passed' group by s.code`);
    return new Map(rows.map((r) => [r.code, r.n]));
  }

  /** Pieces an operation is not done for, as ranges. */
  async unmarked(tx: Transaction, row: OfJob, code: string): Promise<PieceRange[]> {
    const { rows } = await tx.execute<{
      from: number;
      to: number;
    }>(sql`select min(ordinal) as "from", max(ordinal) as "to"
      from (select u.ordinal, u.ordinal - row_number() over (order by u.ordinal) as run from unit u
        where u.job_id = ${row.id} and not exists (select 1 from unit_step s where s.unit_id = u.id and s.code = ${code} and s.state = 'passed')) x
      group by run order by 1`);
    return rows.map((r): PieceRange => [r.from, r.to]);
  }

  /** What is done for a piece. */
  async steps(id: string): Promise<{ code: string; at: string }[]> {
    const rows = await this.database.tables
      .select()
      .from(unitStep)
      .where(and(eq(unitStep.unitId, id), eq(unitStep.state, 'passed')));
    return rows.map((r) => ({ code: r.code, at: r.changedAt?.toISOString() ?? '' }));
  }

  async tests(id: string) {
    return this.database.tables
      .select({ ...getTableColumns(testRun), traces: tracesOfTest })
      .from(testRun)
      .where(eq(testRun.unitId, id))
      .orderBy(asc(testRun.takenAt));
  }

  async balances(id: string) {
    return this.database.tables.select().from(balanceRun).where(eq(balanceRun.unitId, id)).orderBy(desc(balanceRun.at));
  }
}
