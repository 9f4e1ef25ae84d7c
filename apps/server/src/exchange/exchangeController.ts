import { Body, Controller, Get, Inject, Param, Post, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { FastifyReply } from 'fastify';
import { Acting, Needs } from '../auth/guard.ts';
import type { Act } from '../database/writes.ts';
import { MostBytes } from '../http/routeFacts.ts';
import { jobTable } from './jobTable.ts';
import { Exchange } from './exchange.ts';

@ApiTags('exchange')
@Controller('api')
export class ExchangeController {
  readonly exchange: Exchange;
  constructor(@Inject(Exchange) exchange: Exchange) {
    this.exchange = exchange;
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
    const text = jobTable(await this.exchange.read.detail(number));
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
