import { randomUUID } from 'node:crypto';
import { jobFileSchema, type JobFile } from '@norther/contracts';
import {
  chunksOf,
  familyOf,
  FIRST_PART,
  METRIC_DEFAULTS,
  PART_KINDS,
  partOnRail,
  partsTakenIn,
  recordOfBefore,
  ROUTES,
  type PartKind,
  sentenceOfIssue,
  type ReadingDefaults,
  type Samples,
} from '@norther/core';
import { Inject, Injectable } from '@nestjs/common';
import { type Act, Writes } from '../database/writes.ts';
import { EvaluationRepository } from '../evaluate/evaluationRepository.ts';
import { FileRepository } from '../files/fileRepository.ts';
import { kindOf, MOST_FILE_BYTES } from '../files/files.ts';
import { JobRepository } from '../job/jobRepository.ts';
import { ReadJob } from '../job/readJob.ts';
import { measuredByBalance, measuredByStep, measuredByTest, partOfStep } from '../measurement/measured.ts';
import { MeasurementRepository } from '../measurement/measurementRepository.ts';
import { badField, Problem } from '../problem/problem.ts';
import { Shop } from '../shop/shop.ts';
import { column, unpack } from '../trace/packing.ts';
import { TraceRepository } from '../trace/traceRepository.ts';
import { bringLoadRuns, bringSessions, bringTestTraces } from './bringRecords.ts';
import { addTrace } from '../trace/traceStatements.ts';
import { WindingRepository } from '../winding/windingRepository.ts';
import { ExchangeRepository } from './exchangeRepository.ts';
import { jobFileOf } from './jobFile.ts';

/** A job as a file, out and in again: same records, readings, verdicts, documents, with authors as names. */
@Injectable()
export class Exchange {
  readonly writes: Writes;
  readonly read: ReadJob;
  readonly shop: Shop;
  readonly traces: TraceRepository;
  readonly jobs: JobRepository;
  readonly records: WindingRepository;
  readonly runs: EvaluationRepository;
  readonly files: FileRepository;
  readonly measurements: MeasurementRepository;
  readonly whole: ExchangeRepository;
  constructor(
    @Inject(Writes) writes: Writes,
    @Inject(ReadJob) read: ReadJob,
    @Inject(Shop) shop: Shop,
    @Inject(TraceRepository) traces: TraceRepository,
    @Inject(JobRepository) jobs: JobRepository,
    @Inject(WindingRepository) records: WindingRepository,
    @Inject(EvaluationRepository) runs: EvaluationRepository,
    @Inject(FileRepository) files: FileRepository,
    @Inject(MeasurementRepository) measurements: MeasurementRepository,
    @Inject(ExchangeRepository) whole: ExchangeRepository,
  ) {
    this.writes = writes;
    this.read = read;
    this.shop = shop;
    this.traces = traces;
    this.jobs = jobs;
    this.records = records;
    this.runs = runs;
    this.files = files;
    this.measurements = measurements;
    this.whole = whole;
  }

  async json(number: string): Promise<JobFile> {
    return this.read.database.reading(async (tables) => {
      const row = await this.read.row(number, tables);
      const { settings } = await this.shop.view(tables);
      const rows = await this.whole.read(row, tables);
      const logs = new Map<string, Samples>();
      for (const { trace: t } of [...rows.cures, ...rows.testTraces, ...rows.loadRuns])
        if (t && !logs.has(t.id)) logs.set(t.id, unpack(await this.traces.chunks(tables, t.id), t.channels.length));
      return jobFileOf({
        row,
        shop: settings.name,
        customer: await this.jobs.customerName(row.customerId, tables),
        detail: await this.read.detailWith(tables, number),
        windings: await this.read.windingRevisions(row, tables),
        rows,
        logs,
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
      if (await this.jobs.exists(file.job.number, tx))
        throw new Problem(
          409,
          'Exists already',
          `Job ${file.job.number} is in this Norther already; nothing was changed.`,
        );
      const customerId = await this.jobs.customerOf(tx, undefined, file.job.customer);
      const { serial } = file.job.nameplate;
      const motorId = await this.jobs.motorFor(tx, customerId, serial);
      const row = await this.jobs.add(tx, {
        number: file.job.number,
        motorId,
        customerId,
        nameplateTyped: file.job.nameplateTyped,
        nameplate: file.job.nameplate,
        family: familyOf(file.job.nameplate) ?? null,
        readWith: file.job.readWith,
        what: file.job.what,
        came: file.job.intake.came,
        quantity: file.job.intake.quantity,
        intake: file.job.intake,
        route: file.job.route,
        impregnation: file.job.impregnation,
        ownRoute: file.job.ownRoute,
        priority: file.job.priority,
        promised: file.job.promised,
        takenInAt: new Date(file.job.takenInAt),
        closedAt: file.job.closedAt ? new Date(file.job.closedAt) : null,
        importedFrom: file.shop,
      });
      const jobId = row.id;
      // files of before say the parts by what came and by their windings
      const taken = partsTakenIn(ROUTES[row.route].parts, row.came, row.nameplate);
      const wound = file.windings.map((w) => w.part);
      const said = file.parts.length > 0 ? file.parts : [...taken, ...wound];
      const isWound = said.includes('wound-rotor');
      const parts = PART_KINDS.filter(
        (kind) => said.includes(kind) && !(isWound && kind === 'cage-rotor' && file.parts.length === 0),
      );
      await this.jobs.addParts(tx, row, parts);
      const units = await this.whole.addUnits(tx, jobId, file.units);
      const unitOf = (ordinal: number | null): string | null => {
        const id = ordinal === null ? null : units.get(ordinal);
        if (id === undefined)
          throw badField('units', `A reading in this file is of piece ${ordinal}, which is missing.`);
        return id;
      };
      const partOn = (rail: 'stator' | 'rotor', named: PartKind | undefined): PartKind =>
        named ?? partOnRail(parts, rail) ?? parts[0] ?? FIRST_PART;
      const defaults = { ...METRIC_DEFAULTS, ...file.job.readWith } as ReadingDefaults;
      for (const w of file.windings)
        await this.records.add(tx, {
          jobId,
          part: w.part,
          role: w.role,
          revision: w.revision,
          typed: w.typed,
          record: recordOfBefore(w.record),
          readWith: w.readWith,
          reason: w.reason,
          personName: w.person,
          at: new Date(w.at),
          released: w.released,
          redesign: w.redesign,
        });
      await this.whole.addSheets(tx, jobId, file);
      for (const s of file.steps) {
        await this.whole.addStep(tx, {
          jobId,
          code: s.code,
          state: s.state,
          changedAt: s.changedAt ? new Date(s.changedAt) : null,
          waived: s.waived,
          notes: s.notes,
        });
        for (const a of s.attempts) {
          const attemptId = await this.whole.addAttempt(tx, {
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
          await this.whole.addSpells(tx, jobId, attemptId, a.spells);
          if (a.finishedAt)
            await this.measurements.add(
              tx,
              {
                jobId,
                source: 'step',
                sourceId: attemptId,
                part: partOfStep(s.code, parts),
                at: new Date(a.finishedAt),
                personName: a.finishedBy,
                verdict: a.verdict,
              },
              measuredByStep({ ...a, code: s.code }, defaults),
            );
        }
      }
      // a reading keeps its id, unless this Norther has it already
      const known = await this.whole.knownTests(
        tx,
        file.tests.map((t) => t.id),
      );
      const renamed = new Map(known.map((id) => [id, randomUUID()]));
      const idOf = (id: string) => renamed.get(id) ?? id;
      const waiting = [...file.tests];
      const stored = new Set<string>();
      const tracesOf = new Map<string, readonly string[]>();
      while (waiting.length > 0) {
        const next = waiting.findIndex((t) => t.supersedes === null || stored.has(t.supersedes));
        const [t] = waiting.splice(Math.max(0, next), 1);
        if (!t || next < 0) throw badField('tests', 'A corrected reading in this file refers to one that is missing.');
        await this.runs.addTest(tx, {
          id: idOf(t.id),
          jobId,
          part: partOn('stator', t.part),
          unitId: unitOf(t.unit),
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
          override: t.override,
          lesser: t.lesser,
        });
        tracesOf.set(
          t.id,
          await bringTestTraces(this.runs, tx, { jobId, testId: idOf(t.id), part: partOn('stator', t.part) }, t.traces),
        );
        await this.measurements.add(
          tx,
          {
            jobId,
            source: 'test',
            sourceId: idOf(t.id),
            stage: t.stage,
            part: partOn('stator', t.part),
            unitId: unitOf(t.unit),
            at: new Date(t.takenAt),
            personName: t.person,
            verdict: t.verdict,
          },
          measuredByTest(t, defaults),
        );
        stored.add(t.id);
      }
      await bringLoadRuns(this.whole, tx, file.loadRuns, { jobId, tracesOf });
      for (const { person, at, readings, ...s } of file.sensors) {
        const sensorId = await this.whole.sensors.add(tx, {
          ...s,
          jobId,
          part: partOn('stator', s.part),
          personName: person,
          at: new Date(at),
        });
        for (const { person: by, at: when, ...r } of readings)
          await this.whole.sensors.addReading(tx, { ...r, sensorId, personName: by, at: new Date(when) });
      }
      for (const { person, at, timesMin, channels, source, startAt, ...c } of file.cures)
        await this.runs.addCure(tx, {
          ...c,
          jobId,
          part: partOn('stator', c.part),
          traceId: await addTrace(
            tx,
            {
              jobId,
              part: 'stator',
              what: 'oven',
              channels: channels.map(({ name, role }) => ({ name, unit: '°C', role })),
              xUnit: 'min',
              source,
              sourceName: c.fileName,
              startAt: startAt === null ? null : new Date(startAt),
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
      const balanceIds: string[] = [];
      for (const { person, at, unit, ...b } of file.balances) {
        const runId = await this.runs.addBalance(tx, {
          ...b,
          jobId,
          part: partOn('rotor', b.part),
          unitId: unitOf(unit),
          calculation: b.calculation ?? b.result.id,
          calculationVersion: b.calculationVersion ?? b.result.version,
          personName: person,
          at: new Date(at),
        });
        balanceIds.push(runId);
        await this.measurements.add(
          tx,
          {
            jobId,
            source: 'balance',
            sourceId: runId,
            part: partOn('rotor', b.part),
            unitId: unitOf(unit),
            at: new Date(at),
            personName: person,
            verdict: b.verdict,
          },
          measuredByBalance(b, defaults),
        );
      }
      await bringSessions(this.whole.stand, tx, file.balanceSessions, { jobId, balanceIds, partOn, unitOf });
      for (const a of file.attachments) {
        const content = Buffer.from(a.base64, 'base64');
        await this.files.add(tx, {
          jobId,
          name: a.name,
          mediaType: a.mediaType,
          bytes: content.length,
          content,
          code: a.step,
          personName: a.person,
          at: new Date(a.at),
        });
      }
      for (const r of file.reports)
        await this.whole.addReport(tx, {
          jobId,
          revision: r.revision,
          content: r.base64 === null ? null : Buffer.from(r.base64, 'base64'),
          sha256: r.sha256,
          source: r.source,
          personName: r.person,
          at: new Date(r.at),
        });
      const notTraced = await this.whole.addStock(tx, jobId, file.stock);
      for (const { person, at, ...e } of file.history)
        await this.whole.addEvent(tx, { ...e, jobId, personName: person, at: new Date(at) });
      await audit({
        action: 'job.import',
        jobId,
        summary: `${file.job.number} brought in from ${file.shop}${notTraced.length > 0 ? `; this shop has lots ${notTraced.join(', ')} of its own, what the job took of them is in its file only` : ''}`,
      });
      await tell(`job:${file.job.number}`);
      return { number: file.job.number };
    });
  }
}
