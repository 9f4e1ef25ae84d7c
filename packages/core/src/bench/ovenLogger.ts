/** A part in a simulated oven. */
export interface OvenPart {
  name: string;
  massKg: number;
}
export interface OvenRun {
  parts: readonly OvenPart[];
  /** air: from, how fast it rises, where it is held and for how long before the oven is switched off */
  ambientC: number;
  rampKMin: number;
  holdC: number;
  holdMin: number;
  seed: number;
}

/** Time constant of a part of 50 kg, minutes, and how it grows with mass (docs/derivations.md 14: similar shape, m^(1/3)). */
const TAU_50_MIN = 38;
export const lagMin = (massKg: number): number => TAU_50_MIN * (massKg / 50) ** (1 / 3);

/** Cooling of the oven itself once it is off, minutes. */
const OVEN_COOLS_MIN = 90;

/** Air temperature of the run at a minute: a ramp, a hold, then the oven cools by itself. */
export function airAt(run: OvenRun, min: number): number {
  const rampMin = (run.holdC - run.ambientC) / run.rampKMin;
  const offMin = rampMin + run.holdMin;
  if (min < rampMin) return run.ambientC + run.rampKMin * Math.max(0, min);
  if (min < offMin) return run.holdC;
  return run.ambientC + (run.holdC - run.ambientC) * Math.exp(-(min - offMin) / OVEN_COOLS_MIN);
}

/** When a run has ended: the oven below 60 °C again. */
export const endMin = (run: OvenRun): number =>
  (run.holdC - run.ambientC) / run.rampKMin +
  run.holdMin +
  OVEN_COOLS_MIN * Math.log((run.holdC - run.ambientC) / Math.max(1, 60 - run.ambientC));

/**
 * What a logger reads, sample by sample: air and each part, one lump each with its own lag, a tenth of a degree as it is displayed, with the
 * noise of a thermocouple. The same for the same seed.
 * Source: lag model of one lump (derived); noise common practice.
 */
export function* ovenLogger(run: OvenRun, stepS: number): Generator<{ s: number; values: number[] }, never> {
  let state = (run.seed % 2147483646) + 1;
  const noise = (size: number): number => {
    state = (state * 48271) % 2147483647;
    return (state / 2147483647 - 0.5) * 2 * size;
  };
  const shown = (c: number, size: number): number => Math.round((c + noise(size)) * 10) / 10;
  let parts = run.parts.map(() => run.ambientC);
  for (let i = 0; ; i++) {
    const min = (i * stepS) / 60;
    yield { s: i * stepS, values: [shown(airAt(run, min), 0.6), ...parts.map((c) => shown(c, 0.1))] };
    // the middle of the step stands for it
    const air = airAt(run, min + stepS / 120);
    parts = parts.map((c, k) => air - (air - c) * Math.exp(-stepS / 60 / lagMin(run.parts[k]?.massKg ?? 50)));
  }
}
