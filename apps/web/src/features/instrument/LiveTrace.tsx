import { formatNumber } from '@norther/core';
import { useEffect, useMemo, useState } from 'react';
import { useTraceQuery } from '../../app/api/instrument.ts';
import { useTime } from '../../app/shop.ts';
import { Chart } from '../../chart/Chart.tsx';
import type { ChartSeries, Window } from '../../chart/chartModel.ts';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';

const LOOKS = ['main', 'second', 'third', 'quiet'] as const;
const POINTS = 800;

/** A trace as it grows: the last values in large figures, the course under them. */
export function LiveTrace({ id }: { id: string }) {
  const time = useTime();
  const [looked, setLooked] = useState<Window>();
  const [window, setWindow] = useState<Window>();
  useEffect(() => {
    const rest = setTimeout(() => setWindow(looked), 150);
    return () => clearTimeout(rest);
  }, [looked]);
  const whole = useTraceQuery({ id, points: POINTS });
  const zero = whole.data?.startAt ? Date.parse(whole.data.startAt) : 0;
  const near = useTraceQuery(
    { id, points: POINTS, from: window && (window[0] - zero) / 1000, to: window && (window[1] - zero) / 1000 },
    { skip: window === undefined || whole.data?.exact === true },
  );
  const view = (window === undefined ? undefined : near.data) ?? whole.data;
  const series = useMemo(
    (): ChartSeries[] =>
      (view?.channels ?? []).map((c, i) => ({
        key: `${i}`,
        label: `${c.name}, ${c.unit}`,
        shape: 'line',
        look: c.role === 'oven air' ? 'quiet' : (LOOKS[i % LOOKS.length] ?? 'main'),
        points: (view?.x ?? []).flatMap((x, k) => {
          const y = view?.values[i]?.[k] ?? null;
          return y === null ? [] : [{ x: zero + x * 1000, y }];
        }),
      })),
    [view, zero],
  );
  const span = useMemo(
    (): Window | undefined =>
      whole.data && whole.data.from !== null && whole.data.to !== null
        ? [zero + whole.data.from * 1000, zero + whole.data.to * 1000]
        : undefined,
    [whole.data, zero],
  );
  if (whole.error) return <ProblemNote error={whole.error} />;
  if (!whole.data || !view) return <Quiet>Reading …</Quiet>;
  const { channels, values, samples } = whole.data;
  const clock = (x: number) => time(new Date(x).toISOString()).slice(-5);
  return (
    <div className="space-y-2">
      <dl className="flex flex-wrap gap-x-8 gap-y-2">
        {channels.map((c, i) => (
          <div key={c.name}>
            <dt className="text-small text-soft">{c.name}</dt>
            <dd className="text-bench tabular-nums m-0">
              {formatNumber(values[i]?.findLast((v) => v !== null) ?? NaN, 4)} {c.unit}
            </dd>
          </div>
        ))}
      </dl>
      <div className="bg-sheet border border-line p-2">
        <Chart
          title={`What ${whole.data.sourceName} sends`}
          series={series}
          xKind="time"
          sayX={clock}
          sayY={(v) => `${formatNumber(v, 4)} ${channels[0]?.unit ?? ''}`}
          xLabel="Time"
          yLabel="Readings"
          span={span}
          onWindow={setLooked}
        />
      </div>
      <p className="text-small text-soft">
        {samples.toLocaleString('en')} samples since {whole.data.startAt ? time(whole.data.startAt) : ''}
        {whole.data.ended ? '; the run has ended' : ''}
        {whole.data.simulated ? '; sent by a simulated instrument' : ''}.
      </p>
    </div>
  );
}
