import type { WorkingStep } from '../calculation.ts';
import type { ShopLimits } from '../limits/limits.ts';
import type { Nameplate } from '../machine/nameplate.ts';
import type { FieldSpec, FieldValue, Typed } from '../quantity/fields.ts';
import type { Verdict } from '../verdict.ts';
import type { WindingRecord } from '../winding/record.ts';
import type { OperationCode } from './operations.ts';

/** What an aid is given beside what is typed into it. */
export interface AidContext {
  record?: WindingRecord | undefined;
  nameplate: Nameplate;
  /** recorded values of earlier operations of this job */
  earlier: Readonly<Record<string, Readonly<Record<string, FieldValue>>>>;
  limits: ShopLimits;
  /** voltages that the shop has for a loop test, taps included */
  supplyTapsV?: readonly number[];
}
export interface AidResult {
  lines: readonly (readonly [label: string, value: string])[];
  verdict?: Verdict;
  reason?: string;
  says?: readonly string[];
  /** fields of the step's own record that follow from it, as they would be typed */
  fills?: Typed;
  working?: WorkingStep[];
}

/** A calculation at the bench: what is typed, what is known of the motor already, what comes out. */
export interface StepAid {
  readonly id: string;
  readonly title: string;
  readonly at: readonly OperationCode[];
  readonly fields: readonly FieldSpec[];
  /** what the motor's records say already, as typed */
  readonly start: (context: AidContext) => Typed;
  /** undefined while too little is typed */
  readonly result: (values: Readonly<Record<string, FieldValue>>, context: AidContext) => AidResult | undefined;
}
