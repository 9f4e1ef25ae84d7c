import {
  FIRST_PART,
  isWindingPart,
  judgingContext,
  type JudgingContext,
  type RouteId,
  type ShopLimits,
  type TestKind,
  type TestStage,
  type WindingPart,
} from '@norther/core';
import { type JobDetail, windingOfPart } from '@norther/contracts';

/** The part whose winding a test reads. */
export const partOf = (kind: TestKind): WindingPart => (kind.part && isWindingPart(kind.part) ? kind.part : FIRST_PART);
export const testsOfPart = (job: JobDetail, part: WindingPart) => job.tests.filter((t) => t.part === part);

/** What a reading of a part is judged with at a stage, as the server does it. */
export function contextOf(
  job: JobDetail,
  stage: TestStage,
  part: WindingPart,
  limits: ShopLimits,
  more: { corrects?: string | undefined } & Pick<Parameters<typeof judgingContext>[0], 'visits' | 'ofItsKind'> = {},
): JudgingContext {
  const own = windingOfPart(job, part);
  return judgingContext({
    stage,
    part,
    rotor: windingOfPart(job, 'wound-rotor').shown,
    route: job.route as RouteId,
    nameplate: job.nameplate,
    found: own.found,
    plan: own.plan,
    limits,
    calibrationExpired: false,
    tests: testsOfPart(job, part),
    ...more,
  });
}
