import { runCalculation, type CalculationResult } from '../calculation.ts';
import type { ShopLimits } from '../limits/limits.ts';
import type { Nameplate } from '../machine/nameplate.ts';
import { FIRST_PART, type PartKind, WINDING_PARTS, type WindingPart } from '../machine/parts.ts';
import { TEST_STAGES, type Decider, type TestStage } from '../process/operation.ts';
import { operation } from '../process/operations.ts';
import { ROUTES, stageTitle, type RouteGraph, type RouteId, type WhatCame } from '../process/routes.ts';
import type { FieldValue } from '../quantity/fields.ts';
import { combineVerdicts, type Judged, type Verdict } from '../verdict.ts';
import { windingFigures } from '../winding/figures.ts';
import { plateOfPart } from '../winding/parts.ts';
import { windingRecordSchema, type WindingRecord } from '../winding/record.ts';
import { machineKindOf } from '../machine/machineKind.ts';
import { beforeOf, pastOf, type EarlierTest, type VisitTest } from './before.ts';
import type { JudgingContext, Tested, TestKind } from './testKind.ts';
import { stressBars } from './orderOfStress.ts';
import { PLAIN, requiredTests } from './tests.ts';

/** Whether a test is judged against the released plan (a rewound winding) or against the winding as found. */
export function judgedByPlan(stage: TestStage, rewound: boolean): boolean {
  return rewound && TEST_STAGES.indexOf(stage) >= TEST_STAGES.indexOf('AC');
}

/** A winding as it is kept: its record, and the nameplate that a changed rewind gives the motor. */
export interface KeptWinding {
  record: unknown;
  redesign?: { nameplate: Nameplate } | null | undefined;
}

/**
 * What a test of one stage is judged with: which winding counts, by which nameplate, its figures. A changed rewind is judged by the
 * nameplate the motor gets.
 */
export function judgingContext(x: {
  stage: TestStage;
  /** the part that is tested; the stator where none is named */
  part?: PartKind | undefined;
  route: RouteId;
  nameplate: Nameplate;
  found: KeptWinding | null;
  plan: KeptWinding | null;
  /** the winding of a slip-ring rotor, where it is recorded */
  rotor?: KeptWinding | null | undefined;
  limits: ShopLimits;
  calibrationExpired: boolean;
  /** what was tested of the job before, for the order of stress and the full-value test */
  tests?: readonly EarlierTest[] | undefined;
  /** tests of earlier visits, the newest first */
  visits?: readonly VisitTest[] | undefined;
  /** the test that the new one corrects: what came after it was not before it */
  corrects?: string | undefined;
  ofItsKind?: JudgingContext['ofItsKind'];
  again?: JudgingContext['again'];
  waves?: JudgingContext['waves'];
  earlierWaves?: JudgingContext['earlierWaves'];
}): JudgingContext {
  const rewound = ROUTES[x.route].rewinds.includes(x.part ?? FIRST_PART);
  const newWinding = judgedByPlan(x.stage, rewound);
  const kept = newWinding ? (x.plan ?? x.found) : x.found;
  const record: WindingRecord | undefined = kept ? windingRecordSchema.parse(kept.record) : undefined;
  const part = x.part ?? FIRST_PART;
  const whole = kept?.redesign?.nameplate ?? x.nameplate;
  const nameplate = isWindingPart(part) ? plateOfPart(whole, part) : whole;
  return {
    nameplate,
    record,
    machine: machineKindOf(whole, part === FIRST_PART ? record : undefined),
    rotor: x.rotor ? windingRecordSchema.parse(x.rotor.record) : undefined,
    figures: record ? runCalculation(windingFigures, { record, nameplate }, { working: 'none' }).values : undefined,
    stage: x.stage,
    route: x.route,
    part,
    ...(x.tests
      ? {
          before: beforeOf(
            x.tests.filter((t) => t.id !== x.corrects),
            x.stage,
            part,
          ),
          past: pastOf(upTo(x.tests, x.corrects), x.visits ?? [], part),
        }
      : {}),
    ...(x.ofItsKind ? { ofItsKind: x.ofItsKind } : {}),
    ...(x.again ? { again: x.again } : {}),
    ...(x.waves ? { waves: x.waves } : {}),
    ...(x.earlierWaves ? { earlierWaves: x.earlierWaves } : {}),
    rewound,
    newWinding,
    limits: x.limits,
    calibrationExpired: x.calibrationExpired,
  };
}

/** The tests before one; all of them where it is not among them. */
const upTo = (tests: readonly EarlierTest[], id: string | undefined): readonly EarlierTest[] => {
  const at = tests.findIndex((t) => t.id === id);
  return at < 0 ? tests : tests.slice(0, at);
};

/** Whether a part has a winding with a record of its own. */
export const isWindingPart = (part: PartKind): part is WindingPart =>
  (WINDING_PARTS as readonly string[]).includes(part);

/** What is tested, from the plate and the stator's winding as found and as planned: decides which tests there are. */
export function testedOf(
  nameplate: Nameplate,
  found: KeptWinding | null,
  plan: KeptWinding | null,
  route?: RouteId,
): Tested {
  const kept = plan ?? found;
  const record = kept ? windingRecordSchema.parse(kept.record) : undefined;
  const plate = kept?.redesign?.nameplate ?? nameplate;
  return {
    machine: machineKindOf(plate, record),
    record,
    ...(route ? { route } : {}),
    ...(plate.voltagesV?.length ? { ratedV: Math.max(...plate.voltagesV) } : {}),
  };
}

export interface TestJudgement {
  verdict: Verdict;
  reason: string;
  result: CalculationResult | undefined;
}

const withoutUndefined = (o: Record<string, unknown>) =>
  Object.fromEntries(Object.entries(o).filter(([, v]) => v !== undefined));

/** Judges a test from what was read: by its calculation, or as stated by the person. */
export function judgeTest(
  kind: TestKind,
  values: Readonly<Record<string, FieldValue>>,
  context: JudgingContext,
  person: string,
): TestJudgement {
  const asked = kind.calculation && kind.input?.(values, context);
  if (!kind.calculation || !asked) {
    const outcome = values['outcome'];
    const verdict: Verdict =
      outcome === 'pass' || outcome === 'attention' || outcome === 'fail' ? outcome : 'cannot judge';
    const instrument = typeof values['instrument'] === 'string' ? values['instrument'] : 'no instrument named';
    const late = context.calibrationExpired && verdict === 'pass';
    return {
      verdict: late ? 'attention' : verdict,
      reason: `Stated by ${person}, with ${instrument}.${late ? ' The instrument is out of calibration.' : ''}`,
      result: undefined,
    };
  }
  const input = withoutUndefined({
    ...asked,
    limits: context.limits,
    calibrationExpired: context.calibrationExpired,
  });
  const result = runCalculation(kind.calculation, input);
  const out = result.values as { verdict: Verdict; reason: string };
  return { verdict: out.verdict, reason: out.reason, result };
}

/** A test as it is kept, as far as the verdict of its stage goes; in the order in which they were taken. */
export interface KeptTest {
  id: string;
  stage: string;
  kind: string;
  verdict: string;
  reason: string;
  supersedes: string | null;
  signed: unknown;
}

/** The newest reading of each kind at a stage that no correction has replaced. */
export function standingTests<T extends KeptTest>(tests: readonly T[], stage: TestStage): ReadonlyMap<string, T> {
  const superseded = new Set(tests.map((t) => t.supersedes));
  return new Map(tests.filter((t) => t.stage === stage && !superseded.has(t.id)).map((t): [string, T] => [t.kind, t]));
}

/** The verdict of a whole stage: every required test done, and passed or signed where that is asked. */
export function judgeStage(
  decider: Extract<Decider, { kind: 'tests' }>,
  came: WhatCame,
  tests: readonly KeptTest[],
  tested: Tested = PLAIN,
): Judged {
  const standing = standingTests(tests, decider.stage);
  const parts = requiredTests(decider.stage, came, tested).map((kind): Judged => {
    const last = standing.get(kind.id);
    // where it is enough that tests are recorded, one that a failed lower test bars is not missing
    if (
      !last &&
      decider.passes === 'when recorded' &&
      stressBars(kind.id, decider.stage, tests, came, tested).length > 0
    )
      return { verdict: 'pass', reason: '' };
    if (!last)
      return {
        verdict: 'cannot judge',
        reason: `${kind.title} (${stageTitle(decider.stage, tested.route)}) is not done.`,
      };
    if (decider.passes === 'when recorded' || (last.verdict === 'attention' && last.signed))
      return { verdict: 'pass', reason: '' };
    return {
      verdict: last.verdict as Verdict,
      reason: last.verdict === 'pass' ? '' : `${kind.title}: ${last.reason}`,
    };
  });
  const verdict = parts.length === 0 ? 'pass' : combineVerdicts(parts.map((p) => p.verdict));
  const said = parts
    .filter((p) => p.verdict === verdict)
    .map((p) => p.reason)
    .filter(Boolean)
    .join(' ');
  return {
    verdict,
    reason:
      said ||
      (decider.passes === 'when recorded'
        ? 'All tests of this stage are recorded.'
        : 'All tests of this stage passed.'),
  };
}

/** The test stages that a route holds, in the order of the job. */
export function testStagesOf(graph: RouteGraph): TestStage[] {
  const held = new Set(
    Object.keys(graph).flatMap((code) => {
      const decider = operation(code).decidedBy;
      return decider?.kind === 'tests' ? [decider.stage] : [];
    }),
  );
  return TEST_STAGES.filter((stage) => held.has(stage));
}
