import type { Impregnation } from './operation.ts';
import { coatHolds, coatsRefusal, withCoats } from './coats.ts';
import { needsRotor, needsStator, operation, operationIf, runOf } from './operations.ts';
import { removalRefusal, withRemoval, type Removal } from './removal.ts';
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
  | { do: 'wait'; code: string; after: readonly string[] }
  /** so many coats of resin, each dipped, drained and baked */
  | { do: 'coats'; coats: number }
  /** a route that was kept, as a whole */
  | { do: 'take'; graph: RouteGraph }
  /** another way of taking the winding out */
  | { do: 'removal'; way: Removal };

/** The route as an edit makes it; whether it may be so is another question. */
export function editedRoute(graph: RouteGraph, edit: RouteEdit): RouteGraph {
  switch (edit.do) {
    case 'take out':
      return withoutOperations(graph, new Set([edit.code]));
    case 'wait':
      return { ...graph, [edit.code]: [...new Set(edit.after)] };
    case 'take':
      return edit.graph;
    case 'coats':
      return withCoats(graph, edit.coats);
    case 'removal':
      return withRemoval(graph, edit.way);
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

/** What must come before what, of the operations in a route: every prerequisite of a published route that has both, and coat after coat. */
export function holdsOf(graph: RouteGraph): [code: string, before: string][] {
  const published = Object.values(ROUTES).flatMap(({ graph: whole }) => {
    const only = withoutOperations(whole, new Set(Object.keys(whole).filter((c) => !Object.hasOwn(graph, c))));
    return Object.entries(only).flatMap(([code, before]) => before.map((b): [string, string] => [code, b]));
  });
  return [...published, ...coatHolds(graph)];
}

/** Why an edit may not be made, or undefined when it may: no circle, no hold broken, nothing put before what was done. */
export function routeEditRefusal(
  graph: RouteGraph,
  edit: RouteEdit,
  of: { states: StepStates; came: WhatCame; impregnation: Impregnation },
): string | undefined {
  const refusal =
    edit.do === 'coats'
      ? coatsRefusal(graph, edit.coats)
      : edit.do === 'take'
        ? wholeRefusal(graph, edit.graph)
        : edit.do === 'removal'
          ? removalRefusal(graph, edit.way)
          : oneRefusal(graph, edit, of);
  if (refusal !== undefined) return refusal;
  const next = editedRoute(graph, edit);
  const about = 'code' in edit ? operation(edit.code).title : undefined;
  try {
    inOrder(next);
  } catch {
    return `Then the route would run in a circle through ${about ?? 'it'}.`;
  }
  const broken = holdsOf(next).find(([later, before]) => !ancestorsOf(next, later).has(before));
  if (broken)
    return `Then ${operation(broken[0]).title} would no longer wait for ${operation(broken[1]).title}: that hold stays.`;
  const begun = (c: string): boolean => !['open', undefined].includes(of.states[c]);
  const gone = Object.keys(graph).find((c) => !Object.hasOwn(next, c) && begun(c));
  if (gone !== undefined) return `${operation(gone).title} was begun; it stays on record.`;
  for (const [code, before] of Object.entries(next)) {
    // what comes in, or comes before more than it did, must not stand before what was begun
    const more = before.filter((b) => !ancestorsOf(graph, code).has(b));
    if (more.length === 0) continue;
    const done = [code, ...descendantsOf(next, code)].find(begun);
    const late = more.find((b) => !['passed', 'waived'].includes(of.states[b] ?? 'open'));
    if (done !== undefined && late !== undefined && Object.hasOwn(graph, done))
      return `${operation(done).title} was begun already; ${operation(late).title} must come after it, or it is reopened first.`;
  }
  return undefined;
}

/** What stands against a whole route in the place of another: what guards a motor or a person must be in it too. */
function wholeRefusal(graph: RouteGraph, next: RouteGraph): string | undefined {
  for (const [code, before] of Object.entries(next)) {
    if (!operationIf(code)) return `There is no operation ${code}.`;
    const strange = before.find((b) => !Object.hasOwn(next, b));
    if (strange !== undefined) return `${strange} is not in this route.`;
  }
  const wanted = Object.keys(graph).find(
    (c) => !Object.hasOwn(next, c) && runOf(c) === 1 && !operation(c).mayBeLeftOut,
  );
  return wanted === undefined
    ? undefined
    : `${operation(wanted).title} is not in that route; it stays in every route of this kind.`;
}

/** What stands against one operation coming in, going out or waiting for others. */
function oneRefusal(
  graph: RouteGraph,
  edit: Extract<RouteEdit, { code: string }>,
  of: { states: StepStates; came: WhatCame; impregnation: Impregnation },
): string | undefined {
  const { code } = edit;
  if (!operationIf(code)) return `There is no operation ${code}.`;
  const op = operation(code);
  const has = (c: string): boolean => Object.hasOwn(graph, c);
  const named = edit.do === 'take out' ? [] : edit.do === 'add' ? [...edit.after, ...edit.before] : [...edit.after];
  const strange = named.find((c) => !has(c));
  if (strange !== undefined) return `${strange} is not in this route.`;
  const state = of.states[code] ?? 'open';
  switch (edit.do) {
    case 'add': {
      if (runOf(code) > 1) return `Say how many coats of resin it gets; ${op.title.toLowerCase()} comes with them.`;
      if (has(code)) return `${op.title} is in the route already.`;
      if (of.came === 'stator only' && needsRotor(op)) return `${op.title} needs the rotor; only the stator came.`;
      if (of.came === 'rotor only' && needsStator(op)) return `${op.title} needs the stator; only the rotor came.`;
      if (op.impregnatesBy && op.impregnatesBy !== of.impregnation)
        return `${op.title} is another way of impregnating than the one agreed.`;
      if (edit.after.length === 0) return `Say after which operation ${op.title} comes.`;
      break;
    }
    case 'take out':
      if (runOf(code) > 1) return `Say how many coats of resin it gets; ${op.title.toLowerCase()} goes with them.`;
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
  return undefined;
}
