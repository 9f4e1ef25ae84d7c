import { baseOf, operation, ovenUseOf, runOf } from '@norther/core';
import { minutesLeft, type JobOvenView } from '@norther/contracts';
import { Link } from 'react-router';
import { useJobOvensQuery, useOvensQuery } from '../../app/api/oven.ts';
import { Button } from '../../ui/Button.tsx';
import { VerdictMark } from '../../ui/Verdict.tsx';
import { sayMinutes } from './sayMinutes.ts';

/** Asked again so often: minutes are what is shown. */
const LOOK_MS = 30_000;

/** How each motor that stands in an oven stands, in a few words. */
export function useInOvens(): ReadonlyMap<string, string> {
  const { data } = useOvensQuery(undefined, { pollingInterval: LOOK_MS });
  return new Map(
    (data?.loads ?? []).flatMap((l) =>
      l.state === 'done'
        ? []
        : l.parts
            .filter((p) => p.out === null)
            .map((p) => {
              const left = minutesLeft(p.now);
              const said =
                l.state === 'loading'
                  ? 'being loaded'
                  : p.now?.burn && p.now.degree >= 1
                    ? p.now.burn.state
                    : `${Math.floor(100 * Math.min(1, p.now?.degree ?? 0))} %`;
              const alarm = (p.now?.alarms.length ?? 0) > 0 ? ', see to it' : '';
              return [
                p.job,
                `${l.chamber.name}: ${said}${left === null ? '' : `, ${sayMinutes(left)}`}${alarm}`,
              ] as const;
            }),
    ),
  );
}

/** At a step that stands in an oven: the loads that the motor stood or stands in, and the figures that their logs give the record. */
export function OvenNote({
  job,
  code,
  onFill,
}: {
  job: string;
  code: string;
  onFill: ((typed: Readonly<Record<string, string>>) => void) | undefined;
}) {
  const use = ovenUseOf(code);
  const { data } = useJobOvensQuery(job, { skip: use === undefined, pollingInterval: LOOK_MS });
  const own = (data ?? []).filter((o) => o.use === use && runOf(o.code) === runOf(code));
  if (use === undefined) return null;
  return (
    <section aria-label="In the oven" className="mt-3 border border-line bg-sheet px-3 py-2">
      {own.length === 0 ? (
        <p>
          {runOf(code) > 1 ? `${operation(code).title}: it` : 'It'} stands in no load yet:{' '}
          <Link className="text-accent underline font-semibold" to="/ovens">
            scan it in at the oven
          </Link>
          .
        </p>
      ) : (
        <ul className="space-y-1">
          {own.map((o) => (
            <One key={o.load + o.inAt} of={o} code={code} onFill={onFill} />
          ))}
        </ul>
      )}
    </section>
  );
}

function One({
  of,
  code,
  onFill,
}: {
  of: JobOvenView;
  code: string;
  onFill: ((typed: Readonly<Record<string, string>>) => void) | undefined;
}) {
  const figures = of.figures[baseOf(code)];
  return (
    <li className="flex flex-wrap gap-x-3 gap-y-1 items-center">
      <Link className="text-accent underline font-semibold min-h-6" to={`/ovens?load=${of.load}`}>
        {of.chamber}, load {of.number}
      </Link>
      {runOf(of.code) > 1 ? <span>coat {runOf(of.code)}</span> : null}
      {of.outAt === null ? (
        <span>stands in it now</span>
      ) : (
        <span>
          {of.verdict ? <VerdictMark verdict={of.verdict} /> : null} {of.says}
        </span>
      )}
      {figures && onFill ? (
        <Button bench onClick={() => onFill(figures)}>
          Take its figures {of.outAt === null ? 'so far ' : ''}into the record
        </Button>
      ) : null}
    </li>
  );
}
