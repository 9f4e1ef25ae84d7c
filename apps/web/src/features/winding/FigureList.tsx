import { FIGURE_ROWS, sayFigure, type CalculationResult, type WindingFigures } from '@norther/core';
import { useReadingDefaults } from '../../app/shop.ts';
import { Worked } from '../../ui/Working.tsx';

/** The figures of a winding in the reader's units; each opens to its formula, inputs and source. */
export function FigureList({ result }: { result: CalculationResult<WindingFigures> }) {
  const reader = useReadingDefaults();
  const rows = FIGURE_ROWS.flatMap((row) => {
    const twice =
      row.key === 'meanTurnGeometryM' && ['geometry', 'measured projection'].includes(result.values.meanTurnFrom);
    const text = row.key === 'orderMassKg' || twice ? undefined : sayFigure(row.key, result.values, reader);
    return text === undefined ? [] : [{ ...row, text }];
  });
  if (rows.length === 0) return null;
  return (
    <section aria-label="Figures">
      <h2 className="font-semibold">Figures</h2>
      <dl className="grid grid-cols-[1fr_auto] gap-x-4">
        {rows.map(({ key, label, symbols, text }) => (
          <div key={key} className="contents">
            <dt className="text-soft border-t border-line py-0.5">
              {label}
              {key === 'meanTurnM' ? `, from ${result.values.meanTurnFrom}` : ''}
            </dt>
            <dd className="text-right border-t border-line py-0.5">
              <Worked title={label} steps={result.working.filter((w) => symbols.includes(w.symbol))}>
                {text}
              </Worked>
            </dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
