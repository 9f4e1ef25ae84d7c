import type { JobDetail } from '@norther/contracts';
import { useCoolingsQuery } from '../../app/api/load.ts';
import { useTime } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';

const EVERY_MS = 2000;

/** What an instrument sends of the resistance while the winding cools: taken into the sheet with one press. */
export function TakeCooling({
  job,
  onTake,
}: {
  job: JobDetail;
  onTake: (run: { traces: string[]; typed: Record<string, string>; calibratedUntil: string }) => void;
}) {
  const time = useTime();
  const { data } = useCoolingsQuery(job.number, { pollingInterval: EVERY_MS });
  const newest = data?.find((c) => !c.taken);
  if (!newest) return null;
  const count = (newest.typed['seconds'] ?? '').split(';').filter(Boolean).length;
  return (
    <section aria-label="Sent while it cools" className="border-b border-line pb-2 mb-2 space-y-1">
      <div className="flex flex-wrap gap-3 items-center">
        <h3 className="font-semibold">Sent while it cools</h3>
        <span className="text-small text-soft">
          {newest.source}
          {newest.simulated ? ' (simulated)' : ''}, {time(newest.at)}:{' '}
          {newest.ended ? `${count} readings` : `${count} readings so far, still sending`};{' '}
          {newest.offAt === null
            ? 'no load run before it: seconds count from its first'
            : 'seconds count from the switch'}
        </span>
        <Button
          look="main"
          disabled={count === 0}
          onClick={() =>
            onTake({
              traces: [newest.trace],
              typed: { ...newest.typed, instrument: newest.source },
              calibratedUntil: newest.calibratedUntil ?? '',
            })
          }
        >
          Take these readings
        </Button>
      </div>
      {newest.problem ? <ProblemNote>{newest.problem}</ProblemNote> : null}
    </section>
  );
}
