import {
  CAUTIONS,
  guidanceOf,
  operationIf,
  operation,
  type Verdict,
  FIRST_PART,
  maskList,
  partOnRail,
  type SensorStage,
} from '@norther/core';
import type { JobDetail, StepViewRow } from '@norther/contracts';
import { useMemo, useState } from 'react';
import { Link, useParams } from 'react-router';
import { useJobQuery } from '../../app/api/job.ts';
import { usePeopleQuery, useSessionQuery } from '../../app/api/people.ts';
import { useWaiting } from '../../app/outbox/outbox.ts';
import { useMay, useReadingDefaults, useSettings, useToday } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';
import { VerdictMark } from '../../ui/Verdict.tsx';
import { OvenNote } from '../oven/OvenNote.tsx';
import { SensorsPanel } from '../sensor/SensorsPanel.tsx';
import { TankNote } from '../tank/TankNote.tsx';
import { CycleNote } from '../vessel/CycleNote.tsx';
import { CoreMap } from './CoreMap.tsx';
import { AidPanels } from './AidPanels.tsx';
import { AtIt } from './AtIt.tsx';
import { withWaiting } from './ahead.ts';
import { Attempts } from './Attempts.tsx';
import { needsOf } from './needed.ts';
import { PiecesDone } from './PiecesDone.tsx';
import { SignOff } from './SignOff.tsx';
import { StepPhotographs } from './StepPhotographs.tsx';
import { StepRecord } from './StepRecord.tsx';
import { useActs } from './useActs.ts';
import { inWords, STATE_WORDS } from './words.ts';

/** One step at the place of work: what to do now, what was measured, who is at it, and what comes next. */
export function StepPage() {
  const { number = '', code = '' } = useParams();
  const { data: job, error } = useJobQuery(number);
  const { data: session } = useSessionQuery();
  const { data: people } = usePeopleQuery();
  const waiting = useWaiting();
  const settings = useSettings();
  const defaults = useReadingDefaults();
  const today = useToday();
  const ahead = useMemo(() => {
    if (!job || !settings) return undefined;
    const names = Object.fromEntries(
      [...(people ?? []), ...(session ? [session.person] : [])].map((p) => [p.id, p.name]),
    );
    return withWaiting(job, waiting, {
      limits: settings.limits,
      defaults,
      names,
      gauges: { kept: settings.gauges, today },
    });
  }, [job, waiting, settings, defaults, people, session, today]);
  if (error && !job) return <ProblemNote error={error} />;
  if (!ahead) return <Quiet>Asking for {number} …</Quiet>;
  const step = ahead.detailSteps.find((s) => s.code === code);
  if (!step || !operationIf(code))
    return (
      <div className="max-w-3xl">
        <ProblemNote>
          The route of {number} has no operation {code}.
        </ProblemNote>
        <Link className="text-accent underline" to={`/jobs/${number}/route`}>
          To the route
        </Link>
      </div>
    );
  return <Step key={`${number}:${code}`} job={ahead} step={step} />;
}

function Step({ job, step }: { job: JobDetail; step: StepViewRow }) {
  const op = operation(step.code);
  const text = guidanceOf(op.code);
  const acts = useActs(job.number, step.code);
  const { data: session } = useSessionQuery();
  const mayWork = useMay('winder') && !job.closedAt;
  const [done, setDone] = useState<{ verdict?: Verdict; reason: string }>();
  const [fill, setFill] = useState<{ typed: Readonly<Record<string, string>>; n: number }>();
  const running = step.state === 'running';
  const attempt = running ? step.attempts.at(-1) : undefined;
  const mine = attempt?.spells.some((s) => s.personId === session?.person.id && s.to === null) ?? false;
  const next = nextOf(job.detailSteps, step);
  const turn = ['ready', 'running', 'recheck'].includes(step.status);
  return (
    <article className="max-w-3xl mx-auto pb-24">
      <p className="text-small text-soft flex flex-wrap gap-x-3">
        <Link className="text-accent underline" to={`/jobs/${job.number}/route?stage=${op.stage}`}>
          ← Route
        </Link>
        <span className="min-w-0 truncate">
          {job.number} · {job.what} · {job.customer}
        </span>
      </p>
      <header className="flex flex-wrap items-baseline gap-x-3 mt-1">
        <h1 className="text-title font-bold">{op.title}</h1>
        <span
          className={`font-semibold ${turn ? 'text-accent' : step.status === 'failed' ? 'text-fail' : 'text-soft'}`}
        >
          {STATE_WORDS[step.status]}
        </span>
        {step.why ? <span className="text-soft">{inWords(step.why)}</span> : null}
      </header>
      <p className="mt-2 text-[1.0625rem]">{op.what}</p>
      <dl className="mt-2 grid grid-cols-1 sm:grid-cols-[9rem_1fr] gap-x-3 gap-y-1">
        <dt className="font-semibold">Why</dt>
        <dd>{text.why}</dd>
        <dt className="font-semibold">A good one</dt>
        <dd>{text.good}</dd>
        <dt className="font-semibold">Often wrong</dt>
        <dd>{text.mistake}</dd>
      </dl>
      {op.cautions.length > 0 ? (
        <p className="mt-2 border-l-4 border-attention pl-2 font-semibold">
          Caution: {op.cautions.map((c) => CAUTIONS[c]).join(' ')} Local codes and licensed practice decide.
        </p>
      ) : null}
      <Needed job={job} code={op.code} />
      {attempt ? <AtIt attempt={attempt} acts={acts} mine={mine} mayWork={mayWork} /> : null}
      {running && mayWork && job.quantity > 1 ? <PiecesDone job={job} step={step} /> : null}
      {op.code === 'CT1' || op.code === 'CT2' ? (
        <CoreMap
          job={job}
          step={step}
          onFill={running && mayWork ? (typed) => setFill((f) => ({ typed, n: (f?.n ?? 0) + 1 })) : undefined}
        />
      ) : null}
      {op.code === 'PRE' ? <MaskList job={job} /> : null}
      <OvenNote
        job={job.number}
        code={op.code}
        onFill={running && mayWork ? (typed) => setFill((f) => ({ typed, n: (f?.n ?? 0) + 1 })) : undefined}
      />
      <CycleNote
        job={job.number}
        code={op.code}
        onFill={running && mayWork ? (typed) => setFill((f) => ({ typed, n: (f?.n ?? 0) + 1 })) : undefined}
      />
      <TankNote
        code={op.code}
        onFill={running && mayWork ? (typed) => setFill((f) => ({ typed, n: (f?.n ?? 0) + 1 })) : undefined}
      />
      {SENSORS_AT[step.code] ? <SensorsPanel job={job} stage={SENSORS_AT[step.code] ?? 'fitted'} folded /> : null}
      <AidPanels
        job={job}
        code={op.code}
        onFill={running && mayWork ? (typed) => setFill((f) => ({ typed, n: (f?.n ?? 0) + 1 })) : undefined}
      />
      {running && mayWork ? (
        <StepRecord job={job} step={step} acts={acts} fill={fill} onDone={(came) => setDone(came)} />
      ) : null}
      <StepPhotographs job={job} step={step} acts={acts} mayAdd={mayWork} />
      <Attempts step={step} />
      <SignOff job={job} step={step} />
      {done && !running ? (
        <p className="mt-3 border-l-4 border-accent pl-2" role="status">
          {done.verdict ? <VerdictMark verdict={done.verdict} /> : null} {inWords(done.reason)}
        </p>
      ) : null}
      <ProblemNote>{acts.problem?.detail}</ProblemNote>
      {!running && mayWork && (step.status === 'ready' || step.status === 'recheck') ? (
        <Bottom>
          <Button
            look="main"
            bench
            className="flex-1 min-h-14"
            disabled={acts.busy}
            onClick={() => void acts.act('start', {})}
          >
            Start {op.title.toLowerCase()}
          </Button>
        </Bottom>
      ) : !running && next.length > 0 ? (
        <Bottom>
          {next.slice(0, 3).map((s, i) => (
            <Link
              key={s.code}
              to={`/jobs/${job.number}/step/${s.code}`}
              className={`flex-1 min-h-14 inline-flex items-center justify-center rounded-sm border px-3 text-center font-semibold ${i === 0 ? 'bg-accent text-on-accent border-accent' : 'bg-sheet border-edge'}`}
            >
              {i === 0 ? 'Next: ' : ''}
              {operation(s.code).title}
            </Link>
          ))}
        </Bottom>
      ) : null}
    </article>
  );
}

/** Where sensors and heaters are fitted, and where they are measured again. */
const SENSORS_AT: Readonly<Record<string, SensorStage>> = {
  INS: 'fitted',
  FIN: 'fitted',
  LAC: 'fitted',
  LDS: 'fitted',
  PVT: 'AC',
  PCT: 'VC',
  OTT: 'VC',
  RUN: 'AA',
};

/** What is masked, greased and plugged on this motor before resin. */
function MaskList({ job }: { job: JobDetail }) {
  const kinds = job.parts.map((p) => p.kind);
  const lines = maskList(partOnRail(kinds, 'stator') ?? kinds[0] ?? FIRST_PART, job.intake.fitted);
  return (
    <section aria-label="Mask and grease" className="mt-3 border border-line bg-sheet px-3 py-2">
      <h2 className="font-semibold">Mask and grease on this motor</h2>
      <ul className="grid grid-cols-1 sm:grid-cols-2 gap-x-4">
        {lines.map((m) => (
          <li key={m.what}>
            <span className="text-soft">{m.how}</span> {m.what}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What may be begun now: first what waited for this step, then what lies on its rail, then the rest. */
function nextOf(steps: readonly StepViewRow[], done: StepViewRow): StepViewRow[] {
  const { rail } = operation(done.code);
  const rank = (s: StepViewRow) => (s.after.includes(done.code) ? 0 : operation(s.code).rail === rail ? 1 : 2);
  return steps.filter((s) => s.status === 'ready' && s.code !== done.code).sort((a, b) => rank(a) - rank(b));
}

/** What the thumb reaches: stays at the foot of the screen. */
function Bottom({ children }: { children: React.ReactNode }) {
  return (
    <div className="fixed bottom-0 inset-x-0 border-t border-line bg-sheet px-3 py-2 z-10">
      <div className="max-w-3xl mx-auto flex gap-2">{children}</div>
    </div>
  );
}

function Needed({ job, code }: { job: JobDetail; code: Parameters<typeof needsOf>[0] }) {
  const needs = needsOf(code, job);
  if (needs.length === 0) return null;
  return (
    <p className="mt-2 flex flex-wrap gap-2">
      {needs.map((n) =>
        n.paper ? (
          <a
            key={n.to}
            href={n.to}
            target="_blank"
            rel="noreferrer"
            className="inline-flex items-center min-h-11 px-3 rounded-sm border border-edge bg-sheet font-semibold"
          >
            {n.text}
          </a>
        ) : (
          <Link
            key={n.to}
            to={n.to}
            className="inline-flex items-center min-h-11 px-3 rounded-sm border border-edge bg-sheet font-semibold"
          >
            {n.text}
          </Link>
        ),
      )}
    </p>
  );
}
