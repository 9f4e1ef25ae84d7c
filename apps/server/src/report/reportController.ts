import { createHash } from 'node:crypto';
import { connectionOfRecord, WINDING_PARTS } from '@norther/core';
import { Controller, Get, Inject, Param, Post, Query, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { count, eq } from 'drizzle-orm';
import type { FastifyReply } from 'fastify';
import { Acting, Needs } from '../auth/guard.ts';
import { report } from '../database/schema.ts';
import { type Act, Writes } from '../database/writes.ts';
import { ReadJob } from '../job/readJob.ts';
import { badField, notFound } from '../problem/problem.ts';
import { Shop } from '../shop/shop.ts';
import { customerReport, dataSheet, label } from './papers.ts';
import { makePdf } from './paper.ts';
import { drawingPages, drawingsOf } from '../winding/windingFiles.ts';
import { windingCard, windingOfPart } from './windingCard.ts';

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
  readonly writes: Writes;
  readonly read: ReadJob;
  readonly shop: Shop;
  constructor(@Inject(Writes) writes: Writes, @Inject(ReadJob) read: ReadJob, @Inject(Shop) shop: Shop) {
    this.writes = writes;
    this.read = read;
    this.shop = shop;
  }

  @Get('jobs/:number/card.pdf')
  async card(
    @Param('number') number: string,
    @Query('part') part: string | undefined,
    @Query('drawings') drawings: string | undefined,
    @Res() reply: FastifyReply,
  ): Promise<void> {
    const which = WINDING_PARTS.find((p) => p === (part ?? 'stator'));
    if (!which) throw badField('part', `part: say ${WINDING_PARTS.join(', ')}.`);
    const { settings } = await this.shop.view();
    const job = await this.read.detail(number);
    const card = windingCard(job, settings, which);
    const own = windingOfPart(job, which);
    const made = drawings === 'all' ? connectionOfRecord(own.record) : undefined;
    const pages = made?.layout
      ? drawingPages(drawingsOf(own.record, own.nameplate, made.layout, made.connection, settings)).map((p) => ({
          ...p,
          pageBreak: 'before',
          pageOrientation: 'landscape',
        }))
      : [];
    await sendPdf(reply, `card-${number}.pdf`, await makePdf({ ...card, content: [...card.content, ...pages] }));
  }

  @Get('jobs/:number/label.pdf')
  async label(@Param('number') number: string, @Res() reply: FastifyReply): Promise<void> {
    const { settings } = await this.shop.view();
    await sendPdf(reply, `label-${number}.pdf`, await makePdf(label(await this.read.detail(number), settings)));
  }

  @Get('papers/data-sheet.pdf')
  async sheet(@Res() reply: FastifyReply): Promise<void> {
    const { settings } = await this.shop.view();
    await sendPdf(reply, 'data-sheet.pdf', await makePdf(dataSheet(settings)));
  }

  /** Issues the report: kept as issued; a later one is a new revision. */
  @Needs('foreman')
  @Post('jobs/:number/reports')
  async issue(@Param('number') number: string, @Acting() act: Act): Promise<{ id: string; revision: number }> {
    const { settings } = await this.shop.view();
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const row = await this.read.row(number, tx, 'lock');
      const [earlier] = await tx.select({ n: count() }).from(report).where(eq(report.jobId, row.id));
      const revision = (earlier?.n ?? 0) + 1;
      const content = await makePdf(
        customerReport(await this.read.detail(number), settings, revision, {
          name: act.actor.name,
          role: act.actor.role,
          at: act.at.toISOString(),
        }),
      );
      const sha256 = createHash('sha256').update(content).digest('hex');
      const [stored] = await tx
        .insert(report)
        .values({ jobId: row.id, revision, content, sha256, personName: act.actor.name, at: act.at })
        .returning({ id: report.id });
      if (!stored) throw new Error('report not stored');
      await audit({
        action: 'report.issue',
        jobId: row.id,
        summary: `Report ${revision} of ${number} issued`,
        after: { revision, sha256 },
      });
      await tell(`job:${number}`);
      return { id: stored.id, revision };
    });
  }

  @Get('reports/:id')
  async issued(@Param('id') id: string, @Res() reply: FastifyReply): Promise<void> {
    const [row] = /^[0-9a-f-]{36}$/.test(id)
      ? await this.writes.database.tables.select().from(report).where(eq(report.id, id))
      : [];
    if (!row) throw notFound('such report');
    await sendPdf(reply, `report-${row.revision}.pdf`, row.content);
  }
}
