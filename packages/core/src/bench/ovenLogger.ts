/** A part in a simulated oven. */
export interface OvenPart {
  name: string;
  massKg: number;
}
/** What can go wrong in a simulated oven, and to which of its probes (0: the first part). */
export const OVEN_FAULTS = ['probe falls', 'probe sticks', 'door opens', 'burner out'] as const;
export interface OvenFaultAt {
  what: (typeof OVEN_FAULTS)[number];
  fromMin: number;
  part?: number;
}
export interface OvenRun {
  parts: readonly OvenPart[];
  /** air: from, how fast it rises, where it is held and for how long before the oven is switched off */
  ambientC: number;
  rampKMin: number;
  holdC: number;
  holdMin: number;
  seed: number;
  /** may grow while the run goes on */
  faults?: readonly OvenFaultAt[];
  /** how fast it cools once it is off, min; a burn-off oven holds its heat long */
  coolsMin?: number;
}

/** Time constant of a part of 50 kg, minutes, and how it grows with mass (docs/derivations.md 14: similar shape, m^(1/3)). */
const TAU_50_MIN = 38;
export const lagMin = (massKg: number): number => TAU_50_MIN * (massKg / 50) ** (1 / 3);

/** Cooling of the oven itself once it is off, minutes. */
const OVEN_COOLS_MIN = 90;
/** An open door: so many minutes, and how far the air falls towards the workshop; how fast the burner brings it back, min. */
const DOOR_MIN = 8;
const DOOR_SHARE = 0.55;
const RETURNS_MIN = 6;
/** A fallen probe hangs where it is cooler than the air, and comes there as fast, min. */
const FALLEN_SHARE = 0.7;
const FALLS_MIN = 5;

/** Air temperature of the run at a minute: a ramp, a hold, then the oven cools by itself; an open door and a dead burner on top. */
export function airAt(run: OvenRun, min: number): number {
  const out = run.faults?.find((f) => f.what === 'burner out' && f.fromMin <= min);
  const upTo = out ? Math.min(min, out.fromMin) : min;
  const set = setAt(run, upTo);
  const cooled = out
    ? run.ambientC + (set - run.ambientC) * Math.exp(-(min - out.fromMin) / (run.coolsMin ?? OVEN_COOLS_MIN))
    : set;
  return (run.faults ?? []).reduce((c, f) => {
    if (f.what !== 'door opens' || min < f.fromMin) return c;
    const share =
      min < f.fromMin + DOOR_MIN ? DOOR_SHARE : DOOR_SHARE * Math.exp(-(min - f.fromMin - DOOR_MIN) / RETURNS_MIN);
    return c - share * (c - run.ambientC);
  }, cooled);
}

function setAt(run: OvenRun, min: number): number {
  const rampMin = (run.holdC - run.ambientC) / run.rampKMin;
  const offMin = rampMin + run.holdMin;
  if (min < rampMin) return run.ambientC + run.rampKMin * Math.max(0, min);
  if (min < offMin) return run.holdC;
  return run.ambientC + (run.holdC - run.ambientC) * Math.exp(-(min - offMin) / (run.coolsMin ?? OVEN_COOLS_MIN));
}

/** When a run has ended: the oven below 60 °C again. */
export const endMin = (run: OvenRun): number =>
  (run.holdC - run.ambientC) / run.rampKMin +
  run.holdMin +
  (run.coolsMin ?? OVEN_COOLS_MIN) * Math.log((run.holdC - run.ambientC) / Math.max(1, 60 - run.ambientC));

/**
 * What a logger reads, sample by sample: air and each part, one lump each with its own lag, a tenth of a degree as it is displayed, with the
 * noise of a thermocouple; a probe that sticks repeats its last figure, one that fell reads what is round it. The same for the same seed.
 * Source: lag model of one lump (derived); noise and faults common practice.
 */
export function* ovenLogger(run: OvenRun, stepS: number): Generator<{ s: number; values: number[] }, never> {
  let state = (run.seed % 2147483646) + 1;
  const noise = (size: number): number => {
    state = (state * 48271) % 2147483647;
    return (state / 2147483647 - 0.5) * 2 * size;
  };
  const shown = (c: number, size: number): number => Math.round((c + noise(size)) * 10) / 10;
  let parts = run.parts.map(() => run.ambientC);
  const before: number[] = [];
  const hanging: (number | undefined)[] = [];
  for (let i = 0; ; i++) {
    const min = (i * stepS) / 60;
    const has = (what: OvenFaultAt['what'], part: number): boolean =>
      run.faults?.some((f) => f.what === what && (f.part ?? 0) === part && f.fromMin <= min) ?? false;
    const air = airAt(run, min);
    const read = parts.map((c, k) => {
      if (has('probe sticks', k) && before[k] !== undefined) return before[k];
      if (!has('probe falls', k)) return shown(c, 0.1);
      const to = run.ambientC + FALLEN_SHARE * (air - run.ambientC);
      hanging[k] = to - (to - (hanging[k] ?? c)) * Math.exp(-stepS / 60 / FALLS_MIN);
      return shown(hanging[k], 0.3);
    });
    read.forEach((c, k) => (before[k] = c));
    yield { s: i * stepS, values: [shown(air, 0.6), ...read] };
    // the middle of the step stands for it
    const meanwhile = airAt(run, min + stepS / 120);
    parts = parts.map(
      (c, k) => meanwhile - (meanwhile - c) * Math.exp(-stepS / 60 / lagMin(run.parts[k]?.massKg ?? 50)),
    );
  }
}
