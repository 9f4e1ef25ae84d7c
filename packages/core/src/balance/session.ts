import { limit, quoteLimit, type ShopLimits } from '../limits/limits.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { combineVerdicts, notAbove, type Judged, type Verdict } from '../verdict.ts';
import { polar, scale, sizeOf, type Complex } from '../winding/complex.ts';
import { complexReadings, places, ZERO, type BalanceEntry } from './entries.ts';
import { conditionOf, correctionsFor, influenceOf, responseOf, type Influence } from './influence.ts';
import { expectedAfter, nextStep, type PlaneStep } from './nextStep.ts';
import { atBearings, vectorOf, type Vector } from './planes.ts';
import { judgeRepeat, massesIn, repeatsOf, runsAfter, speedNotes, stopNotes, withTrials } from './runs.ts';
import { judgeSetUp, toleranceOf, type BalanceSetUp, type BalanceTolerance } from './setUp.ts';

export const BALANCE_STAGES = ['refused', 'first run', 'trial 1', 'trial 2', 'correct', 'check run', 'done'] as const;
export type BalanceStage = (typeof BALANCE_STAGES)[number];

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
  /** share of the tolerance that is expected to stay after the next step */
  expected: number | undefined;
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
  const planes = setUp.planes.length;
  const direct = setUp.readings === 'unbalance per plane';
  const notes: Judged[] = [];
  const firstIndex = entries.findIndex((e) => e.kind === 'run');
  const first = entries[firstIndex];
  const trials = [1, 2].slice(0, planes).map((k) => entries.findLast((e) => e.kind === 'trial' && e.plane === k));
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
  let a: Influence | undefined;
  let condition: number | undefined;
  if (direct)
    a = [0, 1].slice(0, planes).map((i) => [0, 1].slice(0, planes).map((k) => (i === k ? { re: 1, im: 0 } : ZERO)));
  else {
    const missing = trials.findIndex((t) => t === undefined);
    if (missing >= 0)
      return waits(
        missing === 0 ? 'trial 1' : 'trial 2',
        `Fix a trial mass in plane ${missing + 1}, spin and enter the reading.`,
      );
    const runs = trials.flatMap((t) =>
      t?.kind === 'trial' ? [{ readings: complexReadings(setUp, t.readings), trial: polar(t.gMm, t.angleDeg) }] : [],
    );
    const stays = trials[0]?.kind === 'trial' && trials[0].staysIn && planes === 2;
    runs.forEach(({ readings }, k) => {
      const before = stays && k === 1 ? (runs[0]?.readings ?? v0) : v0;
      const best = readings.map((r, i) => responseOf(before[i] ?? ZERO, r));
      const [percent, deg] = [Math.max(...best.map((r) => r.percent)), Math.max(...best.map((r) => r.deg))];
      if (percent < own('balance.trialMinPercent') && deg < own('balance.trialMinDeg'))
        notes.push({
          verdict: 'attention',
          reason: `The trial in plane ${k + 1} altered the amplitude by ${formatNumber(percent, 2)} % and the phase by ${formatNumber(deg, 2)}°; ${quoteLimit('balance.trialMinPercent', limits)} or ${quoteLimit('balance.trialMinDeg', limits)} is wanted. Take a larger one.`,
        });
    });
    a = influenceOf(v0, runs, stays);
    condition = conditionOf(a);
    if (planes === 2) {
      if (!notAbove(condition, own('balance.conditionMost')))
        return {
          ...waits(
            'trial 1',
            `The two planes cannot be told apart: condition ${Number.isFinite(condition) ? formatAgainst(condition, own('balance.conditionMost'))[0] : 'without end'}, at most ${quoteLimit('balance.conditionMost', limits)}. Take planes or pick-ups further apart, or larger trials.`,
          ),
          condition,
        };
      if (!notAbove(condition, own('balance.conditionAttention')))
        notes.push({
          verdict: 'attention',
          reason: `The planes are hard to tell apart: condition ${formatAgainst(condition, own('balance.conditionAttention'))[0]}, above ${quoteLimit('balance.conditionAttention', limits)}. Small errors grow.`,
        });
    }
  }
  const influence = a;
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
  const left = seen.at(-1) as Complex[];
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
  const inside = bearings.every((b) => b.verdict === 'pass');
  stopNotes(history, notes, limits);
  const lastKind = entries.findLast((e) => e.kind !== 'trial')?.kind;
  const afterCorrection = lastKind === 'correction';
  const common = {
    tolerance,
    standing,
    notes,
    influence: direct ? undefined : influence.map((row) => row.map(vectorOf)),
    condition,
    unbalance: left.map(vectorOf),
    bearings,
    history,
    inPlanes: massesIn(setUp, entries),
  };
  if (afterCorrection)
    return {
      ...common,
      stage: 'check run',
      next: undefined,
      expected: expectedAfter(setUp, entries, influence, withTrials(entries, left, told.length), tolerance, geometry),
      verdict: 'cannot judge',
      reason: 'Spin it again and enter the reading: the residual decides.',
    };
  const said = bearings.map((b, i) => {
    const [x, y] = formatAgainst(b.gMm, b.allowedGMm, 4);
    return `Bearing ${i === 0 ? 'A' : 'B'} ${x} g·mm of ${y} g·mm`;
  });
  const grade = `G ${setUp.grade} at ${formatNumber(setUp.serviceRpm)} r/min${tolerance.countsGMm < tolerance.permissibleGMm ? ', and the stricter figure of its own' : ''} (ISO 21940-11)`;
  if (inside)
    return {
      ...common,
      stage: 'done',
      next: undefined,
      expected: undefined,
      ...closing(
        notes,
        'pass',
        `${said.join(', ')}: ${grade}.${history.length === 1 ? ' As found; no correction is needed.' : ''}`,
      ),
    };
  const step = nextStep(
    setUp,
    withTrials(entries, left, told.length),
    tolerance,
    geometry,
    own('balance.splitEnough') / 100,
  );
  const near = bearings.every((b) => b.verdict !== 'fail');
  return {
    ...common,
    stage: 'correct',
    ...step,
    ...closing(
      notes,
      near ? 'attention' : 'fail',
      `${said.join(', ')}: ${near ? `within the uncertainty of ${formatNumber(u, 3)} g·mm round the limit, ` : 'above it, '}${grade}.`,
    ),
  };
}

/** The verdict with what else there is to say; a note never makes it better. */
function closing(notes: readonly Judged[], verdict: Verdict, reason: string): { verdict: Verdict; reason: string } {
  const all = combineVerdicts([verdict, ...notes.map((n) => n.verdict)]);
  return { verdict: all, reason: [reason, ...notes.map((n) => n.reason)].join(' ') };
}
