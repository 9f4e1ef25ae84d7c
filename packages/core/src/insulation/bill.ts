import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';
import { conductorAreaM2, wiresInHand } from '../wire/strands.ts';
import { strandSchema } from '../wire/strandSchema.ts';
import { CONDUCTORS } from '../winding/copper.ts';
import { slotCellLengthM, slotCellWidthM, type SlotShape } from './cutSizes.ts';
import { jointCount } from './ends.ts';
import { withWaste } from './nesting.ts';

const length = z.number().min(0).max(20);

export const slotShapeSchema = z.strictObject({
  bottom: z.enum(['flat', 'round']).default('flat'),
  depthM: z.number().positive().max(1),
  topWidthM: z.number().positive().max(0.5),
  bottomWidthM: z.number().positive().max(0.5).optional(),
  bottomRadiusM: z.number().positive().max(0.25).optional(),
});

export const billInputSchema = z.strictObject({
  slots: z.int().min(6).max(144),
  layers: z.union([z.literal(1), z.literal(2)]),
  coils: z.int().min(1).optional().describe('mixed layers: coils counted; else from slots and layers'),
  slotsOfTwo: z.int().min(0).optional().describe('mixed layers: slots of two sides, each with a separator'),
  groups: z.int().min(1).max(288),
  phases: z.int().min(1).max(3).default(3),
  circuits: z.int().min(1).max(48).describe('of each half where a phase is brought out in halves'),
  halves: z.union([z.literal(1), z.literal(2)]).default(1),
  leads: z.int().min(2).max(24),
  internalStars: z.int().min(0).max(48).default(0),
  phaseBoundaries: z.int().min(0).optional().describe('left out = every group beside one of another phase'),
  papersPerBoundary: z.union([z.literal(1), z.literal(2)]).default(2),
  totalTurns: z.number().positive().describe('turns of all coils added up'),
  strands: z.array(strandSchema).min(1).max(3),
  material: z.enum(['copper', 'aluminium']).default('copper'),
  meanTurnM: z.number().positive().max(20),
  groupTailM: length.default(0.18),
  enamelShare: z.number().min(0).max(0.3).default(0.02),
  wireWaste: z.number().min(0).max(0.5).default(0.05),
  sheetWaste: z.number().min(0).max(0.5).default(0.05),
  sleeveWaste: z.number().min(0).max(0.5).default(0.1),
  sleevePerGroupEndM: length.default(0.16),
  jointSleeveM: length.default(0.06),
  leadM: length.default(0.6),
  slot: slotShapeSchema,
  linerAllowanceM: z.number().min(-0.02).max(0.02).default(0),
  linerThicknessM: z.number().min(0).max(0.003).default(0).describe('mid-line correction; 0 = none'),
  coreLengthM: z.number().positive().max(5),
  extensionM: length,
  cuffM: length.default(0),
});
export type BillInput = z.output<typeof billInputSchema>;

export interface BillFigures {
  coils: number;
  bundleM: number;
  strandM: number;
  bareKg: number;
  orderKg: number;
  linerWidthM: number;
  linerLengthM: number;
  liners: number;
  separators: number;
  wedges: number;
  phasePapers: number;
  seriesJoints: number;
  joints: number;
  groupSleeveM: number;
  jointSleeveM: number;
  leadCableM: number;
}

/** What a rewind takes, counted and measured, with its waste. Source: docs/derivations.md 13. */
export function billFigures(x: BillInput): BillFigures {
  const coils = x.coils ?? (x.layers === 2 ? x.slots : x.slots / 2);
  const bundleM = x.totalTurns * x.meanTurnM + 2 * x.groups * x.groupTailM;
  const bareKg = bundleM * conductorAreaM2(x.strands) * CONDUCTORS[x.material].densityKgM3;
  const joints = jointCount(x);
  return {
    coils,
    bundleM,
    strandM: bundleM * wiresInHand(x.strands),
    bareKg,
    orderKg: bareKg * (1 + x.enamelShare) * (1 + x.wireWaste),
    linerWidthM: slotCellWidthM(x.slot as SlotShape, x.linerAllowanceM, x.linerThicknessM),
    linerLengthM: slotCellLengthM(x.coreLengthM, x.extensionM, x.cuffM),
    liners: withWaste(x.slots, x.sheetWaste),
    separators: x.layers === 2 ? withWaste(x.slotsOfTwo ?? x.slots, x.sheetWaste) : 0,
    wedges: withWaste(x.slots, x.sheetWaste),
    phasePapers: (x.phaseBoundaries ?? x.groups) * x.papersPerBoundary,
    seriesJoints: joints.series,
    joints: joints.total,
    groupSleeveM: 2 * x.groups * x.sleevePerGroupEndM * (1 + x.sleeveWaste),
    jointSleeveM: joints.total * x.jointSleeveM * (1 + x.sleeveWaste),
    leadCableM: x.leads * x.leadM,
  };
}

/** Calculation `insulation.bill`. */
export const insulationBill = defineCalculation({
  id: 'insulation.bill',
  version: 1,
  title: 'Bill of material: wire, slot cells, separators, phase papers, joints, sleeving',
  sources: ['geometry and counting (derived)', 'IEC 60028 copper density', 'wastes and tails: common practice'],
  input: billInputSchema,
  output: z.object({
    coils: z.number(),
    bundleM: z.number(),
    strandM: z.number(),
    bareKg: z.number(),
    orderKg: z.number(),
    linerWidthM: z.number(),
    linerLengthM: z.number(),
    liners: z.number(),
    separators: z.number(),
    wedges: z.number(),
    phasePapers: z.number(),
    seriesJoints: z.number(),
    joints: z.number(),
    groupSleeveM: z.number(),
    jointSleeveM: z.number(),
    leadCableM: z.number(),
  }),
  example: {
    slots: 36,
    layers: 2,
    groups: 12,
    circuits: 2,
    leads: 6,
    totalTurns: 324,
    strands: [
      { count: 2, bareM: 0.0009 },
      { count: 1, bareM: 0.00085 },
    ],
    meanTurnM: 0.74,
    slot: { bottom: 'round', depthM: 0.021, topWidthM: 0.0076, bottomRadiusM: 0.0038 },
    coreLengthM: 0.15,
    extensionM: 0.008,
    cuffM: 0.006,
  },
  compute: (x, note) => {
    const bill = billFigures(x);
    note?.({
      name: 'Bundle of wire',
      symbol: 'ℓ',
      formula: 'Σ turns · mean turn + 2·G·tail',
      numbers: `${x.totalTurns} · ${x.meanTurnM} + 2 · ${x.groups} · ${x.groupTailM}`,
      value: bill.bundleM,
      unit: 'm',
      source: 'counting',
    });
    note?.({
      name: 'Wire to order',
      symbol: 'm',
      formula: 'ℓ · ΣA · ρ · (1 + enamel) · (1 + waste)',
      numbers: `${bill.bundleM.toFixed(2)} m · ${(conductorAreaM2(x.strands) * 1e6).toFixed(4)} mm²`,
      value: bill.orderKg,
      unit: 'kg',
      source: 'IEC 60028; waste common practice',
    });
    note?.({
      name: 'Slot cell',
      symbol: 'W × L',
      formula:
        x.slot.bottom === 'flat'
          ? 'W = 2·√(d² + ((bt−bb)/2)²) + bb + 2a; L = core + 2(e + c)'
          : 'W = 2·√((d−r)² + ((bt−2r)/2)²) + π·r + 2a; L = core + 2(e + c)',
      numbers: `d ${(x.slot.depthM * 1000).toFixed(1)} mm`,
      value: `${(bill.linerWidthM * 1000).toFixed(1)} × ${(bill.linerLengthM * 1000).toFixed(1)}`,
      unit: 'mm',
      source: 'geometry',
    });
    note?.({
      name: 'Joints',
      symbol: 'n',
      formula: 'G − m·a·s + leads + star',
      numbers: `${x.groups} − ${x.phases}·${x.circuits}·${x.halves} + ${x.leads} + ${x.internalStars}`,
      value: bill.joints,
      unit: '',
      source: 'counting',
    });
    return bill;
  },
});
