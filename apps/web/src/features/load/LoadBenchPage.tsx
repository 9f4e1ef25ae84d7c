import type { JobDetail, LoadRunView } from '@norther/contracts';
import { Link, useParams } from 'react-router';
import { useJobQuery } from '../../app/api/job.ts';
import { useLoadRunsQuery } from '../../app/api/load.ts';
import { useMay, useTime } from '../../app/shop.ts';
import { LiveTrace } from '../instrument/LiveTrace.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';
import { BeginRun } from './BeginRun.tsx';
import { LiveFigures } from './LiveFigures.tsx';
import { LoadControls } from './LoadControls.tsx';
import { PointTable } from './PointTable.tsx';

const LOOKED_MS = 1000;

/** A motor on the dynamometer: what it takes and gives in figures one reads from afar, the load by command, points by themselves. */
export function LoadBenchPage() {
  const { number = '' } = useParams();
  const { data: job, error } = useJobQuery(number);
  const { data: runs, error: unread } = useLoadRunsQuery(number, { pollingInterval: LOOKED_MS });
  if (error && !job) return <ProblemNote error={error} />;
  if (!job || (!runs && !unread)) return <Quiet>Asking for {number} …</Quiet>;
  return <LoadBench job={job} runs={runs ?? []} unread={unread} />;
}

function LoadBench({ job, runs, unread }: { job: JobDetail; runs: LoadRunView[]; unread: unknown }) {
  const open = runs.find((r) => r.endedAt === null);
  const before = runs.filter((r) => r !== open);
  const mayTest = useMay('tester') && !job.closedAt;
  return (
    <div className="space-y-3">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h1 className="text-title font-semibold">Load bench</h1>
        <Link className="text-accent underline" to={`/jobs/${job.number}/tests?stage=FI&test=loadTest`}>
          {job.number}, {job.what}
        </Link>
        {open ? (
          <span className="text-soft">
            {open.source}
            {open.instrument?.simulated ? ' (simulated)' : ''}
            {open.instrument?.outOfDate ? ', out of calibration' : ''}, begun by {open.person}
          </span>
        ) : null}
      </div>
      <p className="text-small font-semibold">
        Caution: coupled, guarded, nobody beside the coupling; stop on the stand within reach. Local codes and licensed
        practice decide.
      </p>
      <ProblemNote error={unread} />
      {open ? (
        <Running job={job} run={open} mayTest={mayTest} />
      ) : mayTest ? (
        <BeginRun job={job} />
      ) : (
        <Quiet>No motor is under load. A tester begins a run.</Quiet>
      )}
      {before.length > 0 ? (
        <section aria-label="Runs before" className="space-y-4">
          <h2 className="font-semibold border-b border-line">Runs before</h2>
          {before.map((r) => (
            <Before key={r.id} job={job} run={r} />
          ))}
        </section>
      ) : null}
    </div>
  );
}

function Running({ job, run, mayTest }: { job: JobDetail; run: LoadRunView; mayTest: boolean }) {
  return (
    <>
      <LiveFigures key={run.trace ?? 'none'} run={run} />
      {mayTest ? <LoadControls job={job} run={run} /> : null}
      <div className="grid grid-cols-1 lg:grid-cols-2 gap-6">
        <section aria-label="Points" className="space-y-2 min-w-0">
          <h2 className="font-semibold">Points taken while steady</h2>
          <PointTable run={run} />
        </section>
        <section aria-label="Course" className="min-w-0">
          {run.trace ? <LiveTrace id={run.trace} only={COURSE} names={NAMES} /> : null}
        </section>
      </div>
    </>
  );
}

const COURSE = ['T', 'torque', 'winding'];
const NAMES: ReadonlyMap<string, string> = new Map([['T', 'torque']]);

function Before({ job, run }: { job: JobDetail; run: LoadRunView }) {
  const time = useTime();
  return (
    <div className="space-y-1">
      <p>
        {time(run.at)}, {run.source}
        {run.instrument?.simulated ? ' (simulated)' : ''}, {run.person}. Ended: {run.why}.{' '}
        {run.taken ? (
          <span className="text-soft">A load test is made of it.</span>
        ) : run.points.length > 0 ? (
          <Link className="text-accent underline" to={`/jobs/${job.number}/tests?stage=${run.stage}&test=loadTest`}>
            Make the load test of it
          </Link>
        ) : null}
      </p>
      {run.points.length > 0 ? <PointTable run={run} /> : <Quiet>No steady point.</Quiet>}
    </div>
  );
}
