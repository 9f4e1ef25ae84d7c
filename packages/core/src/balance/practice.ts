import { balanceEntrySchema, type BalanceEntry } from './entries.ts';
import { vectorOf, type Vector } from './planes.ts';
import { balanceNow, type BalanceNow } from './session.ts';
import { balanceSetUpSchema, toleranceOf, type BalanceSetUp } from './setUp.ts';
import { simulatedFault, type StandFault } from './simulatedRotor.ts';
import { seeded, standRun, type Heavy, type StandRotor } from './stand.ts';
import { massesAlong } from './used.ts';

export const PRACTICE_LEVELS = [
  'one plane',
  'two planes',
  'places and stock',
  'taking material away',
  'something is wrong',
] as const;
export type PracticeLevel = (typeof PRACTICE_LEVELS)[number];
export const PRACTICE_FAULTS = ['nothing', 'bent shaft', 'loose mass', 'angle sense reversed'] as const;
export type PracticeFault = (typeof PRACTICE_FAULTS)[number];

/** A rotor whose unbalance is hidden, on a stand with the usual scatter; the same again for the same seed. */
export interface Lesson {
  level: PracticeLevel;
  seed: number;
  setUp: BalanceSetUp;
  rotor: StandRotor;
  hidden: Heavy[];
  fault: PracticeFault;
}

export function lesson(level: PracticeLevel, seed: number): Lesson {
  const random = seeded(seed);
  const between = (a: number, b: number) => a + (b - a) * random();
  const massKg = Math.round(between(14, 36));
  const bearingBMm = Math.round(between(360, 460));
  const one = level === 'one plane';
  const plane = (xMm: number) => ({
    xMm: Math.round(xMm),
    radiusMm: 62,
    ...(level === 'places and stock' ? { places: 12, taken: [1 + Math.floor(12 * random())] } : {}),
    ...(level === 'taking material away' ? { way: 'drill', drillMm: 12, mostDepthMm: 22, places: 16 } : {}),
  });
  const setUp = balanceSetUpSchema.parse({
    kind: one ? 'fan' : 'cage rotor',
    massKg,
    grade: 6.3,
    serviceRpm: 1500,
    balancingRpm: 900,
    bearingAMm: 0,
    bearingBMm,
    centreMm: Math.round(bearingBMm * 0.49),
    bodyMm: one ? 40 : undefined,
    planes: one ? [plane(bearingBMm * 0.5)] : [plane(bearingBMm * 0.22), plane(bearingBMm * 0.78)],
    stockG: level === 'places and stock' ? [1, 2, 3, 5, 8, 12, 20] : [],
  });
  const share = toleranceOf(setUp).sharesGMm[0];
  const hidden = setUp.planes.map((p) => ({
    // what is taken away has to be there
    gMm: share * (level === 'taking material away' ? between(3, 7) : between(4, 12)),
    angleDeg: Math.round(between(0, 359)),
    xMm: p.xMm,
  }));
  const wrong = PRACTICE_FAULTS.slice(1);
  return {
    level,
    seed,
    setUp,
    rotor: {
      massKg,
      inertiaKgM2: massKg * 0.014,
      bearingAMm: 0,
      bearingBMm,
      centreMm: setUp.centreMm,
      stiffness: [210000, 195000],
      damping: [70, 70],
    },
    hidden,
    fault: level === 'something is wrong' ? (wrong[Math.floor(random() * wrong.length)] ?? 'bent shaft') : 'nothing',
  };
}

const SHOWN: Readonly<Record<PracticeFault, StandFault>> = {
  nothing: 'sound again',
  'bent shaft': 'shaft bends',
  'loose mass': 'bar comes loose',
  'angle sense reversed': 'angle sense turns',
};

/** One run of a lesson: the meters after everything that was fixed, with a trial mass where one is in. */
export function practiceRun(
  of: Lesson,
  entries: readonly BalanceEntry[],
  trial?: { plane: number; gMm: number; angleDeg: number },
): Vector[] {
  const heavy: Heavy[] = [...of.hidden, ...massesAlong(of.setUp, entries)];
  if (trial) heavy.push({ ...trial, xMm: of.setUp.planes[trial.plane - 1]?.xMm ?? 0 });
  const faults = simulatedFault(SHOWN[of.fault], {
    shareGMm: toleranceOf(of.setUp).sharesGMm[0],
    planesMm: of.setUp.planes.map((p) => p.xMm),
    centreMm: of.setUp.centreMm,
  });
  // each run of the lesson has its own scatter, the same when it is given again
  const random = seeded(of.seed * 1009 + entries.length * 31 + 7);
  return standRun(of.rotor, of.setUp.balancingRpm, heavy, random, undefined, faults).map((z) => {
    const v = vectorOf(z);
    return { size: Number(v.size.toFixed(3)), angleDeg: Number(v.angleDeg.toFixed(1)) };
  });
}

export interface Score {
  /** 0 to 100 */
  points: number;
  runs: number;
  corrections: number;
  /** of the tolerance at the worse bearing, %; undefined where it was not brought so far */
  leftPercent: number | undefined;
  says: string;
}

/** What a lesson is worth: inside with few runs, or the fault called by its name. */
export function scoreOf(of: Lesson, entries: readonly BalanceEntry[], called: PracticeFault): Score {
  const is: BalanceNow = balanceNow(
    of.setUp,
    entries.map((e) => balanceEntrySchema.parse(e)),
  );
  const runs = entries.filter((e) => e.kind !== 'correction').length;
  const corrections = entries.length - runs;
  const left = is.bearings && Math.max(...is.bearings.map((b) => (100 * b.gMm) / b.allowedGMm));
  const base = { runs, corrections, leftPercent: left };
  if (called !== 'nothing' || of.fault !== 'nothing') {
    const right = called === of.fault;
    return {
      ...base,
      points: right ? Math.max(40, 100 - 5 * Math.max(0, runs - 4)) : 0,
      says: right
        ? `Right: ${of.fault}. Such a rotor is repaired, or the stand set right, before it is balanced.`
        : `It was ${of.fault === 'nothing' ? 'a sound rotor' : of.fault}.`,
    };
  }
  if (is.stage !== 'done' || left === undefined)
    return { ...base, points: 0, says: 'Not inside yet: go on, or say what is wrong with it.' };
  const least = of.setUp.planes.length + 2;
  return {
    ...base,
    points: Math.max(
      20,
      Math.round(100 - 8 * Math.max(0, runs - least) - 12 * Math.max(0, corrections - 1) - left / 5),
    ),
    says: `Inside with ${runs} runs and ${corrections} correction${corrections === 1 ? '' : 's'}; ${Math.round(left)} % of the tolerance stays.`,
  };
}
