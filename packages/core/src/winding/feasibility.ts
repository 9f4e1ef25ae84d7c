import { gcd } from './integers.ts';
import { layoutOf } from './layout.ts';
import type { Balance } from './layoutTypes.ts';

export interface Feasibility {
  feasible: boolean;
  repeats: number;
  /** slots must be a multiple of this */
  mustDivideBy: number;
  /** slot numbers near these that make three equal phases with the same poles, nearest first */
  nearestSlots: number[];
  /** pole numbers near these that make three equal phases in the same slots, nearest first */
  nearestPoles: number[];
  /** for a core that cannot: the sequence of coils per group that comes closest with equal coils in each phase */
  nearlyBalanced?: { grouping: number[]; balance: Balance; zeroSequencePercent: number };
}

const works = (S: number, P: number): boolean => S % (3 * gcd(S, P / 2)) === 0;

/**
 * Whether S slots and P poles make three equal phases (double layer: S/(3 gcd(S, P/2)) whole), and what would.
 * Source: star of slots (Richter, Ankerwicklungen).
 */
export function feasibilityOf(slots: number, poles: number, spanSlots?: number): Feasibility {
  const t = gcd(slots, poles / 2);
  const feasible = works(slots, poles);
  const near = (at: number, step: number, low: number, high: number, ok: (x: number) => boolean): number[] => {
    const out: number[] = [];
    for (let d = step; out.length < 3 && d <= 48; d += step)
      for (const x of [at - d, at + d]) if (x >= low && x <= high && ok(x)) out.push(x);
    return out.slice(0, 3);
  };
  const base: Feasibility = {
    feasible,
    repeats: t,
    mustDivideBy: 3 * t,
    nearestSlots: feasible ? [] : near(slots, 1, 6, 144, (s) => s >= 3 && works(s, poles)),
    nearestPoles: feasible ? [] : near(poles, 2, 2, 48, (p) => works(slots, p)),
  };
  if (feasible) return base;
  const found = nearlyBalanced(slots, poles, spanSlots ?? Math.max(1, Math.floor(slots / poles)));
  return found ? { ...base, nearlyBalanced: found } : base;
}

/** Sequences made by turning the regular one a little further in each repeat; the one with the least unbalance. */
function nearlyBalanced(
  slots: number,
  poles: number,
  span: number,
): { grouping: number[]; balance: Balance; zeroSequencePercent: number } | undefined {
  const belts = 3 * poles;
  if (slots % 3 !== 0) return undefined;
  const g = gcd(slots, belts);
  const period = belts / g;
  const size = (k: number) => Math.floor(((k + 1) * slots) / belts) - Math.floor((k * slots) / belts);
  const regular = Array.from({ length: period }, (_, k) => size(k));
  let best: { grouping: number[]; balance: Balance; zeroSequencePercent: number } | undefined;
  for (let step = 0; step < period; step++) {
    for (const mirrored of [false, true]) {
      const base = mirrored ? [...regular].reverse() : regular;
      const grouping = Array.from({ length: belts }, (_, k) => {
        const block = Math.floor(k / period);
        return base[(k + block * step) % period] ?? 0;
      });
      const { balance } = layoutOf({
        slots,
        poles,
        layers: 2,
        form: 'lap',
        poleGroups: 'every-pole',
        spanSlots: span,
        grouping,
        turns: [1],
      });
      if (balance.phases.some((p) => p.coils !== balance.phases[0]?.coils)) continue;
      if (!best || balance.negativeSequencePercent < best.balance.negativeSequencePercent - 1e-9)
        best = { grouping, balance, zeroSequencePercent: zeroSequencePercent(balance) };
    }
  }
  return best;
}

/** Zero-sequence part of the phase phasors in per cent of the positive sequence. */
export function zeroSequencePercent(balance: Balance): number {
  let zero = { re: 0, im: 0 };
  let positive = { re: 0, im: 0 };
  balance.phases.forEach((x, i) => {
    const at = (deg: number) => ({
      re: x.size * Math.cos((deg * Math.PI) / 180),
      im: x.size * Math.sin((deg * Math.PI) / 180),
    });
    const a = at(x.angleDeg);
    const b = at(x.angleDeg - 120 * i);
    zero = { re: zero.re + a.re, im: zero.im + a.im };
    positive = { re: positive.re + b.re, im: positive.im + b.im };
  });
  const size = Math.hypot(positive.re, positive.im);
  return size === 0 ? 0 : (100 * Math.hypot(zero.re, zero.im)) / size;
}
