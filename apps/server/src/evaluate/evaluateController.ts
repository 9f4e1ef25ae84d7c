import {
  balanceBody,
  cureBody,
  earlierWavesQuery,
  measureBody,
  reasonBody,
  testBody,
  traceCureBody,
  type EarlierTestView,
  type EarlierWaves,
  type KindReading,
} from '@norther/contracts';
import { Controller, Get, HttpCode, Inject, Param, Post, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { z } from 'zod';
import { Acting, Needs } from '../auth/guard.ts';
import type { Act } from '../database/writes.ts';
import { MOST_LOG_BYTES, MOST_WAVE_BYTES, MostBytes } from '../http/routeFacts.ts';
import { Read, read, Takes } from '../problem/body.ts';
import { Analysers } from './analysers.ts';
import { ComparedTests } from './comparedTests.ts';
import { Cures } from './cures.ts';
import { Evaluations } from './evaluations.ts';
import { TestTraces } from './testTraces.ts';

@ApiTags('tests')
@Controller('api/jobs/:number')
export class EvaluateController {
  readonly evaluations: Evaluations;
  readonly cures: Cures;
  readonly analysers: Analysers;
  readonly compared: ComparedTests;
  readonly traces: TestTraces;
  constructor(
    @Inject(Evaluations) evaluations: Evaluations,
    @Inject(Cures) cures: Cures,
    @Inject(Analysers) analysers: Analysers,
    @Inject(ComparedTests) compared: ComparedTests,
    @Inject(TestTraces) traces: TestTraces,
  ) {
    this.traces = traces;
    this.compared = compared;
    this.analysers = analysers;
    this.cures = cures;
    this.evaluations = evaluations;
  }

  @Needs('tester')
  @MostBytes(MOST_WAVE_BYTES)
  @Post('tests')
  @Takes(testBody)
  test(
    @Param('number') number: string,
    @Read(testBody) body: z.output<typeof testBody>,
    @Acting() act: Act,
  ): Promise<object> {
    return this.evaluations.test(act, number, body);
  }

  /** What was tested at the earlier visits of this motor. */
  @Get('tests/earlier-visits')
  earlierVisits(@Param('number') number: string): Promise<EarlierTestView[]> {
    return this.compared.visitsOf(number);
  }

  /** The waves that a surge comparison at a stage is set against; null where there are none. */
  @Get('tests/earlier-waves')
  async earlierWaves(
    @Param('number') number: string,
    @Query() query: Record<string, unknown>,
  ): Promise<{ waves: EarlierWaves }> {
    const { rotor, ...asked } = read(earlierWavesQuery, query);
    return { waves: (await this.traces.earlierWaves(number, { ...asked, typed: { rotor } })) ?? null };
  }

  /** The newest reading of a test of each other motor of its kind. */
  @Get('tests/of-its-kind')
  ofItsKind(@Param('number') number: string, @Query('kind') kind?: string): Promise<KindReading[]> {
    return this.compared.ofItsKindOf(number, kind);
  }

  /** A test on a simulated analyser with this motor on it; a real one is started where it stands. */
  @Needs('tester')
  @Post('measure')
  @HttpCode(200)
  @Takes(measureBody)
  measure(
    @Param('number') number: string,
    @Read(measureBody) body: z.output<typeof measureBody>,
    @Acting() act: Act,
  ): Promise<object> {
    return this.analysers.measure(act, number, body);
  }

  @Needs('tester')
  @Post('tests/:id/sign')
  @HttpCode(200)
  @Takes(reasonBody)
  async sign(
    @Param('number') number: string,
    @Param('id') id: string,
    @Read(reasonBody) body: z.output<typeof reasonBody>,
    @Acting() act: Act,
  ): Promise<object> {
    await this.evaluations.signTest(act, number, id, body.reason);
    return { done: true };
  }

  @Needs('winder')
  @MostBytes(MOST_LOG_BYTES)
  @Post('cures')
  @Takes(cureBody)
  cure(
    @Param('number') number: string,
    @Read(cureBody) body: z.output<typeof cureBody>,
    @Acting() act: Act,
  ): Promise<object> {
    return this.cures.fromFile(act, number, body);
  }

  /** Judges what a logger has sent. */
  @Needs('winder')
  @Post('cures/from-trace')
  @Takes(traceCureBody)
  cureFromTrace(
    @Param('number') number: string,
    @Read(traceCureBody) body: z.output<typeof traceCureBody>,
    @Acting() act: Act,
  ): Promise<object> {
    return this.cures.fromTrace(act, number, body);
  }

  @Needs('winder')
  @Post('balances')
  @Takes(balanceBody)
  balance(
    @Param('number') number: string,
    @Read(balanceBody) body: z.output<typeof balanceBody>,
    @Acting() act: Act,
  ): Promise<object> {
    return this.evaluations.balance(act, number, body);
  }

  /** How a recorded verdict was worked out: names, formulas, numbers, sources. */
  @Get('workings/:id')
  working(@Param('number') number: string, @Param('id') id: string): Promise<unknown[]> {
    return this.evaluations.working(number, id);
  }
}
