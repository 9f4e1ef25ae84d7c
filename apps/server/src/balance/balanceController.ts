import {
  balanceEntryBody,
  beginBalanceBody,
  endBalanceBody,
  spinBody,
  type BalanceSessionView,
  type StandRunView,
} from '@norther/contracts';
import type { Verdict } from '@norther/core';
import { Controller, Get, HttpCode, Inject, Param, ParseUUIDPipe, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { z } from 'zod';
import { Acting, Needs } from '../auth/guard.ts';
import type { Act } from '../database/writes.ts';
import { Read, Takes } from '../problem/body.ts';
import { Balances } from './balances.ts';
import { StandRuns } from './standRuns.ts';

@ApiTags('balance')
@Controller('api/jobs/:number/balance-sessions')
export class BalanceController {
  readonly balances: Balances;
  readonly standRuns: StandRuns;
  constructor(@Inject(Balances) balances: Balances, @Inject(StandRuns) standRuns: StandRuns) {
    this.balances = balances;
    this.standRuns = standRuns;
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
