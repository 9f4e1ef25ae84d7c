import type { JobDetail } from '@norther/contracts';
import { loadReadings } from '@norther/core';
import { Link } from 'react-router';
import { useLoadRunsQuery } from '../../app/api/load.ts';
import { useTime } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';

/** What the sheet of a load test is filled in with from the newest run that no test is made of yet. */
export function TakeRun({
  job,
  onTake,
}: {
  job: JobDetail;
  onTake: (run: { traces: string[]; typed: Record<string, string>; calibratedUntil: string }) => void;
}) {
  const time = useTime();
  const { data } = useLoadRunsQuery(job.number);
  const run = data?.find((r) => r.endedAt !== null && !r.taken && r.points.length > 0);
  // the no-load curve that was recorded last goes into the same sheet
  const noLoad = job.tests.filter((t) => t.kind === 'noLoadCurve' && t.supersededBy === null).at(-1)?.typed ?? {};
  const filled = Object.fromEntries(
    (
      [
        ['noLoadVolts', 'volts'],
        ['noLoadAmps', 'amps'],
        ['noLoadWatts', 'watts'],
        ['noLoadC', 'windingC'],
      ] as const
    ).flatMap(([to, from]) => (noLoad[from] ? [[to, noLoad[from]]] : [])),
  );
  return (
    <section aria-label="From the dynamometer" className="border-b border-line pb-2 mb-2">
      <div className="flex flex-wrap gap-3 items-center">
        <h3 className="font-semibold">From the dynamometer</h3>
        <Link className="text-accent underline" to={`/jobs/${job.number}/load`}>
          Load bench
        </Link>
        {run?.trace ? (
          <>
            <span className="text-small text-soft">
              {run.source}
              {run.instrument?.simulated ? ' (simulated)' : ''}, {time(run.at)}: {run.points.length} points
            </span>
            <Button
              look="main"
              onClick={() =>
                onTake({
                  traces: [run.trace ?? ''],
                  typed: { ...filled, ...loadReadings(run.points), instrument: run.source },
                  calibratedUntil: run.instrument?.calibratedUntil ?? '',
                })
              }
            >
              Take these points
            </Button>
          </>
        ) : (
          <span className="text-small text-soft">No run with points waits.</span>
        )}
      </div>
    </section>
  );
}
