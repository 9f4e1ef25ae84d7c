import {
  balanceEntrySchema,
  PART_KINDS,
  type BalanceEntry,
  type BalanceSetUp,
  type PartKind,
  type StandRun,
} from '@norther/core';
import { z } from 'zod';
import type { Signed } from './typed.ts';

const typed = z.record(z.string().max(40), z.string().max(300));

export const beginBalanceBody = z.strictObject({
  part: z.enum(PART_KINDS).optional(),
  /** number of the piece, in a job of many */
  unit: z.int().min(1).optional(),
  typed,
  /** the kept family whose influence set is to be tried */
  family: z.uuid().optional(),
});
/** Spins a simulated stand: with a trial mass where one is in. */
export const spinBody = z.strictObject({
  instrument: z.uuid(),
  trial: z
    .strictObject({
      plane: z.int().min(1).max(2),
      gMm: z.number().positive().max(1e7),
      angleDeg: z.number().min(-360).max(720),
    })
    .optional(),
});
export const keepFamilyBody = z.strictObject({
  name: z.string().trim().min(2).max(80),
  job: z.string().min(1).max(40),
  session: z.uuid(),
});
export const retireFamilyBody = z.strictObject({ reason: z.string().trim().min(3).max(500) });
/** Rotors of one kind as the shop keeps them. */
export interface RotorFamilyView {
  id: string;
  name: string;
  typed: Record<string, string>;
  setUp: BalanceSetUp;
  /** an influence set is kept with it */
  influence: boolean;
  fromJob: string;
  person: string;
  at: string;
}
/** A run that a stand sent, as its samples tell it. */
export interface StandRunView {
  trace: string;
  instrument: string;
  simulated: boolean;
  outOfDate: boolean;
  stream: string;
  at: string;
  ended: boolean;
  /** taken into this balance already */
  taken: boolean;
  run: StandRun | undefined;
  /** why it is none of this balance */
  wrong: string | undefined;
}
/** What was done on the stand. One that stands for an earlier row, or takes it back, says why. */
export const balanceEntryBody = z.strictObject({
  entry: balanceEntrySchema,
  /** the run of a stand that this reading is taken from; what was typed of it does not count */
  trace: z.uuid().optional(),
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
  /** number of the piece, in a job of many; null: the job as a whole */
  unit: number | null;
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
