import { CalculationInputError } from '../calculation.ts';
import type { FieldValue } from '../quantity/fields.ts';
import type { AidContext, AidResult, StepAid } from './aid.ts';
import { BATH_AIDS } from './bathAids.ts';
import { CORE_AIDS } from './coreAids.ts';
import { baseOf } from './operations.ts';

export type { AidContext, AidResult, StepAid } from './aid.ts';

const AIDS: readonly StepAid[] = [...CORE_AIDS, ...BATH_AIDS];

export const aidsOf = (code: string): readonly StepAid[] => AIDS.filter((a) => a.at.some((c) => c === baseOf(code)));

/** The result of an aid, or the sentence of what it cannot take. */
export function askAid(
  aid: StepAid,
  values: Readonly<Record<string, FieldValue>>,
  context: AidContext,
): { result?: AidResult | undefined; problem?: { field: string; message: string } } {
  try {
    return { result: aid.result(values, context) };
  } catch (error) {
    if (!(error instanceof CalculationInputError)) throw error;
    const [first] = error.problems;
    return { problem: { field: first?.field ?? '', message: first?.message ?? error.message } };
  }
}
