import { windingPartSchema, type FailureFound, type FieldValue, type Verdict, type WindingPart } from '@norther/core';
import { z } from 'zod';
import { typedSchema } from './typed.ts';

export const failureBody = z.strictObject({
  part: windingPartSchema.default('stator'),
  /** revision this edit started from; 0 when there was none */
  revision: z.int().min(0),
  typed: typedSchema,
});

/** A failure analysis in force: what was marked and seen, what speaks for which cause, what a person concluded. */
export interface FailureView {
  part: WindingPart;
  revision: number;
  typed: Record<string, string>;
  values: Record<string, FieldValue>;
  verdict: Verdict;
  reason: string;
  found: FailureFound;
  person: string;
  at: string;
}
