/** Longest that something done without network may wait to be sent, s. */
const LONGEST_WAIT_S = 12 * 3600;

/** Seconds that a request waited on its device for the network, as it says itself; what is none is 0. */
export function waitedS(header: string | string[] | undefined): number {
  const said = typeof header === 'string' ? Number(header) : 0;
  return Number.isFinite(said) ? Math.min(LONGEST_WAIT_S, Math.max(0, said)) : 0;
}

/** When something was done that waited for the network, never before what it follows. */
export function doneAt(act: { at: Date; waitedS?: number | undefined }, after?: Date): Date {
  return new Date(Math.max(act.at.getTime() - 1000 * (act.waitedS ?? 0), after?.getTime() ?? 0));
}
