import {
  EXPLAINED_BY_JOINTS,
  FIRST_PART,
  isWindingPart,
  oddFigures,
  typedWithUnit,
  type Cause,
  type TestStage,
  type TestKind,
} from '@norther/core';
import type { JobDetail, TestView } from '@norther/contracts';
import { Link } from 'react-router';
import { useDraftText } from '../../app/draft.ts';
import { useSignTestMutation } from '../../app/api/evaluate.ts';
import { useMay, useReadingDefaults, useTime } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';
import { VerdictMark } from '../../ui/Verdict.tsx';
import { partQuery } from '../winding/PartSwitch.tsx';
import { Diagnosis } from './Diagnosis.tsx';
import { LoadResult } from './LoadResult.tsx';
import { KeptCurves } from './KeptCurves.tsx';
import { ShowWorking } from './ShowWorking.tsx';
import { KeptWaves } from './SurgeChart.tsx';
import { useExpected } from './useExpected.ts';
import { useWords } from './useWords.ts';

/** A recorded reading: verdict, reason, waves, what speaks for which cause; signed where it waits for a name. */
export function TestRun({ job, kind, run }: { job: JobDetail; kind: TestKind; run: TestView }) {
  const time = useTime();
  const defaults = useReadingDefaults();
  const words = useWords(job);
  const mayTest = useMay('tester');
  const mayLetStand = useMay('foreman');
  // a lesser test stands only with the name of a foreman
  const maySign = (run.lesser === null ? mayTest : mayLetStand) && !job.closedAt;
  const causes = (run.result as { values?: { diagnosis?: Cause[] } } | null)?.values?.diagnosis ?? [];
  const [sign, { error }] = useSignTestMutation();
  const expected = useExpected(job, isWindingPart(run.part) ? run.part : FIRST_PART, wavesOf(run.result));
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
      <p>{words.say(run.reason)}</p>
      {run.override ? (
        <p className="text-small">
          {run.override.meaning} by {run.override.by} ({run.override.role}): {run.override.reason}
        </p>
      ) : null}
      <p className="text-small text-soft">
        {kind.fields
          .filter((f) => run.typed[f.name])
          .map(
            (f) => `${words.say(f.label)} ${typedWithUnit(f, run.typed[f.name] ?? '', defaults, run.values[f.name])}`,
          )
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
      <Diagnosis causes={causes} />
      <Explained job={job} run={run} />
      {run.traces.some((t) => t.what === 'surge') ? <KeptWaves traces={run.traces} expected={expected} /> : null}
      {run.supersededBy ? null : <KeptCurves job={job} run={run} />}
      {run.supersededBy ? null : <LoadResult job={job} run={run} />}
      {run.traces.some((t) => t.simulated) ? <p className="text-small">Sent by a simulated instrument.</p> : null}
      <ShowWorking number={job.number} id={run.id} result={run.result} />
    </article>
  );
}

const NO_WAVES: readonly { name: string; frequencyHz?: number }[] = [];
/** The waves that a surge comparison was judged by; the same list each time, as it is kept. */
const wavesOf = (result: unknown): readonly { name: string; frequencyHz?: number }[] =>
  (result as { values?: { waves?: { name: string; frequencyHz?: number }[] } } | null)?.values?.waves ?? NO_WAVES;

/** From odd figures to the joints that would explain them, filled in; nothing where they are as they should be, or too few. */
function Explained({ job, run }: { job: JobDetail; run: TestView }) {
  if (run.verdict === 'pass' || run.supersededBy !== null || !EXPLAINED_BY_JOINTS.includes(run.kind)) return null;
  if (!isWindingPart(run.part)) return null;
  if (Object.keys(oddFigures(job.tests, run.stage as TestStage, run.part)).length === 0) return null;
  return (
    <Link
      className="text-accent underline"
      to={`/jobs/${job.number}/joints?${new URLSearchParams({ ...partQuery(run.part), do: 'odd', stage: run.stage }).toString()}`}
    >
      Which mistake of connection would explain these figures?
    </Link>
  );
}
