import type { GuardSettings, GuardState, LoadPoint, TestStage } from '@norther/core';
import { z } from 'zod';

/** A load run begins: on which instrument, at which stage, how far the current may go. */
export const loadRunBody = z.strictObject({
  instrument: z.uuid(),
  stage: z.enum(['AA', 'FI']),
  /** of the rated current, per cent; above 100 for the short overload points. Left out: the shop's */
  loadPercent: z.number().min(20, 'at least 20 %').max(160, 'at most 160 %').optional(),
});
/** A load run from a file instead of an instrument. */
export const loadFileBody = z.strictObject({
  stage: z.enum(['AA', 'FI']),
  fileName: z.string().trim().max(120).default(''),
  csv: z.string().min(1).max(8_000_000),
});
export const LOAD_RUN_COMMANDS = ['set load', 'unload', 'stop', 'go on'] as const;
export const loadCommandBody = z
  .strictObject({
    command: z.enum(LOAD_RUN_COMMANDS),
    /** N m, of "set load" */
    torqueNm: z.number().min(0).max(1e7).optional(),
  })
  .superRefine(({ command, torqueNm }, context) => {
    if ((command === 'set load') !== (torqueNm !== undefined))
      context.addIssue({
        code: 'custom',
        path: ['torqueNm'],
        message: command === 'set load' ? 'say how much load, in N·m' : `"${command}" takes no load`,
      });
  });
export const endLoadRunBody = z.strictObject({ why: z.string().trim().min(3, 'say why in a few words').max(200) });

/** A stream of resistance of a cooling winding, as the sheet of a temperature rise takes it. */
export interface CoolingView {
  trace: string;
  source: string;
  simulated: boolean;
  calibratedUntil: string | null;
  at: string;
  ended: boolean;
  /** a test is made of it already */
  taken: boolean;
  /** when the load run before it had current last; null: not known, its seconds count from its own start */
  offAt: string | null;
  /** seconds, resistances, coolant as the sheet takes them; empty while it has none */
  typed: Record<string, string>;
  /** why it tells nothing */
  problem: string | null;
}

/** A load run as it stands. */
export interface LoadRunView {
  id: string;
  stage: TestStage;
  /** null: from a file */
  instrument: {
    id: string;
    name: string;
    simulated: boolean;
    outOfDate: boolean;
    calibratedUntil: string | null;
    hears: boolean;
    /** "stopped here": nobody but who stands there lets it go on */
    state: string | null;
    takes: readonly string[];
  } | null;
  source: string;
  trace: string | null;
  at: string;
  person: string;
  endedAt: string | null;
  why: string | null;
  settings: GuardSettings;
  guard: Pick<GuardState, 'says' | 'why' | 'at'>;
  ratedNm: number | null;
  /** load that was told last, N·m */
  wantedNm: number;
  poles: number | null;
  points: LoadPoint[];
  /** what is not steady; null before the first window is full */
  unsteady: string[] | null;
  /** what one should know of the points */
  said: string[];
  /** s since the last sample; null while nothing came or once it has ended */
  silentS: number | null;
  /** a test is made of it already */
  taken: boolean;
}
