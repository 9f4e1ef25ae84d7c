import type { Connection } from '../winding/connection.ts';
import type { Layout, Phase } from '../winding/layoutTypes.ts';
import type { Joint } from './joints.ts';

/** One mistake hands make, and the joints as they would be then. */
export interface Mistake {
  kind:
    | 'reversed group'
    | 'bypassed group'
    | 'exchanged groups'
    | 'open circuit'
    | 'phase reversed'
    | 'coil turned'
    | 'coil left out'
    | 'none';
  groups: number[];
  /** the coil, where it is one coil of a group */
  coil?: number;
  say: string;
  joints: Joint[];
  /** the winding as it would be, where the mistake lies inside a group and no joint shows it */
  layout?: Layout;
}

const swapEnds = (joints: readonly Joint[], from: Record<string, string>): Joint[] =>
  joints.map((j) => j.map((e) => from[e] ?? e));

/** A group joined the wrong way round. */
export const reversed = (joints: readonly Joint[], group: number): Joint[] =>
  swapEnds(joints, { [`${group}S`]: `${group}F`, [`${group}F`]: `${group}S` });

/** What was to enter a group goes on past it; its own ends are left over. */
export function bypassed(joints: readonly Joint[], group: number): Joint[] {
  const [s, f] = [`${group}S`, `${group}F`];
  const without = joints.map((j) => j.filter((e) => e !== s && e !== f));
  const at = (end: string) => joints.findIndex((j) => j.includes(end));
  const [a, b] = [at(s), at(f)];
  if (a < 0 || b < 0) return without;
  const merged = [...(without[a] ?? []), ...(without[b] ?? [])];
  return [...without.filter((_, i) => i !== a && i !== b), merged];
}

/** Two groups in each other's place, each with the polarity of its new place. */
export const exchanged = (joints: readonly Joint[], a: number, b: number): Joint[] =>
  swapEnds(joints, { [`${a}S`]: `${b}S`, [`${a}F`]: `${b}F`, [`${b}S`]: `${a}S`, [`${b}F`]: `${a}F` });

/** All circuits of a phase joined the wrong way round between their terminals. */
export function phaseReversed(joints: readonly Joint[], connection: Connection, phase: Phase): Joint[] {
  const map: Record<string, string> = {};
  for (const c of connection.circuits.filter((x) => x.phase === phase)) {
    const [first, last] = [c.steps[0]?.enter ?? '', c.steps[c.steps.length - 1]?.leave ?? ''];
    map[first] = last;
    map[last] = first;
  }
  // only at the terminals: jumpers inside the circuit stay
  const terminals = new Set(connection.nodes.map((n) => n.name));
  return joints.map((j) => (j.some((e) => terminals.has(e)) ? j.map((e) => map[e] ?? e) : j));
}

/** One circuit of a phase not joined at its lead. */
export function openedCircuit(joints: readonly Joint[], connection: Connection, phase: Phase, number: number): Joint[] {
  const own = connection.circuits.filter((c) => c.phase === phase)[number - 1];
  const end = own?.steps[0]?.enter;
  return joints.map((j) => j.filter((e) => e !== end));
}
