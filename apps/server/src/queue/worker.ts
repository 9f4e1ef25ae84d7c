import { randomUUID } from 'node:crypto';
import { hostname } from 'node:os';
import { Inject, Injectable, Logger, type BeforeApplicationShutdown } from '@nestjs/common';
import PgBoss from 'pg-boss';
import { ArchiveImport } from '../archive/archiveImport.ts';
import { Likeness } from '../archive/likeness.ts';
import { NightBackup } from '../backup/nightBackup.ts';
import { Writes } from '../database/writes.ts';
import { LongLog } from '../evaluate/longLog.ts';
import { Problem } from '../problem/problem.ts';
import { withoutValues } from '../problem/problemFilter.ts';
import { Pruning } from '../prune/pruning.ts';
import { Reports } from '../report/reports.ts';
import {
  NIGHT_QUEUE,
  QUEUE_SCHEMA,
  WORK_QUEUE,
  WorkProblem,
  type Control,
  type WorkData,
  type WorkHandler,
  type WorkKind,
} from './kinds.ts';
import { Queue } from './queue.ts';
import { LOST_MS, QueueRepository, type WorkRow } from './queueRepository.ts';

const HEARTBEAT_MS = LOST_MS / 5;
/** So many times work that breaks (not: cannot be done) is tried. */
const MOST_ATTEMPTS = 3;
/** When the night's work is asked for, the shop's machine being idle then. */
const NIGHT = '15 2 * * *';
/** Orders one worker has in hand at once: laying out papers runs in its thread, the rest waits for the database. */
const HANDS = 3;

class Taken extends Error {}

/**
 * Does what is queued. Any number may run: an order is taken up by one, says every two seconds that it runs, and ends in a
 * transaction that stands only if it is still the newest attempt; so a killed worker's work has its effect once.
 */
@Injectable()
export class Worker implements BeforeApplicationShutdown {
  readonly id = randomUUID();
  readonly queue: Queue;
  readonly repository: QueueRepository;
  readonly writes: Writes;
  readonly reports: Reports;
  private readonly handlers: { [K in WorkKind]: WorkHandler<K> };
  private readonly log = new Logger('worker');
  private boss: PgBoss | undefined;
  private beat: NodeJS.Timeout | undefined;
  private beginning: Promise<void> | undefined;
  private readonly inHand = new Set<Promise<void>>();
  constructor(
    @Inject(Queue) queue: Queue,
    @Inject(QueueRepository) repository: QueueRepository,
    @Inject(Writes) writes: Writes,
    @Inject(Reports) report: Reports,
    @Inject(NightBackup) backup: NightBackup,
    @Inject(Pruning) prune: Pruning,
    @Inject(ArchiveImport) archiveImport: ArchiveImport,
    @Inject(Likeness) likeness: Likeness,
    @Inject(LongLog) ovenLog: LongLog,
  ) {
    this.queue = queue;
    this.repository = repository;
    this.writes = writes;
    this.reports = report;
    this.handlers = { report, backup, prune, archiveImport, likeness, ovenLog };
  }

  /** Begins to take orders up; rejects where the database cannot be reached. */
  start(options: { nights: boolean } = { nights: true }): Promise<void> {
    this.beginning = this.begin(options);
    return this.beginning;
  }

  private async begin(options: { nights: boolean }): Promise<void> {
    const boss = new PgBoss({
      connectionString: this.repository.database.url,
      schema: QUEUE_SCHEMA,
      migrate: false,
      max: 4,
      supervise: options.nights,
      schedule: options.nights,
    });
    boss.on('error', (error) => this.log.warn(withoutValues(error)));
    await boss.start();
    this.boss = boss;
    await this.here();
    this.beat = setInterval(() => void this.here(), HEARTBEAT_MS);
    for (let i = 0; i < HANDS; i++)
      await boss.work<{ id: string }>(WORK_QUEUE, { pollingIntervalSeconds: 0.5, batchSize: 1 }, async ([order]) => {
        if (order) await this.order(order.data.id);
      });
    if (!options.nights) return;
    await this.leftBehind();
    await boss.schedule(NIGHT_QUEUE, NIGHT, {});
    await boss.work(NIGHT_QUEUE, { pollingIntervalSeconds: 30 }, () => this.night());
  }

  /** Reports that a Norther of before issued and did not come to lay out. */
  private async leftBehind(): Promise<void> {
    for (const reportId of await this.reports.leftBehind())
      await this.writes.database.transaction((tx) =>
        this.queue.enqueue(tx, { kind: 'report', data: { reportId }, personName: 'at start' }),
      );
  }

  /** The night's work; asked for once, however many workers there are. */
  async night(): Promise<void> {
    for (const kind of ['prune', 'backup'] as const)
      if ((await this.repository.waitingOf(kind)) === 0)
        await this.writes.database.transaction((tx) =>
          this.queue.enqueue(tx, { kind, data: {}, personName: 'every night' }),
        );
  }

  private async here(): Promise<void> {
    try {
      await this.repository.here({ id: this.id, host: hostname(), pid: process.pid });
      for (const id of await this.repository.supervise()) await this.queue.again(id);
    } catch (error) {
      this.log.warn(withoutValues(error));
    }
  }

  private order(id: string): Promise<void> {
    const done = this.attempt(id).finally(() => this.inHand.delete(done));
    this.inHand.add(done);
    return done;
  }

  private async attempt(id: string): Promise<void> {
    const row = await this.repository.take(id, this.id);
    // somebody has it, it was cancelled, or it came out of a backup of before
    if (!row) return;
    await this.tell(row);
    const beat = setInterval(() => void this.repository.stillMine(row).catch(() => undefined), HEARTBEAT_MS);
    const control: Control = {
      progress: async (share) => {
        if (!(await this.repository.stillMine(row, share))) throw new Taken();
        await this.tell(row);
      },
      check: async () => {
        if (!(await this.repository.stillMine(row))) throw new Taken();
      },
    };
    try {
      const handler = this.handlers[row.kind as WorkKind] as WorkHandler<WorkKind> | undefined;
      if (!handler) throw new WorkProblem(`This Norther does not know work of the kind "${row.kind}".`);
      const effect = await handler.prepare(row.data as WorkData[WorkKind], control);
      await control.check();
      await this.writes.notice(`work:${row.id}`, async (tx) => {
        const { result, tell } = await effect(tx);
        if (!(await this.repository.end(tx, row, 'done', { result }))) throw new Taken();
        if (tell) await this.writes.tell(tx, tell);
      });
    } catch (error) {
      await this.ended(row, error);
    } finally {
      clearInterval(beat);
    }
  }

  private async ended(row: WorkRow, error: unknown): Promise<void> {
    const { tables } = this.repository.database;
    if (error instanceof Taken) await this.repository.end(tables, row, 'cancelled');
    else if (error instanceof WorkProblem || error instanceof Problem || row.attempt >= MOST_ATTEMPTS) {
      // what cannot be done or was refused says why; everything else is the log's
      const said = error instanceof WorkProblem || error instanceof Problem ? error.message : undefined;
      if (said === undefined) this.log.error(`${row.kind}: ${withoutValues(error)}`);
      else this.log.warn(`${row.kind}: ${said}`);
      const problem = said ?? 'It broke several times; see the log of the worker.';
      await this.repository.end(tables, row, 'failed', { problem });
    } else {
      this.log.warn(`${row.kind}, attempt ${row.attempt}: ${withoutValues(error)}`);
      if (await this.repository.end(tables, row, 'waiting')) await this.queue.again(row.id);
    }
    await this.tell(row);
  }

  private tell(row: Pick<WorkRow, 'id'>): Promise<void> {
    return this.writes.notice(`work:${row.id}`, () => Promise.resolve());
  }

  /** Waits until nothing is in hand. */
  async settled(): Promise<void> {
    await Promise.allSettled(this.inHand);
  }

  /** Takes nothing new up, ends what is in hand, and leaves. */
  async beforeApplicationShutdown(): Promise<void> {
    // one that is asked to end while it begins has begun first: half a worker cannot be stopped
    await this.beginning?.catch(() => undefined);
    if (!this.boss) return;
    clearInterval(this.beat);
    await this.boss.offWork(WORK_QUEUE).catch(() => undefined);
    const late = new Promise((r) => setTimeout(r, 6000).unref());
    await Promise.race([this.settled(), late]);
    await this.boss.stop({ graceful: false }).catch(() => undefined);
    await this.repository.gone(this.id).catch(() => undefined);
  }
}
