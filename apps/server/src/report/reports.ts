import { createHash } from 'node:crypto';
import type { JobDetail, ShopSettings } from '@norther/contracts';
import { Inject, Injectable, Logger, type OnApplicationBootstrap, type OnApplicationShutdown } from '@nestjs/common';
import { and, asc, count, eq, isNull, lt } from 'drizzle-orm';
import { nowMs } from '../clock/clock.ts';
import { afterTransaction, Database } from '../database/database.ts';
import { job, report } from '../database/schema.ts';
import { type Act, Writes } from '../database/writes.ts';
import { ReadJob } from '../job/readJob.ts';
import { notFound, Problem } from '../problem/problem.ts';
import { Shop } from '../shop/shop.ts';
import { WorkThread } from '../thread/workThread.ts';

/** What a report says, as it stood when it was issued. */
interface ReportSource {
  job: JobDetail;
  settings: ShopSettings;
  issuer: { name: string; role: string; at: string };
}

/** How long a reader waits for a report that is being laid out, and how often reports left behind are looked for. */
const READER_WAITS_MS = 25_000;
const SWEEP_MS = 30_000;

/** Reports to the customer: what is said is kept in the transaction that issues, the paper is laid out after it. */
@Injectable()
export class Reports implements OnApplicationBootstrap, OnApplicationShutdown {
  readonly database: Database;
  readonly writes: Writes;
  readonly jobs: ReadJob;
  readonly shop: Shop;
  readonly thread: WorkThread;
  private readonly log = new Logger('reports');
  private readonly underWay = new Map<string, Promise<void>>();
  private ending = false;
  private sweep: NodeJS.Timeout | undefined;
  constructor(
    @Inject(Database) database: Database,
    @Inject(Writes) writes: Writes,
    @Inject(ReadJob) read: ReadJob,
    @Inject(Shop) shop: Shop,
    @Inject(WorkThread) thread: WorkThread,
  ) {
    this.database = database;
    this.writes = writes;
    this.jobs = read;
    this.shop = shop;
    this.thread = thread;
  }

  onApplicationBootstrap(): void {
    this.sweep = setInterval(() => void this.layOutLeftBehind().catch(() => undefined), SWEEP_MS);
    this.sweep.unref();
  }

  onApplicationShutdown(): void {
    this.ending = true;
    clearInterval(this.sweep);
  }

  async issue(act: Act, number: string): Promise<{ id: string; revision: number }> {
    const issued = await this.writes.run(act, async ({ tx, audit, tell }) => {
      const row = await this.jobs.row(number, tx, 'lock');
      const { settings } = await this.shop.view(tx);
      const [earlier] = await tx.select({ n: count() }).from(report).where(eq(report.jobId, row.id));
      const revision = (earlier?.n ?? 0) + 1;
      const source: ReportSource = {
        job: await this.jobs.detailWith(tx, number),
        settings,
        issuer: { name: act.actor.name, role: act.actor.role, at: act.at.toISOString() },
      };
      const [stored] = await tx
        .insert(report)
        .values({ jobId: row.id, revision, source, personName: act.actor.name, at: act.at })
        .returning({ id: report.id });
      if (!stored) throw new Error('report not stored');
      await audit({
        action: 'report.issue',
        jobId: row.id,
        summary: `Report ${revision} of ${number} issued`,
        after: { revision },
      });
      await tell(`job:${number}`);
      return { id: stored.id, revision };
    });
    void this.layOut(issued.id).catch(() => undefined);
    return issued;
  }

  /** The paper of an issued report; waits a while for one that is being laid out. */
  async read(id: string): Promise<{ revision: number; content: Buffer }> {
    const until = Date.now() + READER_WAITS_MS;
    for (;;) {
      const [row] = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i.test(id)
        ? await this.database.tables
            .select({ revision: report.revision, content: report.content })
            .from(report)
            .where(eq(report.id, id))
        : [];
      if (!row) throw notFound('such report');
      if (row.content) return { revision: row.revision, content: row.content };
      if (Date.now() > until)
        throw new Problem(503, 'Not ready', 'The report is issued and is being laid out; open it again in a moment.');
      await new Promise((r) => setTimeout(r, 200));
    }
  }

  /** Lays out what is issued and has no paper yet; the update fills only what is empty, so two servers do no harm. */
  private layOut(id: string): Promise<void> {
    const known = this.underWay.get(id);
    if (known) return known;
    const work = afterTransaction(() => this.fill(id)).finally(() => this.underWay.delete(id));
    this.underWay.set(id, work);
    return work;
  }

  private async fill(id: string): Promise<void> {
    const [row] = await this.database.tables
      .select({ revision: report.revision, source: report.source, number: job.number })
      .from(report)
      .innerJoin(job, eq(job.id, report.jobId))
      .where(and(eq(report.id, id), isNull(report.content)));
    if (!row?.source) return;
    try {
      const source = row.source as ReportSource;
      const content = await this.thread.do('report', { ...source, revision: row.revision });
      const sha256 = createHash('sha256').update(content).digest('hex');
      await this.writes.notice(`job:${row.number}`, (tx) =>
        tx
          .update(report)
          .set({ content, sha256 })
          .where(and(eq(report.id, id), isNull(report.content))),
      );
    } catch (error) {
      if (!this.ending)
        this.log.error(
          `report ${row.revision} of ${row.number} could not be laid out: ${String((error as Error).message)}`,
        );
      throw error;
    }
  }

  /** Reports of a server that went away before their paper was done. */
  private async layOutLeftBehind(): Promise<void> {
    const rows = await this.database.tables
      .select({ id: report.id })
      .from(report)
      .where(and(isNull(report.content), lt(report.at, new Date(nowMs() - SWEEP_MS))))
      .orderBy(asc(report.at))
      .limit(20);
    for (const { id } of rows) await this.layOut(id);
  }

  /** Waits until every report under way has its paper. */
  async settled(): Promise<void> {
    await Promise.allSettled(this.underWay.values());
  }
}
