import { BENCH_GUIDANCE } from './benchGuidance.ts';
import type { OperationCode } from './operations.ts';
import { WINDING_GUIDANCE } from './windingGuidance.ts';

/** What a new hand is told at an operation beside what it is: why, what a good one looks like, and what usually goes wrong. */
export interface Guidance {
  readonly why: string;
  readonly good: string;
  readonly mistake: string;
}

/** Common practice, in trade words. */
export const GUIDANCE: Readonly<Record<OperationCode, Guidance>> = { ...BENCH_GUIDANCE, ...WINDING_GUIDANCE };
