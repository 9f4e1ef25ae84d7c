import type { Connection } from '../winding/connection.ts';
import { sayJoint } from './joints.ts';

export const JOINT_KINDS = ['braze', 'solder', 'crimp', 'weld'] as const;
export type JointKind = (typeof JOINT_KINDS)[number];
export const JOINT_ORDERS = ['jumpers first', 'leads first'] as const;
export type JointOrder = (typeof JOINT_ORDERS)[number];

export interface JointItem {
  /** the joint's name: its ends in order */
  key: string;
  what: 'jumper' | 'lead' | 'star';
  ends: string[];
  groups: number[];
  phase: string;
}

/** The joints of a connection in the order they are made: jumpers from phase to phase, leads, star last; or leads before. */
export function jointList(connection: Connection, order: JointOrder): JointItem[] {
  const groupsOf = (ends: readonly string[]) =>
    [...new Set(ends.filter((e) => /^\d+[SF]$/.test(e)).map((e) => Number.parseInt(e, 10)))].sort((a, b) => a - b);
  const item = (what: JointItem['what'], ends: string[], phase: string): JointItem => ({
    key: sayJoint(ends),
    what,
    ends,
    groups: groupsOf(ends),
    phase,
  });
  const jumpers = connection.jumpers.map((j) => item('jumper', [j.from, j.to], j.phase));
  const nodes = connection.nodes.map((n) => item(n.kind, [n.name, ...n.ends], ''));
  const leads = nodes.filter((n) => n.what === 'lead');
  const stars = nodes.filter((n) => n.what === 'star');
  return order === 'jumpers first' ? [...jumpers, ...leads, ...stars] : [...leads, ...jumpers, ...stars];
}

/** What a kind of joint does to the thermal class; a sentence where it limits it (docs/derivations.md 13, common practice). */
export function jointClassWarning(kind: JointKind, insulationClass: string | undefined): string | undefined {
  if (kind !== 'solder') return undefined;
  return insulationClass && ['F', 'H', 'N'].includes(insulationClass)
    ? `Soft solder softens when a class ${insulationClass} winding runs hot: braze, weld or crimp these joints, or use a solder that suits the class.`
    : 'Soft solder limits the class of the joint: its melting point counts as a member of the insulation system.';
}

/** The joint list as a table: what meets where, in the order it is made. */
export function jointTable(list: readonly JointItem[], say: (name: string) => string): (string | number)[][] {
  return [
    ['number', 'what', 'phase', 'ends', 'groups'],
    ...list.map((j, i) => [i + 1, j.what, j.phase, j.ends.map(say).join(' - '), j.groups.join(' ')]),
  ];
}
