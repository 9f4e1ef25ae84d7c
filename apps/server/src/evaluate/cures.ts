import type { CuredAnswer, cureBody, ShopSettings, traceCureBody } from '@norther/contracts';
import { bakeInTurn, operation, type Resin } from '@norther/core';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import type { Transaction } from '../database/database.ts';
import { type Act, type WriteUnit, Writes } from '../database/writes.ts';
import { JobRepository, type JobRow } from '../job/jobRepository.ts';
import { refuseClosed } from '../job/jobViews.ts';
import { partThatCame } from '../job/partThatCame.ts';
import { ReadJob } from '../job/readJob.ts';
import { badField } from '../problem/problem.ts';
import { Queue } from '../queue/queue.ts';
import { Shop } from '../shop/shop.ts';
import type { JudgedLog } from '../thread/work.ts';
import { WorkThread } from '../thread/workThread.ts';
import { Traces } from '../trace/traces.ts';
import { addTrace } from '../trace/traceStatements.ts';
import { EvaluationRepository } from './evaluationRepository.ts';

/** A log of more characters is read and judged in the background: it takes seconds of processor time. */
export const LONG_LOG = 2_000_000;

type Author = Pick<Act, 'actor' | 'at'>;
export interface JudgedCure {
  fileName: string;
  /** the bake that the log is of; the one in turn where it is not said */
  code?: string;
  reason?: string | undefined;
  resin: Resin;
  settings: Pick<ShopSettings, 'limits' | 'cureSchool'>;
  log: Omit<JudgedLog, 'channels' | 'chunks'>;
}

/** Cures: oven logs read from a file or sent by a logger, judged, and kept with the samples they were judged from. */
@Injectable()
export class Cures {
  readonly writes: Writes;
  readonly read: ReadJob;
  readonly shop: Shop;
  readonly thread: WorkThread;
  readonly traces: Traces;
  readonly runs: EvaluationRepository;
  readonly jobs: JobRepository;
  readonly queue: Queue;
  constructor(
    @Inject(Writes) writes: Writes,
    @Inject(ReadJob) read: ReadJob,
    @Inject(Shop) shop: Shop,
    @Inject(WorkThread) thread: WorkThread,
    @Inject(Traces) traces: Traces,
    @Inject(EvaluationRepository) runs: EvaluationRepository,
    @Inject(JobRepository) jobs: JobRepository,
    @Inject(Queue) queue: Queue,
  ) {
    this.writes = writes;
    this.read = read;
    this.shop = shop;
    this.thread = thread;
    this.traces = traces;
    this.runs = runs;
    this.jobs = jobs;
    this.queue = queue;
  }

  /** A cure from an oven log as a file; a long one is handed to the background. */
  async fromFile(act: Act, number: string, body: z.output<typeof cureBody>): Promise<CuredAnswer> {
    if (body.csv.length > LONG_LOG) return this.later(act, number, body);
    const keep = await this.judged(number, body);
    return this.writes.run(act, (unit) => keep(unit, act));
  }

  /** Reads and judges a log; gives what keeps it. */
  async judged(
    number: string,
    body: z.output<typeof cureBody>,
  ): Promise<(unit: WriteUnit, by: Author) => Promise<CuredAnswer>> {
    const settings = await this.shop.settings();
    const resin = resinOf(settings, body.resin);
    const log = await this.thread.do('ovenLog', {
      csv: body.csv,
      unit: body.unit,
      roles: body.roles,
      resin,
      settings: { limits: settings.limits, cureSchool: settings.cureSchool },
      maxGapMin: body.maxGapMin,
    });
    return (unit, by) =>
      this.keep(unit, by, number, { fileName: body.fileName, reason: body.reason, resin, settings, log }, (tx, jobId) =>
        addTrace(
          tx,
          {
            jobId,
            part: 'stator',
            what: 'oven',
            channels: log.channels,
            xUnit: 'min',
            source: 'file',
            sourceName: body.fileName,
            at: by.at,
            endedAt: by.at,
          },
          log.chunks,
        ),
      );
  }

  private async later(act: Act, number: string, body: z.output<typeof cureBody>): Promise<CuredAnswer> {
    resinOf(await this.shop.settings(), body.resin);
    const { actor } = act;
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const row = await this.read.row(number, tx, 'lock');
      refuseClosed(row);
      if (!body.reason && (await this.runs.lastCure(tx, row, await this.bakeOf(tx, row)))) throw unexplained();
      const work = await this.queue.enqueue(tx, {
        kind: 'ovenLog',
        data: { number, body, actor },
        personName: actor.name,
        jobId: row.id,
      });
      await audit({
        action: 'cure.ask',
        jobId: row.id,
        summary: `An oven log for ${number} is read in the background: ${body.fileName}`,
        after: { fileName: body.fileName, characters: body.csv.length },
      });
      await tell(`work:${work}`);
      return { work };
    });
  }

  /** The bake of a motor that a log counts for now. */
  private async bakeOf(tx: Transaction, row: JobRow): Promise<string> {
    return bakeInTurn(await this.read.steps(row, tx)) ?? 'CUR';
  }

  /** A cure from what a logger has sent; one load of the oven may count for several motors. */
  async fromTrace(act: Act, number: string, body: z.output<typeof traceCureBody>): Promise<CuredAnswer> {
    const settings = await this.shop.settings();
    const resin = resinOf(settings, body.resin);
    const { head, samples } = await this.traces.samples(body.traceId);
    if (head.what !== 'oven') throw badField('traceId', `This trace is of ${head.what}, not of an oven.`);
    if (!head.channels.every((c) => c.unit === '°C'))
      throw badField('traceId', 'A cure is judged from temperatures in °C; this trace has other units.');
    const log = await this.thread.do('ovenTrace', {
      timesMin: head.xUnit === 's' ? samples.x.map((s) => s / 60) : samples.x,
      names: head.channels.map((c) => c.name),
      values: [...samples.values],
      roles: body.roles,
      resin,
      settings: { limits: settings.limits, cureSchool: settings.cureSchool },
      maxGapMin: body.maxGapMin,
    });
    const fileName = `${head.sourceName}${head.simulated ? ' (simulated)' : ''}`;
    const judged = { fileName, reason: body.reason, resin, settings, log };
    return this.writes.run(act, (unit) => this.keep(unit, act, number, judged, () => Promise.resolve(body.traceId)));
  }

  /** Stores a cure that was judged, inside a change that does more. */
  async keep(
    { tx, audit, tell }: WriteUnit,
    by: Author,
    number: string,
    x: JudgedCure,
    traceFor: (tx: Transaction, jobId: string) => Promise<string>,
  ): Promise<CuredAnswer> {
    const { verdict, reason, result, badRows } = x.log;
    // the samples first: nobody else waits for the job while they are written
    const { id: jobId } = await this.read.row(number, tx);
    const traceId = await traceFor(tx, jobId);
    const row = await this.read.row(number, tx, 'lock');
    refuseClosed(row);
    const code = x.code ?? (await this.bakeOf(tx, row));
    if (!x.reason && (await this.runs.lastCure(tx, row, code))) throw unexplained();
    const id = await this.runs.addCure(tx, {
      jobId: row.id,
      part: await partThatCame(this.jobs, tx, row, undefined, 'stator'),
      code,
      fileName: x.fileName,
      resin: x.resin,
      limits: x.settings.limits,
      traceId,
      badRows,
      calculation: result.id,
      calculationVersion: result.version,
      verdict,
      reason,
      result,
      personName: by.actor.name,
      at: by.at,
    });
    await audit({
      action: 'cure.record',
      jobId: row.id,
      summary: `${operation(code).title} of ${number}: ${verdict}. ${reason}${x.reason ? ` (again: ${x.reason})` : ''}`,
      after: { fileName: x.fileName, resin: x.resin.name, verdict, traceId },
    });
    await tell(`job:${number}`);
    return { id, verdict, reason };
  }
}

const unexplained = () =>
  badField('reason', 'An oven log of this job is recorded already; say why another one counts.');

function resinOf(settings: ShopSettings, name: string): Resin {
  const resin = settings.resins.find((r) => r.name === name);
  if (!resin) throw badField('resin', `The shop has no resin named "${name}"; an admin adds it on the shop page.`);
  return resin;
}
