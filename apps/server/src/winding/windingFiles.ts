import { windingOfPart } from '@norther/contracts';
import {
  coilTable,
  connectionOfRecord,
  drawingToSvg,
  groupTable,
  jointList,
  jointTable,
  leadMark,
  WINDING_PARTS,
  windingPartSchema,
  windingFile,
  type WindingFile,
} from '@norther/core';
import { Controller, Get, Header, Inject, Param, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { FastifyReply } from 'fastify';
import { ReadJob } from '../job/readJob.ts';
import { notFound, Problem } from '../problem/problem.ts';
import { sendCsv } from '../report/csv.ts';
import { Shop } from '../shop/shop.ts';
import { WorkThread } from '../thread/workThread.ts';
import { drawingsOf } from './drawings.ts';

/** A winding as open files: record as JSON, coil and group tables as CSV, drawings as SVG and PDF. */
@ApiTags('winding')
@Controller('api/jobs/:number/winding/:part')
export class WindingFilesController {
  readonly read: ReadJob;
  readonly shop: Shop;
  readonly thread: WorkThread;
  constructor(@Inject(ReadJob) read: ReadJob, @Inject(Shop) shop: Shop, @Inject(WorkThread) thread: WorkThread) {
    this.read = read;
    this.shop = shop;
    this.thread = thread;
  }

  @Get('record.json')
  @Header('Content-Type', 'application/json; charset=utf-8')
  async record(@Param('number') number: string, @Param('part') part: string): Promise<WindingFile> {
    const { job, own, which } = await this.of(number, part);
    return windingFile(`${number} ${job.what}`, which, own.nameplate, own.record);
  }

  @Get('coils.csv')
  async coils(@Param('number') number: string, @Param('part') part: string, @Res() reply: FastifyReply): Promise<void> {
    const { made } = await this.of(number, part);
    if (!made.layout) throw new Problem(422, 'Not drawn', made.why);
    sendCsv(reply, `coils-${number}-${part}.csv`, coilTable(made.layout));
  }

  @Get('groups.csv')
  async groups(
    @Param('number') number: string,
    @Param('part') part: string,
    @Res() reply: FastifyReply,
  ): Promise<void> {
    const { made, own } = await this.of(number, part);
    if (!made.layout) throw new Problem(422, 'Not drawn', made.why);
    sendCsv(reply, `groups-${number}-${part}.csv`, groupTable(own.record));
  }

  @Get('joints.csv')
  async jointsCsv(
    @Param('number') number: string,
    @Param('part') part: string,
    @Res() reply: FastifyReply,
  ): Promise<void> {
    const { list, marks, layout } = await this.jointsOf(number, part);
    sendCsv(
      reply,
      `joints-${number}-${part}.csv`,
      jointTable(list, (name) => leadMark(name, marks, layout.kind)),
    );
  }

  @Get('joints.json')
  async jointsJson(@Param('number') number: string, @Param('part') part: string): Promise<unknown> {
    const { list, marks, layout, connection, which } = await this.jointsOf(number, part);
    const say = (name: string) => leadMark(name, marks, layout.kind);
    return {
      format: 'norther-joints',
      version: 1,
      job: number,
      part: which,
      connection: connection.connection,
      circuitsPerPhase: connection.circuitsPerPhase,
      leads: connection.leads,
      joints: list.map((j) => ({ what: j.what, phase: j.phase, ends: j.ends.map(say), groups: j.groups })),
      circuits: connection.circuits.map((c) => ({ ...c, from: say(c.from), to: say(c.to) })),
      links: connection.links.map((l) => ({ use: l.use, lines: l.lines.map(say), joined: l.links.map(say) })),
    };
  }

  private async jointsOf(number: string, part: string) {
    const { made, which } = await this.of(number, part);
    if (!made.connection) throw new Problem(422, 'Not drawn', made.why);
    const settings = await this.shop.settings();
    return {
      which,
      layout: made.layout,
      connection: made.connection,
      list: jointList(made.connection, 'jumpers first'),
      marks: settings.leadMarks,
    };
  }

  @Get('drawings/:name.svg')
  async svg(
    @Param('number') number: string,
    @Param('part') part: string,
    @Param('name') name: string,
    @Res() reply: FastifyReply,
  ): Promise<void> {
    const { drawings } = await this.drawn(number, part);
    const drawing = drawings.get(name);
    if (!drawing) throw notFound(`drawing ${name}; there are ${[...drawings.keys()].join(', ')}`);
    await reply
      .header('Content-Type', 'image/svg+xml; charset=utf-8')
      .header('Content-Disposition', `attachment; filename="${name}-${number}-${part}.svg"`)
      .send(drawingToSvg(drawing));
  }

  @Get('drawings.pdf')
  async pdf(@Param('number') number: string, @Param('part') part: string, @Res() reply: FastifyReply): Promise<void> {
    const { job, made, which } = await this.of(number, part);
    if (!made.layout) throw new Problem(422, 'Not drawn', made.why);
    const settings = await this.shop.settings();
    const pdf = await this.thread.do('drawings', { job, settings, part: which });
    await reply
      .header('Content-Type', 'application/pdf')
      .header('Content-Disposition', `inline; filename="drawings-${number}-${part}.pdf"`)
      .send(pdf);
  }

  private async of(number: string, part: string) {
    const read = windingPartSchema.safeParse(part);
    if (!read.success) throw notFound(`winding ${part}; there are ${WINDING_PARTS.join(', ')}`);
    const job = await this.read.detail(number);
    const own = windingOfPart(job, read.data);
    if (!own.shown) throw notFound(`${part} winding record of job ${number}`);
    return { job, own, which: read.data, made: connectionOfRecord(own.record) };
  }

  private async drawn(number: string, part: string) {
    const { job, own, made } = await this.of(number, part);
    if (!made.layout) throw new Problem(422, 'Not drawn', made.why);
    const settings = await this.shop.settings();
    return { job, drawings: drawingsOf(own.record, own.nameplate, made.layout, made.connection, settings) };
  }
}
