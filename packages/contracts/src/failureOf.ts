import { connectionOfRecord, failureInput, type FieldValue, type ShopLimits, type WindingPart } from '@norther/core';
import type { JobDetail } from './job.ts';
import { windingOfPart } from './parts.ts';

/** The winding that failed, as it was found: its layout and connection, as far as they are recorded. */
export function failedWinding(job: Pick<JobDetail, 'nameplate' | 'parts'>, part: WindingPart) {
  const { found, inCore } = windingOfPart(job, part);
  const { layout, connection, why } = connectionOfRecord(inCore(found?.record ?? { kind: 'three-phase' }));
  return { layout, connection, why };
}

/** Input of the calculation `diagnose.failure` for a part of a motor: the same on screen and server. */
export function failureInputOf(
  job: Pick<JobDetail, 'nameplate' | 'parts' | 'intake' | 'tests' | 'detailSteps'>,
  part: WindingPart,
  values: Readonly<Record<string, FieldValue>>,
  limits: ShopLimits,
): Record<string, unknown> {
  const { layout, connection } = failedWinding(job, part);
  const core = job.detailSteps.find((s) => s.code === 'CT1')?.attempts.findLast((a) => a.finishedAt !== null)?.verdict;
  return failureInput({
    values,
    layout,
    connection,
    complaint: job.intake.complaint,
    tests: job.tests,
    part,
    limits,
    core: core === 'fail' || core === 'attention' ? 'hot spots' : core === 'pass' ? 'sound' : undefined,
  });
}
