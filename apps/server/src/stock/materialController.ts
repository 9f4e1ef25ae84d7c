import type { WindingPart } from '@norther/core';
import { makeListsBody, materialBody, useMaterialBody, type MaterialSheet } from '@norther/contracts';
import { Controller, Get, HttpCode, Inject, Param, Post, Put, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { FastifyReply } from 'fastify';
import type { z } from 'zod';
import { Acting, Needs } from '../auth/guard.ts';
import type { Act } from '../database/writes.ts';
import { ReadJob } from '../job/readJob.ts';
import { Read, Takes } from '../problem/body.ts';
import { Problem } from '../problem/problem.ts';
import { sendCsv } from '../report/csv.ts';
import { billTable } from '../report/materialLists.ts';
import { Shop } from '../shop/shop.ts';
import { WorkThread } from '../thread/workThread.ts';
import { partOf } from '../winding/jointsController.ts';
import { Materials } from './materials.ts';

@ApiTags('material')
@Controller('api/jobs/:number/material/:part')
export class MaterialController {
  readonly materials: Materials;
  readonly read: ReadJob;
  readonly shop: Shop;
  readonly thread: WorkThread;
  constructor(
    @Inject(Materials) materials: Materials,
    @Inject(ReadJob) read: ReadJob,
    @Inject(Shop) shop: Shop,
    @Inject(WorkThread) thread: WorkThread,
  ) {
    this.materials = materials;
    this.read = read;
    this.shop = shop;
    this.thread = thread;
  }

  @Get()
  sheet(@Param('number') number: string, @Param('part') part: string): Promise<MaterialSheet> {
    return this.materials.sheet(number, partOf(part));
  }

  @Needs('winder')
  @Put()
  @Takes(materialBody)
  save(
    @Param('number') number: string,
    @Param('part') part: string,
    @Read(materialBody) body: z.output<typeof materialBody>,
    @Acting() act: Act,
  ): Promise<MaterialSheet> {
    return this.materials.save(act, number, partOf(part), body);
  }

  @Needs('winder')
  @Post('lists')
  @HttpCode(200)
  @Takes(makeListsBody)
  lists(
    @Param('number') number: string,
    @Param('part') part: string,
    @Read(makeListsBody) body: z.output<typeof makeListsBody>,
    @Acting() act: Act,
  ): Promise<MaterialSheet> {
    return this.materials.makeLists(act, number, partOf(part), body);
  }

  @Needs('winder')
  @Post('uses')
  @HttpCode(200)
  @Takes(useMaterialBody)
  use(
    @Param('number') number: string,
    @Param('part') part: string,
    @Read(useMaterialBody) body: z.output<typeof useMaterialBody>,
    @Acting() act: Act,
  ): Promise<MaterialSheet> {
    return this.materials.use(act, number, partOf(part), body);
  }

  @Get('bill.json')
  async json(@Param('number') number: string, @Param('part') part: string): Promise<unknown> {
    const { bill, planRevision } = await this.current(number, partOf(part));
    return { format: 'norther-bill', version: 1, job: number, part, planRevision, ...bill };
  }

  @Get('bill.csv')
  async csv(@Param('number') number: string, @Param('part') part: string, @Res() reply: FastifyReply): Promise<void> {
    const { bill } = await this.current(number, partOf(part));
    sendCsv(reply, `bill-${number}-${part}.csv`, billTable(bill));
  }

  @Get('cutting.pdf')
  async cutting(
    @Param('number') number: string,
    @Param('part') part: string,
    @Res() reply: FastifyReply,
  ): Promise<void> {
    await this.paper(number, partOf(part), reply, 'cutting');
  }

  @Get('picking.pdf')
  async picking(
    @Param('number') number: string,
    @Param('part') part: string,
    @Res() reply: FastifyReply,
  ): Promise<void> {
    await this.paper(number, partOf(part), reply, 'picking');
  }

  private async paper(
    number: string,
    part: WindingPart,
    reply: FastifyReply,
    name: 'cutting' | 'picking',
  ): Promise<void> {
    const job = await this.read.detail(number);
    const lists = await this.materials.lists(number, part);
    const settings = await this.shop.settings();
    await reply
      .header('Content-Type', 'application/pdf')
      .header('Content-Disposition', `inline; filename="${name}-${number}-${part}.pdf"`)
      .send(await this.thread.do(name, { job, settings, part, lists }));
  }

  private async current(number: string, part: WindingPart) {
    const { typed } = await this.materials.sheet(number, part);
    const { bill, planRevision, why } = await this.materials.bill(number, part, typed);
    if (!bill) throw new Problem(422, 'No bill', why);
    return { bill, planRevision };
  }
}
