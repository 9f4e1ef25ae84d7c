import type { BalanceSessionView } from '@norther/contracts';
import type { EntryRow, SessionRow } from './balanceRepository.ts';

/** Whether a later row stands for one. */
export const isGone = (entries: readonly EntryRow[], e: EntryRow): boolean =>
  e.withdrawn || entries.some((o) => o.supersedes === e.ordinal);

/** A balance with its rows, as it is shown and printed. */
export function sessionView(s: SessionRow, entries: readonly EntryRow[]): BalanceSessionView {
  return {
    id: s.id,
    part: s.part,
    unit: s.piece,
    typed: s.typed,
    setUp: s.setUp,
    limits: s.limits,
    person: s.personName,
    at: s.at.toISOString(),
    ended: s.ended,
    entries: entries.map((e) => ({
      ordinal: e.ordinal,
      entry: e.entry,
      supersedes: e.supersedes,
      withdrawn: e.withdrawn,
      reason: e.reason,
      person: e.personName,
      at: e.at.toISOString(),
      gone: isGone(entries, e),
    })),
  };
}
