import type { TestTraceView } from '@norther/contracts';
import { formatNumber } from '@norther/core';
import { useMemo, useState } from 'react';
import { useTraceQuery } from '../../app/api/instrument.ts';
import { Chart } from '../../chart/Chart.tsx';
import { PlainSelect } from '../../ui/Field.tsx';
import { drawnOfTrace, seriesOf, voltagesOf, type DrawnWave } from './waves.ts';

/** The waves of one voltage laid over each other; any two of them as their difference. */
export function SurgeChart({ drawn, volts }: { drawn: readonly DrawnWave[]; volts: readonly number[] }) {
  const [chosen, setChosen] = useState<number>();
  const [pair, setPair] = useState('');
  const appliedV = chosen ?? volts.at(-1) ?? 0;
  const names = [...new Set(drawn.map((d) => d.name))];
  const pairs = names.flatMap((a, i) => names.slice(i + 1).map((b) => [a, b] as const));
  const difference = pairs.find(([a, b]) => `${a} ${b}` === pair);
  const series = useMemo(() => seriesOf(drawn, appliedV, difference), [drawn, appliedV, difference]);
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
            ...pairs.map(([a, b]) => ({ value: `${a} ${b}`, label: `${a} less ${b}` })),
          ]}
        />
      </div>
      <Chart
        title={`Waves at ${formatNumber(appliedV)} V`}
        series={series}
        xKind="number"
        sayX={(x) => `${formatNumber(x, 3)} µs`}
        sayY={(v) => `${formatNumber(v, 3)} V`}
        xLabel="Time, µs"
        yLabel="Volts"
        height={240}
      />
    </section>
  );
}

/** Points that one trace of waves is asked for. */
const POINTS = 700;

/** The waves that a recorded test was judged by. */
export function KeptWaves({ traces }: { traces: readonly TestTraceView[] }) {
  const [first, second, third, ...more] = traces;
  const loaded = [useOne(first), useOne(second), useOne(third)];
  const rest = more.length;
  const drawn = useMemo(() => loaded.flat(), [loaded[0], loaded[1], loaded[2]]); // eslint-disable-line react-hooks/exhaustive-deps
  return (
    <>
      <SurgeChart drawn={drawn} volts={voltagesOf(traces.slice(0, 3))} />
      {rest > 0 ? <p className="text-small text-soft">{rest} more records are kept with this test.</p> : null}
    </>
  );
}

const NONE: DrawnWave[] = [];
function useOne(trace: TestTraceView | undefined): DrawnWave[] {
  const { data } = useTraceQuery({ id: trace?.id ?? '', points: POINTS }, { skip: trace === undefined });
  return useMemo(() => (data ? drawnOfTrace(data) : NONE), [data]);
}
