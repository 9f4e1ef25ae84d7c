import { z } from 'zod';
import { defineCalculation, refuse } from '../calculation.ts';
import { formatNumber } from '../quantity/format.ts';

export const PLATEAU_STATES = ['plateau', 'not_yet', 'flat_no_rise', 'signal_fault'] as const;
export type PlateauState = (typeof PLATEAU_STATES)[number];

export const plateauSettingsSchema = z.strictObject({
  windowMin: z.number().positive().max(120).default(10),
  slopePercentMin: z.number().positive().max(10).default(0.05),
  inARow: z.number().int().min(1).max(50).default(3),
  minRisePercent: z.number().min(0).max(500).default(3),
  dropPercent: z.number().positive().max(50).default(2),
  minHoldMin: z.number().min(0).max(1440).default(0).describe('no end before, min of the series'),
});
export type PlateauSettings = z.output<typeof plateauSettingsSchema>;

interface Sample {
  t: number;
  nF: number;
}
/** A capacitance series followed sample by sample: what is kept does not grow with it. */
export interface PlateauFollowed {
  state: PlateauState;
  /** min of the sample that decided */
  stopMin: number | undefined;
  risePercent: number;
  /** of the last sample, %/min; undefined while the window is not full */
  slopePercentMin: number | undefined;
  /** kept: the last two raw values, the first and highest filtered, the window, how many were flat in a row */
  raw: number[];
  first: number | undefined;
  firstT: number | undefined;
  highest: number;
  window: Sample[];
  flat: number;
}
export const plateauBegun = (): PlateauFollowed => ({
  state: 'not_yet',
  stopMin: undefined,
  risePercent: 0,
  slopePercentMin: undefined,
  raw: [],
  first: undefined,
  firstT: undefined,
  highest: 0,
  window: [],
  flat: 0,
});

const middle = (a: number, b: number, c: number): number => Math.max(Math.min(a, b), Math.min(Math.max(a, b), c));

/**
 * Takes one more sample. Resin displaces air, so the capacitance of winding to frame climbs and flattens; flat before the resin
 * came does not count (docs/derivations.md 30). Once decided (plateau or fault) it stays so.
 */
export function followPlateau(
  before: PlateauFollowed,
  t: number,
  nF: number,
  settings: PlateauSettings,
): PlateauFollowed {
  if (before.state === 'plateau' || before.state === 'signal_fault') return before;
  const [a, b] = before.raw;
  // the first two stand as they are, from the third on the median of three
  const g = a === undefined || b === undefined ? nF : middle(a, b, nF);
  const first = before.first ?? g;
  const firstT = before.firstT ?? t;
  const highest = Math.max(before.highest, g);
  const window = [...before.window, { t, nF: g }].filter((s) => s.t >= t - settings.windowMin);
  const risePercent = 100 * (g / first - 1);
  const slopePercentMin = t - firstT >= settings.windowMin && window.length >= 3 ? slopeOf(window) : undefined;
  const flat =
    slopePercentMin !== undefined && Math.abs(slopePercentMin) <= settings.slopePercentMin ? before.flat + 1 : 0;
  const kept = { raw: b === undefined ? [...before.raw, nF] : [b, nF], first, firstT, highest, window, flat };
  if (before.highest > 0 && g < (1 - settings.dropPercent / 100) * before.highest)
    return { ...kept, state: 'signal_fault', stopMin: t, risePercent, slopePercentMin };
  const isFlat = flat >= settings.inARow;
  if (isFlat && risePercent >= settings.minRisePercent && t >= settings.minHoldMin)
    return { ...kept, state: 'plateau', stopMin: t, risePercent, slopePercentMin };
  return {
    ...kept,
    state: isFlat && risePercent < settings.minRisePercent ? 'flat_no_rise' : 'not_yet',
    stopMin: undefined,
    risePercent,
    slopePercentMin,
  };
}

/** Slope of the least-squares line over the mean of the window, %/min. */
function slopeOf(window: readonly Sample[]): number {
  const n = window.length;
  const t = window.reduce((sum, s) => sum + s.t, 0) / n;
  const c = window.reduce((sum, s) => sum + s.nF, 0) / n;
  const spread = window.reduce((sum, s) => sum + (s.t - t) ** 2, 0);
  return spread === 0 ? 0 : ((100 / c) * window.reduce((sum, s) => sum + (s.t - t) * (s.nF - c), 0)) / spread;
}

const SAYS: Readonly<Record<PlateauState, string>> = {
  plateau: 'Filled: the capacitance rose and stands.',
  not_yet: 'Still rising, or not watched long enough: hold on.',
  flat_no_rise: 'It stands but never rose: look at the lead to the winding, and whether resin came.',
  signal_fault:
    'It fell: the signal is not believed. Look at the lead; hold for the longest time and let a named person decide.',
};

/** Calculation `process.capacitance`: has the resin filled the winding, by the capacitance of winding to frame. */
export const processCapacitance = defineCalculation({
  id: 'process.capacitance',
  version: 1,
  title: 'Filling of a winding under vacuum and pressure, by its capacitance to frame',
  sources: ['resin displaces air (derived)', 'slope, rise and window: common practice'],
  input: z.strictObject({
    samples: z
      .array(z.strictObject({ min: z.number().min(0), nF: z.number().positive().max(1e6) }))
      .min(1)
      .max(100_000),
    settings: plateauSettingsSchema.default(plateauSettingsSchema.parse({})),
  }),
  output: z.object({
    state: z.enum(PLATEAU_STATES),
    stopMin: z.number().optional(),
    risePercent: z.number(),
    slopePercentMin: z.number().optional(),
    says: z.string(),
  }),
  example: {
    samples: [
      [0, 30.1],
      [5, 31.4],
      [10, 33.2],
      [15, 34.4],
      [20, 34.9],
      [25, 35.1],
      [30, 35.16],
      [35, 35.17],
      [40, 35.18],
      [45, 35.18],
    ].map(([min, nF]) => ({ min: min ?? 0, nF: nF ?? 0 })),
  },
  compute: ({ samples, settings }, note) => {
    samples.forEach((s, i) => {
      if (i > 0 && s.min <= (samples[i - 1]?.min ?? 0))
        refuse(`samples.${i}.min`, `Samples go forward in time: ${s.min} min comes after ${samples[i - 1]?.min} min.`);
    });
    const followed = samples.reduce((f, s) => followPlateau(f, s.min, s.nF, settings), plateauBegun());
    note?.({
      name: 'Rise',
      symbol: 'ΔC',
      formula: '100 · (g/g₀ − 1), g = median of three',
      numbers: `first ${formatNumber(samples[0]?.nF ?? 0, 4)} nF, ${samples.length} samples`,
      value: followed.risePercent,
      unit: '%',
      source: 'common practice',
    });
    return {
      state: followed.state,
      ...(followed.stopMin === undefined ? {} : { stopMin: followed.stopMin }),
      risePercent: followed.risePercent,
      ...(followed.slopePercentMin === undefined ? {} : { slopePercentMin: followed.slopePercentMin }),
      says: SAYS[followed.state],
    };
  },
});
