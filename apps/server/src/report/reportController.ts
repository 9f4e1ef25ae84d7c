import { issueReportBody } from '@norther/contracts';
import { FIRST_PART, TEST_STAGES, WINDING_PARTS, windingPartSchema } from '@norther/core';
import { Controller, Get, Inject, Param, Post, Query, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { FastifyReply } from 'fastify';
import type { z } from 'zod';
import { Acting, Needs } from '../auth/guard.ts';
import type { Act } from '../database/writes.ts';
import { ReadJob } from '../job/readJob.ts';
import { Read, Takes } from '../problem/body.ts';
import { badField } from '../problem/problem.ts';
import { Shop } from '../shop/shop.ts';
import { WorkThread } from '../thread/workThread.ts';
import { plateOf } from './papers.ts';
import { Reports } from './reports.ts';

async function sendPdf(reply: FastifyReply, name: string, content: Buffer): Promise<void> {
  await reply
    .type('application/pdf')
    .header('Content-Disposition', `inline; filename="${name}"`)
    .header('Cache-Control', 'no-store')
    .send(content);
}

@ApiTags('papers')
@Controller('api')
export class ReportController {
  readonly read: ReadJob;
  readonly shop: Shop;
  readonly thread: WorkThread;
  readonly reports: Reports;
  constructor(
    @Inject(ReadJob) read: ReadJob,
    @Inject(Shop) shop: Shop,
    @Inject(WorkThread) thread: WorkThread,
    @Inject(Reports) reports: Reports,
  ) {
    this.read = read;
    this.shop = shop;
    this.thread = thread;
    this.reports = reports;
  }

  @Get('jobs/:number/card.pdf')
  async card(
    @Param('number') number: string,
    @Query('part') part: string | undefined,
    @Query('drawings') drawings: string | undefined,
    @Res() reply: FastifyReply,
  ): Promise<void> {
    const read = windingPartSchema.safeParse(part ?? FIRST_PART);
    if (!read.success) throw badField('part', `part: say ${WINDING_PARTS.join(', ')}.`);
    const which = read.data;
    const settings = await this.shop.settings();
    const job = await this.read.detail(number);
    const order = { job, settings, part: which, drawings: drawings === 'all' ? ('all' as const) : ('none' as const) };
    await sendPdf(reply, `card-${number}.pdf`, await this.thread.do('card', order));
  }

  @Get('jobs/:number/label.pdf')
  async label(@Param('number') number: string, @Res() reply: FastifyReply): Promise<void> {
    const settings = await this.shop.settings();
    const job = await this.read.detail(number);
    await sendPdf(reply, `label-${number}.pdf`, await this.thread.do('label', { job, settings }));
  }

  /** The nameplate as the motor is now: of a changed rewind the new one. */
  @Get('jobs/:number/nameplate')
  async plate(@Param('number') number: string): Promise<object> {
    const { rows, changed, nameplate } = plateOf(await this.read.detail(number));
    return { job: number, changed, nameplate, text: rows.map(([name, value]) => `${name}: ${value}`).join('\n') };
  }

  @Get('jobs/:number/nameplate.pdf')
  async plateLabel(@Param('number') number: string, @Res() reply: FastifyReply): Promise<void> {
    const settings = await this.shop.settings();
    const job = await this.read.detail(number);
    await sendPdf(reply, `nameplate-${number}.pdf`, await this.thread.do('plate', { job, settings }));
  }

  /** What the tests of a stage are to be done with, with room for what is read. */
  @Get('jobs/:number/test-sheet.pdf')
  async testSheet(
    @Param('number') number: string,
    @Query('stage') stage: string | undefined,
    @Res() reply: FastifyReply,
  ): Promise<void> {
    const at = TEST_STAGES.find((s) => s === (stage ?? 'IN'));
    if (!at) throw badField('stage', `stage: say ${TEST_STAGES.join(', ')}.`);
    const settings = await this.shop.settings();
    const job = await this.read.detail(number);
    await sendPdf(reply, `tests-${number}-${at}.pdf`, await this.thread.do('testSheet', { job, settings, stage: at }));
  }

  @Get('papers/data-sheet.pdf')
  async sheet(@Res() reply: FastifyReply): Promise<void> {
    const settings = await this.shop.settings();
    await sendPdf(reply, 'data-sheet.pdf', await this.thread.do('dataSheet', { settings }));
  }

  /** Issues the report: what it says is kept at once, laid out a moment later; a later one is a new revision. */
  @Needs('foreman')
  @Post('jobs/:number/reports')
  @Takes(issueReportBody)
  issue(
    @Param('number') number: string,
    @Read(issueReportBody) body: z.output<typeof issueReportBody>,
    @Acting() act: Act,
  ): Promise<{ id: string; revision: number }> {
    return this.reports.issue(act, number, body);
  }

  /** Everything that an issued report says, as data: each reading as typed and worked out. */
  @Get('reports/:id/data.json')
  data(@Param('id') id: string): Promise<object> {
    return this.reports.data(id);
  }

  @Get('reports/:id')
  async issued(@Param('id') id: string, @Res() reply: FastifyReply): Promise<void> {
    const { revision, content } = await this.reports.read(id);
    await sendPdf(reply, `report-${revision}.pdf`, content);
  }
}
