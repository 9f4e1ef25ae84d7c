import type { TraceView } from '@norther/contracts';
import { Body, Controller, Get, Inject, Param, Post, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { FastifyReply } from 'fastify';
import { Acting, Needs } from '../auth/guard.ts';
import type { Act } from '../database/writes.ts';
import { MostBytes } from '../http/routeFacts.ts';
import { jobTable } from './jobTable.ts';
import { Exchange } from './exchange.ts';
import { Traces } from '../trace/traces.ts';

@ApiTags('exchange')
@Controller('api')
export class ExchangeController {
  readonly exchange: Exchange;
  readonly traces: Traces;
  constructor(@Inject(Exchange) exchange: Exchange, @Inject(Traces) traces: Traces) {
    this.exchange = exchange;
    this.traces = traces;
  }

  @Get('jobs/:number/export.json')
  async json(@Param('number') number: string, @Res() reply: FastifyReply): Promise<void> {
    const file = await this.exchange.json(number);
    await reply
      .type('application/json')
      .header('Content-Disposition', `attachment; filename="job-${number}.json"`)
      .send(JSON.stringify(file, null, 1));
  }

  @Get('jobs/:number/export.csv')
  async csv(@Param('number') number: string, @Res() reply: FastifyReply): Promise<void> {
    const detail = await this.exchange.read.detail(number);
    const logs = new Map<string, TraceView>();
    for (const { trace } of detail.cures) logs.set(trace.id, await this.traces.window(trace.id, {}));
    const text = jobTable(detail, logs);
    await reply
      .type('text/csv; charset=utf-8')
      .header('Content-Disposition', `attachment; filename="job-${number}.csv"`)
      .send(`\uFEFF${text}`);
  }

  // a job file carries photographs as base64
  @Needs('admin')
  @MostBytes(200 * 1024 * 1024)
  @Post('import')
  bring(@Body() body: unknown, @Acting() act: Act): Promise<{ number: string }> {
    return this.exchange.bring(act, body);
  }
}
