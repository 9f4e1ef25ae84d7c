import type { Signed } from '@norther/contracts';
import type { PartKind, Resin, Verdict } from '@norther/core';
import { Injectable } from '@nestjs/common';
import { and, asc, desc, eq, inArray, isNull, lt, ne, sql } from 'drizzle-orm';
import type { Reader, Transaction } from '../database/database.ts';
import {
  balanceRun,
  cureRun,
  instrument,
  job,
  ovenLoad,
  ovenPart,
  report,
  testRun,
  testTrace,
  trace,
} from '../database/schema.ts';
import type { JobRow } from '../job/jobRepository.ts';
import { tracesOfTest } from '../trace/traceStatements.ts';

/** Tests of earlier visits that are looked at, at most. */
const MOST_EARLIER = 300;

type OfJob = Pick<JobRow, 'id'>;
export type TestRow = typeof testRun.$inferSelect;
interface Last {
  verdict: Verdict;
  reason: string;
}
export interface LastCure extends Last {
  code: string;
  resin: Resin;
  result: unknown;
}

/** All SQL of tests, cures and balances: only ever added. */
@Injectable()
export class EvaluationRepository {
  /** Readings of a job as a whole, the oldest first. */
  async tests(tx: Transaction, row: OfJob): Promise<TestRow[]> {
    return tx
      .select()
      .from(testRun)
      .where(and(eq(testRun.jobId, row.id), isNull(testRun.unitId)))
      .orderBy(asc(testRun.takenAt));
  }

  async test(tx: Transaction, row: OfJob, id: string): Promise<TestRow | undefined> {
    const [found] = await tx
      .select()
      .from(testRun)
      .where(and(eq(testRun.id, id), eq(testRun.jobId, row.id)));
    return found;
  }

  async isCorrected(tx: Transaction, id: string): Promise<boolean> {
    return (await tx.select({ id: testRun.id }).from(testRun).where(eq(testRun.supersedes, id))).length > 0;
  }

  async addTest(tx: Transaction, values: typeof testRun.$inferInsert): Promise<string> {
    return stored(await tx.insert(testRun).values(values).returning({ id: testRun.id }));
  }

  /** Every test of a part, or of one piece of it, as far as others ask after them; the oldest first. */
  async earlierTests(tx: Reader, row: OfJob, part: PartKind, unitId: string | null): Promise<TestRow[]> {
    return tx
      .select()
      .from(testRun)
      .where(
        and(
          eq(testRun.jobId, row.id),
          eq(testRun.part, part),
          unitId === null ? isNull(testRun.unitId) : eq(testRun.unitId, unitId),
        ),
      )
      .orderBy(asc(testRun.takenAt), asc(testRun.id));
  }

  /** Tests of the earlier visits of a motor that nothing has replaced, the newest first. */
  async ofEarlierVisits(reader: Reader, row: Pick<JobRow, 'id' | 'motorId' | 'takenInAt'>) {
    return reader
      .select({
        number: job.number,
        part: testRun.part,
        stage: testRun.stage,
        kind: testRun.kind,
        takenAt: testRun.takenAt,
        verdict: testRun.verdict,
        values: testRun.values,
        result: sql<Record<string, unknown> | null>`${testRun.result} -> 'values'`,
        traces: tracesOfTest,
      })
      .from(testRun)
      .innerJoin(job, eq(job.id, testRun.jobId))
      .where(
        and(
          eq(job.motorId, row.motorId),
          ne(job.id, row.id),
          lt(job.takenInAt, row.takenInAt),
          isNull(testRun.unitId),
          sql`not exists (select 1 from test_run r where r.supersedes = ${testRun.id})`,
        ),
      )
      .orderBy(desc(testRun.takenAt))
      .limit(MOST_EARLIER);
  }

  /** The newest test of a kind of each other motor of a family, that stands and did not fail. */
  async ofFamily(reader: Reader, family: string, butMotorId: string, kind: string) {
    return reader
      .selectDistinctOn([job.motorId], {
        values: testRun.values,
        result: sql<Record<string, unknown> | null>`${testRun.result} -> 'values'`,
      })
      .from(testRun)
      .innerJoin(job, eq(job.id, testRun.jobId))
      .where(
        and(
          eq(job.family, family),
          ne(job.motorId, butMotorId),
          eq(testRun.kind, kind),
          ne(testRun.verdict, 'fail'),
          sql`not exists (select 1 from test_run r where r.supersedes = ${testRun.id})`,
        ),
      )
      .orderBy(job.motorId, desc(testRun.takenAt))
      .limit(MOST_EARLIER);
  }

  /** Every test of the motors in the house, the oldest first, with how many traces it is made of. */
  async openTests(reader: Reader): Promise<{ number: string; test: TestRow; traces: number }[]> {
    return reader
      .select({
        number: job.number,
        test: testRun,
        traces: sql<number>`(select count(*)::int from test_trace u where u.test_id = ${testRun.id})`,
      })
      .from(testRun)
      .innerJoin(job, eq(job.id, testRun.jobId))
      .where(isNull(job.closedAt))
      .orderBy(asc(job.number), asc(testRun.takenAt), asc(testRun.id));
  }

  /** Traces that a test is made of, in their order. */
  async tracesOf(reader: Reader, testId: string): Promise<string[]> {
    const rows = await reader
      .select({ id: testTrace.traceId })
      .from(testTrace)
      .where(eq(testTrace.testId, testId))
      .orderBy(asc(testTrace.ordinal));
    return rows.map((r) => r.id);
  }

  /** Whether a test that stands is made of one of these already. */
  async areTaken(tx: Transaction, traces: readonly string[]): Promise<boolean> {
    const rows = await tx
      .select({ id: testTrace.testId })
      .from(testTrace)
      .where(
        and(
          inArray(testTrace.traceId, [...traces]),
          sql`not exists (select 1 from test_run r where r.supersedes = ${testTrace.testId})`,
        ),
      );
    return rows.length > 0;
  }

  /** The earliest day until which the instruments that sent these are calibrated; undefined where none says. */
  async calibratedUntil(reader: Reader, traces: readonly string[]): Promise<string | undefined> {
    const [row] = await reader
      .select({ until: sql<string | null>`min(${instrument.calibratedUntil})::text` })
      .from(trace)
      .innerJoin(instrument, eq(instrument.id, trace.instrumentId))
      .where(inArray(trace.id, [...traces]));
    return row?.until ?? undefined;
  }

  async addTestTraces(tx: Transaction, testId: string, traces: readonly string[]): Promise<void> {
    if (traces.length === 0) return;
    await tx.insert(testTrace).values(traces.map((traceId, ordinal) => ({ testId, ordinal, traceId })));
  }

  async signTest(tx: Transaction, id: string, signed: Signed): Promise<void> {
    await tx
      .update(testRun)
      .set({ signed })
      .where(and(eq(testRun.id, id), isNull(testRun.signed)));
  }

  async addCure(tx: Transaction, values: typeof cureRun.$inferInsert): Promise<string> {
    return stored(await tx.insert(cureRun).values(values).returning({ id: cureRun.id }));
  }

  /** What the last log of each bake of a job said, the newest first. */
  async lastCures(tx: Transaction, row: OfJob): Promise<LastCure[]> {
    const all = await tx
      .select({
        code: cureRun.code,
        verdict: cureRun.verdict,
        reason: cureRun.reason,
        resin: cureRun.resin,
        result: cureRun.result,
      })
      .from(cureRun)
      .where(eq(cureRun.jobId, row.id))
      .orderBy(desc(cureRun.at));
    return all.filter((c, i) => all.findIndex((d) => d.code === c.code) === i);
  }

  async lastCure(tx: Transaction, row: OfJob, code: string): Promise<LastCure | undefined> {
    return (await this.lastCures(tx, row)).find((c) => c.code === code);
  }

  /** What the last log of a burn-off said of a job. */
  async lastBurn(tx: Transaction, row: OfJob): Promise<Last | undefined> {
    const [last] = await tx
      .select({ verdict: ovenPart.verdict, reason: ovenPart.says })
      .from(ovenPart)
      .innerJoin(ovenLoad, eq(ovenLoad.id, ovenPart.loadId))
      .where(and(eq(ovenPart.jobId, row.id), eq(ovenLoad.use, 'burn-off'), sql`${ovenPart.verdict} is not null`))
      .orderBy(desc(ovenPart.outAt))
      .limit(1);
    return last?.verdict && last.reason !== null ? { verdict: last.verdict, reason: last.reason } : undefined;
  }

  async addBalance(tx: Transaction, values: typeof balanceRun.$inferInsert): Promise<string> {
    return stored(await tx.insert(balanceRun).values(values).returning({ id: balanceRun.id }));
  }

  async lastBalance(tx: Transaction, row: OfJob): Promise<Last | undefined> {
    const [last] = await tx
      .select({ verdict: balanceRun.verdict, reason: balanceRun.reason })
      .from(balanceRun)
      .where(and(eq(balanceRun.jobId, row.id), isNull(balanceRun.unitId)))
      .orderBy(desc(balanceRun.at))
      .limit(1);
    return last;
  }

  /** The result of a reading, cure or balance of a job, with its working. */
  async result(reader: Reader, row: OfJob, id: string): Promise<unknown> {
    for (const table of [testRun, cureRun, balanceRun]) {
      const [found] = await reader
        .select({ result: table.result })
        .from(table)
        .where(and(eq(table.id, id), eq(table.jobId, row.id)));
      if (found) return found.result;
    }
    return undefined;
  }

  async reportIssued(tx: Transaction, row: OfJob): Promise<boolean> {
    return (await tx.select({ id: report.id }).from(report).where(eq(report.jobId, row.id)).limit(1)).length > 0;
  }
}

function stored([row]: { id: string }[]): string {
  if (!row) throw new Error('evaluation not stored');
  return row.id;
}
