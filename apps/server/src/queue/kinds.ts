import type { Nameplate, WindingRecord } from '@norther/core';
import type { cureBody, Role } from '@norther/contracts';
import type { z } from 'zod';
import type { Transaction } from '../database/tables.ts';

/** Kinds of work in the background and what each is given. */
export interface WorkData {
  /** lay out an issued report */
  report: { reportId: string };
  /** everything in the database as one file */
  backup: Record<string, never>;
  /** let go what has served: old keys, sessions, failures, drafts */
  prune: Record<string, never>;
  /** a long oven log */
  ovenLog: { number: string; body: z.output<typeof cureBody>; actor: { id: string; name: string; role: Role } };
  /** a long table of old winding records */
  archiveImport: {
    fileName: string;
    personName: string;
    rows: { line: number; title: string; plateTyped: Record<string, string>; typed: Record<string, string> }[];
  };
  /** compare a winding with every one of a large archive */
  likeness: { record: WindingRecord; nameplate: Nameplate; without: string; rail: string };
}
export type WorkKind = keyof WorkData;

/** One queue for all work: `work.kind` says what it is. */
export const WORK_QUEUE = 'work';
/** What is asked for every night. */
export const NIGHT_QUEUE = 'night';
export const QUEUES = [WORK_QUEUE, NIGHT_QUEUE] as const;
export const QUEUE_SCHEMA = 'pgboss';

/** How an attempt reports and what it asks, while it runs. */
export interface Control {
  progress: (share: number) => Promise<void>;
  /** throws when somebody has cancelled the work, or another worker has taken it up */
  check: () => Promise<void>;
}

/** Work that cannot be done, with a sentence for the person who asked. */
export class WorkProblem extends Error {}

/**
 * What does one kind of work. `prepare` may take its time and must leave nothing behind; what it gives back is run in the
 * transaction that ends the work, so that the effect is there once or not at all.
 */
export interface WorkHandler<K extends WorkKind> {
  readonly kind: K;
  prepare: (data: WorkData[K], control: Control) => Promise<Effect>;
}
export type Effect = (tx: Transaction) => Promise<{ result?: object; tell?: string }>;
