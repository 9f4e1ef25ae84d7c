import { z } from 'zod';
import { defineCalculation, refuse } from '../calculation.ts';
import { limit } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { largestOf } from '../quantity/extent.ts';
import { notAbove, notBelow, combineVerdicts, type Verdict } from '../verdict.ts';
import { BURN_FLAGS, CORE_PLATES, type BurnFlag } from './burnFlags.ts';
import { defaultMaxGapMin, gapWithTyped, isGap, MOST_ROWS, pointsOf, rampRates, timeAbove, type Gap } from './trace.ts';

type Point = { t: number; c: number };

/** Burned from this part temperature on, °C; cooling is watched from this one on (common practice). */
export const BURN_C = 345;
export const WATCHED_COOLING_C = 200;
const WINDOW_MIN = 60;

/** What a flag is worth: the core may be hurt, or the burn is to be done again, or it cannot be told. */
export const FLAG_VERDICTS: Readonly<Record<BurnFlag, Verdict>> = {
  over_limit: 'fail',
  incomplete: 'attention',
  cooled_too_fast: 'attention',
  opened_hot: 'attention',
  unknown_at_open: 'cannot judge',
  log_gap: 'attention',
};

/** Temperature at a time in a straight line between readings; undefined outside the log and inside a gap. */
export function temperatureAt(points: readonly Point[], t: number, gap: Gap): number | undefined {
  const after = points.findIndex((p) => p.t >= t);
  if (after < 0) return undefined;
  const b = points[after] as Point;
  if (b.t === t) return b.c;
  const a = points[after - 1];
  if (!a || isGap(gap, a, b)) return undefined;
  return a.c + ((b.c - a.c) * (t - a.t)) / (b.t - a.t);
}

/** Calculation `process.burnOff`: the log of a burn-off judged by the part: limit, time, cooling, door. */
export const processBurnOff = defineCalculation({
  id: 'process.burnOff',
  version: 1,
  heavy: true,
  title: 'Burn-off and slow cooling from the log of the parts, judged by the core plate',
  sources: ['part limits, burning time and cooling: common practice'],
  input: z.strictObject({
    timesMin: z.array(z.number().min(0)).max(MOST_ROWS),
    channels: z
      .array(
        z.strictObject({
          name: z.string(),
          role: z.enum(['part', 'oven air', 'not used']),
          valuesC: z.array(z.number().nullable()),
        }),
      )
      .min(1)
      .max(32),
    corePlate: z.enum(CORE_PLATES),
    doorMin: z.number().min(0).optional().describe('when the door was opened, min of the log'),
    maxGapMin: z.number().positive().optional().describe('default three times the median step'),
    typedAtMin: z.array(z.number().min(0)).max(MOST_ROWS).default([]).describe('times whose readings a person typed'),
    typedGapMin: z.number().positive().default(45),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({
    flags: z.array(z.enum(BURN_FLAGS)),
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
    limitC: z.number(),
    maxGapMin: z.number(),
    hottestC: z.number().optional(),
    burningMin: z.number().optional().describe('of the coldest part'),
    coolingKH: z.number().optional(),
    atOpeningC: z.number().optional().describe('of the hottest part'),
    channels: z.array(z.object({ name: z.string(), maxC: z.number(), burningMin: z.number(), coolingKH: z.number() })),
  }),
  example: {
    timesMin: [0, 60, 120, 180, 240, 300, 360, 420, 480, 540, 600, 660, 720, 780, 840],
    channels: [
      {
        name: 'teeth',
        role: 'part',
        valuesC: [22, 150, 262, 331, 349, 352, 351, 350, 348, 309, 268, 226, 186, 149, 116],
      },
    ],
    corePlate: 'organic',
    doorMin: 840,
  },
  compute: (input, note) => {
    for (const channel of input.channels)
      if (channel.valuesC.length !== input.timesMin.length)
        refuse(
          'channels',
          `Channel ${channel.name} has ${channel.valuesC.length} values for ${input.timesMin.length} times.`,
        );
    const limitC = limit(
      input.corePlate === 'inorganic' ? 'route.burnOffInorganicC' : 'route.burnOffOrganicC',
      input.limits,
    );
    const needed = limit('route.burnOffMin', input.limits);
    const fastest = limit('route.coolingKH', input.limits);
    const openC = limit('route.openingC', input.limits);
    const maxGapMin = input.maxGapMin ?? defaultMaxGapMin(input.timesMin);
    const gap = gapWithTyped(maxGapMin, input.typedAtMin, input.typedGapMin);
    const parts = input.channels.flatMap((channel, i) => {
      if (channel.role !== 'part') return [];
      const points = pointsOf(input, i);
      return [
        {
          name: channel.name,
          points,
          maxC: points.length > 0 ? largestOf(points.map((p) => p.c)) : Number.NaN,
          burningMin: timeAbove(points, BURN_C, gap).totalMin,
          coolingKH: 60 * rampRates(points, WINDOW_MIN, gap, WATCHED_COOLING_C).coolingKMin,
          gap: points.some((p, k) => k > 0 && isGap(gap, points[k - 1] as Point, p)),
        },
      ];
    });
    const lost = parts.find((p) => p.points.length < 2);
    if (parts.length === 0 || lost)
      return {
        flags: [],
        verdict: 'cannot judge' as const,
        reason: lost
          ? `Channel ${lost.name} holds fewer than two readings.`
          : 'No channel is on a part: the air says nothing about the core.',
        limitC,
        maxGapMin,
        channels: [],
      };
    const hottestC = Math.max(...parts.map((p) => p.maxC));
    const burningMin = Math.min(...parts.map((p) => p.burningMin));
    const cooling = Math.max(...parts.map((p) => p.coolingKH));
    const opened =
      input.doorMin === undefined ? [] : parts.map((p) => temperatureAt(p.points, input.doorMin as number, gap));
    const atOpeningC = opened.length > 0 && !opened.includes(undefined) ? Math.max(...(opened as number[])) : undefined;
    const said: [BurnFlag, string][] = [];
    const against = (value: number, bound: number) => formatAgainst(value, bound);
    if (!notAbove(hottestC, limitC)) {
      const [a, b] = against(hottestC, limitC);
      said.push([
        'over_limit',
        `A part reached ${a} °C; with ${input.corePlate} core plate it may reach ${b} °C: compare the core tests before and after.`,
      ]);
    }
    if (!notBelow(burningMin, needed)) {
      const [a, b] = against(burningMin, needed);
      said.push(['incomplete', `The coldest part was at ${BURN_C} °C or more for ${a} min of ${b} min.`]);
    }
    if (!notAbove(cooling, fastest)) {
      const [a, b] = against(cooling, fastest);
      said.push([
        'cooled_too_fast',
        `Above ${WATCHED_COOLING_C} °C it fell by ${a} K/h; at most ${b} K/h: look at teeth, frame and feet.`,
      ]);
    }
    if (input.doorMin !== undefined && atOpeningC === undefined)
      said.push([
        'unknown_at_open',
        'The door was opened outside the log or inside a gap of it: how hot the part was then is not known.',
      ]);
    if (atOpeningC !== undefined && !notAbove(atOpeningC, openC)) {
      const [a, b] = against(atOpeningC, openC);
      said.push(['opened_hot', `The door was opened with a part at ${a} °C; at most ${b} °C.`]);
    }
    if (parts.some((p) => p.gap))
      said.push(['log_gap', `The log has a gap of more than ${formatNumber(maxGapMin)} min; it earns nothing.`]);
    note?.({
      name: 'Time at burning temperature, coldest part',
      symbol: 't',
      formula: `time at ${BURN_C} °C or more, straight lines between readings, gaps left out`,
      numbers: `${parts.length} parts, ${input.timesMin.length} readings`,
      value: burningMin,
      unit: 'min',
      source: 'common practice',
    });
    return {
      flags: said.map(([flag]) => flag),
      verdict: said.length === 0 ? 'pass' : combineVerdicts(said.map(([flag]) => FLAG_VERDICTS[flag])),
      reason:
        said.length > 0
          ? said.map(([, sentence]) => sentence).join(' ')
          : `Burned for ${formatNumber(burningMin)} min, hottest ${formatNumber(hottestC)} °C, cooled by at most ${formatNumber(cooling)} K/h.`,
      limitC,
      maxGapMin,
      hottestC,
      burningMin,
      coolingKH: cooling,
      ...(atOpeningC === undefined ? {} : { atOpeningC }),
      channels: parts.map(({ name, maxC, burningMin: b, coolingKH: k }) => ({
        name,
        maxC,
        burningMin: b,
        coolingKH: k,
      })),
    };
  },
});
