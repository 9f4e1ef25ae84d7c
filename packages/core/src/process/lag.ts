/** Specific heat of what a motor is made of, J/(kg·K) (docs/derivations.md 27). */
export const SPECIFIC_HEAT = { steel: 460, copper: 385, aluminium: 900 } as const;
export type HeatedMaterial = keyof typeof SPECIFIC_HEAT;

/** A part as one lump in the air of an oven: τ = Σ(m·c)/(h·A), min. @param hAWK heat it takes, W/K */
export function lagOfMassesMin(masses: readonly { kg: number; of: HeatedMaterial }[], hAWK: number): number {
  return masses.reduce((sum, m) => sum + m.kg * SPECIFIC_HEAT[m.of], 0) / hAWK / 60;
}

/** Temperature of a part, °C, `minutes` after it stood at `partC` in air of `airC`. */
export const temperatureAfter = (partC: number, airC: number, lagMin: number, minutes: number): number =>
  airC - (airC - partC) * Math.exp(-minutes / lagMin);

/** Temperature of a part in air that rises from the part's own temperature by `rampKMin`: it follows r·τ behind. */
export const temperatureOnRamp = (partC: number, rampKMin: number, lagMin: number, minutes: number): number =>
  partC + rampKMin * (minutes - lagMin * (1 - Math.exp(-minutes / lagMin)));

/**
 * Minutes until a part reaches a temperature in still air, heating or cooling.
 * @returns 0 where it is past it, undefined where it never gets there
 */
export function minutesTo(partC: number, airC: number, targetC: number, lagMin: number): number | undefined {
  const way = airC - partC;
  if (way === 0) return targetC === partC ? 0 : undefined;
  // measured along the way the part goes
  const share = (targetC - partC) / way;
  if (share <= 0) return 0;
  return share >= 1 ? undefined : -lagMin * Math.log(1 - share);
}

/** Lag from two readings in air of one temperature, min; undefined where the readings do not come nearer to it. */
export function lagOfTwoMin(airC: number, firstC: number, secondC: number, apartMin: number): number | undefined {
  const ratio = (airC - firstC) / (airC - secondC);
  return apartMin > 0 && ratio > 1 && Number.isFinite(ratio) ? apartMin / Math.log(ratio) : undefined;
}

/** Lag of a part of like shape and another mass: surface goes with m^(2/3), so τ with m^(1/3). */
export const lagOfMassMin = (lagMin: number, kg: number, otherKg: number): number => lagMin * Math.cbrt(otherKg / kg);

/** Part and air at one time, min and °C. */
export interface LagReading {
  t: number;
  partC: number;
  airC: number;
}
export interface FittedLag {
  lagMin: number;
  /** share of the part's movement that the lag explains */
  r2: number;
}

/** Readings that a lag wants, and the share of the movement it must explain, before anybody forecasts by it. */
export const LAG_READINGS = 5;
export const LAG_R2 = 0.98;

/** Sum of squares between the readings and a lump of this lag that starts at the first of them. */
function misfit(readings: readonly LagReading[], lagMin: number): number {
  let before = readings[0] as LagReading;
  let c = before.partC;
  let sum = 0;
  for (const now of readings.slice(1)) {
    const dt = now.t - before.t;
    // air in a straight line between two readings: exact for the lump
    const ramp = (now.airC - before.airC) / dt;
    const rest = Math.exp(-dt / lagMin);
    c = now.airC - ramp * lagMin + (c - before.airC + ramp * lagMin) * rest;
    sum += (now.partC - c) ** 2;
    before = now;
  }
  return sum;
}

/**
 * Lag of a part fitted on its readings beside the air's, by least squares of the lump's own answer.
 * @param readings in order of time, times apart
 * @returns undefined with fewer than five readings, or where the lag explains less than 98 % of the movement
 */
export function fitLag(readings: readonly LagReading[]): FittedLag | undefined {
  if (readings.length < LAG_READINGS) return undefined;
  const mean = readings.reduce((sum, r) => sum + r.partC, 0) / readings.length;
  const moved = readings.reduce((sum, r) => sum + (r.partC - mean) ** 2, 0);
  if (moved === 0) return undefined;
  // log τ: a coarse walk finds the valley, then it is halved in by the golden section
  const lowest = Math.log(0.5);
  const highest = Math.log(6000);
  const of = (x: number): number => misfit(readings, Math.exp(x));
  let best = lowest;
  const step = (highest - lowest) / 24;
  for (let i = 1; i <= 24; i++) if (of(lowest + i * step) < of(best)) best = lowest + i * step;
  let [a, b] = [Math.max(lowest, best - step), Math.min(highest, best + step)];
  const golden = (Math.sqrt(5) - 1) / 2;
  let [x, y] = [b - golden * (b - a), a + golden * (b - a)];
  let [fx, fy] = [of(x), of(y)];
  for (let i = 0; i < 40; i++)
    if (fx < fy) {
      [b, y, fy] = [y, x, fx];
      x = b - golden * (b - a);
      fx = of(x);
    } else {
      [a, x, fx] = [x, y, fy];
      y = a + golden * (b - a);
      fy = of(y);
    }
  const lagMin = Math.exp((a + b) / 2);
  const r2 = 1 - misfit(readings, lagMin) / moved;
  return r2 >= LAG_R2 ? { lagMin, r2 } : undefined;
}
