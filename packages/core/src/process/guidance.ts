import { BENCH_GUIDANCE } from './benchGuidance.ts';
import type { Guidance } from './guidanceText.ts';
import { baseOf, type OperationCode } from './operations.ts';
import { WINDING_GUIDANCE } from './windingGuidance.ts';

export type { Guidance } from './guidanceText.ts';

/** Common practice, in trade words. */
export const GUIDANCE: Readonly<Record<OperationCode, Guidance>> = { ...BENCH_GUIDANCE, ...WINDING_GUIDANCE };

/** What is said at an operation, or at a further run of it. */
export const guidanceOf = (code: string): Guidance => GUIDANCE[baseOf(code) as OperationCode];
