import { createHash } from 'node:crypto';
import type { JobDetail, ShopSettings } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import { and, asc, count, eq, isNull, sql } from 'drizzle-orm';
import { Database } from '../database/database.ts';
import { job, report } from '../database/schema.ts';
import { type Act, Writes } from '../database/writes.ts';
import { ReadJob } from '../job/readJob.ts';
import { notFound, Problem } from '../problem/problem.ts';
import { WorkProblem, type Effect, type WorkHandler } from '../queue/kinds.ts';
import { Queue } from '../queue/queue.ts';
import { Shop } from '../shop/shop.ts';
import { WorkThread } from '../thread/workThread.ts';

/** What a report says, as it stood when it was issued. */
interface ReportSource {
  job: JobDetail;
  settings: ShopSettings;
  issuer: { name: string; role: string; at: string };
}

/** How long a reader waits for a report that is being laid out. */
const READER_WAITS_MS = 25_000;

/** Reports to the customer: what is said is kept in the transaction that issues, the paper is laid out after it. */
@Injectable()
export class Reports implements WorkHandler<'report'> {
  readonly kind = 'report';
  readonly database: Database;
  readonly writes: Writes;
  readonly jobs: ReadJob;
  readonly shop: Shop;
  readonly thread: WorkThread;
  readonly queue: Queue;
  constructor(
    @Inject(Database) database: Database,
    @Inject(Writes) writes: Writes,
    @Inject(ReadJob) read: ReadJob,
    @Inject(Shop) shop: Shop,
    @Inject(WorkThread) thread: WorkThread,
    @Inject(Queue) queue: Queue,
  ) {
    this.database = database;
    this.writes = writes;
    this.jobs = read;
    this.shop = shop;
    this.thread = thread;
    this.queue = queue;
  }

  async issue(act: Act, number: string): Promise<{ id: string; revision: number }> {
    return this.writes.run(act, async ({ tx, audit, tell }) => {
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
      await this.queue.enqueue(tx, {
        kind: 'report',
        data: { reportId: stored.id },
        personName: act.actor.name,
        jobId: row.id,
      });
      await audit({
        action: 'report.issue',
        jobId: row.id,
        summary: `Report ${revision} of ${number} issued`,
        after: { revision },
      });
      await tell(`job:${number}`);
      return { id: stored.id, revision };
    });
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

  /** Lays out what is issued and has no paper yet. */
  async prepare({ reportId }: { reportId: string }): Promise<Effect> {
    const [row] = await this.database.tables
      .select({
        revision: report.revision,
        source: report.source,
        number: job.number,
        done: sql<boolean>`${report.content} is not null`,
      })
      .from(report)
      .innerJoin(job, eq(job.id, report.jobId))
      .where(eq(report.id, reportId));
    if (!row?.source) throw new WorkProblem('The report is not there, or says nothing.');
    if (row.done) return () => Promise.resolve({});
    const content = await this.thread.do('report', { ...(row.source as ReportSource), revision: row.revision });
    const sha256 = createHash('sha256').update(content).digest('hex');
    return async (tx) => {
      await tx
        .update(report)
        .set({ content, sha256 })
        .where(and(eq(report.id, reportId), isNull(report.content)));
      return { tell: `job:${row.number}` };
    };
  }

  /** Reports without a paper that no work stands for. */
  async leftBehind(): Promise<string[]> {
    const rows = await this.database.tables
      .select({ id: report.id })
      .from(report)
      .where(
        and(
          isNull(report.content),
          sql`not exists (select 1 from work w where w.kind = 'report' and w.data->>'reportId' = ${report.id}::text)`,
        ),
      )
      .orderBy(asc(report.at));
    return rows.map((r) => r.id);
  }
}
