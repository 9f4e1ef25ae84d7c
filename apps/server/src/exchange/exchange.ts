import { formatNumber, operation, TEST_STAGE_TITLES, testKind, type TestStage, type WindingPart } from '@norther/core';
import { jobFileSchema, type JobFile } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import { asc, eq, sql } from 'drizzle-orm';
import Papa from 'papaparse';
import {
  attachment,
  balanceRun,
  cureRun,
  customer,
  job,
  motor,
  report,
  jointSheet,
  materialSheet,
  routeStep,
  stepAttempt,
  testRun,
  windingRecord,
} from '../database/schema.ts';
import { type Act, Writes } from '../database/writes.ts';
import { kindOf } from '../files/filesController.ts';
import { ReadJob } from '../job/readJob.ts';
import { badField, Problem } from '../problem/problem.ts';
import { Shop } from '../shop/shop.ts';

/** A job as a file, out and in again: same records, readings, verdicts, documents, with authors as names. */
@Injectable()
export class Exchange {
  readonly writes: Writes;
  readonly read: ReadJob;
  readonly shop: Shop;
  constructor(@Inject(Writes) writes: Writes, @Inject(ReadJob) read: ReadJob, @Inject(Shop) shop: Shop) {
    this.writes = writes;
    this.read = read;
    this.shop = shop;
  }

  async json(number: string): Promise<JobFile> {
    const tables = this.read.database.tables;
    const row = await this.read.row(number);
    const m = await this.read.motorOf(row);
    const [owner] = await tables.select().from(customer).where(eq(customer.id, m.customerId));
    const { settings } = await this.shop.view();
    const detail = await this.read.detail(number);
    const sheets = await tables.select().from(jointSheet).where(eq(jointSheet.jobId, row.id));
    const bills = await tables.select().from(materialSheet).where(eq(materialSheet.jobId, row.id));
    const [tests, cures, balances, files, reports] = await Promise.all([
      tables.select().from(testRun).where(eq(testRun.jobId, row.id)).orderBy(asc(testRun.takenAt)),
      tables.select().from(cureRun).where(eq(cureRun.jobId, row.id)).orderBy(asc(cureRun.at)),
      tables.select().from(balanceRun).where(eq(balanceRun.jobId, row.id)).orderBy(asc(balanceRun.at)),
      tables.select().from(attachment).where(eq(attachment.jobId, row.id)).orderBy(asc(attachment.at)),
      tables.select().from(report).where(eq(report.jobId, row.id)).orderBy(asc(report.revision)),
    ]);
    return jobFileSchema.parse({
      format: 'norther-job',
      formatVersion: 1,
      exportedAt: new Date().toISOString(),
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
        nameplateTyped: m.nameplateTyped,
        nameplate: m.nameplate,
        readWith: m.readWith,
        intake: row.intake,
      },
      windings: [...detail.windingRevisions].reverse(),
      joints: sheets.map(({ part, order, ticks, asMade }) => ({
        part: part as WindingPart,
        order,
        ticks: ticks as Record<string, unknown>,
        asMade,
      })),
      material: bills.map(({ part, typed, lists }) => ({
        part: part as WindingPart,
        typed: typed as Record<string, string>,
        lists: lists as Record<string, unknown> | null,
      })),
      steps: detail.detailSteps.map(({ code, state, changedAt, waived, notes, attempts }) => ({
        code,
        state,
        changedAt,
        waived,
        notes,
        attempts: attempts.map(({ id: _id, ...a }) => a),
      })),
      tests: tests.map((t) => ({ ...t, person: t.personName, takenAt: t.takenAt.toISOString() })),
      cures: cures.map((c) => ({ ...c, person: c.personName, at: c.at.toISOString() })),
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
        base64: r.content.toString('base64'),
        sha256: r.sha256,
        person: r.personName,
        at: r.at.toISOString(),
      })),
    });
  }

  /** One row a fact: what, where it belongs, value, verdict, who, when. For a spreadsheet. */
  async csv(number: string): Promise<string> {
    const detail = await this.read.detail(number);
    const rows: Record<string, string>[] = [];
    const push = (section: string, item: string, field: string, value: string, verdict = '', person = '', at = '') =>
      rows.push({ section, item, field, value, verdict, person, at });
    push('job', number, 'what', detail.what);
    push('job', number, 'customer', detail.customer);
    for (const [f, v] of Object.entries(detail.nameplateTyped)) push('nameplate', number, f, v);
    for (const w of [...detail.windingRevisions].reverse())
      for (const [f, v] of Object.entries(w.typed))
        push(
          `winding ${w.part === 'stator' ? '' : `${w.part} `}${w.role} ${w.revision}`,
          number,
          f,
          v,
          '',
          w.person,
          w.at,
        );
    for (const s of detail.detailSteps) {
      push('step', operation(s.code).title, 'state', s.state, '', '', s.changedAt ?? '');
      for (const a of s.attempts) {
        for (const [f, v] of Object.entries(a.typed))
          push(
            `step attempt ${a.number}`,
            operation(s.code).title,
            f,
            v,
            a.verdict ?? '',
            a.finishedBy ?? a.startedBy,
            a.finishedAt ?? '',
          );
        push(
          `step attempt ${a.number}`,
          operation(s.code).title,
          'reason',
          a.reason,
          a.verdict ?? '',
          a.finishedBy ?? a.startedBy,
          a.finishedAt ?? '',
        );
      }
    }
    for (const t of detail.tests) {
      const name = `${testKind(t.kind)?.title ?? t.kind}, ${TEST_STAGE_TITLES[t.stage as TestStage]}`;
      for (const [f, v] of Object.entries(t.typed))
        push(t.supersededBy ? 'test (corrected)' : 'test', name, f, v, t.verdict, t.person, t.takenAt);
      push('test', name, 'reason', t.reason, t.verdict, t.person, t.takenAt);
    }
    for (const c of detail.cures) {
      c.timesMin.forEach((t, i) =>
        c.channels.forEach((ch) =>
          push(
            'cure',
            `${c.fileName} ${ch.name} (${ch.role})`,
            `${formatNumber(t, 6)} min`,
            ch.valuesC[i] === null || ch.valuesC[i] === undefined ? '' : `${formatNumber(ch.valuesC[i], 6)} °C`,
            c.verdict,
            c.person,
            c.at,
          ),
        ),
      );
      push('cure', c.fileName, 'reason', c.reason, c.verdict, c.person, c.at);
    }
    for (const b of detail.balances) {
      for (const [f, v] of Object.entries(b.typed)) push('balance', number, f, v, b.verdict, b.person, b.at);
      push('balance', number, 'reason', b.reason, b.verdict, b.person, b.at);
    }
    for (const f of detail.attachments) push('file', f.name, f.mediaType, `${f.bytes} bytes`, '', f.person, f.at);
    return Papa.unparse(rows, { escapeFormulae: true });
  }

  async bring(act: Act, raw: unknown): Promise<{ number: string }> {
    const parsed = jobFileSchema.safeParse(raw);
    if (!parsed.success) {
      const issue = parsed.error.issues[0];
      throw badField(
        issue?.path.join('.') ?? 'file',
        `This is not a job file of Norther: ${issue?.path.join('.') || 'the file'} ${issue?.message ?? ''}.`,
      );
    }
    const file = parsed.data;
    for (const a of file.attachments) {
      const content = Buffer.from(a.base64, 'base64');
      if (content.length > 15 * 1024 * 1024 || kindOf(content) !== a.mediaType)
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
      await tx.insert(customer).values({ name: file.job.customer }).onConflictDoNothing();
      const [owner] = await tx
        .select({ id: customer.id })
        .from(customer)
        .where(sql`lower(${customer.name}) = lower(${file.job.customer})`);
      if (!owner) throw new Error('customer not stored');
      const serial = typeof file.job.nameplate['serial'] === 'string' ? file.job.nameplate['serial'] : null;
      const [m] = await tx
        .insert(motor)
        .values({
          customerId: owner.id,
          serial,
          nameplateTyped: file.job.nameplateTyped,
          nameplate: file.job.nameplate,
          readWith: file.job.readWith,
        })
        .returning({ id: motor.id });
      if (!m) throw new Error('motor not stored');
      const [row] = await tx
        .insert(job)
        .values({
          number: file.job.number,
          motorId: m.id,
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
          await tx.insert(stepAttempt).values({
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
          });
        }
      }
      const waiting = [...file.tests];
      const stored = new Set<string>();
      while (waiting.length > 0) {
        const next = waiting.findIndex((t) => t.supersedes === null || stored.has(t.supersedes));
        const [t] = waiting.splice(Math.max(0, next), 1);
        if (!t || next < 0) throw badField('tests', 'A corrected reading in this file refers to one that is missing.');
        await tx.insert(testRun).values({
          id: t.id,
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
          supersedes: t.supersedes,
          correctionReason: t.correctionReason,
          signed: t.signed,
        });
        stored.add(t.id);
      }
      for (const c of file.cures) {
        const made = c.result as { id?: string; version?: number } | null;
        await tx.insert(cureRun).values({
          jobId,
          fileName: c.fileName,
          resin: c.resin,
          limits: {},
          timesMin: c.timesMin,
          channels: c.channels,
          badRows: c.badRows,
          calculation: made?.id ?? 'process.cure',
          calculationVersion: made?.version ?? 1,
          verdict: c.verdict,
          reason: c.reason,
          result: c.result as object,
          personName: c.person,
          at: new Date(c.at),
        });
      }
      for (const b of file.balances) {
        const made = b.result as { id?: string; version?: number } | null;
        await tx.insert(balanceRun).values({
          jobId,
          typed: b.typed,
          values: b.values,
          limits: {},
          calculation: made?.id ?? 'balance.onePlane',
          calculationVersion: made?.version ?? 1,
          verdict: b.verdict,
          reason: b.reason,
          result: b.result as object,
          personName: b.person,
          at: new Date(b.at),
        });
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
          content: Buffer.from(r.base64, 'base64'),
          sha256: r.sha256,
          personName: r.person,
          at: new Date(r.at),
        });
      await audit({ action: 'job.import', jobId, summary: `${file.job.number} brought in from ${file.shop}` });
      await tell(`job:${file.job.number}`);
      return { number: file.job.number };
    });
  }
}
