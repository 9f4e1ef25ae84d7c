import {
  coilTable,
  connectionOfRecord,
  connectionRing,
  developedWinding,
  drawingToSvg,
  groupTable,
  harmonicBars,
  phasorStar,
  slotRing,
  slotSection,
  WINDING_PARTS,
  windingFile,
  type Connection,
  type Drawing,
  type Layout,
  type WindingFile,
  type WindingPart,
  type WindingRecord,
} from '@norther/core';
import type { ShopSettings } from '@norther/contracts';
import { Controller, Get, Header, Inject, Param, Res } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import type { FastifyReply } from 'fastify';
import Papa from 'papaparse';
import { ReadJob } from '../job/readJob.ts';
import { notFound, Problem } from '../problem/problem.ts';
import { makePdf } from '../report/paper.ts';
import { windingOfPart } from '../report/windingCard.ts';
import { Shop } from '../shop/shop.ts';

/** A winding as open files: record as JSON, coil and group tables as CSV, drawings as SVG and PDF. */
@ApiTags('winding')
@Controller('api/jobs/:number/winding/:part')
export class WindingFilesController {
  readonly read: ReadJob;
  readonly shop: Shop;
  constructor(@Inject(ReadJob) read: ReadJob, @Inject(Shop) shop: Shop) {
    this.read = read;
    this.shop = shop;
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
    const { drawings, job } = await this.drawn(number, part);
    const { settings } = await this.shop.view();
    const pdf = await makePdf({
      title: `Drawings ${number}`,
      settings,
      content: drawingPages(drawings).map((p, i) => (i > 0 ? { ...p, pageBreak: 'before' } : p)),
      landscape: true,
      footer: `${settings.name} · ${number} · ${job.what}`,
    });
    await reply
      .header('Content-Type', 'application/pdf')
      .header('Content-Disposition', `inline; filename="drawings-${number}-${part}.pdf"`)
      .send(pdf);
  }

  private async of(number: string, part: string) {
    const which = WINDING_PARTS.find((p) => p === part);
    if (!which) throw notFound(`winding ${part}; there are ${WINDING_PARTS.join(', ')}`);
    const job = await this.read.detail(number);
    const own = windingOfPart(job, which as WindingPart);
    if (!own.view) throw notFound(`${part} winding record of job ${number}`);
    return { job, own, which, made: connectionOfRecord(own.record) };
  }

  private async drawn(number: string, part: string) {
    const { job, own, made } = await this.of(number, part);
    if (!made.layout) throw new Problem(422, 'Not drawn', made.why);
    const { settings } = await this.shop.view();
    return { job, drawings: drawingsOf(own.record, made.layout, made.connection, settings) };
  }
}

/** A page for each drawing, as large as the sheet allows. */
export function drawingPages(drawings: ReadonlyMap<string, Drawing>): Record<string, unknown>[] {
  return [...drawings.values()].map((d) => ({
    stack: [
      { text: d.title, bold: true, fontSize: 12, margin: [0, 0, 0, 6] },
      { svg: drawingToSvg(d), fit: [770, 480], alignment: 'center' },
    ],
  }));
}

/** Every drawing of one winding, by the name of its file. */
export function drawingsOf(
  record: WindingRecord,
  layout: Layout,
  connection: Connection | undefined,
  settings: ShopSettings,
): Map<string, Drawing> {
  const letters = settings.leadMarks === 'U' ? (['U', 'V', 'W'] as const) : (['A', 'B', 'C'] as const);
  const drawings = new Map<string, Drawing>([
    ['slot-ring', slotRing({ slots: layout.slots, layout, letters })],
    ['developed', developedWinding(layout, { letters })],
    ...(connection ? [['connection', connectionRing(layout, connection, { marks: settings.leadMarks })] as const] : []),
    ['phasor-star', phasorStar(layout, { letters })],
    ['harmonics', harmonicBars(layout)],
  ]);
  const section = slotSection(record, layout);
  if (section.drawing) drawings.set('slot-section', section.drawing);
  return drawings;
}

function sendCsv(reply: FastifyReply, name: string, table: (string | number)[][]): void {
  void reply
    .header('Content-Type', 'text/csv; charset=utf-8')
    .header('Content-Disposition', `attachment; filename="${name}"`)
    .send(`${Papa.unparse(table)}\r\n`);
}
