import { formatNumber, fromBase, type CalculationResult, type WindingFigures } from '@norther/core';
import { useSettings } from '../../app/shop.ts';
import { Worked } from '../../ui/Working.tsx';

type Row = [
  label: string,
  key: keyof WindingFigures,
  factor: number,
  unit: string,
  symbols: readonly string[],
  digits?: number,
];

const ROWS: readonly Row[] = [
  ['Winding factor', 'windingFactor', 1, '', [], 4],
  ['Turns in series per phase', 'seriesTurns', 1, '', ['N_s']],
  ['Flux per pole', 'fluxWb', 1000, 'mWb', ['N_s', 'Φ']],
  ['Air gap', 'airGapT', 1, 'T', ['Φ', 'B_g'], 3],
  ['Tooth', 'toothT', 1, 'T', ['B_g', 'B_t'], 3],
  ['Back iron', 'backIronT', 1, 'T', ['Φ', 'B_c'], 3],
  ['Volts per coil', 'voltsPerCoil', 1, 'V', ['U_c'], 3],
  ['Current density', 'currentDensityAMm2', 1, 'A/mm²', ['J'], 3],
  ['Linear loading', 'linearLoadingAM', 0.001, 'kA/m', ['A'], 3],
  ['Slot fill (insulated squares)', 'insulatedSquareFill', 1, '', ['f'], 3],
  ['Mean turn', 'meanTurnM', 1000, 'mm', ['MLT']],
  ['Copper, bare', 'bareMassKg', 1, 'kg', ['MLT', 'm'], 3],
  ['Lead to lead at 20 °C', 'lineResistance20Ohm', 1, 'Ω', ['MLT', 'R_ph', 'R_LL']],
];

/** The figures of a winding; each opens to its formula, inputs and source. */
export function FigureList({ result }: { result: CalculationResult<WindingFigures> }) {
  const units = useSettings()?.units;
  /** the reader's units change what is shown, never what is recorded */
  const shown = (key: keyof WindingFigures, factor: number, unit: string): [number, string] => {
    const base = result.values[key] as number;
    if (key === 'meanTurnM' && units?.lengthUnit === 'in') return [fromBase(base, 'length', 'in'), 'in'];
    if (key === 'bareMassKg' && units?.massUnit === 'lb') return [fromBase(base, 'mass', 'lb'), 'lb'];
    if (unit === 'T' && units?.lengthUnit === 'in') return [fromBase(base, 'fluxDensity', 'kl/in²'), 'kl/in²'];
    if (key === 'currentDensityAMm2' && units?.wireSystem === 'awg')
      return [result.values.circularMilsPerAmpere ?? 0, 'cmil/A'];
    return [base * factor, unit];
  };
  const rows = ROWS.filter(([, key]) => typeof result.values[key] === 'number');
  if (rows.length === 0) return null;
  return (
    <section aria-label="Figures">
      <h2 className="font-semibold">Figures</h2>
      <dl className="grid grid-cols-[1fr_auto] gap-x-4">
        {rows.map(([label, key, factor, unit, symbols, digits]) => (
          <div key={key} className="contents">
            <dt className="text-soft border-t border-line py-0.5">
              {label}
              {key === 'meanTurnM' ? `, from ${result.values.meanTurnFrom}` : ''}
            </dt>
            <dd className="text-right border-t border-line py-0.5">
              <Worked title={label} steps={result.working.filter((w) => symbols.includes(w.symbol))}>
                {formatNumber(shown(key, factor, unit)[0], digits ?? 4)} {shown(key, factor, unit)[1]}
              </Worked>
            </dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
