import { z } from 'zod';
import { defineCalculation, refuse } from '../calculation.ts';
import { limit } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { formatNumber } from '../quantity/format.ts';

/** Readings that are compared, and how far they lie apart at least, min (common practice). */
const COMPARED = 3;
const APART_MIN = 30;
/** Part temperatures within so many K are equal; what changes by less than this share is steady (common practice). */
const EQUAL_K = 2;
const STEADY_SHARE = 0.05;

/** Calculation `process.dryOut`: is a winding dry, by its own temperature held and its insulation resistance at equal temperature. */
export const processDryOut = defineCalculation({
  id: 'process.dryOut',
  version: 1,
  title: 'Drying and preheating: part temperature steady, insulation resistance steady at equal temperature',
  sources: ['steady for two hours, change below 5 % over three readings half an hour apart: common practice'],
  input: z.strictObject({
    readings: z
      .array(
        z.strictObject({
          min: z.number().min(0).max(100_000),
          megohm: z.number().positive().max(1e7),
          partC: z.number().min(-20).max(250),
        }),
      )
      .min(1)
      .max(500),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({
    verdict: z.enum(['pass', 'attention', 'cannot judge']),
    reason: z.string(),
    steadyMin: z.number().describe('so long the part has stood within 2 K of its last temperature'),
    changePercent: z.number().optional().describe('of the readings compared, largest against smallest'),
  }),
  example: {
    readings: [
      { min: 0, megohm: 12, partC: 61 },
      { min: 60, megohm: 31, partC: 104 },
      { min: 120, megohm: 48, partC: 105 },
      { min: 150, megohm: 51.5, partC: 105 },
      { min: 180, megohm: 52.6, partC: 105 },
      { min: 210, megohm: 52.9, partC: 106 },
    ],
  },
  compute: ({ readings, limits }, note) => {
    readings.forEach((r, i) => {
      if (i > 0 && r.min <= (readings[i - 1]?.min ?? 0))
        refuse('readings', `Readings go forward in time: ${r.min} min comes after ${readings[i - 1]?.min} min.`);
    });
    const needed = limit('route.preheatMin', limits);
    const last = readings.at(-1) as (typeof readings)[number];
    const equal = (r: (typeof readings)[number]) => Math.abs(r.partC - last.partC) <= EQUAL_K;
    const brokenAt = readings.findLastIndex((r) => !equal(r));
    const steadyMin = last.min - (readings[brokenAt + 1]?.min ?? last.min);
    // the newest, and before it those that lie far enough apart
    const compared = [last];
    for (const r of [...readings].reverse())
      if (compared.length < COMPARED && (compared[0] as typeof r).min - r.min >= APART_MIN) compared.unshift(r);
    const values = compared.map((r) => r.megohm);
    const comparable = compared.length === COMPARED && compared.every(equal);
    const changePercent = comparable ? 100 * (Math.max(...values) / Math.min(...values) - 1) : undefined;
    note?.({
      name: 'Change of the insulation resistance',
      symbol: 'ΔR',
      formula: '100 · (largest/smallest − 1) of three readings half an hour apart, at equal temperature',
      numbers: compared.map((r) => `${formatNumber(r.megohm, 4)} MΩ at ${formatNumber(r.partC, 3)} °C`).join(', '),
      value: changePercent ?? Number.NaN,
      unit: '%',
      source: 'common practice',
    });
    const more = { steadyMin, ...(changePercent === undefined ? {} : { changePercent }) };
    if (changePercent === undefined)
      return {
        verdict: 'cannot judge' as const,
        reason:
          compared.length < COMPARED
            ? `Three readings at least ${APART_MIN} min apart are wanted.`
            : `The readings are of unequal temperatures (more than ${EQUAL_K} K apart): insulation resistance is compared at equal temperature.`,
        ...more,
      };
    const held = steadyMin >= needed;
    const still = changePercent < 100 * STEADY_SHARE;
    return held && still
      ? {
          verdict: 'pass' as const,
          reason: `The part stood for ${formatNumber(steadyMin)} min; the resistance changes by ${formatNumber(changePercent, 2)} %: dry.`,
          ...more,
        }
      : {
          verdict: 'attention' as const,
          reason: [
            still ? '' : `The resistance still changes by ${formatNumber(changePercent, 2)} %; below 5 % is steady.`,
            held ? '' : `The part has stood for ${formatNumber(steadyMin)} min of ${formatNumber(needed)} min.`,
          ]
            .filter(Boolean)
            .join(' '),
          ...more,
        };
  },
});
