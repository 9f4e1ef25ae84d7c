import type { PartKind } from '../machine/parts.ts';
import { TEST_STAGES, type TestStage } from '../process/operation.ts';
import type { Before, ReadFigure, Readings } from './testKind.ts';
import { testKind } from './tests.ts';

/** A test that was recorded before, as far as others ask after it. */
export interface EarlierTest {
  id: string;
  stage: string;
  kind: string;
  part?: string | null | undefined;
  verdict: string;
  supersedes: string | null;
  result?: unknown;
  values?: Readings | undefined;
}

/** Tests that no correction has replaced, the oldest first. */
export function notReplaced<T extends EarlierTest>(tests: readonly T[]): T[] {
  const gone = new Set(tests.map((t) => t.supersedes));
  return tests.filter((t) => !gone.has(t.id));
}

const valuesOf = (test: EarlierTest | undefined): Record<string, unknown> =>
  (test?.result as { values?: Record<string, unknown> } | null | undefined)?.values ?? {};

/** The first figure that the calculation of a test derived; undefined where there is none. */
export function figureOf(kind: string, result: unknown): number | undefined {
  const [first] = testKind(kind)?.derived ?? [];
  const values = (result as { values?: Record<string, unknown> } | null | undefined)?.values;
  const figure = first && values?.[first.name];
  return typeof figure === 'number' && Number.isFinite(figure) ? figure : undefined;
}

/** A test of an earlier visit, as far as later ones are set against it. */
export interface VisitTest {
  number: string;
  part: string;
  stage: string;
  kind: string;
  figure: number | null;
  values?: Readings | undefined;
}

/** Readings that a new one may be set against: of earlier visits, then of this one, the oldest first. */
export function pastOf(tests: readonly EarlierTest[], visits: readonly VisitTest[], part: PartKind): ReadFigure[] {
  return [
    // visits come the newest first
    ...visits.toReversed().flatMap((v): ReadFigure[] =>
      v.figure === null
        ? []
        : [
            {
              kind: v.kind,
              part: v.part as PartKind,
              stage: v.stage as TestStage,
              figure: v.figure,
              values: v.values ?? {},
              visit: v.number,
            },
          ],
    ),
    ...notReplaced(tests).flatMap((t): ReadFigure[] => {
      const figure = figureOf(t.kind, t.result);
      return figure === undefined
        ? []
        : [
            {
              kind: t.kind,
              part: (t.part ?? part) as PartKind,
              stage: t.stage as TestStage,
              figure,
              values: t.values ?? {},
            },
          ];
    }),
  ];
}

/** What the tests of a job say to one that is to be done: its phases, its insulation, its full-value tests. */
export function beforeOf(tests: readonly EarlierTest[], stage: TestStage, part: PartKind): Before {
  const own = notReplaced(tests).filter((t) => (t.part ?? part) === part);
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
