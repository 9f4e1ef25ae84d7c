import type { Connection } from '../winding/connection.ts';

/** Ends that meet in one joint: group ends ("4F"), leads ("T1"), a star ("Y"). */
export type Joint = readonly string[];

const END = /^(?:\d{1,3}[SF]|T\d{1,2}|[UZ][12]|Y\d?)$/;

/** Every joint of a planned connection: jumpers pairwise, then what meets at each lead and star. */
export function jointsOf(connection: Connection): Joint[] {
  return [...connection.jumpers.map((j) => [j.from, j.to]), ...connection.nodes.map((n) => [n.name, ...n.ends])];
}

/**
 * Joints as typed: one a line or separated by commas, ends by dashes: `1F-4F, T1-1S-7S`. Small letters do.
 * @returns the joints, and a sentence for each part that is none
 */
export function parseJoints(text: string): { joints: Joint[]; problems: string[] } {
  const joints: Joint[] = [];
  const problems: string[] = [];
  for (const part of text.split(/[\n,;]+/)) {
    const said = part.trim();
    if (said === '') continue;
    const ends = said
      .toUpperCase()
      .replaceAll('–', '-')
      .split(/\s*-\s*|\s+/)
      .filter(Boolean);
    const wrong = ends.find((e) => !END.test(e));
    if (wrong !== undefined)
      problems.push(`"${wrong}" in "${said}" is no end: write a group end like 4F, a lead like T1, or Y for the star.`);
    else if (ends.length < 2) problems.push(`"${said}" joins nothing; write at least two ends, like 1F-4F.`);
    else joints.push(ends);
  }
  return { joints, problems };
}

export const sayJoint = (joint: Joint): string => joint.join('-');

/** Sets of ends that are one node, whatever the order the joints were made in. */
export function nodesOf(ends: readonly string[], joints: readonly Joint[]): Map<string, string> {
  const parent = new Map(ends.map((e) => [e, e]));
  const find = (x: string): string => {
    let at = x;
    while ((parent.get(at) ?? at) !== at) at = parent.get(at) ?? at;
    return at;
  };
  for (const joint of joints)
    for (const end of joint) {
      if (!parent.has(end)) parent.set(end, end);
      const [a, b] = [find(joint[0] ?? end), find(end)];
      if (a !== b) parent.set(b, a);
    }
  return new Map([...parent.keys()].map((e) => [e, find(e)]));
}
