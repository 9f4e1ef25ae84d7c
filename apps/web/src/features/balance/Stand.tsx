import { balanceNow, formatNumber, polarPlot, type BalanceEntry, type BalanceNow } from '@norther/core';
import { standingEntries, type BalanceSessionView, type JobDetail } from '@norther/contracts';
import { useMemo, useState } from 'react';
import { useEndBalanceMutation, useEnterBalanceMutation } from '../../app/api/balance.ts';
import { useMay, useTime } from '../../app/shop.ts';
import { DrawingView } from '../../drawing/DrawingView.tsx';
import { Button } from '../../ui/Button.tsx';
import { PlainField } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';
import { VerdictMark } from '../../ui/Verdict.tsx';
import { CorrectionForm, RunForm } from './EntryForms.tsx';
import { EndView } from './EndView.tsx';
import { RotorDrawing } from './RotorDrawing.tsx';
import { sayEntry, STAGE_WORDS } from './words.ts';

/** A rotor on the stand: what to do now in large letters, what was done beside it. */
export function Stand({ job, session }: { job: JobDetail; session: BalanceSessionView }) {
  const entries = useMemo(() => standingEntries(session.entries), [session.entries]);
  const is = useMemo(() => balanceNow(session.setUp, entries, session.limits), [session, entries]);
  const may = useMay('winder') && !job.closedAt && session.ended === null;
  const [enter, entered] = useEnterBalanceMutation();
  const [again, setAgain] = useState(false);
  const send = async (entry: BalanceEntry): Promise<boolean> => {
    const r = await enter({ number: job.number, id: session.id, entry });
    if (r.data) setAgain(false);
    return r.data !== undefined;
  };
  const share = Math.max(...is.tolerance.sharesGMm);
  const trial = is.stage === 'trial 1' ? 1 : is.stage === 'trial 2' ? 2 : undefined;
  return (
    <div className="space-y-4">
      <p className="text-small font-semibold">
        Caution: guard on, trial mass fixed for its own force, stop before changing masses, never above the service
        speed. Local codes and licensed practice decide.
      </p>
      <section aria-label="Now" className="border-l-4 border-accent pl-3">
        <h2 className="text-title font-bold">{STAGE_WORDS[is.stage]}</h2>
        {is.stage === 'correct'
          ? is.next?.map((n) => (
              <p key={n.plane} className="text-bench font-semibold">
                {n.says}
              </p>
            ))
          : null}
        <p>
          {is.stage === 'done' || is.stage === 'correct' || is.stage === 'refused' ? (
            <VerdictMark verdict={is.verdict} />
          ) : null}{' '}
          {is.reason}
        </p>
        {is.expected !== undefined ? (
          <p className="text-soft">
            Expected after it: {formatNumber(100 * is.expected, 2)} % of what is allowed at the worse bearing.
          </p>
        ) : null}
        {is.stage !== 'correct' && is.stage !== 'done'
          ? is.notes.map((j) => (
              <p key={j.reason}>
                <VerdictMark verdict={j.verdict} /> {j.reason}
              </p>
            ))
          : null}
      </section>
      <div className="grid grid-cols-1 lg:grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)] gap-6">
        <div className="space-y-3">
          {may ? (
            <>
              {is.stage === 'correct' ? (
                <CorrectionForm
                  key={session.entries.length}
                  setUp={session.setUp}
                  next={is.next ?? []}
                  busy={entered.isLoading}
                  onSend={send}
                />
              ) : null}
              {['first run', 'trial 1', 'trial 2', 'check run'].includes(is.stage) || again ? (
                <RunForm
                  key={`${is.stage}${session.entries.length}`}
                  setUp={session.setUp}
                  trial={again ? undefined : trial}
                  repeat={again}
                  busy={entered.isLoading}
                  onSend={send}
                />
              ) : null}
              {(is.stage === 'trial 1' || is.stage === 'correct' || is.stage === 'done') && !again ? (
                <Button onClick={() => setAgain(true)}>The same once more: how far readings stray</Button>
              ) : null}
              <ProblemNote error={entered.error} />
            </>
          ) : null}
        </div>
        <div className="grid grid-cols-1 md:grid-cols-2 gap-4 self-start">
          {session.setUp.planes.map((p, i) => (
            <EndView
              key={i}
              n={i + 1}
              plane={p}
              heavy={is.unbalance?.[i]}
              step={is.next?.[i]}
              share={share}
              view={session.typed['view'] || 'drive end'}
            />
          ))}
          {is.bearings ? (
            <DrawingView
              drawing={polarPlot({
                title: 'At the bearings, over what is allowed',
                vectors: is.bearings.map((b, i) => ({
                  label: i === 0 ? 'A' : 'B',
                  size: (100 * b.gMm) / b.allowedGMm,
                  angleDeg: b.angleDeg,
                  role: b.verdict === 'pass' ? ('good' as const) : ('bad' as const),
                })),
                unit: '% of the share of each bearing',
                limit: 100,
              })}
              className="max-w-[300px]"
            />
          ) : null}
        </div>
      </div>
      <Rows job={job} session={session} is={is} may={may} />
      {may ? <End job={job} session={session} is={is} /> : null}
      <details>
        <summary className="cursor-pointer font-semibold py-1.5">Set-up</summary>
        <RotorDrawing setUp={session.setUp} />
      </details>
    </div>
  );
}

/** Everything that was entered, and how the rotor fell. */
function Rows({
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
  const [why, setWhy] = useState('');
  const unit = session.typed['unit'] ?? '';
  return (
    <section aria-label="What was done">
      <h2 className="font-semibold border-b border-line">What was done</h2>
      <ol>
        {session.entries.map((e) => (
          <li key={e.ordinal} className={`py-1 border-b border-line ${e.gone ? 'text-soft line-through' : ''}`}>
            <span className="tabular-nums">{e.ordinal}.</span> {sayEntry(e.entry, unit)}{' '}
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
                className="flex gap-2 items-end"
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
              </form>
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
                h.planes.map((p) => `${formatNumber(p.size, 3)} g·mm`).join(' and ') +
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

function End({ job, session, is }: { job: JobDetail; session: BalanceSessionView; is: BalanceNow }) {
  const [end, { error, isLoading }] = useEndBalanceMutation();
  const [why, setWhy] = useState('');
  const inside = is.verdict === 'pass';
  return (
    <section aria-label="End" className="flex flex-wrap gap-3 items-end">
      {inside ? null : (
        <div className="w-80">
          <PlainField label="Why it ends before it is inside" value={why} onChange={(e) => setWhy(e.target.value)} />
        </div>
      )}
      <Button
        bench
        look={inside ? 'main' : 'plain'}
        disabled={isLoading || (!inside && why.trim().length < 3)}
        onClick={() => void end({ number: job.number, id: session.id, reason: why.trim() })}
      >
        {inside ? 'Inside: record the balance' : 'End it as it stands'}
      </Button>
      <ProblemNote error={error} />
    </section>
  );
}
