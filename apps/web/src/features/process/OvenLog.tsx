import { formatNumber } from '@norther/core';
import type { TraceHeadView, TraceView } from '@norther/contracts';
import { useMemo } from 'react';
import { useSettings } from '../../app/shop.ts';
import { useTraceWindow } from '../../app/useTrace.ts';
import { Chart } from '../../chart/Chart.tsx';
import type { ChartPoint, ChartSeries } from '../../chart/chartModel.ts';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';

const LOOKS = ['main', 'second', 'third'] as const;

/** The values of one channel as points; where nothing was read for longer than a gap the line breaks. */
function pointsOf(
  view: TraceView,
  channel: number,
  toMin: number,
  gap: number,
  degrees: (c: number) => number,
): ChartPoint[] {
  const out: ChartPoint[] = [];
  let last: number | undefined;
  view.x.forEach((said, i) => {
    const x = said * toMin;
    const v = view.values[channel]?.[i] ?? null;
    if (v === null) return;
    if (last !== undefined && x - last > gap) out.push({ x: (x + last) / 2, y: NaN });
    out.push({ x, y: degrees(v) });
    last = x;
  });
  return out;
}

/** A recorded oven log: asked for by the window that is looked at, with the cure so far under it. */
export function OvenLog({
  trace,
  ratedC,
  maxC,
  maxGapMin,
  course,
}: {
  trace: TraceHeadView;
  ratedC: number;
  maxC: number;
  maxGapMin: number;
  course?: readonly { timeMin: number; degree: number }[] | undefined;
}) {
  const unit = useSettings()?.units.temperatureUnit ?? '°C';
  // an instrument counts seconds, a file minutes; the cure is told in minutes
  const toMin = trace.xUnit === 's' ? 1 / 60 : 1;
  const { view, error, span, setLooked } = useTraceWindow(trace.id, () => ({ zero: 0, scale: toMin }));
  const series = useMemo((): ChartSeries[] => {
    if (!view) return [];
    const degrees = (c: number) => (unit === '°F' ? (c * 9) / 5 + 32 : c);
    let measured = 0;
    return trace.channels.flatMap((c, i): ChartSeries[] =>
      c.role === 'not used'
        ? []
        : [
            {
              key: `${i}`,
              label: c.name,
              shape: 'line',
              look: c.role === 'oven air' ? 'quiet' : (LOOKS[measured++ % LOOKS.length] ?? 'main'),
              points: pointsOf(view, i, toMin, view.exact ? maxGapMin : Infinity, degrees),
            },
          ],
    );
  }, [view, unit, maxGapMin, trace, toMin]);
  const inShop = (c: number) => (unit === '°F' ? (c * 9) / 5 + 32 : c);
  if (error) return <ProblemNote error={error} />;
  if (!view) return <Quiet>Reading the log …</Quiet>;
  const minutes = (x: number) => `${formatNumber(x, 4)} min`;
  return (
    <div className="bg-sheet border border-line p-2">
      <Chart
        title={`Temperatures of ${trace.what} log`}
        series={series}
        xKind="number"
        limits={[
          { label: 'rated', value: inShop(ratedC), role: 'good' },
          { label: 'never above', value: inShop(maxC), role: 'bad' },
        ]}
        sayX={minutes}
        sayY={(v, digits = 4) => `${formatNumber(v, digits)} ${unit}`}
        xLabel="Time"
        yLabel="Temperature"
        span={span}
        onWindow={setLooked}
      />
      {course && course.length > 1 ? (
        <Chart
          title="Cure so far"
          series={[
            {
              key: 'cure',
              label: 'cure of the coldest part',
              shape: 'line',
              look: 'main',
              points: course.map((p) => ({ x: p.timeMin, y: 100 * p.degree })),
            },
          ]}
          xKind="number"
          limits={[{ label: 'cured', value: 100, role: 'good' }]}
          height={150}
          span={span}
          sayX={minutes}
          sayY={(v, digits = 3) => `${formatNumber(v, digits)} %`}
          xLabel="Time"
          yLabel="Cure"
        />
      ) : null}
      {view.exact ? null : (
        <p className="text-small text-soft">
          {trace.samples.toLocaleString('en')} rows are kept; every peak is drawn. Zoom in for each row.
        </p>
      )}
    </div>
  );
}
