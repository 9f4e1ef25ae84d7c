import { formatNumber, type LoadRow } from '@norther/core';
import type { JobDetail, TestView } from '@norther/contracts';
import { useMemo } from 'react';
import { LoadCharts } from './LoadCharts.tsx';
import { Table, type Column } from '../../ui/Table.tsx';
import { loadCharts, lockedChart, noLoadChart, riseChart, type LoadChart, type MethodRows } from './loadSeries.ts';

/** What a test of the running or loaded motor was worked out from, drawn; the points of a load test as a table. */
export function LoadResult({ job, run }: { job: JobDetail; run: TestView }) {
  const charts = useMemo(() => chartsOf(job, run), [job, run]);
  const methods = methodsOf(run);
  return (
    <>
      <LoadCharts charts={charts} />
      {methods.map((m) => (
        <details key={m.method} className="text-small">
          <summary className="cursor-pointer text-accent py-1">Every point by method {m.method}</summary>
          <Table
            label={`Points by method ${m.method}`}
            columns={COLUMNS}
            rows={m.rows}
            keyOf={(r) => `${r.torqueNm}`}
            rowClass={(r) => (r.dropped ? 'text-attention' : '')}
          />
        </details>
      ))}
    </>
  );
}

const watt = (id: string, head: string, of: (r: LoadRow) => number): Column<LoadRow> => ({
  id,
  head,
  align: 'right',
  cell: (r) => formatNumber(of(r), 4),
});
const COLUMNS: Column<LoadRow>[] = [
  {
    id: 'torque',
    head: 'Torque, N m',
    names: true,
    align: 'right',
    cell: (r) => `${formatNumber(r.torqueNm, 4)}${r.dropped ? ', left out' : ''}`,
  },
  { id: 'slip', head: 'Slip, %', align: 'right', cell: (r) => formatNumber(100 * r.slip, 3) },
  watt('stator', 'Stator, W', (r) => r.statorCorrectedW),
  watt('rotor', 'Rotor, W', (r) => r.rotorCorrectedW),
  watt('core', 'Core, W', (r) => r.coreW),
  watt('friction', 'Friction, W', (r) => r.frictionW),
  watt('stray', 'Stray, W', (r) => r.strayW),
  watt('out', 'Output, W', (r) => r.outCorrectedW),
  { id: 'efficiency', head: 'Efficiency, %', align: 'right', cell: (r) => formatNumber(100 * r.efficiency, 4) },
  { id: 'pf', head: 'Power factor', align: 'right', cell: (r) => formatNumber(r.powerFactor, 3) },
];

const valuesOf = (run: TestView): Record<string, unknown> =>
  (run.result as { values?: Record<string, unknown> } | null)?.values ?? {};
const methodsOf = (run: TestView): MethodRows[] =>
  run.kind === 'loadTest' ? ((valuesOf(run)['methods'] as MethodRows[] | undefined) ?? []) : [];

function chartsOf(job: JobDetail, run: TestView): LoadChart[] {
  const result = valuesOf(run);
  const one = (chart: LoadChart | undefined) => (chart ? [chart] : []);
  switch (run.kind) {
    case 'noLoadCurve':
      return one(noLoadChart(run.values, result as never));
    case 'loadTest': {
      const judged = run.values['method'];
      return loadCharts(methodsOf(run), typeof judged === 'string' ? judged : '2-1-1B');
    }
    case 'temperatureRise':
      return one(riseChart(result as never));
    case 'lockedRotor': {
      const volts = job.nameplate.voltagesV;
      return one(lockedChart(run.values, result as never, volts ? Math.max(...volts) : undefined));
    }
    default:
      return [];
  }
}
