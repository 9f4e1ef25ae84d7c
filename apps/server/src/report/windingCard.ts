import {
  CAUTIONS,
  connect,
  connectionRing,
  drawingToSvg,
  formatNumber,
  formatQuantity,
  insulatedDiameterM,
  layoutOfRecord,
  leadMark,
  possibleCircuits,
  runCalculation,
  sayFigure,
  slotRing,
  windingFigures,
  windingRecordSchema,
  type FigureKey,
  type Nameplate,
  type WindingRecord,
} from '@norther/core';
import type { JobDetail, ShopSettings } from '@norther/contracts';
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

/** The connection that a record asks for, drawn; or the sentence that says why it is not drawn. */
export function connectionOf(record: WindingRecord) {
  const laid = layoutOfRecord(record);
  if (!laid.layout) return { why: laid.why };
  if (record.leads === '9' || record.leads === '12')
    return {
      layout: laid.layout,
      why: `${record.leads} leads: recorded and checked, not drawn yet. Join from the record and check each link.`,
    };
  if (!record.connection || record.circuits === undefined)
    return { layout: laid.layout, why: 'Connection and circuits are not recorded yet.' };
  const possible = possibleCircuits(laid.layout).find((p) => p.circuits === record.circuits);
  const jumper = record.jumper ?? possible?.jumpers[0] ?? 'adjacent-pole';
  try {
    return {
      layout: laid.layout,
      connection: connect(laid.layout, {
        connection: record.connection,
        circuits: record.circuits,
        jumper,
        leads: record.leads === '6' ? 6 : 3,
      }),
    };
  } catch (error) {
    return {
      layout: laid.layout,
      why: error instanceof Error ? error.message.replace(/^\w+: /, '') : 'This connection does not work.',
    };
  }
}

/** The one page a winder works from: black and white, drawing, table, code and room to sign. */
export function windingCard(job: JobDetail, settings: ShopSettings): PaperOptions {
  const view = job.plan ?? job.winding;
  const nameplate = job.nameplate as Nameplate;
  const record = windingRecordSchema.parse(view?.record ?? {});
  const figures = runCalculation(windingFigures, { record, nameplate }, { working: 'none' }).values;
  const made = connectionOf(record);
  const reader = settings.units;
  const said = (key: FigureKey) => sayFigure(key, figures, reader);
  const length = (metres: number | undefined) =>
    metres === undefined ? undefined : formatQuantity(metres, 'length', reader.lengthUnit);
  const paper = paperContext(settings);
  const marks = settings.leadMarks;
  const letters = marks === 'U' ? (['U', 'V', 'W'] as const) : (['A', 'B', 'C'] as const);
  const status = job.plan
    ? `Plan ${job.plan.revision}, released by ${job.plan.released?.by ?? ''} on ${paper.time(job.plan.at)}. ${job.plan.reason ?? ''}`
    : view
      ? `As found, revision ${view.revision}: not released for winding.`
      : 'No winding record yet.';
  const drawings: Piece[] = [];
  const ring = {
    svg: drawingToSvg(slotRing({ slots: record.slots ?? 24, layout: made.layout, size: 380, letters })),
    width: 232,
  };
  const { connection } = made;
  const layout = made.layout;
  if (layout && connection)
    drawings.push({
      columns: [ring, { svg: drawingToSvg(connectionRing(layout, connection, { size: 400, marks })), width: 262 }],
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
                (['A', 'B', 'C'] as const).map((phase, i) => [
                  letters[i] ?? phase,
                  connection.circuits
                    .filter((c) => c.phase === phase)
                    .map(
                      (c) =>
                        `${leadMark(c.from, marks)} – ${c.steps.map((st) => `${st.enter} ${st.leave}`).join(' – ')} – ${leadMark(c.to, marks)}`,
                    )
                    .join('  ;  '),
                ]),
                [28, '*'],
              ),
              grid(
                ['Joint', 'Ends that meet'],
                connection.nodes.map((n) => [leadMark(n.name, marks), n.ends.join('  ')]),
                [28, '*'],
              ),
            ],
            columnGap: 14,
          },
          ...(connection.links.length > 0
            ? [
                grid(
                  ['Leads linked for', 'to the lines', 'joined'],
                  connection.links.map((l) => [
                    l.use,
                    l.lines.map((x) => leadMark(x, marks)).join('   '),
                    l.links.map((x) => leadMark(x, marks)).join('   ') || '–',
                  ]),
                ),
              ]
            : []),
        ]
      : [];
  const spans = record.spansSlots?.map((y) => `1-${y + 1}`).join(', ');
  const content: Piece[] = [
    {
      columns: [
        [
          { text: settings.name, bold: true, fontSize: 9 },
          { text: `Winding card  ${job.number}`, bold: true, fontSize: 16 },
          { text: `${job.what} · ${job.customer}`, fontSize: 10 },
          { text: saidRating(nameplate), fontSize: 9 },
        ],
        { qr: `norther:job:${job.number}`, fit: 62, width: 70, alignment: 'right' },
      ],
    },
    { text: status, fontSize: 8, italics: true, margin: [0, 3, 0, 4] },
    pairs(
      [
        ['Slots / poles', record.slots && record.poles ? `${record.slots} / ${record.poles}` : undefined],
        [
          'Coils',
          [
            record.layers === 'single' ? 'single layer' : 'double layer',
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
            ? `${layout.groups.length} of ${[...new Set(layout.groups.map((g) => g.coils.length))].join(' and ')} coils: ${record.grouping?.join('-') ?? layout.groups.map((g) => g.coils.length).join('-')}`
            : undefined,
        ],
        ['Turns per coil', record.turns?.join(', ')],
        [
          'Connection',
          record.connection
            ? `${record.circuits ?? '?'}-circuit ${record.connection}, ${record.leads ?? '?'} leads, ${record.jumper === 'skip-pole' ? 'long jumpers 1-7' : 'short jumpers 1-4'}`
            : undefined,
        ],
        ['Wires in hand', saidWires(record)],
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
          'Lead to lead, 20 °C',
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
