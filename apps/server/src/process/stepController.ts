import {
  finishStepBody,
  markPiecesBody,
  reasonBody,
  startStepBody,
  workBody,
  type PiecesDone,
} from '@norther/contracts';
import { Controller, HttpCode, Inject, Param, Post } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { z } from 'zod';
import { Acting, Needs } from '../auth/guard.ts';
import type { Act } from '../database/writes.ts';
import { Read, Takes } from '../problem/body.ts';
import { Spells } from './spells.ts';
import { Steps } from './steps.ts';

@ApiTags('steps')
@Controller('api/jobs/:number/steps/:code')
export class StepController {
  readonly steps: Steps;
  readonly spells: Spells;
  constructor(@Inject(Steps) steps: Steps, @Inject(Spells) spells: Spells) {
    this.steps = steps;
    this.spells = spells;
  }

  @Needs('winder')
  @Post('start')
  @HttpCode(200)
  @Takes(startStepBody)
  async start(
    @Param('number') number: string,
    @Param('code') code: string,
    @Read(startStepBody) body: z.output<typeof startStepBody>,
    @Acting() act: Act,
  ): Promise<{ done: true }> {
    await this.steps.start(act, number, code, body);
    return { done: true };
  }

  @Needs('winder')
  @Post('finish')
  @HttpCode(200)
  @Takes(finishStepBody)
  finish(
    @Param('number') number: string,
    @Param('code') code: string,
    @Read(finishStepBody) body: z.output<typeof finishStepBody>,
    @Acting() act: Act,
  ): Promise<{ verdict: string; reason: string }> {
    return this.steps.finish(act, number, code, body);
  }

  /** Joins a running step, leaves it for a while, or hands it over. */
  @Needs('winder')
  @Post('work')
  @HttpCode(200)
  @Takes(workBody)
  async work(
    @Param('number') number: string,
    @Param('code') code: string,
    @Read(workBody) body: z.output<typeof workBody>,
    @Acting() act: Act,
  ): Promise<{ done: true }> {
    await this.spells.work(act, number, code, body);
    return { done: true };
  }

  @Needs('winder')
  @Post('pieces')
  @HttpCode(200)
  @Takes(markPiecesBody)
  pieces(
    @Param('number') number: string,
    @Param('code') code: string,
    @Read(markPiecesBody) body: z.output<typeof markPiecesBody>,
    @Acting() act: Act,
  ): Promise<PiecesDone> {
    return this.steps.markPieces(act, number, code, body);
  }

  @Needs('foreman')
  @Post('reopen')
  @HttpCode(200)
  @Takes(reasonBody)
  async reopen(
    @Param('number') number: string,
    @Param('code') code: string,
    @Read(reasonBody) body: z.output<typeof reasonBody>,
    @Acting() act: Act,
  ): Promise<{ done: true }> {
    await this.steps.reopen(act, number, code, body.reason);
    return { done: true };
  }

  @Needs('foreman')
  @Post('waive')
  @HttpCode(200)
  @Takes(reasonBody)
  async waive(
    @Param('number') number: string,
    @Param('code') code: string,
    @Read(reasonBody) body: z.output<typeof reasonBody>,
    @Acting() act: Act,
  ): Promise<{ done: true }> {
    await this.steps.waive(act, number, code, body.reason);
    return { done: true };
  }

  /** Testers sign test operations; everything else is signed by a foreman. */
  @Needs('tester')
  @Post('sign')
  @HttpCode(200)
  @Takes(reasonBody)
  async sign(
    @Param('number') number: string,
    @Param('code') code: string,
    @Read(reasonBody) body: z.output<typeof reasonBody>,
    @Acting() act: Act,
  ): Promise<{ done: true }> {
    await this.steps.signOff(act, number, code, body.reason);
    return { done: true };
  }
}
