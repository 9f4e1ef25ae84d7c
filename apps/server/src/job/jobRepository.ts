import type { TestTraceView } from '@norther/contracts';
import { PART_KINDS, type PartKind } from '@norther/core';
import { Inject, Injectable } from '@nestjs/common';
import { desc, eq, inArray, sql } from 'drizzle-orm';
import { Database, type Reader, type Transaction } from '../database/database.ts';
import {
  balanceRun,
  customer,
  job,
  jobCounter,
  motor,
  part,
  routeStep,
  stepAttempt,
  stepSpell,
  testRun,
  windingRecord,
  failureRecord,
} from '../database/schema.ts';
import { badField, notFound } from '../problem/problem.ts';
import { prepareStatements } from './detailStatements.ts';

export type JobRow = typeof job.$inferSelect;
export type NewJobRow = typeof job.$inferInsert;
export type StepRow = typeof routeStep.$inferSelect;
export type AttemptRow = typeof stepAttempt.$inferSelect;
export type SpellRow = typeof stepSpell.$inferSelect;
export type WindingRow = typeof windingRecord.$inferSelect;
export type FailureRow = typeof failureRecord.$inferSelect;
export type TestRow = typeof testRun.$inferSelect & { traces: TestTraceView[] };
export type BalanceRow = typeof balanceRun.$inferSelect;

/** One visit as the floor's statement gives it. */
export interface FloorRow extends Pick<
  JobRow,
  | 'number'
  | 'what'
  | 'came'
  | 'route'
  | 'impregnation'
  | 'ownRoute'
  | 'priority'
  | 'takenInAt'
  | 'closedAt'
  | 'nameplate'
> {
  promised: string | null;
  customerName: string;
  steps: [code: string, state: StepRow['state'], changedAt: string | null, overridden: boolean][];
  listsMade: boolean;
}

/** Closed visits the floor lists; the search finds the others. */
export const MOST_CLOSED = 400;

const FLOOR = `select j.number, j.what, j.came, j.route, j.impregnation, j.own_route as "ownRoute", j.priority, j.nameplate,
    j.promised::text as promised, j.taken_in_at as "takenInAt", j.closed_at as "closedAt", c.name as "customerName",
    coalesce((select json_agg(json_build_array(s.code, s.state, s.changed_at, exists(
       select 1 from step_attempt a where a.job_id = s.job_id and a.code = s.code and a.override is not null)))
     from route_step s where s.job_id = j.id), '[]') as steps,
    exists(select 1 from material_sheet ms
       where ms.job_id = j.id and ms.part = 'stator' and ms.lists is not null) as "listsMade"
  from job j join customer c on c.id = j.customer_id`;

/** All SQL of visits, their customers, motors and routes. */
@Injectable()
export class JobRepository {
  readonly database: Database;
  private readonly statements = new WeakMap<Reader, ReturnType<typeof prepareStatements>>();
  constructor(@Inject(Database) database: Database) {
    this.database = database;
  }

  /** Every visit in the house, the oldest first. */
  async inTheHouse(): Promise<FloorRow[]> {
    return this.floor('floor-open', 'j.closed_at is null order by j.taken_in_at');
  }

  /** Those that left it last. */
  async gone(): Promise<FloorRow[]> {
    return this.floor(
      'floor-closed',
      `j.closed_at is not null order by j.closed_at desc, j.taken_in_at limit ${MOST_CLOSED}`,
    );
  }

  async onFloor(number: string): Promise<FloorRow | undefined> {
    return (await this.floor('floor-one', 'j.number = $1', [number]))[0];
  }

  private async floor(name: string, where: string, values: unknown[] = []): Promise<FloorRow[]> {
    return (await this.database.pool.query<FloorRow>({ name, text: `${FLOOR} where ${where}`, values })).rows;
  }

  /** How many visits have left the house. */
  async closedCount(): Promise<number> {
    const { rows } = await this.database.pool.query<{ n: number }>(
      'select count(*)::int as n from job where closed_at is not null',
    );
    return rows[0]?.n ?? 0;
  }

  /** One visit; with 'lock' nobody else changes it until the transaction ends. */
  async row(number: string, reader: Reader, lock: 'lock' | 'read' = 'read'): Promise<JobRow> {
    const query = reader.select().from(job).where(eq(job.number, number));
    const [row] = lock === 'lock' ? await query.for('no key update') : await query;
    if (!row) throw notFound(`job ${number}`);
    return row;
  }

  async exists(number: string, reader: Reader): Promise<boolean> {
    return (await reader.select({ id: job.id }).from(job).where(eq(job.number, number))).length > 0;
  }

  async steps(row: Pick<JobRow, 'id'>, reader: Reader): Promise<StepRow[]> {
    return reader.select().from(routeStep).where(eq(routeStep.jobId, row.id));
  }

  /** The route of a job from now on: its own, or that of another kind. */
  async setRoute(
    tx: Transaction,
    row: Pick<JobRow, 'id' | 'version'>,
    set: Partial<Pick<JobRow, 'route' | 'ownRoute'>>,
  ): Promise<void> {
    await tx
      .update(job)
      .set({ ...set, version: row.version + 1 })
      .where(eq(job.id, row.id));
  }

  /** Attempts at some operations, in order. */
  async attempts(row: Pick<JobRow, 'id'>, codes: readonly string[], reader: Reader): Promise<AttemptRow[]> {
    return codes.length === 0
      ? []
      : reader
          .select()
          .from(stepAttempt)
          .where(sql`${stepAttempt.jobId} = ${row.id} and ${inArray(stepAttempt.code, [...codes])}`)
          .orderBy(stepAttempt.number);
  }

  /** Every revision of every winding, newest first. */
  async windings(row: Pick<JobRow, 'id'>, reader: Reader): Promise<WindingRow[]> {
    return reader
      .select()
      .from(windingRecord)
      .where(eq(windingRecord.jobId, row.id))
      .orderBy(desc(windingRecord.revision));
  }

  /** Everything that hangs on one visit, over one connection and by statements prepared once. */
  async everything(number: string, reader: Reader) {
    let statements = this.statements.get(reader);
    if (!statements) this.statements.set(reader, (statements = prepareStatements(reader)));
    const [found] = await statements.job.execute({ number });
    if (!found) throw notFound(`job ${number}`);
    const of = { jobId: found.job.id };
    // one after the other: they share one connection
    return {
      row: found.job,
      customer: found.customer,
      steps: await statements.steps.execute(of),
      attempts: await statements.attempts.execute(of),
      spells: await statements.spells.execute(of),
      tests: await statements.tests.execute(of),
      cures: await statements.cures.execute(of),
      balances: await statements.balances.execute(of),
      files: await statements.files.execute(of),
      reports: await statements.reports.execute(of),
      parts: await statements.parts.execute(of),
      windings: await statements.windings.execute(of),
      material: await statements.material.execute(of),
      failures: await statements.failures.execute(of),
    };
  }

  async add(tx: Transaction, values: NewJobRow): Promise<JobRow> {
    const [row] = await tx.insert(job).values(values).returning();
    if (!row) throw new Error('job not stored');
    return row;
  }

  async change(tx: Transaction, row: JobRow): Promise<void> {
    await tx.update(job).set(row).where(eq(job.id, row.id));
  }

  /** Operations of the route; those it has already stay as they are. */
  async addSteps(tx: Transaction, row: Pick<JobRow, 'id'>, codes: readonly string[]): Promise<void> {
    if (codes.length > 0)
      await tx
        .insert(routeStep)
        .values(codes.map((code) => ({ jobId: row.id, code })))
        .onConflictDoNothing();
  }

  /** Parts of a visit, in the order of their kinds. */
  async parts(row: Pick<JobRow, 'id'>, reader: Reader): Promise<PartKind[]> {
    const rows = await reader.select({ kind: part.kind }).from(part).where(eq(part.jobId, row.id));
    return PART_KINDS.filter((kind) => rows.some((r) => r.kind === kind));
  }

  async addParts(tx: Transaction, row: Pick<JobRow, 'id'>, kinds: readonly PartKind[]): Promise<void> {
    if (kinds.length > 0)
      await tx
        .insert(part)
        .values(kinds.map((kind) => ({ jobId: row.id, kind })))
        .onConflictDoNothing();
  }

  /** A part turns out to be of another kind (a cage rotor to be a wound one), unless something was recorded of it already. */
  async renamePart(tx: Transaction, row: Pick<JobRow, 'id'>, was: PartKind, is: PartKind): Promise<boolean> {
    const renamed = await tx
      .update(part)
      .set({ kind: is })
      .where(
        sql`${part.jobId} = ${row.id} and ${part.kind} = ${was} and not exists (
          select 1 from ${balanceRun} b where b.job_id = ${row.id} and b.part = ${was})`,
      )
      .returning({ kind: part.kind });
    return renamed.length > 0;
  }

  /** The motor leaves the house. */
  async close(tx: Transaction, row: JobRow, at: Date): Promise<void> {
    await tx
      .update(job)
      .set({ closedAt: at, version: row.version + 1 })
      .where(eq(job.id, row.id));
  }

  /** The next job number of a year, `26-0014`. */
  async nextNumber(tx: Transaction, at: Date): Promise<string> {
    const year = at.getUTCFullYear();
    const [row] = await tx
      .insert(jobCounter)
      .values({ year, last: 1 })
      .onConflictDoUpdate({ target: jobCounter.year, set: { last: sql`${jobCounter.last} + 1` } })
      .returning({ last: jobCounter.last });
    return `${String(year % 100).padStart(2, '0')}-${String(row?.last ?? 1).padStart(4, '0')}`;
  }

  /** The customer of that id, or of that name, made where there is none. */
  async customerOf(tx: Transaction, id: string | undefined, name: string): Promise<string> {
    if (id !== undefined) {
      const [known] = await tx.select({ id: customer.id }).from(customer).where(eq(customer.id, id));
      if (!known)
        throw badField('customerId', 'There is no such customer; choose one from the list or type a new name.');
      return known.id;
    }
    await tx.insert(customer).values({ name }).onConflictDoNothing();
    const [row] = await tx
      .select({ id: customer.id })
      .from(customer)
      .where(sql`lower(${customer.name}) = lower(${name})`);
    if (!row) throw new Error('customer not stored');
    return row.id;
  }

  async customerName(id: string, reader: Reader): Promise<string> {
    const [row] = await reader.select({ name: customer.name }).from(customer).where(eq(customer.id, id));
    return row?.name ?? '';
  }

  async customersLike(query: string): Promise<{ id: string; name: string }[]> {
    return this.database.tables
      .select({ id: customer.id, name: customer.name })
      .from(customer)
      .where(sql`${customer.name} ilike ${`%${query.replaceAll(/[%_\\]/g, '\\$&')}%`}`)
      .orderBy(customer.name)
      .limit(20);
  }

  /** The same serial number of the same customer is the same motor on another visit; the database holds two intakes at once to it. */
  async motorFor(tx: Transaction, customerId: string, said: string | undefined): Promise<string> {
    const serial = said?.trim() || null;
    const [made] = await tx
      .insert(motor)
      .values({ customerId, serial })
      .onConflictDoNothing()
      .returning({ id: motor.id });
    if (made) return made.id;
    const [known] = await tx
      .select({ id: motor.id })
      .from(motor)
      .where(sql`${motor.customerId} = ${customerId} and lower(${motor.serial}) = lower(${serial})`);
    if (!known) throw new Error('motor not stored');
    return known.id;
  }

  /** Visits of a serial number, newest first. */
  async visitsOf(serial: string) {
    return this.database.tables
      .select({
        number: job.number,
        what: job.what,
        customer: customer.name,
        takenInAt: job.takenInAt,
        closedAt: job.closedAt,
      })
      .from(job)
      .innerJoin(motor, eq(motor.id, job.motorId))
      .innerJoin(customer, eq(customer.id, job.customerId))
      .where(sql`lower(${motor.serial}) = ${serial.trim().toLowerCase()}`)
      .orderBy(desc(job.takenInAt))
      .limit(20);
  }
}
