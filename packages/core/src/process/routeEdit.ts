import type { Impregnation } from './operation.ts';
import { needsRotor, needsStator, operation, OPERATIONS } from './operations.ts';
import type { StepStates } from './engine.ts';
import {
  ancestorsOf,
  descendantsOf,
  inOrder,
  ROUTES,
  withoutOperations,
  type RouteGraph,
  type WhatCame,
} from './routes.ts';

/** One change of a job's own route. */
export type RouteEdit =
  /** an operation comes in, after some and before others */
  | { do: 'add'; code: string; after: readonly string[]; before: readonly string[] }
  /** one that was not begun goes out; what followed it follows what it followed */
  | { do: 'take out'; code: string }
  /** one waits for others too, or no longer */
  | { do: 'wait'; code: string; after: readonly string[] };

/** The route as an edit makes it; whether it may be so is another question. */
export function editedRoute(graph: RouteGraph, edit: RouteEdit): RouteGraph {
  switch (edit.do) {
    case 'take out':
      return withoutOperations(graph, new Set([edit.code]));
    case 'wait':
      return { ...graph, [edit.code]: [...new Set(edit.after)] };
    case 'add':
      return {
        ...Object.fromEntries(
          Object.entries(graph).map(([code, before]) => [
            code,
            edit.before.includes(code) ? [...new Set([...before, edit.code])] : before,
          ]),
        ),
        [edit.code]: [...new Set(edit.after)],
      };
  }
}

/** What must come before what, of the operations in a route: every prerequisite of a published route that has both. */
export function holdsOf(graph: RouteGraph): [code: string, before: string][] {
  return Object.values(ROUTES).flatMap(({ graph: published }) => {
    const only = withoutOperations(published, new Set(Object.keys(published).filter((c) => !Object.hasOwn(graph, c))));
    return Object.entries(only).flatMap(([code, before]) => before.map((b): [string, string] => [code, b]));
  });
}

/** Why an edit may not be made, or undefined when it may: no circle, no hold broken, nothing put before what was done. */
export function routeEditRefusal(
  graph: RouteGraph,
  edit: RouteEdit,
  of: { states: StepStates; came: WhatCame; impregnation: Impregnation },
): string | undefined {
  const { code } = edit;
  if (!OPERATIONS.has(code)) return `There is no operation ${code}.`;
  const op = operation(code);
  const has = (c: string): boolean => Object.hasOwn(graph, c);
  const named = edit.do === 'take out' ? [] : edit.do === 'add' ? [...edit.after, ...edit.before] : [...edit.after];
  const strange = named.find((c) => !has(c));
  if (strange !== undefined) return `${strange} is not in this route.`;
  const state = of.states[code] ?? 'open';
  switch (edit.do) {
    case 'add': {
      if (has(code)) return `${op.title} is in the route already.`;
      if (of.came === 'stator only' && needsRotor(op)) return `${op.title} needs the rotor; only the stator came.`;
      if (of.came === 'rotor only' && needsStator(op)) return `${op.title} needs the stator; only the rotor came.`;
      if (op.impregnatesBy && op.impregnatesBy !== of.impregnation)
        return `${op.title} is another way of impregnating than the one agreed.`;
      if (edit.after.length === 0) return `Say after which operation ${op.title} comes.`;
      break;
    }
    case 'take out':
      if (!has(code)) return `${op.title} is not in this route.`;
      if (state !== 'open') return `${op.title} was begun; it stays on record.`;
      if (!op.mayBeLeftOut)
        return `${op.title} stays in every route: what follows relies on it. Waive it with a reason if it is not done.`;
      break;
    case 'wait':
      if (!has(code)) return `${op.title} is not in this route.`;
      if (edit.after.length === 0 && (graph[code] ?? []).length > 0) return `Say what ${op.title} waits for.`;
      if (state !== 'open') return `${op.title} was begun; what it waited for is settled.`;
      break;
  }
  const next = editedRoute(graph, edit);
  try {
    inOrder(next);
  } catch {
    return `Then the route would run in a circle through ${op.title}.`;
  }
  const broken = holdsOf(next).find(([later, before]) => !ancestorsOf(next, later).has(before));
  if (broken)
    return `Then ${operation(broken[0]).title} would no longer wait for ${operation(broken[1]).title}: that hold stays.`;
  const done =
    edit.do === 'take out'
      ? undefined
      : [...descendantsOf(next, code)].find((c) => !['open', undefined].includes(of.states[c]));
  return done === undefined || (edit.do === 'wait' && ancestorsOf(graph, done).has(code))
    ? undefined
    : `${operation(done).title} was begun already; ${op.title} must come after it, or it is reopened first.`;
}
