import type { Connection } from '../winding/connection.ts';
import type { Layout } from '../winding/layoutTypes.ts';
import {
  classesOf,
  formOf,
  nodesFrom,
  strangers,
  tokensOf,
  turnedForms,
  unmatched,
  type Classes,
  type Form,
  type Nodes,
  type Tokens,
} from './equality.ts';
import { jointsOf, type Joint } from './joints.ts';

/** A change of what was made that would restore the drawing. Lower rank = the more usual slip. */
export type Edit =
  | { rank: 1; what: 'group turned'; group: number; ends: string[] }
  | { rank: 2; what: 'leads exchanged'; leads: [string, string] }
  | { rank: 2; what: 'phase marks exchanged'; leads: string[][] }
  | { rank: 2; what: 'joints joined'; joints: string[][] }
  | { rank: 3; what: 'circuit turned'; groups: number[]; ends: [string, string] }
  | { rank: 4; what: 'ends exchanged'; ends: [string, string] }
  | { rank: 5; what: 'groups exchanged'; groups: [number, number]; turned: boolean }
  | { rank: 6; what: 'end elsewhere'; end: string; from: string[]; to: string[] };

export interface Naming {
  /** edits that together restore the drawing; each with others that would do as well (ties) */
  edits: { edit: Edit; ties: Edit[] }[];
  /** branches of the drawing that are not matched as it is made */
  unmatched: number;
}

/** Equality tests at most in one search; beyond it the pairs of dear edits are not tried (docs/derivations.md 8). */
const MOST_TESTS = 120_000;

interface Work {
  tokens: Tokens;
  classes: Classes;
  drawn: Map<string, number>[];
  drawnNodes: Nodes;
  tests: number;
}

/** Everything of a winding that the comparison needs, made once. */
export function compareWith(layout: Layout, connection: Connection): Work {
  const leads = connection.nodes.filter((n) => n.kind === 'lead').map((n) => n.name);
  const tokens = tokensOf(layout, leads);
  const classes = classesOf(layout);
  const drawnNodes = nodesFrom(tokens, jointsOf(connection));
  return { tokens, classes, drawnNodes, drawn: turnedForms(tokens, drawnNodes, classes), tests: 0 };
}

/** Whether joints as made are electrically the drawing. */
export function isAsDrawn(work: Work, made: readonly Joint[]): boolean {
  return unmatched(formOf(work.tokens, nodesFrom(work.tokens, made), work.classes), work.drawn).count === 0;
}

interface Tried {
  edit: Edit;
  nodes: number[];
}

const swapped = (nodes: Nodes, a: number, b: number): number[] => {
  const next = [...nodes];
  next[a] = nodes[b] as number;
  next[b] = nodes[a] as number;
  return next;
};

/** With six, nine or twelve leads T1 to Tn: all marks of one phase with all of another (T1 T4 with T2 T5), as places in the list. */
function phaseMarks(leads: readonly string[]): { leads: string[][]; pairs: [number, number][] }[] {
  const phases = [1, 2, 3].map((p) => leads.filter((l) => l.startsWith('T') && Number(l.slice(1)) % 3 === p % 3));
  const [first] = phases;
  if (!first || first.length < 2 || phases.some((p) => p.length !== first.length) || leads.length !== 3 * first.length)
    return [];
  return [
    [0, 1],
    [1, 2],
    [0, 2],
  ].map(([a, b]) => {
    const [x, y] = [phases[a as number] as string[], phases[b as number] as string[]];
    return { leads: [x, y], pairs: x.map((l, i) => [leads.indexOf(l), leads.indexOf(y[i] as string)]) };
  });
}

/** All edits that touch a branch which the drawing does not have, rank by rank. */
function* editsOf(work: Work, nodes: Nodes, form: Form, dear: boolean): Generator<Tried> {
  const { tokens } = work;
  const { names } = tokens;
  const name = (t: number) => names[t] as string;
  const lastEnd = 2 * tokens.groups;
  const { turn } = unmatched(form, work.drawn);
  const odd = strangers(form, work.drawn[turn] as Map<string, number>);
  const touched = new Set(odd.flatMap((b) => b.ends));
  const oddNodes = new Set(odd.flatMap((b) => [b.from, b.to]));
  const members = new Map<number, number[]>();
  nodes.forEach((node, t) => members.set(node, [...(members.get(node) ?? []), t]));
  const groups = new Set([...touched].map((t) => t >> 1));
  const number = (group: number) => Number.parseInt(name(2 * group), 10);
  for (const g of groups)
    if (nodes[2 * g] !== nodes[2 * g + 1])
      yield {
        edit: { rank: 1, what: 'group turned', group: number(g), ends: [name(2 * g), name(2 * g + 1)] },
        nodes: swapped(nodes, 2 * g, 2 * g + 1),
      };
  for (let a = lastEnd; a < names.length; a++)
    for (let b = a + 1; b < names.length; b++)
      if (nodes[a] !== nodes[b])
        yield { edit: { rank: 2, what: 'leads exchanged', leads: [name(a), name(b)] }, nodes: swapped(nodes, a, b) };
  for (const { leads, pairs } of phaseMarks(names.slice(lastEnd)))
    yield {
      edit: { rank: 2, what: 'phase marks exchanged', leads },
      nodes: pairs.reduce<number[]>((next, [a, b]) => swapped(next, lastEnd + a, lastEnd + b), [...nodes]),
    };
  // a joint that holds two or more joints of the drawing and nothing else
  for (const [node, own] of members) {
    const parts = new Map<number, number[]>();
    for (const t of own)
      parts.set(work.drawnNodes[t] as number, [...(parts.get(work.drawnNodes[t] as number) ?? []), t]);
    if (parts.size < 2) continue;
    const whole = [...parts].every(
      ([drawn, list]) => list.length > 1 && work.drawnNodes.filter((d) => d === drawn).length === list.length,
    );
    if (!whole) continue;
    const next = [...nodes];
    let fresh = nodes.length + node;
    for (const list of [...parts.values()].slice(1)) {
      fresh += nodes.length;
      for (const t of list) next[t] = fresh;
    }
    yield {
      edit: { rank: 2, what: 'joints joined', joints: [...parts.values()].map((list) => list.map(name)) },
      nodes: next,
    };
  }
  for (const b of odd) {
    const [first, last] = [b.ends[0] as number, b.ends[b.ends.length - 1] as number];
    if (b.ends.length > 2 && b.from !== b.to)
      yield {
        edit: {
          rank: 3,
          what: 'circuit turned',
          groups: b.ends.filter((_, i) => i % 2 === 0).map((t) => number(t >> 1)),
          ends: [name(first), name(last)],
        },
        nodes: swapped(nodes, first, last),
      };
  }
  if (!dear) return;
  for (const a of touched)
    for (let b = 0; b < lastEnd; b++) {
      if (nodes[a] === nodes[b] || (touched.has(b) && b <= a) || a >> 1 === b >> 1) continue;
      yield { edit: { rank: 4, what: 'ends exchanged', ends: [name(a), name(b)] }, nodes: swapped(nodes, a, b) };
    }
  for (const g of groups)
    for (let h = 0; h < tokens.groups; h++) {
      if (h === g || (groups.has(h) && h < g)) continue;
      const both = {
        groups: [number(g), number(h)] as [number, number],
        rank: 5 as const,
        what: 'groups exchanged' as const,
      };
      const straight = swapped(swapped(nodes, 2 * g, 2 * h), 2 * g + 1, 2 * h + 1);
      yield { edit: { ...both, turned: false }, nodes: straight };
      yield { edit: { ...both, turned: true }, nodes: swapped(swapped(nodes, 2 * g, 2 * h + 1), 2 * g + 1, 2 * h) };
    }
  const all = [...members.keys()];
  const movable = [...touched, ...Array.from({ length: names.length - lastEnd }, (_, i) => lastEnd + i)];
  for (const t of movable) {
    const here = nodes[t] as number;
    const from = (members.get(here) ?? []).filter((m) => m !== t).map(name);
    // a lead that lies where it belongs is moved only to or from a joint that is odd
    const isLead = t >= lastEnd;
    for (const node of all) {
      if (node === here || (isLead && !oddNodes.has(node) && !oddNodes.has(here))) continue;
      const next = [...nodes];
      next[t] = node;
      yield {
        edit: { rank: 6, what: 'end elsewhere', end: name(t), from, to: (members.get(node) ?? []).map(name) },
        nodes: next,
      };
    }
    if (from.length > 0) {
      const next = [...nodes];
      next[t] = nodes.length * 4 + t;
      yield { edit: { rank: 6, what: 'end elsewhere', end: name(t), from, to: [] }, nodes: next };
    }
  }
}

const countAt = (work: Work, nodes: Nodes): { count: number; form: Form } => {
  work.tests += 1;
  const form = formOf(work.tokens, nodes, work.classes);
  return { count: unmatched(form, work.drawn).count, form };
};

/** Edits of the lowest rank that restore the drawing at once. */
function single(work: Work, nodes: Nodes, form: Form, dear: boolean): Tried[] {
  const found: Tried[] = [];
  let rank = 0;
  for (const tried of editsOf(work, nodes, form, dear)) {
    if (rank > 0 && tried.edit.rank > rank) break;
    if (work.tests > MOST_TESTS) break;
    if (countAt(work, tried.nodes).count === 0) {
      rank = tried.edit.rank;
      found.push(tried);
    }
  }
  return found;
}

/**
 * The smallest change of the joints as made that restores the drawing: one edit of the lowest rank with its ties, else two.
 * Undefined where more than two would be needed. Source: derived (docs/derivations.md 8).
 */
export function nameMistake(work: Work, made: readonly Joint[]): Naming {
  work.tests = 0;
  const nodes = nodesFrom(work.tokens, made);
  const { count, form } = countAt(work, nodes);
  if (count === 0) return { edits: [], unmatched: 0 };
  const one = single(work, nodes, form, true);
  const [first] = one;
  if (first) return { edits: [{ edit: first.edit, ties: one.slice(1).map((t) => t.edit) }], unmatched: count };
  // two edits: the first leaves at most two branches unmatched, or clearly fewer than before
  for (const dear of [false, true]) {
    const begun: { tried: Tried; form: Form; count: number }[] = [];
    for (const tried of editsOf(work, nodes, form, dear)) {
      if (work.tests > MOST_TESTS) break;
      const after = countAt(work, tried.nodes);
      if (after.count <= Math.max(2, Math.ceil(count / 2)) && after.count < count + 1) begun.push({ tried, ...after });
    }
    begun.sort((a, b) => a.count - b.count || a.tried.edit.rank - b.tried.edit.rank);
    let best: { pair: [Edit, Edit]; sum: number } | undefined;
    for (const { tried, form: next } of begun) {
      if (work.tests > MOST_TESTS) break;
      if (best && tried.edit.rank + 1 >= best.sum) continue;
      const [second] = single(work, tried.nodes, next, dear);
      if (!second) continue;
      const sum = tried.edit.rank + second.edit.rank;
      if (!best || sum < best.sum) best = { pair: [tried.edit, second.edit], sum };
      if (best.sum <= 2) break;
    }
    if (best) return { edits: best.pair.map((edit) => ({ edit, ties: [] })), unmatched: count };
  }
  return { edits: [], unmatched: count };
}
