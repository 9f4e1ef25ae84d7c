import { CONDUCTORS } from '../winding/copper.ts';
import { awgDiameterM, METRIC_R20_MM, METRIC_R40_EXTRA_MM, SWG_NUMBERS, swgDiameterM } from './gauge.ts';
import { insulatedDiameterM } from './insulatedDiameter.ts';
import type { WireSystem } from './parseWires.ts';
import { metresPerKg } from './spools.ts';
import { CIRCULAR_MIL_M2 } from '../quantity/units.ts';
import { roundAreaM2 } from './strands.ts';

export interface SizeRow {
  system: WireSystem;
  label: string;
  bareM: number;
  /** over enamel, grade 1 and 2 */
  overallM: readonly [number, number];
  areaM2: number;
  circularMils: number;
  /** copper, grade 2 */
  metresPerKg: number;
  /** copper at 20 °C, Ω/km */
  ohmPerKm: number;
}

function rowOf(system: WireSystem, label: string, bareM: number): SizeRow {
  const overallM = [insulatedDiameterM(bareM, 1), insulatedDiameterM(bareM, 2)] as const;
  const areaM2 = roundAreaM2(bareM);
  return {
    system,
    label,
    bareM,
    overallM,
    areaM2,
    circularMils: areaM2 / CIRCULAR_MIL_M2,
    metresPerKg: metresPerKg(bareM, overallM[1]),
    ohmPerKm: (CONDUCTORS.copper.resistivityOhmM / areaM2) * 1000,
  };
}

/** Every size of one system that windings are made of, thickest last in metric, thickest first by gauge. */
export function sizeTable(system: WireSystem): SizeRow[] {
  if (system === 'metric')
    return [...METRIC_R20_MM, ...METRIC_R40_EXTRA_MM]
      .sort((a, b) => a - b)
      .map((d) => rowOf(system, d.toFixed(3).replace(/0$/, ''), d / 1000));
  if (system === 'awg')
    return Array.from({ length: 65 }, (_, i) => 8 + i / 2).map((n) => rowOf(system, `AWG ${n}`, awgDiameterM(n)));
  return SWG_NUMBERS.flatMap((n) => {
    const d = swgDiameterM(n);
    return d === undefined || d < 0.0001 || d > 0.005 ? [] : [rowOf(system, `SWG ${n}`, d)];
  });
}

/** The nearest size by area in another system, and how far its area is off, per cent. */
export function nearestSize(bareM: number, system: WireSystem): { row: SizeRow; offPercent: number } | undefined {
  let best: { row: SizeRow; offPercent: number } | undefined;
  for (const row of sizeTable(system)) {
    const offPercent = ((row.bareM / bareM) ** 2 - 1) * 100;
    if (!best || Math.abs(offPercent) < Math.abs(best.offPercent)) best = { row, offPercent };
  }
  return best;
}
