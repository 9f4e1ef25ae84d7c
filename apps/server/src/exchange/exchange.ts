import { randomUUID } from 'node:crypto';
import { jobFileSchema, type JobFile } from '@norther/contracts';
import {
  chunksOf,
  familyOf,
  METRIC_DEFAULTS,
  sentenceOfIssue,
  type Nameplate,
  type ReadingDefaults,
  type Samples,
} from '@norther/core';
import { Inject, Injectable } from '@nestjs/common';
import { and, asc, type Column, eq, inArray } from 'drizzle-orm';
import { now } from '../clock/clock.ts';
import type { Transaction } from '../database/database.ts';
import {
  attachment,
  auditEvent,
  balanceRun,
  cureRun,
  customer,
  job,
  jointSheet,
  materialSheet,
  report,
  routeStep,
  stepAttempt,
  stockEntry,
  stockLot,
  testRun,
  trace,
  windingRecord,
} from '../database/schema.ts';
import { type Act, Writes } from '../database/writes.ts';
import { kindOf, MOST_FILE_BYTES } from '../files/filesController.ts';
import { customerOf, motorFor } from '../job/jobs.ts';
import { ReadJob, withRoles } from '../job/readJob.ts';
import { measuredByBalance, measuredByStep, measuredByTest, partOf } from '../measurement/measured.ts';
import { addMeasurements } from '../measurement/addMeasurements.ts';
import { badField, Problem } from '../problem/problem.ts';
import { Shop } from '../shop/shop.ts';
import { column, unpack } from '../trace/packing.ts';
import { addTrace } from '../trace/addTrace.ts';
import { TraceRepository } from '../trace/traceRepository.ts';

/** What is noted of a lot that is known only from jobs brought in. */
const BROUGHT = 'came with a job of another Norther';

/** A job as a file, out and in again: same records, readings, verdicts, documents, with authors as names. */
@Injectable()
export class Exchange {
  readonly writes: Writes;
  readonly read: ReadJob;
  readonly shop: Shop;
  readonly traces: TraceRepository;
  constructor(
    @Inject(Writes) writes: Writes,
    @Inject(ReadJob) read: ReadJob,
    @Inject(Shop) shop: Shop,
    @Inject(TraceRepository) traces: TraceRepository,
  ) {
    this.writes = writes;
    this.read = read;
    this.shop = shop;
    this.traces = traces;
  }

  async json(number: string): Promise<JobFile> {
    return this.read.database.reading(async (tables) => {
      const row = await this.read.row(number, tables);
      const of = <T extends { jobId: Column }>(table: T) => eq(table.jobId, row.id);
      const [owner] = await tables.select().from(customer).where(eq(customer.id, row.customerId));
      const { settings } = await this.shop.view(tables);
      const detail = await this.read.detailWith(tables, number);
      const windings = await this.read.windingRevisions(row, tables);
      const sheets = await tables.select().from(jointSheet).where(of(jointSheet)).orderBy(jointSheet.part);
      const bills = await tables.select().from(materialSheet).where(of(materialSheet)).orderBy(materialSheet.part);
      const tests = await tables
        .select()
        .from(testRun)
        .where(of(testRun))
        .orderBy(asc(testRun.takenAt), asc(testRun.id));
      const cures = await tables
        .select()
        .from(cureRun)
        .innerJoin(trace, eq(trace.id, cureRun.traceId))
        .where(of(cureRun))
        .orderBy(asc(cureRun.at));
      const logs = new Map<string, Samples>();
      for (const { trace: t } of cures)
        logs.set(t.id, unpack(await this.traces.chunks(tables, t.id), t.channels.length));
      const balances = await tables.select().from(balanceRun).where(of(balanceRun)).orderBy(asc(balanceRun.at));
      const files = await tables.select().from(attachment).where(of(attachment)).orderBy(asc(attachment.at));
      const reports = await tables.select().from(report).where(of(report)).orderBy(asc(report.revision));
      const events = await tables.select().from(auditEvent).where(of(auditEvent)).orderBy(asc(auditEvent.id));
      const taken = await tables
        .select({ entry: stockEntry, lot: stockLot })
        .from(stockEntry)
        .innerJoin(stockLot, eq(stockLot.id, stockEntry.lotId))
        .where(of(stockEntry))
        .orderBy(asc(stockEntry.id));
      const lots = [...new Map(taken.map((t) => [t.lot.id, t.lot])).values()];
      return jobFileSchema.parse({
        format: 'norther-job',
        formatVersion: 1,
        exportedAt: now().toISOString(),
        shop: settings.name,
        job: {
          number,
          what: row.what,
          customer: owner?.name ?? '',
          route: row.route,
          impregnation: row.impregnation,
          priority: row.priority,
          promised: row.promised,
          takenInAt: row.takenInAt.toISOString(),
          closedAt: row.closedAt?.toISOString() ?? null,
          nameplateTyped: row.nameplateTyped,
          nameplate: row.nameplate,
          readWith: row.readWith,
          intake: row.intake,
        },
        windings: [...windings].reverse(),
        joints: sheets,
        material: bills,
        steps: detail.detailSteps.map(({ code, state, changedAt, waived, notes, attempts }) => ({
          code,
          state,
          changedAt,
          waived,
          notes,
          attempts: attempts.map(({ id: _id, ...a }) => a),
        })),
        tests: tests.map((t) => ({ ...t, person: t.personName, takenAt: t.takenAt.toISOString() })),
        cures: cures.map(({ cure_run: c, trace: t }) => ({
          ...c,
          timesMin: Array.from(logs.get(t.id)?.x ?? [], (x) => (t.xUnit === 's' ? x / 60 : x)),
          channels: withRoles(t.channels, c.result).map(({ name, role }, i) => ({
            name,
            role,
            valuesC: Array.from(logs.get(t.id)?.values[i] ?? [], (v) => (Number.isNaN(v) ? null : v)),
          })),
          person: c.personName,
          at: c.at.toISOString(),
        })),
        balances: balances.map((b) => ({ ...b, person: b.personName, at: b.at.toISOString() })),
        attachments: files.map((f) => ({
          name: f.name,
          mediaType: f.mediaType,
          base64: f.content.toString('base64'),
          person: f.personName,
          at: f.at.toISOString(),
        })),
        reports: reports.map((r) => ({
          revision: r.revision,
          base64: r.content?.toString('base64') ?? null,
          sha256: r.sha256,
          source: r.source,
          person: r.personName,
          at: r.at.toISOString(),
        })),
        stock: lots.map((l) => ({
          lot: l.lot,
          what: l.what,
          unit: l.unit,
          entries: taken
            .filter((t) => t.lot.id === l.id)
            .map(({ entry: e }) => ({ ...e, person: e.personName, at: e.at.toISOString() })),
        })),
        // that it was brought in belongs to this shop, not to the job
        history: events
          .filter((e) => e.action !== 'job.import')
          .map((e) => ({ ...e, person: e.personName, at: e.at.toISOString() })),
      });
    });
  }

  async bring(act: Act, raw: unknown): Promise<{ number: string }> {
    const parsed = jobFileSchema.safeParse(raw);
    if (!parsed.success) {
      const issue = parsed.error.issues[0];
      throw badField(
        issue?.path.join('.') ?? 'file',
        `This is not a job file of Norther: ${issue?.path.join('.') || 'the file'}: ${issue ? sentenceOfIssue(issue) : 'not readable.'}`,
      );
    }
    const file = parsed.data;
    for (const a of file.attachments) {
      const content = Buffer.from(a.base64, 'base64');
      if (content.length > MOST_FILE_BYTES || kindOf(content) !== a.mediaType)
        throw badField('attachments', `The file ${a.name} is too large or not what it says.`);
    }
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const [taken] = await tx.select({ id: job.id }).from(job).where(eq(job.number, file.job.number));
      if (taken)
        throw new Problem(
          409,
          'Exists already',
          `Job ${file.job.number} is in this Norther already; nothing was changed.`,
        );
      const customerId = await customerOf(tx, undefined, file.job.customer);
      const { serial } = file.job.nameplate;
      const motorId = await motorFor(tx, customerId, typeof serial === 'string' ? serial : undefined);
      const [row] = await tx
        .insert(job)
        .values({
          number: file.job.number,
          motorId,
          customerId,
          nameplateTyped: file.job.nameplateTyped,
          nameplate: file.job.nameplate,
          family: familyOf(file.job.nameplate as Nameplate) ?? null,
          readWith: file.job.readWith,
          what: file.job.what,
          came: file.job.intake.came,
          quantity: file.job.intake.quantity,
          intake: file.job.intake,
          route: file.job.route,
          impregnation: file.job.impregnation,
          priority: file.job.priority,
          promised: file.job.promised,
          takenInAt: new Date(file.job.takenInAt),
          closedAt: file.job.closedAt ? new Date(file.job.closedAt) : null,
          importedFrom: file.shop,
        })
        .returning();
      if (!row) throw new Error('job not stored');
      const jobId = row.id;
      const defaults = { ...METRIC_DEFAULTS, ...file.job.readWith } as ReadingDefaults;
      for (const w of file.windings)
        await tx.insert(windingRecord).values({
          jobId,
          part: w.part,
          role: w.role,
          revision: w.revision,
          typed: w.typed,
          record: w.record,
          readWith: w.readWith,
          reason: w.reason,
          personName: w.person,
          at: new Date(w.at),
          released: w.released,
          redesign: w.redesign,
        });
      for (const bill of file.material) await tx.insert(materialSheet).values({ jobId, ...bill });
      for (const sheet of file.joints) await tx.insert(jointSheet).values({ jobId, ...sheet });
      for (const s of file.steps) {
        await tx.insert(routeStep).values({
          jobId,
          code: s.code,
          state: s.state,
          changedAt: s.changedAt ? new Date(s.changedAt) : null,
          waived: s.waived,
          notes: s.notes,
        });
        for (const a of s.attempts) {
          const [attempt] = await tx
            .insert(stepAttempt)
            .values({
              jobId,
              code: s.code,
              number: a.number,
              startedBy: a.startedBy,
              startedAt: new Date(a.startedAt),
              override: a.override,
              finishedBy: a.finishedBy,
              finishedAt: a.finishedAt ? new Date(a.finishedAt) : null,
              typed: a.typed,
              values: a.values,
              verdict: a.verdict,
              reason: a.reason,
              signed: a.signed,
            })
            .returning({ id: stepAttempt.id });
          if (attempt && a.finishedAt)
            await addMeasurements(
              tx,
              {
                jobId,
                source: 'step',
                sourceId: attempt.id,
                part: partOf(s.code),
                at: new Date(a.finishedAt),
                personName: a.finishedBy,
                verdict: a.verdict,
              },
              measuredByStep({ ...a, code: s.code }, defaults),
            );
        }
      }
      // a reading keeps its id, unless this Norther has it already
      const known = file.tests.length
        ? await tx
            .select({ id: testRun.id })
            .from(testRun)
            .where(
              inArray(
                testRun.id,
                file.tests.map((t) => t.id),
              ),
            )
        : [];
      const renamed = new Map(known.map(({ id }) => [id, randomUUID()]));
      const idOf = (id: string) => renamed.get(id) ?? id;
      const waiting = [...file.tests];
      const stored = new Set<string>();
      while (waiting.length > 0) {
        const next = waiting.findIndex((t) => t.supersedes === null || stored.has(t.supersedes));
        const [t] = waiting.splice(Math.max(0, next), 1);
        if (!t || next < 0) throw badField('tests', 'A corrected reading in this file refers to one that is missing.');
        await tx.insert(testRun).values({
          id: idOf(t.id),
          jobId,
          stage: t.stage,
          kind: t.kind,
          typed: t.typed,
          values: t.values,
          calculation: t.calculation,
          calculationVersion: t.calculationVersion,
          limits: t.limits,
          verdict: t.verdict,
          reason: t.reason,
          result: t.result ?? null,
          personName: t.person,
          takenAt: new Date(t.takenAt),
          supersedes: t.supersedes === null ? null : idOf(t.supersedes),
          correctionReason: t.correctionReason,
          signed: t.signed,
        });
        await addMeasurements(
          tx,
          {
            jobId,
            source: 'test',
            sourceId: idOf(t.id),
            stage: t.stage,
            at: new Date(t.takenAt),
            personName: t.person,
            verdict: t.verdict,
          },
          measuredByTest(t, defaults),
        );
        stored.add(t.id);
      }
      for (const { person, at, timesMin, channels, ...c } of file.cures)
        await tx.insert(cureRun).values({
          ...c,
          jobId,
          traceId: await addTrace(
            tx,
            {
              jobId,
              part: 'stator',
              what: 'oven',
              channels: channels.map(({ name, role }) => ({ name, unit: '°C', role })),
              xUnit: 'min',
              source: 'file',
              sourceName: c.fileName,
              at: new Date(at),
              endedAt: new Date(at),
            },
            chunksOf({ x: Float64Array.from(timesMin), values: channels.map((ch) => column(ch.valuesC)) }),
          ),
          calculation: c.calculation ?? c.result.id,
          calculationVersion: c.calculationVersion ?? c.result.version,
          personName: person,
          at: new Date(at),
        });
      for (const { person, at, ...b } of file.balances) {
        const [run] = await tx
          .insert(balanceRun)
          .values({
            ...b,
            jobId,
            calculation: b.calculation ?? b.result.id,
            calculationVersion: b.calculationVersion ?? b.result.version,
            personName: person,
            at: new Date(at),
          })
          .returning({ id: balanceRun.id });
        if (run)
          await addMeasurements(
            tx,
            {
              jobId,
              source: 'balance',
              sourceId: run.id,
              at: new Date(at),
              personName: person,
              verdict: b.verdict,
            },
            measuredByBalance(b, defaults),
          );
      }
      for (const a of file.attachments) {
        const content = Buffer.from(a.base64, 'base64');
        await tx.insert(attachment).values({
          jobId,
          name: a.name,
          mediaType: a.mediaType,
          bytes: content.length,
          content,
          personName: a.person,
          at: new Date(a.at),
        });
      }
      for (const r of file.reports)
        await tx.insert(report).values({
          jobId,
          revision: r.revision,
          content: r.base64 === null ? null : Buffer.from(r.base64, 'base64'),
          sha256: r.sha256,
          source: r.source,
          personName: r.person,
          at: new Date(r.at),
        });
      const notTraced = await this.bringStock(tx, jobId, file.stock);
      for (const { person, at, ...e } of file.history)
        await tx.insert(auditEvent).values({ ...e, jobId, personName: person, at: new Date(at) });
      await audit({
        action: 'job.import',
        jobId,
        summary: `${file.job.number} brought in from ${file.shop}${notTraced.length > 0 ? `; this shop has lots ${notTraced.join(', ')} of its own, what the job took of them is in its file only` : ''}`,
      });
      await tell(`job:${file.job.number}`);
      return { number: file.job.number };
    });
  }

  /**
   * Lots the job took from come with it, so that what is in the motor can be traced here too: each with what was taken, and nothing
   * left. A lot this shop has already under that number is not touched.
   */
  private async bringStock(tx: Transaction, jobId: string, stock: JobFile['stock']): Promise<string[]> {
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
