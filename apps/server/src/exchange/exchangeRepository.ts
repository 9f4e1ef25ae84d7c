import type { JobFile } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import { and, asc, type Column, eq, inArray } from 'drizzle-orm';
import type { Reader, Transaction } from '../database/database.ts';
import {
  attachment,
  auditEvent,
  balanceRun,
  cureRun,
  failureRecord,
  jointSheet,
  loadRun,
  materialSheet,
  report,
  routeStep,
  stepAttempt,
  stepSpell,
  stockEntry,
  stockLot,
  testRun,
  testTrace,
  instrument,
  trace,
  unit,
  unitStep,
} from '../database/schema.ts';
import type { JobRow } from '../job/jobRepository.ts';
import { BalanceRepository } from '../balance/balanceRepository.ts';
import { SensorRepository } from '../sensor/sensorRepository.ts';

/** What is noted of a lot that is known only from jobs brought in. */
const BROUGHT = 'came with a job of another Norther';

/** SQL of a job as a whole: read for its file, stored from one. */
@Injectable()
export class ExchangeRepository {
  readonly sensors: SensorRepository;
  readonly stand: BalanceRepository;
  constructor(
    @Inject(SensorRepository) sensors: SensorRepository,
    @Inject(BalanceRepository) stand: BalanceRepository,
  ) {
    this.sensors = sensors;
    this.stand = stand;
  }

  /** Everything of a job that its page does not carry, in the order it was recorded. */
  async read(row: JobRow, tables: Reader) {
    const of = <T extends { jobId: Column }>(table: T) => eq(table.jobId, row.id);
    return {
      units: await tables.select().from(unit).where(of(unit)).orderBy(asc(unit.ordinal)),
      marks: await tables
        .select({ unitId: unitStep.unitId, code: unitStep.code, at: unitStep.changedAt })
        .from(unitStep)
        .innerJoin(unit, eq(unit.id, unitStep.unitId))
        .where(and(of(unit), eq(unitStep.state, 'passed')))
        .orderBy(asc(unit.ordinal), asc(unitStep.code)),
      sheets: await tables.select().from(jointSheet).where(of(jointSheet)).orderBy(jointSheet.part),
      failures: await tables
        .select()
        .from(failureRecord)
        .where(of(failureRecord))
        .orderBy(failureRecord.part, asc(failureRecord.revision)),
      bills: await tables.select().from(materialSheet).where(of(materialSheet)).orderBy(materialSheet.part),
      tests: await tables.select().from(testRun).where(of(testRun)).orderBy(asc(testRun.takenAt), asc(testRun.id)),
      testTraces: await tables
        .select({ testId: testTrace.testId, trace, simulated: instrument.simulated })
        .from(testTrace)
        .innerJoin(testRun, eq(testRun.id, testTrace.testId))
        .innerJoin(trace, eq(trace.id, testTrace.traceId))
        .leftJoin(instrument, eq(instrument.id, trace.instrumentId))
        .where(of(testRun))
        .orderBy(asc(testTrace.testId), asc(testTrace.ordinal)),
      cures: await tables
        .select({ cure: cureRun, trace })
        .from(cureRun)
        .innerJoin(trace, eq(trace.id, cureRun.traceId))
        .where(of(cureRun))
        .orderBy(asc(cureRun.at)),
      sensors: await this.sensors.ofJob(tables, row),
      sessions: await this.stand.ofJob(tables, row),
      loadRuns: await tables
        .select({ run: loadRun, trace, simulated: instrument.simulated })
        .from(loadRun)
        .leftJoin(trace, eq(trace.id, loadRun.traceId))
        .leftJoin(instrument, eq(instrument.id, loadRun.instrumentId))
        .where(of(loadRun))
        .orderBy(asc(loadRun.at), asc(loadRun.id)),
      balances: await tables.select().from(balanceRun).where(of(balanceRun)).orderBy(asc(balanceRun.at)),
      files: await tables.select().from(attachment).where(of(attachment)).orderBy(asc(attachment.at)),
      reports: await tables.select().from(report).where(of(report)).orderBy(asc(report.revision)),
      events: await tables.select().from(auditEvent).where(of(auditEvent)).orderBy(asc(auditEvent.id)),
      taken: await tables
        .select({ entry: stockEntry, lot: stockLot })
        .from(stockEntry)
        .innerJoin(stockLot, eq(stockLot.id, stockEntry.lotId))
        .where(of(stockEntry))
        .orderBy(asc(stockEntry.id)),
    };
  }

  async addSheets(
    tx: Transaction,
    jobId: string,
    file: Pick<JobFile, 'material' | 'joints' | 'failures'>,
  ): Promise<void> {
    for (const bill of file.material) await tx.insert(materialSheet).values({ jobId, ...bill });
    for (const sheet of file.joints) await tx.insert(jointSheet).values({ jobId, ...sheet });
    for (const { person, at, ...f } of file.failures)
      await tx.insert(failureRecord).values({ jobId, ...f, personName: person, at: new Date(at) });
  }

  /** Pieces of the job, by ordinal. */
  async addUnits(tx: Transaction, jobId: string, units: JobFile['units']): Promise<Map<number, string>> {
    const made = new Map<number, string>();
    for (let i = 0; i < units.length; i += 5000) {
      const rows = await tx
        .insert(unit)
        .values(units.slice(i, i + 5000).map(({ ordinal, serial }) => ({ jobId, ordinal, serial })))
        .returning({ id: unit.id, ordinal: unit.ordinal });
      for (const u of rows) made.set(u.ordinal, u.id);
    }
    const marks = units.flatMap((u) => {
      const unitId = made.get(u.ordinal);
      return unitId === undefined
        ? []
        : u.steps.map(({ code, at }) => ({ unitId, code, state: 'passed' as const, changedAt: new Date(at) }));
    });
    for (let i = 0; i < marks.length; i += 5000) await tx.insert(unitStep).values(marks.slice(i, i + 5000));
    return made;
  }

  async addLoadRun(tx: Transaction, values: typeof loadRun.$inferInsert): Promise<void> {
    await tx.insert(loadRun).values(values);
  }

  async addStep(tx: Transaction, values: typeof routeStep.$inferInsert): Promise<void> {
    await tx.insert(routeStep).values(values);
  }

  async addAttempt(tx: Transaction, values: typeof stepAttempt.$inferInsert): Promise<string> {
    const [made] = await tx.insert(stepAttempt).values(values).returning({ id: stepAttempt.id });
    if (!made) throw new Error('attempt not stored');
    return made.id;
  }

  /** Who worked at an attempt, as the file says. */
  async addSpells(
    tx: Transaction,
    jobId: string,
    attemptId: string,
    spells: JobFile['steps'][number]['attempts'][number]['spells'],
  ): Promise<void> {
    if (spells.length === 0) return;
    await tx.insert(stepSpell).values(
      spells.map((s) => ({
        jobId,
        attemptId,
        personId: s.personId,
        personName: s.person,
        startedAt: new Date(s.from),
        endedAt: s.to === null ? null : new Date(s.to),
        ended: s.ended,
        handedTo: s.handedTo,
      })),
    );
  }

  /** Of some readings those that this Norther has already. */
  async knownTests(tx: Transaction, ids: readonly string[]): Promise<string[]> {
    if (ids.length === 0) return [];
    const known = await tx
      .select({ id: testRun.id })
      .from(testRun)
      .where(inArray(testRun.id, [...ids]));
    return known.map((k) => k.id);
  }

  async addReport(tx: Transaction, values: typeof report.$inferInsert): Promise<void> {
    await tx.insert(report).values(values);
  }

  async addEvent(tx: Transaction, values: typeof auditEvent.$inferInsert): Promise<void> {
    await tx.insert(auditEvent).values(values);
  }

  /**
   * Lots the job took from come with it, so that what is in the motor can be traced here too: each with what was taken, and nothing
   * left. A lot this shop has already under that number is not touched. Gives the lots that could not be brought.
   */
  async addStock(tx: Transaction, jobId: string, stock: JobFile['stock']): Promise<string[]> {
    const notTraced: string[] = [];
    for (const { lot, what, unit, entries } of stock) {
      const [fresh] = await tx
        .insert(stockLot)
        .values({ lot, what, unit, note: BROUGHT })
        .onConflictDoNothing()
        .returning({ id: stockLot.id });
      // several jobs of that other shop may have taken from one lot
      const [made] = fresh
        ? [fresh]
        : await tx
            .select({ id: stockLot.id })
            .from(stockLot)
            .where(and(eq(stockLot.lot, lot), eq(stockLot.unit, unit), eq(stockLot.note, BROUGHT)));
      if (!made) {
        notTraced.push(lot);
        continue;
      }
      const out = entries.reduce(
        (n, e) => n + (e.kind === 'used' ? e.quantity : e.kind === 'returned' ? -e.quantity : 0),
        0,
      );
      const first = entries[0];
      if (out > 0 && first)
        await tx.insert(stockEntry).values({
          lotId: made.id,
          kind: 'received',
          quantity: out,
          reason: 'used elsewhere before it came here',
          personName: first.person,
          at: new Date(first.at),
        });
      for (const { person, at, ...e } of entries)
        await tx.insert(stockEntry).values({ ...e, lotId: made.id, jobId, personName: person, at: new Date(at) });
    }
    return notTraced;
  }
}
