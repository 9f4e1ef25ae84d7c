import { limit, quoteLimit, type ShopLimits } from '../limits/limits.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { notAbove, type Judged } from '../verdict.ts';
import { polar, sizeOf, subtract, type Complex } from '../winding/complex.ts';
import { complexReadings, ZERO, type BalanceEntry } from './entries.ts';
import { agrees, conditionOf, influenceOf, responseOf, type Influence } from './influence.ts';
import { complexOf } from './planes.ts';
import type { BalanceSetUp } from './setUp.ts';

type Trial = Extract<BalanceEntry, { kind: 'trial' }>;
/** The influence of the planes; or what is to be done until it is known. */
export type Known =
  | { influence: Influence; condition: number | undefined; stored: boolean }
  | { waits: 'trial 1' | 'trial 2'; reason: string; condition?: number };

/** What the planes do at the bearings: told by a stand that separates them, by trial runs, or by a stored set that one trial confirms. */
export function influenceKnown(
  setUp: BalanceSetUp,
  entries: readonly BalanceEntry[],
  v0: readonly Complex[],
  notes: Judged[],
  limits: ShopLimits,
): Known {
  const planes = setUp.planes.length;
  if (setUp.readings === 'unbalance per plane') {
    judgeStand(setUp, entries, v0, notes, limits);
    return {
      influence: setUp.planes.map((_, i) => setUp.planes.map((__, k) => (i === k ? { re: 1, im: 0 } : ZERO))),
      condition: undefined,
      stored: false,
    };
  }
  const trials = setUp.planes.map((_, k) =>
    entries.findLast((e): e is Trial => e.kind === 'trial' && e.plane === k + 1),
  );
  const read = (t: Trial) => ({ readings: complexReadings(setUp, t.readings), trial: polar(t.gMm, t.angleDeg) });
  trials.forEach((t, k) => {
    if (t) judgeResponse(setUp, entries, t, k, v0, notes, limits);
  });
  const missing = trials.findIndex((t) => t === undefined);
  const stored = setUp.stored?.influence.map((row) => row.map(complexOf));
  if (stored && missing >= 0) {
    const [tried] = trials.flatMap((t, k) => (t ? [{ k, t: read(t) }] : []));
    if (!tried)
      return {
        waits: 'trial 1',
        reason: `One trial in either plane shows whether the stored set still holds (${setUp.stored?.from}).`,
      };
    const own = influenceOf(v0, [tried.t]);
    const off = own.map((row, i) => responseOf(stored[i]?.[tried.k] ?? ZERO, row[0] ?? ZERO));
    const holds = own.every((row, i) =>
      agrees(
        stored[i]?.[tried.k] ?? ZERO,
        row[0] ?? ZERO,
        limit('balance.storedPercent', limits),
        limit('balance.storedDeg', limits),
      ),
    );
    if (holds) return judged(stored, planes, notes, limits, true);
    const [percent, deg] = [Math.max(...off.map((o) => o.percent)), Math.max(...off.map((o) => o.deg))];
    notes.push({
      verdict: 'attention',
      reason: `The stored set does not hold any more: the trial strays from it by ${formatNumber(percent, 3)} % and ${formatNumber(deg, 3)}°; within ${quoteLimit('balance.storedPercent', limits)} and ${quoteLimit('balance.storedDeg', limits)} is wanted. The other plane is tried too.`,
    });
  }
  if (missing >= 0)
    return {
      waits: missing === 0 ? 'trial 1' : 'trial 2',
      reason: `Fix a trial mass in plane ${missing + 1}, spin and enter the reading.`,
    };
  const runs = trials.flatMap((t) => (t ? [read(t)] : []));
  return judged(influenceOf(v0, runs, trials[0]?.staysIn === true && planes === 2), planes, notes, limits, false);
}

/** A stand that separates the planes, checked with a known mass: it shows it in its plane, at its angle, and little in the other. */
function judgeStand(
  setUp: BalanceSetUp,
  entries: readonly BalanceEntry[],
  v0: readonly Complex[],
  notes: Judged[],
  limits: ShopLimits,
): void {
  const check = entries.findLast((e): e is Trial => e.kind === 'trial');
  if (!check) return;
  const most = limit('balance.standPercent', limits);
  const shown = complexReadings(setUp, check.readings).map((z, i) => subtract(z, v0[i] ?? ZERO));
  const off = setUp.planes.map((_, i) => {
    const meant = i === check.plane - 1 ? polar(check.gMm, check.angleDeg) : ZERO;
    return (100 * sizeOf(subtract(shown[i] ?? ZERO, meant))) / check.gMm;
  });
  const worst = Math.max(...off);
  if (notAbove(worst, most)) return;
  notes.push({
    verdict: 'cannot judge',
    reason: `The stand does not show the known mass: ${formatAgainst(worst, most)[0]} % of it is shown elsewhere, otherwise or not at all; within ${quoteLimit('balance.standPercent', limits)}. Its planes, its calibration or the angle sense are set wrong.`,
  });
}

/** Whether a trial altered a bearing enough to be believed. */
function judgeResponse(
  setUp: BalanceSetUp,
  entries: readonly BalanceEntry[],
  t: Trial,
  k: number,
  v0: readonly Complex[],
  notes: Judged[],
  limits: ShopLimits,
): void {
  const first = entries.findLast((e): e is Trial => e.kind === 'trial' && e.plane === 1);
  const before = k === 1 && first?.staysIn ? complexReadings(setUp, first.readings) : v0;
  const best = complexReadings(setUp, t.readings).map((r, i) => responseOf(before[i] ?? ZERO, r));
  const [percent, deg] = [Math.max(...best.map((r) => r.percent)), Math.max(...best.map((r) => r.deg))];
  if (percent < limit('balance.trialMinPercent', limits) && deg < limit('balance.trialMinDeg', limits))
    notes.push({
      verdict: 'attention',
      reason: `The trial in plane ${k + 1} altered the amplitude by ${formatNumber(percent, 2)} % and the phase by ${formatNumber(deg, 2)}°; ${quoteLimit('balance.trialMinPercent', limits)} or ${quoteLimit('balance.trialMinDeg', limits)} is wanted. Take a larger one.`,
    });
}

function judged(influence: Influence, planes: number, notes: Judged[], limits: ShopLimits, stored: boolean): Known {
  const condition = conditionOf(influence);
  if (planes === 2) {
    const [most, attention] = [limit('balance.conditionMost', limits), limit('balance.conditionAttention', limits)];
    if (!notAbove(condition, most))
      return {
        waits: 'trial 1',
        reason: `The two planes cannot be told apart: condition ${Number.isFinite(condition) ? formatAgainst(condition, most)[0] : 'without end'}, at most ${quoteLimit('balance.conditionMost', limits)}. Take planes or pick-ups further apart, or larger trials.`,
        condition,
      };
    if (!notAbove(condition, attention))
      notes.push({
        verdict: 'attention',
        reason: `The planes are hard to tell apart: condition ${formatAgainst(condition, attention)[0]}, above ${quoteLimit('balance.conditionAttention', limits)}. Small errors grow.`,
      });
  }
  return { influence, condition, stored };
}

/** Why an influence set of another balance is none of this one: stand, speed, planes, bearings. Undefined where it may be tried. */
export function storedMisfit(
  of: { setUp: BalanceSetUp; stand: string },
  now: { setUp: BalanceSetUp; stand: string },
): string | undefined {
  const near = (a: number, b: number, within: number) => Math.abs(a - b) <= within;
  const [was, is] = [of.setUp, now.setUp];
  if (of.stand.trim().toLowerCase() !== now.stand.trim().toLowerCase())
    return `it was made on ${of.stand.trim() || 'a stand that is not named'}`;
  if (!near(was.balancingRpm, is.balancingRpm, 0.02 * is.balancingRpm))
    return `it was made at ${formatNumber(was.balancingRpm)} r/min`;
  if (was.readings !== is.readings) return 'the stand shows something else';
  if (was.planes.length !== is.planes.length) return 'it has other planes';
  const moved = [
    ...was.planes.map((p, i) => [p.xMm, is.planes[i]?.xMm ?? NaN] as const),
    [was.bearingAMm, is.bearingAMm] as const,
    [was.bearingBMm, is.bearingBMm] as const,
  ];
  if (moved.some(([a, b]) => !near(a, b, 0.01 * Math.abs(is.bearingBMm - is.bearingAMm))))
    return 'its planes or bearings stand elsewhere';
  if (!near(was.massKg, is.massKg, 0.05 * is.massKg)) return `its rotor had ${formatNumber(was.massKg, 3)} kg`;
  return undefined;
}
