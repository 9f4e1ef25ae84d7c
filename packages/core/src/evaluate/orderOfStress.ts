import type { TestStage } from '../process/operation.ts';
import { stageTitle, type WhatCame } from '../process/routes.ts';
import type { EarlierTest } from './before.ts';
import type { Tested } from './testKind.ts';
import { testKind, wantedAt } from './tests.ts';

/**
 * How hard a test strains a winding: a failed lower one bars the higher. Insulation resistance is barred by nothing: after a resistance
 * that failed it tells where to look. Source: order of stress, common practice.
 */
const STRESS: Readonly<Record<string, number>> = {
  windingResistance: 1,
  singlePhaseResistance: 1,
  rotorResistance: 1,
  insulationResistance: 2,
  surge: 3,
  steppedVoltage: 4,
  highPotential: 5,
  waterTest: 5,
};
/** Tests below this are never barred. */
const BARRED_FROM = 3;
/** From here on the lower ones must have been done and passed. */
const MUST_HAVE_PASSED = 4;

export interface StressBar {
  /** the lower test that bars this one */
  kind: string;
  says: string;
}

/** Insulation that was held against its minimum and did not prove to reach it: also where moisture spoils the verdict. */
function mayNotTest(t: EarlierTest): boolean {
  const values = (t.result as { values?: { mayTestHighVoltage?: unknown; minimumMegohm?: unknown } } | null | undefined)
    ?.values;
  return values?.mayTestHighVoltage === false && values.minimumMegohm !== undefined;
}

/**
 * Why a test may not be done yet at a stage: a lower test failed, or one that must have passed first was not done. Empty: go on. A
 * foreman overrides it with name and reason.
 * @param tests of the same part and piece, the oldest first
 */
export function stressBars(
  kind: string,
  stage: TestStage,
  tests: readonly EarlierTest[],
  came: WhatCame,
  tested: Tested,
): StressBar[] {
  const own = STRESS[kind];
  if (own === undefined || own < BARRED_FROM) return [];
  const gone = new Set(tests.map((t) => t.supersedes));
  const here = tests.filter((t) => t.stage === stage && !gone.has(t.id));
  return Object.keys(STRESS).flatMap((lower): StressBar[] => {
    if ((STRESS[lower] ?? 0) >= own) return [];
    const of = testKind(lower);
    const last = here.filter((t) => t.kind === lower).at(-1);
    const at = `${of?.title ?? lower} (${stageTitle(stage, tested.route)})`;
    if (last?.verdict === 'fail') return [{ kind: lower, says: `${at} failed.` }];
    if (last && lower === 'insulationResistance' && mayNotTest(last))
      return [{ kind: lower, says: `${at} allows no high voltage.` }];
    if (own >= MUST_HAVE_PASSED && of && wantedAt(of, stage, came, tested) === 'required') {
      if (!last) return [{ kind: lower, says: `${at} is not done.` }];
      if (last.verdict === 'cannot judge') return [{ kind: lower, says: `${at} could not be judged.` }];
    }
    return [];
  });
}
