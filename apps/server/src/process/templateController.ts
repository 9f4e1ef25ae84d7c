import { keepRouteBody, retireRouteBody, type RouteTemplateView } from '@norther/contracts';
import { Controller, Get, HttpCode, Inject, Param, ParseUUIDPipe, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { z } from 'zod';
import { Acting, Needs } from '../auth/guard.ts';
import type { Act } from '../database/writes.ts';
import { Read, Takes } from '../problem/body.ts';
import { RouteChanges } from './routeChanges.ts';

@ApiTags('steps')
@Controller('api')
export class TemplateController {
  readonly changes: RouteChanges;
  constructor(@Inject(RouteChanges) changes: RouteChanges) {
    this.changes = changes;
  }

  /** Routes that the shop keeps under a name. */
  @Get('route-templates')
  list(): Promise<RouteTemplateView[]> {
    return this.changes.kept();
  }

  /** The route of a job, kept for the jobs to come. */
  @Needs('foreman')
  @Post('jobs/:number/route/template')
  @Takes(keepRouteBody)
  keep(
    @Param('number') number: string,
    @Read(keepRouteBody) body: z.output<typeof keepRouteBody>,
    @Acting() act: Act,
  ): Promise<{ id: string }> {
    return this.changes.keep(act, number, body.name);
  }

  /** It is not offered any more; jobs that took it keep it. */
  @Needs('foreman')
  @Post('route-templates/:id/retirement')
  @HttpCode(200)
  @Takes(retireRouteBody)
  async retire(
    @Param('id', ParseUUIDPipe) id: string,
    @Read(retireRouteBody) body: z.output<typeof retireRouteBody>,
    @Acting() act: Act,
  ): Promise<{ done: true }> {
    await this.changes.retire(act, id, body.reason);
    return { done: true };
  }
}
