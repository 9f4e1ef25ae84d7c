import type { JobDetail, TestTraceView, TestView } from '@norther/contracts';
import { formatNumber, TEST_STAGE_TITLES, type TestStage } from '@norther/core';
import { useMemo } from 'react';
import { useTraceQuery } from '../../app/api/instrument.ts';
import { Chart } from '../../chart/Chart.tsx';
import type { ChartPoint, ChartSeries } from '../../chart/chartModel.ts';

/** What of a trace is drawn, and how it is called. */
const DRAWN: Readonly<Record<string, { channel: string; title: string; unit: string }>> = {
  insulation: { channel: 'R', title: 'Insulation resistance over time', unit: 'MΩ' },
  'high potential': { channel: 'I', title: 'Current over the test', unit: 'mA' },
};
const POINTS = 400;
const NONE: ChartPoint[] = [];

function useCurve(trace: TestTraceView | undefined): ChartPoint[] {
  const { data } = useTraceQuery({ id: trace?.id ?? '', points: POINTS }, { skip: trace === undefined });
  return useMemo(() => {
    if (!data) return NONE;
    const at = data.channels.findIndex((c) => c.name === DRAWN[data.what]?.channel);
    return data.x.map((x, i) => ({ x, y: data.values[at]?.[i] ?? NaN }));
  }, [data]);
}

/** The curve that a test was read from, with that of the test before it. */
export function KeptCurves({ job, run }: { job: JobDetail; run: TestView }) {
  const own = run.traces.find((t) => DRAWN[t.what] !== undefined);
  const before = job.tests.findLast(
    (t) => t.kind === run.kind && t.takenAt < run.takenAt && t.traces.some((r) => r.what === own?.what),
  );
  const earlier = before?.traces.find((t) => t.what === own?.what);
  const [now, then] = [useCurve(own), useCurve(earlier)];
  const say = own && DRAWN[own.what];
  if (!say || now.length === 0) return null;
  const series: ChartSeries[] = [
    { key: 'now', label: 'this reading', shape: 'line and points', look: 'main', points: now },
    ...(before && then.length > 0
      ? [
          {
            key: 'then',
            label: `before, ${TEST_STAGE_TITLES[before.stage as TestStage]}`,
            shape: 'line' as const,
            look: 'quiet' as const,
            points: then,
          },
        ]
      : []),
  ];
  return (
    <Chart
      title={say.title}
      series={series}
      xKind="number"
      sayX={(x) => `${formatNumber(x, 3)} s`}
      sayY={(v) => `${formatNumber(v, 3)} ${say.unit}`}
      xLabel="Time, s"
      yLabel={say.unit}
      height={200}
    />
  );
}
