import { formatNumber } from '../quantity/format.ts';
import { METRIC_DEFAULTS, type ReadingDefaults } from '../quantity/fields.ts';
import { fromBase } from '../quantity/units.ts';
import type { WindingFigures } from './figures.ts';

export type FigureKey = Exclude<
  { [K in keyof WindingFigures]-?: number extends NonNullable<WindingFigures[K]> ? K : never }[keyof WindingFigures],
  never
>;

export interface FigureRow {
  readonly key: FigureKey;
  readonly label: string;
  readonly unit: string;
  /** shown = value * factor, in `unit` */
  readonly factor: number;
  readonly digits: number;
  /** symbols of the working steps that lead to it */
  readonly symbols: readonly string[];
}

const row = (
  key: FigureKey,
  label: string,
  factor: number,
  unit: string,
  symbols: readonly string[],
  digits = 4,
): FigureRow => ({ key, label, factor, unit, symbols, digits });

/** The figures of a winding in the order they are read. */
export const FIGURE_ROWS: readonly FigureRow[] = [
  row('windingFactor', 'Winding factor', 1, '', []),
  row('seriesTurns', 'Turns in series per phase', 1, '', ['N_s']),
  row('auxSeriesTurns', 'Auxiliary, turns in series', 1, '', []),
  row('turnsRatio', 'Turns ratio, auxiliary to main', 1, '', [], 3),
  row('fluxWb', 'Flux per pole', 1000, 'mWb', ['N_s', 'Φ']),
  row('airGapT', 'Air gap', 1, 'T', ['Φ', 'B_g'], 3),
  row('toothT', 'Tooth', 1, 'T', ['B_g', 'B_t'], 3),
  row('backIronT', 'Back iron', 1, 'T', ['Φ', 'B_c'], 3),
  row('voltsPerTurn', 'Volts per turn', 1, 'V', [], 3),
  row('voltsPerCoil', 'Volts per coil', 1, 'V', ['U_c'], 3),
  row('currentDensityAMm2', 'Current density', 1, 'A/mm²', ['J'], 3),
  row('linearLoadingAM', 'Linear loading', 0.001, 'kA/m', ['A'], 3),
  row('coggingPeriods', 'Cogging, periods a turn', 1, '', []),
  row('insulatedSquareFill', 'Slot fill (insulated squares)', 1, '', ['f'], 3),
  row('insulatedRoundFill', 'Slot fill (insulated rounds)', 1, '', ['f'], 3),
  row('copperFill', 'Slot fill (copper over gross)', 1, '', [], 3),
  row('meanTurnM', 'Mean turn', 1000, 'mm', ['MLT']),
  row('meanTurnGeometryM', 'Mean turn by geometry', 1000, 'mm', []),
  row('bareMassKg', 'Copper, bare', 1, 'kg', ['MLT', 'm'], 3),
  row('orderMassKg', 'Wire from stock', 1, 'kg', ['MLT', 'm'], 3),
  row('auxBareMassKg', 'Auxiliary copper, bare', 1, 'kg', [], 3),
  row('auxResistance20Ohm', 'Auxiliary resistance at 20 °C', 1, 'Ω', []),
  row('copperLossAt115W', 'Copper loss at 115 °C', 1, 'W', ['R_ph'], 3),
  row('lineResistance20Ohm', 'Lead to lead at 20 °C', 1, 'Ω', ['MLT', 'R_ph', 'R_LL']),
];

/**
 * One figure in the reader's units: inch, pound, kilolines per square inch and circular mils per ampere where the
 * reader works in those. What is recorded never changes.
 * @returns e.g. "0.889 T", or undefined when the figure is not known
 */
export function sayFigure(
  key: FigureKey,
  values: Partial<WindingFigures>,
  reader: ReadingDefaults = METRIC_DEFAULTS,
): string | undefined {
  const found = FIGURE_ROWS.find((r) => r.key === key);
  const base = values[key] as number | undefined;
  if (!found || base === undefined) return undefined;
  const say = (value: number, unit: string) => `${formatNumber(value, found.digits)}${unit ? ` ${unit}` : ''}`;
  if (found.unit === 'mm' && reader.lengthUnit === 'in') return say(fromBase(base, 'length', 'in'), 'in');
  if (found.unit === 'kg' && reader.massUnit === 'lb') return say(fromBase(base, 'mass', 'lb'), 'lb');
  if (found.unit === 'T' && reader.lengthUnit === 'in') return say(fromBase(base, 'fluxDensity', 'kl/in²'), 'kl/in²');
  if (key === 'currentDensityAMm2' && reader.wireSystem === 'awg' && values.circularMilsPerAmpere !== undefined)
    return say(values.circularMilsPerAmpere, 'cmil/A');
  return say(base * found.factor, found.unit);
}
