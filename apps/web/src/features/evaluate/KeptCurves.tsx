import type { EarlierTestView, JobDetail, TestTraceView, TestView } from '@norther/contracts';
import { formatNumber, TEST_STAGE_TITLES, stageTitle, type RouteId, type TestStage } from '@norther/core';
import { useMemo } from 'react';
import { useEarlierTestsQuery } from '../../app/api/evaluate.ts';
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
  const { data: visits = [] } = useEarlierTestsQuery(job.number, { skip: own === undefined });
  // the newest of each earlier visit, at the same stage where there is one
  const [visit, visitBefore] = curvesOfVisits(visits, run, own?.what);
  const [now, then, last, lastButOne] = [
    useCurve(own),
    useCurve(earlier),
    useCurve(visit?.trace),
    useCurve(visitBefore?.trace),
  ];
  const say = own && DRAWN[own.what];
  if (!say || now.length === 0) return null;
  const series: ChartSeries[] = [
    { key: 'now', label: 'this reading', shape: 'line and points', look: 'main', points: now },
    ...(before && then.length > 0
      ? [
          {
            key: 'then',
            label: `before, ${stageTitle(before.stage as TestStage, job.route as RouteId)}`,
            shape: 'line' as const,
            look: 'quiet' as const,
            points: then,
          },
        ]
      : []),
    ...[
      { of: visit, points: last },
      { of: visitBefore, points: lastButOne },
    ].flatMap(({ of, points }): ChartSeries[] =>
      of && points.length > 0
        ? [
            {
              key: of.number,
              label: `${of.number}, ${TEST_STAGE_TITLES[of.stage as TestStage]}`,
              shape: 'line',
              look: 'quiet',
              points,
            },
          ]
        : [],
    ),
  ];
  const conditions = conditionsOf(run);
  return (
    <>
      <Chart
        title={say.title}
        series={series}
        xKind="number"
        sayX={(x) => `${formatNumber(x, 3)} s`}
        sayY={(v, digits = 3) => `${formatNumber(v, digits)} ${say.unit}`}
        xLabel="Time, s"
        yLabel={say.unit}
        height={200}
      />
      {conditions === '' ? null : <p className="text-small text-soft">{conditions}</p>}
    </>
  );
}

/** Curves of up to two earlier visits. */
function curvesOfVisits(
  visits: readonly EarlierTestView[],
  run: TestView,
  what: string | undefined,
): { number: string; stage: string; trace: TestTraceView }[] {
  const found = new Map<string, { number: string; stage: string; trace: TestTraceView }>();
  const own = visits.filter((v) => v.kind === run.kind && v.part === run.part);
  for (const v of [...own.filter((o) => o.stage === run.stage), ...own]) {
    const trace = v.traces.find((t) => t.what === what);
    if (trace && !found.has(v.number)) found.set(v.number, { number: v.number, stage: v.stage, trace });
  }
  return [...found.values()].slice(0, 2);
}

/** How far the winding was above the dew point while the curve was taken. */
function conditionsOf(run: TestView): string {
  const { dewPointC } = ((run.result as { values?: { dewPointC?: unknown } } | null)?.values ?? {}) as {
    dewPointC?: unknown;
  };
  const winding = run.values['windingC'];
  if (typeof dewPointC !== 'number' || typeof winding !== 'number') return '';
  const above = winding - dewPointC;
  return `Dew point ${formatNumber(dewPointC, 3)} °C; the winding, at ${formatNumber(winding)} °C, lay ${formatNumber(Math.abs(above), 3)} K ${above < 0 ? 'below' : 'above'} it.`;
}
