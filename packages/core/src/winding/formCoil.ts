import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';
import { chordM } from './endTurn.ts';

const DEG = Math.PI / 180;

/** Corner radius of rectangular wire by its thickness, m. Source: IEC 60317-0-2 (from memory). */
export function stripCornerM(thicknessM: number): number {
  const a = thicknessM * 1000;
  const r = a <= 1 ? a / 2 : a <= 1.6 ? 0.5 : a <= 2.24 ? 0.65 : a <= 3.55 ? 0.8 : 1;
  return r / 1000;
}

/** Area of a strip with rounded corners, m²: ab − 0.8584 r². */
export const stripAreaM2 = (thicknessM: number, widthM: number, cornerM = stripCornerM(thicknessM)): number =>
  thicknessM * widthM - (4 - Math.PI) * cornerM ** 2;

/** Lengths in m; builds are of both sides together, tapes and walls of one side. */
export const formCoilSchema = z.strictObject({
  thicknessM: z.number().positive().describe('bare strip, radially'),
  widthM: z.number().positive().describe('bare strip, across the slot'),
  cornerM: z.number().min(0).optional(),
  wide: z.int().min(1).max(8).default(1).describe('strips beside each other in a turn'),
  high: z.int().min(1).max(8).default(1).describe('strips over each other in a turn'),
  strandBuildM: z.number().min(0).default(0).describe('insulation of a strip, both sides together'),
  turnTapeM: z.number().min(0).default(0).describe('turn tape, one side'),
  wallM: z.number().positive().describe('ground wall, one side'),
  turns: z.int().min(1),
  slotWidthM: z.number().positive(),
  slotHeightM: z.number().positive(),
  separatorM: z.number().min(0).default(0),
  bottomStripM: z.number().min(0).default(0),
  topStripM: z.number().min(0).default(0),
  wedgeM: z.number().min(0).default(0),
  boreM: z.number().positive(),
  coreLengthM: z.number().positive(),
  slots: z.int().min(6),
  spanSlots: z.number().positive(),
  straightM: z.number().min(0).default(0.03).describe('straight part leaving the core, each end'),
  pinM: z.number().min(0).default(0.015).describe('diameter of the pin the knuckle is bent round'),
  gapM: z.number().min(0).default(0.004).describe('between two coils in the end turns'),
});
export type FormCoilInput = z.output<typeof formCoilSchema>;

export interface FormCoil {
  areaM2: number;
  turnWidthM: number;
  turnHeightM: number;
  coilWidthM: number;
  coilHeightM: number;
  widthRestM: number;
  depthRestM: number;
  meanDiameterM: number;
  tauM: number;
  sinSlant: number;
  slantDeg: number;
  knuckleM: number;
  meanTurnM: number;
  projectionM: number;
}

/**
 * Build-up and mean turn of a diamond coil of strip in an open slot. Undefined slant (sine of one or more) gives no mean turn: the
 * coils cannot pass each other. Source: derived (docs/derivations.md, strip coils).
 */
export function formCoil(x: FormCoilInput): FormCoil {
  const corner = x.cornerM ?? stripCornerM(x.thicknessM);
  const turnWidthM = x.wide * (x.widthM + x.strandBuildM) + 2 * x.turnTapeM;
  const turnHeightM = x.high * (x.thicknessM + x.strandBuildM) + 2 * x.turnTapeM;
  const coilWidthM = turnWidthM + 2 * x.wallM;
  const coilHeightM = x.turns * turnHeightM + 2 * x.wallM;
  const bottomD = x.boreM + 2 * (x.slotHeightM - x.bottomStripM - coilHeightM / 2);
  const topD = bottomD - 2 * (coilHeightM + x.separatorM);
  const meanDiameterM = (bottomD + topD) / 2;
  const tauM = chordM(meanDiameterM, 0, x.spanSlots, x.slots);
  const sinSlant = (coilWidthM + x.gapM) / ((Math.PI * meanDiameterM) / x.slots);
  const slant = Math.asin(Math.min(1, sinSlant));
  const knuckleM = (Math.PI * (x.pinM + coilHeightM)) / 2;
  return {
    areaM2: x.wide * x.high * stripAreaM2(x.thicknessM, x.widthM, corner),
    turnWidthM,
    turnHeightM,
    coilWidthM,
    coilHeightM,
    widthRestM: x.slotWidthM - coilWidthM,
    depthRestM: x.slotHeightM - (2 * coilHeightM + x.separatorM + x.bottomStripM + x.topStripM + x.wedgeM),
    meanDiameterM,
    tauM,
    sinSlant,
    slantDeg: slant / DEG,
    knuckleM,
    meanTurnM: 2 * (x.coreLengthM + 2 * x.straightM) + 2 * (tauM / Math.cos(slant) + knuckleM),
    projectionM: x.straightM + (tauM / 2) * Math.tan(slant) + x.pinM / 2 + coilHeightM,
  };
}

/** Stress of the ground wall, kV/mm: line voltage over √3 on one wall. */
export const wallStressKVmm = (lineV: number, wallM: number): number => lineV / Math.sqrt(3) / 1000 / (wallM * 1000);

/** The least straight part for a voltage, m: 10 mm and 5 mm for each kV (common practice). */
export const leastStraightM = (lineV: number): number => 0.01 + 0.005 * (lineV / 1000);

/** Calculation `winding.formCoil`. */
export const windingFormCoil = defineCalculation({
  id: 'winding.formCoil',
  version: 1,
  title: 'Form-wound coil of strip: build-up in the slot, rests, mean turn, projection',
  sources: [
    'IEC 60317-0-2 corner radii (from memory)',
    'coil geometry derived',
    'rests and straight part: common practice',
  ],
  input: formCoilSchema,
  output: z.object({
    areaM2: z.number(),
    turnWidthM: z.number(),
    turnHeightM: z.number(),
    coilWidthM: z.number(),
    coilHeightM: z.number(),
    widthRestM: z.number(),
    depthRestM: z.number(),
    meanDiameterM: z.number(),
    tauM: z.number(),
    sinSlant: z.number(),
    slantDeg: z.number(),
    knuckleM: z.number(),
    meanTurnM: z.number(),
    projectionM: z.number(),
  }),
  example: {
    thicknessM: 0.0018,
    widthM: 0.0071,
    wide: 1,
    high: 2,
    strandBuildM: 0.00015,
    turnTapeM: 0.00016,
    wallM: 0.0013,
    turns: 6,
    slotWidthM: 0.0106,
    slotHeightM: 0.065,
    separatorM: 0.002,
    bottomStripM: 0.001,
    topStripM: 0.001,
    wedgeM: 0.004,
    boreM: 0.48,
    coreLengthM: 0.5,
    slots: 60,
    spanSlots: 12,
    straightM: 0.03,
    pinM: 0.015,
    gapM: 0.0035,
  },
  compute: (x, note) => {
    const made = formCoil(x);
    const mm = (metres: number) => (metres * 1000).toFixed(2);
    note?.({
      name: 'Coil in the slot',
      symbol: 'w × h',
      formula: 'wide (b + build) + 2 tape + 2 wall; T (high (a + build) + 2 tape) + 2 wall',
      numbers: `turn ${mm(made.turnWidthM)} × ${mm(made.turnHeightM)} mm, ${x.turns} turns, wall ${mm(x.wallM)} mm`,
      value: `${mm(made.coilWidthM)} × ${mm(made.coilHeightM)}`,
      unit: 'mm',
      source: 'derived',
    });
    note?.({
      name: 'Mean turn',
      symbol: 'MLT',
      formula: '2(L + 2x) + 2(τ_c/cos φ + n_l), sin φ = (coil w + gap)/(πD_m/S), n_l = π(pin + coil h)/2',
      numbers: `D_m ${mm(made.meanDiameterM)}, τ_c ${mm(made.tauM)}, φ ${made.slantDeg.toFixed(2)}°, n_l ${mm(made.knuckleM)}`,
      value: made.meanTurnM * 1000,
      unit: 'mm',
      source: 'derived',
    });
    return made;
  },
});
