import type { JobDetail } from '@norther/contracts';
import { useState } from 'react';
import { useKeepRouteMutation, useRetireRouteMutation, useRouteTemplatesQuery } from '../../app/api/process.ts';
import { useDay } from '../../app/day.ts';
import { Button } from '../../ui/Button.tsx';
import { PlainField } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';

/** Routes that the shop keeps under a name: this job's may become one, and one that is out of use is retired. */
export function KeptRoutes({ job }: { job: JobDetail }) {
  const { data } = useRouteTemplatesQuery();
  const [keep, kept] = useKeepRouteMutation();
  const [retire, retired] = useRetireRouteMutation();
  const [name, setName] = useState('');
  const [going, setGoing] = useState<string>();
  const [why, setWhy] = useState('');
  const day = useDay();
  return (
    <section aria-label="Kept routes" className="space-y-2">
      <h3 className="font-semibold">Kept routes</h3>
      <ul className="space-y-1">
        {(data ?? []).map((t) => (
          <li key={t.id} className="border-t border-line pt-1">
            <div className="flex gap-2 items-baseline justify-between">
              <span className="min-w-0 break-words">
                <span className="font-semibold">{t.name}</span>{' '}
                <span className="text-small text-soft">
                  {t.impregnation}, {t.came}; from {t.fromJob}, {t.person}, {day(t.at.slice(0, 10))}
                </span>
              </span>
              <Button look="quiet" onClick={() => setGoing(going === t.id ? undefined : t.id)}>
                Retire
              </Button>
            </div>
            {going === t.id ? (
              <form
                className="flex gap-2 items-end"
                onSubmit={(e) => {
                  e.preventDefault();
                  void retire({ id: t.id, reason: why }).then((r) => {
                    if (!r.data) return;
                    setGoing(undefined);
                    setWhy('');
                  });
                }}
              >
                <PlainField label="Why it is retired" value={why} onChange={(e) => setWhy(e.target.value)} />
                <Button type="submit" disabled={retired.isLoading || why.trim().length < 3}>
                  Retire it
                </Button>
              </form>
            ) : null}
          </li>
        ))}
      </ul>
      <form
        className="flex gap-2 items-end"
        onSubmit={(e) => {
          e.preventDefault();
          void keep({ number: job.number, name }).then((r) => (r.data ? setName('') : undefined));
        }}
      >
        <PlainField
          label="Keep this job's route as"
          value={name}
          maxLength={80}
          onChange={(e) => setName(e.target.value)}
        />
        <Button type="submit" disabled={kept.isLoading || name.trim() === ''}>
          Keep
        </Button>
      </form>
      <ProblemNote error={kept.error ?? retired.error} />
    </section>
  );
}
