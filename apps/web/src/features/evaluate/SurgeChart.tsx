import type { TestTraceView } from '@norther/contracts';
import { formatNumber } from '@norther/core';
import { useMemo, useState } from 'react';
import { useTraceWindow } from '../../app/useTrace.ts';
import { Chart } from '../../chart/Chart.tsx';
import { PlainSelect } from '../../ui/Field.tsx';
import type { ChartSeries, Window } from '../../chart/chartModel.ts';
import type { Expected } from './useExpected.ts';
import { drawnOfTrace, seriesOf, voltagesOf, type DrawnWave } from './waves.ts';

/** What is chosen to see the waves that the joints should make. */
const EXPECTED = 'expected';

/** The waves of one voltage laid over each other; any two of them as their difference, or with what the joints should make. */
export function SurgeChart({
  drawn,
  volts,
  expected,
  span,
  onWindow,
}: {
  drawn: readonly DrawnWave[];
  volts: readonly number[];
  expected?: Expected | undefined;
  /** where the waves begin and end, µs, when a part of them is drawn finer */
  span?: Window | undefined;
  onWindow?: (window: Window) => void;
}) {
  const [chosen, setChosen] = useState<number>();
  const [pair, setPair] = useState('');
  const appliedV = chosen ?? volts.at(-1) ?? 0;
  const names = [...new Set(drawn.map((d) => d.name))];
  const pairs = names.flatMap((a, i) => names.slice(i + 1).map((b) => [a, b] as const));
  const difference = pairs.find(([a, b]) => `${a} ${b}` === pair);
  const withExpected = pair === EXPECTED && expected !== undefined;
  const series = useMemo(
    () => [
      ...seriesOf(drawn, appliedV, difference),
      ...(withExpected
        ? expected
            .drawn(drawn, appliedV)
            .map((d): ChartSeries => ({ key: d.name, label: d.name, shape: 'line', look: 'quiet', points: d.points }))
        : []),
    ],
    [drawn, appliedV, difference, withExpected, expected],
  );
  if (drawn.length === 0) return null;
  return (
    <section aria-label="Waves" className="my-3">
      <div className="flex gap-3 items-end">
        <PlainSelect
          label="At"
          value={String(appliedV)}
          onChange={(e) => setChosen(Number(e.target.value))}
          options={volts.map((v) => ({ value: String(v), label: `${formatNumber(v)} V` }))}
        />
        <PlainSelect
          label="Shown"
          value={pair}
          onChange={(e) => setPair(e.target.value)}
          options={[
            { value: '', label: 'all waves' },
            ...(expected ? [{ value: EXPECTED, label: `with those of the joints ${expected.from}` }] : []),
            ...pairs.map(([a, b]) => ({ value: `${a} ${b}`, label: `${a} less ${b}` })),
          ]}
        />
      </div>
      <Chart
        title={`Waves at ${formatNumber(appliedV)} V`}
        series={series}
        xKind="number"
        sayX={(x) => `${formatNumber(x, 3)} µs`}
        sayY={(v, digits = 3) => `${formatNumber(v, digits)} V`}
        xLabel="Time, µs"
        yLabel="Volts"
        height={240}
        span={span}
        {...(onWindow ? { onWindow } : {})}
      />
      {withExpected ? <p className="text-small text-soft">{expected.says}</p> : null}
    </section>
  );
}

/** Seconds of a trace are drawn as µs. */
const MICRO = { zero: 0, scale: 1e6 };
const inMicro = () => MICRO;

/** The waves that a recorded test was judged by; where the drawing is zoomed to, they are asked for again, finer. */
export function KeptWaves({ traces, expected }: { traces: readonly TestTraceView[]; expected?: Expected | undefined }) {
  const [first, second, third, ...more] = traces;
  const loaded = [
    useTraceWindow(first?.id, inMicro),
    useTraceWindow(second?.id, inMicro),
    useTraceWindow(third?.id, inMicro),
  ];
  const views = loaded.map((l) => l.view);
  // eslint-disable-next-line react-hooks/exhaustive-deps
  const drawn = useMemo(() => views.flatMap((v) => (v ? drawnOfTrace(v) : [])), [views[0], views[1], views[2]]);
  const spans = loaded.flatMap((l) => (l.span ? [l.span] : []));
  const [from, to] = [Math.min(...spans.map((s) => s[0])), Math.max(...spans.map((s) => s[1]))];
  const span = useMemo((): Window | undefined => (from < to ? [from, to] : undefined), [from, to]);
  const rest = more.length;
  return (
    <>
      <SurgeChart
        drawn={drawn}
        volts={voltagesOf(traces.slice(0, 3))}
        expected={expected}
        span={span}
        onWindow={(window) => {
          for (const l of loaded) l.setLooked(window);
        }}
      />
      {rest > 0 ? <p className="text-small text-soft">{rest} more records are kept with this test.</p> : null}
    </>
  );
}
