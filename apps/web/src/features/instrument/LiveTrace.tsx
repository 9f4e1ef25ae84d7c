import { formatNumber } from '@norther/core';
import type { TraceView } from '@norther/contracts';
import { useMemo } from 'react';
import { useTime } from '../../app/shop.ts';
import { useTail, useTraceWindow } from '../../app/useTrace.ts';
import { Chart } from '../../chart/Chart.tsx';
import type { ChartLimit, ChartSeries, Window } from '../../chart/chartModel.ts';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';

/** Below this span the clock of a chart has seconds. */
const SHORT_MS = 600_000;
const LOOKS = ['main', 'second', 'third', 'quiet'] as const;
/** An instrument counts seconds from its start, a file minutes; the chart shows the clock. */
const scaleOf = (whole: TraceView | undefined): number => (whole?.xUnit === 'min' ? 60_000 : 1000);
const axisOf = (whole: TraceView | undefined) => ({
  zero: whole?.startAt ? Date.parse(whole.startAt) : 0,
  scale: scaleOf(whole),
});

/** What the axis counts. @example quantityIn('°C') // 'Temperature, °C' */
const quantityIn = (unit: string): string => (unit === '°C' || unit === '°F' ? `Temperature, ${unit}` : unit);

/** A trace as it grows: the last values in large figures, the course under them. */
export function LiveTrace({
  id,
  names,
  limits = [],
  only,
}: {
  id: string;
  /** what its channels are called here; with it the figures stand elsewhere */
  names?: ReadonlyMap<string, string>;
  limits?: readonly ChartLimit[];
  /** the channels that are drawn; left out: all */
  only?: readonly string[];
}) {
  const time = useTime();
  const { whole, view, error, again, span, isNear, setLooked, zero } = useTraceWindow(id, axisOf);
  const scale = scaleOf(whole);
  const tail = useTail(id, whole, again);
  const series = useMemo(
    (): (ChartSeries & { unit: string })[] =>
      (view?.channels ?? []).flatMap((c, i): (ChartSeries & { unit: string })[] =>
        only && !only.includes(c.name)
          ? []
          : [
              {
                unit: c.unit,
                key: `${i}`,
                label: `${names?.get(c.name) ?? c.name}, ${c.unit}`,
                shape: 'line',
                look: c.role === 'oven air' ? 'quiet' : (LOOKS[i % LOOKS.length] ?? 'main'),
                points: [view, isNear ? undefined : tail].flatMap((part) =>
                  (part?.x ?? []).flatMap((x, k) => {
                    const y = part?.values[i]?.[k] ?? null;
                    return y === null ? [] : [{ x: zero + x * scale, y }];
                  }),
                ),
              },
            ],
      ),
    [view, tail, isNear, zero, scale, names, only],
  );
  const newest = tail.x.at(-1);
  const grown = useMemo(
    (): Window | undefined =>
      span && (newest === undefined ? span : [span[0], Math.max(span[1], zero + newest * scale)]),
    [span, newest, zero, scale],
  );
  if (error) return <ProblemNote error={error} />;
  if (!whole || !view) return <Quiet>Reading …</Quiet>;
  const { channels, values, samples } = whole;
  const units = [...new Set(series.map((s) => s.unit))];
  // marks of a short run would read alike without their seconds
  const isShort = grown !== undefined && grown[1] - grown[0] < SHORT_MS;
  const clock = (x: number) => {
    const iso = new Date(x).toISOString();
    return isShort ? time(iso, 'clock with seconds') : time(iso).slice(-5);
  };
  return (
    <div className="space-y-2">
      <dl className={names ? 'hidden' : 'flex flex-wrap gap-x-8 gap-y-2'}>
        {channels.map((c, i) => (
          <div key={c.name}>
            <dt className="text-small text-soft">{c.name}</dt>
            <dd className="text-bench tabular-nums m-0">
              {formatNumber(
                tail.values[i]?.findLast((v) => v !== null) ?? values[i]?.findLast((v) => v !== null) ?? NaN,
                4,
              )}{' '}
              {c.unit}
            </dd>
          </div>
        ))}
      </dl>
      {/* a chart for each unit: figures of unlike kinds share no axis */}
      {units.map((unit) => (
        <div key={unit} className="bg-sheet border border-line p-2">
          <Chart
            title={`What ${whole.sourceName} ${whole.ended ? 'holds' : 'sends'}${units.length > 1 ? `, ${unit}` : ''}`}
            series={series.filter((s) => s.unit === unit)}
            xKind="time"
            limits={limits}
            sayX={clock}
            sayY={(v, digits = 4) => `${formatNumber(v, digits)} ${unit}`}
            xLabel="Time"
            yLabel={quantityIn(unit)}
            span={grown}
            onWindow={setLooked}
          />
        </div>
      ))}
      <p className="text-small text-soft">
        {(samples + tail.x.length).toLocaleString('en')} samples since {whole.startAt ? time(whole.startAt) : ''}
        {whole.ended ? '; the run has ended' : ''}
        {whole.simulated ? '; sent by a simulated instrument' : ''}.
      </p>
    </div>
  );
}
