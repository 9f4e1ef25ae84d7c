import { limit, quoteLimit, type LimitId, type ShopLimits } from '../limits/limits.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { notBelow, type Judged } from '../verdict.ts';

/** What was read at one time of a run. */
export interface CourseReading {
  /** since the run began */
  minutes: number;
  value: number;
}

/** How a reading moved over the last window of a run. */
export interface Course {
  last: number;
  /** the last less what it was a window earlier; undefined where the run is shorter than the window */
  moved?: number;
  /** the highest of the run, where the last lies below it */
  fallenFrom?: number;
}

/**
 * How readings of a run moved over its last window; between two readings the line between them counts.
 * Source: derived.
 * @param readings in the order of their times, at least one
 */
export function courseOf(readings: readonly CourseReading[], windowMin: number): Course | undefined {
  const last = readings.at(-1);
  if (!last) return undefined;
  const from = last.minutes - windowMin;
  const after = readings.findIndex((r) => notBelow(r.minutes, from));
  const [a, b] = [readings[after - 1], readings[after]];
  const highest = Math.max(...readings.map((r) => r.value));
  const fallen = highest > last.value ? { fallenFrom: highest } : {};
  if (!b || (!a && !notBelow(from, b.minutes))) return { last: last.value, ...fallen };
  const then = a
    ? a.value + (b.value - a.value) * Math.max(0, Math.min(1, (from - a.minutes) / (b.minutes - a.minutes)))
    : b.value;
  return { last: last.value, moved: last.value - then, ...fallen };
}

/** Whether what was followed is steady: it moved by less than a limit, in the limit's unit, over the last window. */
function steadyPart(
  name: string,
  moved: number | undefined,
  peak: string,
  [most, window]: readonly [LimitId, LimitId],
  unit: string,
  limits: ShopLimits,
): Judged {
  const over = quoteLimit(window, limits);
  if (moved === undefined)
    return {
      verdict: 'cannot judge',
      reason: `${name} was followed for less than ${over}: run on until it moves by less than ${quoteLimit(most, limits)}.`,
    };
  const bound = limit(most, limits);
  const by = `${formatAgainst(Math.abs(moved), bound)[0]} ${unit} in ${over}`;
  if (notBelow(Math.abs(moved), bound))
    return {
      verdict: 'cannot judge',
      reason: `${name} still ${moved > 0 ? 'rises' : `falls${peak}`}: ${by}; run on until under ${quoteLimit(most, limits)}.`,
    };
  return { verdict: 'pass', reason: `${name} steady${peak}: it moved by ${by}, under ${quoteLimit(most, limits)}.` };
}

/** A bearing followed until it is steady. Source: common practice; grease peaks, then falls: it is judged after the peak. */
export function bearingSteady(name: string, readings: readonly CourseReading[], limits: ShopLimits): Judged[] {
  const course = courseOf(readings, limit('noLoad.bearingDriftMin', limits));
  if (!course) return [];
  const peak = course.fallenFrom === undefined ? '' : ` (its peak was ${formatNumber(course.fallenFrom, 3)} °C)`;
  const by = ['noLoad.bearingDriftK', 'noLoad.bearingDriftMin'] as const;
  return [steadyPart(`${name} bearing`, course.moved, peak, by, 'K', limits)];
}

/** The power at no load followed until the friction is steady, in per cent of what it was. Source: IEEE 112 (from memory). */
export function powerSteady(readings: readonly CourseReading[], limits: ShopLimits): Judged[] {
  const course = courseOf(readings, limit('noLoad.powerDriftMin', limits));
  if (!course) return [];
  const then = course.moved === undefined ? 0 : course.last - course.moved;
  const percent = then > 0 ? (100 * (course.moved ?? 0)) / then : undefined;
  return [steadyPart('The power', percent, '', ['noLoad.powerDriftPercent', 'noLoad.powerDriftMin'], '%', limits)];
}
