import { CAUTIONS, LISTS_MISSING, operation, STAGES, type Stage } from '@norther/core';
import type { JobDetail, StepViewRow } from '@norther/contracts';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useDraftText } from '../../app/draft.ts';
import { useFinishStepMutation, useMendStepMutation, useStartStepMutation } from '../../app/api/process.ts';
import { useMay } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { DraftNote, enterMovesOn, Field } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';
import { useTypedForm } from '../../ui/useTypedForm.ts';
import { Attempts } from './Attempts.tsx';
import { Decider } from './Decider.tsx';
import { PiecesDone } from './PiecesDone.tsx';
import { Rails, RailsLegend } from './Rails.tsx';
import { RouteEdits } from './RouteEdits.tsx';
import { stationsOf } from './stations.ts';
import { inWords, STATE_WORDS } from './words.ts';

/** The rails with the operations of one stage open below. */
export function RouteView({ job }: { job: JobDetail }) {
  const [params, setParams] = useSearchParams();
  const stations = stationsOf(job.steps);
  const turn =
    job.detailSteps.find((s) => ['failed', 'attention', 'undecided', 'recheck'].includes(s.status)) ??
    job.detailSteps.find((s) => s.status === 'running') ??
    job.detailSteps.find((s) => s.status === 'ready');
  const stage = (params.get('stage') ?? (turn ? operation(turn.code).stage : 'Intake')) as Stage;
  const own = job.detailSteps.filter((s) => operation(s.code).stage === stage);
  const at = STAGES.indexOf(stage);
  return (
    <>
      <Rails stations={stations} titles chosen={stage} onChoose={(s) => setParams({ stage: s }, { replace: true })} />
      <div className="flex justify-between items-center my-1">
        <h2 className="text-title font-semibold">{stage}</h2>
        <RailsLegend />
        <span className="flex gap-1">
          <Button disabled={at <= 0} onClick={() => setParams({ stage: STAGES[at - 1] ?? stage }, { replace: true })}>
            ← {STAGES[at - 1] ?? ''}
          </Button>
          <Button
            disabled={at >= STAGES.length - 1}
            onClick={() => setParams({ stage: STAGES[at + 1] ?? stage }, { replace: true })}
          >
            {STAGES[at + 1] ?? ''} →
          </Button>
        </span>
      </div>
      {own.length === 0 ? <p className="text-soft">This job has no operation here.</p> : null}
      <ol className="grid gap-2">
        {own.map((s) => (
          <StepCard key={`${s.code}:${s.state}:${s.attempts.length}`} job={job} step={s} />
        ))}
      </ol>
      <RouteEdits job={job} />
    </>
  );
}

function StepCard({ job, step }: { job: JobDetail; step: StepViewRow }) {
  const op = operation(step.code);
  const [start, starting] = useStartStepMutation();
  const [mend, mending] = useMendStepMutation();
  const mayWork = useMay('winder') && !job.closedAt;
  const mayMend = useMay('foreman') && !job.closedAt;
  const maySign = (useMay('tester') && op.decidedBy?.kind === 'tests' && !job.closedAt) || mayMend;
  const [asking, setAsking] = useState<'override' | 'reopen' | 'waive' | 'sign'>();
  const reason = useDraftText(`reason:step:${job.number}:${step.code}`);
  const number = job.number;
  const confirm = async (): Promise<void> => {
    const answer =
      asking === 'override'
        ? await start({ number, code: step.code, override: { reason: reason.text } })
        : asking
          ? await mend({ number, code: step.code, what: asking, reason: reason.text })
          : undefined;
    if (answer && 'data' in answer) {
      setAsking(undefined);
      reason.recorded();
    }
  };
  const turn = ['ready', 'running', 'recheck'].includes(step.status);
  const edge =
    step.status === 'failed'
      ? 'border-fail'
      : ['attention', 'undecided', 'recheck'].includes(step.status)
        ? 'border-attention'
        : turn
          ? 'border-accent'
          : 'border-line';
  return (
    <li className={`border-l-4 ${edge} bg-sheet px-4 py-2`}>
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1">
        <h3 className="font-semibold">
          <Link
            className="underline decoration-line underline-offset-4 hover:decoration-accent"
            to={`/jobs/${number}/step/${step.code}`}
          >
            {op.title}
          </Link>
        </h3>
        <span className="text-small text-soft">{op.rail}</span>
        <span
          className={`font-semibold text-small ${turn ? 'text-accent' : step.status === 'failed' ? 'text-fail' : ['attention', 'undecided'].includes(step.status) ? 'text-attention' : 'text-soft'}`}
        >
          {STATE_WORDS[step.status]}
        </span>
        {step.why ? <span className="text-small text-soft">{inWords(step.why)}</span> : null}
        {step.why === LISTS_MISSING ? (
          <Link className="text-small text-accent underline" to={`/jobs/${number}/material`}>
            make them
          </Link>
        ) : null}
        <span className="ml-auto flex gap-2">
          {mayWork && (step.status === 'ready' || step.status === 'recheck') ? (
            <Button
              look="main"
              bench
              onClick={() => void start({ number, code: step.code })}
              disabled={starting.isLoading}
            >
              Start
            </Button>
          ) : null}
          {maySign && (step.state === 'attention' || step.state === 'recheck') ? (
            <Button bench onClick={() => setAsking('sign')}>
              {step.state === 'attention' ? 'Sign off' : 'Still holds'}
            </Button>
          ) : null}
          {mayMend && ['failed', 'undecided', 'attention', 'passed', 'waived'].includes(step.state) ? (
            <Button onClick={() => setAsking('reopen')}>Reopen</Button>
          ) : null}
          {mayMend && step.state === 'open' && step.status !== 'ready' ? (
            <Button look="danger" onClick={() => setAsking('override')}>
              Start over the hold
            </Button>
          ) : null}
          {mayMend && step.state === 'open' ? <Button onClick={() => setAsking('waive')}>Waive</Button> : null}
        </span>
      </div>
      <p className="text-small text-soft">{op.what}</p>
      {turn && op.cautions.length > 0 ? (
        <p className="text-small font-semibold">
          Caution: {op.cautions.map((c) => CAUTIONS[c]).join(' ')} Local codes and licensed practice decide.
        </p>
      ) : null}
      {asking ? (
        <form
          className="flex gap-2 my-2"
          onSubmit={(e) => {
            e.preventDefault();
            void confirm();
          }}
        >
          <input
            autoFocus
            aria-label="Reason"
            value={reason.text}
            onChange={(e) => reason.set(e.target.value)}
            placeholder="Reason, kept on record with your name"
            className="flex-1 min-h-11 border border-edge rounded-sm px-2 bg-sheet"
          />
          <Button
            bench
            look="main"
            type="submit"
            disabled={reason.text.trim().length < 3 || mending.isLoading || starting.isLoading}
          >
            {{ override: 'Start over the hold', reopen: 'Reopen', waive: 'Waive', sign: 'Sign' }[asking]}
          </Button>
          <Button bench look="quiet" onClick={() => setAsking(undefined)}>
            Leave it
          </Button>
        </form>
      ) : null}
      <ProblemNote error={starting.error ?? mending.error} />
      {step.state === 'running' && mayWork && job.quantity > 1 ? <PiecesDone job={job} step={step} /> : null}
      {step.state === 'running' && mayWork ? <RecordForm job={job} step={step} /> : null}
      <Attempts step={step} />
    </li>
  );
}

function RecordForm({ job, step }: { job: JobDetail; step: StepViewRow }) {
  const op = operation(step.code);
  const form = useTypedForm({
    key: `step:${job.number}:${step.code}:${step.attempts.length}`,
    specs: op.fields,
    start: {},
  });
  const [finish, { isLoading, error }] = useFinishStepMutation();
  const [tried, setTried] = useState(false);
  const missing = op.fields.filter((f) => f.required && !form.typed[f.name]);
  return (
    <form
      className="mt-2"
      onKeyDown={enterMovesOn}
      onSubmit={(e) => {
        e.preventDefault();
        setTried(true);
        if (missing.length === 0 && form.reading.problems.length === 0)
          void finish({ number: job.number, code: step.code, typed: form.typed }).then((r) =>
            'data' in r ? form.recorded({}) : undefined,
          );
      }}
    >
      <Decider job={job} op={op} />
      <div className="grid grid-cols-2 md:grid-cols-4 gap-x-3">
        {op.fields.map((f) => (
          <Field key={f.name} form={form} spec={f} bench />
        ))}
      </div>
      {tried && missing.length > 0 ? (
        <ProblemNote>Still needed: {missing.map((m) => m.label).join(', ')}.</ProblemNote>
      ) : null}
      <ProblemNote error={error} />
      <div className="flex gap-3 items-center mt-1">
        <Button look="main" bench type="submit" disabled={isLoading}>
          Finish {op.title.toLowerCase()}
        </Button>
        <DraftNote form={form} />
      </div>
    </form>
  );
}
