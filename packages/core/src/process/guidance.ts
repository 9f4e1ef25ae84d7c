import { BENCH_GUIDANCE } from './benchGuidance.ts';
import type { Guidance } from './guidanceText.ts';
import type { OperationCode } from './operations.ts';
import { WINDING_GUIDANCE } from './windingGuidance.ts';

export type { Guidance } from './guidanceText.ts';

/** Common practice, in trade words. */
export const GUIDANCE: Readonly<Record<OperationCode, Guidance>> = { ...BENCH_GUIDANCE, ...WINDING_GUIDANCE };
