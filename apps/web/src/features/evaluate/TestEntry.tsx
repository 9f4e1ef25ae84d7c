import {
  CalculationInputError,
  fieldsFor,
  gaugeNamed,
  judgeTest,
  stressBars,
  type Cause,
  type SurgeWaves,
  type TestKind,
  type TestStage,
  type WhatCame,
} from '@norther/core';
import type { JobDetail, TestView } from '@norther/contracts';
import { useMemo, useState } from 'react';
import { useRecordTestMutation } from '../../app/api/evaluate.ts';
import { useSessionQuery } from '../../app/api/people.ts';
import { useDraftText } from '../../app/draft.ts';
import { useMay, useSettings, useToday } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { DateField } from '../../ui/DateField.tsx';
import { DraftNote, enterMovesOn, Field, PlainField } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';
import { type Typed, useTypedForm } from '../../ui/useTypedForm.ts';
import { VerdictMark } from '../../ui/Verdict.tsx';
import { PieceField } from '../motor/PieceField.tsx';
import { contextOf, partOf, testsOfPart } from './benchContext.ts';
import { AnalyserRuns } from './AnalyserRuns.tsx';
import { Diagnosis } from './Diagnosis.tsx';
import { DueNote } from './DueNote.tsx';
import { SurgeChart } from './SurgeChart.tsx';
import { testedOfJob } from './TestMatrix.tsx';
import { drawnOfWaves } from './waves.ts';
import { WavesFile, type WavesSaid } from './WavesFile.tsx';

/** What a reading is made of beside what was typed: a file of waves, or what an analyser sent. */
interface Given {
  said?: WavesSaid;
  traces?: string[];
  waves?: SurgeWaves[] | undefined;
}

/** Readings in: what the test is to be done with, the fields, waves, the verdict while it is typed. */
export function TestEntry({
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
  const settings = useSettings();
  const { data: session } = useSessionQuery();
  const today = useToday();
  const [record, { isLoading, error }] = useRecordTestMutation();
  const reason = useDraftText(`reason:correction:${corrects?.id ?? 'none'}`);
  const [until, setUntil] = useState('');
  const [piece, setPiece] = useState('');
  const [tried, setTried] = useState(false);
  const [given, setGiven] = useState<Given>();
  const [lesser, setLesser] = useState('');
  const [override, setOverride] = useState('');
  const tested = testedOfJob(job);
  const fields = fieldsFor(kind, tested);
  const ready = useMemo(
    () => contextOf(job, stage, partOf(kind), settings?.limits ?? {}, corrects?.id),
    [job, stage, kind, settings, corrects],
  );
  const due = kind.due?.(ready);
  const usual: Typed = { ...(kind.usual?.(tested) ?? {}), ...(due?.typed ?? {}) };
  const form = useTypedForm({
    key: `test:${job.number}:${stage}:${kind.id}${corrects ? `:${corrects.id}` : ''}`,
    specs: kind.fields,
    start: corrects?.typed ?? usual,
  });
  const gauges = settings?.gauges ?? [];
  // as the shop keeps it, unless another day is stated
  const calibrated = until || (gaugeNamed(gauges, form.typed['instrument'] ?? '')?.calibratedUntil ?? '');
  const missing = fields.filter((f) => f.required && !form.typed[f.name]);
  const lacks =
    missing.length === 0 ? kind.lacks?.(form.reading.values, { waves: given?.waves !== undefined }) : undefined;
  const bars = corrects ? [] : stressBars(kind.id, stage, testsOfPart(job, partOf(kind)), job.came as WhatCame, tested);
  const takenTraces = useMemo(() => new Set(job.tests.flatMap((t) => t.traces.map((r) => r.id))), [job]);
  const mayOverride = useMay('foreman');
  const preview = useMemo(() => {
    if (missing.length > 0 || lacks || form.reading.problems.length > 0) return undefined;
    try {
      const context = {
        ...ready,
        calibrationExpired: calibrated !== '' && calibrated < today,
        ...(given?.waves ? { waves: given.waves } : {}),
      };
      return judgeTest(kind, form.reading.values, context, session?.person.name ?? '');
    } catch (e) {
      return e instanceof CalculationInputError ? { refused: e.problems[0]?.message ?? '' } : undefined;
    }
    // missing follows from what was typed
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [form.reading, ready, kind, given, calibrated, today, session]);
  const drawn = useMemo(() => (given?.waves ? drawnOfWaves(given.waves) : []), [given]);
  const barred = bars.length > 0 && !(mayOverride && override.trim().length >= 3);
  return (
    <form
      onKeyDown={enterMovesOn}
      onSubmit={(e) => {
        e.preventDefault();
        setTried(true);
        if (missing.length > 0 || lacks || barred || form.reading.problems.length > 0) return;
        void record({
          number: job.number,
          stage,
          kind: kind.id,
          typed: form.typed,
          ...(kind.part ? { part: kind.part } : {}),
          ...(piece.trim() === '' ? {} : { unit: Number(piece) }),
          ...(calibrated ? { calibratedUntil: calibrated } : {}),
          ...(given?.said ? { waves: given.said } : {}),
          ...(given?.traces ? { traces: given.traces } : {}),
          ...(lesser.trim() === '' ? {} : { lesser: lesser.trim() }),
          ...(bars.length > 0 ? { override: override.trim() } : {}),
          ...(corrects ? { supersedes: corrects.id, reason: reason.text } : {}),
        }).then((r) => {
          if (!('data' in r)) return;
          form.recorded(usual);
          reason.recorded();
          setGiven(undefined);
          setLesser('');
          onDone();
        });
      }}
    >
      <DueNote due={due} />
      {bars.length > 0 ? (
        <div className="border-l-4 border-fail pl-3 my-2" role="note" aria-label="Order of stress">
          <p>
            {bars.map((b) => b.says).join(' ')} {kind.title} would strain the winding more.
          </p>
          {mayOverride ? (
            <PlainField
              label="Why it is done all the same, with your name"
              value={override}
              onChange={(e) => setOverride(e.target.value)}
            />
          ) : (
            <p className="text-small text-soft">A foreman may let it go on with a reason.</p>
          )}
        </div>
      ) : null}
      {corrects ? null : (
        <AnalyserRuns
          job={job}
          kind={kind.id}
          stage={stage}
          taken={takenTraces}
          onTake={(run) => {
            for (const [name, value] of Object.entries(run.typed)) form.set(name, value);
            setGiven({ traces: run.traces, waves: run.waves });
            setUntil(run.calibratedUntil);
          }}
        />
      )}
      {kind.takesWaves && !corrects ? (
        <WavesFile onWaves={(file) => setGiven(file ? { said: file.said, waves: file.waves } : undefined)} />
      ) : null}
      {given?.waves ? (
        <SurgeChart drawn={drawn} volts={[...new Set(drawn.map((d) => d.appliedV))].sort((a, b) => a - b)} />
      ) : null}
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
        {corrects ? null : (
          <PlainField
            label="Lesser test: what stood in"
            hint="left blank where the right instrument was used"
            value={lesser}
            onChange={(e) => setLesser(e.target.value)}
          />
        )}
      </div>
      {corrects ? (
        <PlainField label="Reason of the correction" value={reason.text} onChange={(e) => reason.set(e.target.value)} />
      ) : null}
      {tried && missing.length > 0 ? (
        <ProblemNote>Still needed: {missing.map((m) => m.label).join(', ')}.</ProblemNote>
      ) : null}
      {tried && lacks ? <ProblemNote>{lacks.message}</ProblemNote> : null}
      {preview && 'refused' in preview ? <ProblemNote>{preview.refused}</ProblemNote> : null}
      {preview && !('refused' in preview) ? (
        <>
          <p className="my-2" aria-live="polite">
            <VerdictMark verdict={preview.verdict} /> {preview.reason}
          </p>
          <Diagnosis causes={(preview.result?.values as { diagnosis?: Cause[] } | undefined)?.diagnosis ?? []} />
        </>
      ) : null}
      <ProblemNote error={error} />
      <div className="flex gap-3 items-center mt-2">
        <Button
          look="main"
          bench
          type="submit"
          disabled={isLoading || barred || (corrects !== undefined && reason.text.trim().length < 3)}
        >
          {corrects ? 'Record the correction' : 'Record'}
        </Button>
        <DraftNote form={form} />
      </div>
    </form>
  );
}
