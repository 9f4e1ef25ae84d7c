import { calculationOf, CATALOGUE, runCalculation, type CalculationResult } from '@norther/core';
import { Body, Controller, Get, HttpCode, Inject, Param, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { z } from 'zod';
import { Needs } from '../auth/guard.ts';
import { WorkThread } from '../thread/workThread.ts';
import { Database } from '../database/database.ts';
import { MOST_LOG_BYTES, MostBytes } from '../http/routeFacts.ts';
import { notFound } from '../problem/problem.ts';

@ApiTags('calculations')
@Controller('api')
export class CalculationController {
  readonly database: Database;
  readonly thread: WorkThread;
  constructor(@Inject(Database) database: Database, @Inject(WorkThread) thread: WorkThread) {
    this.database = database;
    this.thread = thread;
  }

  @Get('calculations')
  list(): object[] {
    return CATALOGUE.map((c) => ({
      id: c.id,
      version: c.version,
      title: c.title,
      sources: c.sources,
      example: c.example,
      input: z.toJSONSchema(c.input, { io: 'input', unrepresentable: 'any' }),
      output: z.toJSONSchema(c.output, { unrepresentable: 'any' }),
    }));
  }

  @Needs('viewer')
  @MostBytes(MOST_LOG_BYTES)
  @Post('calculations/:id')
  @HttpCode(200)
  async compute(@Param('id') id: string, @Body() input: unknown): Promise<CalculationResult> {
    const calculation = calculationOf(id);
    if (!calculation) throw notFound(`calculation "${id}"`);
    return calculation.heavy
      ? ((await this.thread.do('calculation', { id, input })) as CalculationResult)
      : runCalculation(calculation, input);
  }
}
