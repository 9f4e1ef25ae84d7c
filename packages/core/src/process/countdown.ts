import { floorOf, cureRate, type Resin } from './cure.ts';
import type { FittedLag } from './lag.ts';
import { temperatureAfter } from './lag.ts';

/** What is left of a cure, min; undefined where nothing can be said. */
export interface Countdown {
  /** at the temperature of now: (1 − D) t_r / f(T) */
  simpleMin: number | undefined;
  /** by the lag of the part, as it goes on towards the air */
  forecastMin: number | undefined;
  /** why there is no figure */
  why: string;
}

/** A forecast longer than this is none, min: three days. */
const FARTHEST_MIN = 72 * 60;

/**
 * Minutes of cure left. The forecast solves ∫ f(Ta − (Ta − T) e^(−t/τ)) dt = (1 − D) t_r.
 * @param degree D so far; `lag` as `fitLag` gives it, absent while it is not known
 */
export function cureLeft(
  resin: Resin,
  maxC: number,
  now: { degree: number; partC: number; airC?: number | undefined; lag?: Pick<FittedLag, 'lagMin'> | undefined },
): Countdown {
  const floorC = floorOf(resin);
  const rate = (c: number): number => cureRate(c, resin.ratedC, resin.rate, floorC, maxC);
  const needed = (1 - now.degree) * resin.ratedH * 60;
  if (needed <= 0) return { simpleMin: 0, forecastMin: 0, why: '' };
  const f = rate(now.partC);
  const simpleMin = f > 0 ? needed / f : undefined;
  const { airC, lag } = now;
  if (airC === undefined || !lag)
    return { simpleMin, forecastMin: undefined, why: f > 0 ? '' : 'Not curing yet: the part is below its floor.' };
  const at = (t: number): number => rate(temperatureAfter(now.partC, airC, lag.lagMin, t));
  // Simpson in steps of a fortieth of the lag; the step in which it is done is halved in
  const h = lag.lagMin / 40;
  let done = 0;
  for (let t = 0; t < FARTHEST_MIN; t += h) {
    // the floor cuts the rate off at once: a step across it counts from where it is crossed
    const [a, m, b] = [at(t), at(t + h / 2), at(t + h)];
    const part = a > 0 === b > 0 ? (h * (a + 4 * m + b)) / 6 : crossed(at, t, h);
    if (done + part >= needed) {
      // inside one step the rate hardly moves
      const rest = needed - done;
      const slope = (b - a) / h;
      const within = Math.abs(slope) < 1e-12 * a ? rest / a : (-a + Math.sqrt(a * a + 2 * slope * rest)) / slope;
      return { simpleMin, forecastMin: t + Math.min(h, Math.max(0, within)), why: '' };
    }
    done += part;
  }
  return {
    simpleMin,
    forecastMin: undefined,
    why: `At this air of ${Math.round(airC)} °C the cure does not come to its end within three days.`,
  };
}

/** The integral of a step in which the rate sets in or stops, by ten pieces. */
function crossed(at: (t: number) => number, t: number, h: number): number {
  let sum = 0;
  for (let i = 0; i < 10; i++) sum += at(t + ((i + 0.5) * h) / 10);
  return (sum * h) / 10;
}
