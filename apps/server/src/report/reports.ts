import { createHash } from 'node:crypto';
import { templateFor, type issueReportBody } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import { BalanceRepository } from '../balance/balanceRepository.ts';
import { sessionView } from '../balance/sessionView.ts';
import { type Act, Writes } from '../database/writes.ts';
import { ReadJob } from '../job/readJob.ts';
import { badField, notFound, Problem } from '../problem/problem.ts';
import { WorkProblem, type Effect, type WorkHandler } from '../queue/kinds.ts';
import { Queue } from '../queue/queue.ts';
import { Shop } from '../shop/shop.ts';
import { WorkThread } from '../thread/workThread.ts';
import { chosenPhotographs } from './photographs.ts';
import { ReportRepository } from './reportRepository.ts';
import { sourceOfNow, type ReportSource } from './reportSource.ts';

/** How long a reader waits for a report that is being laid out. */
const READER_WAITS_MS = 25_000;

/** Reports to the customer: what is said is kept in the transaction that issues, the paper is laid out after it. */
@Injectable()
export class Reports implements WorkHandler<'report'> {
  readonly kind = 'report';
  readonly writes: Writes;
  readonly jobs: ReadJob;
  readonly shop: Shop;
  readonly thread: WorkThread;
  readonly queue: Queue;
  readonly reports: ReportRepository;
  readonly stand: BalanceRepository;
  constructor(
    @Inject(Writes) writes: Writes,
    @Inject(ReadJob) read: ReadJob,
    @Inject(Shop) shop: Shop,
    @Inject(WorkThread) thread: WorkThread,
    @Inject(Queue) queue: Queue,
    @Inject(ReportRepository) reports: ReportRepository,
    @Inject(BalanceRepository) stand: BalanceRepository,
  ) {
    this.stand = stand;
    this.writes = writes;
    this.jobs = read;
    this.shop = shop;
    this.thread = thread;
    this.queue = queue;
    this.reports = reports;
  }

  async issue(
    act: Act,
    number: string,
    said: z.output<typeof issueReportBody> = { reason: '', witness: '' },
  ): Promise<{ id: string; revision: number }> {
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const row = await this.jobs.row(number, tx, 'lock');
      const { settings } = await this.shop.view(tx);
      const revision = (await this.reports.howMany(tx, row.id)) + 1;
      if (revision > 1 && said.reason.length < 3)
        throw badField('reason', `Say why revision ${revision} takes the place of the one before.`);
      const source: ReportSource = {
        job: await this.jobs.detailWith(tx, number),
        settings,
        issuer: { name: act.actor.name, role: act.actor.role, at: act.at.toISOString() },
        balances: (await this.stand.ofJob(tx, row)).map((s) => sessionView(s.session, s.entries)),
        witness: said.witness,
        reason: said.reason,
        lots: await this.reports.lotsUsed(tx, row.id),
      };
      const id = await this.reports.add(tx, {
        jobId: row.id,
        revision,
        source,
        personName: act.actor.name,
        at: act.at,
      });
      await this.queue.enqueue(tx, {
        kind: 'report',
        data: { reportId: id },
        personName: act.actor.name,
        jobId: row.id,
      });
      await audit({
        action: 'report.issue',
        jobId: row.id,
        summary: `Report ${revision} of ${number} issued${said.reason === '' ? '' : `: ${said.reason}`}`,
        after: { revision },
      });
      await tell(`job:${number}`);
      return { id, revision };
    });
  }

  /** The paper of an issued report; waits a while for one that is being laid out. */
  async read(id: string): Promise<{ revision: number; content: Buffer }> {
    const until = Date.now() + READER_WAITS_MS;
    for (;;) {
      const row = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i.test(id) ? await this.reports.paper(id) : undefined;
      if (!row) throw notFound('such report');
      if (row.content) return { revision: row.revision, content: row.content };
      if (Date.now() > until)
        throw new Problem(503, 'Not ready', 'The report is issued and is being laid out; open it again in a moment.');
      await new Promise((r) => setTimeout(r, 200));
    }
  }

  /** Everything that an issued report says, as it was read then. */
  async data(id: string): Promise<object> {
    const row = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i.test(id) ? await this.reports.source(id) : undefined;
    if (!row?.source) throw notFound('such report');
    return { revision: row.revision, ...sourceOfNow(row.source) };
  }

  /** Lays out what is issued and has no paper yet. */
  async prepare({ reportId }: { reportId: string }): Promise<Effect> {
    const row = await this.reports.source(reportId);
    if (!row?.source) throw new WorkProblem('The report is not there, or says nothing.');
    if (row.done) return () => Promise.resolve({});
    const source = sourceOfNow(row.source);
    const { leaveOut } = templateFor(source.settings.papers, source.job.customer);
    const chosen = leaveOut.includes('photographs') ? [] : chosenPhotographs(source.job.attachments);
    const photographs = await this.reports.photographs(chosen.map((a) => a.id));
    const content = await this.thread.do('report', { ...source, revision: row.revision, photographs });
    const sha256 = createHash('sha256').update(content).digest('hex');
    return async (tx) => {
      await this.reports.putPaper(tx, reportId, content, sha256);
      return { tell: `job:${row.number}` };
    };
  }

  /** Reports without a paper that no work stands for. */
  async leftBehind(): Promise<string[]> {
    return this.reports.leftBehind();
  }
}
