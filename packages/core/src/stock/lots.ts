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
