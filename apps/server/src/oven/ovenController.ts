import {
  changeChamberBody,
  chamberBody,
  loadPartBody,
  newLoadBody,
  ovenEventBody,
  ovenLogBody,
  ovenReadingBody,
  probesBody,
  takeOutBody,
  type JobOvenView,
  type LoadView,
  type OvenCandidate,
  type OvenLogAnswer,
  type OvensView,
  type PartOutAnswer,
} from '@norther/contracts';
import { Controller, Get, HttpCode, Inject, Param, Post, Put, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { FastifyReply } from 'fastify';
import type { z } from 'zod';
import { Acting, Needs } from '../auth/guard.ts';
import type { Act } from '../database/writes.ts';
import { MOST_LOG_BYTES, MostBytes } from '../http/routeFacts.ts';
import { Read, Takes } from '../problem/body.ts';
import { notFound } from '../problem/problem.ts';
import { LoadLogs } from './loadLogs.ts';
import { LoadNotes } from './loadNotes.ts';
import { Loads } from './loads.ts';
import { Ovens } from './ovens.ts';
import { WorkThread } from '../thread/workThread.ts';
import { PartsOut } from './partsOut.ts';

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;
const known = (id: string, what: string): string => {
  if (!UUID.test(id)) throw notFound(what);
  return id;
};
const LOAD = 'such oven load';

@ApiTags('ovens')
@Controller('api')
export class OvenController {
  readonly ovens: Ovens;
  readonly loads: Loads;
  readonly logs: LoadLogs;
  readonly notes: LoadNotes;
  readonly out: PartsOut;
  readonly thread: WorkThread;
  constructor(
    @Inject(Ovens) ovens: Ovens,
    @Inject(Loads) loads: Loads,
    @Inject(LoadNotes) notes: LoadNotes,
    @Inject(PartsOut) out: PartsOut,
    @Inject(WorkThread) thread: WorkThread,
    @Inject(LoadLogs) logs: LoadLogs,
  ) {
    this.logs = logs;
    this.thread = thread;
    this.ovens = ovens;
    this.loads = loads;
    this.notes = notes;
    this.out = out;
  }

  /** Chambers, the loads in them and how each part stands. */
  @Get('ovens')
  view(): Promise<OvensView> {
    return this.ovens.view();
  }

  /** The loads that a motor stood or stands in. */
  @Get('jobs/:number/ovens')
  ofJob(@Param('number') number: string): Promise<JobOvenView[]> {
    return this.ovens.ofJob(number);
  }

  @Needs('foreman')
  @Post('ovens/chambers')
  @Takes(chamberBody)
  addChamber(@Read(chamberBody) body: z.output<typeof chamberBody>, @Acting() act: Act): Promise<{ id: string }> {
    return this.ovens.addChamber(act, body);
  }

  @Needs('foreman')
  @Put('ovens/chambers/:id')
  @Takes(changeChamberBody)
  changeChamber(
    @Param('id') id: string,
    @Read(changeChamberBody) body: z.output<typeof changeChamberBody>,
    @Acting() act: Act,
  ): Promise<{ id: string }> {
    return this.ovens.changeChamber(act, known(id, 'such chamber'), body);
  }

  @Needs('winder')
  @Post('ovens/loads')
  @Takes(newLoadBody)
  begin(
    @Read(newLoadBody) body: z.output<typeof newLoadBody>,
    @Acting() act: Act,
  ): Promise<{ id: string; number: number }> {
    return this.loads.begin(act, body);
  }

  @Get('ovens/loads/:id')
  load(@Param('id') id: string): Promise<LoadView> {
    return this.ovens.load(known(id, LOAD));
  }

  /** The sheet that hangs on the door: what is in it, and what is masked on each motor. */
  @Get('ovens/loads/:id/sheet.pdf')
  async sheet(@Param('id') id: string, @Res() reply: FastifyReply): Promise<void> {
    const load = await this.ovens.load(known(id, LOAD));
    const settings = await this.ovens.shop.settings();
    const motors = load.use === 'burn-off' ? [] : await this.ovens.motorsOf(load);
    await reply
      .header('Content-Type', 'application/pdf')
      .header('Content-Disposition', `inline; filename="load-${load.number}.pdf"`)
      .send(await this.thread.do('loadSheet', { load, motors, settings }));
  }

  /** What may still go in, and what stands against the rest. */
  @Get('ovens/loads/:id/candidates')
  candidates(@Param('id') id: string): Promise<OvenCandidate[]> {
    return this.ovens.candidates(known(id, LOAD));
  }

  /** A card scanned in. */
  @Needs('winder')
  @Post('ovens/loads/:id/parts')
  @Takes(loadPartBody)
  putIn(
    @Param('id') id: string,
    @Read(loadPartBody) body: z.output<typeof loadPartBody>,
    @Acting() act: Act,
  ): Promise<{ part: string }> {
    return this.loads.putIn(act, known(id, LOAD), body);
  }

  /** A card scanned out; judged by the part's own temperature. */
  @Needs('winder')
  @Post('ovens/loads/:id/parts/:part/out')
  @HttpCode(200)
  @Takes(takeOutBody)
  takeOut(
    @Param('id') id: string,
    @Param('part') part: string,
    @Read(takeOutBody) body: z.output<typeof takeOutBody>,
    @Acting() act: Act,
  ): Promise<PartOutAnswer> {
    return this.out.takeOut(act, known(id, LOAD), known(part, 'such part in this load'), body.reason);
  }

  @Needs('winder')
  @Post('ovens/loads/:id/start')
  @HttpCode(200)
  async start(@Param('id') id: string, @Acting() act: Act): Promise<{ done: true }> {
    await this.loads.start(act, known(id, LOAD));
    return { done: true };
  }

  /** Which sensor sits where. */
  @Needs('winder')
  @Put('ovens/loads/:id/probes')
  @Takes(probesBody)
  async probes(
    @Param('id') id: string,
    @Read(probesBody) body: z.output<typeof probesBody>,
    @Acting() act: Act,
  ): Promise<{ done: true }> {
    await this.notes.probes(act, known(id, LOAD), body);
    return { done: true };
  }

  /** A part temperature read by a person. */
  @Needs('winder')
  @Post('ovens/loads/:id/readings')
  @Takes(ovenReadingBody)
  async reading(
    @Param('id') id: string,
    @Read(ovenReadingBody) body: z.output<typeof ovenReadingBody>,
    @Acting() act: Act,
  ): Promise<{ done: true }> {
    await this.notes.reading(act, known(id, LOAD), body);
    return { done: true };
  }

  /** Its log as a file, beside or instead of what a logger sends. */
  @Needs('winder')
  @MostBytes(MOST_LOG_BYTES)
  @Post('ovens/loads/:id/logs')
  @Takes(ovenLogBody)
  log(
    @Param('id') id: string,
    @Read(ovenLogBody) body: z.output<typeof ovenLogBody>,
    @Acting() act: Act,
  ): Promise<OvenLogAnswer> {
    return this.logs.add(act, known(id, LOAD), body);
  }

  @Needs('winder')
  @Post('ovens/loads/:id/events')
  @Takes(ovenEventBody)
  async happened(
    @Param('id') id: string,
    @Read(ovenEventBody) body: z.output<typeof ovenEventBody>,
    @Acting() act: Act,
  ): Promise<{ done: true }> {
    await this.notes.happened(act, known(id, LOAD), body);
    return { done: true };
  }
}
