import { balanceNow, formatNumber, sayUnbalance, type BalanceEntry } from '@norther/core';
import { standingEntries, type BalanceSessionView, type JobDetail } from '@norther/contracts';
import { useMemo, useState } from 'react';
import { useEnterBalanceMutation } from '../../app/api/balance.ts';
import { useMay } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';
import { Bearings } from './Bearings.tsx';
import { CorrectionForm } from './CorrectionForm.tsx';
import { End, KeepFamily } from './Ending.tsx';
import { FitPlot, MovedForm } from './MovedForm.tsx';
import { Now, PlaneViews } from './Now.tsx';
import { RotorDrawing } from './RotorDrawing.tsx';
import { Rows } from './Rows.tsx';
import { RunForm } from './RunForm.tsx';
import { StandRuns } from './StandRuns.tsx';

/** A rotor on the stand: what to do now in large letters, what was done beside it. */
export function Stand({ job, session }: { job: JobDetail; session: BalanceSessionView }) {
  const entries = useMemo(() => standingEntries(session.entries), [session.entries]);
  const is = useMemo(() => balanceNow(session.setUp, entries, session.limits), [session, entries]);
  const may = useMay('winder') && !job.closedAt && session.ended === null;
  const mayKeep = useMay('winder');
  const [enter, entered] = useEnterBalanceMutation();
  const [again, setAgain] = useState(false);
  const [moving, setMoving] = useState(false);
  const [checking, setChecking] = useState(false);
  const { setUp } = session;
  const unit = session.typed['unit'] ?? '';
  const direct = setUp.readings === 'unbalance per plane';
  const send = async (entry: BalanceEntry, more: { trace?: string } = {}): Promise<boolean> => {
    const r = await enter({ number: job.number, id: session.id, entry, ...more });
    if (r.data) {
      setAgain(false);
      setChecking(false);
    }
    return r.data !== undefined;
  };
  const trial = is.stage === 'trial 1' ? 1 : is.stage === 'trial 2' ? 2 : undefined;
  return (
    <div className="space-y-4">
      <p className="text-small font-semibold">
        Caution: guard on, trial mass fixed for its own force, stop before changing masses, never above the service
        speed. Local codes and licensed practice decide.
      </p>
      <Now is={is} setUp={setUp} />
      <div className="grid grid-cols-1 lg:grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)] gap-6">
        <div className="space-y-3">
          {may ? (
            <>
              {is.stage === 'correct' ? (
                <CorrectionForm
                  key={session.entries.length}
                  setUp={setUp}
                  next={is.next ?? []}
                  there={is.there}
                  merged={is.merged}
                  busy={entered.isLoading}
                  onSend={send}
                />
              ) : null}
              {['first run', 'trial 1', 'trial 2', 'check run'].includes(is.stage) || again || checking ? (
                <RunForm
                  key={`${is.stage}${session.entries.length}${checking ? 'known' : ''}`}
                  setUp={setUp}
                  unit={unit}
                  trial={checking ? 1 : again ? undefined : trial}
                  repeat={again}
                  busy={entered.isLoading}
                  onSend={send}
                >
                  {(take, trialNow) => (
                    <StandRuns
                      number={job.number}
                      session={session}
                      take={take}
                      trialNow={trialNow}
                      needsTrial={checking || (!again && trial !== undefined)}
                    />
                  )}
                </RunForm>
              ) : null}
              <div className="flex flex-wrap gap-3">
                {(is.stage === 'trial 1' || is.stage === 'correct' || is.stage === 'done') && !again ? (
                  <Button onClick={() => setAgain(true)}>The same once more: how far readings stray</Button>
                ) : null}
                {direct && is.bearings && !checking ? (
                  <Button onClick={() => setChecking(true)}>Check the stand with a known mass</Button>
                ) : null}
                {is.bearings && !moving ? (
                  <Button onClick={() => setMoving(true)}>Residual by a moved mass</Button>
                ) : null}
              </div>
              {is.bearings && moving ? (
                <MovedForm key={session.entries.length} setUp={setUp} is={is} busy={entered.isLoading} onSend={send} />
              ) : null}
              <ProblemNote error={entered.error} />
            </>
          ) : null}
        </div>
        <div className="grid grid-cols-1 md:grid-cols-2 gap-4 self-start">
          <PlaneViews is={is} setUp={setUp} />
          <Bearings is={is} setUp={setUp} />
        </div>
      </div>
      <Rows job={job} session={session} is={is} may={may} />
      {is.check?.planes.map(({ plane, entry, fit }) =>
        fit ? (
          <figure key={plane} className="m-0" aria-label={`Moved mass, plane ${plane}`}>
            <figcaption className="text-small text-soft">
              Test mass moved round plane {plane}: {sayUnbalance(fit.gMm, setUp.unbalanceUnit)} at{' '}
              {formatNumber(fit.angleDeg, 4)}°, r² {formatNumber(fit.r2, 4)}.
            </figcaption>
            <FitPlot positions={entry.positions} fit={fit} testGMm={entry.testGMm} />
          </figure>
        ) : null,
      )}
      {may ? <End job={job} session={session} is={is} /> : null}
      <p className="flex flex-wrap gap-4">
        <a className="text-accent" href={`/api/jobs/${job.number}/balance-sessions/${session.id}/sheet.pdf`}>
          {is.history.length > 0 ? 'Balance on paper' : 'Set-up sheet on paper'}
        </a>
        <a className="text-accent" href={`/api/jobs/${job.number}/balance-sessions/${session.id}/record.json`}>
          Everything as data (JSON)
        </a>
      </p>
      {mayKeep && is.stage !== 'refused' && is.stage !== 'first run' ? (
        <KeepFamily job={job} session={session} is={is} />
      ) : null}
      <details>
        <summary className="cursor-pointer font-semibold py-1.5">Set-up</summary>
        <RotorDrawing setUp={setUp} />
      </details>
    </div>
  );
}
