import { BALANCE_FIELDS } from '@norther/contracts';
import {
  derivedOf,
  measuredBySession,
  measurementsOf,
  operation,
  partOnRail,
  testKind,
  type FieldValue,
  type Measurement,
  type PartKind,
  type ReadingDefaults,
} from '@norther/core';

interface Document {
  typed: unknown;
  values: unknown;
}
const of = (name: string, fields: Parameters<typeof measurementsOf>[1], d: Document, defaults: ReadingDefaults) =>
  measurementsOf(name, fields, d.values as Record<string, FieldValue>, d.typed as Record<string, string>, defaults);

/** What a test measured and what was worked out of it. */
export function measuredByTest(
  test: Document & { kind: string; result?: unknown },
  defaults: ReadingDefaults,
): Measurement[] {
  const kind = testKind(test.kind);
  if (!kind) return [];
  return [...of(kind.id, kind.fields, test, defaults), ...derivedOf(kind, test.result as { values: unknown } | null)];
}

/** The part that a step works on; none where it works on the whole motor. */
export function partOfStep(code: string, parts: readonly PartKind[]): PartKind | undefined {
  const { rail } = operation(code);
  return rail === 'trunk' ? undefined : partOnRail(parts, rail);
}

/** What was recorded at the finish of a step. */
export const measuredByStep = (attempt: Document & { code: string }, defaults: ReadingDefaults): Measurement[] =>
  of(attempt.code, operation(attempt.code).fields, attempt, defaults);

/** What was typed at the balancing stand; of a balance step by step what was left. */
export const measuredByBalance = (run: Document & { result?: unknown }, defaults: ReadingDefaults): Measurement[] => [
  ...of('balance', BALANCE_FIELDS, run, defaults),
  ...measuredBySession(run.result as { id?: string; values?: unknown } | null | undefined),
];
