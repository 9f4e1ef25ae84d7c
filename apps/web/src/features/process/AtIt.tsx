import type { StepViewRow } from '@norther/contracts';
import { may } from '@norther/contracts';
import { useEffect, useState } from 'react';
import { now } from '../../app/clock.ts';
import { usePeopleQuery, useSessionQuery } from '../../app/api/people.ts';
import { Button } from '../../ui/Button.tsx';
import { minutesByPerson } from './ahead.ts';
import type { Acts } from './useActs.ts';

const say = (minutes: number): string =>
  minutes < 60 ? `${Math.floor(minutes)} min` : `${Math.floor(minutes / 60)} h ${Math.floor(minutes % 60)} min`;

/** Who works at a running step and for how long; joining, pausing, handing over. */
export function AtIt({
  attempt,
  acts,
  mine,
  mayWork,
}: {
  attempt: StepViewRow['attempts'][number];
  acts: Acts;
  mine: boolean;
  mayWork: boolean;
}) {
  const { data: people } = usePeopleQuery();
  const { data: session } = useSessionQuery();
  const [at, setAt] = useState(() => now().getTime());
  const [to, setTo] = useState<string>();
  useEffect(() => {
    const tick = setInterval(() => setAt(now().getTime()), 15_000);
    return () => clearInterval(tick);
  }, []);
  const who = minutesByPerson(attempt.spells, at);
  const others = (people ?? []).filter((p) => p.active && may(p.role, 'winder') && p.id !== session?.person.id);
  return (
    <section aria-label="At it" className="mt-3 border-t border-line pt-2">
      <p>
        {who.some((w) => w.there) ? (
          <span className="font-semibold">At it: </span>
        ) : (
          <span className="font-semibold text-attention">Paused: nobody is at it. </span>
        )}
        {who.map((w) => `${w.person}${w.there ? '' : ' (away)'}, ${say(w.minutes)}`).join(' · ')}
      </p>
      {mayWork ? (
        <div className="flex flex-wrap gap-2 mt-1">
          {mine ? (
            <>
              <Button bench disabled={acts.busy} onClick={() => void acts.act('pause', { what: 'pause' })}>
                Pause
              </Button>
              <Button bench look="quiet" onClick={() => setTo(to === undefined ? '' : undefined)}>
                Hand over
              </Button>
            </>
          ) : (
            <Button bench look="main" disabled={acts.busy} onClick={() => void acts.act('join', { what: 'join' })}>
              {who.some((w) => w.there) ? 'Work at it too' : 'Go on'}
            </Button>
          )}
        </div>
      ) : null}
      {mine && to !== undefined ? (
        <form
          className="flex flex-wrap gap-2 mt-2"
          onSubmit={(e) => {
            e.preventDefault();
            if (to !== '') void acts.act('hand over', { what: 'hand over', to }).then(() => setTo(undefined));
          }}
        >
          <select
            aria-label="Hand over to"
            value={to}
            onChange={(e) => setTo(e.target.value)}
            className="min-h-11 flex-1 border border-edge rounded-sm px-2 bg-sheet"
          >
            <option value="">to whom?</option>
            {others.map((p) => (
              <option key={p.id} value={p.id}>
                {p.name}
              </option>
            ))}
          </select>
          <Button bench look="main" type="submit" disabled={to === '' || acts.busy}>
            Hand over
          </Button>
        </form>
      ) : null}
    </section>
  );
}
