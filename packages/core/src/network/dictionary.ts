import type { Connection } from '../winding/connection.ts';
import type { Coil, Layout } from '../winding/layoutTypes.ts';
import { jointsOf } from './joints.ts';
import type { Mistake } from './mistakes.ts';
import { LEAKAGE_SHARE, leadPairs, networkOf, windingFunctions, type Network } from './network.ts';
import { solve } from './solve.ts';

/** What three line leads show of a winding. */
export interface Look {
  /** T1-T2, T2-T3, T3-T1, in units of one turn's resistance; Infinity = open */
  resistance: number[];
  /** by pair: inductance of the ideal gap with leakage; Infinity = open */
  inductance: number[];
  /** T1, T2, T3: magnetizing current at balanced voltage, in units of V/ωL */
  current: number[];
}

// one kind of row all through: mixed with plain arrays the inner loops are ten times as slow
type Row = Float64Array;
type Matrix = readonly Row[];
const rowOf = (length: number, f: (i: number) => number): Row => {
  const row = new Float64Array(length);
  for (let i = 0; i < length; i++) row[i] = f(i);
  return row;
};
const dot = (a: Row, b: Row): number => {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += (a[i] as number) * (b[i] as number);
  return sum;
};
const times = (a: Matrix, b: Matrix): Float64Array[] => {
  const width = b[0]?.length ?? 0;
  return a.map((row) => {
    const out = new Float64Array(width);
    for (let k = 0; k < row.length; k++) {
      const x = row[k] as number;
      if (x === 0) continue;
      const other = b[k] as Row;
      for (let j = 0; j < width; j++) out[j] = (out[j] as number) + x * (other[j] as number);
    }
    return out;
  });
};

/**
 * The currents that a network answers with: `answer` Q takes a voltage in each group to the currents it drives, `flows` are the
 * currents of one ampere from lead to lead, `values` what the pairs read. Solved once; a change ΔZ = U S Uᵀ of the branch
 * matrix alters a reading by vᵀ (S⁻¹ + Uᵀ Q U)⁻¹ v with v = Uᵀ i (docs/derivations.md 26).
 */
interface Solved {
  answer: Row[];
  flows: Row[];
  values: number[];
  /** the largest own answer of a group: what is nought beside it is nought */
  scale: number;
}

function solvedOnce(
  net: Network,
  of: readonly (readonly number[])[],
  pairs: readonly (readonly [string, string])[],
): Solved {
  const branches = net.branches;
  const admittance = of.map((row) => new Float64Array(row));
  // B = A Y: what a voltage in a group drives into the nodes
  const nodes = net.meets.length;
  const B = Array.from({ length: nodes }, () => new Float64Array(branches.length));
  branches.forEach(({ from, to }, i) => {
    const [plus, minus, y] = [B[from] as Row, B[to] as Row, admittance[i] as Row];
    for (let j = 0; j < branches.length; j++) {
      plus[j] = (plus[j] as number) + (y[j] as number);
      minus[j] = (minus[j] as number) - (y[j] as number);
    }
  });
  const G = B.map((row) => {
    const out = new Array<number>(nodes).fill(0);
    branches.forEach(({ from, to }, j) => {
      out[from] = (out[from] ?? 0) + (row[j] ?? 0);
      out[to] = (out[to] ?? 0) - (row[j] ?? 0);
    });
    return out;
  });
  const ends = pairs.map(([a, b]) => [net.nodeOf.get(a), net.nodeOf.get(b)] as const);
  const K = solve(
    G,
    B.map((row, i) => {
      const right = new Float64Array(branches.length + ends.length);
      right.set(row);
      ends.forEach(([p, q], k) => {
        if (p !== q) right[branches.length + k] = Number(i === p) - Number(i === q);
      });
      return right;
    }),
  );
  const across = branches.map(({ from, to }) => {
    const across = new Float64Array(K[from] ?? []);
    const minus = K[to] as number[];
    for (let j = 0; j < across.length; j++) across[j] = (across[j] as number) - (minus[j] as number);
    return across;
  });
  const driven = times(admittance, across);
  const n = branches.length;
  return {
    answer: admittance.map((row, i) => {
      const back = driven[i] as Row;
      const answer = row.slice();
      for (let j = 0; j < n; j++) answer[j] = (answer[j] as number) - (back[j] as number);
      return answer;
    }),
    flows: pairs.map((_, k) => rowOf(n, (i) => driven[i]?.[n + k] ?? 0)),
    values: ends.map(([p, q], k) => (p === q ? 0 : (K[p ?? -1]?.[n + k] ?? 0) - (K[q ?? -1]?.[n + k] ?? 0))),
    scale: Math.max(...admittance.map((row, i) => row[i] ?? 0)),
  };
}

/** What is left when a reading is taken to nothing is nothing: the pair is shorted. */
const left = (before: number, more: number): number =>
  Math.abs(before + more) < 1e-9 * Math.abs(before) ? 0 : before + more;

/** Readings after a change: vᵀ M⁻¹ v more, by pair. */
const changedBy = (solved: Solved, M: readonly (readonly number[])[], v: readonly (readonly number[])[]): number[] => {
  const x = solve(M, v[0] ? M.map((_, i) => v.map((of) => of[i] ?? 0)) : []);
  return solved.values.map((value, k) =>
    left(
      value,
      x.reduce((sum, row, i) => sum + (row[k] ?? 0) * (v[k]?.[i] ?? 0), 0),
    ),
  );
};

/** The same for two columns, written out: M = [[a, b], [b, d]]. */
const changedByTwo = (
  solved: Solved,
  [a, b, d]: readonly [number, number, number],
  v: (pair: number) => readonly [number, number],
): number[] => {
  const det = a * d - b * b;
  if (Math.abs(det) <= 1e-12 * (Math.abs(a * d) + b * b))
    return changedBy(
      solved,
      [
        [a, b],
        [b, d],
      ],
      solved.values.map((_, k) => [...v(k)]),
    );
  return solved.values.map((value, k) => {
    const [x, y] = v(k);
    return left(value, (d * x * x - 2 * b * x * y + a * y * y) / det);
  });
};

/** Readings with no current in one group: infinite where nothing else could carry it. */
const opened = (solved: Solved, g: number): number[] => {
  const own = solved.answer[g]?.[g] ?? 0;
  return solved.values.map((value, k) => {
    const i = solved.flows[k]?.[g] ?? 0;
    if (Math.abs(own) > 1e-9 * solved.scale) return value + (i * i) / own;
    return Math.abs(i) > 1e-9 ? Infinity : value;
  });
};

/** Line currents of three leads at balanced voltage, from what the three pairs read: the star that reads the same. */
export function currentsOf(pairs: readonly number[]): number[] {
  const [ab = 0, bc = 0, ca = 0] = pairs;
  const closed = pairs.filter((x) => Number.isFinite(x));
  if (closed.length === 0) return [0, 0, 0];
  // one lead hangs loose: the other two are fed as one phase
  if (closed.length === 1) {
    const current = Math.sqrt(3) / (closed[0] ?? 0);
    return [Number.isFinite(bc) ? 0 : current, Number.isFinite(ca) ? 0 : current, Number.isFinite(ab) ? 0 : current];
  }
  if (pairs.includes(0)) return [Infinity, Infinity, Infinity];
  const arm = [(ab + ca - bc) / 2, (ab + bc - ca) / 2, (bc + ca - ab) / 2] as const;
  const all = arm[0] * arm[1] + arm[1] * arm[2] + arm[2] * arm[0];
  // |V₁(s₂ + s₃) − V₂ s₃ − V₃ s₂| with voltages a third of a turn apart is √3 √(s₂² + s₂ s₃ + s₃²)
  return [0, 1, 2].map((k) => {
    const [s, t] = [arm[(k + 1) % 3] ?? 0, arm[(k + 2) % 3] ?? 0];
    return Math.sqrt(3 * (s * s + s * t + t * t)) / Math.abs(all);
  });
}

/**
 * What every one of these single mistakes shows, from the network as drawn solved once for resistance and once for inductance.
 * @param mistakes of this connection; groups, coils and circuits as `singleMistakes` and `coilMistakes` name them
 */
export function looksOf(layout: Layout, connection: Connection, mistakes: readonly Mistake[]): Look[] {
  const net = networkOf(layout, jointsOf(connection));
  const pairs = leadPairs(net);
  const ohm = net.branches.map((b) => b.ohm);
  // groups with turns carry resistance; a network without any would have none to read
  const conductance = ohm.map((r, i) => ohm.map((_, j) => (i === j ? 1 / Math.max(1e-9, r) : 0)));
  const R = solvedOnce(net, conductance, pairs);
  const I = solvedOnce(net, net.inverseInductance, pairs);
  const L = net.inductance.map((row) => new Float64Array(row));
  // L and Q are symmetric: column j of Q L is row j of L Q
  const LQ = times(L, I.answer);
  const Q = (i: number, j: number): number => I.answer[i]?.[j] ?? 0;
  const QL = (i: number, j: number): number => LQ[j]?.[i] ?? 0;
  const LQLlessL = (i: number, j: number): number => dot(L[i] as Row, LQ[j] as Row) - (L[i]?.[j] ?? 0);
  const linked = I.flows.map((i) => L.map((row) => dot(row, i)));
  const index = new Map(net.branches.map((b, i) => [b.group, i]));
  const at = (group: number | undefined): number => index.get(group ?? -1) ?? -1;

  /** Groups that count (1 − k) times: k = 2 turned round, k = 1 passed by. */
  const recounted = (groups: readonly number[], k: number): number[] => {
    const [g, ...others] = groups;
    if (g !== undefined && others.length === 0)
      return changedByTwo(I, [Q(g, g), QL(g, g) - 1 / k, LQLlessL(g, g)], (p) => [
        I.flows[p]?.[g] ?? 0,
        linked[p]?.[g] ?? 0,
      ]);
    const M = [
      ...groups.map((g, n) => [...groups.map((j) => Q(g, j)), ...groups.map((j, m) => QL(g, j) - Number(m === n) / k)]),
      ...groups.map((g, n) => [
        ...groups.map((j, m) => QL(j, g) - Number(m === n) / k),
        ...groups.map((j) => LQLlessL(g, j)),
      ]),
    ];
    return changedBy(
      I,
      M,
      I.flows.map((i, p) => [...groups.map((g) => i[g] ?? 0), ...groups.map((g) => linked[p]?.[g] ?? 0)]),
    );
  };
  /** Resistance of a group changed by `ohm`. */
  const resisting = (g: number, more: number): number[] => {
    const own = 1 / more + (R.answer[g]?.[g] ?? 0);
    return R.values.map((value, p) => left(value, (R.flows[p]?.[g] ?? 0) ** 2 / own));
  };
  const exchanged = (a: number, b: number): Pick<Look, 'resistance' | 'inductance'> => {
    const u = (m: (i: number, j: number) => number) => m(a, a) - m(a, b) - m(b, a) + m(b, b);
    const inductance = changedByTwo(I, [u(Q), u(QL) - 1, u(LQLlessL)], (p) => {
      const [i, flux] = [I.flows[p] as Row, linked[p] ?? []];
      return [(i[a] ?? 0) - (i[b] ?? 0), (flux[a] ?? 0) - (flux[b] ?? 0)];
    });
    const more = (ohm[b] ?? 0) - (ohm[a] ?? 0);
    if (more === 0) return { resistance: R.values, inductance };
    const q = (i: number, j: number) => R.answer[i]?.[j] ?? 0;
    return {
      inductance,
      resistance: changedByTwo(R, [q(a, a) + 1 / more, q(a, b), q(b, b) - 1 / more], (p) => [
        R.flows[p]?.[a] ?? 0,
        R.flows[p]?.[b] ?? 0,
      ]),
    };
  };
  const byGroup = windingFunctions(layout);
  const functions = layout.groups.map((group) => byGroup.get(group.number) as Row);
  const S = layout.slots;
  interface Shared {
    own: number;
    /** what the coil shares with each group, what that drives, and what each pair's ampere links with it */
    shares: Row;
    driven: Row;
    both: number;
    linked: number[];
  }
  const sharedOf = ({ goSlot, returnSlot, turns }: Coil): Shared => {
    const spans = (returnSlot - goSlot + S) % S;
    // the functions have no mean, so what the coil shares with one lies between its sides
    const shares = rowOf(layout.groups.length, (h) => {
      const f = functions[h] as Row;
      let sum = 0;
      for (let s = 0; s < spans; s++) sum += f[(goSlot - 1 + s) % S] as number;
      return (turns * sum) / S;
    });
    const driven = rowOf(shares.length, (i) => dot(I.answer[i] as Row, shares));
    return {
      own: (turns * turns * (spans - (spans * spans) / S)) / S,
      shares,
      driven,
      both: dot(shares, driven),
      linked: I.flows.map((i) => dot(shares, i)),
    };
  };
  // turned and left out, a coil shares the same
  const sharedBy = new Map<Coil, Shared>();
  /** A coil of a group that counts (1 − k) times: w = −k · shares + `more` in the group's own place is half the change of its row of L. */
  const coilRecounted = (g: number, coil: Coil, k: number): number[] => {
    let shared = sharedBy.get(coil);
    if (!shared) sharedBy.set(coil, (shared = sharedOf(coil)));
    const { own, shares, driven, both, linked } = shared;
    const self = shares[g] ?? 0;
    const more = ((1 + LEAKAGE_SHARE) * (k * k * own - 2 * k * self)) / 2 + k * self;
    const Qgg = Q(g, g);
    const drivenHere = driven[g] ?? 0;
    const square = k * k * both - 2 * k * more * drivenHere + more * more * Qgg;
    return changedByTwo(I, [Qgg, more * Qgg - k * drivenHere + 1, square], (p) => {
      const i = I.flows[p]?.[g] ?? 0;
      return [i, more * i - k * (linked[p] ?? 0)];
    });
  };

  const readings = (mistake: Mistake): Pick<Look, 'resistance' | 'inductance'> => {
    const groups = mistake.groups.map(at);
    const g = groups[0] ?? -1;
    const coil = layout.coils[(mistake.coil ?? 0) - 1];
    switch (mistake.kind) {
      case 'none':
        return { resistance: R.values, inductance: I.values };
      case 'reversed group':
      case 'phase reversed':
        return { resistance: R.values, inductance: recounted(groups, 2) };
      case 'bypassed group':
        return { resistance: resisting(g, -(ohm[g] ?? 0)), inductance: recounted([g], 1) };
      case 'exchanged groups':
        return exchanged(g, groups[1] ?? -1);
      case 'open circuit':
        return { resistance: opened(R, g), inductance: opened(I, g) };
      case 'coil turned':
        return { resistance: R.values, inductance: coil ? coilRecounted(g, coil, 2) : I.values };
      case 'coil left out':
        return coil
          ? { resistance: resisting(g, -Math.abs(coil.turns)), inductance: coilRecounted(g, coil, 1) }
          : { resistance: R.values, inductance: I.values };
    }
  };
  return mistakes.map((mistake) => {
    const { resistance, inductance } = readings(mistake);
    return { resistance, inductance, current: currentsOf(inductance) };
  });
}
