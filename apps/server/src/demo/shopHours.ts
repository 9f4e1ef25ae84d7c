/** The demo shop works from seven to half past four, Monday to Friday, by its own clock (UTC). */
const OPENS_MIN = 7 * 60;
const CLOSES_MIN = 16 * 60 + 30;
const DAY_MS = 86_400_000;

const dayOf = (at: number): number => Math.floor(at / DAY_MS);
/** Monday is 1; the first day of the epoch was a Thursday. */
const isWorkday = (day: number): boolean => {
  const weekday = (((day + 3) % 7) + 7) % 7;
  return weekday < 5;
};
const opens = (day: number): number => day * DAY_MS + OPENS_MIN * 60_000;
const closes = (day: number): number => day * DAY_MS + CLOSES_MIN * 60_000;

/** The last moment at or before `at` at which somebody works. */
export function lastWorking(at: number): number {
  let day = dayOf(at);
  if (isWorkday(day) && at >= opens(day)) return Math.min(at, closes(day));
  do day -= 1;
  while (!isWorkday(day));
  return closes(day);
}

/** Working time between two moments, ms. */
export function workingBetween(from: number, to: number): number {
  let sum = 0;
  for (let day = dayOf(from); day <= dayOf(to); day++)
    if (isWorkday(day)) sum += Math.max(0, Math.min(to, closes(day)) - Math.max(from, opens(day)));
  return sum;
}

/** The moment after so much working time. */
export function afterWorking(from: number, ms: number): number {
  let left = ms;
  for (let day = dayOf(from); ; day++) {
    if (!isWorkday(day)) continue;
    const begin = Math.max(from, opens(day));
    const room = Math.max(0, closes(day) - begin);
    if (left <= room) return begin + left;
    left -= room;
  }
}
