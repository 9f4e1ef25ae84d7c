import {
  measurablesOf,
  operation,
  SENSOR_STAGES,
  testKind,
  testsFor,
  stageTitle,
  type RouteId,
  type TestKind,
  type TestStage,
} from '@norther/core';
import type { JobDetail } from '@norther/contracts';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useMay } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { Quiet } from '../../ui/Problem.tsx';
import { SensorsPanel } from '../sensor/SensorsPanel.tsx';
import { TestEntry } from './TestEntry.tsx';
import { TestRun } from './TestRun.tsx';
import { CircuitPanel } from '../load/CircuitPanel.tsx';
import { PlateTable } from '../load/PlateTable.tsx';
import { WavesPractice } from './WavesPractice.tsx';
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
      <p className="flex flex-wrap gap-x-4 text-small">
        <a
          className="text-accent underline"
          href={`/api/jobs/${job.number}/test-sheet.pdf?stage=${stage}`}
          target="_blank"
          rel="noreferrer"
        >
          Test sheet on paper, {stageTitle(stage, job.route as RouteId)}
        </a>
        <Link className="text-accent underline" to={`/bench?test=${kind?.id ?? ''}&stage=${stage}`}>
          Many motors in a row
        </Link>
        <Link className="text-accent underline" to="/yield">
          Passed at the first reading
        </Link>
        {job.came === 'whole motor' ? (
          <Link className="text-accent underline" to={`/jobs/${job.number}/load`}>
            Load bench
          </Link>
        ) : null}
      </p>
      {kind ? <TestCell key={`${stage}${kind.id}`} job={job} stage={stage} kind={kind} /> : null}
      {job.came === 'rotor only' ? null : (
        <SensorsPanel key={stage} job={job} stage={SENSOR_STAGES.find((s) => s === stage) ?? 'fitted'} folded />
      )}
    </div>
  );
}

/** Tests that the equivalent circuit is worked out from, or set against. */
const CIRCUIT_OF: readonly string[] = ['noLoadCurve', 'lockedRotor', 'loadTest', 'inputOutput'];

function TestCell({ job, stage, kind }: { job: JobDetail; stage: TestStage; kind: TestKind }) {
  const mayTest = useMay('tester') && !job.closedAt;
  const runs = job.tests.filter((t) => t.stage === stage && t.kind === kind.id);
  const standing = runs.filter((t) => t.supersededBy === null).at(-1);
  const [correcting, setCorrecting] = useState(false);
  const [again, setAgain] = useState(false);
  const [practising, setPractising] = useState(false);
  return (
    <section className="grid grid-cols-1 lg:grid-cols-[minmax(0,1.2fr)_minmax(380px,1fr)] gap-6">
      <div>
        <h2 className="text-title font-semibold">
          {kind.title}, {stageTitle(stage, job.route as RouteId)}
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
          <TestEntry
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
        {kind.takesWaves ? (
          <p className="mt-3">
            <Button look="quiet" aria-expanded={practising} onClick={() => setPractising(!practising)}>
              {practising ? 'Leave practice' : 'Practice: find the fault from the waves'}
            </Button>
          </p>
        ) : null}
        {practising ? <WavesPractice job={job} stage={stage} /> : null}
        {CIRCUIT_OF.includes(kind.id) ? (
          <>
            <PlateTable job={job} />
            <CircuitPanel job={job} />
          </>
        ) : null}
        <TrendView key={kind.id} job={job} measurable={measurablesOf(kind)} />
      </div>
      <div className="space-y-3">
        {[...runs].reverse().map((t) => (
          <TestRun key={t.id} job={job} kind={kind} run={t} />
        ))}
      </div>
    </section>
  );
}
