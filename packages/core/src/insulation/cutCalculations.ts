import { z } from 'zod';
import { defineCalculation, refuse } from '../calculation.ts';
import { slotShapeSchema } from './bill.ts';
import { slotCellLengthM, slotCellWidthM, type SlotShape } from './cutSizes.ts';
import { nestOnRoll, nestOnSheet, withWaste } from './nesting.ts';
import { lifeFactor, systemClass } from './thermalClass.ts';

/** Calculation `insulation.slotCell`. */
export const insulationSlotCell = defineCalculation({
  id: 'insulation.slotCell',
  version: 1,
  title: 'Slot cell: developed width and length',
  sources: ['geometry (derived)', 'extensions and cuffs: common practice'],
  input: z.strictObject({
    slot: slotShapeSchema,
    allowanceM: z.number().min(-0.02).max(0.02).default(0).describe('each side above the slot; negative below'),
    thicknessM: z.number().min(0).max(0.003).default(0).describe('mid-line correction; 0 = none'),
    coreLengthM: z.number().positive().max(5),
    extensionM: z.number().min(0).max(0.2),
    cuffM: z.number().min(0).max(0.1).default(0),
  }),
  output: z.object({ widthM: z.number(), lengthM: z.number() }),
  example: {
    slot: { depthM: 0.02, topWidthM: 0.007, bottomWidthM: 0.007 },
    coreLengthM: 0.15,
    extensionM: 0.008,
    cuffM: 0.006,
  },
  compute: (x, note) => {
    if (x.slot.bottom === 'round' && (x.slot.bottomRadiusM ?? x.slot.topWidthM / 2) > x.slot.depthM)
      return refuse('slot.bottomRadiusM', 'The bottom radius is larger than the slot is deep.');
    const widthM = slotCellWidthM(x.slot as SlotShape, x.allowanceM, x.thicknessM);
    note?.({
      name: 'Developed width',
      symbol: 'W',
      formula:
        x.slot.bottom === 'flat'
          ? '2·√(d² + ((bt−bb)/2)²) + bb + 2a − 2t'
          : '2·√((d−r)² + ((bt−2r)/2)²) + π·r + 2a − π·t/2',
      numbers: `d ${(x.slot.depthM * 1000).toFixed(2)} mm, a ${(x.allowanceM * 1000).toFixed(2)} mm`,
      value: widthM * 1000,
      unit: 'mm',
      source: 'geometry',
    });
    return { widthM, lengthM: slotCellLengthM(x.coreLengthM, x.extensionM, x.cuffM) };
  },
});

/** Calculation `insulation.nesting`. */
export const insulationNesting = defineCalculation({
  id: 'insulation.nesting',
  version: 1,
  title: 'Pieces on sheet or roll: how many, how much',
  sources: ['geometry (derived)'],
  input: z.strictObject({
    pieces: z.int().min(1).max(100_000),
    waste: z.number().min(0).max(1).default(0.05),
    lengthM: z.number().positive().max(20).describe('of a piece; along the sheet, across the roll'),
    widthM: z.number().positive().max(20),
    gapM: z.number().min(0).max(0.1).default(0),
    from: z.discriminatedUnion('kind', [
      z.strictObject({
        kind: z.literal('sheet'),
        lengthM: z.number().positive().max(20),
        widthM: z.number().positive().max(20),
        grain: z.enum(['along', 'free']).default('along'),
      }),
      z.strictObject({ kind: z.literal('roll'), widthM: z.number().positive().max(20) }),
    ]),
  }),
  output: z.object({
    pieces: z.number(),
    perSheet: z.number().optional(),
    sheets: z.number().optional(),
    across: z.number().optional(),
    rows: z.number().optional(),
    lengthM: z.number().optional(),
  }),
  example: {
    pieces: 288,
    lengthM: 0.178,
    widthM: 0.047,
    from: { kind: 'sheet', lengthM: 1, widthM: 0.6, grain: 'along' },
  },
  compute: (x, note) => {
    const pieces = withWaste(x.pieces, x.waste);
    note?.({
      name: 'Pieces with waste',
      symbol: 'n',
      formula: '⌈n·(1 + w)⌉',
      numbers: `${x.pieces}·(1 + ${x.waste})`,
      value: pieces,
      unit: '',
      source: 'common practice',
    });
    if (x.from.kind === 'sheet') {
      const nest = nestOnSheet(pieces, x, x.from, x.gapM);
      if (!nest) return refuse('lengthM', 'A piece does not fit the sheet.');
      return { pieces, perSheet: nest.perSheet, sheets: nest.sheets };
    }
    const nest = nestOnRoll(pieces, { acrossM: x.lengthM, alongM: x.widthM }, x.from.widthM, x.gapM);
    if (!nest) return refuse('lengthM', 'A piece is wider than the roll.');
    return { pieces, across: nest.across, rows: nest.rows, lengthM: nest.lengthM };
  },
});

/** Calculation `insulation.systemClass`. */
export const insulationSystemClass = defineCalculation({
  id: 'insulation.systemClass',
  version: 1,
  title: 'Thermal class of an insulation system: its weakest member',
  sources: ['IEC 60085, IEC 60034-18 (from memory)', 'life ×2 for each 10 K cooler: common practice'],
  input: z.strictObject({
    members: z
      .array(z.strictObject({ name: z.string().max(80), classC: z.number().min(60).max(300).optional() }))
      .min(1)
      .max(30),
    tested: z
      .strictObject({ classC: z.number().min(60).max(300), certificate: z.string().trim().min(1).max(200) })
      .optional(),
    hotSpotC: z.number().min(0).max(400).optional(),
  }),
  output: z.object({
    classC: z.number().optional(),
    weakest: z.array(z.string()),
    unstated: z.array(z.string()),
    lifeFactor: z.number().optional(),
  }),
  example: {
    members: [
      { name: 'enamel', classC: 180 },
      { name: 'liner', classC: 155 },
      { name: 'cord', classC: 130 },
    ],
  },
  compute: (x, note) => {
    const system = systemClass(
      x.members.map((m) => ({ name: m.name, classC: m.classC })),
      x.tested,
    );
    note?.({
      name: 'Class of the system',
      symbol: 'T',
      formula: 'lowest member; unverified while one is unstated',
      numbers: x.members.map((m) => `${m.name} ${m.classC ?? '?'}`).join(', '),
      value: system.classC ?? 'not verified',
      unit: '°C',
      source: 'IEC 60085 (from memory)',
    });
    return {
      ...system,
      lifeFactor:
        system.classC === undefined || x.hotSpotC === undefined ? undefined : lifeFactor(system.classC, x.hotSpotC),
    };
  },
});
