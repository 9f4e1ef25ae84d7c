import { formatNumber, sayBalanceEntry, sayUnbalance, type BalanceNow } from '@norther/core';
import type { BalanceSessionView, JobDetail } from '@norther/contracts';
import { useState } from 'react';
import { useEnterBalanceMutation } from '../../app/api/balance.ts';
import { useTime } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { PlainField } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';
import { RunForm } from './RunForm.tsx';

/** Everything that was entered, and how the rotor fell. */
export function Rows({
  job,
  session,
  is,
  may,
}: {
  job: JobDetail;
  session: BalanceSessionView;
  is: BalanceNow;
  may: boolean;
}) {
  const time = useTime();
  const [enter, { error, isLoading }] = useEnterBalanceMutation();
  const [going, setGoing] = useState<number>();
  const [right, setRight] = useState<number>();
  const [why, setWhy] = useState('');
  const unit = session.typed['unit'] ?? '';
  return (
    <section aria-label="What was done">
      <h2 className="font-semibold border-b border-line">What was done</h2>
      <ol>
        {session.entries.map((e) => (
          <li key={e.ordinal} className={`py-1 border-b border-line ${e.gone ? 'text-soft line-through' : ''}`}>
            <span className="tabular-nums">{e.ordinal}.</span> {sayBalanceEntry(e.entry, unit, session.setUp)}{' '}
            <span className="text-small text-soft">
              {e.supersedes === null ? '' : `in place of ${e.supersedes}: ${e.reason}; `}
              {e.person}, {time(e.at)}
            </span>
            {may && !e.gone ? (
              <Button look="quiet" onClick={() => setGoing(going === e.ordinal ? undefined : e.ordinal)}>
                It was wrong
              </Button>
            ) : null}
            {going === e.ordinal ? (
              <form
                className="flex flex-wrap gap-2 items-end"
                onSubmit={(event) => {
                  event.preventDefault();
                  void enter({
                    number: job.number,
                    id: session.id,
                    entry: e.entry,
                    supersedes: e.ordinal,
                    withdrawn: true,
                    reason: why,
                  }).then((r) => {
                    if (!r.data) return;
                    setGoing(undefined);
                    setWhy('');
                  });
                }}
              >
                <PlainField label="Why it does not count" value={why} onChange={(x) => setWhy(x.target.value)} />
                <Button type="submit" disabled={isLoading || why.trim().length < 3}>
                  Take it back
                </Button>
                {e.entry.kind === 'run' || e.entry.kind === 'trial' ? (
                  <Button
                    disabled={isLoading || why.trim().length < 3}
                    onClick={() => setRight(right === e.ordinal ? undefined : e.ordinal)}
                  >
                    Enter what is right
                  </Button>
                ) : null}
              </form>
            ) : null}
            {right === e.ordinal && going === e.ordinal && (e.entry.kind === 'run' || e.entry.kind === 'trial') ? (
              <RunForm
                setUp={session.setUp}
                unit={unit}
                trial={e.entry.kind === 'trial' ? e.entry.plane : undefined}
                repeat={e.entry.kind === 'run' && e.entry.repeat}
                start={e.entry}
                busy={isLoading}
                onSend={async (entry) => {
                  const r = await enter({
                    number: job.number,
                    id: session.id,
                    entry,
                    supersedes: e.ordinal,
                    reason: why,
                  });
                  if (!r.data) return false;
                  setGoing(undefined);
                  setRight(undefined);
                  setWhy('');
                  return true;
                }}
              />
            ) : null}
          </li>
        ))}
      </ol>
      <ProblemNote error={error} />
      {is.history.length > 0 ? (
        <p className="text-small text-soft mt-1">
          Heavy spots:{' '}
          {is.history
            .map(
              (h) =>
                h.planes.map((p) => sayUnbalance(p.size, session.setUp.unbalanceUnit, 3)).join(' and ') +
                (h.reductionPercent === undefined ? ' as found' : ` (${formatNumber(h.reductionPercent, 3)} % less)`),
            )
            .join(', then ')}
          .
        </p>
      ) : null}
      {is.condition !== undefined && Number.isFinite(is.condition) && session.setUp.planes.length === 2 ? (
        <p className="text-small text-soft">Condition of the two planes: {formatNumber(is.condition, 3)}.</p>
      ) : null}
    </section>
  );
}
