import { WATT_PER_HORSEPOWER } from '../quantity/units.ts';
import { notBelow } from '../verdict.ts';
import { fitLine } from './fit.ts';

/** One pulse with the rotor locked. */
export interface LockedPoint {
  volts: number;
  amps: number;
  watts?: number | undefined;
  torqueNm?: number | undefined;
}

/** Exponent of the locked current over the voltage and what it comes to at the rated voltage. */
export interface LockedScaled {
  exponent: number;
  amps: number;
  /** torque at the rated voltage, with the square of the current; undefined where none was read */
  torqueNm: number | undefined;
  watts: number | undefined;
  /** one reading only: taken as linear */
  linear: boolean;
}

/**
 * Brings locked-rotor readings to the rated voltage: I = I_t (U/U_t)^n, n by the line through the logarithms; torque and power with the
 * square of the current. Source: IEEE 112 (from memory), scaling derived.
 */
export function scaleLocked(points: readonly LockedPoint[], ratedV: number): LockedScaled | undefined {
  const read = points.filter((p) => p.volts > 0 && p.amps > 0);
  if (read.length === 0) return undefined;
  const [u, i] = [read.map((p) => Math.log(p.volts)), read.map((p) => Math.log(p.amps))];
  const fit = fitLine(u, i);
  const exponent = fit?.slope ?? 1;
  const last = read.reduce((a, b) => (b.volts > a.volts ? b : a));
  const amps = fit ? Math.exp(fit.intercept + fit.slope * Math.log(ratedV)) : (last.amps * ratedV) / last.volts;
  // the reading at the highest voltage that has it lies nearest
  const scaled = (of: (p: LockedPoint) => number | undefined): number | undefined => {
    const best = read
      .filter((p) => of(p) !== undefined)
      .reduce<LockedPoint | undefined>((a, b) => (a && a.volts > b.volts ? a : b), undefined);
    const value = best && of(best);
    return best && value !== undefined ? value * (ratedV / best.volts) ** (2 * exponent) : undefined;
  };
  return {
    exponent,
    amps,
    torqueNm: scaled((p) => p.torqueNm),
    watts: scaled((p) => p.watts),
    linear: fit === undefined,
  };
}

/** 9.5493: torque in N m of a watt at a turn a minute. */
export const NM_PER_W_RPM = 30 / Math.PI;

/**
 * Starting torque from the power taken with the rotor locked: 9.5493 C1 (P − 1.5 I² R − P_fe)/n_s.
 * Source: IEEE 112 (from memory); C1 0.9 to 1 for harmonic losses, 0.91 where it is not known.
 */
export const lockedTorqueNm = (x: {
  watts: number;
  amps: number;
  lineOhm: number;
  coreW: number;
  synchronousRpm: number;
  c1?: number;
}): number => (NM_PER_W_RPM * (x.c1 ?? 0.91) * (x.watts - 1.5 * x.amps ** 2 * x.lineOhm - x.coreW)) / x.synchronousRpm;

/** Apparent power with the rotor locked over the rated horsepower, kVA/hp. */
export const kvaPerHp = (lineV: number, amps: number, outputW: number, phases: 1 | 3 = 3): number =>
  ((phases === 3 ? Math.sqrt(3) : 1) * lineV * amps) / 1000 / (outputW / WATT_PER_HORSEPOWER);

/** Lower bounds of the code letters, kVA/hp; A below the first. Source: NEMA MG 1 10.37 (from memory). */
const CODE_LETTERS: readonly (readonly [string, number])[] = [
  ['B', 3.15],
  ['C', 3.55],
  ['D', 4],
  ['E', 4.5],
  ['F', 5],
  ['G', 5.6],
  ['H', 6.3],
  ['J', 7.1],
  ['K', 8],
  ['L', 9],
  ['M', 10],
  ['N', 11.2],
  ['P', 12.5],
  ['R', 14],
  ['S', 16],
  ['T', 18],
  ['U', 20],
  ['V', 22.4],
];

/** Code letter of a locked-rotor kVA per horsepower: the lower bound belongs to it. */
export const codeLetter = (kva: number): string => CODE_LETTERS.findLast(([, from]) => notBelow(kva, from))?.[0] ?? 'A';
