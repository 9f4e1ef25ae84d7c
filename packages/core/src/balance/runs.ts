import { limit, quoteLimit, type ShopLimits } from '../limits/limits.ts';
import { formatNumber } from '../quantity/format.ts';
import { notAbove, type Judged } from '../verdict.ts';
import { add, polar, type Complex } from '../winding/complex.ts';
import { complexReadings, ZERO, type BalanceEntry } from './entries.ts';
import { correctionsFor, meanOf, responseOf, type Influence } from './influence.ts';
import { vectorOf, type Vector } from './planes.ts';
import type { BalanceSetUp } from './setUp.ts';
import { combined } from './testMass.ts';

/** The first run, and those that repeat it with the rotor as it was. */
export function repeatsOf(entries: readonly BalanceEntry[], firstIndex: number, setUp: BalanceSetUp) {
  const alike: Complex[][] = [];
  for (const e of entries.slice(firstIndex)) {
    if (e.kind !== 'run' || (alike.length > 0 && !e.repeat)) break;
    alike.push(complexReadings(setUp, e.readings));
  }
  const sensors = alike[0]?.length ?? 0;
  const each = Array.from({ length: sensors }, (_, i) => meanOf(alike.map((r) => r[i] ?? ZERO)));
  return {
    count: alike.length,
    mean: each.map((m) => m.mean),
    each: alike,
    scatterGMm: (a: Influence): number => {
      if (alike.length < 2) return 0;
      const u = alike.map((r) => correctionsFor(a, r) ?? []);
      return Math.max(
        0,
        ...[0, 1].map((k) => (u.every((x) => x[k]) ? meanOf(u.map((x) => x[k] as Complex)).scatter : 0)),
      );
    },
  };
}
export function judgeRepeat({ mean, each }: ReturnType<typeof repeatsOf>, notes: Judged[], limits: ShopLimits): void {
  for (const run of each)
    for (const [i, v] of run.entries()) {
      const { percent, deg } = responseOf(mean[i] ?? ZERO, v);
      if (
        !notAbove(percent, limit('balance.repeatPercent', limits)) ||
        !notAbove(deg, limit('balance.repeatDeg', limits))
      ) {
        notes.push({
          verdict: 'cannot judge',
          reason: `The same rotor does not read the same: ${formatNumber(percent, 2)} % and ${formatNumber(deg, 2)}° from the mean; within ${quoteLimit('balance.repeatPercent', limits)} and ${quoteLimit('balance.repeatDeg', limits)}. Look for what is loose before it is balanced.`,
        });
        return;
      }
    }
}
export function speedNotes(
  setUp: BalanceSetUp,
  entries: readonly BalanceEntry[],
  notes: Judged[],
  limits: ShopLimits,
): void {
  for (const e of entries) {
    if ((e.kind !== 'run' && e.kind !== 'trial') || e.rpm === undefined) continue;
    const off = 100 * Math.abs(e.rpm / setUp.balancingRpm - 1);
    if (!notAbove(off, limit('balance.speedPercent', limits))) {
      notes.push({
        verdict: 'cannot judge',
        reason: `A run at ${formatNumber(e.rpm)} r/min is no run of this balance at ${formatNumber(setUp.balancingRpm)} r/min: within ${quoteLimit('balance.speedPercent', limits)}.`,
      });
      return;
    }
  }
}
/** The first run and the first after each correction; of repeats the last counts. */
export function runsAfter(
  entries: readonly BalanceEntry[],
  firstIndex: number,
): Extract<BalanceEntry, { kind: 'run' }>[] {
  const out: Extract<BalanceEntry, { kind: 'run' }>[] = [];
  let fresh = true;
  for (const e of entries.slice(firstIndex)) {
    if (e.kind === 'correction') fresh = true;
    else if (e.kind === 'run') {
      if (fresh) out.push(e);
      else if (out.length > 1) out[out.length - 1] = e;
      fresh = false;
    }
  }
  return out;
}
/** Steps that better nothing: look for what is loose, or for a resonance. */
export function stopNotes(
  history: readonly { reductionPercent: number | undefined }[],
  notes: Judged[],
  limits: ShopLimits,
): void {
  const last = history.at(-1)?.reductionPercent;
  if (last !== undefined && !(last >= limit('balance.stepPercent', limits)))
    notes.push({
      verdict: 'attention',
      reason: `The last step took away ${formatNumber(last, 3)} %; ${quoteLimit('balance.stepPercent', limits)} or more is wanted. Mass at a wrong place, angle sense mixed, something loose, or a resonance.`,
    });
  if (history.length > MOST_STEPS + 1)
    notes.push({
      verdict: 'cannot judge',
      reason: `${MOST_STEPS} corrections and not inside: stop, and look for the cause.`,
    });
}
const MOST_STEPS = 3;

/** What stands in the rotor when the next mass is fixed: trials that stayed in are part of it, until a later run has read them. */
export function withTrials(entries: readonly BalanceEntry[], heavy: readonly Complex[], runs: number): Complex[] {
  if (runs > 1) return [...heavy];
  return heavy.map((z, i) =>
    entries.reduce(
      (s, e) => (e.kind === 'trial' && e.staysIn && e.plane === i + 1 ? add(s, polar(e.gMm, e.angleDeg)) : s),
      z,
    ),
  );
}

/** Masses that were fixed in each plane, together; undefined where there are none. */
export function massesIn(setUp: BalanceSetUp, entries: readonly BalanceEntry[]): (Vector | undefined)[] {
  return setUp.planes.map((_, i) => {
    const own = [
      ...entries.flatMap((e) => (e.kind === 'correction' ? e.masses.filter((m) => m.plane === i + 1) : [])),
      ...entries.flatMap((e) =>
        e.kind === 'trial' && e.staysIn && e.plane === i + 1
          ? [{ massG: e.gMm, radiusMm: 1, angleDeg: e.angleDeg }]
          : [],
      ),
    ];
    return own.length === 0 ? undefined : vectorOf(combined(own));
  });
}
