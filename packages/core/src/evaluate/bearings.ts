import { limit, type ShopLimits } from '../limits/limits.ts';
import { formatNumber } from '../quantity/format.ts';
import { judgeUpTo, notAbove, type Judged } from '../verdict.ts';
import { bearingSteady, type CourseReading } from './bearingCourse.ts';

export const BEARING_KINDS = ['rolling', 'sleeve'] as const;

/** One time of a run at which bearings were read. */
export interface RunReading {
  minutes: number;
  driveC?: number | undefined;
  otherC?: number | undefined;
}

const columnOf = (course: readonly RunReading[], of: (r: RunReading) => number | undefined): CourseReading[] =>
  course.flatMap((r) => {
    const value = of(r);
    return value === undefined ? [] : [{ minutes: r.minutes, value }];
  });

/**
 * Bearing temperatures of a run: steady, the rise above the air, and what no bearing may pass. Followed over the run its last reading is
 * judged, and the highest against what none may pass; read once, that reading.
 * Source: common practice.
 */
export function judgeBearings(x: {
  bearingDriveC?: number | undefined;
  bearingOtherC?: number | undefined;
  bearingKind?: (typeof BEARING_KINDS)[number] | undefined;
  course?: readonly RunReading[] | undefined;
  ambientC?: number | undefined;
  limits: ShopLimits;
}): Judged[] {
  const course = x.course ?? [];
  const bearings = [
    ['Drive-end', x.bearingDriveC, columnOf(course, (r) => r.driveC)],
    ['Opposite-end', x.bearingOtherC, columnOf(course, (r) => r.otherC)],
  ] as const;
  return bearings.flatMap(([name, read, followed]): Judged[] => {
    const c = followed.at(-1)?.value ?? read;
    if (c === undefined) return [];
    const highest = Math.max(c, ...followed.map((r) => r.value));
    return [temperature(name, c, highest, x), ...bearingSteady(name, followed, x.limits)];
  });
}

function temperature(
  name: string,
  c: number,
  highest: number,
  x: { bearingKind?: (typeof BEARING_KINDS)[number] | undefined; ambientC?: number | undefined; limits: ShopLimits },
): Judged {
  const rise = x.ambientC === undefined ? undefined : c - x.ambientC;
  const above = rise === undefined ? '' : `, ${formatNumber(rise, 3)} K above the air`;
  const peak = highest > c ? `, up to ${formatNumber(highest, 3)} °C` : '';
  const reason = `${name} bearing ${formatNumber(c, 3)} °C${peak}${above}.`;
  // the metal of a sleeve is judged by its temperature, a rolling bearing by its rise
  if (x.bearingKind === 'sleeve')
    return {
      verdict: judgeUpTo(highest, limit('noLoad.sleeveAttentionC', x.limits), limit('noLoad.sleeveMaxC', x.limits)),
      reason,
    };
  const byRise =
    rise === undefined
      ? 'pass'
      : judgeUpTo(rise, limit('noLoad.bearingRisePassK', x.limits), limit('noLoad.bearingRiseAttentionK', x.limits));
  return { verdict: notAbove(highest, limit('noLoad.bearingMaxC', x.limits)) ? byRise : 'fail', reason };
}
