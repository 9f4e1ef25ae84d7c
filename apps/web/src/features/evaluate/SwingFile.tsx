import { formatNumber, readSwingLog, swingOfLog } from '@norther/core';
import { useMemo, useState } from 'react';
import { Chart } from '../../chart/Chart.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';

/** Points of the drawing at most. */
const POINTS = 1000;

/** The current of one turn of the rotor, logged: its largest and smallest, its dips, into the fields. */
export function SwingFile({ onFill }: { onFill: (typed: Readonly<Record<string, string>>) => void }) {
  const [amps, setAmps] = useState<readonly number[]>([]);
  const [problem, setProblem] = useState('');
  const points = useMemo(() => {
    const every = Math.max(1, Math.ceil(amps.length / POINTS));
    return amps.flatMap((y, i) => (i % every === 0 ? [{ x: (100 * i) / amps.length, y }] : []));
  }, [amps]);
  return (
    <div className="border-b border-line pb-2 mb-2">
      <label className="block">
        <span className="block text-small text-soft">
          Current of one turn from a file (CSV), the last column in ampere
        </span>
        <input
          type="file"
          accept=".csv,.txt,text/csv,text/plain"
          className="min-h-9 text-small"
          onChange={(e) => {
            const chosen = e.target.files?.[0];
            if (!chosen) return;
            void chosen.text().then((csv) => {
              const read = readSwingLog(csv);
              setProblem(read.problem ?? '');
              setAmps(read.problem ? [] : read.amps);
              if (read.problem) return;
              const { maxA, minA, dips } = swingOfLog(read.amps);
              onFill({ maxA: formatNumber(maxA, 5), minA: formatNumber(minA, 5), dips: String(dips) });
            });
          }}
        />
      </label>
      {problem ? <ProblemNote>{problem}</ProblemNote> : null}
      {points.length > 0 ? (
        <Chart
          title="Current over one turn of the rotor"
          series={[{ key: 'i', label: 'current', shape: 'line', look: 'main', points }]}
          xKind="number"
          sayX={(x) => `${formatNumber(x, 3)} %`}
          sayY={(v, digits = 4) => `${formatNumber(v, digits)} A`}
          xLabel="Part of the turn, %"
          yLabel="A"
          height={180}
        />
      ) : null}
    </div>
  );
}
