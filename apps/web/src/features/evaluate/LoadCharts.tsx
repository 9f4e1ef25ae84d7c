import { Chart } from '../../chart/Chart.tsx';
import type { LoadChart } from './loadSeries.ts';

/** Charts of a running or loaded motor under each other. */
export function LoadCharts({ charts }: { charts: readonly LoadChart[] }) {
  return charts.map((c) => (
    <Chart
      key={c.title}
      title={c.title}
      series={c.series}
      xKind="number"
      sayX={c.sayX}
      sayY={c.sayY}
      xLabel={c.xLabel}
      yLabel={c.yLabel}
      height={200}
    />
  ));
}
