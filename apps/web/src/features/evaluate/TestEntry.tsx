import {
  CalculationInputError,
  fieldsFor,
  gaugeNamed,
  judgeTest,
  ratedAt,
  rotorState,
  stressBars,
  type Cause,
  type SurgeWaves,
  type TestKind,
  type TestStage,
  type WhatCame,
} from '@norther/core';
import type { JobDetail, TestView } from '@norther/contracts';
import { useMemo, useState, type ClipboardEvent } from 'react';
import { skipToken } from '@reduxjs/toolkit/query';
import {
  useEarlierTestsQuery,
  useEarlierWavesQuery,
  useRecordTestMutation,
  useTestsOfItsKindQuery,
} from '../../app/api/evaluate.ts';
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
import { LeadsGuide } from '../load/LeadsGuide.tsx';
import { PulseTimer } from '../load/PulseTimer.tsx';
import { ReadingClock } from '../load/ReadingClock.tsx';
import { TakeCooling } from '../load/TakeCooling.tsx';
import { TakeRun } from '../load/TakeRun.tsx';
import { CompassRing } from './CompassRing.tsx';
import { AnalyserRuns } from './AnalyserRuns.tsx';
import { Diagnosis } from './Diagnosis.tsx';
import { DueNote } from './DueNote.tsx';
import { SwingFile } from './SwingFile.tsx';
import { SurgeChart } from './SurgeChart.tsx';
import { columnsPasted, listsOf } from './pasteColumns.ts';
import { testedOfJob } from './TestMatrix.tsx';
import { drawnOfWaves } from './waves.ts';
import { useWords } from './useWords.ts';
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
  const words = useWords(job);
  const fields = fieldsFor(kind, tested).map((f) => ({
    ...f,
    label: words.say(f.label),
    ...(f.hint ? { hint: words.say(f.hint) } : {}),
  }));
  const { data: visits } = useEarlierTestsQuery(job.number);
  const { data: ofItsKind } = useTestsOfItsKindQuery(
    kind.setAgainstItsKind ? { number: job.number, kind: kind.id } : skipToken,
  );
  const ready = useMemo(
    () =>
      contextOf(job, stage, partOf(kind), settings?.limits ?? {}, {
        corrects: corrects?.id,
        visits: piece === '' ? visits : [],
        ofItsKind,
      }),
    [job, stage, kind, settings, corrects, piece, visits, ofItsKind],
  );
  const due = kind.due?.(ready);
  const usual: Typed = Object.fromEntries(
    Object.entries({ ...(kind.usual?.(tested) ?? {}), ...(due?.typed ?? {}) }).map(([name, text]) => [
      name,
      kind.leadMarked?.includes(name) ? words.marks(text) : text,
    ]),
  );
  const form = useTypedForm({
    key: `test:${job.number}:${stage}:${kind.id}${corrects ? `:${corrects.id}` : ''}`,
    specs: kind.fields,
    start: corrects?.typed ?? usual,
  });
  const { data: before } = useEarlierWavesQuery(
    given?.waves
      ? {
          number: job.number,
          stage,
          part: partOf(kind),
          rotor: rotorState(form.typed),
          supersedes: corrects?.id,
        }
      : skipToken,
  );
  const lists = useMemo(() => listsOf(kind), [kind]);
  const pastePoints = (event: ClipboardEvent): void => {
    const into = (event.target as HTMLInputElement).name;
    const columns = columnsPasted(event.clipboardData.getData('text'), into, lists);
    if (!columns) return;
    event.preventDefault();
    event.stopPropagation();
    for (const [name, text] of Object.entries(columns)) form.set(name, text);
  };
  const clockKey = `${job.number}:${stage}:${kind.id}`;
  /** What was read at one time goes to the end of its lists. */
  const readAt = (values: Record<string, string>): void => {
    for (const [name, value] of Object.entries(values))
      if (value !== '') form.set(name, [form.typed[name] ?? '', value].filter(Boolean).join('; '));
  };
  const takeRun = (run: { traces: string[]; typed: Typed; calibratedUntil: string }): void => {
    for (const [name, value] of Object.entries(run.typed))
      if (kind.fields.some((f) => f.name === name)) form.set(name, value);
    setGiven({ traces: run.traces });
    setUntil(run.calibratedUntil);
  };
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
        ...(given?.waves ? { waves: given.waves, earlierWaves: before?.waves ?? undefined } : {}),
      };
      return judgeTest(kind, form.reading.values, context, session?.person.name ?? '');
    } catch (e) {
      return e instanceof CalculationInputError ? { refused: e.problems[0]?.message ?? '' } : undefined;
    }
    // missing follows from what was typed
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [form.reading, ready, kind, given, before, calibrated, today, session]);
  const turned =
    preview && !('refused' in preview)
      ? (preview.result?.values as { turned?: { groups: number[] }[] } | undefined)?.turned
      : undefined;
  const wrongGroups = useMemo(() => (turned ?? []).flatMap((t) => t.groups), [turned]);
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
      <DueNote due={due} say={words.say} />
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
      {kind.id === 'temperatureRise' && !corrects ? (
        <>
          <TakeCooling job={job} onTake={takeRun} />
          <ReadingClock
            name="Cooling against the clock"
            keptAs={clockKey}
            start="Power off: start the clock"
            unit="s"
            columns={[{ name: 'ohms', label: 'Resistance now, Ω' }]}
            onRead={(seconds, { ohms = '' }) => readAt({ seconds, ohms })}
          />
        </>
      ) : null}
      {kind.fields.some((f) => f.name === 'runMinutes') && !corrects ? (
        <ReadingClock
          name="Run against the clock"
          keptAs={clockKey}
          start="Runs: start the clock"
          unit="min"
          columns={[
            { name: 'runDrive', label: 'Drive-end bearing, °C' },
            { name: 'runOther', label: 'Opposite-end bearing, °C' },
            { name: 'runPower', label: 'Power, kW' },
          ]}
          onRead={(minutes, { runPower = '', ...bearings }) => {
            if (Object.values(bearings).some((v) => v !== '')) readAt({ runMinutes: minutes, ...bearings });
            if (runPower !== '') readAt({ powerMinutes: minutes, runPower });
          }}
        />
      ) : null}
      {kind.id === 'leadRotation' ? <LeadsGuide typed={form.typed} say={words.say} /> : null}
      {kind.id === 'lockedRotor' && !corrects ? (
        <PulseTimer
          ratedA={ratedAt(ready, 'only').ratedA}
          ratedDensity={ready.figures?.currentDensityAMm2}
          limits={settings?.limits ?? {}}
        />
      ) : null}
      {(kind.id === 'loadTest' || kind.id === 'inputOutput') && !corrects ? (
        <TakeRun job={job} onTake={takeRun} />
      ) : null}
      {kind.takesWaves && !corrects ? (
        <WavesFile onWaves={(file) => setGiven(file ? { said: file.said, waves: file.waves } : undefined)} />
      ) : null}
      {kind.id === 'rotorSwing' && !corrects ? (
        <SwingFile
          onFill={(filled) => {
            for (const [name, value] of Object.entries(filled)) form.set(name, value);
          }}
        />
      ) : null}
      {kind.id === 'polarity' ? (
        <CompassRing job={job} typed={form.typed} wrong={wrongGroups} onFill={form.set} />
      ) : null}
      {given?.waves ? (
        <SurgeChart drawn={drawn} volts={[...new Set(drawn.map((d) => d.appliedV))].sort((a, b) => a - b)} />
      ) : null}
      {lists.length > 1 ? (
        <p className="text-small text-soft">
          A table of points is pasted into the first list: a row for each point, its columns as the lists stand.
        </p>
      ) : null}
      <div className="grid grid-cols-2 md:grid-cols-3 gap-x-3" onPasteCapture={pastePoints}>
        {fields.map((f) => (
          <Field
            key={f.name}
            form={form}
            spec={f}
            bench
            suggest={f.name === 'instrument' && !kind.signs ? gauges.map((g) => g.name) : undefined}
          />
        ))}
        {corrects ? null : <PieceField job={job} piece={piece} onPiece={setPiece} />}
        {kind.signs ? null : <DateField label="Calibrated until" value={calibrated} onChange={setUntil} />}
        {corrects || kind.signs ? null : (
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
            <VerdictMark verdict={preview.verdict} /> {words.say(preview.reason)}
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
