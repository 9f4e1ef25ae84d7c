import {
  baseOf,
  isAirByName,
  operation,
  thinTrace,
  tracePlot,
  type CalculationResult,
  type processCure,
  type TraceReading,
} from '@norther/core';
import { cureInput, type ChannelRole, type CureView, type JobDetail } from '@norther/contracts';
import { useEffect, useMemo, useState } from 'react';
import type { z } from 'zod';
import { useFollowedWork } from '../../app/followedWork.ts';
import { WorkProgress } from '../../ui/WorkProgress.tsx';
import { useDraftText } from '../../app/draft.ts';
import { useRecordCureMutation } from '../../app/api/evaluate.ts';
import { useMay, useSettings, useTime } from '../../app/shop.ts';
import { DrawingView } from '../../drawing/DrawingView.tsx';
import { Button } from '../../ui/Button.tsx';
import { PlainField, PlainSelect } from '../../ui/Field.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';
import { VerdictMark } from '../../ui/Verdict.tsx';
import { ShowWorking } from '../evaluate/ShowWorking.tsx';
import { WorkingTable } from '../../ui/Working.tsx';
import { coreDoor } from '../../worker/door.ts';
import { OvenNote } from '../oven/OvenNote.tsx';
import { Coats } from './Coats.tsx';
import { FromLogger } from './FromLogger.tsx';
import { OvenLog } from './OvenLog.tsx';

type CureResult = CalculationResult<z.output<typeof processCure.output>>;
type Channel = { name: string; role: string; valuesC: readonly (number | null)[] };
const ROLES = ['part', 'oven air', 'not used'] as const;

/** An oven log read in, looked at, assigned, integrated and judged. */
export function OvenView({ job }: { job: JobDetail }) {
  const mayRecord = useMay('winder') && !job.closedAt;
  const [reading, setReading] = useState(false);
  return (
    <div className="space-y-6">
      {job.detailSteps
        .filter((s) => baseOf(s.code) === 'CUR')
        .map((s) => (
          <OvenNote key={s.code} job={job.number} code={s.code} onFill={undefined} />
        ))}
      <Coats job={job} />
      {mayRecord && (reading || job.cures.length === 0) ? (
        <>
          <ReadIn job={job} onDone={() => setReading(false)} />
          <FromLogger job={job} onDone={() => setReading(false)} />
        </>
      ) : null}
      {mayRecord && !reading && job.cures.length > 0 ? (
        <Button onClick={() => setReading(true)}>Read in another log</Button>
      ) : null}
      {job.cures.map((c) => (
        <Recorded key={c.id} number={job.number} cure={c} />
      ))}
      {!mayRecord && job.cures.length === 0 ? <Quiet>No oven log is recorded for this motor.</Quiet> : null}
    </div>
  );
}

function plot(
  title: string,
  timesMin: readonly number[],
  channels: readonly Channel[],
  ratedC: number,
  maxC: number,
  maxGapMin: number,
  unit: '°C' | '°F',
  course?: readonly { timeMin: number; degree: number }[],
) {
  return tracePlot({
    title,
    maxGapMin,
    unit,
    width: 900,
    height: 330,
    lines: channels
      .filter((c) => c.role !== 'not used')
      .map((c, i) => ({
        label: c.name,
        role: c.role === 'oven air' ? ('air' as const) : i % 2 === 0 ? ('measured' as const) : ('phaseB' as const),
        points: timesMin.flatMap((t, k) =>
          c.valuesC[k] === null || c.valuesC[k] === undefined ? [] : [{ t, v: c.valuesC[k] }],
        ),
      })),
    limits: [
      { label: 'rated', value: ratedC, role: 'good' },
      { label: 'never above', value: maxC, role: 'bad' },
    ],
    ...(course ? { course } : {}),
  });
}

function ReadIn({ job, onDone }: { job: JobDetail; onDone: () => void }) {
  const settings = useSettings();
  const [file, setFile] = useState<{ name: string; csv: string }>();
  const [unit, setUnit] = useState<'' | '°C' | '°F'>('');
  const [roles, setRoles] = useState<ChannelRole[]>([]);
  const [resin, setResin] = useState('');
  const reason = useDraftText(`reason:cure:${job.number}`);
  const [read, setRead] = useState<TraceReading>();
  const [result, setResult] = useState<CureResult>();
  const [refused, setRefused] = useState('');
  const [record, { isLoading, error }] = useRecordCureMutation();
  // a long log is read and judged in the background
  const [waits, setWaits] = useState<string>();
  const followed = useFollowedWork(waits);
  const isDone = followed.work?.state === 'done';
  useEffect(() => {
    if (isDone) onDone();
  }, [isDone, onDone]);
  const chosen = settings?.resins.find((r) => r.name === (resin || settings.resins[0]?.name));

  useEffect(() => {
    if (!file) return;
    let stale = false;
    void coreDoor()
      .readTrace(file.csv, unit === '' ? undefined : unit)
      .then((r) => {
        if (stale) return;
        setRead(r);
        setRoles((before) =>
          before.length === r.trace.channels.length
            ? before
            : r.trace.channels.map((c) => (isAirByName(c.name) ? ('oven air' as const) : ('part' as const))),
        );
      });
    return () => {
      stale = true;
    };
  }, [file, unit]);

  useEffect(() => {
    if (!read || !settings || !chosen || roles.length !== read.trace.channels.length || read.trace.timesMin.length < 2)
      return;
    let stale = false;
    coreDoor()
      .run('process.cure', cureInput(read.trace, roles, chosen, settings))
      .then((r) => {
        if (stale) return;
        setResult(r as CureResult);
        setRefused('');
      })
      .catch((e: unknown) => {
        if (stale) return;
        setResult(undefined);
        setRefused(e instanceof Error ? e.message : 'This log cannot be judged.');
      });
    return () => {
      stale = true;
    };
  }, [read, roles, chosen, settings]);

  const drawn = useMemo(() => (read ? thinTrace(read.trace) : undefined), [read]);
  const drawing = useMemo(
    () =>
      drawn && result && chosen
        ? plot(
            file?.name ?? '',
            drawn.timesMin,
            drawn.channels.map((c, i) => ({ ...c, role: roles[i] ?? '' })),
            chosen.ratedC,
            result.values.maxC,
            result.values.maxGapMin,
            settings?.units.temperatureUnit ?? '°C',
            result.values.course,
          )
        : undefined,
    [drawn, result, chosen, roles, file, settings],
  );
  return (
    <section aria-label="Read in an oven log">
      <h2 className="font-semibold mb-1">Read in an oven log</h2>
      <p className="text-small text-soft mb-2">
        A text file from the logger: a time column (minutes or clock), then one column for each sensor. Say which sensor
        sat on a part: cure is judged on the coldest part, never on the air.
      </p>
      <div className="flex flex-wrap gap-3 items-end">
        <label>
          <span className="block text-small font-semibold">File</span>
          <input
            type="file"
            accept=".csv,.txt,text/csv,text/plain"
            className="text-small min-h-9"
            onChange={(e) => {
              const f = e.target.files?.[0];
              if (!f) return;
              setRead(undefined);
              setResult(undefined);
              setRoles([]);
              void f.text().then((csv) => setFile({ name: f.name, csv }));
            }}
          />
        </label>
        <PlainSelect
          label="Temperatures are in"
          value={unit}
          onChange={(e) => setUnit(e.target.value as typeof unit)}
          options={[
            { value: '', label: read ? `as the file says (${read.unit})` : 'as the file says' },
            { value: '°C', label: '°C' },
            { value: '°F', label: '°F' },
          ]}
        />
        <PlainSelect
          label="Resin"
          value={resin}
          onChange={(e) => setResin(e.target.value)}
          options={(settings?.resins ?? []).map((r) => ({
            value: r.name,
            label: `${r.name}: ${r.ratedH} h at ${r.ratedC} °C`,
          }))}
        />
      </div>
      {read ? (
        <div className="flex flex-wrap gap-3 mt-2 items-end">
          {read.trace.channels.map((c, i) => (
            <PlainSelect
              key={c.name + String(i)}
              label={`${c.name} is`}
              value={roles[i] ?? 'part'}
              onChange={(e) => setRoles(roles.map((r, k) => (k === i ? (e.target.value as ChannelRole) : r)))}
              options={ROLES.map((r) => ({ value: r, label: r === 'part' ? 'on a part' : r }))}
            />
          ))}
          <p className="text-small text-soft pb-2">
            {read.trace.timesMin.length.toLocaleString('en')} rows, times as {read.timeKind}, {read.unit}
          </p>
        </div>
      ) : null}
      {read && read.badRows.length > 0 ? (
        <details className="mt-2 border-l-4 border-attention pl-3" open>
          <summary className="font-semibold">
            {read.badRows.length} rows have a problem and do not count (or count in part)
          </summary>
          <ul className="text-small max-h-32 overflow-auto">
            {read.badRows.slice(0, 50).map((r) => (
              <li key={r.line}>
                line {r.line}: {r.reason} <code className="text-soft">{r.text.slice(0, 60)}</code>
              </li>
            ))}
          </ul>
        </details>
      ) : null}
      {read && read.trace.timesMin.length < 2 ? (
        <ProblemNote>Fewer than two rows of this file can be read: each needs a time and a temperature.</ProblemNote>
      ) : null}
      {refused ? <ProblemNote>{refused}</ProblemNote> : null}
      {drawing && result ? (
        <>
          <div className="mt-2 bg-sheet border border-line">
            <DrawingView drawing={drawing} />
          </div>
          <Outcome result={result} />
          <div className="flex flex-wrap gap-3 items-end mt-2">
            {job.cures.length > 0 ? (
              <PlainField
                label="Why another log counts"
                value={reason.text}
                onChange={(e) => reason.set(e.target.value)}
              />
            ) : null}
            <Button
              look="main"
              bench
              disabled={isLoading || !file || !chosen || (waits !== undefined && followed.work?.state !== 'failed')}
              onClick={() =>
                void (
                  file &&
                  chosen &&
                  record({
                    number: job.number,
                    fileName: file.name,
                    csv: file.csv,
                    roles,
                    resin: chosen.name,
                    ...(unit === '' ? {} : { unit }),
                    ...(reason.text ? { reason: reason.text } : {}),
                  }).then((r) => {
                    if (!r.data) return;
                    reason.recorded();
                    if ('work' in r.data) setWaits(r.data.work);
                    else onDone();
                  })
                )
              }
            >
              Record with this verdict
            </Button>
          </div>
          {waits ? <WorkProgress what="Reading and judging the log" work={followed.work} /> : null}
          <ProblemNote error={error ?? followed.error} />
        </>
      ) : null}
    </section>
  );
}

function Outcome({ result }: { result: CureResult }) {
  const v = result.values;
  return (
    <div className="mt-2 space-y-1">
      <p>
        <VerdictMark verdict={v.verdict} />{' '}
        <span className="font-semibold">{v.processVerdict.replaceAll('_', ' ')}</span>: {v.reason}
      </p>
      <p className="text-small text-soft">
        Equivalent time: {v.schools.equivalentTime ? 'met' : 'not met'} · unbroken hold:{' '}
        {v.schools.holdOnly ? 'met' : 'not met'} ·{' '}
        {v.channels
          .filter((c) => c.role === 'part')
          .map(
            (c) =>
              `${c.name}: ${((c.degree ?? 0) * 100).toFixed(0)} %, ${(c.minutesAtRated ?? 0).toFixed(0)} min at rated, hottest ${(c.maxC ?? 0).toFixed(0)} °C`,
          )
          .join(' · ')}
      </p>
      {result.working.length > 0 ? (
        <details>
          <summary className="text-small text-accent cursor-pointer py-1.5">Show the working</summary>
          <WorkingTable steps={result.working} />
        </details>
      ) : null}
    </div>
  );
}

function Recorded({ number, cure }: { number: string; cure: CureView }) {
  const time = useTime();
  const result = cure.result as CureResult;
  return (
    <section aria-label={`Cure ${cure.fileName}`}>
      <h2 className="font-semibold">
        {cure.code === 'CUR' ? '' : `${operation(cure.code).title}: `}
        {cure.resin}{' '}
        <span className="font-normal text-soft">
          · {cure.fileName} · {cure.person}, {time(cure.at)}
        </span>
      </h2>
      <OvenLog
        trace={cure.trace}
        ratedC={cure.ratedC}
        maxC={result.values.maxC}
        maxGapMin={result.values.maxGapMin}
        course={result.values.course}
      />
      <Outcome result={result} />
      <ShowWorking number={number} id={cure.id} result={cure.result} />
    </section>
  );
}
