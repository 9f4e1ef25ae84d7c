import { formatQuantity, operation } from '@norther/core';
import type { JobSummary } from '@norther/contracts';
import { useMemo } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useFloorQuery } from '../../app/api/job.ts';
import { useMay, useSettings, useTime } from '../../app/shop.ts';
import { LongList } from '../../ui/LongList.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';
import { useInOvens } from '../oven/OvenNote.tsx';
import { Rails, RailsLegend, StageNames } from '../process/Rails.tsx';
import { nextWork, RANK, stationsOf } from '../process/stations.ts';
import { Segmented } from '../../ui/Segmented.tsx';

type Filter = 'house' | 'blocked' | 'late' | 'running' | 'left';
const FILTERS: readonly [Filter, string][] = [
  ['house', 'In the house'],
  ['blocked', 'Needs a person'],
  ['late', 'Late'],
  ['running', 'Running'],
  ['left', 'Left the house'],
];

/** A row as a rule; it may be higher where words wrap. */
const ROW_PX = 56;
const COLUMNS = 'grid grid-cols-1 lg:grid-cols-[minmax(210px,1.1fr)_minmax(420px,2.6fr)_minmax(190px,1.1fr)] gap-4';

/** All motors' rails stacked, sorted by what needs a hand next. */
export function FloorPage() {
  const [params, setParams] = useSearchParams();
  const filter = (params.get('show') ?? 'house') as Filter;
  const station = params.get('station') ?? '';
  const { data: floor, error, isLoading } = useFloorQuery({ closed: filter === 'left' });
  const data = floor?.jobs;
  const inOvens = useInOvens();
  const mayTake = useMay('winder');
  const rows = useMemo(() => {
    const all = (data ?? []).map((job) => ({ job, next: nextWork(job.steps) }));
    const kept = all.filter(({ job, next }) => {
      if (filter === 'blocked' && next.kind !== 'failed' && next.kind !== 'sign') return false;
      if (filter === 'late' && !job.late) return false;
      if (filter === 'running' && next.kind !== 'running') return false;
      return (
        station === '' ||
        job.steps.some(
          (s) =>
            ['ready', 'running', 'failed', 'attention', 'recheck', 'undecided'].includes(s.status) &&
            operation(s.code).resource === station,
        )
      );
    });
    const urgent = (j: JobSummary) => (j.priority === 'urgent' ? 0 : 1);
    return filter === 'left'
      ? kept
      : kept.sort(
          (a, b) =>
            RANK[a.next.kind] - RANK[b.next.kind] ||
            Number(b.job.late) - Number(a.job.late) ||
            urgent(a.job) - urgent(b.job) ||
            (a.job.promised ?? '9').localeCompare(b.job.promised ?? '9'),
        );
  }, [data, filter, station]);
  const stations = useMemo(
    () =>
      [
        ...new Set(
          (data ?? []).flatMap((j) =>
            j.steps.filter((s) => ['ready', 'running'].includes(s.status)).map((s) => operation(s.code).resource),
          ),
        ),
      ].sort(),
    [data],
  );
  const put = (key: string, value: string): void => {
    const next = new URLSearchParams(params);
    if (value === '' || value === 'house') next.delete(key);
    else next.set(key, value);
    setParams(next, { replace: true });
  };
  return (
    <>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-1 mb-2">
        <h1 className="text-title font-semibold">Floor</h1>
        <Segmented label="Show" options={FILTERS} value={filter} onChange={(key) => put('show', key)} />
        <label className="flex items-center gap-2">
          <span className="text-small">Station</span>
          <select
            value={station}
            onChange={(e) => put('station', e.target.value)}
            className="min-h-9 border border-edge rounded-sm bg-sheet px-2"
          >
            <option value="">every station</option>
            {[...new Set([...stations, ...(station ? [station] : [])])].map((s) => (
              <option key={s} value={s}>
                {s}
              </option>
            ))}
          </select>
        </label>
        <RailsLegend />
      </div>
      {floor && floor.total > floor.jobs.length ? (
        <p className="text-small text-soft mb-1">
          The {floor.jobs.length} that left last, of {floor.total}; the search (/) finds every other.
        </p>
      ) : null}
      <ProblemNote error={error} />
      {isLoading ? <Quiet>Asking for the floor …</Quiet> : null}
      {data && rows.length === 0 ? (
        <p className="py-10 text-center">
          {data.length === 0 && filter === 'house' ? 'No motor is in the house. ' : 'No motor fits this choice. '}
          {mayTake && data.length === 0 ? (
            <Link to="/take-in" className="text-accent font-semibold underline">
              Take one in
            </Link>
          ) : null}
        </p>
      ) : null}
      {rows.length > 0 ? (
        <div className={`${COLUMNS} sticky top-0 z-10 bg-page border-b-2 border-edge`} aria-hidden="true">
          <span />
          <StageNames />
          <span />
        </div>
      ) : null}
      <LongList
        items={rows}
        keyOf={({ job }) => job.number}
        estimatePx={ROW_PX}
        render={({ job, next }) => <FloorRow job={job} next={next} oven={inOvens.get(job.number)} />}
      />
    </>
  );
}

function FloorRow({
  job,
  next,
  oven,
}: {
  job: JobSummary;
  next: ReturnType<typeof nextWork>;
  oven: string | undefined;
}) {
  const time = useTime();
  const settings = useSettings();
  const power = job.outputW === null ? '' : formatQuantity(job.outputW, 'power', settings?.units.powerUnit ?? 'kW', 3);
  const ink = {
    failed: 'text-fail',
    sign: 'text-attention',
    running: 'text-accent',
    ready: 'text-accent',
    done: 'text-soft',
  }[next.kind];
  return (
    <div className={`${COLUMNS} items-center border-b border-line py-0.5 hover:bg-sheet`}>
      <div className="min-w-0">
        <Link to={`/jobs/${job.number}`} className="font-semibold hover:underline block truncate" title={job.what}>
          {job.what}
        </Link>
        <p className="text-small text-soft truncate" title={`${job.number} · ${job.customer}`}>
          {job.number} · {job.customer}
          {power ? ` · ${power}` : ''}
          {job.poles ? ` ${job.poles}-pole` : ''}
          {job.came === 'whole motor' ? '' : ` · ${job.came}`}
        </p>
      </div>
      <Rails stations={stationsOf(job.steps)} />
      <div className="min-w-0">
        <p className={`font-semibold text-small leading-snug ${ink}`}>
          {oven === undefined ? (
            next.text
          ) : (
            <Link to="/ovens" className="underline">
              {oven}
            </Link>
          )}
        </p>
        <p className="text-small text-soft">
          {job.closedAt
            ? `left ${time(job.closedAt, 'day')}`
            : job.promised
              ? `promised ${time(`${job.promised}T12:00:00Z`, 'day')}`
              : 'no date promised'}
          {job.late ? <span className="text-fail font-semibold"> · late</span> : null}
          {job.priority === 'urgent' ? <span className="text-ink font-semibold"> · urgent</span> : null}
        </p>
      </div>
    </div>
  );
}
