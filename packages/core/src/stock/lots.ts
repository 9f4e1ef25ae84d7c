const DAY_MS = 86_400_000;
const dayNumber = (day: string): number => Math.floor(Date.parse(`${day}T00:00:00Z`) / DAY_MS);
const dayOf = (n: number): string => new Date(n * DAY_MS).toISOString().slice(0, 10);

export interface ShelfLife {
  /** day it was made, year-month-day */
  made: string;
  days: number;
  referenceC: number;
  storedC: number;
  opened?: string | undefined;
  openDays?: number | undefined;
}

/**
 * Last day a lot may be used: made + ⌊days·2^(−max(0, T_store − T_ref)/10)⌋; colder never lengthens; once opened, no
 * later than opened + open days. Usable on that day itself.
 */
export function expiryDay(x: ShelfLife): string {
  const closed = dayNumber(x.made) + Math.floor(x.days * 2 ** (-Math.max(0, x.storedC - x.referenceC) / 10));
  const open = x.opened && x.openDays !== undefined ? dayNumber(x.opened) + x.openDays : Infinity;
  return dayOf(Math.min(closed, open));
}

/**
 * Stock at which to order again: mean·L + z·√(L·sd² + mean²·sd_L²).
 * @param z 1.645 for about 95 %
 */
export function reorderPoint(x: {
  meanPerDay: number;
  sdPerDay: number;
  leadDays: number;
  sdLeadDays: number;
  z: number;
}) {
  const safety = x.z * Math.sqrt(x.leadDays * x.sdPerDay ** 2 + x.meanPerDay ** 2 * x.sdLeadDays ** 2);
  return { safety, point: x.meanPerDay * x.leadDays + safety };
}

export interface PickableLot {
  lot: string;
  /** last day of use; null = does not expire */
  expires: string | null;
  quarantined: boolean;
  /** free to take, in the lot's own unit */
  free: number;
}

/**
 * Lots to take from, first expired first out among usable ones, ties by lot number; how much of each.
 * @returns short: what is missing when all usable lots are taken
 */
export function pickLots<L extends PickableLot>(
  lots: readonly L[],
  wanted: number,
  today: string,
): { picks: { lot: L; quantity: number }[]; short: number } {
  const usable = lots
    .filter((l) => !l.quarantined && l.free > 0 && (l.expires === null || l.expires >= today))
    .sort((a, b) => (a.expires ?? '9999').localeCompare(b.expires ?? '9999') || (a.lot < b.lot ? -1 : 1));
  const picks: { lot: L; quantity: number }[] = [];
  let left = wanted;
  for (const lot of usable) {
    if (left <= 1e-9) break;
    const quantity = Math.min(left, lot.free);
    picks.push({ lot, quantity });
    left -= quantity;
  }
  return { picks, short: Math.max(0, left) };
}

/** Use against the bill, per cent; above the limit somebody is asked why. */
export function useVariancePercent(used: number, billed: number): number {
  return billed > 0 ? (used / billed - 1) * 100 : 0;
}

/** From which lots a lot was mixed: a topped-up tank holds all that was in it and all that came. */
export interface LotParent {
  lot: string;
  parent: string;
}

/** Every lot that is in a lot, itself left out: parents, theirs, and so on. */
export const lotsWithin = (lot: string, edges: readonly LotParent[]): string[] =>
  closure(lot, (x) => edges.flatMap((e) => (e.lot === x ? [e.parent] : [])));

/** Every lot that a lot went into, itself left out. */
export const lotsAfter = (lot: string, edges: readonly LotParent[]): string[] =>
  closure(lot, (x) => edges.flatMap((e) => (e.parent === x ? [e.lot] : [])));

function closure(from: string, next: (x: string) => readonly string[]): string[] {
  const seen = new Set([from]);
  const queue = [from];
  for (let x = queue.shift(); x !== undefined; x = queue.shift())
    for (const y of next(x))
      if (!seen.has(y)) {
        seen.add(y);
        queue.push(y);
      }
  seen.delete(from);
  return [...seen];
}

/** Use of a material day by day, and from it when to order again. @param used what was used on each day with use, of so many days */
export function orderAgain(
  used: readonly number[],
  days: number,
  lead: { days: number; sdDays: number; z: number },
): { meanPerDay: number; sdPerDay: number; safety: number; point: number } {
  const meanPerDay = used.reduce((n, x) => n + x, 0) / days;
  const squares = used.reduce((n, x) => n + (x - meanPerDay) ** 2, 0) + (days - used.length) * meanPerDay ** 2;
  const sdPerDay = Math.sqrt(squares / Math.max(1, days - 1));
  return {
    meanPerDay,
    sdPerDay,
    ...reorderPoint({ meanPerDay, sdPerDay, leadDays: lead.days, sdLeadDays: lead.sdDays, z: lead.z }),
  };
}
