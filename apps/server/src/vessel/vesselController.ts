import {
  changeVesselBody,
  cycleNoteBody,
  newCycleBody,
  signalsBody,
  stageBody,
  vesselBody,
  type JobCycleView,
  type VesselView,
} from '@norther/contracts';
import { Controller, Get, HttpCode, Inject, Param, ParseUUIDPipe, Post, Put } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { z } from 'zod';
import { Acting, Needs } from '../auth/guard.ts';
import type { Act } from '../database/writes.ts';
import { Read, Takes } from '../problem/body.ts';
import { VesselSetUps } from './vesselSetUps.ts';
import { Vessels } from './vessels.ts';

@ApiTags('vessels')
@Controller('api')
export class VesselController {
  readonly vessels: Vessels;
  readonly setUps: VesselSetUps;
  constructor(@Inject(Vessels) vessels: Vessels, @Inject(VesselSetUps) setUps: VesselSetUps) {
    this.vessels = vessels;
    this.setUps = setUps;
  }

  /** Vessels, the cycle that runs in each, and what stands before its next stage. */
  @Get('vessels')
  list(): Promise<VesselView[]> {
    return this.vessels.list();
  }

  /** The cycles that a motor went through. */
  @Get('jobs/:number/cycles')
  ofJob(@Param('number') number: string): Promise<JobCycleView[]> {
    return this.vessels.ofJob(number);
  }

  @Needs('foreman')
  @Post('vessels')
  @Takes(vesselBody)
  add(@Read(vesselBody) body: z.output<typeof vesselBody>, @Acting() act: Act): Promise<{ id: string }> {
    return this.setUps.add(act, body);
  }

  @Needs('foreman')
  @Put('vessels/:id')
  @Takes(changeVesselBody)
  change(
    @Param('id', ParseUUIDPipe) id: string,
    @Read(changeVesselBody) body: z.output<typeof changeVesselBody>,
    @Acting() act: Act,
  ): Promise<{ id: string }> {
    return this.setUps.change(act, id, body);
  }

  @Needs('winder')
  @Post('vessels/:id/cycles')
  @Takes(newCycleBody)
  begin(
    @Param('id', ParseUUIDPipe) id: string,
    @Read(newCycleBody) body: z.output<typeof newCycleBody>,
    @Acting() act: Act,
  ): Promise<{ id: string; number: number }> {
    return this.vessels.begin(act, id, body);
  }

  /** The next stage begins. */
  @Needs('winder')
  @Post('vessels/cycles/:cycle/next')
  @HttpCode(200)
  @Takes(stageBody)
  next(
    @Param('cycle', ParseUUIDPipe) cycle: string,
    @Read(stageBody) body: z.output<typeof stageBody>,
    @Acting() act: Act,
  ): Promise<{ stage: string }> {
    return this.vessels.next(act, cycle, body.reason);
  }

  @Needs('winder')
  @Post('vessels/cycles/:cycle/notes')
  @Takes(cycleNoteBody)
  async note(
    @Param('cycle', ParseUUIDPipe) cycle: string,
    @Read(cycleNoteBody) body: z.output<typeof cycleNoteBody>,
    @Acting() act: Act,
  ): Promise<{ done: true }> {
    await this.vessels.note(act, cycle, body);
    return { done: true };
  }

  /** Signals read by a person, where the plant does not send them. */
  @Needs('winder')
  @Post('vessels/cycles/:cycle/signals')
  @Takes(signalsBody)
  async signals(
    @Param('cycle', ParseUUIDPipe) cycle: string,
    @Read(signalsBody) body: z.output<typeof signalsBody>,
    @Acting() act: Act,
  ): Promise<{ done: true }> {
    await this.vessels.signals(act, cycle, body);
    return { done: true };
  }
}
