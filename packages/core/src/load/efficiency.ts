import { limit, quoteLimit, type LimitId, type ShopLimits } from '../limits/limits.ts';
import { formatNumber } from '../quantity/format.ts';
import { notBelow } from '../verdict.ts';
import { fitLine, type Line } from './fit.ts';
import { NM_PER_W_RPM } from './lockedRotor.ts';
import { separateLosses, type NoLoadPoint, type SeparatedLosses } from './lossSeparation.ts';

/** One point under load: mean line volts and amperes, watts taken, torque as indicated, speed, frequency, winding temperature. */
export interface LoadPoint {
  volts: number;
  amps: number;
  watts: number;
  torqueNm: number;
  rpm: number;
  frequencyHz: number;
  /** of the winding, °C */
  windingC: number;
}

/** A run with the dynamometer at its minimum, or with the motor free of it. */
export interface DynamometerRun {
  watts: number;
  amps: number;
  rpm: number;
  torqueNm: number;
  windingC: number;
}

export type Method = 'B' | '2-1-1B';
export const METHODS: readonly Method[] = ['B', '2-1-1B'];

/** Constant of the winding's material in the temperature rule, as each method takes it. Source: IEEE 112, IEC 60034-2-1 (from memory). */
export const KELVIN_OFFSET: Readonly<Record<Method, number>> = { B: 234.5, '2-1-1B': 235 };
/** The limit that names the least correlation of the stray-loss line of a method. */
export const LEAST_R = { B: 'load.fitB', '2-1-1B': 'load.fitIec' } as const satisfies Record<Method, LimitId>;
export interface EfficiencyQuestion {
  poles: number;
  ratedV: number;
  /** resistance lead to lead, cold, and the winding then */
  coldOhm: number;
  coldC: number;
  /** rise of the winding by resistance in the rated-load run, K, and the coolant at its end */
  riseK: number;
  coolantC: number;
  noLoad: readonly NoLoadPoint[];
  noLoadC: number;
  load: readonly LoadPoint[];
  /** left out: a torque sensor on the shaft whose zero was checked */
  dynamometer?: { coupled: DynamometerRun; free: Omit<DynamometerRun, 'torqueNm' | 'rpm'> } | undefined;
}

/** A point under load with everything that was worked out of it. Watts, N m. */
export interface LoadRow {
  torqueNm: number;
  slip: number;
  statorW: number;
  coreW: number;
  frictionW: number;
  rotorW: number;
  outW: number;
  apparentW: number;
  rawStrayW: number;
  /** left out of the line of stray losses */
  dropped: boolean;
  strayW: number;
  statorCorrectedW: number;
  rotorCorrectedW: number;
  lossW: number;
  outCorrectedW: number;
  efficiency: number;
  powerFactor: number;
  /** voltage behind the stator's resistance; of the method that reads the core loss there */
  innerV?: number | undefined;
}

export interface Efficiency {
  method: Method;
  losses: SeparatedLosses;
  torqueCorrectionNm: number;
  rows: LoadRow[];
  stray: Line;
  /** why the result is none: line too loose, slope not rising */
  unsatisfactory: string | undefined;
}

/** Correction of the indicated torque by a run at the dynamometer's minimum and one with the motor free. Source: IEEE 112 (from memory). */
export function torqueCorrectionNm(
  { coupled, free }: NonNullable<EfficiencyQuestion['dynamometer']>,
  ohmAt: (windingC: number) => number,
  coreW: number,
  synchronousRpm: number,
): number {
  const slip = (synchronousRpm - coupled.rpm) / synchronousRpm;
  const a = (coupled.watts - 1.5 * coupled.amps ** 2 * ohmAt(coupled.windingC) - coreW) * (1 - slip);
  const b = free.watts - 1.5 * free.amps ** 2 * ohmAt(free.windingC) - coreW;
  return (NM_PER_W_RPM * (a - b)) / coupled.rpm - coupled.torqueNm;
}

/** Voltage behind the stator's resistance, lead to lead. Source: IEC 60034-2-1 (from memory). */
export function innerVoltage(volts: number, amps: number, watts: number, lineOhm: number): number {
  const cos = Math.min(1, watts / (Math.sqrt(3) * volts * amps));
  const sin = Math.sqrt(1 - cos ** 2);
  const drop = (Math.sqrt(3) / 2) * amps * lineOhm;
  return Math.hypot(volts - drop * cos, drop * sin);
}

/**
 * Efficiency by parting the losses, stray losses from a line over torque squared.
 * Source: IEEE 112 method B and IEC 60034-2-1 method 2-1-1B (from memory).
 * @returns undefined where the no-load curve gives no friction, the core loss no value, or no line can be laid
 */
export function efficiencyBy(method: Method, q: EfficiencyQuestion, limits: ShopLimits = {}): Efficiency | undefined {
  const leastR = limit(LEAST_R[method], limits);
  const k = KELVIN_OFFSET[method];
  const ohmAt = (c: number): number => (q.coldOhm * (k + c)) / (k + q.coldC);
  const losses = separateLosses(q.noLoad, ohmAt(q.noLoadC), q.ratedV);
  const coreRatedW = losses?.coreAt(q.ratedV);
  if (!losses || coreRatedW === undefined) return undefined;
  const correction = q.dynamometer
    ? torqueCorrectionNm(q.dynamometer, ohmAt, coreRatedW, (120 * (q.load[0]?.frequencyHz ?? 50)) / q.poles)
    : 0;
  const first = q.load.map((p) => {
    const synchronous = (120 * p.frequencyHz) / q.poles;
    const slip = (synchronous - p.rpm) / synchronous;
    const torqueNm = p.torqueNm + correction;
    const innerV = method === '2-1-1B' ? innerVoltage(p.volts, p.amps, p.watts, ohmAt(p.windingC)) : undefined;
    const coreW = innerV === undefined ? coreRatedW : losses.coreAt(innerV);
    if (coreW === undefined) return undefined;
    const frictionW = method === 'B' ? losses.frictionW : losses.frictionW * (1 - slip) ** 2.5;
    const statorW = 1.5 * p.amps ** 2 * ohmAt(p.windingC);
    const rotorW = (p.watts - statorW - coreW) * slip;
    const outW = (torqueNm * p.rpm) / NM_PER_W_RPM;
    const apparentW = p.watts - outW;
    const rawStrayW = apparentW - statorW - coreW - frictionW - rotorW;
    return { point: p, torqueNm, slip, statorW, coreW, frictionW, rotorW, outW, apparentW, rawStrayW, innerV };
  });
  const all = first.filter((r) => r !== undefined);
  if (all.length !== first.length) return undefined;
  const laid = strayLine(all, leastR);
  if (!laid) return undefined;
  const { line, dropped } = laid;
  // what the winding is brought to: the rise of the rated run at a coolant of 25 °C
  const specifiedC = q.riseK + 25;
  const endC = q.riseK + q.coolantC;
  const kTheta = (k + endC + 25 - q.coolantC) / (k + endC);
  const rows = all.map((r, i): LoadRow => {
    const { point: p } = r;
    const strayW = line.slope * r.torqueNm ** 2;
    const statorCorrectedW = method === 'B' ? 1.5 * p.amps ** 2 * ohmAt(specifiedC) : kTheta * r.statorW;
    const slipFactor = method === 'B' ? (k + specifiedC) / (k + p.windingC) : kTheta;
    const rotorCorrectedW = (p.watts - statorCorrectedW - r.coreW) * r.slip * slipFactor;
    const lossW = statorCorrectedW + r.coreW + r.frictionW + rotorCorrectedW + strayW;
    const outCorrectedW = p.watts - lossW;
    return {
      torqueNm: r.torqueNm,
      slip: r.slip,
      statorW: r.statorW,
      coreW: r.coreW,
      frictionW: r.frictionW,
      rotorW: r.rotorW,
      outW: r.outW,
      apparentW: r.apparentW,
      rawStrayW: r.rawStrayW,
      dropped: i === dropped,
      strayW,
      statorCorrectedW,
      rotorCorrectedW,
      lossW,
      outCorrectedW,
      efficiency: outCorrectedW / p.watts,
      powerFactor: p.watts / (Math.sqrt(3) * p.volts * p.amps),
      ...(r.innerV === undefined ? {} : { innerV: r.innerV }),
    };
  });
  const unsatisfactory = !notBelow(line.r, leastR)
    ? `the line of stray losses has a correlation of ${formatNumber(line.r, 3)}, at least ${quoteLimit(LEAST_R[method], limits)} is wanted`
    : line.slope <= 0
      ? 'the stray losses do not rise with the torque'
      : undefined;
  return { method, losses, torqueCorrectionNm: correction, rows, stray: line, unsatisfactory };
}

/** The line of stray losses over torque squared; where it is too loose, once more without the point that is furthest from it. */
function strayLine(
  rows: readonly { torqueNm: number; rawStrayW: number }[],
  leastR: number,
): { line: Line; dropped: number | undefined } | undefined {
  const lay = (without?: number) => {
    const kept = rows.filter((_, i) => i !== without);
    return fitLine(
      kept.map((r) => r.torqueNm ** 2),
      kept.map((r) => r.rawStrayW),
    );
  };
  const line = lay();
  if (!line) return undefined;
  if (notBelow(line.r, leastR) || rows.length < 4) return { line, dropped: undefined };
  const off = rows.map((r) => Math.abs(r.rawStrayW - line.slope * r.torqueNm ** 2 - line.intercept));
  const dropped = off.indexOf(Math.max(...off));
  const again = lay(dropped);
  return again ? { line: again, dropped } : { line, dropped: undefined };
}

/** A figure at an output, on the line between the points beside it; undefined outside them. */
export function atOutput(rows: readonly LoadRow[], outW: number, figure: (row: LoadRow) => number): number | undefined {
  const sorted = [...rows].sort((a, b) => a.outCorrectedW - b.outCorrectedW);
  const after = sorted.findIndex((r) => r.outCorrectedW >= outW);
  const [b, a] = [sorted[after], sorted[after - 1]];
  if (!b) return undefined;
  if (b.outCorrectedW === outW) return figure(b);
  return a && figure(a) + ((figure(b) - figure(a)) * (outW - a.outCorrectedW)) / (b.outCorrectedW - a.outCorrectedW);
}
