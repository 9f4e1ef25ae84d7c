import { operation } from './operations.ts';
import { ancestorsOf, descendantsOf, type RouteGraph } from './routes.ts';
import type { Verdict } from '../verdict.ts';

/** Where an operation stands. `attention` waits for a named sign-off, `undecided` for a judgement that can be made. */
export const STEP_STATES = [
  'open',
  'running',
  'passed',
  'attention',
  'undecided',
  'failed',
  'waived',
  'recheck',
] as const;
export type StepState = (typeof STEP_STATES)[number];
export type StepStates = Readonly<Record<string, StepState>>;

/** What a person sees of an operation that has not been decided. */
export type StepStatus = StepState | 'ready' | 'waiting' | 'blocked';

export interface StepView {
  code: string;
  status: StepStatus;
  /** operations that keep this one from starting, with the reason in `why` */
  heldBy: string[];
  why: string;
}

const counts = (s: StepState | undefined) => s === 'passed' || s === 'waived';

/**
 * Status of every operation. Ready: not decided, every prerequisite passed or waived, no ancestor failed.
 * "Done but not passed" never opens a hold point.
 */
export function viewRoute(graph: RouteGraph, states: StepStates): StepView[] {
  const failures = Object.keys(graph).filter((code) => states[code] === 'failed');
  return Object.keys(graph).map((code) => {
    const state = states[code] ?? 'open';
    const before = graph[code] ?? [];
    const heldBy = before.filter((b) => !counts(states[b]));
    const failed = failures.filter((f) => ancestorsOf(graph, code).has(f));
    if (state !== 'open') return { code, status: state, heldBy, why: '' };
    if (failed.length > 0) return { code, status: 'blocked', heldBy: failed, why: `${failed.join(', ')} failed` };
    if (heldBy.length === 0) return { code, status: 'ready', heldBy: [], why: '' };
    const bad = heldBy.filter((b) => ['attention', 'undecided', 'recheck'].includes(states[b] ?? 'open'));
    if (bad.length > 0) {
      const word = {
        attention: 'needs a sign-off',
        undecided: 'cannot be judged yet',
        recheck: 'must be looked at again',
      };
      return {
        code,
        status: 'blocked',
        heldBy: bad,
        why: bad.map((b) => `${b} ${word[(states[b] ?? 'recheck') as keyof typeof word]}`).join(', '),
      };
    }
    return { code, status: 'waiting', heldBy, why: `after ${heldBy.join(', ')}` };
  });
}

/** Why an operation may not start now, or undefined when it may. */
export function startRefusal(
  graph: RouteGraph,
  states: StepStates,
  code: string,
): { heldBy: string[]; why: string } | undefined {
  const view = viewRoute(graph, states).find((v) => v.code === code);
  if (!view) return { heldBy: [], why: `${code} is not in this route` };
  if (view.status === 'ready') return undefined;
  if (view.status === 'recheck')
    return view.heldBy.length === 0 ? undefined : { heldBy: view.heldBy, why: `after ${view.heldBy.join(', ')}` };
  return { heldBy: view.heldBy, why: view.why || `it is ${view.status} already` };
}

/** The state an outcome puts an operation into. */
export function stateFor(verdict: Verdict): StepState {
  switch (verdict) {
    case 'pass':
      return 'passed';
    case 'attention':
      return 'attention';
    case 'fail':
      return 'failed';
    case 'cannot judge':
      return 'undecided';
  }
}

/** Operations before this one that failed, now or while it ran (`meanwhile`): it does not pass by itself then. */
export function failedBefore(
  graph: RouteGraph,
  states: StepStates,
  code: string,
  meanwhile: readonly string[] = [],
): string[] {
  const before = ancestorsOf(graph, code);
  return Object.keys(graph).filter((c) => before.has(c) && (states[c] === 'failed' || meanwhile.includes(c)));
}

/**
 * After `code` ended with a verdict: its state, and everything already passed downstream of a failure goes to recheck. Work that ran while
 * something before it failed (or was reopened) is kept and goes to recheck, never to passed.
 */
export function afterFinish(
  graph: RouteGraph,
  states: StepStates,
  code: string,
  verdict: Verdict,
  meanwhile: readonly string[] = [],
): Record<string, StepState> {
  const disturbed = verdict !== 'fail' && failedBefore(graph, states, code, meanwhile).length > 0;
  const next: Record<string, StepState> = { ...states, [code]: disturbed ? 'recheck' : stateFor(verdict) };
  if (verdict === 'fail') {
    for (const later of descendantsOf(graph, code)) if (next[later] === 'passed') next[later] = 'recheck';
  }
  return next;
}

/**
 * Reopens the step that mends a failure: it is open again, what had passed after it goes to recheck, and what had
 * failed, was undecided or needed attention after it is to be done again. Attempts stay on record.
 */
export function afterReopen(graph: RouteGraph, states: StepStates, code: string): Record<string, StepState> {
  const next: Record<string, StepState> = { ...states, [code]: 'open' };
  for (const later of descendantsOf(graph, code)) {
    const state = next[later];
    if (state === 'passed') next[later] = 'recheck';
    else if (state === 'failed' || state === 'undecided' || state === 'attention') next[later] = 'open';
  }
  return next;
}

export const LISTS_MISSING = 'the cutting and picking lists are not made yet';

/** The route with what waits for its material: ready operations that need the lists are held until they are made. */
export function holdForLists(views: readonly StepView[], listsMade: boolean): readonly StepView[] {
  const held = (v: StepView) => v.status === 'ready' && operation(v.code).waitsForLists === true;
  return listsMade || !views.some(held)
    ? views
    : views.map((v) => (held(v) ? { ...v, status: 'blocked' as const, why: LISTS_MISSING } : v));
}
