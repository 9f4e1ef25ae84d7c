import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';
import { gcd } from '../winding/integers.ts';
import { DEFAULT_STACKING_FACTOR, ironDensities } from './flux.ts';
import type { Nameplate } from './nameplate.ts';

/** Speed off the synchronous one above which poles or frequency are wrong, per cent (common practice). */
export const SYNCHRONOUS_OFF_PERCENT = 0.5;

/** Line EMF, rms, per mechanical rad/s, V·s, from what the plate says of it. */
export function emfConstantRms(nameplate: Pick<Nameplate, 'emfConstantVs' | 'emfMeasured'>): number | undefined {
  const { emfConstantVs } = nameplate;
  if (emfConstantVs === undefined) return undefined;
  return nameplate.emfMeasured === 'line, peak' ? emfConstantVs / Math.SQRT2 : emfConstantVs;
}

/**
 * Flux of a pole from the EMF constant (line, rms, V·s): 2√2 Ke/(√3 P N_s k_w) in wye, without √3 in delta. Never from the drive's
 * voltage, which is no EMF. Source: derived (docs/derivations.md, magnets).
 */
export const magnetFluxWb = (x: {
  emfConstantVs: number;
  connection: 'wye' | 'delta';
  poles: number;
  seriesTurns: number;
  windingFactor: number;
}): number =>
  (2 * Math.SQRT2 * x.emfConstantVs) /
  ((x.connection === 'wye' ? Math.sqrt(3) : 1) * x.poles * x.seriesTurns * x.windingFactor);

/** Peak density of a tooth that carries a coil of its own, T: Φ sin(90° P/S)/(b_t L_fe), the flux that one tooth links. */
export const coiledToothT = (fluxWb: number, poles: number, slots: number, toothM: number, ironM: number): number =>
  (fluxWb * Math.sin((Math.PI / 2) * (poles / slots))) / (toothM * ironM);

/** Cogging periods in one turn: lcm of slots and poles. */
export const coggingPeriods = (slots: number, poles: number): number => (slots * poles) / gcd(slots, poles);

const positive = z.number().positive();

/** Calculation `machine.magnetFlux`. */
export const machineMagnetFlux = defineCalculation({
  id: 'machine.magnetFlux',
  version: 1,
  title: 'Permanent-magnet machine: flux and densities from the EMF constant',
  sources: ['derived from E = √2 π f N k_w Φ'],
  input: z.strictObject({
    emfConstantVs: positive.describe('line EMF, rms, per mechanical rad/s'),
    connection: z.enum(['wye', 'delta']),
    poles: z.int().min(2).multipleOf(2),
    seriesTurns: positive,
    windingFactor: positive.max(1),
    boreM: positive,
    coreLengthM: positive,
    slots: z.int().min(3).optional(),
    toothWidthM: positive.optional(),
    toothCoils: z.boolean().default(false).describe('a coil round each tooth'),
    backIronM: positive.optional(),
    stackingFactor: positive.max(1).default(DEFAULT_STACKING_FACTOR),
  }),
  output: z.object({
    fluxWb: z.number(),
    airGapT: z.number(),
    toothT: z.number().optional(),
    backIronT: z.number().optional(),
    coggingPeriods: z.number().optional(),
  }),
  example: {
    emfConstantVs: 0.0592056,
    connection: 'wye',
    poles: 10,
    seriesTurns: 80,
    windingFactor: 0.933,
    boreM: 0.04,
    coreLengthM: 0.03,
    slots: 12,
    toothCoils: true,
  },
  compute: (x, note) => {
    const fluxWb = magnetFluxWb(x);
    const airGapT = (fluxWb * x.poles) / (2 * x.boreM * x.coreLengthM);
    note?.({
      name: 'Flux of the magnets, per pole',
      symbol: 'Φ',
      formula: x.connection === 'wye' ? '2√2 Ke / (√3 P N_s k_w)' : '2√2 Ke / (P N_s k_w)',
      numbers: `2√2 · ${x.emfConstantVs.toPrecision(5)} / (${x.connection === 'wye' ? '√3 · ' : ''}${x.poles} · ${x.seriesTurns} · ${x.windingFactor.toFixed(4)})`,
      value: fluxWb * 1000,
      unit: 'mWb',
      source: 'derived',
    });
    note?.({
      name: 'Air gap, peak of the sine wave',
      symbol: 'B_g',
      formula: 'Φ P / (2 D L)',
      numbers: `${(fluxWb * 1000).toFixed(5)} mWb · ${x.poles} / (2 · ${x.boreM} · ${x.coreLengthM})`,
      value: airGapT,
      unit: 'T',
      source: 'Say',
    });
    const iron = ironDensities(x, airGapT);
    const ironM = x.stackingFactor * x.coreLengthM;
    const toothT =
      x.toothCoils && x.toothWidthM !== undefined && x.slots !== undefined
        ? coiledToothT(fluxWb, x.poles, x.slots, x.toothWidthM, ironM)
        : iron.toothT;
    if (toothT !== undefined)
      note?.({
        name: 'Stator tooth, magnets alone',
        symbol: 'B_t',
        formula: x.toothCoils ? 'Φ sin(90° P/S) / (b_t L_fe)' : 'B_g (πD/S) L / (b_t L_fe)',
        numbers: `b_t ${x.toothWidthM ?? 0} m, L_fe ${ironM.toPrecision(4)} m`,
        value: toothT,
        unit: 'T',
        source: 'derived',
      });
    return {
      fluxWb,
      airGapT,
      toothT,
      backIronT: iron.backIronT,
      ...(x.slots === undefined ? {} : { coggingPeriods: coggingPeriods(x.slots, x.poles) }),
    };
  },
});
