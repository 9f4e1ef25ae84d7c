import { nowMs } from '../clock/clock.ts';
import { DEMO_JOBS, type DemoJob } from './demoJobs.ts';
import { afterWorking, lastWorking } from './shopHours.ts';

const DAY = 86_400_000;

/** When a demo job begins and ends, in the shop's hours. */
export function timesOf(one: DemoJob, now: number): { begin: number; end: number } {
  const end = lastWorking(now - (one.restDays ?? 0.1) * DAY);
  const begin = Math.min(lastWorking(now - one.daysAgo * DAY), afterWorking(lastWorking(end - DAY), 0));
  return { begin, end };
}

/**
 * The number that the n-th demo job gets when the shop is loaded at `now`: numbers count within the year in which a motor came, so in
 * January some of them are of the year before.
 */
export function demoNumber(nth: number, now = nowMs()): string {
  const counts = new Map<number, number>();
  for (const [i, one] of DEMO_JOBS.entries()) {
    const year = new Date(timesOf(one, now).begin).getUTCFullYear();
    const count = (counts.get(year) ?? 0) + 1;
    counts.set(year, count);
    if (i === nth - 1) return `${String(year % 100).padStart(2, '0')}-${String(count).padStart(4, '0')}`;
  }
  throw new Error(`there is no demo job ${nth}`);
}
