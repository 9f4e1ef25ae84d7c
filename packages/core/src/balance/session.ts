import { limit, quoteLimit, type ShopLimits } from '../limits/limits.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { combineVerdicts, notAbove, type Judged, type Verdict } from '../verdict.ts';
import { scale, sizeOf, type Complex } from '../winding/complex.ts';
import { doubtOf } from './doubt.ts';
import { complexReadings, places, type BalanceEntry, type FixedMass } from './entries.ts';
import { correctionsFor } from './influence.ts';
import { influenceKnown } from './known.ts';
import { expectedAfter, mergedStep, nextStep, type PlaneStep, type Step } from './nextStep.ts';
import { atBearings, vectorOf, type Vector } from './planes.ts';
import { residualCheck, type ResidualCheck } from './residual.ts';
import { judgeRepeat, massesIn, repeatsOf, runsAfter, speedNotes, stopNotes, withTrials } from './runs.ts';
import {
  judgeSetUp,
  sayUnbalance,
  toleranceOf,
  unbalanceFactor,
  type BalanceSetUp,
  type BalanceTolerance,
} from './setUp.ts';
import { massesAt } from './used.ts';

export const BALANCE_STAGES = ['refused', 'first run', 'trial 1', 'trial 2', 'correct', 'check run', 'done'] as const;
export type BalanceStage = (typeof BALANCE_STAGES)[number];

/** A trim is judged by what the bearings show. */
export interface Level {
  mmS: number;
  allowedMmS: number;
  verdict: Verdict;
}
export interface BalanceNow {
  stage: BalanceStage;
  tolerance: BalanceTolerance;
  /** of the set-up */
  standing: Judged[];
  /** what is to be said of the runs */
  notes: Judged[];
  influence: Vector[][] | undefined;
  condition: number | undefined;
  /** heavy spots of the planes as the last run tells of them */
  unbalance: Vector[] | undefined;
  /** at the bearings, with what is allowed */
  bearings: { gMm: number; angleDeg: number; allowedGMm: number; verdict: Verdict }[] | undefined;
  /** every run told so: how the planes fell */
  history: { planes: Vector[]; bearings: Vector[]; reductionPercent: number | undefined }[];
  next: PlaneStep[] | undefined;
  /** share of the tolerance that is expected to stay after the next step; g·mm at bearing A and B */
  expected: number | undefined;
  expectedGMm: number[] | undefined;
  /** the masses of before taken out and fixed afresh, where there are several */
  merged: (Step & { out: FixedMass[] }) | undefined;
  /** what a moved test mass told of the residual since the last run */
  check: ResidualCheck | undefined;
  /** of a trim: the once-per-turn velocity of bearing A and B */
  levels: Level[] | undefined;
  /** masses that sit in each plane now */
  there: FixedMass[][];
  /** the influence is that of an earlier balance, confirmed by a trial */
  stored: boolean;
  /** masses in each plane together */
  inPlanes: (Vector | undefined)[];
  verdict: Verdict;
  reason: string;
}

/** How a balance stands: what is known of the rotor, what is to be done next, and what is judged. */
export function balanceNow(setUp: BalanceSetUp, entries: readonly BalanceEntry[], limits: ShopLimits = {}): BalanceNow {
  const own = (id: Parameters<typeof limit>[0]): number => limit(id, limits);
  const tolerance = toleranceOf(setUp);
  const standing = judgeSetUp(setUp, limits);
  const geometry = places(setUp);
  const direct = setUp.readings === 'unbalance per plane';
  const there = massesAt(setUp, entries);
  const notes: Judged[] = [];
  const firstIndex = entries.findIndex((e) => e.kind === 'run');
  const first = entries[firstIndex];
  const refused = standing.filter((j) => j.verdict === 'fail' || j.verdict === 'cannot judge');
  const nothing = {
    tolerance,
    standing,
    influence: undefined,
    condition: undefined,
    unbalance: undefined,
    bearings: undefined,
    history: [],
    next: undefined,
    expected: undefined,
    expectedGMm: undefined,
    merged: undefined,
    check: undefined,
    levels: undefined,
    stored: false,
    there,
    inPlanes: massesIn(setUp, entries),
  };
  if (refused.length > 0)
    return {
      ...nothing,
      stage: 'refused',
      notes,
      verdict: combineVerdicts(refused.map((j) => j.verdict)),
      reason: refused.map((j) => j.reason).join(' '),
    };
  const waits = (stage: BalanceStage, reason: string): BalanceNow => ({
    ...nothing,
    stage,
    notes,
    verdict: 'cannot judge',
    reason,
  });
  if (first?.kind !== 'run') return waits('first run', 'Spin it as found and enter the reading.');
  const repeats = repeatsOf(entries, firstIndex, setUp);
  const { mean: v0 } = repeats;
  if (repeats.count > 1) judgeRepeat(repeats, notes, limits);
  speedNotes(setUp, entries, notes, limits);
  const sent = entries.findLast((e) => 'sent' in e && e.sent?.outOfDate);
  if (sent) notes.push({ verdict: 'attention', reason: 'The stand is out of calibration.' });
  const checked = !direct || entries.some((e) => e.kind === 'trial');
  const known = influenceKnown(setUp, entries, v0, notes, limits);
  if ('waits' in known) return { ...waits(known.waits, known.reason), condition: known.condition };
  const { influence, condition } = known;
  // what every run of the rotor as it was told: as found, and after each correction
  const told = runsAfter(entries, firstIndex);
  const heavy = (readings: readonly Complex[]): Complex[] | undefined =>
    correctionsFor(influence, readings)?.map((u) => scale(u, -1));
  const history: BalanceNow['history'] = [];
  const seen: Complex[][] = [];
  for (const run of told) {
    const u = heavy(run === told[0] ? v0 : complexReadings(setUp, run.readings));
    if (!u)
      return {
        ...waits('trial 1', 'The trial mass changed nothing: take a larger one, or look at the pick-up.'),
        condition,
      };
    const before = seen.at(-1);
    const sum = (of: readonly Complex[]) => of.reduce((n, z) => n + sizeOf(z), 0);
    history.push({
      planes: u.map(vectorOf),
      bearings: atBearings(geometry, u).map(vectorOf),
      reductionPercent: before ? 100 * (1 - sum(u) / sum(before)) : undefined,
    });
    seen.push(u);
  }
  const check = residualCheck(setUp, entries, influence, limits);
  if (check) notes.push(...check.judged);
  // a moved mass tells the residual better than a run does
  const left = check?.left ?? (seen.at(-1) as Complex[]);
  const u = setUp.uncertaintyGMm + repeats.scatterGMm(influence);
  const bearings = atBearings(geometry, left).map((z, i) => {
    const allowedGMm = tolerance.sharesGMm[i] ?? 0;
    const gMm = sizeOf(z);
    const verdict: Verdict = notAbove(gMm, allowedGMm - u)
      ? 'pass'
      : notAbove(gMm, allowedGMm + u)
        ? 'attention'
        : 'fail';
    return { gMm, angleDeg: vectorOf(z).angleDeg, allowedGMm, verdict };
  });
  const levels = levelsOf(setUp, told.at(-1));
  const judged = levels ?? bearings;
  const inside = judged.every((b) => b.verdict === 'pass');
  const doubt = doubtOf(setUp, entries, influence, v0);
  if (doubt && !inside) notes.push(doubt);
  // how far a step came describes the step, not what is accepted
  if (!inside) {
    stopNotes(history, notes, limits);
    causeFirst(setUp, left, tolerance, notes, limits);
  }
  const afterCorrection =
    check?.left === undefined &&
    entries.findLast((e) => e.kind === 'run' || e.kind === 'correction')?.kind === 'correction';
  const common = {
    tolerance,
    standing,
    notes,
    influence: direct ? undefined : influence.map((row) => row.map(vectorOf)),
    condition,
    unbalance: left.map(vectorOf),
    bearings,
    history,
    there,
    check,
    levels,
    stored: known.stored,
    inPlanes: massesIn(setUp, entries),
  };
  const heavyNow = check?.left ? left : withTrials(entries, left, told.length);
  if (afterCorrection)
    return {
      ...common,
      stage: 'check run',
      next: undefined,
      merged: undefined,
      ...expectedAfter(setUp, entries, influence, withTrials(entries, left, told.length), tolerance, geometry),
      verdict: 'cannot judge',
      reason: 'Spin it again and enter the reading: the residual decides.',
    };
  const { said, grade, above } = saidOf(setUp, tolerance, bearings, levels, u);
  if (inside)
    return {
      ...common,
      stage: 'done',
      next: undefined,
      merged: undefined,
      expected: undefined,
      expectedGMm: undefined,
      ...closing(
        notes,
        'pass',
        `${said.join(', ')}: ${grade}.${history.length === 1 && massesIn(setUp, entries).every((m) => m === undefined) ? ' As found; no correction is needed.' : ''}${checked ? '' : ' The stand was not checked with a known mass.'}`,
      ),
    };
  const rules = { enough: own('balance.splitEnough') / 100, wallMm: own('balance.wallMm') };
  const step = nextStep(setUp, heavyNow, tolerance, geometry, rules, there);
  usedUp(setUp, step.next, notes);
  const near = judged.every((b) => b.verdict !== 'fail');
  return {
    ...common,
    stage: 'correct',
    ...step,
    merged: mergedStep(setUp, heavyNow, tolerance, geometry, rules, there),
    ...closing(
      notes,
      near ? 'attention' : 'fail',
      `${said.join(', ')}: ${near ? `${above}, ` : 'above it, '}${grade}.`,
    ),
  };
}

/** A trim of the assembled motor: what the last run shows at each bearing against what it may show. */
function levelsOf(setUp: BalanceSetUp, last: Extract<BalanceEntry, { kind: 'run' }> | undefined): Level[] | undefined {
  const { trimMmS } = setUp;
  if (trimMmS === undefined || !last) return undefined;
  return last.readings.map(({ size }) => ({
    mmS: size,
    allowedMmS: trimMmS,
    verdict: notAbove(size, trimMmS) ? 'pass' : 'fail',
  }));
}

function saidOf(
  setUp: BalanceSetUp,
  tolerance: BalanceTolerance,
  bearings: NonNullable<BalanceNow['bearings']>,
  levels: Level[] | undefined,
  u: number,
): { said: string[]; grade: string; above: string } {
  const name = (i: number) => `Bearing ${i === 0 ? 'A' : 'B'}`;
  if (levels)
    return {
      said: levels.map((l, i) => {
        const [x, y] = formatAgainst(l.mmS, l.allowedMmS);
        return `${name(i)} ${x} mm/s of ${y} mm/s rms`;
      }),
      grade: 'once per turn, as stated for this trim',
      above: '',
    };
  const unit = setUp.unbalanceUnit;
  const factor = unbalanceFactor(unit);
  return {
    said: bearings.map((b, i) => {
      const [x, y] = formatAgainst(b.gMm / factor, b.allowedGMm / factor, 4);
      return `${name(i)} ${x} ${unit} of ${y} ${unit}`;
    }),
    grade: `G ${setUp.grade} at ${formatNumber(setUp.serviceRpm)} r/min${tolerance.countsGMm < tolerance.permissibleGMm ? ', and the stricter figure of its own' : ''} (ISO 21940-11)`,
    above: `within the uncertainty of ${sayUnbalance(u, unit, 3)} round the limit`,
  };
}

/** Where the places and the material of a plane do not give what is wanted. */
function usedUp(setUp: BalanceSetUp, next: readonly PlaneStep[], notes: Judged[]): void {
  for (const n of next) {
    const given = Math.hypot(
      n.masses.reduce((s, m) => s + m.gMm * Math.cos((m.angleDeg * Math.PI) / 180), 0),
      n.masses.reduce((s, m) => s + m.gMm * Math.sin((m.angleDeg * Math.PI) / 180), 0),
    );
    if (given < 0.5 * n.wanted.size && (setUp.planes[n.plane - 1]?.way !== 'add' || setUp.stockG.length === 0))
      notes.push({
        verdict: 'attention',
        reason: `Plane ${n.plane} gives no more where it is wanted: take a second radius, or look for the cause (core or winding eccentric).`,
      });
  }
}

/** An unbalance so large that something made it. */
function causeFirst(
  setUp: BalanceSetUp,
  left: readonly Complex[],
  tolerance: BalanceTolerance,
  notes: Judged[],
  limits: ShopLimits,
): void {
  const most = limit('balance.causeFirst', limits);
  left.forEach((z, i) => {
    const times = sizeOf(z) / tolerance.countsGMm;
    if (!notAbove(times, most))
      notes.push({
        verdict: 'attention',
        reason: `Plane ${i + 1} is out by ${formatNumber(times, 3)} times what the whole rotor is allowed, above ${quoteLimit('balance.causeFirst', limits)}: look for the cause first (core or winding eccentric, a mass lost, resin on one side).`,
      });
  });
}

/** The verdict with what else there is to say; a note never makes it better. */
function closing(notes: readonly Judged[], verdict: Verdict, reason: string): { verdict: Verdict; reason: string } {
  const all = combineVerdicts([verdict, ...notes.map((n) => n.verdict)]);
  return { verdict: all, reason: [reason, ...notes.map((n) => n.reason)].join(' ') };
}
