import { operation, type Verdict } from '@norther/core';
import type { JobDetail, StepViewRow } from '@norther/contracts';
import { useEffect, useRef, useState } from 'react';
import { useSessionQuery } from '../../app/api/people.ts';
import { useReadingDefaults, useSettings, useToday } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { DraftNote, enterMovesOn, Field } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';
import { useTypedForm } from '../../ui/useTypedForm.ts';
import { VerdictMark } from '../../ui/Verdict.tsx';
import { judgedHere } from './ahead.ts';
import { Decider } from './Decider.tsx';
import { inWords } from './words.ts';
import type { Acts } from './useActs.ts';

const NOTHING = {};

/** The record of a running step, judged while it is typed. */
export function StepRecord({
  job,
  step,
  acts,
  fill,
  onDone,
}: {
  job: JobDetail;
  step: StepViewRow;
  acts: Acts;
  fill: { typed: Readonly<Record<string, string>>; n: number } | undefined;
  onDone: (came: { verdict?: Verdict; reason: string }) => void;
}) {
  const op = operation(step.code);
  const form = useTypedForm({
    key: `step:${job.number}:${step.code}:${step.attempts.length}`,
    specs: op.fields,
    start: NOTHING,
  });
  const settings = useSettings();
  const today = useToday();
  const defaults = useReadingDefaults();
  const { data: session } = useSessionQuery();
  const [tried, setTried] = useState(false);
  const filled = useRef(0);
  const { set } = form;
  useEffect(() => {
    if (!fill || fill.n === filled.current) return;
    filled.current = fill.n;
    for (const [name, text] of Object.entries(fill.typed)) if (op.fields.some((f) => f.name === name)) set(name, text);
  }, [fill, op, set]);
  const gauges = settings?.gauges.map((g) => g.name);
  const missing = op.fields.filter((f) => f.required && !form.typed[f.name]);
  const anything = Object.keys(form.typed).length > 0;
  const judged =
    settings && anything
      ? judgedHere(job, step.code, form.typed, {
          limits: settings.limits,
          defaults,
          person: session?.person.name ?? '',
          gauges: { kept: settings.gauges, today },
        })
      : undefined;
  const finish = async (): Promise<void> => {
    setTried(true);
    if (missing.length > 0 || form.reading.problems.length > 0) return;
    const came = await acts.act('finish', { typed: form.typed });
    if (came.outcome === 'refused') return;
    form.recorded({});
    onDone(
      came.outcome === 'taken'
        ? (came.data as { verdict: Verdict; reason: string })
        : { reason: 'Kept on this device; it is sent when the network is back.' },
    );
  };
  return (
    <form
      aria-label="Record"
      className="mt-3 border-t border-line pt-2"
      onKeyDown={enterMovesOn}
      onSubmit={(e) => {
        e.preventDefault();
        void finish();
      }}
    >
      <Decider job={job} op={op} />
      <div className="grid grid-cols-1 sm:grid-cols-2 gap-x-3">
        {op.fields.map((f) => (
          <Field key={f.name} form={form} spec={f} bench suggest={f.name === 'instrument' ? gauges : undefined} />
        ))}
      </div>
      {judged && (op.accept.length > 0 || judged.verdict !== 'pass') ? (
        <p className="mt-1" role="status">
          <VerdictMark verdict={judged.verdict} />{' '}
          {missing.length > 0 && judged.verdict === 'pass'
            ? 'So far nothing stands against it.'
            : inWords(judged.reason)}
        </p>
      ) : null}
      {tried && missing.length > 0 ? (
        <ProblemNote>Still needed: {missing.map((m) => m.label).join(', ')}.</ProblemNote>
      ) : null}
      <DraftNote form={form} />
      <div className="fixed bottom-0 inset-x-0 border-t border-line bg-sheet px-3 py-2 z-10">
        <div className="max-w-3xl mx-auto flex">
          <Button look="main" bench type="submit" className="flex-1 min-h-14" disabled={acts.busy}>
            Finish {op.title.toLowerCase()}
          </Button>
        </div>
      </div>
    </form>
  );
}
