import { formatNumber, TEST_STAGE_TITLES, type Measurable, type TestStage } from '@norther/core';
import type { JobDetail, TrendColumns, TrendPoint } from '@norther/contracts';
import { useMemo, useState } from 'react';
import { useTrendQuery } from '../../app/api/evaluate.ts';
import { useTime } from '../../app/shop.ts';
import { Chart } from '../../chart/Chart.tsx';
import type { ChartPoint, ChartSeries } from '../../chart/chartModel.ts';
import { PlainSelect } from '../../ui/Field.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';

type Bound = 'above' | 'below' | null;
const noteOf = (stage: TestStage | null, number: string, bound: Bound, verdict = ''): string =>
  [
    stage ? TEST_STAGE_TITLES[stage] : '',
    number,
    bound === null ? '' : `${bound === 'above' ? 'over' : 'below'} the range of the instrument`,
    verdict,
  ]
    .filter(Boolean)
    .join(', ');

const ofOwn = (points: readonly TrendPoint[]): ChartPoint[] =>
  points.map((p) => ({
    x: Date.parse(p.at),
    y: p.value,
    note: noteOf(p.stage, p.number, p.bound, p.verdict ?? ''),
    tone: p.verdict ?? undefined,
  }));

function ofOthers(c: TrendColumns | undefined): ChartPoint[] {
  if (!c) return [];
  const above = new Set(c.above);
  const below = new Set(c.below);
  return c.value.map((y, i) => ({
    x: c.atMs[i] ?? NaN,
    y,
    note: noteOf(
      c.stage[i] ?? null,
      c.numbers[c.visit[i] ?? 0] ?? '',
      above.has(i) ? 'above' : below.has(i) ? 'below' : null,
    ),
    tone: undefined,
  }));
}

/** One of several quantities over stages and visits of this motor, with motors of its kind behind it. */
export function TrendView({ job, measurable }: { job: JobDetail; measurable: readonly Measurable[] }) {
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
        points: ofOthers(data?.others),
      },
      { key: 'own', label: 'this motor', shape: 'line and points', look: 'main', points: ofOwn(data?.own ?? []) },
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
          sayY={(v, digits = 3) => `${formatNumber(v, digits)}${data.unit ? ` ${data.unit}` : ''}`}
          xLabel="Day"
          yLabel={data.title}
          height={220}
        />
      ) : null}
    </section>
  );
}
