import { formatNumber, OVEN_READING_FIELDS, TOUCH_C } from '@norther/core';
import { minutesLeft, type ChamberView, type LoadPartView, type LoadView } from '@norther/contracts';
import { useState } from 'react';
import { Link } from 'react-router';
import { useAddOvenReadingMutation, useStartLoadMutation, useTakeOutMutation } from '../../app/api/oven.ts';
import { problemOf } from '../../app/api/base.ts';
import { useMay, useSettings, useTime } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { enterMovesOn, Field, PlainField } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';
import { useTypedForm } from '../../ui/useTypedForm.ts';
import { VerdictMark } from '../../ui/Verdict.tsx';
import { LiveTrace } from '../instrument/LiveTrace.tsx';
import { Alarms, AlarmSound } from './AlarmSound.tsx';
import { Happenings } from './Happenings.tsx';
import { LogFile } from './LogFile.tsx';
import { PutIn } from './PutIn.tsx';
import { sayMinutes } from './sayMinutes.ts';
import { Sensors } from './Sensors.tsx';
import { partState } from './words.ts';

const NOTHING = {};

/** One load: what stands in it, how each part stands by its own temperature, what is left, and what may be done with it. */
export function LoadPanel({ load, chamber }: { load: LoadView; chamber: ChamberView }) {
  const may = useMay('winder');
  const time = useTime();
  const degrees = useDegrees();
  const [start, started] = useStartLoadMutation();
  const inside = load.parts.filter((p) => p.out === null);
  const names = new Map(
    load.probes.flatMap((p) => {
      const on = load.parts.find((x) => x.id === p.part);
      return on ? [[p.channel, `${p.channel}, ${on.job}`] as const] : [];
    }),
  );
  return (
    <section aria-label={`Load ${load.number}`} className="space-y-3 min-w-0">
      <div className="flex flex-wrap items-baseline gap-x-4 border-b border-line">
        <h2 className="font-semibold">
          Load {load.number}, {chamber.name}
        </h2>
        <p className="text-soft">
          {load.use === 'bake'
            ? `${load.resin?.name ?? ''}, ${load.resin?.ratedH ?? ''} h at ${degrees(load.resin?.ratedC ?? 0)} of the part`
            : load.use === 'dry'
              ? 'drying'
              : 'burn-off'}
          ; air set to {degrees(load.setPointC)}; {formatNumber(load.massKg, 4)} of {formatNumber(chamber.mostKg)} kg
        </p>
        <a
          className="text-accent underline"
          href={`/api/ovens/loads/${load.id}/sheet.pdf`}
          target="_blank"
          rel="noreferrer"
        >
          Sheet for the door
        </a>
        {load.state === 'running' ? <AlarmSound on={load.alarms.length > 0} /> : null}
      </div>
      <Alarms alarms={load.alarms} />
      {load.state === 'loading' && may ? <PutIn load={load} chamber={chamber} /> : null}
      <ul className="space-y-1">
        {load.parts.map((p) =>
          p.out && load.state !== 'done' && p.out.says === '' ? null : (
            <Part key={p.id} load={load} part={p} mayWork={may} />
          ),
        )}
      </ul>
      {load.state === 'loading' && may && inside.length > 0 ? (
        <div className="flex flex-wrap gap-3 items-center">
          <Button look="main" bench disabled={started.isLoading} onClick={() => void start(load.id)}>
            Door shut: start the load
          </Button>
          {inside.some((p) => p.channels.length === 0) ? (
            <p className="text-attention font-semibold">
              {inside
                .filter((p) => p.channels.length === 0)
                .map((p) => p.job)
                .join(', ')}{' '}
              {inside.filter((p) => p.channels.length === 0).length === 1 ? 'has' : 'have'} no sensor: without typed
              readings nothing can be said of it.
            </p>
          ) : null}
        </div>
      ) : null}
      <ProblemNote error={started.error} />
      {load.late > 0 ? (
        <p className="text-attention">
          {load.late} readings came with a time before earlier ones and are left out: look at the logger’s clock.
        </p>
      ) : null}
      {load.traces.map((id) => (
        <LiveTrace
          key={id}
          id={id}
          names={names}
          limits={
            load.resin
              ? [
                  { label: 'rated', value: load.resin.ratedC, role: 'good' },
                  { label: 'never above', value: load.maxC, role: 'bad' },
                ]
              : load.use === 'burn-off'
                ? [{ label: 'never above', value: load.maxC, role: 'bad' }]
                : []
          }
        />
      ))}
      {load.readings.length > 0 ? (
        <details>
          <summary className="cursor-pointer py-1.5">{load.readings.length} readings typed by hand</summary>
          <ul className="text-small">
            {load.readings.map((r) => (
              <li key={r.part + r.at}>
                {time(r.at)} {load.parts.find((p) => p.id === r.part)?.job}: {degrees(r.c)}, {r.by}
              </li>
            ))}
          </ul>
        </details>
      ) : null}
      {load.leftOver.length > 0 ? (
        <p role="status" className="text-attention font-semibold">
          {load.leftOver.join(', ')} {load.leftOver.length === 1 ? 'sends' : 'send'} and{' '}
          {load.leftOver.length === 1 ? 'sits' : 'sit'} on nothing: say below on which part, or that it is not used.
        </p>
      ) : null}
      {load.state === 'running' && may ? <LogFile load={load} /> : null}
      {load.state !== 'done' && may ? <Sensors load={load} chamber={chamber} /> : null}
      <Happenings load={load} mayWork={may && load.state === 'running'} />
    </section>
  );
}

/** Temperatures as the shop reads them. */
export function useDegrees(): (c: number) => string {
  const unit = useSettings()?.units.temperatureUnit ?? '°C';
  return (c) => `${formatNumber(unit === '°F' ? 1.8 * c + 32 : c, 4)} ${unit}`;
}

function Part({ load, part, mayWork }: { load: LoadView; part: LoadPartView; mayWork: boolean }) {
  const degrees = useDegrees();
  const [takeOut, { error, isLoading, data }] = useTakeOutMutation();
  const [why, setWhy] = useState('');
  const [reading, setReading] = useState(false);
  const { now } = part;
  const left = minutesLeft(now);
  const done = partState(part) === 'done';
  // what was not done when it was asked may be done meanwhile
  const asks = !done && error !== undefined && problemOf(error).field === 'reason';
  return (
    <li className="border border-line bg-sheet p-2">
      <div className="grid grid-cols-[minmax(0,1fr)_auto] sm:grid-cols-[minmax(0,1.4fr)_6rem_minmax(5rem,1fr)_4rem_minmax(8rem,auto)] gap-x-3 items-center">
        <p className="min-w-0">
          <Link to={`/jobs/${part.job}/step/${part.code}`} className="font-semibold text-accent underline">
            {part.job}
          </Link>{' '}
          <span title={part.what}>{part.what}</span>
          <span className="block text-small text-soft">
            {formatNumber(part.massKg, 3)} kg · {part.channels.length > 0 ? part.channels.join(', ') : 'no sensor'}
            {part.corePlate ? ` · core plate ${part.corePlate}` : ''}
          </span>
        </p>
        {now && !part.out ? (
          <>
            <span className="tabular-nums text-right text-bench">{now.c === null ? '' : degrees(now.c)}</span>
            <span className="h-4 bg-sunk border border-line" aria-hidden="true">
              <span
                className={`block h-full ${done ? 'bg-pass' : 'bg-accent'}`}
                style={{ width: `${Math.min(100, 100 * now.degree)}%` }}
              />
            </span>
            <span className="tabular-nums text-right">
              {Math.floor(100 * (load.use === 'bake' ? now.degree : Math.min(1, now.degree)))} %
            </span>
            <span className="tabular-nums text-right text-bench" role="status">
              {now.burn && now.degree >= 1
                ? now.burn.state === 'may be opened'
                  ? 'may be opened'
                  : left === null
                    ? now.burn.state
                    : `${sayMinutes(left)} to ${degrees(now.burn.openC)}`
                : done
                  ? load.use === 'bake'
                    ? 'cured'
                    : 'long enough'
                  : left === null
                    ? ''
                    : `${now.forecastMin === null ? '' : 'about '}${sayMinutes(left)}`}
            </span>
          </>
        ) : null}
      </div>
      {part.out ? (
        <p>
          {part.out.says ? <VerdictMark verdict={part.out.verdict} /> : null} {part.out.says || part.out.reason}
          {part.out.says && part.out.reason ? (
            <span className="text-soft">
              {' '}
              “{part.out.reason}” {part.out.by}
            </span>
          ) : null}
        </p>
      ) : now ? (
        <Standing load={load} part={part} />
      ) : null}
      {mayWork && !part.out && load.state !== 'done' ? (
        <div className="mt-1 flex flex-wrap gap-2 items-end">
          {asks ? (
            <div className="grow max-w-md">
              <PlainField label="Why it leaves now" value={why} onChange={(e) => setWhy(e.target.value)} />
            </div>
          ) : null}
          <Button
            bench
            look={asks ? 'danger' : done ? 'main' : 'plain'}
            disabled={isLoading || (asks && why.trim().length < 3)}
            onClick={() => void takeOut({ id: load.id, part: part.id, reason: why.trim() })}
          >
            {load.state === 'loading' ? 'Take it back' : asks ? 'Take it out all the same' : 'Take it out'}
          </Button>
          {load.state === 'running' ? (
            <Button bench onClick={() => setReading(!reading)} aria-expanded={reading}>
              Type a reading
            </Button>
          ) : null}
        </div>
      ) : null}
      {reading ? <TypeReading load={load} part={part} onDone={() => setReading(false)} /> : null}
      {error !== undefined && !asks && problemOf(error).field === 'reason' ? null : <ProblemNote error={error} />}
      {data && load.state === 'loading' ? <p className="text-soft">{data.reason}</p> : null}
    </li>
  );
}

/** What is known of a part beside the figures: schools, lag, heat. */
function Standing({ load, part }: { load: LoadView; part: LoadPartView }) {
  const degrees = useDegrees();
  const { now } = part;
  if (!now) return null;
  const said = [
    now.why,
    now.burn?.state === 'cooling' ? 'cooling with the door shut; the time is at the rate of now' : '',
    now.slowest ? `slowest: ${now.slowest}` : '',
    load.use === 'bake'
      ? `equivalent time ${now.schools.equivalentTime ? 'met' : 'not met'}, unbroken hold ${now.schools.holdOnly ? 'met' : `${Math.floor(now.heldMin)} of ${formatNumber(60 * (load.resin?.ratedH ?? 0))} min`}`
      : `${Math.floor(now.totalMin)} min at temperature`,
    now.forecastMin !== null && now.simpleMin !== null && now.degree < 1
      ? `at the temperature of now ${sayMinutes(now.simpleMin)}`
      : '',
    now.lagMin === null ? '' : `lags ${formatNumber(now.lagMin, 2)} min behind the air`,
    now.hottestC === null ? '' : `hottest ${degrees(now.hottestC)}`,
  ].filter((t) => t !== '');
  return (
    <p className="text-small text-soft">
      {said.join(' · ')}
      {now.hotC !== null ? (
        <span className="block text-ink">
          <strong>Too hot to touch</strong> at {degrees(now.hotC)}
          {now.touchMin === null ? '' : `; once out, about ${sayMinutes(now.touchMin)} to ${degrees(TOUCH_C)}`}. Measure
          before you touch.
        </span>
      ) : null}
    </p>
  );
}

function TypeReading({ load, part, onDone }: { load: LoadView; part: LoadPartView; onDone: () => void }) {
  const form = useTypedForm({ key: `oven:reading:${part.id}`, specs: OVEN_READING_FIELDS, start: NOTHING });
  const [add, { error, isLoading }] = useAddOvenReadingMutation();
  return (
    <form
      aria-label={`Reading of ${part.job}`}
      className="flex flex-wrap gap-2 items-end mt-1"
      onKeyDown={enterMovesOn}
      onSubmit={(e) => {
        e.preventDefault();
        void add({ id: load.id, part: part.id, typed: form.typed }).then((r) => {
          if (!r.data) return;
          form.recorded({});
          onDone();
        });
      }}
    >
      {OVEN_READING_FIELDS.map((f) => (
        <Field key={f.name} form={form} spec={f} bench />
      ))}
      <Button look="main" bench type="submit" disabled={isLoading} className="mb-5">
        Record
      </Button>
      <ProblemNote error={error} />
    </form>
  );
}
