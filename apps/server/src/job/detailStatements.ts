import { and, asc, desc, eq, getTableColumns, isNull, sql } from 'drizzle-orm';
import { tracesOfTest } from '../trace/traceStatements.ts';
import type { Reader } from '../database/database.ts';
import {
  attachment,
  balanceRun,
  cureRun,
  customer,
  failureRecord,
  job,
  materialSheet,
  part,
  report,
  routeStep,
  stepAttempt,
  stepSpell,
  testRun,
  trace,
  windingRecord,
} from '../database/schema.ts';

/** The statements of one motor's page, prepared once: it is the call made most. */
export function prepareStatements(tables: Reader) {
  const jobId = sql.placeholder('jobId');
  return {
    job: tables
      .select()
      .from(job)
      .innerJoin(customer, eq(customer.id, job.customerId))
      .where(eq(job.number, sql.placeholder('number')))
      .prepare('detail_job'),
    steps: tables.select().from(routeStep).where(eq(routeStep.jobId, jobId)).prepare('detail_steps'),
    attempts: tables
      .select()
      .from(stepAttempt)
      .where(eq(stepAttempt.jobId, jobId))
      .orderBy(asc(stepAttempt.number))
      .prepare('detail_attempts'),
    spells: tables
      .select()
      .from(stepSpell)
      .where(eq(stepSpell.jobId, jobId))
      .orderBy(asc(stepSpell.startedAt))
      .prepare('detail_spells'),
    // what was recorded piece by piece is asked for with its piece
    tests: tables
      .select({ ...getTableColumns(testRun), traces: tracesOfTest })
      .from(testRun)
      .where(and(eq(testRun.jobId, jobId), isNull(testRun.unitId)))
      .orderBy(asc(testRun.takenAt))
      .prepare('detail_tests'),
    cures: tables
      .select({
        id: cureRun.id,
        part: cureRun.part,
        code: cureRun.code,
        fileName: cureRun.fileName,
        resin: cureRun.resin,
        verdict: cureRun.verdict,
        reason: cureRun.reason,
        result: cureRun.result,
        badRows: cureRun.badRows,
        traceId: cureRun.traceId,
        channels: trace.channels,
        xUnit: trace.xUnit,
        what: trace.what,
        samples: sql<number>`(select coalesce(sum(count), 0)::int from trace_chunk c where c.trace_id = ${trace.id})`,
        person: cureRun.personName,
        at: cureRun.at,
      })
      .from(cureRun)
      .innerJoin(trace, eq(trace.id, cureRun.traceId))
      .where(eq(cureRun.jobId, jobId))
      .orderBy(desc(cureRun.at))
      .prepare('detail_cures'),
    balances: tables
      .select()
      .from(balanceRun)
      .where(and(eq(balanceRun.jobId, jobId), isNull(balanceRun.unitId)))
      .orderBy(desc(balanceRun.at))
      .prepare('detail_balances'),
    files: tables
      .select({
        id: attachment.id,
        name: attachment.name,
        mediaType: attachment.mediaType,
        bytes: attachment.bytes,
        step: attachment.code,
        person: attachment.personName,
        at: attachment.at,
      })
      .from(attachment)
      .where(eq(attachment.jobId, jobId))
      .orderBy(asc(attachment.at))
      .prepare('detail_files'),
    reports: tables
      .select({
        id: report.id,
        revision: report.revision,
        person: report.personName,
        at: report.at,
        sha256: report.sha256,
      })
      .from(report)
      .where(eq(report.jobId, jobId))
      .orderBy(desc(report.revision))
      .prepare('detail_reports'),
    parts: tables.select({ kind: part.kind }).from(part).where(eq(part.jobId, jobId)).prepare('detail_parts'),
    windings: tables
      .select()
      .from(windingRecord)
      .where(eq(windingRecord.jobId, jobId))
      .orderBy(desc(windingRecord.revision))
      .prepare('detail_windings'),
    failures: tables
      .select()
      .from(failureRecord)
      .where(eq(failureRecord.jobId, jobId))
      .orderBy(desc(failureRecord.revision))
      .prepare('detail_failures'),
    material: tables
      .select({ lists: sql<boolean | null>`case when ${materialSheet.lists} is null then null else true end` })
      .from(materialSheet)
      .where(and(eq(materialSheet.jobId, jobId), eq(materialSheet.part, 'stator')))
      .prepare('detail_material'),
  };
}
