import type { OperationCode } from './operations.ts';
import { withoutOperations, type RouteGraph } from './routes.ts';

/**
 * How the winding comes out: burned, pulled with the slot part warmed, or soaked out. All three are practised; the limits of the burn-off
 * belong to the first only, the core tests before and after to all (common practice).
 */
export const REMOVALS = ['burn-off', 'cold pull', 'chemical'] as const;
export type Removal = (typeof REMOVALS)[number];

const STEPS = {
  'burn-off': ['BRN', 'COL'],
  'cold pull': ['WPL'],
  chemical: ['SOK'],
} as const satisfies Record<Removal, readonly OperationCode[]>;
const ALL: readonly string[] = Object.values(STEPS).flat();
const FROM = 'CUT';
const TO = 'STR';

/** The operations that are a way of taking a winding out. */
export const removalSteps = (way: Removal): readonly string[] => STEPS[way];

/** How the winding of this route comes out; undefined where nothing is stripped, or it is pulled as it is. */
export const removalOf = (graph: RouteGraph): Removal | undefined =>
  REMOVALS.find((way) => STEPS[way].every((c) => Object.hasOwn(graph, c)));

/** The route with another way of taking the winding out, between the cut and the stripping. */
export function withRemoval(graph: RouteGraph, way: Removal): RouteGraph {
  const bare = withoutOperations(graph, new Set(ALL));
  const steps = STEPS[way];
  const first = Object.fromEntries(steps.map((code, i) => [code, [steps[i - 1] ?? FROM]]));
  return {
    ...Object.fromEntries(
      Object.entries(bare).map(([code, before]) => [
        code,
        code === TO ? [...new Set([...before.filter((b) => b !== FROM), steps.at(-1) ?? FROM])] : before,
      ]),
    ),
    ...first,
  };
}

/** Why the winding of this route cannot come out so, or undefined. */
export function removalRefusal(graph: RouteGraph, way: Removal): string | undefined {
  if (![FROM, TO].every((c) => Object.hasOwn(graph, c))) return 'No winding is stripped in this route.';
  return removalOf(graph) === way ? `It is ${way} already.` : undefined;
}
