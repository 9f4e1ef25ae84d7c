import {
  CalculationInputError,
  connectionRing,
  connectionSchematic,
  developedWinding,
  drawingToSvg,
  formerDrawing,
  formerSheet,
  harmonicBars,
  leadMark,
  phasorStar,
  slotRing,
  slotSection,
  barWaveDrawing,
  formCoilDrawing,
  formCoilInputOf,
  pathOf,
  waveOf,
  terminalBoard,
  toothPathDrawing,
  type Connection,
  type Drawing,
  type Layout,
  type Nameplate,
  type WindingRecord,
} from '@norther/core';
import type { ShopSettings } from '@norther/contracts';

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
  nameplate: Nameplate,
  layout: Layout,
  connection: Connection | undefined,
  settings: ShopSettings,
): Map<string, Drawing> {
  const letters = settings.leadMarks === 'U' ? (['U', 'V', 'W'] as const) : (['A', 'B', 'C'] as const);
  const drawings = new Map<string, Drawing>([
    ['slot-ring', slotRing({ slots: layout.slots, layout, letters })],
    ['developed', developedWinding(layout, { letters })],
    ...(connection
      ? ([
          ['connection', connectionRing(layout, connection, { marks: settings.leadMarks })],
          ['schematic', connectionSchematic(layout, connection, { marks: settings.leadMarks, letters })],
        ] as const)
      : []),
    ['phasor-star', phasorStar(layout, { letters })],
    ['harmonics', harmonicBars(layout)],
  ]);
  const board = connection && terminalBoard(connection, (lead) => leadMark(lead, settings.leadMarks, layout.kind));
  if (board) drawings.set('terminal-board', board);
  const way = pathOf(record, layout);
  if (way) drawings.set('winding-path', toothPathDrawing(way, layout.slots, letters));
  const wave = waveOf(record);
  for (const own of wave?.phases ?? [])
    if (wave) drawings.set(`bar-wave-${own.phase.toLowerCase()}`, barWaveDrawing(wave, own));
  const coil = formCoilInputOf(record);
  if (coil) drawings.set('form-coil', formCoilDrawing(coil));
  const section = slotSection(record, layout);
  if (section.drawing) drawings.set('slot-section', section.drawing);
  try {
    for (const head of formerSheet(record, nameplate).heads)
      drawings.set(`former-${head.coil}`, formerDrawing(head, { unit: settings.units.lengthUnit }));
  } catch (error) {
    // sizes for the former are missing or do not go together: the other drawings stand without it
    if (!(error instanceof CalculationInputError)) throw error;
  }
  return drawings;
}
