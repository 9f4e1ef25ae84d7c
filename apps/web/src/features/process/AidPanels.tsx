import { aidsOf, askAid, FIRST_PART, type Nameplate, type StepAid } from '@norther/core';
import { windingOfPart, type JobDetail } from '@norther/contracts';
import { useMemo } from 'react';
import { useSettings } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { DraftNote, enterMovesOn, Field } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';
import { useTypedForm } from '../../ui/useTypedForm.ts';
import { VerdictMark } from '../../ui/Verdict.tsx';
import { WorkingTable } from '../../ui/Working.tsx';
import { earlierOf } from './ahead.ts';

/** The calculations that help at a step, each folded away until it is wanted. */
export function AidPanels({
  job,
  code,
  onFill,
}: {
  job: JobDetail;
  code: string;
  onFill: ((typed: Readonly<Record<string, string>>) => void) | undefined;
}) {
  const aids = aidsOf(code);
  if (aids.length === 0) return null;
  return (
    <section aria-label="Reckoned here" className="mt-3 space-y-2">
      {aids.map((aid) => (
        <details key={aid.id} className="border border-line bg-sheet">
          <summary className="min-h-11 px-3 py-2 font-semibold cursor-pointer">{aid.title}</summary>
          <Aid job={job} aid={aid} onFill={onFill} />
        </details>
      ))}
    </section>
  );
}

function Aid({
  job,
  aid,
  onFill,
}: {
  job: JobDetail;
  aid: StepAid;
  onFill: ((typed: Readonly<Record<string, string>>) => void) | undefined;
}) {
  const settings = useSettings();
  const context = useMemo(() => {
    const { found } = windingOfPart(job, FIRST_PART);
    return {
      record: found?.record,
      nameplate: job.nameplate as Nameplate,
      earlier: earlierOf(job),
      limits: settings?.limits ?? {},
      ...(settings ? { supplyTapsV: settings.supplyTapsV } : {}),
    };
  }, [job, settings]);
  const start = useMemo(() => ({ ...aid.start(context) }), [aid, context]);
  const form = useTypedForm({ key: `aid:${job.number}:${aid.id}`, specs: aid.fields, start });
  const { values, problems } = form.reading;
  const { result, problem } = useMemo(
    () => (problems.length > 0 ? {} : askAid(aid, values, context)),
    [aid, values, problems, context],
  );
  return (
    <form className="px-3 pb-3" aria-label={aid.title} onKeyDown={enterMovesOn} onSubmit={(e) => e.preventDefault()}>
      <div className="grid grid-cols-2 sm:grid-cols-3 gap-x-3">
        {aid.fields.map((f) => (
          <Field key={f.name} form={form} spec={f} bench />
        ))}
      </div>
      <DraftNote form={form} />
      <ProblemNote>{problem?.message}</ProblemNote>
      {result ? (
        <div className="mt-2 space-y-1" role="status">
          {result.verdict ? (
            <p>
              <VerdictMark verdict={result.verdict} /> {result.reason}
            </p>
          ) : null}
          <dl className="grid grid-cols-1 sm:grid-cols-[12rem_1fr] gap-x-3">
            {result.lines.map(([label, value]) => (
              <div key={label} className="contents">
                <dt className="font-semibold">{label}</dt>
                <dd className="tabular-nums">{value}</dd>
              </div>
            ))}
          </dl>
          {result.says?.map((s) => (
            <p key={s}>{s}</p>
          ))}
          {onFill && result.fills ? (
            <Button
              bench
              onClick={() => onFill(Object.fromEntries(Object.entries(result.fills ?? {}).filter(([, v]) => v !== '')))}
            >
              Put into the record
            </Button>
          ) : null}
          {result.working && result.working.length > 0 ? (
            <details>
              <summary className="text-small text-accent cursor-pointer py-1.5">Show the working</summary>
              <WorkingTable steps={result.working} />
            </details>
          ) : null}
        </div>
      ) : null}
    </form>
  );
}
