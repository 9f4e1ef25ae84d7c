import { formatNumber, measurablesOf, TEST_STAGE_TITLES, type TestKind } from '@norther/core';
import type { JobDetail, TrendPoint } from '@norther/contracts';
import { useMemo, useState } from 'react';
import { useTrendQuery } from '../../app/api/evaluate.ts';
import { useTime } from '../../app/shop.ts';
import { Chart } from '../../chart/Chart.tsx';
import type { ChartPoint, ChartSeries } from '../../chart/chartModel.ts';
import { PlainSelect } from '../../ui/Field.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';

const bare = (points: readonly TrendPoint[], own: boolean): ChartPoint[] =>
  points.map((p) => ({
    x: Date.parse(p.at),
    y: p.value,
    note: [
      p.stage ? TEST_STAGE_TITLES[p.stage] : '',
      p.number,
      p.bound === 'above' ? 'over the range of the instrument' : '',
      own && p.verdict ? p.verdict : '',
    ]
      .filter(Boolean)
      .join(', '),
    tone: own ? (p.verdict ?? undefined) : undefined,
  }));

/** One quantity of a test over stages and visits of this motor, with motors of its kind behind it. */
export function TrendView({ job, kind }: { job: JobDetail; kind: TestKind }) {
  const measurable = useMemo(() => measurablesOf(kind), [kind]);
  const [chosen, setChosen] = useState(measurable[0]?.what ?? '');
  const time = useTime();
  const { data, error } = useTrendQuery({ number: job.number, what: chosen }, { skip: chosen === '' });
  const series = useMemo(
    (): ChartSeries[] => [
      {
        key: 'others',
        label: data?.family ?? 'others',
        shape: 'points',
        look: 'quiet',
        points: bare(data?.others ?? [], false),
      },
      { key: 'own', label: 'this motor', shape: 'line and points', look: 'main', points: bare(data?.own ?? [], true) },
    ],
    [data],
  );
  if (measurable.length === 0) return null;
  const shown = series.filter((s) => s.points.length > 0);
  return (
    <section aria-label="Trend" className="mt-6">
      <div className="flex items-end justify-between gap-4 mb-2 border-b border-line pb-2">
        <h2 className="font-semibold">Over stages and visits</h2>
        <PlainSelect
          label="Quantity"
          value={chosen}
          onChange={(e) => setChosen(e.target.value)}
          options={measurable.map((m) => ({ value: m.what, label: `${m.title}${m.unit ? `, ${m.unit}` : ''}` }))}
        />
      </div>
      <ProblemNote error={error} />
      {data && shown.length === 0 ? <Quiet>Nothing is measured of this yet.</Quiet> : null}
      {data && shown.length > 0 ? (
        <Chart
          title={`${data.title} of ${job.number}${data.family ? ` beside motors of ${data.family}` : ''}`}
          series={shown}
          xKind="time"
          sayX={(x) => time(new Date(x).toISOString(), 'day')}
          sayY={(v) => `${formatNumber(v, 3)}${data.unit ? ` ${data.unit}` : ''}`}
          xLabel="Day"
          yLabel={data.title}
          height={220}
        />
      ) : null}
    </section>
  );
}
