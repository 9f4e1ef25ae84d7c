import type { PartView, WindingView } from '@norther/contracts';
import type { PartKind } from '@norther/core';

/** One part of a job as the server answered it; what is recorded of it is taken for there. */
export function partOf(job: { parts: PartView[] }, kind: PartKind = 'stator') {
  const found = job.parts.find((p) => p.kind === kind);
  return found as { kind: PartKind; found: WindingView; plan: WindingView };
}
