/**
 * The one clock of the server. Tests may run it some days on (`NORTHER_CLOCK_DAYS`), and the database and the pages with it; outside
 * tests that is refused.
 */
const days = Number(process.env['NORTHER_CLOCK_DAYS'] ?? 0);

export const SHIFT_MS = Number.isFinite(days) ? days * 86_400_000 : 0;

/** Refuses a shifted clock outside tests. */
export function refuseShiftedClock(): void {
  if (!Number.isFinite(days)) throw new Error('NORTHER_CLOCK_DAYS must be a number of days.');
  if (days !== 0 && process.env['NORTHER_TESTS'] !== 'yes')
    throw new Error('NORTHER_CLOCK_DAYS is for tests only; unset it.');
}

export const now = (): Date => new Date(Date.now() + SHIFT_MS);
/** Milliseconds of the one clock, for spans that are compared with stored times. */
export const nowMs = (): number => Date.now() + SHIFT_MS;
