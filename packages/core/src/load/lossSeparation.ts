import { notAbove } from '../verdict.ts';
import { fitLine, type Line } from './fit.ts';

/** One voltage of a no-load curve: mean line volts, mean line amperes, watts of all phases. */
export interface NoLoadPoint {
  volts: number;
  amps: number;
  watts: number;
}

export interface SeparatedLosses {
  /** watts without the winding's own, at each point in the order given */
  constantW: number[];
  /** friction and windage: what is left at no voltage */
  frictionW: number;
  /** line of constant losses over volts squared */
  fit: Line;
  /** numbers of the points that it is laid through, from 0 */
  fitted: number[];
  /** core loss at a voltage, on the line between the points beside it; undefined outside them */
  coreAt: (volts: number) => number | undefined;
}

/** Friction is read from points up to this share of the rated voltage; more are bent by saturation. */
export const FRICTION_UP_TO = 0.6;
export const FEWEST_POINTS = 3;

/**
 * The points that friction is read from: up to 0.6 of the rated voltage, downwards as long as the current falls (where it turns up,
 * the slip has grown and the rotor takes power).
 */
export function frictionPoints(points: readonly NoLoadPoint[], ratedV: number): number[] {
  const falling = points
    .map((p, i) => ({ ...p, i }))
    .filter((p) => notAbove(p.volts, FRICTION_UP_TO * ratedV))
    .sort((a, b) => b.volts - a.volts);
  const turn = falling.findIndex((p, k) => k > 0 && p.amps > (falling[k - 1]?.amps ?? Infinity));
  return (turn < 0 ? falling : falling.slice(0, turn)).map((p) => p.i).sort((a, b) => a - b);
}

/**
 * Parts the losses of a no-load curve: P_k = P₀ − 1.5 I₀² R (R lead to lead at the temperature of the run), a line of P_k over U²
 * through the low points gives friction at U = 0.
 * Source: IEEE 112 and IEC 60034-2-1 (from memory).
 * @param lineOhm mean resistance lead to lead, at the temperature of the run
 * @returns undefined with fewer than three points for the line
 */
export function separateLosses(
  points: readonly NoLoadPoint[],
  lineOhm: number | readonly number[],
  ratedV: number,
): SeparatedLosses | undefined {
  const ohm = (i: number): number => (typeof lineOhm === 'number' ? lineOhm : (lineOhm[i] ?? NaN));
  const constantW = points.map((p, i) => p.watts - 1.5 * p.amps ** 2 * ohm(i));
  const fitted = frictionPoints(points, ratedV);
  const fit = fitLine(
    fitted.map((i) => (points[i]?.volts ?? 0) ** 2),
    fitted.map((i) => constantW[i] ?? 0),
  );
  if (fitted.length < FEWEST_POINTS || !fit) return undefined;
  const frictionW = fit.intercept;
  const curve = points
    .map((p, i) => ({ volts: p.volts, coreW: (constantW[i] ?? 0) - frictionW }))
    .sort((a, b) => a.volts - b.volts);
  return {
    constantW,
    frictionW,
    fit,
    fitted,
    coreAt: (volts) => {
      const after = curve.findIndex((p) => p.volts >= volts);
      const [b, a] = [curve[after], curve[after - 1]];
      if (!b) return undefined;
      if (b.volts === volts) return b.coreW;
      return a && a.coreW + ((b.coreW - a.coreW) * (volts - a.volts)) / (b.volts - a.volts);
    },
  };
}
