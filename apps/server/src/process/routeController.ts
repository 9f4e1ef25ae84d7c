import { convertBody, routeEditBody } from '@norther/contracts';
import { Controller, HttpCode, Inject, Param, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { z } from 'zod';
import { Acting, Needs } from '../auth/guard.ts';
import type { Act } from '../database/writes.ts';
import { Read, Takes } from '../problem/body.ts';
import { RouteChanges } from './routeChanges.ts';

@ApiTags('steps')
@Controller('api/jobs/:number/route')
export class RouteController {
  readonly changes: RouteChanges;
  constructor(@Inject(RouteChanges) changes: RouteChanges) {
    this.changes = changes;
  }

  /** A change of this job's route that breaks no hold. */
  @Needs('foreman')
  @Post('edits')
  @HttpCode(200)
  @Takes(routeEditBody)
  async edit(
    @Param('number') number: string,
    @Read(routeEditBody) body: z.output<typeof routeEditBody>,
    @Acting() act: Act,
  ): Promise<{ done: true }> {
    await this.changes.edit(act, number, body.edit, body.reason);
    return { done: true };
  }

  /** An overhaul whose tests after drying failed goes on as a rewind. */
  @Needs('foreman')
  @Post('rewind')
  @HttpCode(200)
  @Takes(convertBody)
  async toRewind(
    @Param('number') number: string,
    @Read(convertBody) body: z.output<typeof convertBody>,
    @Acting() act: Act,
  ): Promise<{ done: true }> {
    await this.changes.toRewind(act, number, body.reason);
    return { done: true };
  }
}
