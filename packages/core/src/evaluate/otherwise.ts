import type { PartKind } from '../machine/parts.ts';
import type { TestStage } from '../process/operation.ts';
import { ROUTES, type RouteId } from '../process/routes.ts';
import type { FieldValue } from '../quantity/fields.ts';
import type { Verdict } from '../verdict.ts';
import type { ShopLimits } from '../limits/limits.ts';
import type { EarlierTest } from './before.ts';
import { earlierSurges, earlierWavesOf, rotorState } from './earlierSurges.ts';
import type { JudgingContext, SurgeWaves } from './testKind.ts';
import { judgeTest, judgingContext, type KeptWinding } from './judging.ts';
import type { Nameplate } from '../machine/nameplate.ts';
import { testKind } from './tests.ts';

/** A motor with its tests, as far as they can be judged again. */
export interface MotorTests {
  number: string;
  what: string;
  route: RouteId;
  nameplate: Nameplate;
  /** windings of each part */
  windings: Partial<Record<PartKind, { found: KeptWinding | null; plan: KeptWinding | null }>>;
  tests: (EarlierTest & {
    part: PartKind;
    stage: TestStage;
    values: Record<string, FieldValue>;
    verdict: Verdict;
    reason: string;
    calculation: string | null;
    lesser: string | null;
    /** it was judged from samples that are kept beside it */
    fromTraces: boolean;
    /** of a surge comparison: its waves, where they were brought */
    waves?: SurgeWaves[] | undefined;
  })[];
}

/** A test that would come out otherwise by the limits of today. Nothing is changed by it. */
export interface Otherwise {
  number: string;
  what: string;
  id: string;
  kind: string;
  title: string;
  stage: TestStage;
  was: Verdict;
  wasReason: string;
  now: Verdict;
  nowReason: string;
}

export interface Rejudged {
  /** tests that were judged once more */
  judged: number;
  /** those that need their samples, or can no longer be judged */
  leftOut: number;
  otherwise: Otherwise[];
}

/**
 * Judges the standing tests of motors by other limits. An instrument that was out of calibration stays so; a lesser test stays one.
 * Stored verdicts are not touched.
 */
export function otherwise(motors: readonly MotorTests[], limits: ShopLimits): Rejudged {
  const out: Rejudged = { judged: 0, leftOut: 0, otherwise: [] };
  for (const motor of motors) {
    const gone = new Set(motor.tests.map((t) => t.supersedes));
    for (const test of motor.tests) {
      const kind = testKind(test.kind);
      if (gone.has(test.id) || !kind || test.calculation === null) continue;
      const again = test.fromTraces && kind.takesWaves && !test.waves ? undefined : judgedAgain(motor, test, limits);
      if (!again) {
        out.leftOut += 1;
        continue;
      }
      out.judged += 1;
      if (again.verdict !== test.verdict)
        out.otherwise.push({
          number: motor.number,
          what: motor.what,
          id: test.id,
          kind: test.kind,
          title: kind.title,
          stage: test.stage,
          was: test.verdict,
          wasReason: test.reason,
          now: again.verdict,
          nowReason: again.reason,
        });
    }
  }
  return out;
}

function judgedAgain(motor: MotorTests, test: MotorTests['tests'][number], limits: ShopLimits) {
  const kind = testKind(test.kind);
  const own = motor.windings[test.part] ?? { found: null, plan: null };
  const before = motor.tests.slice(0, motor.tests.indexOf(test)).filter((t) => t.part === test.part);
  try {
    if (!kind) return undefined;
    const context = judgingContext({
      stage: test.stage,
      part: test.part,
      route: motor.route,
      nameplate: motor.nameplate,
      ...own,
      rotor: motor.windings['wound-rotor']?.plan ?? motor.windings['wound-rotor']?.found ?? null,
      limits,
      calibrationExpired: test.reason.includes('out of calibration'),
      tests: before,
      again: (test.result as { values?: Record<string, unknown> } | null | undefined)?.values ?? {},
      ...(test.waves ? { waves: test.waves, earlierWaves: wavesBefore(motor, test) } : {}),
    });
    const judged = judgeTest(kind, test.values, context, '');
    const verdict: Verdict = test.lesser !== null && judged.verdict === 'pass' ? 'attention' : judged.verdict;
    return { verdict, reason: judged.reason };
  } catch {
    return undefined;
  }
}

/** The waves that a comparison was set against when it was taken. */
function wavesBefore(motor: MotorTests, test: MotorTests['tests'][number]): JudgingContext['earlierWaves'] {
  const rewound = ROUTES[motor.route].rewinds.includes(test.part);
  const own = motor.tests.filter((t) => t.part === test.part);
  for (const earlier of earlierSurges(own, { ...test, rotor: rotorState(test.values) }, rewound)) {
    const waves = earlier.waves && earlierWavesOf(earlier, test.stage, earlier.waves, motor.route);
    if (waves) return waves;
  }
  return undefined;
}
