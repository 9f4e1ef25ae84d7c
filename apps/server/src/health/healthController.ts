import { timingSafeEqual } from 'node:crypto';
import { Controller, Get, Inject, Req, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { FastifyReply, FastifyRequest } from 'fastify';
import { Open } from '../auth/guard.ts';
import { Problem } from '../problem/problem.ts';
import { Metrics } from './metrics.ts';
import { Readiness } from './readiness.ts';

const LOOPBACK = ['127.0.0.1', '::1', '::ffff:127.0.0.1'];

/** With a key set, by the key; else only from this machine, and not through a proxy on it. */
function mayCount(request: FastifyRequest): boolean {
  const key = process.env['NORTHER_METRICS_KEY'];
  if (!key) return LOOPBACK.includes(request.ip) && request.headers['x-forwarded-for'] === undefined;
  const said = Buffer.from(request.headers.authorization ?? '');
  const wanted = Buffer.from(`Bearer ${key}`);
  return said.length === wanted.length && timingSafeEqual(said, wanted);
}

@ApiTags('health')
@Controller('api')
export class HealthController {
  readonly readiness: Readiness;
  readonly metrics: Metrics;
  constructor(@Inject(Readiness) readiness: Readiness, @Inject(Metrics) metrics: Metrics) {
    this.readiness = readiness;
    this.metrics = metrics;
  }

  /** The process is alive. */
  @Open()
  @Get('health')
  health(): { status: 'ok' } {
    return { status: 'ok' };
  }

  /** It can do its work: database, migrations and queue. */
  @Open()
  @Get('ready')
  ready(): Promise<{ status: 'ready'; workers: number; waiting: number }> {
    return this.readiness.check();
  }

  /** What this process counts, as text for a collector: from this machine, or with `Authorization: Bearer NORTHER_METRICS_KEY`. */
  @Open()
  @Get('metrics')
  async count(@Req() request: FastifyRequest, @Res() reply: FastifyReply): Promise<void> {
    if (!mayCount(request))
      throw new Problem(
        403,
        'Not allowed',
        'Counts are given to this machine, or to whoever names the key NORTHER_METRICS_KEY.',
      );
    await reply.type(this.metrics.registry.contentType).send(await this.metrics.registry.metrics());
  }
}
