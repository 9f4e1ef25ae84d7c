import { balanceEntryBody, beginBalanceBody, endBalanceBody, type BalanceSessionView } from '@norther/contracts';
import type { Verdict } from '@norther/core';
import { Controller, Get, HttpCode, Inject, Param, ParseUUIDPipe, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { z } from 'zod';
import { Acting, Needs } from '../auth/guard.ts';
import type { Act } from '../database/writes.ts';
import { Read, Takes } from '../problem/body.ts';
import { Balances } from './balances.ts';

@ApiTags('balance')
@Controller('api/jobs/:number/balance-sessions')
export class BalanceController {
  readonly balances: Balances;
  constructor(@Inject(Balances) balances: Balances) {
    this.balances = balances;
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
