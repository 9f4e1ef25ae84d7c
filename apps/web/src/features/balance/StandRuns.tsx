import { formatNumber } from '@norther/core';
import type { BalanceSessionView, StandRunView } from '@norther/contracts';
import { useSpinStandMutation, useStandRunsQuery } from '../../app/api/balance.ts';
import { useInstrumentsQuery } from '../../app/api/instrument.ts';
import { useTime } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';
import { readingNames, type TrialTyped } from './RunForm.tsx';

const EVERY_MS = 1200;

/** What stands send: the newest run in large figures, taken with one press; a simulated stand is spun from here. */
export function StandRuns({
  number,
  session,
  take,
  trialNow,
  needsTrial,
}: {
  number: string;
  session: BalanceSessionView;
  take: (trace: string) => void;
  trialNow: () => TrialTyped | undefined;
  needsTrial: boolean;
}) {
  const { data: instruments } = useInstrumentsQuery();
  const stands = (instruments ?? []).filter((i) => i.kind === 'balancing stand' && i.active);
  const { data: runs } = useStandRunsQuery(
    { number, id: session.id },
    { pollingInterval: EVERY_MS, skip: stands.length === 0 },
  );
  const [spin, { error, isLoading }] = useSpinStandMutation();
  if (stands.length === 0) return null;
  const fresh = (runs ?? []).filter((r) => !r.taken);
  const [newest] = fresh;
  return (
    <section aria-label="From the stand" className="border-b border-line pb-2">
      <div className="flex flex-wrap gap-3 items-center">
        <h3 className="font-semibold">From the stand</h3>
        {stands.map((s) =>
          s.simulated ? (
            <Button
              key={s.id}
              disabled={isLoading || !s.hears || (needsTrial && !trialNow())}
              onClick={() => {
                const trial = trialNow();
                void spin({ number, id: session.id, instrument: s.id, ...(trial ? { trial } : {}) });
              }}
            >
              Spin {s.name} (simulated)
            </Button>
          ) : (
            <span key={s.id} className="text-soft">
              {s.name}: started where it stands{s.outOfDate ? ', out of calibration' : ''}
            </span>
          ),
        )}
      </div>
      <ProblemNote error={error} />
      {newest ? <Shown run={newest} session={session} take={take} /> : null}
      {!newest && stands.length > 0 ? (
        <p className="text-small text-soft">No run has come since the last one that was taken.</p>
      ) : null}
    </section>
  );
}

function Shown({
  run: r,
  session,
  take,
}: {
  run: StandRunView;
  session: BalanceSessionView;
  take: (trace: string) => void;
}) {
  const time = useTime();
  const names = readingNames(session.setUp);
  const unit = session.setUp.readings === 'unbalance per plane' ? session.setUp.unbalanceUnit : session.typed['unit'];
  return (
    <div className="flex flex-wrap gap-x-6 gap-y-2 items-end mt-1">
      {r.run?.readings.map((v, i) => (
        <p key={names[i]}>
          <span className="block text-small text-soft">{names[i]}</span>
          <span className="text-bench font-bold tabular-nums">
            {formatNumber(v.size, 4)} {unit} at {formatNumber(v.angleDeg, 4)}°
          </span>
        </p>
      ))}
      <p className="text-small text-soft">
        {r.instrument}
        {r.simulated ? ' (simulated)' : ''}, {time(r.at)}
        {r.run
          ? `, ${r.run.rpm === undefined ? '' : `${formatNumber(r.run.rpm, 4)} r/min, `}strays ${formatNumber(r.run.strayPercent, 2)} %`
          : ''}
        {r.ended ? '' : ', still turning'}
        {r.outOfDate ? ', out of calibration' : ''}
        {r.wrong === undefined ? '' : `: ${r.wrong}`}
      </p>
      {r.ended && r.run ? (
        <Button look="main" bench onClick={() => take(r.trace)}>
          Take this run
        </Button>
      ) : null}
    </div>
  );
}
