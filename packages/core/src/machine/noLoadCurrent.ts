import type { WindingFigures } from '../winding/figures.ts';
import type { WindingRecord } from '../winding/record.ts';

/** Permeability of vacuum, H/m. */
const MU_0 = 4e-7 * Math.PI;

/** Iron's share of the magnetizing force by tooth density, T: factor on the gap's (common practice). */
const IRON: readonly (readonly [number, number])[] = [
  [1.5, 1.2],
  [1.7, 1.35],
  [1.85, 1.6],
  [1.95, 2],
];

/** Factor k_s for the iron at a tooth density in T; undefined above 1.95 T. Linear between the points (common practice). */
export function ironFactor(toothT: number): number | undefined {
  const [first] = IRON;
  if (first && toothT <= first[0]) return first[1];
  for (let i = 1; i < IRON.length; i++) {
    const [x0, y0] = IRON[i - 1] as readonly [number, number];
    const [x1, y1] = IRON[i] as readonly [number, number];
    if (toothT <= x1) return y0 + ((toothT - x0) / (x1 - x0)) * (y1 - y0);
  }
  return undefined;
}

/** Carter's factor of slots with an opening: t/(t − γg), γ = (o/g)²/(5 + o/g). */
export function carterFactor(pitchM: number, openingM: number, gapM: number): number {
  const ratio = openingM / gapM;
  return pitchM / (pitchM - (ratio ** 2 / (5 + ratio)) * gapM);
}

export interface Magnetizing {
  carter: number;
  iron: number;
  /** of a phase, A */
  phaseA: number;
}

/**
 * Magnetizing current of a phase, A: π B_g g k_C k_s P / (6√2 μ₀ N_s k_w), B_g the peak at the no-load voltage.
 * Undefined where the teeth are saturated beyond the table. Source: derived; iron factor common practice.
 */
export function magnetizingCurrent(x: {
  airGapT: number;
  toothT: number;
  gapM: number;
  boreM: number;
  slots: number;
  openingM: number;
  poles: number;
  seriesTurns: number;
  windingFactor: number;
}): Magnetizing | undefined {
  const iron = ironFactor(x.toothT);
  if (iron === undefined) return undefined;
  const carter = carterFactor((Math.PI * x.boreM) / x.slots, x.openingM, x.gapM);
  const phaseA =
    (Math.PI * x.airGapT * x.gapM * carter * iron * x.poles) /
    (6 * Math.SQRT2 * MU_0 * x.seriesTurns * x.windingFactor);
  return { carter, iron, phaseA };
}

/** A winding at one of its speeds, as it runs. */
export interface Running {
  poles: number;
  seriesTurns: number;
  windingFactor: number;
  connection: 'wye' | 'delta';
  airGapT: number;
  toothT: number;
}

/** A winding as `figures` reckon it; undefined while something is missing. */
export function runningOf(
  record: WindingRecord,
  figures: WindingFigures,
  connection: 'wye' | 'delta' | undefined,
): Running | undefined {
  const { seriesTurns, windingFactor, airGapT, toothT } = figures;
  const { poles } = record;
  return poles === undefined ||
    connection === undefined ||
    seriesTurns === undefined ||
    windingFactor === undefined ||
    airGapT === undefined ||
    toothT === undefined
    ? undefined
    : { poles, seriesTurns, windingFactor, connection, airGapT, toothT };
}

/** Expected line current at no load and rated voltage from the machine's own winding and gap, A; undefined while a size is missing. */
export function expectedNoLoadA(record: WindingRecord, running: Running | undefined): number | undefined {
  const { airGapM, boreM, slots, slotOpeningM } = record;
  if (!running || airGapM === undefined || boreM === undefined || slots === undefined || slotOpeningM === undefined)
    return undefined;
  const made = magnetizingCurrent({ ...running, gapM: airGapM, boreM, slots, openingM: slotOpeningM });
  return made && made.phaseA * (running.connection === 'delta' ? Math.sqrt(3) : 1);
}
