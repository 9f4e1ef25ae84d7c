import { useDraftText } from '../../app/draft.ts';
import {
  measurablesOf,
  judgeTest,
  judgingContext,
  fieldsFor,
  isWindingPart,
  testsFor,
  testKind,
  TEST_STAGE_TITLES,
  type RouteId,
  type TestKind,
  type TestStage,
  typedWithUnit,
  operation,
  FIRST_PART,
  SENSOR_STAGES,
  gaugeNamed,
} from '@norther/core';
import { type JobDetail, type TestView, windingOfPart } from '@norther/contracts';
import { useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { useRecordTestMutation, useSignTestMutation } from '../../app/api/evaluate.ts';
import { useSessionQuery } from '../../app/api/people.ts';
import { useReadingDefaults, useMay, useSettings, useTime, useToday } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { DateField } from '../../ui/DateField.tsx';
import { PieceField } from '../motor/PieceField.tsx';
import { DraftNote, enterMovesOn, Field, PlainField } from '../../ui/Field.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';
import { type Typed, useTypedForm } from '../../ui/useTypedForm.ts';
import { VerdictMark } from '../../ui/Verdict.tsx';
import { SensorsPanel } from '../sensor/SensorsPanel.tsx';
import { ShowWorking } from './ShowWorking.tsx';
import { TrendView } from './TrendView.tsx';
import { stagesOf, testedOfJob, TestMatrix } from './TestMatrix.tsx';

/** Matrix of test by stage; one cell open below: readings in, verdict with reason and working out. */
export function TestsView({ job }: { job: JobDetail }) {
  const [params, setParams] = useSearchParams();
  // the stage whose tests decide what can be done now
  const due = job.detailSteps
    .filter((s) => ['running', 'ready'].includes(s.status))
    .map((s) => operation(s.code).decidedBy)
    .find((d) => d?.kind === 'tests');
  const now = due?.stage ?? stagesOf(job)[0] ?? 'IN';
  const stage = (params.get('stage') ?? now) as TestStage;
  const kind = testKind(params.get('test') ?? '') ?? testsFor(testedOfJob(job))[0];
  return (
    <div className="space-y-4">
      <TestMatrix
        job={job}
        chosen={{ stage, kind: kind?.id ?? '' }}
        onChoose={(s, k) => setParams({ stage: s, test: k }, { replace: true })}
      />
      {kind ? <TestCell key={`${stage}${kind.id}`} job={job} stage={stage} kind={kind} /> : null}
      {job.came === 'rotor only' ? null : (
        <SensorsPanel key={stage} job={job} stage={SENSOR_STAGES.find((s) => s === stage) ?? 'fitted'} folded />
      )}
    </div>
  );
}

function TestCell({ job, stage, kind }: { job: JobDetail; stage: TestStage; kind: TestKind }) {
  const mayTest = useMay('tester') && !job.closedAt;
  const runs = job.tests.filter((t) => t.stage === stage && t.kind === kind.id);
  const standing = runs.filter((t) => t.supersededBy === null).at(-1);
  const [correcting, setCorrecting] = useState(false);
  const [again, setAgain] = useState(false);
  return (
    <section className="grid grid-cols-1 lg:grid-cols-[minmax(0,1.2fr)_minmax(380px,1fr)] gap-6">
      <div>
        <h2 className="text-title font-semibold">
          {kind.title}, {TEST_STAGE_TITLES[stage]}
        </h2>
        <p className="text-small font-semibold mb-2">Caution: {kind.caution}</p>
        {!mayTest ? (
          <Quiet>
            {standing ? '' : 'Not done yet. '}
            {job.closedAt ? 'The motor has left the house.' : 'Test readings are entered by a tester or foreman.'}
          </Quiet>
        ) : standing && !correcting && !again ? (
          <div className="flex gap-2">
            <Button onClick={() => setAgain(true)}>Measure again</Button>
            <Button onClick={() => setCorrecting(true)}>Correct this reading</Button>
          </div>
        ) : (
          <Entry
            key={correcting ? 'c' : 'n'}
            job={job}
            stage={stage}
            kind={kind}
            {...(correcting && standing ? { corrects: standing } : {})}
            onDone={() => {
              setCorrecting(false);
              setAgain(false);
            }}
          />
        )}
        <TrendView key={kind.id} job={job} measurable={measurablesOf(kind)} />
      </div>
      <div className="space-y-3">
        {[...runs].reverse().map((t) => (
          <Run key={t.id} job={job} kind={kind} run={t} />
        ))}
      </div>
    </section>
  );
}

function Entry({
  job,
  stage,
  kind,
  corrects,
  onDone,
}: {
  job: JobDetail;
  stage: TestStage;
  kind: TestKind;
  corrects?: TestView;
  onDone: () => void;
}) {
  const tested = testedOfJob(job);
  const usual: Typed = kind.usual?.(tested) ?? {};
  const fields = fieldsFor(kind, tested);
  const form = useTypedForm({
    key: `test:${job.number}:${stage}:${kind.id}${corrects ? `:${corrects.id}` : ''}`,
    specs: kind.fields,
    start: corrects?.typed ?? usual,
  });
  const settings = useSettings();
  const { data: session } = useSessionQuery();
  const today = useToday();
  const [record, { isLoading, error }] = useRecordTestMutation();
  const reason = useDraftText(`reason:correction:${corrects?.id ?? 'none'}`);
  const [until, setUntil] = useState('');
  const gauges = settings?.gauges ?? [];
  // as the shop keeps it, unless another day is stated
  const calibrated = until || (gaugeNamed(gauges, form.typed['instrument'] ?? '')?.calibratedUntil ?? '');
  const [piece, setPiece] = useState('');
  const [tried, setTried] = useState(false);
  const missing = fields.filter((f) => f.required && !form.typed[f.name]);
  const lacks = missing.length === 0 ? kind.lacks?.(form.reading.values) : undefined;
  const preview = useMemo(() => {
    if (missing.length > 0 || lacks || form.reading.problems.length > 0) return undefined;
    try {
      const part = kind.part && isWindingPart(kind.part) ? kind.part : FIRST_PART;
      const own = windingOfPart(job, part);
      const context = judgingContext({
        stage,
        part,
        rotor: windingOfPart(job, 'wound-rotor').shown,
        route: job.route as RouteId,
        nameplate: job.nameplate,
        found: own.found,
        plan: own.plan,
        limits: settings?.limits ?? {},
        calibrationExpired: calibrated !== '' && calibrated < today,
      });
      return judgeTest(kind, form.reading.values, context, session?.person.name ?? '');
    } catch {
      return undefined;
    }
    // missing follows from what was typed
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [form.reading, job, kind, stage, settings, calibrated, today, session]);
  return (
    <form
      onKeyDown={enterMovesOn}
      onSubmit={(e) => {
        e.preventDefault();
        setTried(true);
        if (missing.length > 0 || lacks || form.reading.problems.length > 0) return;
        void record({
          number: job.number,
          stage,
          kind: kind.id,
          typed: form.typed,
          ...(kind.part ? { part: kind.part } : {}),
          ...(piece.trim() === '' ? {} : { unit: Number(piece) }),
          ...(calibrated ? { calibratedUntil: calibrated } : {}),
          ...(corrects ? { supersedes: corrects.id, reason: reason.text } : {}),
        }).then((r) => {
          if (!('data' in r)) return;
          form.recorded(usual);
          reason.recorded();
          onDone();
        });
      }}
    >
      <div className="grid grid-cols-2 md:grid-cols-3 gap-x-3">
        {fields.map((f) => (
          <Field
            key={f.name}
            form={form}
            spec={f}
            bench
            suggest={f.name === 'instrument' ? gauges.map((g) => g.name) : undefined}
          />
        ))}
        {corrects ? null : <PieceField job={job} piece={piece} onPiece={setPiece} />}
        <DateField label="Calibrated until" value={calibrated} onChange={setUntil} />
      </div>
      {corrects ? (
        <PlainField label="Reason of the correction" value={reason.text} onChange={(e) => reason.set(e.target.value)} />
      ) : null}
      {tried && missing.length > 0 ? (
        <ProblemNote>Still needed: {missing.map((m) => m.label).join(', ')}.</ProblemNote>
      ) : null}
      {tried && lacks ? <ProblemNote>{lacks.message}</ProblemNote> : null}
      {preview ? (
        <p className="my-2" aria-live="polite">
          <VerdictMark verdict={preview.verdict} /> {preview.reason}
        </p>
      ) : null}
      <ProblemNote error={error} />
      <div className="flex gap-3 items-center mt-2">
        <Button
          look="main"
          bench
          type="submit"
          disabled={isLoading || (corrects !== undefined && reason.text.trim().length < 3)}
        >
          {corrects ? 'Record the correction' : 'Record'}
        </Button>
        <DraftNote form={form} />
      </div>
    </form>
  );
}

function Run({ job, kind, run }: { job: JobDetail; kind: TestKind; run: TestView }) {
  const time = useTime();
  const defaults = useReadingDefaults();
  const maySign = useMay('tester') && !job.closedAt;
  const [sign, { error }] = useSignTestMutation();
  const reason = useDraftText(`reason:sign:${run.id}`);
  return (
    <article className={`border-l-4 pl-3 ${run.supersededBy ? 'border-line opacity-70' : 'border-edge'}`}>
      <p className="flex gap-2 items-center flex-wrap">
        <VerdictMark verdict={run.verdict} size={run.supersededBy ? 'small' : 'large'} />
        <span className="text-small text-soft">
          {run.person}, {time(run.takenAt)}
          {run.supersededBy ? ' · corrected since' : ''}
          {run.correctionReason ? ` · correction: ${run.correctionReason}` : ''}
        </span>
      </p>
      <p>{run.reason}</p>
      <p className="text-small text-soft">
        {kind.fields
          .filter((f) => run.typed[f.name])
          .map((f) => `${f.label} ${typedWithUnit(f, run.typed[f.name] ?? '', defaults, run.values[f.name])}`)
          .join(' · ')}
      </p>
      {run.signed ? (
        <p className="text-small">
          {run.signed.meaning} by {run.signed.by} ({run.signed.role}), {time(run.signed.at)}: {run.signed.reason}
        </p>
      ) : run.verdict === 'attention' && maySign && !run.supersededBy ? (
        <form
          className="flex gap-2 mt-1"
          onSubmit={(e) => {
            e.preventDefault();
            void sign({ number: job.number, id: run.id, reason: reason.text }).then(
              (r) => 'data' in r && reason.recorded(),
            );
          }}
        >
          <input
            aria-label="Reason of the sign-off"
            placeholder="Why it may pass, signed with your name"
            value={reason.text}
            onChange={(e) => reason.set(e.target.value)}
            className="flex-1 min-h-9 border border-edge rounded-sm px-2 bg-sheet"
          />
          <Button type="submit" disabled={reason.text.trim().length < 3}>
            Sign off
          </Button>
        </form>
      ) : null}
      <ProblemNote error={error} />
      <ShowWorking number={job.number} id={run.id} result={run.result} />
    </article>
  );
}
