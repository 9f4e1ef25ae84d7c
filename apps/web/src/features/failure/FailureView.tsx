import {
  causeTitle,
  failureAnalysis,
  FAILURE_FIELDS,
  lacksFailure,
  MOST_PINS,
  PARTS,
  readPins,
  runCalculation,
  sayPins,
  type FailureFound,
} from '@norther/core';
import { failedWinding, failureInputOf, type JobDetail, recordedParts } from '@norther/contracts';
import { useMemo, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useAddFileMutation } from '../../app/api/job.ts';
import { useSaveFailureMutation } from '../../app/api/winding.ts';
import { useMay, useSettings, useTime } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { DraftNote, enterMovesOn, Field } from '../../ui/Field.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';
import { useTypedForm } from '../../ui/useTypedForm.ts';
import { Diagnosis } from '../evaluate/Diagnosis.tsx';
import { shrunk } from '../intake/shrink.ts';
import { PartSwitch, partOf } from '../winding/PartSwitch.tsx';
import { DamageMap } from './DamageMap.tsx';
import { type NewPin, PhotographPins } from './PhotographPins.tsx';

const SEEN = [
  'looked',
  'rotorRub',
  'rotorBlued',
  'contamination',
  'steepSupply',
  'bearings',
  'shaft',
  'cooling',
  'terminals',
  'protection',
  'endTurns',
];
const CONCLUDED = ['cause', 'causeSays', 'contributing', 'advice', 'missing'];
const field = (name: string) => FAILURE_FIELDS.find((f) => f.name === name);
const fields = (names: readonly string[]) => names.flatMap((n) => field(n) ?? []);
const NOTHING: Record<string, string> = {};

/** Why it failed: the old winding marked by touch, what was seen, the causes as they are ranked, and what a person concludes. */
export function FailureView({ job }: { job: JobDetail }) {
  const [query] = useSearchParams();
  const part = partOf(query.get('part'));
  const parts = recordedParts(job);
  return (
    <>
      {parts.length > 1 ? <PartSwitch parts={parts} part={part} /> : null}
      <Analysis key={`${job.number}${part}`} job={job} part={part} />
    </>
  );
}

function Analysis({ job, part }: { job: JobDetail; part: ReturnType<typeof partOf> }) {
  const time = useTime();
  const limits = useSettings()?.limits;
  const may = useMay('winder') && !job.closedAt;
  const kept = job.failures?.find((f) => f.part === part);
  const { layout, why } = useMemo(() => failedWinding(job, part), [job, part]);
  const form = useTypedForm({
    key: `failure:${job.number}:${part}`,
    specs: FAILURE_FIELDS,
    start: kept?.typed ?? NOTHING,
  });
  const [save, { isLoading, error }] = useSaveFailureMutation();
  const [addPhotograph, adding] = useAddFileMutation();
  const [pin, setPin] = useState<NewPin>();
  const [tried, setTried] = useState(false);
  const pins = useMemo(() => readPins(form.typed['pins'] ?? ''), [form.typed]);
  const found: FailureFound | undefined = useMemo(() => {
    try {
      return runCalculation(failureAnalysis, failureInputOf(job, part, form.reading.values, limits ?? {}), {
        working: 'none',
      }).values;
    } catch {
      return kept?.found;
    }
  }, [job, part, form.reading, kept, limits]);
  const lacks = lacksFailure(form.reading.values, layout);
  const [first] = found?.causes ?? [];
  const take = (id: string): void => {
    const cause = found?.causes.find((c) => c.id === id);
    form.set('cause', id);
    form.set('missing', id === 'unknown' ? (found?.missing ?? []).join(', ') : '');
    form.set('contributing', (found?.contributing ?? []).map((c) => c.says).join('; '));
    form.set(
      'advice',
      [cause?.next ?? '', ...(found?.contributing ?? []).map((c) => c.advice)].filter((a) => a !== '').join(' '),
    );
  };
  const onPin =
    pin && may
      ? (at: { slot: number; along: number }) => {
          const next = {
            ...at,
            says: pin.says,
            ...(pin.photograph === '' ? {} : { photograph: Number(pin.photograph) }),
          };
          form.set('pins', sayPins([...pins, next].slice(0, MOST_PINS)));
          setPin(undefined);
        }
      : undefined;
  const problem = form.reading.problems[0]?.message ?? lacks?.message;
  return (
    <form
      onKeyDown={enterMovesOn}
      onSubmit={(e) => {
        e.preventDefault();
        setTried(true);
        if (problem) return;
        void save({ number: job.number, part, revision: kept?.revision ?? 0, typed: form.typed }).then((r) => {
          if ('data' in r && r.data) form.recorded(r.data.typed);
        });
      }}
      className="grid grid-cols-1 lg:grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)] gap-6"
    >
      <div className="space-y-3 min-w-0">
        {layout ? (
          <DamageMap
            layout={layout}
            text={form.typed['marks'] ?? ''}
            pins={pins}
            onText={may ? (text) => form.set('marks', text) : undefined}
            onPin={onPin}
          />
        ) : (
          <Quiet>
            {why || 'The winding is not recorded yet; its coils cannot be marked.'}{' '}
            <Link className="text-accent underline" to={`/jobs/${job.number}/data`}>
              Data as found
            </Link>
          </Quiet>
        )}
        <fieldset disabled={!may}>
          {fields(['marks']).map((f) => (
            <Field key={f.name} form={form} spec={f} wide />
          ))}
        </fieldset>
        <PhotographPins
          photographs={job.attachments}
          pins={pins}
          next={pin}
          onNext={may && layout ? setPin : undefined}
          onTake={(index) => form.set('pins', sayPins(pins.filter((_, i) => i !== index)))}
        />
        {may ? (
          <label className="inline-flex items-center justify-center min-h-9 px-3 rounded-sm border border-edge bg-sheet font-semibold cursor-pointer focus-within:outline-2 focus-within:outline-accent">
            {adding.isLoading ? 'Sending …' : 'Photograph'}
            <input
              type="file"
              accept="image/*"
              capture="environment"
              className="sr-only"
              onChange={(e) => {
                const input = e.target;
                const file = input.files?.[0];
                if (!file) return;
                void shrunk(file)
                  .then((content) => addPhotograph({ number: job.number, content, name: file.name }))
                  .then(() => (input.value = ''));
              }}
            />
          </label>
        ) : null}
        <ProblemNote error={adding.error} />
      </div>
      <div className="space-y-3 min-w-0">
        <fieldset disabled={!may}>
          <legend className="font-semibold border-b border-line w-full mb-1">Seen when it was opened</legend>
          <div className="grid grid-cols-2 gap-x-3">
            {fields(SEEN).map((f) => (
              <Field key={f.name} form={form} spec={f} />
            ))}
          </div>
        </fieldset>
        <section aria-label="Causes" aria-live="polite">
          <h2 className="font-semibold border-b border-line">What speaks for which cause</h2>
          {found && found.causes.length > 0 ? (
            <Diagnosis causes={found.causes.slice(0, 5)} />
          ) : (
            <Quiet>{found?.reason ?? 'Mark the old winding first.'}</Quiet>
          )}
          {found && found.contributing.length > 0 ? (
            <p className="text-small">
              Helped along by: {found.contributing.map((c) => c.says.toLowerCase()).join(', ')}.
            </p>
          ) : null}
          {found && found.missing.length > 0 ? (
            <p className="text-small text-soft">Would tell more: {found.missing.join(', ')}.</p>
          ) : null}
          {may ? (
            <div className="flex flex-wrap gap-2 mt-2">
              {first ? <Button onClick={() => take(first.id)}>Take “{causeTitle(first.id)}”</Button> : null}
              <Button look="quiet" onClick={() => take('unknown')}>
                The cause is unknown
              </Button>
            </div>
          ) : null}
        </section>
        <fieldset disabled={!may}>
          <legend className="font-semibold border-b border-line w-full mb-1">Concluded, for the report</legend>
          {fields(CONCLUDED).map((f) => (
            <Field key={f.name} form={form} spec={f} wide />
          ))}
        </fieldset>
        {tried && problem ? <ProblemNote>{problem}</ProblemNote> : null}
        <ProblemNote error={error} />
        <div className="flex flex-wrap gap-3 items-center">
          <Button look="main" bench type="submit" disabled={!may || isLoading || !form.changed}>
            Record the analysis
          </Button>
          <DraftNote form={form} />
          {kept ? (
            <span className="text-small text-soft">
              {PARTS[part].title}, revision {kept.revision}: {kept.person}, {time(kept.at)}
            </span>
          ) : null}
        </div>
      </div>
    </form>
  );
}
