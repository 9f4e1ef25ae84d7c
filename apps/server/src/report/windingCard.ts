import { windingOfPart } from '@norther/contracts';
import { sayCircuits, sayCoils, saySpans } from '@norther/core';
import {
  CAUTIONS,
  connectionOfRecord,
  connectionRing,
  formCoilOf,
  pathOf,
  sayTour,
  waveOf,
  sayRun,
  drawingToSvg,
  formatNumber,
  formatQuantity,
  insulatedDiameterM,
  leadMark,
  FIRST_PART,
  sayPart,
  runCalculation,
  sayFigure,
  slotRing,
  windingFigures,
  type FigureKey,
  type Nameplate,
  type WindingPart,
  type WindingRecord,
} from '@norther/core';
import type { JobDetail, ShopSettings, WindingView } from '@norther/contracts';
import { grid, heading, pairs, paperContext, type PaperOptions, type Piece } from './paper.ts';
import type { PaperWords } from './words.ts';

/** Wires in hand as the card says them. */
export function saidWires(record: WindingRecord, { card: w }: PaperWords): string | undefined {
  return record.strands
    ?.map((s) =>
      w.wire(
        s.count,
        s.label || `${formatNumber(s.bareM * 1000)} mm`,
        formatNumber(s.bareM * 1000, 4),
        formatNumber(insulatedDiameterM(s.bareM, record.wireGrade === '1' ? 1 : 2) * 1000, 4),
      ),
    )
    .join(' + ');
}

/** Connection, circuits and leads as the card says them. */
export function saidConnection(record: WindingRecord, { card: w }: PaperWords): string | undefined {
  const jumpers = record.jumper === 'skip-pole' ? w.longJumpers : w.shortJumpers;
  const c = record.circuits ?? '?';
  if (record.kind === 'single-phase') return w.singleMain(record.circuits ?? 1, jumpers);
  if (record.kind === 'two-speed') return w.twoSpeeds(record.duty, sayCircuits(c));
  if (record.leads === '6 part-winding') return w.partWinding(sayCircuits(c), jumpers);
  if (!record.connection) return undefined;
  const halves = record.leads === '9' || record.leads === '12';
  return halves
    ? w.halves(record.connection, sayCircuits(c), record.leads ?? '?', jumpers)
    : w.connection(c, record.connection, record.leads ?? '?', jumpers);
}

export function saidRating(nameplate: Nameplate, { card: w }: PaperWords): string {
  return [
    nameplate.outputW === undefined ? '' : formatQuantity(nameplate.outputW, 'power', 'kW'),
    nameplate.voltagesV ? `${nameplate.voltagesV.map((v) => formatNumber(v)).join('/')} V` : '',
    nameplate.currentsA ? `${nameplate.currentsA.map((a) => formatNumber(a)).join('/')} A` : '',
    nameplate.frequencyHz === undefined ? '' : `${formatNumber(nameplate.frequencyHz)} Hz`,
    nameplate.speedRpm === undefined ? '' : `${formatNumber(nameplate.speedRpm)} r/min`,
    nameplate.insulationClass === undefined ? '' : w.insulationClass(nameplate.insulationClass),
  ]
    .filter(Boolean)
    .join(' · ');
}

/** Coils of the groups round the bore, said shortly where they are all alike. */
const saidSequence = (sizes: readonly number[], w: PaperWords['card']): string =>
  // spaces let a long row of uneven groups wrap, so that it does not widen its column
  sizes.every((n) => n === sizes[0]) ? w.allAlike : sizes.join(' ');

/** What meets at each lead and star; two joints a line where there are many, so that the card stays one page. */
function jointGrid(joints: [string, string][], w: PaperWords['card']): Piece {
  if (joints.length <= 6) return grid([w.joint, w.ends], joints, [28, '*']);
  const half = Math.ceil(joints.length / 2);
  return grid(
    [w.joint, w.ends, w.joint, w.ends],
    joints.slice(0, half).map((a, i) => [...a, ...(joints[half + i] ?? ['', ''])]),
    [28, '*', 28, '*'],
  );
}

/** What a changed rewind changes, framed so that nobody winds the old one by habit. */
function changedBox(redesign: NonNullable<WindingView['redesign']>, w: PaperWords['card']): Piece {
  const changes = redesign.changes.map(w.change).join('; ');
  return {
    table: {
      widths: ['*'],
      body: [
        [
          {
            text: [
              { text: w.changed, bold: true },
              `${changes}.`,
              redesign.warnings.length > 0 ? w.mind(redesign.warnings) : '',
            ],
            fontSize: 9,
          },
        ],
      ],
    },
    margin: [0, 0, 0, 4],
  };
}

/** Strip of a form-wound coil, its tape and its wall. */
function saidStrip(
  record: WindingRecord,
  length: (metres: number | undefined) => string | undefined,
  w: PaperWords['card'],
): string | undefined {
  const { stripThicknessM, stripWidthM, stripsWide = 1, stripsHigh = 1, turnTapeM, groundWallM } = record;
  if (stripThicknessM === undefined || stripWidthM === undefined) return undefined;
  const coil = formCoilOf(record);
  return [
    w.strips(stripsWide, stripsHigh, length(stripThicknessM) ?? '', length(stripWidthM) ?? ''),
    turnTapeM === undefined ? '' : w.turnTape(length(turnTapeM) ?? ''),
    groundWallM === undefined ? '' : w.wall(length(groundWallM) ?? ''),
    coil ? w.coil(length(coil.coilWidthM) ?? '', length(coil.coilHeightM) ?? '') : '',
  ]
    .filter(Boolean)
    .join(', ');
}

/** The one page a winder works from: black and white, drawing, table, code and room to sign. */
export function windingCard(job: JobDetail, settings: ShopSettings, part: WindingPart = FIRST_PART): PaperOptions {
  const own = windingOfPart(job, part);
  const { shown: view, plan, record, nameplate } = own;
  const figures = runCalculation(windingFigures, { record, nameplate }, { working: 'none' }).values;
  const made = connectionOfRecord(record);
  const reader = settings.units;
  const said = (key: FigureKey) => sayFigure(key, figures, reader);
  const length = (metres: number | undefined) =>
    metres === undefined ? undefined : formatQuantity(metres, 'length', reader.lengthUnit);
  const paper = paperContext(settings);
  const { words } = paper;
  const w = words.card;
  const marks = settings.leadMarks;
  const letters = marks === 'U' ? (['U', 'V', 'W'] as const) : (['A', 'B', 'C'] as const);
  const status = plan
    ? w.planned(plan.revision, plan.released?.by ?? '', paper.time(plan.at), plan.reason ?? '')
    : view
      ? w.asFound(view.revision)
      : w.none;
  // many leads, links and circuits take room from the drawings, so that the card stays one page
  const rows =
    Math.max(made.connection?.circuits.length ?? 0, (made.connection?.nodes.length ?? 0) / 2) +
    (made.connection?.links.length ?? 0);
  const share = (rows > 9 ? 0.86 : 1) * (plan?.redesign ? 0.9 : 1);
  const drawings: Piece[] = [];
  const ring = {
    svg: drawingToSvg(slotRing({ slots: record.slots ?? 24, layout: made.layout, size: 380, letters })),
    width: 232 * share,
  };
  const { connection } = made;
  const layout = made.layout;
  if (layout && connection)
    drawings.push({
      columns: [
        ring,
        { svg: drawingToSvg(connectionRing(layout, connection, { size: 400, marks })), width: 262 * share },
      ],
      columnGap: 16,
    });
  else drawings.push({ columns: [ring, { text: made.why ?? '', margin: [0, 60, 0, 0], bold: true }], columnGap: 16 });
  const joints: Piece[] =
    layout && connection
      ? [
          heading(w.connections),
          {
            columns: [
              grid(
                [w.phase, w.circuits],
                layout.phases.map((phase, i) => [
                  layout.kind === 'single-phase' ? (i === 0 ? w.main : w.aux) : (letters[i] ?? phase),
                  connection.circuits
                    .filter((c) => c.phase === phase)
                    .map(
                      (c) =>
                        `${leadMark(c.from, marks, layout.kind)} – ${c.steps.map((st) => `${st.enter} ${st.leave}`).join(' – ')} – ${leadMark(c.to, marks, layout.kind)}`,
                    )
                    .join('  ;  '),
                ]),
                [28, '*'],
              ),
              jointGrid(
                connection.nodes.map((n) => [leadMark(n.name, marks, layout.kind), n.ends.join('  ')]),
                w,
              ),
            ],
            columnGap: 14,
          },
          ...(connection.links.length > 0
            ? [
                grid(
                  w.linkHead,
                  connection.links.map((l) => [
                    l.use,
                    l.lines.map((x) => leadMark(x, marks, layout.kind)).join('   '),
                    l.links.map((x) => leadMark(x, marks, layout.kind)).join('   ') || '–',
                  ]),
                ),
              ]
            : []),
        ]
      : [];
  const way = layout && pathOf(record, layout);
  if (way)
    joints.push(
      heading(w.path),
      grid(
        w.pathHead,
        way.runs.map((r) => [
          `${letters[r.phase === 'A' ? 0 : r.phase === 'B' ? 1 : 2] ?? r.phase} ${r.circuit}`,
          r.from,
          sayRun(r),
          r.steps
            .slice(1)
            .map((st) => st.jump)
            .join(', ') || '–',
          `${r.startSlot} / ${r.finishSlot}`,
          r.to,
        ]),
      ),
    );
  const wave = waveOf(record);
  if (wave)
    joints.push(
      heading(w.wave(wave.farPitch, wave.ringPitch, wave.shortPitch)),
      grid(
        w.waveHead,
        wave.phases.map((p, i) => [
          ['K', 'L', 'M'][i] ?? '',
          p.first.map(sayTour).join(' | '),
          p.second.map(sayTour).join(' | '),
        ]),
      ),
    );
  const spans = sayCoils(record);
  const content: Piece[] = [
    {
      columns: [
        [
          { text: settings.name, bold: true, fontSize: 9 },
          {
            text: w.head(job.number, sayPart(part)),
            bold: true,
            fontSize: 16,
          },
          { text: `${job.what} · ${job.customer}`, fontSize: 10 },
          { text: saidRating(part === FIRST_PART ? nameplate : job.nameplate, words), fontSize: 9 },
        ],
        { qr: `norther:job:${job.number}`, fit: 62, width: 70, alignment: 'right' },
      ],
    },
    { text: status, fontSize: 8, italics: true, margin: [0, 3, 0, 4] },
    ...(plan?.redesign ? [changedBox(plan.redesign, w)] : []),
    pairs(
      [
        [w.slotsPoles, record.slots && record.poles ? `${record.slots} / ${record.poles}` : undefined],
        [
          w.coils,
          [
            record.kind === 'two-speed' ? w.kinds.twoSpeed : record.kind === 'single-phase' ? w.kinds.single : '',
            record.kind === 'single-phase'
              ? ''
              : record.layers === 'mixed'
                ? w.kinds.mixed
                : record.layers === 'single' || record.coilList
                  ? w.kinds.singleLayer
                  : w.kinds.doubleLayer,
            record.form,
            record.poleGroups === 'consequent' ? w.kinds.consequent : '',
          ]
            .filter(Boolean)
            .join(', '),
        ],
        [w.span, spans],
        [
          w.groups,
          layout
            ? w.saidGroups(
                layout.groups.length,
                [...new Set(layout.groups.map((g) => g.coils.length))].join(w.and),
                saidSequence(
                  layout.groups.map((g) => g.coils.length),
                  w,
                ),
              )
            : undefined,
        ],
        [w.turns, record.turns?.join(', ')],
        ...(record.kind === 'single-phase'
          ? ([
              [w.auxiliary, [record.auxKind, saySpans(record.auxSpansSlots)].filter(Boolean).join(', ') || undefined],
              [
                w.auxiliaryTurns,
                [record.auxTurns?.join(', '), saidWires({ ...record, strands: record.auxStrands }, words)]
                  .filter(Boolean)
                  .join('; ') || undefined,
              ],
              [
                w.auxiliary20,
                figures.auxResistance20Ohm === undefined ? undefined : w.expected(said('auxResistance20Ohm') ?? ''),
              ],
              [
                w.capacitor,
                record.capacitorF === undefined
                  ? undefined
                  : `${formatNumber(record.capacitorF * 1e6)} µF${record.auxCapacitorV === undefined ? '' : `, ${formatNumber(record.auxCapacitorV)} V`}`,
              ],
            ] as [string, string | undefined][])
          : []),
        [w.connectionName, saidConnection(record, words)],
        record.kind === 'form-wound' ? [w.strip, saidStrip(record, length, w)] : [w.wires, saidWires(record, words)],
        [
          w.leadExit,
          [record.leadExit, record.connectionSide ? w.leadEnd(record.connectionSide) : ''].filter(Boolean).join(', '),
        ],
        [
          w.fromStock,
          figures.orderMassKg === undefined
            ? undefined
            : w.saidStock(said('orderMassKg') ?? '', said('bareMassKg') ?? ''),
        ],
        [
          w.meanTurn,
          figures.meanTurnM === undefined
            ? undefined
            : w.saidMeanTurn(said('meanTurnM') ?? '', figures.meanTurnFrom ?? ''),
        ],
        [
          record.kind === 'single-phase' ? w.main20 : w.line20,
          figures.lineResistance20Ohm === undefined ? undefined : w.expected(said('lineResistance20Ohm') ?? ''),
        ],
        [w.voltsPerCoil, said('voltsPerCoil')],
        [w.liner, [length(record.linerM), length(record.separatorM)].filter(Boolean).join(' / ') || undefined],
        [w.wedge, [record.wedge, record.phasePaper].filter(Boolean).join(' / ') || undefined],
        [
          w.endTurns,
          [length(record.extensionConnectionEndM), length(record.extensionOppositeEndM)]
            .filter(Boolean)
            .join(w.endToEnd) || undefined,
        ],
        [w.fill, figures.insulatedSquareFill === undefined ? undefined : w.saidFill(said('insulatedSquareFill') ?? '')],
      ],
      { columns: 2 },
    ),
    ...drawings,
    ...joints,
    {
      text: words.cautions([CAUTIONS.S12, CAUTIONS.S13, CAUTIONS.S10]),
      fontSize: 7.5,
      margin: [0, 6, 0, 4],
    },
    {
      table: {
        widths: ['*', '*', '*', '*'],
        body: [w.sign.map((text) => ({ text: `${text}\n\n`, fontSize: 8 }))],
      },
    },
  ];
  return {
    title: w.title(job.number),
    settings,
    content,
    footer: `${settings.name} · ${job.number} · ${job.what}`,
    margins: [30, 26, 30, 34],
  };
}
