import {
  ANALYSER_TESTS,
  TEST_STAGES,
  type FieldValue,
  type JudgingContext,
  type PartKind,
  type Verdict,
} from '@norther/core';
import { z } from 'zod';
import { day, partKindSchema, typedSchema, type Signed } from './typed.ts';

/** Traces that one reading is made of, at most. */
export const MOST_TEST_TRACES = 16;

export const testBody = z.strictObject({
  stage: z.enum(['IN', 'BS', 'AB', 'AC', 'VC', 'AA', 'FI']),
  kind: z.string().max(60),
  /** the part tested; left out, the stator, or what came in */
  part: partKindSchema.optional(),
  /** the piece tested, by its number, in a job of many */
  unit: z.int().min(1).optional(),
  typed: typedSchema,
  calibratedUntil: day.optional(),
  supersedes: z.uuid().optional(),
  reason: z.string().trim().max(500).optional(),
  /** what an instrument sent and the reading is made of */
  traces: z.array(z.uuid()).min(1).max(MOST_TEST_TRACES).optional(),
  /** waves of a surge comparison from a file */
  waves: z
    .strictObject({
      fileName: z.string().trim().max(200).default(''),
      csv: z.string().min(1).max(20_000_000),
      unit: z.enum(['V', 'kV']).optional(),
      time: z.enum(['s', 'ms', 'µs']).optional(),
      appliedV: z.number().min(1).max(1e6).optional(),
      names: z.array(z.string().trim().max(40)).max(80).optional(),
    })
    .optional(),
  /** why it was done although a lower test failed or is missing; a foreman's */
  override: z.string().trim().min(3).max(500).optional(),
  /** what stood in for the instrument that was wanted; waits for a foreman's name */
  lesser: z.string().trim().min(3).max(200).optional(),
});

export interface TestView {
  id: string;
  part: PartKind;
  stage: string;
  kind: string;
  typed: Record<string, string>;
  values: Record<string, FieldValue>;
  verdict: Verdict;
  reason: string;
  result: unknown;
  person: string;
  takenAt: string;
  supersedes: string | null;
  supersededBy: string | null;
  correctionReason: string | null;
  signed: Signed | null;
  /** who let it go on although a lower test barred it, and why */
  override: Signed | null;
  /** what stood in for the instrument that was wanted */
  lesser: string | null;
  traces: TestTraceView[];
}
/** A trace that a reading is made of. */
export interface TestTraceView {
  id: string;
  what: string;
  channels: { name: string; unit: string; role: string }[];
  simulated: boolean;
}

/** A test of an earlier visit of the same motor, that no correction has replaced. */
export interface EarlierTestView {
  number: string;
  part: PartKind;
  stage: string;
  kind: string;
  takenAt: string;
  verdict: Verdict;
  /** the first figure that its calculation derived, in the unit that its kind names */
  figure: number | null;
  values: Record<string, FieldValue>;
  traces: TestTraceView[];
}

/** The newest reading of a test of another motor of the same kind, output, poles, voltage and shaft height. */
export interface KindReading {
  figure: number;
  values: Record<string, FieldValue>;
}

/** Waves of the comparison before, of the same winding and rotor state. */
export type EarlierWaves = NonNullable<JudgingContext['earlierWaves']> | null;

/** Which comparison the earlier waves are wanted for. */
export const earlierWavesQuery = z.strictObject({
  stage: z.enum(TEST_STAGES),
  part: partKindSchema.optional(),
  rotor: z.string().max(40).optional(),
  supersedes: z.uuid().optional(),
});

/** A test that a simulated analyser is to do of a motor. */
export const measureBody = z.strictObject({
  instrument: z.uuid(),
  test: z.enum(ANALYSER_TESTS),
  stage: z.enum(TEST_STAGES),
});
