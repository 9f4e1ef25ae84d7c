import { z } from 'zod';
import { defineCalculation, refuse } from '../calculation.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { notAbove, type Verdict } from '../verdict.ts';
import { largestOf } from '../quantity/extent.ts';
import {
  defaultMaxGapMin,
  gapWithTyped,
  isGap,
  MOST_ROWS,
  pointsOf,
  rampRates,
  stuckChannel,
  timeAbove,
  type Gap,
  type Trace,
} from './trace.ts';

/** Molar gas constant, J/(mol·K). */
export const GAS_CONSTANT = 8.314463;

export const rateLawSchema = z.discriminatedUnion('law', [
  z.strictObject({ law: z.literal('doubling'), doublingK: z.number().positive().default(10) }),
  z.strictObject({ law: z.literal('arrhenius'), activationKJMol: z.number().positive().default(95) }),
]);
export type RateLaw = z.output<typeof rateLawSchema>;

export const resinSchema = z.strictObject({
  name: z.string().min(1).max(80),
  ratedC: z.number().min(40).max(260).describe('rated cure temperature, °C, of the part'),
  ratedH: z.number().positive().max(72).describe('rated cure time, h, at part temperature'),
  rate: rateLawSchema.default({ law: 'doubling', doublingK: 10 }),
  floorC: z
    .number()
    .nullable()
    .optional()
    .describe('no credit below, °C; left out = 15 K under the rated temperature; null = none'),
  maxC: z.number().optional().describe('highest part temperature, °C; default rated + 20'),
  thermalClassC: z.number().optional(),
});
export type Resin = z.output<typeof resinSchema>;

/** Below the rated temperature by this, a long cool bake does not complete a cure, K (common practice). */
export const DEFAULT_FLOOR_K = 15;
/** No credit below this part temperature, °C; null = none. */
export const floorOf = (resin: Pick<Resin, 'ratedC' | 'floorC'>): number | null =>
  resin.floorC === undefined ? resin.ratedC - DEFAULT_FLOOR_K : resin.floorC;

/** Highest part temperature, °C: the resin's own, else so much above its rated one. */
export const highestC = (resin: Pick<Resin, 'ratedC' | 'maxC'>, aboveRatedK: number): number =>
  resin.maxC ?? resin.ratedC + aboveRatedK;

/** Relative cure rate at a part temperature: 1 at the rated temperature. */
export function cureRate(partC: number, ratedC: number, law: RateLaw, floorC: number | null, capC: number): number {
  if (floorC !== null && partC < floorC) return 0;
  const t = Math.min(partC, capC);
  return law.law === 'doubling'
    ? 2 ** ((t - ratedC) / law.doublingK)
    : Math.exp((-law.activationKJMol * 1000 * (1 / (t + 273.15) - 1 / (ratedC + 273.15))) / GAS_CONSTANT);
}

/** Degree of cure of one channel: mean of the rates over each step; gaps earn nothing in `degree`, all in `withGaps`. */
export function degreeOfCure(
  points: readonly { t: number; c: number }[],
  rate: (c: number) => number,
  ratedMin: number,
  gap: Gap,
): { degree: number; withGaps: number } {
  let degree = 0;
  let withGaps = 0;
  for (let i = 1; i < points.length; i++) {
    const a = points[i - 1] as { t: number; c: number };
    const b = points[i] as { t: number; c: number };
    const part = (((rate(a.c) + rate(b.c)) / 2) * (b.t - a.t)) / ratedMin;
    withGaps += part;
    if (!isGap(gap, a, b)) degree += part;
  }
  return { degree, withGaps };
}

export const CURE_VERDICTS = ['cured', 'over_baked', 'over_temperature', 'under_cured', 'undetermined'] as const;
export type CureVerdict = (typeof CURE_VERDICTS)[number];

/**
 * How process verdicts stand in the four words of everything judged. Over-temperature and over-bake go to a person who
 * signs; they do not pass or scrap by themselves.
 */
export const PROCESS_VERDICTS: Readonly<Record<CureVerdict, Verdict>> = {
  cured: 'pass',
  over_baked: 'attention',
  over_temperature: 'attention',
  under_cured: 'fail',
  undetermined: 'cannot judge',
};

/** Points at most in the course of cure that goes with a verdict. */
const COURSE_POINTS = 1500;

export const cureInputSchema = z.strictObject({
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
  resin: resinSchema,
  maxGapMin: z.number().positive().optional().describe('default three times the median step'),
  typedAtMin: z
    .array(z.number().min(0))
    .max(MOST_ROWS)
    .default([])
    .describe('times whose readings a person typed; steps to and from them may be as long as typedGapMin'),
  typedGapMin: z.number().positive().default(45),
  overBakeDegree: z.number().positive().default(3),
  aboveRatedK: z.number().positive().default(20),
  school: z.enum(['equivalent time', 'hold only']).default('equivalent time'),
  holdToleranceK: z.number().min(0).max(10).default(0),
});

const channelResult = z.object({
  name: z.string(),
  role: z.string(),
  samples: z.number(),
  degree: z.number().optional(),
  degreeWithGaps: z.number().optional(),
  equivalentHours: z.number().optional(),
  maxC: z.number().optional(),
  minutesAtRated: z.number().optional(),
  longestAtRatedMin: z.number().optional(),
  heatingKMin: z.number().optional(),
  coolingKMin: z.number().optional(),
  stuck: z.enum(['no', 'suspect', 'confirmed']).optional(),
});

/** Calculation `process.cure`: cure integrated from the part's own temperature and judged. */
export const processCure = defineCalculation({
  id: 'process.cure',
  version: 1,
  heavy: true,
  title: "Degree of cure from an oven log, judged against the resin's rated cure",
  sources: [
    'rate doubling per 10 K / Arrhenius law (derived)',
    "rated cure: the resin maker's data sheet",
    'limits: common practice',
  ],
  input: cureInputSchema,
  output: z.object({
    processVerdict: z.enum(CURE_VERDICTS),
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
    degree: z.number().optional(),
    degreeWithGaps: z.number().optional(),
    equivalentHours: z.number().optional(),
    hottestC: z.number().optional(),
    maxGapMin: z.number(),
    maxC: z.number(),
    channels: z.array(channelResult),
    schools: z.object({ equivalentTime: z.boolean(), holdOnly: z.boolean() }),
    course: z
      .array(z.object({ timeMin: z.number(), degree: z.number() }))
      .describe('degree of the slowest part over time'),
  }),
  example: {
    timesMin: [0, 30, 60, 90, 120, 150, 180, 240, 300, 360, 420, 480, 510, 540],
    channels: [
      { name: 'part', role: 'part', valuesC: [24, 78, 106, 121, 129, 133, 135, 136, 137, 137, 136, 136, 112, 88] },
    ],
    resin: { name: 'polyester', ratedC: 130, ratedH: 7, maxC: 150 },
    maxGapMin: 90,
  },
  compute: (input, note) => {
    const { resin } = input;
    const trace: Trace = { timesMin: input.timesMin, channels: input.channels };
    for (const channel of input.channels) {
      if (channel.valuesC.length !== input.timesMin.length) {
        refuse(
          'channels',
          `Channel ${channel.name} has ${channel.valuesC.length} values for ${input.timesMin.length} times.`,
        );
      }
    }
    const maxC = highestC(resin, input.aboveRatedK);
    if (maxC < resin.ratedC + 5)
      refuse(
        'resin.maxC',
        `The highest temperature ${maxC} °C must be at least 5 K above the rated ${resin.ratedC} °C.`,
      );
    const maxGapMin = input.maxGapMin ?? defaultMaxGapMin(input.timesMin);
    const gap = gapWithTyped(maxGapMin, input.typedAtMin, input.typedGapMin);
    const ratedMin = resin.ratedH * 60;
    const floorC = floorOf(resin);
    const rate = (c: number) => cureRate(c, resin.ratedC, resin.rate, floorC, maxC);
    const parts = input.channels.map((channel, index) => ({ channel, index })).filter((x) => x.channel.role === 'part');
    const results: z.output<typeof channelResult>[] = [];
    const judged: {
      degree: number;
      withGaps: number;
      points: { t: number; c: number }[];
      hottest: number;
      longest: number;
      stuck: string;
      name: string;
    }[] = [];
    input.channels.forEach((channel, index) => {
      if (channel.role === 'not used') return;
      const points = pointsOf(trace, index);
      const hottest = points.length > 0 ? largestOf(points.map((p) => p.c)) : undefined;
      const base = {
        name: channel.name,
        role: channel.role,
        samples: points.length,
        ...(hottest === undefined ? {} : { maxC: hottest }),
      };
      if (channel.role !== 'part') {
        results.push(base);
        return;
      }
      const { degree, withGaps } = degreeOfCure(points, rate, ratedMin, gap);
      const above = timeAbove(points, resin.ratedC - input.holdToleranceK, gap);
      const ramp = rampRates(points, 60, gap);
      const stuck = stuckChannel(trace, index).state;
      results.push({
        ...base,
        degree,
        degreeWithGaps: withGaps,
        equivalentHours: degree * resin.ratedH,
        minutesAtRated: above.totalMin,
        longestAtRatedMin: above.longestMin,
        ...ramp,
        stuck,
      });
      judged.push({
        degree,
        withGaps,
        points,
        hottest: hottest ?? Number.NEGATIVE_INFINITY,
        longest: above.longestMin,
        stuck,
        name: channel.name,
      });
      note?.({
        name: `Degree of cure, ${channel.name}`,
        symbol: 'D',
        formula: 'Σ (f_i + f_{i+1})/2 · Δt / t_r',
        numbers: `${points.length} samples, f = ${resin.rate.law === 'doubling' ? `2^((T − ${resin.ratedC})/${resin.rate.doublingK})` : `Arrhenius, E_a ${resin.rate.activationKJMol} kJ/mol`}, t_r ${ratedMin} min${floorC === null ? '' : `, no credit below ${formatNumber(floorC)} °C`}`,
        value: degree,
        unit: '',
        source: "derived; rated cure from the resin's data sheet",
      });
    });
    const coldest = judged.reduce<(typeof judged)[number] | undefined>(
      (m, x) => (m === undefined || x.degree < m.degree ? x : m),
      undefined,
    );
    const largest = Math.max(0, ...judged.map((x) => x.degree));
    const hottest = judged.length > 0 ? Math.max(...judged.map((x) => x.hottest)) : undefined;
    const holdOnly = judged.length > 0 && judged.every((x) => x.longest >= ratedMin);
    const equivalentTime = coldest !== undefined && coldest.degree >= 1 - 1e-9;
    const enough = input.school === 'hold only' ? holdOnly : equivalentTime;
    let processVerdict: CureVerdict;
    let reason: string;
    const say = (x: number) => formatNumber(x, 3);
    if (parts.length === 0 || coldest === undefined) {
      processVerdict = 'undetermined';
      reason = 'No channel is assigned to the part; oven air says nothing about the cure.';
    } else if (hottest !== undefined && hottest > maxC) {
      const [a, b] = formatAgainst(hottest, maxC);
      processVerdict = 'over_temperature';
      reason = `A part reached ${a} °C, above the highest allowed ${b} °C: an engineer decides.`;
    } else if (judged.some((x) => x.points.length < 2)) {
      processVerdict = 'undetermined';
      reason = `Channel ${judged.find((x) => x.points.length < 2)?.name} holds fewer than two samples.`;
    } else if (judged.some((x) => x.stuck === 'confirmed')) {
      processVerdict = 'undetermined';
      reason = `Channel ${judged.find((x) => x.stuck === 'confirmed')?.name} stood still while others moved: the sensor is not believed.`;
    } else if (enough) {
      if (!notAbove(largest, input.overBakeDegree)) {
        processVerdict = 'over_baked';
        reason = `The warmest part had ${say(largest)} times its rated cure, above ${input.overBakeDegree} times (common practice).`;
      } else {
        processVerdict = 'cured';
        reason = `The slowest part (${coldest.name}) reached ${say(coldest.degree)} times its rated cure of ${resin.ratedH} h at ${resin.ratedC} °C part temperature.`;
      }
    } else if (coldest.withGaps >= 1 - 1e-9 && coldest.withGaps > coldest.degree) {
      processVerdict = 'undetermined';
      reason = `Proved cure ${say(coldest.degree)}; ${say(coldest.withGaps)} if the gaps in the log are believed. The record does not show it.`;
    } else {
      processVerdict = 'under_cured';
      const missing = (1 - coldest.degree) * resin.ratedH;
      reason =
        input.school === 'hold only'
          ? `The longest unbroken time at ${resin.ratedC} °C is ${say(coldest.longest)} min of ${ratedMin} min.`
          : `The slowest part (${coldest.name}) has ${say(coldest.degree)} of its rated cure; ${say(Math.max(0, missing))} h at ${resin.ratedC} °C are missing.`;
    }
    let verdict: Verdict = PROCESS_VERDICTS[processVerdict];
    if (processVerdict === 'cured' && coldest && largestOf(coldest.points.map((p) => p.c)) < resin.ratedC - 5) {
      verdict = 'attention';
      reason += ` It never came within 5 K of ${resin.ratedC} °C: a long cool bake needs a named sign-off.`;
    }
    const course: { timeMin: number; degree: number }[] = [];
    const every = Math.ceil((coldest?.points.length ?? 0) / COURSE_POINTS);
    let running = 0;
    coldest?.points.forEach((p, i, points) => {
      running += degreeOfCure(points.slice(Math.max(0, i - 1), i + 1), rate, ratedMin, gap).degree;
      if (i % every === 0 || i === points.length - 1) course.push({ timeMin: p.t, degree: running });
    });
    return {
      processVerdict,
      verdict,
      reason,
      maxGapMin,
      maxC,
      channels: results,
      schools: { equivalentTime, holdOnly },
      course,
      ...(coldest
        ? { degree: coldest.degree, degreeWithGaps: coldest.withGaps, equivalentHours: coldest.degree * resin.ratedH }
        : {}),
      ...(hottest !== undefined && Number.isFinite(hottest) ? { hottestC: hottest } : {}),
    };
  },
});
