import { existsSync, readFileSync, writeFileSync } from 'node:fs';

const MIN_MS = 60_000;

/**
 * A program that is started again goes on with the run that it was in.
 * @param memory where the run is remembered; absent: nowhere
 * @param endMin how long a run lasts
 */
export function goOn(memory, endMin) {
  const before = memory && existsSync(memory) ? JSON.parse(readFileSync(memory, 'utf8')) : undefined;
  const still = before !== undefined && Date.now() < before.begun + endMin * MIN_MS;
  return {
    /** When a run began, how much of it lies behind, which part of it this is, and what was sent of it already. */
    of(run, behindMin) {
      const again = run === 0 && still;
      const behindMs = again ? Date.now() - before.begun : run === 0 && before === undefined ? behindMin * MIN_MS : 0;
      return {
        begun: Date.now() - behindMs,
        behindMs,
        part: again ? before.part + 1 : 1,
        sentS: again ? before.sentS : -1,
      };
    },
    keep(what) {
      if (memory) writeFileSync(memory, JSON.stringify(what));
    },
  };
}
