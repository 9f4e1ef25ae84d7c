import { polar, type Complex } from '../winding/complex.ts';
import type { Layout } from '../winding/layoutTypes.ts';
import { groupEmf } from '../winding/phaseBalance.ts';
import { nodesOf, type Joint } from './joints.ts';

/**
 * Joints as nodes of tokens: the ends of the groups (`2i` the start, `2i + 1` the finish of the i-th), then the leads. Every token has
 * a node; a lone token is open.
 */
export interface Tokens {
  names: string[];
  indexOf: ReadonlyMap<string, number>;
  groups: number;
}
export type Nodes = readonly number[];

/** A branch between two terminal joints, with the ends it runs through and what is induced in it. */
export interface MadeBranch {
  key: string;
  /** tokens of the ends, from one terminal to the other */
  ends: number[];
  /** node at either end */
  from: number;
  to: number;
}

export interface Form {
  branches: MadeBranch[];
  keys: Map<string, number>;
}

export function tokensOf(layout: Layout, leads: readonly string[]): Tokens {
  const names = [...layout.groups.flatMap((g) => [`${g.number}S`, `${g.number}F`]), ...leads];
  return { names, indexOf: new Map(names.map((n, i) => [n, i])), groups: layout.groups.length };
}

/** The node of every token; a star written as Y only joins. */
export function nodesFrom(tokens: Tokens, joints: readonly Joint[]): number[] {
  const root = nodesOf(tokens.names, joints);
  const ids = new Map<string, number>();
  return tokens.names.map((name) => {
    const at = root.get(name) ?? name;
    const known = ids.get(at);
    if (known !== undefined) return known;
    ids.set(at, ids.size);
    return ids.size - 1;
  });
}

/** Classes of signed group EMFs: two groups of one class can stand for each other. */
export interface Classes {
  /** class of a group walked from start to finish, and from finish to start */
  along: number[];
  against: number[];
  opposite: number[];
  /** class after a common turn by k·60° */
  turned: number[][];
  /** how many turns are allowed: all six, or for one phase none and 180° */
  turns: readonly number[];
}

/** Source: derived (docs/derivations.md 8). Two-speed windings are told apart by both speeds at once. */
export function classesOf(layout: Layout): Classes {
  const isTwoSpeed = layout.kind === 'two-speed';
  const emfs = layout.groups.map((g) =>
    isTwoSpeed ? [groupEmf(layout, g), groupEmf(layout, g, layout.poles / 2)] : [groupEmf(layout, g)],
  );
  const largest = emfs.flat().reduce((m, e) => Math.max(m, Math.hypot(e.re, e.im)), 1e-12);
  const ids = new Map<string, number>();
  const list: Complex[][] = [];
  const idOf = (e: readonly Complex[]): number => {
    const name = e
      .map((c) => `${Math.round((c.re / largest) * 1e5) + 0},${Math.round((c.im / largest) * 1e5) + 0}`)
      .join(';');
    const known = ids.get(name);
    if (known !== undefined) return known;
    ids.set(name, list.length);
    list.push([...e]);
    return list.length - 1;
  };
  const turn = (e: readonly Complex[], k: number): Complex[] =>
    e.map((c, speed) => {
      const by = polar(1, speed === 0 ? 60 * k : -60 * k);
      return { re: c.re * by.re - c.im * by.im, im: c.re * by.im + c.im * by.re };
    });
  const along = emfs.map(idOf);
  const against = emfs.map((e) => idOf(e.map((c) => ({ re: -c.re, im: -c.im }))));
  const turns = layout.kind === 'single-phase' ? [0, 3] : [0, 1, 2, 3, 4, 5];
  const used = list.length;
  const turned = turns.map((k) => Array.from({ length: used }, (_, id) => idOf(turn(list[id] ?? [], k))));
  const opposite = list.map((e) => idOf(e.map((c) => ({ re: -c.re, im: -c.im }))));
  // opposites of what the turns added
  while (opposite.length < list.length)
    opposite.push(idOf((list[opposite.length] ?? []).map((c) => ({ re: -c.re, im: -c.im }))));
  return { along, against, opposite, turned, turns };
}

const isEnd = (tokens: Tokens, token: number): boolean => token < 2 * tokens.groups;

/** One branch as text, the same from whichever side it is read. */
function keyOf(from: string, to: string, classes: readonly number[], opposite: readonly number[]): string {
  const forward = [...classes].sort((a, b) => a - b).join(',');
  const backward = classes
    .map((c) => opposite[c] ?? c)
    .sort((a, b) => a - b)
    .join(',');
  if (from < to) return `${from}|${to}|${forward}`;
  if (from > to) return `${to}|${from}|${backward}`;
  return `${from}|${to}|${forward < backward ? forward : backward}`;
}

/** Branches between terminal joints (a lead, or not two ends), each with its two terminals and its signed classes. */
export function formOf(tokens: Tokens, nodes: Nodes, classes: Classes): Form {
  const ends: number[][] = [];
  const leads: string[][] = [];
  for (let t = 0; t < nodes.length; t++) {
    const node = nodes[t] as number;
    if (isEnd(tokens, t)) (ends[node] ??= []).push(t);
    else (leads[node] ??= []).push(tokens.names[t] as string);
  }
  const labelOf = (node: number): string => {
    const named = leads[node];
    if (named) return named.length > 1 ? [...named].sort().join('+') : (named[0] as string);
    return (ends[node]?.length ?? 0) === 1 ? 'open' : 'Y';
  };
  const isTerminal = (node: number): boolean => leads[node] !== undefined || (ends[node]?.length ?? 0) !== 2;
  const used = new Uint8Array(tokens.groups);
  const branches: MadeBranch[] = [];
  const keys = new Map<string, number>();
  const walk = (start: number, isLoop: boolean): void => {
    const first = nodes[start] as number;
    const through: number[] = [];
    const list: number[] = [];
    let at = start;
    let node: number;
    for (;;) {
      const group = at >> 1;
      used[group] = 1;
      const out = at ^ 1;
      through.push(at, out);
      list.push((at & 1 ? classes.against[group] : classes.along[group]) as number);
      node = nodes[out] as number;
      if (isTerminal(node)) break;
      const [a, b] = ends[node] as [number, number];
      const next = a === out ? b : a;
      if (used[next >> 1]) break;
      at = next;
    }
    const [p, q] = isLoop ? ['loop', 'loop'] : [labelOf(first), labelOf(node)];
    const key = keyOf(p, q, list, classes.opposite);
    branches.push({ key, ends: through, from: first, to: node });
    keys.set(key, (keys.get(key) ?? 0) + 1);
  };
  for (let t = 0; t < 2 * tokens.groups; t++) if (!used[t >> 1] && isTerminal(nodes[t] as number)) walk(t, false);
  for (let t = 0; t < 2 * tokens.groups; t += 2) if (!used[t >> 1]) walk(t, true);
  return { branches, keys };
}

/** The drawing's branches after every allowed common turn of the phasors. */
export function turnedForms(tokens: Tokens, nodes: Nodes, classes: Classes): Map<string, number>[] {
  return classes.turned.map((turned) => {
    const through = (list: readonly number[]): number[] => list.map((c) => turned[c] ?? c);
    return formOf(tokens, nodes, {
      ...classes,
      along: through(classes.along),
      against: through(classes.against),
    }).keys;
  });
}

/** Branches of the drawing that are not matched: 0 = equal. The least over the common turns, with the turn it is found at. */
export function unmatched(form: Form, drawn: readonly Map<string, number>[]): { count: number; turn: number } {
  let best = { count: Number.POSITIVE_INFINITY, turn: 0 };
  for (let k = 0; k < drawn.length; k++) {
    let count = 0;
    for (const [key, n] of drawn[k] as Map<string, number>) {
      const have = form.keys.get(key) ?? 0;
      if (have < n) count += n - have;
    }
    if (count < best.count) best = { count, turn: k };
    if (count === 0) {
      // as many branches on both sides: a loop left over would be another machine
      let made = 0;
      let wanted = 0;
      for (const n of form.keys.values()) made += n;
      for (const n of (drawn[k] as Map<string, number>).values()) wanted += n;
      if (made === wanted) return { count: 0, turn: k };
      best = { count: 1, turn: k };
    }
  }
  return best;
}

/** Branches as made that no branch of the drawing answers to, at one common turn. */
export function strangers(form: Form, drawn: ReadonlyMap<string, number>): MadeBranch[] {
  const left = new Map(drawn);
  return form.branches.filter((b) => {
    const n = left.get(b.key) ?? 0;
    if (n > 0) left.set(b.key, n - 1);
    return n === 0;
  });
}
