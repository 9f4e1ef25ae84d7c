import type { FoundTest } from '@norther/core';
import type { JobDetail } from './job.ts';

/** The standing tests of a motor with what was found in each, and the poles of its winding: what is reckoned over several tests asks this. */
export function foundTests(job: Pick<JobDetail, 'tests' | 'parts'>): { tests: FoundTest[]; poles: number | undefined } {
  const stator = job.parts.find((p) => p.kind === 'stator');
  return {
    tests: job.tests
      .filter((t) => t.supersededBy === null)
      .map((t) => ({
        kind: t.kind,
        values: t.values,
        found: (t.result as { values?: Record<string, unknown> } | null)?.values ?? {},
      })),
    poles: (stator?.plan ?? stator?.found)?.record.poles,
  };
}
