import { baseOf } from '@norther/core';
import { Link } from 'react-router';
import { useJobCyclesQuery } from '../../app/api/vessel.ts';
import { Button } from '../../ui/Button.tsx';

/** At the vacuum-pressure step: the cycles that the motor went through, and what they give its record. */
export function CycleNote({
  job,
  code,
  onFill,
}: {
  job: string;
  code: string;
  onFill: ((typed: Readonly<Record<string, string>>) => void) | undefined;
}) {
  const asks = baseOf(code) === 'IMPV';
  const { data } = useJobCyclesQuery(job, { skip: !asks });
  if (!asks) return null;
  return (
    <section aria-label="In the vessel" className="mt-3 border border-line bg-sheet px-3 py-2 space-y-1">
      {data?.length === 0 ? (
        <p>
          It stands in no vessel yet:{' '}
          <Link className="text-accent underline font-semibold" to="/ovens?look=vessels">
            scan it in at the vessel
          </Link>
          .
        </p>
      ) : null}
      {(data ?? [])
        .filter((c) => c.code === code)
        .map((c) => (
          <p key={c.number} className="flex flex-wrap gap-x-3 gap-y-1 items-center">
            <Link className="text-accent underline font-semibold" to="/ovens?look=vessels">
              {c.vessel}, cycle {c.number}
            </Link>
            <span>{c.ended ? 'ended' : 'runs now'}</span>
            {onFill && Object.keys(c.figures).length > 0 ? (
              <Button bench onClick={() => onFill(c.figures)}>
                Take its figures {c.ended ? '' : 'so far '}into the record
              </Button>
            ) : null}
          </p>
        ))}
    </section>
  );
}
