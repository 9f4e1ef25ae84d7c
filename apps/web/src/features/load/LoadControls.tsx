import type { JobDetail, LoadRunView } from '@norther/contracts';
import { formatNumber } from '@norther/core';
import { useEffect, useState } from 'react';
import { useEndLoadRunMutation, useLoadCommandMutation } from '../../app/api/load.ts';
import { Button } from '../../ui/Button.tsx';
import { PlainField } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';

/** By how much of the rated torque one press raises or lowers. */
const STEP = 0.1;
/** So long a press is shown before the server's word is. */
const PRESSED_MS = 2500;

/** The load by command: raise, lower, off; stop is always there. */
export function LoadControls({ job, run }: { job: JobDetail; run: LoadRunView }) {
  const [tell, told] = useLoadCommandMutation();
  const [stop, stopped] = useLoadCommandMutation();
  const [end, ended] = useEndLoadRunMutation();
  // what was just pressed stands until the server has it; then what was told last, by whomever
  const [pressed, setPressed] = useState<{ nm: number }>();
  useEffect(() => {
    const rest = setTimeout(() => setPressed(undefined), PRESSED_MS);
    return () => clearTimeout(rest);
  }, [pressed]);
  const wish = pressed?.nm ?? run.wantedNm;
  const setWish = (nm: number) => setPressed({ nm });
  const [typed, setTyped] = useState('');
  const [why, setWhy] = useState('');
  const of = { number: job.number, id: run.id };
  const may = run.instrument?.takes.includes('set load') ?? false;
  const unit = run.ratedNm ?? run.settings.ratedA;
  const set = (torqueNm: number) => {
    const to = Math.max(0, Number(torqueNm.toPrecision(4)));
    setWish(to);
    void tell({ ...of, command: 'set load', torqueNm: to });
  };
  const off = run.guard.says === 'unload';
  return (
    <section aria-label="Load" className="space-y-2">
      <div className="flex flex-wrap gap-3 items-end">
        <Button
          look="danger"
          bench
          className="min-w-36 border-2 text-bench"
          onClick={() => {
            setWish(0);
            void stop({ ...of, command: 'stop' });
          }}
        >
          Stop
        </Button>
        {may ? (
          <>
            <Button
              bench
              onClick={() => {
                setWish(0);
                void tell({ ...of, command: 'unload' });
              }}
            >
              Load off
            </Button>
            <Button bench disabled={off || wish <= 0} onClick={() => set(wish - STEP * unit)}>
              Lower by 10 %
            </Button>
            <Button bench disabled={off || run.guard.says === 'hold'} onClick={() => set(wish + STEP * unit)}>
              Raise by 10 %
            </Button>
            <form
              className="flex gap-2 items-end"
              onSubmit={(e) => {
                e.preventDefault();
                const nm = Number(typed.replace(',', '.'));
                if (typed.trim() !== '' && Number.isFinite(nm) && nm >= 0) set(nm);
              }}
            >
              <PlainField label="Load, N·m" value={typed} onChange={(e) => setTyped(e.target.value)} />
              <Button
                type="submit"
                bench
                disabled={off || !(Number(typed.replace(',', '.')) >= 0) || typed.trim() === ''}
              >
                Set
              </Button>
            </form>
            <span className="pb-2">
              Wanted: <strong className="tabular-nums">{formatNumber(wish, 4)} N·m</strong>
              {run.ratedNm ? ` (${formatNumber((100 * wish) / run.ratedNm, 3)} %)` : ''}
            </span>
          </>
        ) : (
          <span className="text-soft pb-2">{run.source} is loaded where it stands.</span>
        )}
        {off ? (
          <Button
            look="main"
            bench
            onClick={() => {
              setWish(0);
              void tell({ ...of, command: 'go on' });
            }}
          >
            Looked at: go on
          </Button>
        ) : null}
      </div>
      {run.instrument?.state === 'stopped here' ? (
        <ProblemNote>{run.source} was stopped on the spot; whoever stands there lets it go on.</ProblemNote>
      ) : null}
      {stopped.error ? (
        <ProblemNote>
          Stop did not get through: press stop on the stand. It takes the load off by itself after 2 s.
        </ProblemNote>
      ) : null}
      <ProblemNote error={told.error ?? ended.error} />
      <details>
        <summary className="cursor-pointer text-accent text-small py-1">End this run</summary>
        <form
          className="flex gap-2 items-end"
          onSubmit={(e) => {
            e.preventDefault();
            void end({ ...of, why: why.trim() });
          }}
        >
          <PlainField label="Why it ends" value={why} onChange={(e) => setWhy(e.target.value)} />
          <Button type="submit" disabled={why.trim().length < 3 || ended.isLoading}>
            End it
          </Button>
        </form>
      </details>
    </section>
  );
}
