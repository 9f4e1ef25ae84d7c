/** Longest that something done without network may wait to be sent, ms. */
const LONGEST_WAIT_MS = 12 * 3600 * 1000;

/**
 * When something was done: what the device says where it had to wait for the network, never ahead of the server, nor longer ago than
 * twelve hours or than what it follows.
 */
export function doneAt(now: Date, said: string | undefined, after?: Date): Date {
  if (said === undefined) return now;
  const earliest = Math.max(now.getTime() - LONGEST_WAIT_MS, after?.getTime() ?? 0);
  return new Date(Math.min(now.getTime(), Math.max(earliest, Date.parse(said))));
}
