import type { Connection } from '../winding/connection.ts';
import type { Coil, Layout } from '../winding/layoutTypes.ts';
import { jointsOf } from './joints.ts';
import type { Mistake } from './mistakes.ts';
import { LEAKAGE_SHARE, leadPairs, networkOf, windingFunctions } from './network.ts';
import { solve } from './solve.ts';
import { dot, solvedByInductance, solvedByResistance, type Solved } from './solvedNetwork.ts';

/** What three line leads show of a winding. */
export interface Look {
  /** T1-T2, T2-T3, T3-T1, in units of one turn's resistance; Infinity = open */
  resistance: number[];
  /** by pair: inductance of the ideal gap with leakage; Infinity = open */
  inductance: number[];
  /** T1, T2, T3: magnetizing current at balanced voltage, in units of V/ωL */
  current: number[];
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
  const own = solved.answer(g, g);
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
  const R = solvedByResistance(net, pairs);
  const I = solvedByInductance(net, pairs);
  const { linked, answer: Q } = I;
  const QL = (i: number, j: number): number => I.driven(j, i);
  const LQLlessL = (i: number, j: number): number => -I.across(i, j);
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
    const own = 1 / more + R.answer(g, g);
    return R.values.map((value, p) => left(value, (R.flows[p]?.[g] ?? 0) ** 2 / own));
  };
  const exchanged = (a: number, b: number): Pick<Look, 'resistance' | 'inductance'> => {
    const u = (m: (i: number, j: number) => number) => m(a, a) - m(a, b) - m(b, a) + m(b, b);
    const inductance = changedByTwo(I, [u(Q), u(QL) - 1, u(LQLlessL)], (p) => {
      const [i, flux] = [I.flows[p] ?? [], linked[p] ?? []];
      return [(i[a] ?? 0) - (i[b] ?? 0), (flux[a] ?? 0) - (flux[b] ?? 0)];
    });
    const more = (ohm[b] ?? 0) - (ohm[a] ?? 0);
    if (more === 0) return { resistance: R.values, inductance };
    const q = R.answer;
    return {
      inductance,
      resistance: changedByTwo(R, [q(a, a) + 1 / more, q(a, b), q(b, b) - 1 / more], (p) => [
        R.flows[p]?.[a] ?? 0,
        R.flows[p]?.[b] ?? 0,
      ]),
    };
  };
  const S = layout.slots;
  const n = layout.groups.length;
  // the functions have no mean: what a coil shares with one lies between its sides, the difference of two running sums
  const functions = windingFunctions(layout);
  const runs = layout.groups.map((group) => {
    const run = new Float64Array(S + 1);
    (functions.get(group.number) as Float64Array).forEach((x, s) => (run[s + 1] = (run[s] as number) + x / S));
    return run;
  });
  interface Shared {
    own: number;
    /** what the coil shares with its group, what that drives there and in all, and what each pair's ampere links with it */
    self: number;
    drivenHere: number;
    both: number;
    linked: number[];
  }
  const shares = new Float64Array(n);
  const sharedOf = (g: number, { goSlot, returnSlot, turns }: Coil): Shared => {
    const spans = (returnSlot - goSlot + S) % S;
    for (let h = 0; h < n; h++) {
      const run = runs[h] as Float64Array;
      shares[h] = turns * ((run[returnSlot - 1] as number) - (run[goSlot - 1] as number));
    }
    return {
      own: (turns * turns * (spans - (spans * spans) / S)) / S,
      self: shares[g] ?? 0,
      drivenHere: I.drivenAt(g, shares),
      both: I.square(shares),
      linked: I.flows.map((i) => dot(shares, i)),
    };
  };
  // turned and left out, a coil shares the same
  const sharedBy = new Map<Coil, Shared>();
  /** A coil of a group that counts (1 − k) times: w = −k · shares + `more` in the group's own place is half the change of its row of L. */
  const coilRecounted = (g: number, coil: Coil, k: number): number[] => {
    let shared = sharedBy.get(coil);
    if (!shared) sharedBy.set(coil, (shared = sharedOf(g, coil)));
    const { own, self, drivenHere, both, linked } = shared;
    const more = ((1 + LEAKAGE_SHARE) * (k * k * own - 2 * k * self)) / 2 + k * self;
    const Qgg = Q(g, g);
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
