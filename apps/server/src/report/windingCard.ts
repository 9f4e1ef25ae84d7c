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

/** Wires in hand as the card says them. */
export function saidWires(record: WindingRecord): string | undefined {
  return record.strands
    ?.map(
      (s) =>
        `${s.count} × ${s.label || `${formatNumber(s.bareM * 1000)} mm`} (${formatNumber(s.bareM * 1000, 4)} mm bare, ${formatNumber(insulatedDiameterM(s.bareM, record.wireGrade === '1' ? 1 : 2) * 1000, 4)} over enamel)`,
    )
    .join(' + ');
}

/** Connection, circuits and leads as the card says them. */
export function saidConnection(record: WindingRecord): string | undefined {
  const jumpers = record.jumper === 'skip-pole' ? 'long jumpers 1-7' : 'short jumpers 1-4';
  const c = record.circuits ?? '?';
  if (record.kind === 'single-phase') return `${record.circuits ?? 1}-circuit main, ${jumpers}`;
  if (record.kind === 'two-speed')
    return `two speeds, ${record.duty ?? 'duty not recorded'}, ${sayCircuits(c)} in each half, 6 leads`;
  if (record.leads === '6 part-winding') return `two wyes of ${sayCircuits(c)} (part-winding), 6 leads, ${jumpers}`;
  if (!record.connection) return undefined;
  const halves = record.leads === '9' || record.leads === '12' ? ' in each half' : '';
  return halves
    ? `${record.connection}, ${sayCircuits(c)}${halves}, ${record.leads ?? '?'} leads, ${jumpers}`
    : `${c}-circuit ${record.connection}, ${record.leads ?? '?'} leads, ${jumpers}`;
}

export function saidRating(nameplate: Nameplate): string {
  return [
    nameplate.outputW === undefined ? '' : formatQuantity(nameplate.outputW, 'power', 'kW'),
    nameplate.voltagesV ? `${nameplate.voltagesV.map((v) => formatNumber(v)).join('/')} V` : '',
    nameplate.currentsA ? `${nameplate.currentsA.map((a) => formatNumber(a)).join('/')} A` : '',
    nameplate.frequencyHz === undefined ? '' : `${formatNumber(nameplate.frequencyHz)} Hz`,
    nameplate.speedRpm === undefined ? '' : `${formatNumber(nameplate.speedRpm)} r/min`,
    nameplate.insulationClass === undefined ? '' : `class ${nameplate.insulationClass}`,
  ]
    .filter(Boolean)
    .join(' · ');
}

/** Coils of the groups round the bore, said shortly where they are all alike. */
const saidSequence = (sizes: readonly number[]): string =>
  // spaces let a long row of uneven groups wrap, so that it does not widen its column
  sizes.every((n) => n === sizes[0]) ? 'all alike' : sizes.join(' ');

/** What meets at each lead and star; two joints a line where there are many, so that the card stays one page. */
function jointGrid(joints: [string, string][]): Piece {
  if (joints.length <= 6) return grid(['Joint', 'Ends that meet'], joints, [28, '*']);
  const half = Math.ceil(joints.length / 2);
  return grid(
    ['Joint', 'Ends that meet', 'Joint', 'Ends that meet'],
    joints.slice(0, half).map((a, i) => [...a, ...(joints[half + i] ?? ['', ''])]),
    [28, '*', 28, '*'],
  );
}

/** What a changed rewind changes, framed so that nobody winds the old one by habit. */
function changedBox(redesign: NonNullable<WindingView['redesign']>): Piece {
  const changes = redesign.changes.map((c) => `${c.label} ${c.is} (was ${c.was})`).join('; ');
  return {
    table: {
      widths: ['*'],
      body: [
        [
          {
            text: [
              { text: 'CHANGED, NOT AS FOUND. ', bold: true },
              `${changes}.`,
              redesign.warnings.length > 0 ? ` Mind: ${redesign.warnings.join('; ')}.` : '',
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
): string | undefined {
  const { stripThicknessM, stripWidthM, stripsWide = 1, stripsHigh = 1, turnTapeM, groundWallM } = record;
  if (stripThicknessM === undefined || stripWidthM === undefined) return undefined;
  const coil = formCoilOf(record);
  return [
    `${stripsWide} × ${stripsHigh} of ${length(stripThicknessM) ?? ''} × ${length(stripWidthM) ?? ''}`,
    turnTapeM === undefined ? '' : `turn tape ${length(turnTapeM) ?? ''} a side`,
    groundWallM === undefined ? '' : `wall ${length(groundWallM) ?? ''} a side`,
    coil ? `coil ${length(coil.coilWidthM) ?? ''} × ${length(coil.coilHeightM) ?? ''}` : '',
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
  const marks = settings.leadMarks;
  const letters = marks === 'U' ? (['U', 'V', 'W'] as const) : (['A', 'B', 'C'] as const);
  const status = plan
    ? `Plan ${plan.revision}, released by ${plan.released?.by ?? ''} on ${paper.time(plan.at)}. ${plan.reason ?? ''}`
    : view
      ? `As found, revision ${view.revision}: not released for winding.`
      : 'No winding record yet.';
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
          heading('Groups, jumpers and leads (S = start, F = finish, seen from the connection end)'),
          {
            columns: [
              grid(
                ['Phase', 'Circuits, each from lead to lead or star'],
                layout.phases.map((phase, i) => [
                  layout.kind === 'single-phase' ? (i === 0 ? 'main' : 'aux.') : (letters[i] ?? phase),
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
              jointGrid(connection.nodes.map((n) => [leadMark(n.name, marks, layout.kind), n.ends.join('  ')])),
            ],
            columnGap: 14,
          },
          ...(connection.links.length > 0
            ? [
                grid(
                  ['Leads linked for', 'to the lines', 'joined'],
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
      heading('Winding path, seen from the bore, connection end up (+ counter-clockwise, − clockwise)'),
      grid(
        ['Circuit', 'From', 'Teeth', 'Jumps, slots', 'Start / finish slot', 'To'],
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
      heading(
        `Bar wave (t top, b bottom): far end ${wave.farPitch} slots, ring end ${wave.ringPitch}, after each tour ${wave.shortPitch}`,
      ),
      grid(
        ['Ring', 'First half, from the ring', 'Second half, to the star'],
        wave.phases.map((w, i) => [
          ['K', 'L', 'M'][i] ?? '',
          w.first.map(sayTour).join(' | '),
          w.second.map(sayTour).join(' | '),
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
            text: `Winding card  ${job.number}${sayPart(part) === '' ? '' : `  ${sayPart(part)}`}`,
            bold: true,
            fontSize: 16,
          },
          { text: `${job.what} · ${job.customer}`, fontSize: 10 },
          { text: saidRating(part === FIRST_PART ? nameplate : job.nameplate), fontSize: 9 },
        ],
        { qr: `norther:job:${job.number}`, fit: 62, width: 70, alignment: 'right' },
      ],
    },
    { text: status, fontSize: 8, italics: true, margin: [0, 3, 0, 4] },
    ...(plan?.redesign ? [changedBox(plan.redesign)] : []),
    pairs(
      [
        ['Slots / poles', record.slots && record.poles ? `${record.slots} / ${record.poles}` : undefined],
        [
          'Coils',
          [
            record.kind === 'two-speed' ? 'two speeds' : record.kind === 'single-phase' ? 'single-phase' : '',
            record.kind === 'single-phase'
              ? ''
              : record.layers === 'mixed'
                ? 'mixed single and double layer'
                : record.layers === 'single' || record.coilList
                  ? 'single layer'
                  : 'double layer',
            record.form,
            record.poleGroups === 'consequent' ? 'consequent pole' : '',
          ]
            .filter(Boolean)
            .join(', '),
        ],
        ['Span', spans],
        [
          'Groups',
          layout
            ? `${layout.groups.length} of ${[...new Set(layout.groups.map((g) => g.coils.length))].join(' and ')} coils: ${saidSequence(layout.groups.map((g) => g.coils.length))}`
            : undefined,
        ],
        ['Turns per coil', record.turns?.join(', ')],
        ...(record.kind === 'single-phase'
          ? ([
              ['Auxiliary', [record.auxKind, saySpans(record.auxSpansSlots)].filter(Boolean).join(', ') || undefined],
              [
                'Auxiliary turns, wire',
                [record.auxTurns?.join(', '), saidWires({ ...record, strands: record.auxStrands })]
                  .filter(Boolean)
                  .join('; ') || undefined,
              ],
              [
                'Auxiliary, 20 °C',
                figures.auxResistance20Ohm === undefined ? undefined : `${said('auxResistance20Ohm') ?? ''} expected`,
              ],
              [
                'Capacitor',
                record.capacitorF === undefined
                  ? undefined
                  : `${formatNumber(record.capacitorF * 1e6)} µF${record.auxCapacitorV === undefined ? '' : `, ${formatNumber(record.auxCapacitorV)} V`}`,
              ],
            ] as [string, string | undefined][])
          : []),
        ['Connection', saidConnection(record)],
        record.kind === 'form-wound' ? ['Strip', saidStrip(record, length)] : ['Wires in hand', saidWires(record)],
        [
          'Lead exit',
          [record.leadExit, record.connectionSide ? `lead end: ${record.connectionSide}` : '']
            .filter(Boolean)
            .join(', '),
        ],
        [
          'Wire from stock',
          figures.orderMassKg === undefined
            ? undefined
            : `${said('orderMassKg') ?? ''} (bare ${said('bareMassKg') ?? ''}, with enamel and 5 % waste)`,
        ],
        [
          'Mean turn',
          figures.meanTurnM === undefined ? undefined : `${said('meanTurnM') ?? ''}, from ${figures.meanTurnFrom}`,
        ],
        [
          record.kind === 'single-phase' ? 'Main, 20 °C' : 'Lead to lead, 20 °C',
          figures.lineResistance20Ohm === undefined ? undefined : `${said('lineResistance20Ohm') ?? ''} expected`,
        ],
        ['Volts per coil', said('voltsPerCoil')],
        [
          'Liner / separator',
          [length(record.linerM), length(record.separatorM)].filter(Boolean).join(' / ') || undefined,
        ],
        ['Wedge / phase paper', [record.wedge, record.phasePaper].filter(Boolean).join(' / ') || undefined],
        [
          'End turns',
          [length(record.extensionConnectionEndM), length(record.extensionOppositeEndM)]
            .filter(Boolean)
            .join(' lead end / other end ') || undefined,
        ],
        [
          'Slot fill',
          figures.insulatedSquareFill === undefined
            ? undefined
            : `${said('insulatedSquareFill') ?? ''} (insulated squares / net area)`,
        ],
      ],
      { columns: 2 },
    ),
    ...drawings,
    ...joints,
    {
      text: `Caution: ${CAUTIONS.S12} ${CAUTIONS.S13} ${CAUTIONS.S10} Local codes and licensed practice decide.`,
      fontSize: 7.5,
      margin: [0, 6, 0, 4],
    },
    {
      table: {
        widths: ['*', '*', '*', '*'],
        body: [
          [
            { text: 'Turns, second count:\n\n', fontSize: 8 },
            { text: 'Group mass, kg:\n\n', fontSize: 8 },
            { text: 'Wound by, date:\n\n', fontSize: 8 },
            { text: 'Checked by, date:\n\n', fontSize: 8 },
          ],
        ],
      },
    },
  ];
  return {
    title: `Winding card ${job.number}`,
    settings,
    content,
    footer: `${settings.name} · ${job.number} · ${job.what}`,
    margins: [30, 26, 30, 34],
  };
}
