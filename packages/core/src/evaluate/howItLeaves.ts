import { combineVerdicts, type Verdict } from '../verdict.ts';

/** A reading that stands, as far as it tells how a motor leaves. */
export interface StandingTest {
  kind: string;
  stage: string;
  verdict: Verdict;
}

/** The newest reading of a test at the first of some stages that has one. @param tests those that stand, the oldest first */
export function newestOf<T extends StandingTest>(
  tests: readonly T[],
  kind: string,
  stages: readonly string[],
): T | undefined {
  for (const stage of stages) {
    const found = tests.findLast((t) => t.kind === kind && t.stage === stage);
    if (found) return found;
  }
  return undefined;
}

/**
 * How a motor leaves: the verdict of the newest reading of each test of the leaving or the assembled motor; of a part that came alone
 * of its final tests or those after resin. None where it is not tested yet.
 * @param tests those that stand, the oldest first
 */
export function howItLeaves<T extends StandingTest>(
  tests: readonly T[],
  came: string,
): { verdict: Verdict | 'none'; because: T[] } {
  const stages = came === 'whole motor' ? ['FI', 'AA'] : ['FI', 'VC'];
  const of = [...new Set(tests.map((t) => t.kind))].flatMap((kind) => newestOf(tests, kind, stages) ?? []);
  if (of.length === 0) return { verdict: 'none', because: [] };
  const verdict = combineVerdicts(of.map((t) => t.verdict));
  return { verdict, because: of.filter((t) => t.verdict === verdict && verdict !== 'pass') };
}
