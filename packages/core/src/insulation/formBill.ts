import { z } from 'zod';
import { defineCalculation, refuse } from '../calculation.ts';
import { CONDUCTORS } from '../winding/copper.ts';
import { formCoil } from '../winding/formCoil.ts';
import { formCoilInputOf } from '../winding/formCoilOf.ts';
import { layoutOfRecord } from '../winding/recordLayout.ts';
import { windingRecordSchema, type WindingRecord } from '../winding/record.ts';

/** What is taken where nobody says otherwise (common practice). */
export const FORM_BILL_USUAL = {
  turnTapeThicknessM: 0.00008,
  turnTapeWidthM: 0.02,
  wallTapeThicknessM: 0.00013,
  wallTapeWidthM: 0.025,
  spareCoils: 1,
  wasteShare: 0.05,
} as const;

export interface FormBillLine {
  use: 'strip' | 'turn tape' | 'ground-wall tape' | 'slot strip' | 'wedge';
  what: string;
  /** of a piece, m */
  lengthM?: number;
  widthM?: number;
  quantity: number;
  unit: 'pcs' | 'kg' | 'm';
  of: string;
}

/**
 * Metres of tape on a conductor: half-lapped, each layer builds two thicknesses a side, so a side of s holds s/(2t) layers, each of
 * perimeter over half the width. Source: derived.
 */
export const tapeM = (x: {
  lengthM: number;
  perimeterM: number;
  sideM: number;
  thicknessM: number;
  widthM: number;
}): number => (Math.max(1, Math.round(x.sideM / (2 * x.thicknessM))) * x.lengthM * x.perimeterM) / (x.widthM / 2);

/** What form-wound coils take: strip, tapes, separators, strips, wedges, with waste and spare coils. Undefined while a size is missing. */
export function formBill(
  record: WindingRecord,
  usual: Partial<Record<keyof typeof FORM_BILL_USUAL, number>> = {},
): { lines: FormBillLine[]; coils: number; bareKg: number } | undefined {
  const x = formCoilInputOf(record);
  const { layout } = layoutOfRecord(record);
  if (!x || !layout) return undefined;
  const u = { ...FORM_BILL_USUAL, ...usual };
  const made = formCoil(x);
  const coils = layout.coils.length;
  const all = coils + u.spareCoils;
  const material = CONDUCTORS[record.material ?? 'copper'];
  const turnsM = x.turns * made.meanTurnM;
  const stripM = all * turnsM * x.wide * x.high * (1 + u.wasteShare);
  const kgOf = (n: number) => n * turnsM * made.areaM2 * material.densityKgM3;
  const mm = (metres: number) => Number((metres * 1000).toFixed(2));
  const inSlot = x.coreLengthM + 2 * x.straightM;
  const lines: FormBillLine[] = [
    {
      use: 'strip',
      what: `Strip ${mm(x.thicknessM)} × ${mm(x.widthM)} mm`,
      quantity: kgOf(all) * (1 + u.wasteShare),
      unit: 'kg',
      of: `${stripM.toFixed(0)} m, ${all} coils, ${u.spareCoils} of them spare, ${100 * u.wasteShare} % waste`,
    },
  ];
  if (x.turnTapeM > 0)
    lines.push({
      use: 'turn tape',
      what: `Turn tape ${mm(u.turnTapeWidthM)} mm wide`,
      quantity:
        all *
        (1 + u.wasteShare) *
        tapeM({
          lengthM: turnsM,
          perimeterM: 2 * (made.turnWidthM + made.turnHeightM),
          sideM: x.turnTapeM,
          thicknessM: u.turnTapeThicknessM,
          widthM: u.turnTapeWidthM,
        }),
      unit: 'm',
      of: `half-lapped, ${mm(x.turnTapeM)} mm a side`,
    });
  lines.push({
    use: 'ground-wall tape',
    what: `Ground-wall tape ${mm(u.wallTapeWidthM)} mm wide`,
    quantity:
      all *
      (1 + u.wasteShare) *
      tapeM({
        lengthM: made.meanTurnM,
        perimeterM: 2 * (made.coilWidthM + made.coilHeightM),
        sideM: x.wallM,
        thicknessM: u.wallTapeThicknessM,
        widthM: u.wallTapeWidthM,
      }),
    unit: 'm',
    of: `half-lapped, ${mm(x.wallM)} mm a side`,
  });
  const slots = Math.ceil(x.slots * (1 + u.wasteShare));
  const piece = (use: FormBillLine['use'], name: string, thick: number) => {
    if (thick > 0)
      lines.push({
        use,
        lengthM: inSlot,
        widthM: x.slotWidthM,
        what: `${name} ${mm(thick)} mm`,
        quantity: slots,
        unit: 'pcs',
        of: `${mm(x.slotWidthM)} mm wide, ${mm(inSlot)} mm long`,
      });
  };
  piece('slot strip', 'Bottom strip', x.bottomStripM);
  piece('slot strip', 'Separator', x.separatorM);
  piece('slot strip', 'Top strip', x.topStripM);
  piece('wedge', 'Wedge', x.wedgeM);
  return { lines, coils, bareKg: kgOf(coils) };
}

/** Calculation `insulation.formBill`. */
export const insulationFormBill = defineCalculation({
  id: 'insulation.formBill',
  version: 1,
  title: 'Bill of form-wound coils: strip, tapes, separators, strips, wedges',
  sources: [
    'geometry and counting (derived)',
    'IEC 60028 copper density',
    'tapes, spare coil and waste: common practice',
  ],
  input: z.strictObject({
    record: windingRecordSchema,
    spareCoils: z.int().min(0).max(12).default(FORM_BILL_USUAL.spareCoils),
    wasteShare: z.number().min(0).max(0.5).default(FORM_BILL_USUAL.wasteShare),
    turnTapeWidthM: z.number().positive().default(FORM_BILL_USUAL.turnTapeWidthM),
    turnTapeThicknessM: z.number().positive().default(FORM_BILL_USUAL.turnTapeThicknessM),
    wallTapeWidthM: z.number().positive().default(FORM_BILL_USUAL.wallTapeWidthM),
    wallTapeThicknessM: z.number().positive().default(FORM_BILL_USUAL.wallTapeThicknessM),
  }),
  output: z.object({
    lines: z.array(
      z.object({
        use: z.string(),
        what: z.string(),
        quantity: z.number(),
        unit: z.enum(['pcs', 'kg', 'm']),
        of: z.string(),
        lengthM: z.number().optional(),
        widthM: z.number().optional(),
      }),
    ),
    coils: z.number(),
    bareKg: z.number(),
  }),
  example: {
    record: {
      kind: 'form-wound',
      slots: 60,
      poles: 4,
      spansSlots: [12],
      turns: [6],
      stripThicknessM: 0.0018,
      stripWidthM: 0.0071,
      stripsHigh: 2,
      strandBuildM: 0.00015,
      turnTapeM: 0.00016,
      groundWallM: 0.0013,
      slotWidthM: 0.0106,
      slotDepthM: 0.065,
      separatorM: 0.002,
      bottomStripM: 0.001,
      topStripM: 0.001,
      wedgeDepthM: 0.004,
      boreM: 0.48,
      coreLengthM: 0.5,
      circuits: 1,
      connection: 'wye',
    },
  },
  compute: ({ record, ...usual }) => {
    const made = formBill(record, usual);
    return (
      made ??
      refuse('record', 'The bill needs strip, wall, turns, slot, bore, core length and span of form-wound coils.')
    );
  },
});
