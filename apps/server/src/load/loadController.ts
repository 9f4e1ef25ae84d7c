import {
  endLoadRunBody,
  loadCommandBody,
  loadFileBody,
  loadRunBody,
  type CoolingView,
  type LoadRunView,
} from '@norther/contracts';
import { Controller, Get, HttpCode, Inject, Param, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { z } from 'zod';
import { Acting, Needs } from '../auth/guard.ts';
import type { Act } from '../database/writes.ts';
import { MOST_LOG_BYTES, MostBytes } from '../http/routeFacts.ts';
import { Read, Takes } from '../problem/body.ts';
import { Coolings } from './coolings.ts';
import { LoadRuns } from './loadRuns.ts';

@ApiTags('tests')
@Controller('api/jobs/:number/load-runs')
export class LoadController {
  readonly runs: LoadRuns;
  readonly cooled: Coolings;
  constructor(@Inject(LoadRuns) runs: LoadRuns, @Inject(Coolings) cooled: Coolings) {
    this.runs = runs;
    this.cooled = cooled;
  }

  /** Load runs of a motor, the newest first, each with its points so far. */
  @Get()
  list(@Param('number') number: string): Promise<LoadRunView[]> {
    return this.runs.list(number);
  }

  /** What instruments sent of the motor's resistance while it cooled, as the sheet of a temperature rise is filled in with. */
  @Get('coolings')
  coolings(@Param('number') number: string): Promise<CoolingView[]> {
    return this.cooled.list(number);
  }

  /** Begins a run: from now on what the instrument sends of this motor is guarded. A simulated one is told of the motor. */
  @Needs('tester')
  @Post()
  @Takes(loadRunBody)
  begin(
    @Param('number') number: string,
    @Read(loadRunBody) body: z.output<typeof loadRunBody>,
    @Acting() act: Act,
  ): Promise<object> {
    return this.runs.begin(act, number, body);
  }

  /** A run that was logged to a file (CSV): a heading with names and units, a line a reading. */
  @Needs('tester')
  @MostBytes(MOST_LOG_BYTES)
  @Post('file')
  @Takes(loadFileBody)
  file(
    @Param('number') number: string,
    @Read(loadFileBody) body: z.output<typeof loadFileBody>,
    @Acting() act: Act,
  ): Promise<object> {
    return this.runs.fromFile(act, number, body);
  }

  /** Sets the load, takes it off, stops the motor; lets a run go on that the guard unloaded. */
  @Needs('tester')
  @Post(':id/commands')
  @HttpCode(200)
  @Takes(loadCommandBody)
  async command(
    @Param('number') number: string,
    @Param('id') id: string,
    @Read(loadCommandBody) body: z.output<typeof loadCommandBody>,
    @Acting() act: Act,
  ): Promise<object> {
    await this.runs.command(act, number, id, body);
    return { done: true };
  }

  @Needs('tester')
  @Post(':id/end')
  @HttpCode(200)
  @Takes(endLoadRunBody)
  async end(
    @Param('number') number: string,
    @Param('id') id: string,
    @Read(endLoadRunBody) body: z.output<typeof endLoadRunBody>,
    @Acting() act: Act,
  ): Promise<object> {
    await this.runs.end(act, number, id, body);
    return { done: true };
  }
}
