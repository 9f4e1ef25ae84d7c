import {
  judgeSensor,
  SENSOR_FIELDS,
  SENSOR_READING_FIELDS,
  SENSOR_STAGE_TITLES,
  SENSOR_STAGES,
  sensorOf,
  readForm,
  type SensorStage,
} from '@norther/core';
import type { JobDetail, SensorView } from '@norther/contracts';
import { useState } from 'react';
import {
  useFitSensorMutation,
  useReadSensorMutation,
  useRemoveSensorMutation,
  useSensorsQuery,
} from '../../app/api/sensor.ts';
import { useMay, useReadingDefaults, useSettings, useTime } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { DraftNote, enterMovesOn, Field, PlainField } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';
import { Segmented } from '../../ui/Segmented.tsx';
import { useTypedForm } from '../../ui/useTypedForm.ts';
import { VerdictMark } from '../../ui/Verdict.tsx';

const NOTHING = {};
const STAGES = SENSOR_STAGES.map((s) => [s, SENSOR_STAGE_TITLES[s]] as const);

/** Sensors and heaters of a motor: fitted, measured at each stage, taken out with a reason. */
export function SensorsPanel({ job, stage, folded }: { job: JobDetail; stage: SensorStage; folded?: true }) {
  const { data } = useSensorsQuery(job.number);
  const [at, setAt] = useState<SensorStage>(stage);
  const [open, setOpen] = useState<string>();
  const mayRecord = useMay('winder') && !job.closedAt;
  const fitted = (data ?? []).filter((s) => s.removed === null);
  const gone = (data ?? []).filter((s) => s.removed !== null);
  if (!data || (data.length === 0 && !mayRecord)) return null;
  const wanting = fitted.filter((s) => standing(s, stage) === undefined).length;
  const summary =
    fitted.length === 0
      ? 'none fitted'
      : `${fitted.length} fitted${wanting > 0 ? `, ${wanting} not measured ${SENSOR_STAGE_TITLES[stage]}` : ''}`;
  return (
    <details className="mt-3 border border-line bg-sheet" open={folded ? fitted.length > 0 : true}>
      <summary className="min-h-11 px-3 py-2 cursor-pointer">
        <span className="font-semibold">Sensors and heaters</span> <span className="text-soft">{summary}</span>
      </summary>
      <div className="px-3 pb-3 space-y-3">
        {fitted.length > 0 ? (
          <>
            <Segmented label="Measured" options={STAGES} value={at} onChange={setAt} />
            <ul className="divide-y divide-line">
              {fitted.map((s) => (
                <One
                  key={s.id}
                  job={job}
                  sensor={s}
                  stage={at}
                  open={open === s.id}
                  mayRecord={mayRecord}
                  onOpen={() => setOpen(open === s.id ? undefined : s.id)}
                />
              ))}
            </ul>
            <p className="text-small text-soft">
              In high-voltage tests they are joined to each other and to earth. Before resin, after the cure and at the
              terminals each of them must be whole.
            </p>
          </>
        ) : null}
        {gone.map((s) => (
          <p key={s.id} className="text-small text-soft">
            {say(s)}: taken out by {s.removed?.by}: {s.removed?.reason}
          </p>
        ))}
        {mayRecord ? <Fit job={job} /> : null}
      </div>
    </details>
  );
}

const say = (s: SensorView): string =>
  [s.typed['mark'], s.typed['kind'], s.typed['place']].filter((x) => x !== undefined && x !== '').join(', ');
const standing = (s: SensorView, stage: SensorStage) => s.readings.findLast((r) => r.stage === stage);

function One({
  job,
  sensor,
  stage,
  open,
  mayRecord,
  onOpen,
}: {
  job: JobDetail;
  sensor: SensorView;
  stage: SensorStage;
  open: boolean;
  mayRecord: boolean;
  onOpen: () => void;
}) {
  const time = useTime();
  const last = standing(sensor, stage);
  return (
    <li className="py-2">
      <div className="flex flex-wrap gap-x-3 gap-y-1 items-center">
        <span className="font-semibold min-w-0 break-words">{say(sensor)}</span>
        {last ? (
          <span>
            <VerdictMark verdict={last.verdict} /> {last.typed['ohm']}
            {/\d$/.test(last.typed['ohm'] ?? '') ? ' Ω' : ''}, insulation {last.typed['insulation']}
            {/\d$/.test(last.typed['insulation'] ?? '') ? ' MΩ' : ''} {last.reason}{' '}
            <span className="text-soft text-small">
              {last.person}, {time(last.at)}
            </span>
          </span>
        ) : (
          <span className="text-soft">not measured {SENSOR_STAGE_TITLES[stage]}</span>
        )}
        {mayRecord ? (
          <Button bench className="ml-auto" aria-expanded={open} onClick={onOpen}>
            {last ? 'Measure again' : 'Measure'}
          </Button>
        ) : null}
      </div>
      {open && mayRecord ? <Reading key={stage} job={job} sensor={sensor} stage={stage} onDone={onOpen} /> : null}
    </li>
  );
}

function Reading({
  job,
  sensor,
  stage,
  onDone,
}: {
  job: JobDetail;
  sensor: SensorView;
  stage: SensorStage;
  onDone: () => void;
}) {
  const form = useTypedForm({
    key: `sensor:${sensor.id}:${stage}:${sensor.readings.length}`,
    specs: SENSOR_READING_FIELDS,
    start: NOTHING,
  });
  const settings = useSettings();
  const defaults = useReadingDefaults();
  const mayRemove = useMay('foreman');
  const [record, { error, isLoading }] = useReadSensorMutation();
  const [remove, removed] = useRemoveSensorMutation();
  const [why, setWhy] = useState('');
  const missing = SENSOR_READING_FIELDS.filter((f) => f.required && !form.typed[f.name]);
  const ready = missing.length === 0 && form.reading.problems.length === 0;
  const judged = ready
    ? judgeSensor(
        sensorOf(readForm(SENSOR_FIELDS, sensor.typed, defaults).values, form.reading.values),
        settings?.limits ?? {},
      )
    : undefined;
  return (
    <form
      aria-label={`Reading of ${sensor.typed['mark'] ?? ''}`}
      onKeyDown={enterMovesOn}
      onSubmit={(e) => {
        e.preventDefault();
        if (!ready) return;
        void record({ number: job.number, id: sensor.id, stage, typed: form.typed }).then((r) => {
          if (!r.data) return;
          form.recorded({});
          onDone();
        });
      }}
    >
      <div className="grid grid-cols-1 sm:grid-cols-2 lg:grid-cols-4 gap-x-3">
        {SENSOR_READING_FIELDS.map((f) => (
          <Field
            key={f.name}
            form={form}
            spec={f}
            bench
            suggest={f.name === 'instrument' ? settings?.gauges.map((g) => g.name) : undefined}
          />
        ))}
      </div>
      {judged ? (
        <p role="status">
          <VerdictMark verdict={judged.verdict} /> {judged.reason}
        </p>
      ) : null}
      <DraftNote form={form} />
      <div className="flex flex-wrap gap-3 items-end mt-1">
        <Button look="main" bench type="submit" disabled={isLoading || !ready}>
          Record {SENSOR_STAGE_TITLES[stage]}
        </Button>
        {mayRemove ? (
          <span className="flex gap-2 items-end ml-auto">
            <PlainField label="Taken out because" value={why} onChange={(e) => setWhy(e.target.value)} />
            <Button
              disabled={removed.isLoading || why.trim().length < 3}
              onClick={() => void remove({ number: job.number, id: sensor.id, reason: why })}
            >
              Take it out
            </Button>
          </span>
        ) : null}
      </div>
      <ProblemNote error={error ?? removed.error} />
    </form>
  );
}

/** A sensor or heater comes in. */
function Fit({ job }: { job: JobDetail }) {
  const form = useTypedForm({ key: `sensor:${job.number}:fit`, specs: SENSOR_FIELDS, start: NOTHING });
  const [fit, { error, isLoading }] = useFitSensorMutation();
  const missing = SENSOR_FIELDS.filter((f) => f.required && !form.typed[f.name]);
  const heater = form.typed['kind'] === 'heater';
  return (
    <form
      aria-label="Fit a sensor or heater"
      onKeyDown={enterMovesOn}
      onSubmit={(e) => {
        e.preventDefault();
        if (missing.length > 0 || form.reading.problems.length > 0) return;
        void fit({ number: job.number, typed: form.typed }).then((r) => (r.data ? form.recorded({}) : undefined));
      }}
    >
      <div className="grid grid-cols-1 sm:grid-cols-3 gap-x-3">
        {SENSOR_FIELDS.filter((f) => heater || !f.name.startsWith('rated')).map((f) => (
          <Field key={f.name} form={form} spec={f} bench />
        ))}
      </div>
      <DraftNote form={form} />
      <div>
        <Button bench type="submit" disabled={isLoading || missing.length > 0}>
          Fit it
        </Button>
      </div>
      <ProblemNote error={error} />
    </form>
  );
}
