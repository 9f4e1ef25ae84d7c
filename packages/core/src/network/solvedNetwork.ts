import type { Network } from './network.ts';
import { symmetricInverse } from './solve.ts';

/**
 * A network solved once. K is a generalized inverse of the nodal matrix A Y Aᵀ, C = Aᵀ K A what one ampere driven into a group
 * from outside leaves across each; Q = Y − Y C Y takes a voltage in each group to the currents it drives. A change
 * ΔZ = U S Uᵀ of the branch matrix alters a reading by vᵀ (S⁻¹ + Uᵀ Q U)⁻¹ v with v = Uᵀ i (docs/derivations.md 26).
 */
export interface Solved {
  /** Q: the current in group i of a volt in group j */
  answer: (i: number, j: number) => number;
  /** by pair and group: the currents of one ampere from lead to lead */
  flows: readonly Float64Array[];
  /** by pair: what is read */
  values: number[];
  /** the largest own answer of a group: what is nought beside it is nought */
  scale: number;
}
export interface SolvedByInductance extends Solved {
  /** C; L Q L − L is its opposite */
  across: (i: number, j: number) => number;
  /** L Q = 1 − C Y */
  driven: (i: number, j: number) => number;
  /** by pair and group: L i, the flux that the pair's ampere links with the group */
  linked: readonly Float64Array[];
  /** (Q v)_g */
  drivenAt: (g: number, v: Float64Array) => number;
  /** vᵀ Q v */
  square: (v: Float64Array) => number;
}

/** Σ aᵢ bᵢ of two rows of one length. */
export const dot = (a: Float64Array, b: Float64Array): number => {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += (a[i] as number) * (b[i] as number);
  return sum;
};

interface Across {
  /** C, n × n, row after row */
  C: Float64Array;
  /** by pair: what its ampere leaves across each group */
  ofPairs: Float64Array[];
  values: number[];
}

/** @param G the nodal matrix, row after row; it is written over */
function acrossOf(net: Network, G: Float64Array, pairs: readonly (readonly [string, string])[]): Across {
  const nodes = net.meets.length;
  const K = symmetricInverse(G, nodes);
  const at = (p: number, q: number): number => K[p * nodes + q] as number;
  const n = net.branches.length;
  const C = new Float64Array(n * n);
  const from = Int32Array.from(net.branches, (b) => b.from);
  const to = Int32Array.from(net.branches, (b) => b.to);
  for (let i = 0; i < n; i++) {
    const [p, q] = [(from[i] as number) * nodes, (to[i] as number) * nodes];
    for (let j = 0; j <= i; j++) {
      const [r, s] = [from[j] as number, to[j] as number];
      const c = (K[p + r] as number) - (K[p + s] as number) - (K[q + r] as number) + (K[q + s] as number);
      C[i * n + j] = c;
      C[j * n + i] = c;
    }
  }
  const ends = pairs.map(([a, b]) => [net.nodeOf.get(a) ?? 0, net.nodeOf.get(b) ?? 0] as const);
  return {
    C,
    ofPairs: ends.map(([p, q]) =>
      Float64Array.from(net.branches, (b) => at(b.from, p) - at(b.from, q) - at(b.to, p) + at(b.to, q)),
    ),
    values: ends.map(([p, q]) => at(p, p) - 2 * at(p, q) + at(q, q)),
  };
}

/** By the resistance of each group alone (turns; a group without any reads next to nothing). */
export function solvedByResistance(net: Network, pairs: readonly (readonly [string, string])[]): Solved {
  const nodes = net.meets.length;
  const y = Float64Array.from(net.branches, (b) => 1 / Math.max(1e-9, b.ohm));
  const G = new Float64Array(nodes * nodes);
  net.branches.forEach(({ from, to }, i) => {
    const own = y[i] as number;
    G[from * nodes + from] = (G[from * nodes + from] as number) + own;
    G[to * nodes + to] = (G[to * nodes + to] as number) + own;
    G[from * nodes + to] = (G[from * nodes + to] as number) - own;
    G[to * nodes + from] = (G[to * nodes + from] as number) - own;
  });
  const { C, ofPairs, values } = acrossOf(net, G, pairs);
  const n = y.length;
  return {
    answer: (i, j) => {
      const [a, b] = [y[i] as number, y[j] as number];
      return (i === j ? a : 0) - a * b * (C[i * n + j] as number);
    },
    flows: ofPairs.map((across) => across.map((v, i) => v * (y[i] as number))),
    values,
    scale: Math.max(...y),
  };
}

/** By the inductances of the groups, coupled as they are. */
export function solvedByInductance(net: Network, pairs: readonly (readonly [string, string])[]): SolvedByInductance {
  const nodes = net.meets.length;
  const n = net.branches.length;
  const Y = new Float64Array(n * n);
  net.inverseInductance.forEach((row, i) => Y.set(row, i * n));
  // A Y, then A Y Aᵀ
  const B = new Float64Array(nodes * n);
  net.branches.forEach(({ from, to }, i) => {
    for (let j = 0, y = i * n, plus = from * n, minus = to * n; j < n; j++, y++, plus++, minus++) {
      B[plus] = (B[plus] as number) + (Y[y] as number);
      B[minus] = (B[minus] as number) - (Y[y] as number);
    }
  });
  const G = new Float64Array(nodes * nodes);
  net.branches.forEach(({ from, to }, j) => {
    for (let row = 0; row < nodes; row++) {
      const b = B[row * n + j] as number;
      G[row * nodes + from] = (G[row * nodes + from] as number) + b;
      G[row * nodes + to] = (G[row * nodes + to] as number) - b;
    }
  });
  const { C, ofPairs, values } = acrossOf(net, G, pairs);
  const CY = new Float64Array(n * n);
  const Q = Y.slice();
  // Y C Y is symmetric: its lower half is enough
  const less = (out: Float64Array, i: number, x: number, of: Float64Array, k: number, to: number): void => {
    for (let j = 0, o = i * n, r = k * n; j < to; j++, o++, r++) out[o] = (out[o] as number) - x * (of[r] as number);
  };
  for (let i = 0; i < n; i++) for (let k = 0; k < n; k++) less(CY, i, -(C[i * n + k] as number), Y, k, n);
  for (let i = 0; i < n; i++) for (let k = 0; k < n; k++) less(Q, i, Y[i * n + k] as number, CY, k, i + 1);
  for (let i = 0; i < n; i++) for (let j = 0; j < i; j++) Q[j * n + i] = Q[i * n + j] as number;
  const rows = Array.from({ length: n }, (_, i) => Q.subarray(i * n, i * n + n));
  return {
    answer: (i, j) => Q[i * n + j] as number,
    across: (i, j) => C[i * n + j] as number,
    driven: (i, j) => Number(i === j) - (CY[i * n + j] as number),
    flows: ofPairs.map((across) =>
      Float64Array.from({ length: n }, (_, i) => dot(Y.subarray(i * n, i * n + n), across)),
    ),
    linked: ofPairs,
    values,
    scale: Math.max(...net.inverseInductance.map((row, i) => row[i] ?? 0)),
    drivenAt: (g, v) => dot(rows[g] as Float64Array, v),
    square: (v) => {
      let sum = 0;
      for (let i = 0; i < n; i++) {
        const own = v[i] as number;
        let below = 0;
        for (let j = 0, at = i * n; j < i; j++, at++) below += (Q[at] as number) * (v[j] as number);
        sum += own * (2 * below + own * (Q[i * n + i] as number));
      }
      return sum;
    },
  };
}
