import type { TestStage } from '../process/operation.ts';
import { stageTitle, type RouteId } from '../process/routes.ts';
import { notReplaced, type EarlierTest } from './before.ts';
import { judgedByPlan } from './judging.ts';
import type { JudgingContext, SurgeWaves } from './testKind.ts';

/** How the rotor stood when a comparison was taken: waves are set against those of the same state only. */
export const rotorState = (values: unknown): string => {
  const said = (values as { rotor?: unknown } | null | undefined)?.rotor;
  return typeof said === 'string' && said !== '' ? said : 'out';
};

/** Surge comparisons before one, that stand, did not fail and are of the same winding (of the new one only where it is new), the newest first. */
export function earlierSurges<T extends EarlierTest & { values?: unknown }>(
  tests: readonly T[],
  at: { stage: TestStage; id?: string | undefined; supersedes?: string | null | undefined; rotor: string },
  rewound: boolean,
): T[] {
  const isNew = judgedByPlan(at.stage, rewound);
  const own = tests.findIndex((t) => t.id === at.id);
  return notReplaced(own < 0 ? tests : tests.slice(0, own))
    .filter(
      (t) =>
        t.kind === 'surge' &&
        // what failed has been mended since, or will be: it is no measure of what comes after
        t.verdict !== 'fail' &&
        rotorState(t.values) === at.rotor &&
        t.id !== at.supersedes &&
        judgedByPlan(t.stage as TestStage, rewound) === isNew,
    )
    .toReversed();
}

/** How the waves of an earlier comparison are told and judged: across the cure they differ more. */
export const earlierWavesOf = (
  earlier: { stage: string },
  stage: TestStage,
  waves: readonly SurgeWaves[],
  route?: RouteId,
): JudgingContext['earlierWaves'] => {
  const named = waves.flatMap((w) => (w.name === undefined ? [] : [{ name: w.name, pulses: w.pulses }]));
  return named.length === 0
    ? undefined
    : {
        said: stageTitle(earlier.stage as TestStage, route),
        acrossCure: earlier.stage === 'AC' && stage !== 'AC',
        waves: named,
      };
};
