import { z } from 'zod';
import { strandSchema } from '../wire/strandSchema.ts';
import type { WireSize } from './substitute.ts';

export const redesignWishSchema = z.strictObject({
  lineVoltageV: z
    .number()
    .positive()
    .refine(
      (v) => v <= 1000,
      'Random-wound slot insulation is for up to 1000 V; a higher voltage wants form-wound coils.',
    )
    .optional()
    .describe('left out = as found'),
  frequencyHz: z.number().positive().max(400).optional(),
  powerRatio: z
    .number()
    .min(0.2)
    .max(3)
    .optional()
    .describe('wanted output over rated output; left out = torque kept, the output follows the speed'),
  flux: z
    .enum(['with the torque', 'as found'])
    .default('with the torque')
    .describe('air gap density follows the torque asked for, or is kept and only current and density follow it'),
  poles: z.int().min(2).max(48).multipleOf(2).optional(),
  connection: z.enum(['wye', 'delta']).optional().describe('left out = either'),
  circuits: z.int().min(1).max(48).optional().describe('as it runs; left out = every number that works'),
  spanSlots: z.int().min(1).max(72).optional().describe('left out = from two thirds of the pole pitch up'),
  form: z.enum(['lap', 'concentric']).optional().describe('left out = as found'),
  layers: z.enum(['double', 'single']).optional().describe('left out = as found'),
  lossAtMostPercent: z.number().min(-90).max(200).optional().describe('change of copper loss allowed; left out = any'),
  converterFed: z.boolean().default(false),
  mostWires: z.int().min(1).max(12).default(6),
  mostSizes: z.int().min(1).max(3).default(2),
});
export type RedesignWish = z.output<typeof redesignWishSchema>;

export const redesignWeightsSchema = z.strictObject({
  flux: z.number().min(0).max(100).default(4),
  loss: z.number().min(0).max(100).default(2),
  fill: z.number().min(0).max(100).default(1),
  ease: z.number().min(0).max(100).default(1),
});
export type RedesignWeights = z.output<typeof redesignWeightsSchema>;

export const stockWireSchema = z.strictObject({
  bareM: z.number().positive().max(0.02),
  label: z.string().min(1).max(24),
  massKg: z.number().min(0).optional(),
  pricePerKg: z.number().min(0).optional(),
});
export interface StockWire extends WireSize {
  /** kg free to take; undefined = not counted */
  massKg?: number | undefined;
  pricePerKg?: number | undefined;
}

/** What tells one candidate from another. */
export const candidateKeySchema = z.strictObject({
  poles: z.int().min(2).max(48).multipleOf(2),
  connection: z.enum(['wye', 'delta']),
  circuits: z.int().min(1).max(48),
  form: z.enum(['lap', 'concentric']),
  layers: z.enum(['double', 'single']),
  spansSlots: z.array(z.int().min(1)).min(1).max(24),
  turns: z.int().min(1).max(2000),
  strands: z.array(strandSchema).min(1).max(3),
});
export type CandidateKey = z.output<typeof candidateKeySchema>;

export interface Candidate extends CandidateKey {
  exactTurns: number;
  /** turns that keep the flux as found, where the output asks for another torque */
  keptFluxTurns: number | undefined;
  /** conductor area for the slot copper as found, mm² */
  targetAreaMm2: number;
  /** turns rounded: flux against the wanted flux, per cent */
  fluxErrorPercent: number;
  airGapT: number;
  toothT: number | undefined;
  backIronT: number | undefined;
  currentDensityAMm2: number | undefined;
  fill: number | undefined;
  voltsPerCoil: number;
  /** copper loss against as found, per cent, at the wanted output */
  lossChangePercent: number;
  phaseResistance20Ohm: number | undefined;
  lineResistance20Ohm: number | undefined;
  meanTurnM: number | undefined;
  windingFactor: number;
  fifth: number;
  seventh: number;
  copperKg: number | undefined;
  cost: number | undefined;
  enoughInStock: boolean;
  warnings: string[];
  /** lower is better */
  score: number;
}

export interface RedesignResult {
  /** what is taken for a wish left out, in a sentence; empty where nothing is */
  assumed: string;
  /** torque at the wished output over rated torque */
  torqueRatio: number;
  candidates: Candidate[];
  /** how many combinations of connection, span and turns were looked at, and how many kept all limits */
  tried: number;
  kept: number;
  /** why combinations were left out, with how many */
  leftOut: { why: string; count: number }[];
  refusals: string[];
}
