import {
  balanceEntryBody,
  beginBalanceBody,
  endBalanceBody,
  spinBody,
  standingEntries,
  type BalanceSessionView,
  type StandRunView,
} from '@norther/contracts';
import { balanceNow, type BalanceNow, type Verdict } from '@norther/core';
import { Controller, Get, HttpCode, Inject, Param, ParseUUIDPipe, Post, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { FastifyReply } from 'fastify';
import type { z } from 'zod';
import { Acting, Needs } from '../auth/guard.ts';
import type { Act } from '../database/writes.ts';
import { ReadJob } from '../job/readJob.ts';
import { Read, Takes } from '../problem/body.ts';
import { Shop } from '../shop/shop.ts';
import { WorkThread } from '../thread/workThread.ts';
import { Balances } from './balances.ts';
import { StandRuns } from './standRuns.ts';

@ApiTags('balance')
@Controller('api/jobs/:number/balance-sessions')
export class BalanceController {
  readonly balances: Balances;
  readonly standRuns: StandRuns;
  readonly read: ReadJob;
  readonly shop: Shop;
  readonly thread: WorkThread;
  constructor(
    @Inject(Balances) balances: Balances,
    @Inject(StandRuns) standRuns: StandRuns,
    @Inject(ReadJob) read: ReadJob,
    @Inject(Shop) shop: Shop,
    @Inject(WorkThread) thread: WorkThread,
  ) {
    this.balances = balances;
    this.standRuns = standRuns;
    this.read = read;
    this.shop = shop;
    this.thread = thread;
  }

  /** Balances of a motor's rotor, with every run and correction. */
  @Get()
  list(@Param('number') number: string): Promise<BalanceSessionView[]> {
    return this.balances.list(number);
  }

  @Needs('winder')
  @Post()
  @Takes(beginBalanceBody)
  begin(
    @Param('number') number: string,
    @Read(beginBalanceBody) body: z.output<typeof beginBalanceBody>,
    @Acting() act: Act,
  ): Promise<{ id: string }> {
    return this.balances.begin(act, number, body);
  }

  @Needs('winder')
  @Post(':id/entries')
  @Takes(balanceEntryBody)
  enter(
    @Param('number') number: string,
    @Param('id', ParseUUIDPipe) id: string,
    @Read(balanceEntryBody) body: z.output<typeof balanceEntryBody>,
    @Acting() act: Act,
  ): Promise<{ ordinal: number; stage: string; verdict: Verdict; reason: string }> {
    return this.balances.enter(act, number, id, body);
  }

  /** Runs that stands have sent since the balance began, as their samples tell them. */
  @Get(':id/stand-runs')
  sent(@Param('number') number: string, @Param('id', ParseUUIDPipe) id: string): Promise<StandRunView[]> {
    return this.standRuns.list(number, id);
  }

  /** Spins a simulated stand with this rotor on it; a real one is started where it stands. */
  @Needs('winder')
  @Post(':id/spin')
  @HttpCode(200)
  @Takes(spinBody)
  spin(
    @Param('number') number: string,
    @Param('id', ParseUUIDPipe) id: string,
    @Read(spinBody) body: z.output<typeof spinBody>,
    @Acting() act: Act,
  ): Promise<{ stand: string }> {
    return this.standRuns.spin(act, number, id, body);
  }

  /** The balance on paper: its set-up sheet, and what was done on the stand. */
  @Get(':id/sheet.pdf')
  async sheet(
    @Param('number') number: string,
    @Param('id', ParseUUIDPipe) id: string,
    @Res() reply: FastifyReply,
  ): Promise<void> {
    const [session, job, settings] = [
      await this.balances.one(number, id),
      await this.read.detail(number),
      await this.shop.settings(),
    ];
    await reply
      .type('application/pdf')
      .header('Content-Disposition', `inline; filename="balance-${number}.pdf"`)
      .header('Cache-Control', 'no-store')
      .send(await this.thread.do('balance', { job, settings, session }));
  }

  /** Everything of a balance: set-up, rows, and how it stands, reckoned again with its own limits. */
  @Get(':id/record.json')
  async record(
    @Param('number') number: string,
    @Param('id', ParseUUIDPipe) id: string,
  ): Promise<BalanceSessionView & { now: BalanceNow }> {
    const session = await this.balances.one(number, id);
    return { ...session, now: balanceNow(session.setUp, standingEntries(session.entries), session.limits) };
  }

  @Needs('winder')
  @Post(':id/end')
  @HttpCode(200)
  @Takes(endBalanceBody)
  end(
    @Param('number') number: string,
    @Param('id', ParseUUIDPipe) id: string,
    @Read(endBalanceBody) body: z.output<typeof endBalanceBody>,
    @Acting() act: Act,
  ): Promise<{ verdict: Verdict; reason: string }> {
    return this.balances.end(act, number, id, body.reason);
  }
}
