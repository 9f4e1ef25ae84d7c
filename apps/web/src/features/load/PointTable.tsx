import type { LoadRunView } from '@norther/contracts';
import { formatNumber, liveFigures, type LoadPoint } from '@norther/core';
import { Quiet } from '../../ui/Problem.tsx';
import { Table, type Column } from '../../ui/Table.tsx';

const figure = (id: string, head: string, of: (p: LoadPoint) => number | undefined, digits = 4): Column<LoadPoint> => ({
  id,
  head,
  align: 'right',
  cell: (p) => {
    const value = of(p);
    return value === undefined ? '–' : formatNumber(value, digits);
  },
});

/** The points that a run has given so far, and what one should know of them. */
export function PointTable({ run }: { run: LoadRunView }) {
  const { points, said } = run;
  if (points.length === 0)
    return <Quiet>None yet: a point is taken by itself when every figure has been steady for ten seconds.</Quiet>;
  const live = (p: LoadPoint) => liveFigures({ ...p, lineV: [p.volts], lineA: [p.amps] }, run.poles ?? undefined);
  const columns: Column<LoadPoint>[] = [
    { id: 'at', head: 'At, s', names: true, align: 'right', cell: (p) => formatNumber(p.t, 4) },
    figure('share', 'Load, %', (p) => (run.ratedNm === null ? undefined : (100 * p.torqueNm) / run.ratedNm), 3),
    figure('torque', 'N·m', (p) => p.torqueNm),
    figure('amps', 'A', (p) => p.amps),
    figure('watts', 'W', (p) => p.watts),
    figure('rpm', 'r/min', (p) => p.rpm, 5),
    figure('winding', '°C', (p) => p.windingC, 3),
    figure('efficiency', 'Out/in, %', (p) => {
      const share = live(p).efficiency;
      return share === undefined ? undefined : 100 * share;
    }),
  ];
  return (
    <>
      <Table label="Points" columns={columns} rows={points} keyOf={(p) => String(p.t)} />
      {said.map((s) => (
        <p key={s} className="text-attention text-small">
          {s}
        </p>
      ))}
    </>
  );
}
