import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';
import { limit, quoteLimit, type ShopLimits } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { combineVerdicts, notAbove, type Judged, type Verdict } from '../verdict.ts';
import { add, polar, scale, sizeOf, subtract, type Complex } from '../winding/complex.ts';
import {
  asLead,
  conditionOf,
  correctionsFor,
  influenceOf,
  meanOf,
  predicted,
  responseOf,
  type Influence,
} from './influence.ts';
import { drillDepth, flatDepth, toothDepth } from './material.ts';
import { atBearings, vectorOf, type Planes, type Vector } from './planes.ts';
import {
  balanceSetUpSchema,
  judgeSetUp,
  toleranceOf,
  type BalancePlane,
  type BalanceSetUp,
  type BalanceTolerance,
} from './setUp.ts';
import { splitLadder, spread, type Place } from './split.ts';
import { combined } from './testMass.ts';

const reading = z.strictObject({ size: z.number().min(0).max(1e7), angleDeg: z.number().min(-360).max(720) });
const massSchema = z.strictObject({
  plane: z.int().min(1).max(2),
  angleDeg: z.number().min(-360).max(720),
  /** added; material that was taken away counts below zero */
  massG: z.number().min(-1e6).max(1e6),
  radiusMm: z.number().positive(),
  place: z.int().min(1).max(360).optional(),
  how: z.string().max(80).default(''),
});
export type FixedMass = z.output<typeof massSchema>;
export const balanceEntrySchema = z.discriminatedUnion('kind', [
  /** bearings A and B, or planes 1 and 2 of a stand that separates them; of one run */
  z.strictObject({
    kind: z.literal('run'),
    readings: z.array(reading).min(1).max(2),
    rpm: z.number().positive().optional(),
    /** the rotor as it was at the last run: how far readings stray */
    repeat: z.boolean().default(false),
  }),
  z.strictObject({
    kind: z.literal('trial'),
    plane: z.int().min(1).max(2),
    gMm: z.number().positive(),
    angleDeg: z.number().min(-360).max(720),
    readings: z.array(reading).min(1).max(2),
    rpm: z.number().positive().optional(),
    staysIn: z.boolean().default(false),
  }),
  z.strictObject({ kind: z.literal('correction'), masses: z.array(massSchema).min(1).max(24) }),
]);
export type BalanceEntry = z.output<typeof balanceEntrySchema>;

export const BALANCE_STAGES = ['refused', 'first run', 'trial 1', 'trial 2', 'correct', 'check run', 'done'] as const;
export type BalanceStage = (typeof BALANCE_STAGES)[number];

/** What is to be fixed or taken away in one plane, in words and as figures. */
export interface PlaneStep {
  plane: number;
  /** to add, g·mm */
  wanted: Vector;
  /** where to do it: opposite the wanted vector where material is taken away */
  atDeg: number;
  masses: { place: number | undefined; angleDeg: number; massG: number; depthMm: number | undefined; gMm: number }[];
  says: string;
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
  /** share of the tolerance that is expected to stay after the next step */
  expected: number | undefined;
  /** masses in each plane together */
  inPlanes: (Vector | undefined)[];
  verdict: Verdict;
  reason: string;
}

const ZERO: Complex = { re: 0, im: 0 };
const places = (s: BalanceSetUp): Planes => ({
  bearingAMm: s.bearingAMm,
  bearingBMm: s.bearingBMm,
  centreMm: s.centreMm,
  planesMm: s.planes.map((p) => p.xMm),
});
const complexReadings = (s: BalanceSetUp, of: readonly Vector[]): Complex[] =>
  of.map((r) => asLead(r.size, r.angleDeg, s.readings === 'unbalance per plane' ? 'lead' : s.phase));

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

/** The first run, and those that repeat it with the rotor as it was. */
function repeatsOf(entries: readonly BalanceEntry[], firstIndex: number, setUp: BalanceSetUp) {
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
function judgeRepeat({ mean, each }: ReturnType<typeof repeatsOf>, notes: Judged[], limits: ShopLimits): void {
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
function speedNotes(setUp: BalanceSetUp, entries: readonly BalanceEntry[], notes: Judged[], limits: ShopLimits): void {
  for (const e of entries) {
    if (e.kind === 'correction' || e.rpm === undefined) continue;
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
function runsAfter(entries: readonly BalanceEntry[], firstIndex: number): Extract<BalanceEntry, { kind: 'run' }>[] {
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
function stopNotes(history: BalanceNow['history'], notes: Judged[], limits: ShopLimits): void {
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
function withTrials(entries: readonly BalanceEntry[], heavy: readonly Complex[], runs: number): Complex[] {
  if (runs > 1) return [...heavy];
  return heavy.map((z, i) =>
    entries.reduce(
      (s, e) => (e.kind === 'trial' && e.staysIn && e.plane === i + 1 ? add(s, polar(e.gMm, e.angleDeg)) : s),
      z,
    ),
  );
}

/** Places of a plane that are free, with their numbers. */
function freePlaces(p: BalancePlane): (Place & { number: number })[] {
  return Array.from({ length: p.places }, (_, i) => ({
    number: i + 1,
    angleDeg: (((p.firstDeg + (360 * i) / p.places) % 360) + 360) % 360,
    radiusMm: p.radiusMm,
    ...(p.mostG === undefined ? {} : { mostG: p.mostG }),
  })).filter((x) => !p.taken.includes(x.number));
}
/** How deep for an unbalance, where material is taken away. */
export function depthFor(p: BalancePlane, gMm: number): number | undefined {
  const most = p.mostDepthMm ?? p.radiusMm;
  switch (p.way) {
    case 'add':
      return undefined;
    case 'drill':
      return drillDepth({ diameterMm: p.drillMm ?? 8, radiusMm: p.radiusMm }, gMm, most);
    case 'mill a flat':
      return flatDepth({ radiusMm: p.radiusMm, lengthMm: p.lengthMm ?? 20 }, gMm, most);
    case 'mill tooth tops':
      return toothDepth({ radiusMm: p.radiusMm, lengthMm: p.lengthMm ?? 20, widthMm: p.widthMm ?? 3 }, gMm, most);
  }
}
const feltBy = (g: Planes): number[][] => {
  const unit = (k: number) => g.planesMm.map((_, i): Complex => (i === k ? { re: 1, im: 0 } : ZERO));
  const columns = g.planesMm.map((_, k) => atBearings(g, unit(k)).map((z) => z.re));
  return [0, 1].map((i) => columns.map((c) => c[i] ?? 0));
};

/** What to do next in each plane, on the places that there are; and what share of the tolerance is expected to stay. */
function nextStep(
  setUp: BalanceSetUp,
  heavy: readonly Complex[],
  tolerance: BalanceTolerance,
  geometry: Planes,
  enough: number,
): { next: PlaneStep[]; expected: number } {
  const bearings = { felt: feltBy(geometry), allowedGMm: [...tolerance.sharesGMm] };
  const wanted = heavy.map((z) => scale(z, -1));
  const stocked = setUp.stockG.length > 0 && setUp.planes.every((p) => p.way === 'add' && p.places > 0);
  const steps: PlaneStep[] = [];
  const left: Complex[] = [];
  if (stocked) {
    const of = setUp.planes.map((p) => freePlaces(p));
    const { steps: ladder, chosen } = splitLadder(
      setUp.planes.map((_, i) => ({ wanted: wanted[i] ?? ZERO, places: of[i] ?? [], stockG: setUp.stockG })),
      bearings,
      enough,
    );
    const split = ladder[chosen];
    setUp.planes.forEach((p, i) => {
      const masses = (split?.fixed[i] ?? []).map((f) => {
        const place = of[i]?.[f.place];
        return {
          place: place?.number,
          angleDeg: place?.angleDeg ?? 0,
          massG: f.massG,
          depthMm: undefined,
          gMm: f.massG * p.radiusMm,
        };
      });
      left.push(split?.left[i] ?? wanted[i] ?? ZERO);
      steps.push(planeStep(i + 1, p, wanted[i] ?? ZERO, masses));
    });
    return { next: steps, expected: split?.worst ?? shareOf(bearings, left) };
  }
  setUp.planes.forEach((p, i) => {
    const add1 = wanted[i] ?? ZERO;
    // material is taken away on the heavy side
    const at = p.way === 'add' ? add1 : scale(add1, -1);
    const cap = p.way === 'add' ? (p.mostG ?? Infinity) * p.radiusMm : mostBy(p);
    const free =
      p.places > 0 ? freePlaces(p) : [{ number: undefined, angleDeg: vectorOf(at).angleDeg, radiusMm: p.radiusMm }];
    const { gMm, left: rest } = spread(
      at,
      free.map((f) => ({ angleDeg: f.angleDeg, mostGMm: Math.min(cap, 1e12) })),
    );
    const masses = free.flatMap((f, k) => {
      const g = gMm[k] ?? 0;
      return g > 1e-9
        ? [{ place: f.number, angleDeg: f.angleDeg, massG: g / p.radiusMm, depthMm: depthFor(p, g), gMm: g }]
        : [];
    });
    left.push(p.way === 'add' ? rest : scale(rest, -1));
    steps.push(planeStep(i + 1, p, add1, masses));
  });
  return { next: steps, expected: shareOf(bearings, left) };
}
/** The most unbalance that one place gives, g·mm, where its depth is limited. */
function mostBy(p: BalancePlane): number {
  if (p.mostDepthMm === undefined) return 1e12;
  let [low, high] = [0, 1e7];
  for (let i = 0; i < 100; i++) {
    const mid = (low + high) / 2;
    if (depthFor(p, mid) === undefined) high = mid;
    else low = mid;
  }
  return low;
}
const shareOf = (
  b: { felt: readonly (readonly number[])[]; allowedGMm: readonly number[] },
  left: readonly Complex[],
): number =>
  Math.max(
    ...b.felt.map(
      (row, i) =>
        sizeOf(row.reduce<Complex>((s, k, plane) => add(s, scale(left[plane] ?? ZERO, k)), ZERO)) /
        (b.allowedGMm[i] ?? Infinity),
    ),
  );

function planeStep(plane: number, p: BalancePlane, wanted: Complex, masses: PlaneStep['masses']): PlaneStep {
  const removes = p.way !== 'add';
  const at = vectorOf(removes ? scale(wanted, -1) : wanted).angleDeg;
  const where = (m: PlaneStep['masses'][number]) =>
    m.place === undefined
      ? `at ${formatNumber(m.angleDeg, 4)}°`
      : `at place ${m.place} (${formatNumber(m.angleDeg, 4)}°)`;
  const what = (m: PlaneStep['masses'][number]) =>
    removes
      ? `${m.depthMm === undefined ? 'deeper than is allowed' : `${formatNumber(m.depthMm, 3)} mm deep`} ${where(m)}`
      : `${formatNumber(m.massG, 4)} g ${where(m)}`;
  const verb = { add: 'fix', drill: 'drill', 'mill a flat': 'mill a flat', 'mill tooth tops': 'mill' }[p.way];
  return {
    plane,
    wanted: vectorOf(wanted),
    atDeg: at,
    masses,
    says:
      masses.length === 0
        ? `Plane ${plane}: leave it as it is.`
        : `Plane ${plane}, radius ${formatNumber(p.radiusMm, 4)} mm: ${verb} ${masses.map(what).join(' and ')}.`,
  };
}

/** Masses that were fixed in each plane, together; undefined where there are none. */
function massesIn(setUp: BalanceSetUp, entries: readonly BalanceEntry[]): (Vector | undefined)[] {
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

/** What share of the tolerance the masses as they were fixed are expected to leave. */
function expectedAfter(
  setUp: BalanceSetUp,
  entries: readonly BalanceEntry[],
  influence: Influence,
  heavy: readonly Complex[],
  tolerance: BalanceTolerance,
  geometry: Planes,
): number {
  const from = entries.findLastIndex((e) => e.kind === 'run' || e.kind === 'trial');
  const fixed = setUp.planes.map((_, i) =>
    entries
      .slice(from + 1)
      .flatMap((e) => (e.kind === 'correction' ? e.masses : []))
      .filter((m) => m.plane === i + 1)
      .reduce<Complex>((s, m) => add(s, polar(m.massG * m.radiusMm, m.angleDeg)), ZERO),
  );
  // by the influence, so that it is told as the next run will read
  const readings = predicted(
    influence,
    predicted(
      influence,
      influence.map(() => ZERO),
      [...heavy],
    ),
    fixed,
  );
  const left = (correctionsFor(influence, readings) ?? []).map((z) => scale(z, -1));
  return shareOf(
    { felt: feltBy(geometry), allowedGMm: tolerance.sharesGMm },
    left.map((z) => subtract(ZERO, z)),
  );
}

const vector = z.object({ size: z.number(), angleDeg: z.number() });
const verdict = z.enum(['pass', 'attention', 'fail', 'cannot judge']);

/** Calculation `balance.session`: a rotor on the stand from its set-up and everything that was entered, in one or two planes. */
export const balanceSession = defineCalculation({
  id: 'balance.session',
  version: 1,
  title: 'Balance in one or two planes: influence, heavy spots, next correction, residual at the bearings',
  sources: [
    'influence-coefficient method (derived)',
    'ISO 21940-11 tolerance (sharing from memory)',
    'response, repeat, condition and stop rules: common practice',
  ],
  input: z.strictObject({
    setUp: balanceSetUpSchema,
    entries: z.array(balanceEntrySchema).max(200),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({
    stage: z.enum(BALANCE_STAGES),
    permissibleGMm: z.number(),
    shareAGMm: z.number(),
    shareBGMm: z.number(),
    condition: z.number().optional(),
    unbalance: z.array(vector).optional(),
    bearings: z.array(z.object({ gMm: z.number(), angleDeg: z.number(), allowedGMm: z.number(), verdict })).optional(),
    next: z.array(z.string()).optional(),
    verdict,
    reason: z.string(),
  }),
  example: {
    setUp: {
      kind: 'cage rotor',
      massKg: 26,
      grade: 2.5,
      serviceRpm: 2950,
      balancingRpm: 900,
      bearingAMm: 0,
      bearingBMm: 420,
      centreMm: 205,
      planes: [
        { xMm: 90, radiusMm: 62 },
        { xMm: 320, radiusMm: 62 },
      ],
    },
    entries: [
      {
        kind: 'run',
        readings: [
          { size: 6.4, angleDeg: 52 },
          { size: 4.9, angleDeg: 231 },
        ],
      },
      {
        kind: 'trial',
        plane: 1,
        gMm: 600,
        angleDeg: 0,
        readings: [
          { size: 8.8, angleDeg: 81 },
          { size: 4.1, angleDeg: 204 },
        ],
      },
      {
        kind: 'trial',
        plane: 2,
        gMm: 600,
        angleDeg: 90,
        readings: [
          { size: 5.6, angleDeg: 74 },
          { size: 8.2, angleDeg: 262 },
        ],
      },
    ],
  },
  compute: ({ setUp, entries, limits }, note) => {
    const is = balanceNow(setUp, entries, limits);
    note?.({
      name: 'Permissible residual unbalance',
      symbol: 'U_per',
      formula: '9549.3 G m / n',
      numbers: `9549.3 · ${formatNumber(setUp.grade)} · ${formatNumber(setUp.massKg, 5)} / ${formatNumber(setUp.serviceRpm, 5)}`,
      value: is.tolerance.permissibleGMm,
      unit: 'g·mm',
      source: 'ISO 21940-11',
    });
    for (const [i, row] of (is.influence ?? []).entries())
      for (const [k, c] of row.entries())
        note?.({
          name: `Influence of plane ${k + 1} on bearing ${i === 0 ? 'A' : 'B'}`,
          symbol: `a_${i === 0 ? 'A' : 'B'}${k + 1}`,
          formula: '(V_k − V_0) / U_t',
          numbers: 'as read',
          value: `${c.size.toPrecision(5)} ∠ ${c.angleDeg.toFixed(2)}°`,
          unit: 'per g·mm',
          source: 'derived',
        });
    for (const [i, u] of (is.unbalance ?? []).entries())
      note?.({
        name: `Heavy spot of plane ${i + 1}`,
        symbol: `U_${i + 1}`,
        formula: 'a U = V',
        numbers: 'the last run',
        value: `${formatNumber(u.size, 5)} ∠ ${formatNumber(u.angleDeg, 5)}°`,
        unit: 'g·mm',
        source: 'derived',
      });
    return {
      stage: is.stage,
      permissibleGMm: is.tolerance.permissibleGMm,
      shareAGMm: is.tolerance.sharesGMm[0],
      shareBGMm: is.tolerance.sharesGMm[1],
      ...(is.condition === undefined || !Number.isFinite(is.condition) ? {} : { condition: is.condition }),
      ...(is.unbalance ? { unbalance: is.unbalance } : {}),
      ...(is.bearings ? { bearings: is.bearings } : {}),
      ...(is.next ? { next: is.next.map((n) => n.says) } : {}),
      verdict: is.verdict,
      reason: is.reason,
    };
  },
});
