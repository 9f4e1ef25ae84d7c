import { add, angleDegOf, polar, scale, sizeOf, subtract, type Complex } from '../winding/complex.ts';
import { type Connection } from '../winding/connection.ts';
import { leadMark } from '../winding/leadMarks.ts';
import type { Layout, Phase } from '../winding/layoutTypes.ts';
import { groupEmf } from '../winding/phaseBalance.ts';
import { nodesOf, type Joint } from './joints.ts';
import { inverse, solve } from './solve.ts';

/** Own leakage added on the diagonal of the ideal-gap inductances (docs/derivations.md 8). */
export const LEAKAGE_SHARE = 0.15;

interface Branch {
  group: number;
  phase: Phase;
  sign: 1 | -1;
  from: number;
  to: number;
  /** turns as resistance */
  ohm: number;
  /** EMF from start to finish in a true rotating field */
  emf: Complex;
}

export interface Network {
  leads: string[];
  nodeOf: ReadonlyMap<string, number>;
  /** what meets at each node */
  meets: string[][];
  branches: Branch[];
  /** branch inductances of the ideal gap, with leakage on the diagonal */
  inductance: number[][];
  inverseInductance: number[][];
}

const functionsBy = new WeakMap<Layout, ReadonlyMap<number, Float64Array>>();

/** Tooth winding function of each group, mean removed: what one ampere from start to finish magnetizes; made once for a layout. */
export function windingFunctions(layout: Layout): ReadonlyMap<number, Float64Array> {
  const known = functionsBy.get(layout);
  if (known) return known;
  const S = layout.slots;
  const out = new Map<number, Float64Array>();
  for (const group of layout.groups) {
    const at = new Float64Array(S);
    for (const n of group.coils) {
      const coil = layout.coils[n - 1];
      if (!coil) continue;
      at[coil.goSlot - 1] = (at[coil.goSlot - 1] ?? 0) + coil.turns;
      at[coil.returnSlot - 1] = (at[coil.returnSlot - 1] ?? 0) - coil.turns;
    }
    let run = 0;
    let mean = 0;
    const f = new Float64Array(S);
    for (let s = 0; s < S; s++) {
      run += at[s] ?? 0;
      f[s] = run;
      mean += run / S;
    }
    out.set(
      group.number,
      f.map((x) => x - mean),
    );
  }
  functionsBy.set(layout, out);
  return out;
}

type Inductances = Pick<Network, 'inductance' | 'inverseInductance'>;
const inductances = new WeakMap<Layout, Inductances>();

/** L_gh = (1/S) Σ N_g N_h with leakage on the diagonal, and its inverse; made once for a layout. */
function inductancesOf(layout: Layout): Inductances {
  const known = inductances.get(layout);
  if (known) return known;
  const functions = windingFunctions(layout);
  const of = layout.groups.map((g) => functions.get(g.number) as Float64Array);
  const L = of.map(() => new Array<number>(of.length).fill(0));
  of.forEach((a, i) => {
    for (let j = 0; j <= i; j++) {
      const b = of[j] as Float64Array;
      let sum = 0;
      for (let s = 0; s < layout.slots; s++) sum += (a[s] ?? 0) * (b[s] ?? 0);
      const shared = (sum / layout.slots) * (i === j ? 1 + LEAKAGE_SHARE : 1);
      (L[i] as number[])[j] = shared;
      (L[j] as number[])[i] = shared;
    }
  });
  const made = { inductance: L, inverseInductance: inverse(L) };
  inductances.set(layout, made);
  return made;
}

/** The network that joints make of the groups of a winding. */
export function networkOf(layout: Layout, joints: readonly Joint[]): Network {
  const ends = layout.groups.flatMap((g) => [`${g.number}S`, `${g.number}F`]);
  const root = nodesOf(ends, joints);
  const names = [...new Set(root.values())];
  const index = new Map(names.map((n, i) => [n, i]));
  const nodeOf = new Map([...root].map(([end, r]) => [end, index.get(r) as number]));
  const meets: string[][] = names.map(() => []);
  for (const [end, node] of nodeOf) meets[node]?.push(end);
  const branches = layout.groups.map((g): Branch => {
    const ohm = g.coils.reduce((sum, n) => sum + Math.abs(layout.coils[n - 1]?.turns ?? 0), 0);
    return {
      group: g.number,
      phase: g.phase,
      sign: g.sign,
      from: nodeOf.get(`${g.number}S`) as number,
      to: nodeOf.get(`${g.number}F`) as number,
      ohm,
      emf: groupEmf(layout, g),
    };
  });
  const leads = [...nodeOf.keys()]
    .filter((e) => /^[TUZ]\d/.test(e))
    .sort((a, b) => Number(a.slice(1)) - Number(b.slice(1)));
  return { leads, nodeOf, meets, branches, ...inductancesOf(layout) };
}

/** Nodes × nodes: Σ of branch couplings seen from the nodes. */
function nodal(net: Network, couple: (i: number, j: number) => number): number[][] {
  const n = net.meets.length;
  const G = Array.from({ length: n }, () => new Array<number>(n).fill(0));
  net.branches.forEach((a, i) => {
    net.branches.forEach((b, j) => {
      const y = couple(i, j);
      if (y === 0) return;
      for (const [p, sp] of [
        [a.from, 1],
        [a.to, -1],
      ] as const)
        for (const [q, sq] of [
          [b.from, 1],
          [b.to, -1],
        ] as const) {
          const row = G[p] as number[];
          row[q] = (row[q] ?? 0) + sp * sq * y;
        }
    });
  });
  return G;
}

/** The nodal matrix of the inductances: Σ of what is coupled, seen from the nodes. */
export const nodalByInductance = (net: Network): number[][] => nodal(net, (i, j) => net.inverseInductance[i]?.[j] ?? 0);

/** Which nodes hang together through groups. */
function islands(net: Network): number[] {
  const parent = net.meets.map((_, i) => i);
  const find = (x: number): number => ((parent[x] ?? x) === x ? x : find(parent[x] ?? x));
  for (const b of net.branches) parent[find(b.from)] = find(b.to);
  return parent.map((_, i) => find(i));
}

/** Lead-to-lead values of a nodal matrix (resistance or inductance) by pair; Infinity where no path joins them. */
function between(
  net: Network,
  G: readonly (readonly number[])[],
  pairs: readonly (readonly [string, string])[],
  island: readonly number[],
): number[] {
  const at = pairs.map(([a, b]) => [net.nodeOf.get(a), net.nodeOf.get(b)] as const);
  // one ampere in at one lead, out at the other: solvable without a ground in every island, coupled or not
  const x = solve(
    G,
    net.meets.map((_, i) => at.map(([p, q]) => (p === q ? 0 : Number(i === p) - Number(i === q)))),
  );
  return at.map(([p, q], n) => {
    if (p === undefined || q === undefined) return Infinity;
    if (p === q) return 0;
    return island[p] === island[q] ? (x[p]?.[n] ?? 0) - (x[q]?.[n] ?? 0) : Infinity;
  });
}

export interface Signature {
  pairs: [string, string][];
  /** by pair, in units of one turn's resistance; Infinity = open */
  resistance: number[];
  /** by pair: inductance of the ideal gap with leakage */
  inductance: number[];
  /** by pair: induced by a true rotating field, equal impedance in every group */
  voltage: number[];
  /** by lead: magnetizing current at balanced line voltage; empty unless three leads */
  current: number[];
  /** largest EMF left over round a closed loop, relative to the largest group EMF: 0 when nothing circulates */
  circulating: number;
  /** +1 when the line voltages follow T1, T2, T3; -1 the other way; 0 when not balanced */
  rotation: 1 | -1 | 0;
}

/** The pairs that are read: three of three leads, the two phases of four, the one of two. */
export function leadPairs(net: Network, lines: readonly string[] = ['T1', 'T2', 'T3']): [string, string][] {
  const [a, b, c, d, ...more] = lines.filter((l) => net.nodeOf.has(l));
  if (a === undefined || b === undefined || more.length > 0) return [];
  if (c === undefined) return [[a, b]];
  return d === undefined
    ? [
        [a, b],
        [b, c],
        [c, a],
      ]
    : [
        [a, b],
        [c, d],
      ];
}

/** What measuring at the three line leads would show (extra leads linked by `links` as for running). */
export function signatureOf(net: Network, lines: readonly string[] = ['T1', 'T2', 'T3']): Signature {
  const leads = lines.filter((l) => net.nodeOf.has(l));
  const pairs = leadPairs(net, lines);
  const R = nodal(net, (i, j) => (i === j ? 1 / Math.max(1e-9, net.branches[i]?.ohm ?? 1) : 0));
  const G = nodalByInductance(net);
  // open-circuit potentials: A Aᵀ φ = A E
  const A = nodal(net, (i, j) => (i === j ? 1 : 0));
  const inject = net.meets.map(() => ({ re: 0, im: 0 }) as Complex);
  for (const b of net.branches) {
    inject[b.from] = add(inject[b.from] as Complex, b.emf);
    inject[b.to] = subtract(inject[b.to] as Complex, b.emf);
  }
  const phi = solve(
    A,
    inject.map((c) => [c.re, c.im]),
  );
  const potential = (node: number): Complex => ({ re: phi[node]?.[0] ?? 0, im: phi[node]?.[1] ?? 0 });
  const largest = Math.max(1e-12, ...net.branches.map((b) => sizeOf(b.emf)));
  const circulating = Math.max(
    0,
    ...net.branches.map((b) => sizeOf(subtract(subtract(potential(b.from), potential(b.to)), b.emf)) / largest),
  );
  const island = islands(net);
  const line = pairs.map(([x, y]) => {
    const [p, q] = [net.nodeOf.get(x) as number, net.nodeOf.get(y) as number];
    return island[p] === island[q] ? subtract(potential(p), potential(q)) : { re: 0, im: 0 };
  });
  const voltage = line.map(sizeOf);
  let rotation: 1 | -1 | 0 = 0;
  if (line.length === 3 && Math.min(...voltage) > 1e-6 * largest) {
    const turn = (angleDegOf(line[1] as Complex) - angleDegOf(line[0] as Complex) + 360) % 360;
    rotation = turn < 180 ? 1 : -1;
  }
  return {
    pairs,
    resistance: between(net, R, pairs, island),
    inductance: between(net, G, pairs, island),
    voltage,
    current: leads.length === 3 ? magnetizing(net, G, leads) : [],
    circulating,
    rotation,
  };
}

/** Line currents with a balanced three-phase voltage at T1, T2, T3, in units of V/ωL. */
function magnetizing(net: Network, G: readonly (readonly number[])[], leads: readonly string[]): number[] {
  const known = leads.map((l) => net.nodeOf.get(l) as number);
  if (new Set(known).size < 3) return [Infinity, Infinity, Infinity];
  const volts = [0, -120, -240].map((d) => polar(1, d));
  const others = net.meets.map((_, i) => i).filter((i) => !known.includes(i));
  const phi = solve(
    others.map((i) => others.map((j) => G[i]?.[j] ?? 0)),
    others.map((i) => {
      const sum = known.reduce<Complex>((s, k, n) => add(s, scale(volts[n] as Complex, -(G[i]?.[k] ?? 0))), {
        re: 0,
        im: 0,
      });
      return [sum.re, sum.im];
    }),
  );
  return known.map((k) => {
    let sum: Complex = { re: 0, im: 0 };
    known.forEach((m, n) => (sum = add(sum, scale(volts[n] as Complex, G[k]?.[m] ?? 0))));
    others.forEach((o, n) => {
      const g = G[k]?.[o] ?? 0;
      sum = add(sum, { re: g * (phi[n]?.[0] ?? 0), im: g * (phi[n]?.[1] ?? 0) });
    });
    return sizeOf(sum);
  });
}

export interface Path {
  from: string;
  to: string;
  /** groups in the order current meets them; + from start to finish */
  groups: { group: number; phase: Phase; along: 1 | -1 }[];
}

/** Walks from every lead and star through joints of two ends: the circuits as they really are. */
export function circuitsAsMade(net: Network): { paths: Path[]; loose: string[]; unused: number[] } {
  const degree = net.meets.map((m) => m.filter((e) => /[SF]$/.test(e)).length);
  const terminal = net.meets.map((m, i) => m.some((e) => !/[SF]$/.test(e)) || (degree[i] ?? 0) !== 2);
  const at = new Map<number, { branch: number; along: 1 | -1 }[]>();
  net.branches.forEach((b, i) => {
    at.set(b.from, [...(at.get(b.from) ?? []), { branch: i, along: 1 }]);
    at.set(b.to, [...(at.get(b.to) ?? []), { branch: i, along: -1 }]);
  });
  const used = new Set<number>();
  const paths: Path[] = [];
  const name = (node: number): string =>
    net.meets[node]?.find((e) => !/[SF]$/.test(e)) ?? net.meets[node]?.join('-') ?? '';
  const rank = (node: number) => (net.meets[node]?.some((e) => /^[TUZ]/.test(e)) ? 0 : 1);
  const order = net.meets
    .map((_, i) => i)
    .filter((i) => terminal[i])
    .sort((a, b) => rank(a) - rank(b));
  for (const start of order)
    for (const first of at.get(start) ?? []) {
      if (used.has(first.branch)) continue;
      const groups: Path['groups'] = [];
      let step = first;
      let node: number;
      for (;;) {
        const b = net.branches[step.branch] as Branch;
        used.add(step.branch);
        groups.push({ group: b.group, phase: b.phase, along: step.along });
        node = step.along === 1 ? b.to : b.from;
        if (terminal[node]) break;
        const next = (at.get(node) ?? []).find((x) => !used.has(x.branch));
        if (!next) break;
        step = next;
      }
      paths.push({ from: name(start), to: name(node), groups });
    }
  const loose = net.meets.filter((m) => m.length === 1 && /[SF]$/.test(m[0] ?? '')).map((m) => m[0] as string);
  return { paths, loose, unused: net.branches.filter((_, i) => !used.has(i)).map((b) => b.group) };
}

export const sayPath = (path: Path, marks: 'T' | 'U'): string =>
  `${leadMark(path.from, marks)} – ${path.groups.map((g) => `${g.group}${g.along === 1 ? '+' : '−'}`).join(' ')} – ${leadMark(path.to, marks)}`;

/** The joints as they are, in the shape the connection drawing takes: pairs of ends as jumpers, the rest as leads and stars. */
export function drawnAsMade(layout: Layout, drawn: Connection, joints: readonly Joint[]): Connection {
  const net = networkOf(layout, joints);
  const phaseOf = new Map(layout.groups.map((g) => [g.number, g.phase]));
  const jumpers: Connection['jumpers'] = [];
  const nodes: Connection['nodes'] = [];
  net.meets.forEach((meets, i) => {
    const ends = meets.filter((e) => /^\d+[SF]$/.test(e));
    const names = meets.filter((e) => !/^\d+[SF]$/.test(e));
    if (names.length === 0 && ends.length < 2) return;
    if (names.length === 0 && ends.length === 2)
      jumpers.push({
        phase: phaseOf.get(Number.parseInt(ends[0] ?? '', 10)) ?? 'A',
        from: ends[0] ?? '',
        to: ends[1] ?? '',
      });
    else if (names.length === 0) nodes.push({ name: `Y${i}`, kind: 'star', ends });
    else for (const name of names) nodes.push({ name, kind: name.startsWith('Y') ? 'star' : 'lead', ends });
  });
  return { ...drawn, circuits: [], jumpers, nodes, links: [] };
}
