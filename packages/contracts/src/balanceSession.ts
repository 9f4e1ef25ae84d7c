import { balanceEntrySchema, PART_KINDS, type BalanceEntry, type BalanceSetUp, type PartKind } from '@norther/core';
import { z } from 'zod';
import type { Signed } from './job.ts';

const typed = z.record(z.string().max(40), z.string().max(300));

export const beginBalanceBody = z.strictObject({ part: z.enum(PART_KINDS).optional(), typed });
/** What was done on the stand. One that stands for an earlier row, or takes it back, says why. */
export const balanceEntryBody = z.strictObject({
  entry: balanceEntrySchema,
  /** number of the row that was wrong */
  supersedes: z.int().min(1).optional(),
  withdrawn: z.boolean().default(false),
  reason: z.string().trim().max(500).default(''),
});
export const endBalanceBody = z.strictObject({
  /** before it is inside it ends with a reason */
  reason: z.string().trim().max(500).default(''),
});

export interface BalanceEntryView {
  ordinal: number;
  entry: BalanceEntry;
  supersedes: number | null;
  withdrawn: boolean;
  reason: string;
  person: string;
  at: string;
  /** a later row stands for it */
  gone: boolean;
}
export interface BalanceSessionView {
  id: string;
  part: PartKind;
  typed: Record<string, string>;
  setUp: BalanceSetUp;
  limits: Record<string, number>;
  person: string;
  at: string;
  ended: Signed | null;
  entries: BalanceEntryView[];
}

/** The entries that count, in the order in which they happened: each in the place of what it stands for. */
export function standingEntries(
  rows: readonly Pick<BalanceEntryView, 'ordinal' | 'entry' | 'supersedes' | 'withdrawn'>[],
): BalanceEntry[] {
  const latest = new Map<number, (typeof rows)[number]>();
  const root = new Map<number, number>();
  for (const r of [...rows].sort((a, b) => a.ordinal - b.ordinal)) {
    const of = r.supersedes === null ? r.ordinal : (root.get(r.supersedes) ?? r.supersedes);
    root.set(r.ordinal, of);
    latest.set(of, r);
  }
  return [...latest.entries()].sort(([a], [b]) => a - b).flatMap(([, r]) => (r.withdrawn ? [] : [r.entry]));
}
