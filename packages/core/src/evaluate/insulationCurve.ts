import { z } from 'zod';
import { defineCalculation, refuse } from '../calculation.ts';
import { notAbove } from '../verdict.ts';

/** Times that insulation resistance is told at, s. Source: IEEE 43. */
const TOLD_S = { r15s: 15, r30s: 30, r1min: 60, r10min: 600 } as const;
/** A reading counts for a time where the curve has a sample within this share of it on either side. */
const REACH = 0.1;
/** The last sample counts for a time that it falls short of by no more than this share. */
const BEYOND = 0.02;

export type CurveReadings = Partial<Record<keyof typeof TOLD_S, number>>;

/**
 * What a logged curve reads at 15 s, 30 s, 1 min and 10 min: on the straight line between the samples beside it. Times that the curve
 * does not reach are left out.
 * @param seconds rising, from the moment the voltage came on
 */
export function curveReadings(seconds: ArrayLike<number>, megohm: ArrayLike<number>): CurveReadings {
  const out: CurveReadings = {};
  for (const [name, at] of Object.entries(TOLD_S) as [keyof typeof TOLD_S, number][]) {
    let after = 0;
    while (after < seconds.length && (seconds[after] as number) < at) after++;
    const [t1, r1] = [seconds[after], megohm[after]];
    const [t0, r0] = [seconds[after - 1], megohm[after - 1]];
    if (t1 === at && r1 !== undefined && r1 > 0) out[name] = r1;
    else if (t0 !== undefined && t1 !== undefined && r0 !== undefined && r1 !== undefined) {
      const near = notAbove(at - t0, REACH * at) || notAbove(t1 - at, REACH * at);
      const read = r0 + ((r1 - r0) * (at - t0)) / (t1 - t0);
      if (near && read > 0) out[name] = read;
    } else if (t1 === undefined && t0 !== undefined && r0 !== undefined && notAbove(at - t0, BEYOND * at) && r0 > 0)
      out[name] = r0;
  }
  return out;
}

/** Calculation `evaluate.insulationCurve`. */
export const insulationCurve = defineCalculation({
  id: 'evaluate.insulationCurve',
  version: 1,
  title: 'Insulation resistance over time: readings at 15 s, 30 s, 1 min, 10 min, their ratios',
  sources: ['IEEE 43-2013 (from memory)', 'absorption ratio: common practice'],
  input: z.strictObject({
    /** seconds from the moment the voltage came on, rising, and megohm at each */
    seconds: z.array(z.number().min(0).max(1e6)).min(2).max(20_000),
    megohm: z.array(z.number().positive().max(1e9)).min(2).max(20_000),
  }),
  output: z.object({
    r15s: z.number().optional(),
    r30s: z.number().optional(),
    r1min: z.number().optional(),
    r10min: z.number().optional(),
    polarizationIndex: z.number().optional(),
    absorptionRatio: z.number().optional(),
    ratio60to15: z.number().optional(),
  }),
  example: {
    seconds: [5, 15, 30, 60, 120, 300, 600],
    megohm: [310, 420, 520, 640, 790, 1010, 1180],
  },
  compute: (x) => {
    if (x.seconds.length !== x.megohm.length)
      refuse('megohm', `There are ${x.seconds.length} times and ${x.megohm.length} readings; each time has one.`);
    const at = x.seconds.findIndex((t, i) => i > 0 && t <= (x.seconds[i - 1] ?? 0));
    if (at > 0) refuse(`seconds.${at}`, 'Times must rise.');
    const read = curveReadings(x.seconds, x.megohm);
    const ratio = (a: number | undefined, b: number | undefined) =>
      a === undefined || b === undefined ? undefined : a / b;
    const out = {
      ...read,
      polarizationIndex: ratio(read.r10min, read.r1min),
      absorptionRatio: ratio(read.r1min, read.r30s),
      ratio60to15: ratio(read.r1min, read.r15s),
    };
    return Object.fromEntries(Object.entries(out).filter(([, v]) => v !== undefined));
  },
});
