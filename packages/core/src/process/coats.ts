import { baseOf, MOST_RUNS, operation, operationIf, runCode, runOf } from './operations.ts';
import { withoutOperations, type RouteGraph } from './routes.ts';

/** The operations of one coat in their order: impregnated, drained where the route drains, baked. */
function coatOf(graph: RouteGraph): string[] {
  const first = Object.keys(graph).filter((c) => runOf(c) === 1 && operation(c).runsAgain);
  const [by] = first.filter((c) => operation(c).impregnatesBy);
  const bake = first.find((c) => operation(c).decidedBy?.kind === 'cure');
  if (by === undefined || bake === undefined) return [];
  return [by, ...first.filter((c) => c !== by && c !== bake), bake];
}

/** Coats of resin that a route gives; 0 when it has none that can be given again. */
export function coatsOf(graph: RouteGraph): number {
  const coat = coatOf(graph);
  return coat.length === 0
    ? 0
    : Math.max(
        ...Object.keys(graph)
          .filter((c) => coat.includes(baseOf(c)))
          .map(runOf),
      );
}

/**
 * The route with so many coats: each further one is a run of the same operations, dipped when the coat before it is cured. What followed
 * the cure follows the last one.
 */
export function withCoats(graph: RouteGraph, coats: number): RouteGraph {
  const coat = coatOf(graph);
  const bake = coat.at(-1);
  if (bake === undefined) return graph;
  const one = withoutOperations(graph, new Set(Object.keys(graph).filter((c) => runOf(c) > 1)));
  const runs = Array.from({ length: coats - 1 }, (_, i) => i + 2);
  const last = runCode(bake, coats);
  const out: Record<string, readonly string[]> = Object.fromEntries(
    Object.entries(one).map(([code, before]) => [code, before.map((b) => (b === bake ? last : b))]),
  );
  for (const run of runs)
    coat.forEach((code, i) => {
      const before = coat[i - 1];
      out[runCode(code, run)] = [before === undefined ? runCode(bake, run - 1) : runCode(before, run)];
    });
  return out;
}

/** What must come before what among the coats of a route: each waits for the one before it, and what follows waits for the last. */
export function coatHolds(graph: RouteGraph): [code: string, before: string][] {
  const coat = coatOf(graph);
  const coats = coatsOf(graph);
  if (coats < 2) return [];
  const whole = withCoats(graph, coats);
  return Object.entries(whole)
    .filter(([code, before]) => [code, ...before].some((c) => runOf(c) > 1 && coat.includes(baseOf(c))))
    .flatMap(([code, before]) => before.map((b): [string, string] => [code, b]))
    .filter((hold) => hold.every((c) => Object.hasOwn(graph, c)));
}

/** Why a route cannot have so many coats, or undefined. */
export function coatsRefusal(graph: RouteGraph, coats: number): string | undefined {
  if (coatsOf(graph) === 0) return 'This route has no coat that can be given again.';
  return Number.isInteger(coats) && coats >= 1 && coats <= MOST_RUNS ? undefined : `1 to ${MOST_RUNS} coats.`;
}

/** The bake that a log belongs to now: the one that runs, else the first that is not decided, else the last. */
export function bakeInTurn(steps: readonly { code: string; state: string }[]): string | undefined {
  const bakes = steps
    .filter((s) => operationIf(s.code)?.decidedBy?.kind === 'cure')
    .sort((a, b) => runOf(a.code) - runOf(b.code));
  const found =
    bakes.find((s) => s.state === 'running') ??
    bakes.find((s) => !['passed', 'waived', 'attention'].includes(s.state)) ??
    bakes.at(-1);
  return found?.code;
}
