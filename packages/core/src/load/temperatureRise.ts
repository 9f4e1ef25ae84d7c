import { limit, type ShopLimits } from '../limits/limits.ts';
import { notBelow } from '../verdict.ts';
import { fitLine } from './fit.ts';

/**
 * Rise of a winding by its resistance: (R2/R1)(k + t1) − k − t_a, K.
 * Source: IEC 60034-1, IEEE 112 (from memory).
 */
export const riseByResistance = (x: {
  coldOhm: number;
  coldC: number;
  hotOhm: number;
  coolantC: number;
  k: number;
}): number => (x.hotOhm / x.coldOhm) * (x.k + x.coldC) - x.k - x.coolantC;

export interface CoolingReading {
  /** since the power went off */
  seconds: number;
  ohm: number;
}

/** Seconds after switch-off within which a reading counts as the value at rest, by rated kW or kVA. Source: IEC 60034-1 (from memory). */
export const readWithinS = (ratedKW: number): number => (ratedKW <= 50 ? 30 : ratedKW <= 200 ? 90 : 120);

export interface RiseAtRest {
  riseK: number;
  how: 'first reading in time' | 'extrapolated' | 'highest reading' | 'none';
  /** of the falling readings */
  timeConstantS?: number;
  r2?: number;
  /** few readings, or a loose line */
  doubtful?: boolean;
  why?: string;
}

const FEWEST = 3;
const ENOUGH = 5;

/**
 * The rise at the moment the power went off: the first reading where it is early enough, else the line of ln(rise) over time drawn back
 * to it; where the readings first rise, the highest of them.
 * Source: IEC 60034-1 (from memory); exponential fall derived.
 */
export function riseAtRest(
  readings: readonly CoolingReading[],
  x: { coldOhm: number; coldC: number; coolantC: number; k: number; ratedKW: number; limits?: ShopLimits },
): RiseAtRest {
  const rises = [...readings]
    .sort((a, b) => a.seconds - b.seconds)
    .map((r) => ({ seconds: r.seconds, riseK: riseByResistance({ ...x, hotOhm: r.ohm }) }));
  const [first, second] = rises;
  const limitS = readWithinS(x.ratedKW);
  const none = (why: string): RiseAtRest => ({ riseK: first?.riseK ?? NaN, how: 'none', why });
  if (!first) return none('no reading after the switch was opened');
  if (first.seconds > 2 * limitS)
    return none(`the first reading came after ${first.seconds} s, more than twice the ${limitS} s that count`);
  const highest = rises.reduce((a, b) => (b.riseK > a.riseK ? b : a));
  if (second && second.riseK > first.riseK) return { riseK: highest.riseK, how: 'highest reading' };
  if (first.seconds <= limitS && rises.length < FEWEST) return { riseK: first.riseK, how: 'first reading in time' };
  const falling = rises.filter((r, i) => r.riseK > 0 && (i === 0 || r.riseK < (rises[i - 1]?.riseK ?? Infinity)));
  if (falling.length < FEWEST)
    return first.seconds <= limitS
      ? { riseK: first.riseK, how: 'first reading in time' }
      : none(`${falling.length} falling readings; at least ${FEWEST} are wanted to draw back to the switch`);
  const fit = fitLine(
    falling.map((r) => r.seconds),
    falling.map((r) => Math.log(r.riseK)),
  );
  if (!fit || fit.slope >= 0) return none('the readings do not fall');
  const r2 = fit.r ** 2;
  return {
    riseK: Math.exp(fit.intercept),
    how: 'extrapolated',
    timeConstantS: -1 / fit.slope,
    r2,
    ...(falling.length < ENOUGH || !notBelow(r2, limit('load.riseFit', x.limits)) ? { doubtful: true } : {}),
  };
}

export const THERMAL_CLASSES = { A: 105, E: 120, B: 130, F: 155, H: 180, N: 200, R: 220 } as const;
export type ThermalClass = keyof typeof THERMAL_CLASSES;

type Row = Partial<Record<ThermalClass, number>>;
/** Limits of the rise by resistance, K, at a coolant of 40 °C up to 1000 m. Source: IEC 60034-1, NEMA MG 1 (from memory). */
const RISE_LIMITS = {
  'IEC, 600 W to below 5000 kW': { A: 60, E: 75, B: 80, F: 105, H: 125 },
  'IEC, below 600 W, no fan, or encapsulated': { A: 65, E: 75, B: 85, F: 110, H: 130 },
  'IEC, commutator armature or multi-layer field': { A: 60, E: 75, B: 80, F: 105, H: 125 },
  'NEMA, service factor 1.0': { A: 60, B: 80, F: 105, H: 125 },
  'NEMA, service factor 1.15 and more': { A: 70, B: 90, F: 115 },
  'NEMA, enclosed without fan, service factor 1.0': { A: 65, B: 85, F: 110, H: 130 },
} as const satisfies Record<string, Row>;
export type RiseRule = keyof typeof RISE_LIMITS;
export const RISE_RULES = Object.keys(RISE_LIMITS) as RiseRule[];

const FEET_PER_M = 1 / 0.3048;

/**
 * How far a winding may rise: by rule and class, less at altitude and in a hot coolant, more in a cool one.
 * @returns K; undefined where the table has no figure
 */
export function riseLimitK(x: {
  rule: RiseRule;
  thermalClass: ThermalClass;
  altitudeM?: number;
  coolantC?: number;
}): number | undefined {
  const table: Row = RISE_LIMITS[x.rule];
  const base = table[x.thermalClass];
  if (base === undefined) return undefined;
  const altitude = x.altitudeM ?? 0;
  const high = x.rule.startsWith('NEMA')
    ? base * Math.min(1, 1 - (altitude * FEET_PER_M - 3300) / 33_000)
    : base * (1 - 0.01 * Math.max(0, (Math.min(altitude, 4000) - 1000) / 100));
  const coolant = x.coolantC ?? 40;
  return high - Math.max(-30, coolant - 40);
}

/** Life by the rule that it halves for each 10 K above the class, h: 20,000 h at the class. Common practice; information, no promise. */
export const lifeHours = (thermalClass: ThermalClass, hottestC: number, perK = 10): number =>
  20_000 * 2 ** ((THERMAL_CLASSES[thermalClass] - hottestC) / perK);
