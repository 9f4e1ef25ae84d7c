import { BURN_PART_FIELDS, LOAD_PART_FIELDS } from '@norther/core';
import type { ChamberView, LoadView, OvenCandidate } from '@norther/contracts';
import { useRef, useState } from 'react';
import { useCandidatesQuery, usePutInMutation } from '../../app/api/oven.ts';
import { problemOf } from '../../app/api/base.ts';
import { useMay, useTime } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { enterMovesOn, Field, PlainField } from '../../ui/Field.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';
import { useTypedForm } from '../../ui/useTypedForm.ts';

const NOTHING = {};

/** A card scanned in: who, how heavy, how large, which sensors sit on it; beside it what may still go in. */
export function PutIn({ load, chamber }: { load: LoadView; chamber: ChamberView }) {
  const [job, setJob] = useState('');
  const [channels, setChannels] = useState<readonly string[]>([]);
  const [why, setWhy] = useState('');
  const [putIn, { error, isLoading, reset }] = usePutInMutation();
  const mayOverride = useMay('foreman');
  const box = useRef<HTMLInputElement>(null);
  const specs = load.use === 'burn-off' ? BURN_PART_FIELDS : LOAD_PART_FIELDS;
  const form = useTypedForm({ key: `oven:in:${load.id}`, specs, start: NOTHING });
  const known = chamber.instrument?.channels ?? [];
  const taken = new Set(load.probes.filter((p) => p.part !== null).map((p) => p.channel));
  const held = error !== undefined && problemOf(error).title === 'Hold point';
  const choose = (c: OvenCandidate): void => {
    setJob(c.job);
    if (c.massKg !== null) form.set('mass', `${c.massKg} kg`);
  };
  return (
    <div className="grid grid-cols-1 xl:grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-x-6 gap-y-3">
      <form
        aria-label="Put a part in"
        onKeyDown={enterMovesOn}
        onSubmit={(e) => {
          e.preventDefault();
          void putIn({
            id: load.id,
            job: job.trim(),
            typed: form.typed,
            channels: [...channels],
            ...(why ? { override: { reason: why } } : {}),
          }).then((r) => {
            if (!r.data) return;
            form.recorded({});
            setJob('');
            setChannels([]);
            setWhy('');
            box.current?.focus();
          });
        }}
      >
        <h3 className="font-semibold">Put a part in</h3>
        <label className="block">
          <span className="block text-small font-semibold">Scan its card, or type the job number</span>
          <input
            ref={box}
            value={job}
            onChange={(e) => {
              setJob(e.target.value);
              reset();
            }}
            autoComplete="off"
            className="w-full rounded-sm border border-edge bg-sheet px-2 min-h-11 text-[1.125rem]"
          />
        </label>
        <div className="grid grid-cols-2 sm:grid-cols-3 gap-x-3 mt-1">
          {specs.map((f) => (
            <Field key={f.name} form={form} spec={f} bench />
          ))}
        </div>
        {known.length > 0 ? (
          <fieldset className="mt-1">
            <legend className="text-small font-semibold">Sensors that sit on it</legend>
            <div className="flex flex-wrap gap-x-4">
              {known.map((c) => (
                <label key={c} className={`inline-flex items-center gap-2 min-h-11 ${taken.has(c) ? 'text-soft' : ''}`}>
                  <input
                    type="checkbox"
                    className="size-5"
                    disabled={taken.has(c)}
                    checked={channels.includes(c)}
                    onChange={(e) => setChannels(e.target.checked ? [...channels, c] : channels.filter((x) => x !== c))}
                  />
                  {c}
                  {taken.has(c) ? ' (taken)' : ''}
                </label>
              ))}
            </div>
          </fieldset>
        ) : (
          <p className="text-small text-soft">
            {chamber.instrument
              ? 'The logger has not sent yet; its sensors are assigned when it does.'
              : 'No logger reads this chamber: the part is read by hand.'}
          </p>
        )}
        {held && mayOverride ? (
          <PlainField label="Let it in all the same, because" value={why} onChange={(e) => setWhy(e.target.value)} />
        ) : null}
        <Button look="main" bench type="submit" className="mt-2" disabled={isLoading || job.trim() === ''}>
          Put it in
        </Button>
        <ProblemNote error={error} />
      </form>
      <Candidates load={load} onChoose={choose} />
    </div>
  );
}

function Candidates({ load, onChoose }: { load: LoadView; onChoose: (c: OvenCandidate) => void }) {
  const { data } = useCandidatesQuery(load.id);
  const time = useTime();
  return (
    <section aria-label="May still go in">
      <h3 className="font-semibold">May still go in</h3>
      {data?.length === 0 ? <Quiet>No other motor is ready for this.</Quiet> : null}
      <ul>
        {(data ?? []).map((c) => (
          <li key={c.job} className="border-b border-line">
            <button
              type="button"
              disabled={c.faults.length > 0}
              onClick={() => onChoose(c)}
              className="w-full text-left py-1.5 min-h-11 disabled:text-soft enabled:hover:bg-sheet"
            >
              <span className="font-semibold">{c.job}</span> {c.what}
              <span className="block text-small text-soft">
                {c.faults.length > 0
                  ? c.faults.map((f) => f.says).join(' ')
                  : [
                      c.title,
                      c.massKg === null ? 'mass not known' : `${c.massKg} kg as the nameplate says`,
                      c.resin ?? '',
                      c.promised ? `promised ${time(c.promised, 'day')}` : '',
                    ]
                      .filter((t) => t !== '')
                      .join(' · ')}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
