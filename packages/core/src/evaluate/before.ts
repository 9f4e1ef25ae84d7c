import type { PartKind } from '../machine/parts.ts';
import { TEST_STAGES, type TestStage } from '../process/operation.ts';
import type { Before } from './testKind.ts';

/** A test that was recorded before, as far as others ask after it. */
export interface EarlierTest {
  id: string;
  stage: string;
  kind: string;
  part?: string | null | undefined;
  verdict: string;
  supersedes: string | null;
  result?: unknown;
}

/** Tests that no correction has replaced, the oldest first. */
function standing<T extends EarlierTest>(tests: readonly T[]): T[] {
  const gone = new Set(tests.map((t) => t.supersedes));
  return tests.filter((t) => !gone.has(t.id));
}

const valuesOf = (test: EarlierTest | undefined): Record<string, unknown> =>
  (test?.result as { values?: Record<string, unknown> } | null | undefined)?.values ?? {};

/** What the tests of a job say to one that is to be done: its phases, its insulation, its full-value tests. */
export function beforeOf(tests: readonly EarlierTest[], stage: TestStage, part: PartKind): Before {
  const own = standing(tests).filter((t) => (t.part ?? part) === part);
  const last = (kind: string) => own.filter((t) => t.kind === kind && t.stage === stage).at(-1);
  const phases = valuesOf(last('windingResistance'))['phasesOhm'];
  const insulation = last('insulationResistance')?.verdict;
  return {
    ...(isThree(phases) ? { phasesOhm: phases } : {}),
    ...(insulation === 'fail'
      ? { insulation: 'low' as const }
      : insulation === 'pass' || insulation === 'attention'
        ? { insulation: 'sound' as const }
        : {}),
    fullTests: own.filter((t) => t.kind === 'highPotential' && isNew(t.stage) && provedFull(t)).length,
  };
}

const isNew = (stage: string): boolean => TEST_STAGES.indexOf(stage as TestStage) > TEST_STAGES.indexOf('AC');
const isThree = (x: unknown): x is [number, number, number] =>
  Array.isArray(x) && x.length === 3 && x.every((n) => typeof n === 'number' && Number.isFinite(n) && n > 0);

/** A test that said so itself, or one of before that a person stated as passed. */
function provedFull(test: EarlierTest): boolean {
  const said = valuesOf(test)['fullValue'];
  return typeof said === 'boolean' ? said : test.stage === 'VC' && test.verdict === 'pass';
}
