import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';
import { limit } from '../limits/limits.ts';

/** Cross sections lead cable is sold in, mm². */
export const LEAD_SIZES_MM2 = [0.5, 0.75, 1, 1.5, 2.5, 4, 6, 10, 16, 25, 35, 50, 70, 95, 120, 150, 185, 240] as const;
/** 1 kcmil in mm². */
export const MM2_PER_KCMIL = 0.5067;
/** Current density a lead is sized for when the shop says nothing, A/mm² (common practice 3.5 to 6). */
export const LEAD_DENSITY_A_MM2 = limit('winding.leadDensity');

export const LEAD_USES = [
  '3 leads',
  '6 leads wye',
  '6 leads delta',
  '6 leads part-winding',
  '9 leads wye high',
  '9 leads wye low',
  '9 leads delta high',
  '9 leads delta low',
  '12 leads delta high',
  '12 leads delta low',
] as const;
export type LeadUse = (typeof LEAD_USES)[number];

/**
 * Share of the line current in a lead. Two numbers where T1–T3 carry another share than T4 and up.
 * Source: docs/derivations.md 13; 12 leads on the high voltage, delta: the halves in series in each side, 1/√3.
 */
export const LEAD_SHARES: Readonly<Record<LeadUse, readonly [first: number, others: number]>> = {
  '3 leads': [1, 1],
  '6 leads wye': [1, 1],
  '6 leads delta': [1 / Math.sqrt(3), 1 / Math.sqrt(3)],
  '6 leads part-winding': [1 / 2, 1 / 2],
  '9 leads wye high': [1, 1],
  '9 leads wye low': [1 / 2, 1 / 2],
  '9 leads delta high': [1, 1 / Math.sqrt(3)],
  '9 leads delta low': [1 / 2, 1 / (2 * Math.sqrt(3))],
  '12 leads delta high': [1 / Math.sqrt(3), 1 / Math.sqrt(3)],
  '12 leads delta low': [1 / (2 * Math.sqrt(3)), 1 / (2 * Math.sqrt(3))],
};

export interface LeadSize {
  currentA: number;
  leastMm2: number;
  /** of each cable */
  sizeMm2: number;
  /** parallel cables of one lead; more than one where no single size of the list will do */
  cables: number;
}

/**
 * Next standard size at or above I_lead / J; beyond the list the fewest equal parallel cables of which a listed size will do. Local
 * wiring codes rule. Source: docs/derivations.md 13 (common practice).
 * @example leadSize(1200, 4) // 300 mm²: { sizeMm2: 150, cables: 2, … }
 */
export function leadSize(currentA: number, densityAMm2 = LEAD_DENSITY_A_MM2): LeadSize {
  const leastMm2 = currentA / densityAMm2;
  for (let cables = 1; ; cables++) {
    const sizeMm2 = LEAD_SIZES_MM2.find((s) => s >= leastMm2 / cables - 1e-9);
    if (sizeMm2 !== undefined) return { currentA, leastMm2, sizeMm2, cables };
  }
}

/** Calculation `insulation.leadSize`. */
export const insulationLeadSize = defineCalculation({
  id: 'insulation.leadSize',
  version: 2,
  title: 'Lead cable: current share and cross section',
  sources: ['circuit theory (derived)', '4 A/mm², common practice; local wiring codes rule'],
  input: z.strictObject({
    lineCurrentA: z.number().positive().max(5000),
    use: z.enum(LEAD_USES).default('3 leads'),
    densityAMm2: z.number().positive().max(20).default(LEAD_DENSITY_A_MM2),
  }),
  output: z.object({
    currentA: z.number(),
    othersA: z.number(),
    leastMm2: z.number(),
    sizeMm2: z.number().describe('of each cable'),
    cables: z.number().describe('parallel cables of one lead'),
    kcmil: z.number(),
  }),
  example: { lineCurrentA: 96, use: '9 leads wye low' },
  compute: ({ lineCurrentA, use, densityAMm2 }, note) => {
    const [first, others] = LEAD_SHARES[use];
    const sized = leadSize(lineCurrentA * Math.max(first, others), densityAMm2);
    note?.({
      name: 'Lead cross section',
      symbol: 'A',
      formula: 'share · I_line / J, next standard size',
      numbers: `${Math.max(first, others).toFixed(4)} · ${lineCurrentA} / ${densityAMm2} = ${sized.leastMm2.toFixed(3)}`,
      value: sized.cables === 1 ? sized.sizeMm2 : `${sized.cables} × ${sized.sizeMm2}`,
      unit: 'mm²',
      source: 'common practice; local wiring codes rule',
    });
    return {
      currentA: lineCurrentA * first,
      othersA: lineCurrentA * others,
      leastMm2: sized.leastMm2,
      sizeMm2: sized.sizeMm2,
      cables: sized.cables,
      kcmil: sized.sizeMm2 / MM2_PER_KCMIL,
    };
  },
});
