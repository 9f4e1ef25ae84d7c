import type { z } from 'zod';
import { inOurWords, sentenceOfInput } from './inputWords.ts';

/** One named step of a worked calculation, as a person would write it on paper. */
export interface WorkingStep {
  /** what is worked out, in plain words */
  name: string;
  /** the symbol used in the formula */
  symbol: string;
  /** the formula in plain text */
  formula: string;
  /** the formula with the numbers put in */
  numbers: string;
  /** the result; text where the result is not a number */
  value: number | string;
  unit: string;
  /** standard, book section or "common practice" */
  source: string;
}

/** Takes one working step. Undefined when nobody asked for the working, so that `note?.({…})` costs nothing. */
export type Note = ((step: WorkingStep) => void) | undefined;

/** A calculation a user can ask for: described once, reachable by HTTP, command line, worker and screen. */
export interface Calculation<I extends z.ZodType = z.ZodType, O extends z.ZodType = z.ZodType> {
  readonly id: string;
  readonly version: number;
  readonly title: string;
  readonly sources: readonly string[];
  readonly input: I;
  readonly output: O;
  readonly example: z.input<I>;
  /** may take longer than 200 ms: a server works it out beside its serving thread */
  readonly heavy?: true;
  readonly compute: (input: z.output<I>, note?: Note) => z.output<O>;
}

/** The result of a calculation with what is needed to show or repeat it. */
export interface CalculationResult<T = unknown> {
  id: string;
  version: number;
  values: T;
  working: WorkingStep[];
  sources: readonly string[];
}

/** Input that a calculation cannot take; `field` is a dotted path into the input. */
export class CalculationInputError extends Error {
  readonly field: string;
  readonly problems: { field: string; message: string }[];
  constructor(problems: { field: string; message: string }[]) {
    super(problems.map((p) => (p.field ? `${p.field}: ${p.message}` : p.message)).join(' '));
    this.name = 'CalculationInputError';
    this.problems = problems;
    this.field = problems[0]?.field ?? '';
  }
}

/** Keeps the types of input and output while describing a calculation. */
export function defineCalculation<I extends z.ZodType, O extends z.ZodType>(
  calculation: Calculation<I, O>,
): Calculation<I, O> {
  return calculation;
}

/** The same input with its number of leads as text, or its text as number. */
function otherLeads(input: unknown): unknown {
  const { leads, ...rest } = (input ?? {}) as { leads?: unknown };
  if (typeof leads === 'number') return { ...rest, leads: String(leads) };
  return typeof leads === 'string' && /^\d+$/.test(leads.trim()) ? { ...rest, leads: Number(leads) } : input;
}

/**
 * Checks the input, computes, and collects the working when asked for.
 * @throws CalculationInputError with one sentence per field at fault
 */
export function runCalculation<I extends z.ZodType, O extends z.ZodType>(
  calculation: Calculation<I, O>,
  rawInput: unknown,
  options: { working: 'asked' | 'none' } = { working: 'asked' },
): CalculationResult<z.output<O>> {
  const input = inOurWords(rawInput);
  let parsed = calculation.input.safeParse(input);
  // leads are said as a number or as text; each schema takes the one it knows
  if (!parsed.success && parsed.error.issues.some((issue) => issue.path.at(-1) === 'leads'))
    parsed = calculation.input.safeParse(otherLeads(input));
  if (!parsed.success) {
    const known = Object.keys((calculation.input as { shape?: object }).shape ?? {});
    throw new CalculationInputError(
      parsed.error.issues.map((issue) => ({
        field: issue.path.join('.') || (issue.code === 'unrecognized_keys' ? (issue.keys[0] ?? '') : ''),
        message: sentenceOfInput(issue, input, known),
      })),
    );
  }
  const working: WorkingStep[] = [];
  const values = calculation.compute(
    parsed.data,
    options.working === 'asked' ? (step) => working.push(step) : undefined,
  );
  return { id: calculation.id, version: calculation.version, values, working, sources: calculation.sources };
}

/** An input error raised inside `compute`, naming the field. */
export function refuse(field: string, message: string): never {
  throw new CalculationInputError([{ field, message }]);
}
