import type { JobDetail } from '@norther/contracts';
import { useState } from 'react';
import { useInstrumentsQuery } from '../../app/api/instrument.ts';
import { useBeginLoadRunMutation, useLoadRunFileMutation } from '../../app/api/load.ts';
import { Button } from '../../ui/Button.tsx';
import { PlainField, PlainSelect } from '../../ui/Field.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';

/** What is to be done before a run, and its beginning: on an instrument, or from a file. */
export function BeginRun({ job }: { job: JobDetail }) {
  const { data } = useInstrumentsQuery(undefined, { pollingInterval: 3000 });
  const stands = (data ?? []).filter((i) => i.active && i.mayWrite.includes('load'));
  const [begin, begun] = useBeginLoadRunMutation();
  const [file, filed] = useLoadRunFileMutation();
  const [chosen, setChosen] = useState('');
  const [percent, setPercent] = useState('');
  const stand = stands.find((i) => i.id === chosen) ?? stands[0];
  const most = percent.trim() === '' ? undefined : Number(percent);
  return (
    <div className="grid grid-cols-1 lg:grid-cols-2 gap-8">
      <section aria-label="On a dynamometer" className="space-y-2">
        <h2 className="font-semibold">On a dynamometer</h2>
        <p className="text-soft max-w-prose">
          Couple, align, close the guard, check the zero of the torque. Cold resistance is read already. The load goes
          to rated output until the winding rises no more, then in six steps from the highest down.
        </p>
        {stands.length === 0 ? (
          <Quiet>No instrument sends load runs yet: an admin adds one under Instruments.</Quiet>
        ) : (
          <form
            className="flex flex-wrap gap-3 items-end"
            onSubmit={(e) => {
              e.preventDefault();
              if (stand)
                void begin({
                  number: job.number,
                  instrument: stand.id,
                  stage: 'FI',
                  ...(most === undefined ? {} : { loadPercent: most }),
                });
            }}
          >
            <PlainSelect
              label="Instrument"
              value={stand?.id ?? ''}
              onChange={(e) => setChosen(e.target.value)}
              options={stands.map((i) => ({
                value: i.id,
                label: `${i.name}${i.simulated ? ' (simulated)' : ''}${i.outOfDate ? ', out of calibration' : ''}`,
              }))}
            />
            <PlainField
              label="Current up to, % of rated"
              hint="blank: the shop’s; to 160 for the short points"
              value={percent}
              onChange={(e) => setPercent(e.target.value)}
            />
            <Button
              look="main"
              bench
              type="submit"
              disabled={begun.isLoading || (most !== undefined && !Number.isFinite(most))}
            >
              Begin
            </Button>
          </form>
        )}
        {stand?.simulated && !stand.hears ? (
          <p className="text-attention">{stand.name} is not heard of: its program does not run.</p>
        ) : null}
        <ProblemNote error={begun.error} />
      </section>
      <section aria-label="From a file" className="space-y-2">
        <h2 className="font-semibold">From a file</h2>
        <p className="text-soft max-w-prose">
          CSV with a heading: time [s], U12 [V], I1 [A], P [W], f [Hz], T [N·m], n [r/min], winding [°C]; points are
          found in it as in a run that is followed.
        </p>
        <label className="block">
          <span className="block text-small text-soft">Log of a load run (CSV)</span>
          <input
            type="file"
            accept=".csv,.txt,text/csv,text/plain"
            className="min-h-9 text-small"
            onChange={(e) => {
              const picked = e.target.files?.[0];
              e.target.value = '';
              if (picked)
                void picked
                  .text()
                  .then((csv) => file({ number: job.number, stage: 'FI', fileName: picked.name.slice(0, 120), csv }));
            }}
          />
        </label>
        <ProblemNote error={filed.error} />
      </section>
    </div>
  );
}
