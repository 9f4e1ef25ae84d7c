import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';

/** Lines per square inch: 1 T = 64.516 kilolines per square inch. */
export const KILOLINES_PER_SQUARE_INCH_PER_TESLA = 64.516;
/** Stacking factor where none was measured (common practice 0.92–0.97). */
export const DEFAULT_STACKING_FACTOR = 0.95;

export interface FluxInput {
  lineVoltageV: number;
  frequencyHz: number;
  connection: 'wye' | 'delta';
  seriesTurns: number;
  windingFactor: number;
  poles: number;
  boreM: number;
  coreLengthM: number;
  ductCount?: number | undefined;
  ductWidthM?: number | undefined;
  slots?: number | undefined;
  toothWidthM?: number | undefined;
  backIronM?: number | undefined;
  stackingFactor?: number | undefined;
  voltageDropShare?: number | undefined;
}

export interface FluxFigures {
  phaseEmfV: number;
  fluxWb: number;
  airGapT: number;
  toothT: number | undefined;
  backIronT: number | undefined;
  voltsPerTurn: number;
}

type Core = Pick<
  FluxInput,
  | 'boreM'
  | 'coreLengthM'
  | 'poles'
  | 'slots'
  | 'toothWidthM'
  | 'backIronM'
  | 'stackingFactor'
  | 'ductCount'
  | 'ductWidthM'
>;

/** Peak flux densities in tooth and back iron at a density in the air gap. Source: Say. */
export function ironDensities(x: Core, airGapT: number): Pick<FluxFigures, 'toothT' | 'backIronT'> {
  const ironM =
    (x.stackingFactor ?? DEFAULT_STACKING_FACTOR) * (x.coreLengthM - (x.ductCount ?? 0) * (x.ductWidthM ?? 0));
  const fluxWb = (2 * airGapT * x.boreM * x.coreLengthM) / x.poles;
  return {
    toothT:
      x.toothWidthM !== undefined && x.slots !== undefined
        ? (airGapT * ((Math.PI * x.boreM) / x.slots) * x.coreLengthM) / (x.toothWidthM * ironM)
        : undefined,
    backIronT: x.backIronM !== undefined ? fluxWb / (2 * x.backIronM * ironM) : undefined,
  };
}

/**
 * Flux and peak flux densities from the winding and the core.
 * E = √2 π f N_s k_w Φ; Φ = 2 B_g D L / P; B_t = B_g (πD/S) L / (b_t L_fe); B_c = Φ / (2 h_c L_fe).
 * Source: Say, Performance and Design of A.C. Machines; Pyrhönen et al.
 */
export function fluxFigures(x: FluxInput): FluxFigures {
  const phaseEmfV =
    (x.connection === 'wye' ? x.lineVoltageV / Math.sqrt(3) : x.lineVoltageV) * (1 - (x.voltageDropShare ?? 0));
  const fluxWb = phaseEmfV / (Math.SQRT2 * Math.PI * x.frequencyHz * x.seriesTurns * x.windingFactor);
  const airGapT = (fluxWb * x.poles) / (2 * x.boreM * x.coreLengthM);
  return { phaseEmfV, fluxWb, airGapT, ...ironDensities(x, airGapT), voltsPerTurn: phaseEmfV / x.seriesTurns };
}

const positive = z.number().positive();

/** Calculation `machine.flux`. */
export const machineFlux = defineCalculation({
  id: 'machine.flux',
  version: 1,
  title: 'Flux per pole and flux densities in air gap, tooth and back iron',
  sources: ['Say, Performance and Design of A.C. Machines', 'Pyrhönen et al., Design of Rotating Electrical Machines'],
  input: z.strictObject({
    lineVoltageV: positive,
    frequencyHz: positive,
    connection: z.enum(['wye', 'delta']),
    seriesTurns: positive.describe('turns in series per phase, one circuit'),
    windingFactor: positive.max(1),
    poles: z.int().min(2).multipleOf(2),
    boreM: positive,
    coreLengthM: positive,
    ductCount: z.int().min(0).optional(),
    ductWidthM: z.number().min(0).optional(),
    slots: z.int().min(3).optional(),
    toothWidthM: positive.optional(),
    backIronM: positive.optional(),
    stackingFactor: positive.max(1).optional(),
    voltageDropShare: z.number().min(0).max(0.2).optional().describe('0 as found; 0.02–0.05 at load'),
  }),
  output: z.object({
    phaseEmfV: z.number(),
    fluxWb: z.number(),
    airGapT: z.number(),
    toothT: z.number().optional(),
    backIronT: z.number().optional(),
    voltsPerTurn: z.number(),
  }),
  example: {
    lineVoltageV: 400,
    frequencyHz: 50,
    connection: 'delta',
    seriesTurns: 204,
    windingFactor: 0.9452,
    poles: 4,
    boreM: 0.15,
    coreLengthM: 0.14,
    slots: 36,
    toothWidthM: 0.007,
    backIronM: 0.025,
  },
  compute: (x, note) => {
    const f = fluxFigures(x);
    note?.({
      name: 'Flux per pole',
      symbol: 'Φ',
      formula: 'E / (√2 π f N_s k_w)',
      numbers: `${f.phaseEmfV.toFixed(2)} / (4.4429 · ${x.frequencyHz} · ${x.seriesTurns} · ${x.windingFactor.toFixed(4)})`,
      value: f.fluxWb * 1000,
      unit: 'mWb',
      source: 'Say',
    });
    note?.({
      name: 'Air gap, peak of the sine wave',
      symbol: 'B_g',
      formula: 'Φ P / (2 D L)',
      numbers: `${(f.fluxWb * 1000).toFixed(4)} mWb · ${x.poles} / (2 · ${x.boreM} · ${x.coreLengthM})`,
      value: f.airGapT,
      unit: 'T',
      source: 'Say',
    });
    if (f.toothT !== undefined) {
      note?.({
        name: 'Stator tooth',
        symbol: 'B_t',
        formula: 'B_g (πD/S) L / (b_t L_fe)',
        numbers: `${f.airGapT.toFixed(4)} · (π · ${x.boreM} / ${x.slots}) · ${x.coreLengthM} / (${x.toothWidthM} · L_fe)`,
        value: f.toothT,
        unit: 'T',
        source: 'Say',
      });
    }
    if (f.backIronT !== undefined) {
      note?.({
        name: 'Back iron (the flux of a pole parts in two)',
        symbol: 'B_c',
        formula: 'Φ / (2 h_c L_fe)',
        numbers: `${(f.fluxWb * 1000).toFixed(4)} mWb / (2 · ${x.backIronM} · L_fe)`,
        value: f.backIronT,
        unit: 'T',
        source: 'Say',
      });
    }
    return f;
  },
});
