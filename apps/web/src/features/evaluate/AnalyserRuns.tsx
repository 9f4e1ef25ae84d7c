import type { JobDetail, TraceListed } from '@norther/contracts';
import {
  ANALYSER_TESTS,
  readingsOfRun,
  runsOfStreams,
  SENT_AS,
  wavesOfTraces,
  type AnalyserTest,
  type SurgeWaves,
  type TestStage,
} from '@norther/core';
import { useMeasureMutation } from '../../app/api/evaluate.ts';
import { useInstrumentsQuery, useLazyTraceQuery, useSentTracesQuery } from '../../app/api/instrument.ts';
import { useTime } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';
import { useState } from 'react';

const EVERY_MS = 1500;
const MOST_POINTS = 4000;

/** What is taken of a run: traces, what they fill in, the waves of a surge comparison. */
export interface TakenRun {
  traces: string[];
  typed: Record<string, string>;
  waves?: SurgeWaves[];
  /** day until which the instrument is calibrated, as the shop keeps it */
  calibratedUntil: string;
}

/** What analysers send of this motor: the newest run, taken with one press; a simulated one is told to measure from here. */
export function AnalyserRuns({
  job,
  kind,
  stage,
  taken,
  onTake,
}: {
  job: JobDetail;
  kind: string;
  stage: TestStage;
  /** traces that tests are made of already */
  taken: ReadonlySet<string>;
  onTake: (run: TakenRun) => void;
}) {
  const time = useTime();
  const test = ANALYSER_TESTS.find((t): t is AnalyserTest => t === kind);
  const what = test && SENT_AS[test];
  const { data: instruments } = useInstrumentsQuery(undefined, { skip: what === undefined });
  const analysers = (instruments ?? []).filter((i) => i.kind === 'winding analyser' && i.active);
  const { data: sent } = useSentTracesQuery(
    { what: what ?? '', job: job.number },
    { pollingInterval: EVERY_MS, skip: what === undefined || analysers.length === 0 },
  );
  const [measure, { error, isLoading }] = useMeasureMutation();
  const [ask] = useLazyTraceQuery();
  const [wrong, setWrong] = useState('');
  if (what === undefined || analysers.length === 0) return null;
  const newest = runsOfStreams((sent ?? []).filter((t) => !taken.has(t.id)))[0];
  const take = async (run: { sent: TraceListed[] }) => {
    setWrong('');
    try {
      const traces = await Promise.all(run.sent.map((t) => ask({ id: t.id, points: MOST_POINTS }, true).unwrap()));
      const typed: Record<string, string> = { instrument: run.sent[0]?.sourceName ?? '' };
      for (const t of traces) Object.assign(typed, readingsOfRun(kind, t));
      const waves =
        kind === 'surge'
          ? wavesOfTraces(
              traces.map((t) => ({
                channels: t.channels,
                x: Float64Array.from(t.x),
                values: t.values.map((v) => Float64Array.from(v, (n) => n ?? NaN)),
              })),
            )
          : undefined;
      onTake({
        traces: run.sent.map((t) => t.id),
        typed,
        calibratedUntil: analysers.find((a) => a.name === typed['instrument'])?.calibratedUntil ?? '',
        ...(waves ? { waves } : {}),
      });
    } catch (e) {
      setWrong(e instanceof Error ? e.message : 'This run cannot be read.');
    }
  };
  return (
    <section aria-label="From the analyser" className="border-b border-line pb-2 mb-2">
      <div className="flex flex-wrap gap-3 items-center">
        <h3 className="font-semibold">From the analyser</h3>
        {analysers.map((a) =>
          a.simulated ? (
            <Button
              key={a.id}
              disabled={isLoading || !a.hears || test === undefined}
              onClick={() => test && void measure({ number: job.number, instrument: a.id, test, stage })}
            >
              Measure on {a.name} (simulated)
            </Button>
          ) : (
            <span key={a.id} className="text-soft">
              {a.name}: started where it stands{a.outOfDate ? ', out of calibration' : ''}
            </span>
          ),
        )}
        {newest ? (
          <>
            <span className="text-small text-soft">
              {newest.sent[0]?.sourceName}, {time(newest.sent[0]?.at ?? '')}
              {newest.sent.every((t) => t.ended) ? '' : ', still measuring'}
            </span>
            <Button look="main" disabled={!newest.sent.every((t) => t.ended)} onClick={() => void take(newest)}>
              Take this run
            </Button>
          </>
        ) : (
          <span className="text-small text-soft">Nothing has come of this motor.</span>
        )}
      </div>
      <ProblemNote error={error} />
      {wrong ? <ProblemNote>{wrong}</ProblemNote> : null}
    </section>
  );
}
