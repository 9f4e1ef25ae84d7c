import { formatNumber, STAGE_WORDS, VESSEL_STAGES } from '@norther/core';
import type { CycleView, VesselView } from '@norther/contracts';
import { useState } from 'react';
import { Link } from 'react-router';
import { useNextStageMutation, useNoteCycleMutation, useVesselsQuery } from '../../app/api/vessel.ts';
import { problemOf } from '../../app/api/base.ts';
import { useMay, useTime } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { PlainField } from '../../ui/Field.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';
import { LiveTrace } from '../instrument/LiveTrace.tsx';
import { sayMinutes } from '../oven/sayMinutes.ts';
import { BeginCycle } from './BeginCycle.tsx';
import { Signals } from './Signals.tsx';
import { VesselDrawing } from './VesselDrawing.tsx';
import { VesselForm } from './VesselForm.tsx';

const LOOK_MS = 5000;
const CAPACITANCE = ['capacitance_nF'];

/** Vacuum-pressure vessels: the stage of the cycle, its lamps, and the winding as it fills. */
export function VesselsView() {
  const { data, error, isLoading } = useVesselsQuery(undefined, { pollingInterval: LOOK_MS });
  const mayKeep = useMay('foreman');
  const [form, setForm] = useState<VesselView | 'new'>();
  return (
    <div className="space-y-6">
      <ProblemNote error={error} />
      {isLoading ? <Quiet>Asking for the vessels …</Quiet> : null}
      {data?.length === 0 ? <Quiet>No vessel is kept yet. A foreman adds each once, with its set points.</Quiet> : null}
      {(data ?? []).map((v) => (
        <Vessel key={v.id} vessel={v} onChange={mayKeep ? () => setForm(v) : undefined} />
      ))}
      {mayKeep ? <Button onClick={() => setForm('new')}>Add a vessel</Button> : null}
      {form !== undefined ? (
        <VesselForm vessel={form === 'new' ? undefined : form} onClose={() => setForm(undefined)} />
      ) : null}
    </div>
  );
}

function Vessel({ vessel, onChange }: { vessel: VesselView; onChange: (() => void) | undefined }) {
  const { cycle } = vessel;
  return (
    <section aria-label={vessel.name} className="border-t-2 border-edge pt-2">
      <div className="flex flex-wrap items-baseline gap-x-4">
        <h2 className="font-semibold">
          {vessel.name}
          {cycle ? `, cycle ${cycle.number}` : ''}
        </h2>
        <p className="text-soft">
          {vessel.tank
            ? `resin from ${vessel.tank.name}${vessel.tank.lot ? `, lot ${vessel.tank.lot}` : ''}`
            : 'no resin tank named'}
          ; relief valve in date to {vessel.setUp.reliefDue}
        </p>
        {onChange ? (
          <Button look="quiet" className="ml-auto" onClick={onChange}>
            Change
          </Button>
        ) : null}
      </div>
      <p className="text-small">
        <strong>Caution:</strong> pressure vessel: inspected, relief in date, never force the lid. Norther advises and
        records; the vessel’s own interlocks and the inspection rule. Pressure is let off in an emergency without asking
        anything.
      </p>
      {vessel.tank && vessel.tank.blocked.length > 0 ? (
        <p className="text-fail font-semibold">
          {vessel.tank.name}: {vessel.tank.blocked.join(' ')}
        </p>
      ) : null}
      {cycle ? <Cycle vessel={vessel} cycle={cycle} /> : <BeginCycle vessel={vessel} />}
    </section>
  );
}

function Cycle({ vessel, cycle }: { vessel: VesselView; cycle: CycleView }) {
  const mayWork = useMay('winder');
  const at = VESSEL_STAGES.indexOf(cycle.stage);
  return (
    <div className="grid grid-cols-1 lg:grid-cols-[300px_minmax(240px,1fr)_minmax(280px,1.25fr)] gap-x-6 gap-y-3 mt-2">
      <div>
        <VesselDrawing setUp={vessel.setUp} cycle={cycle} />
        <ul className="mt-1">
          {cycle.jobs.map((j) => (
            <li key={j.job}>
              <Link className="text-accent underline font-semibold" to={`/jobs/${j.job}/step/${j.code}`}>
                {j.job}
              </Link>{' '}
              {j.what}
            </li>
          ))}
        </ul>
      </div>
      <ol aria-label="Stages">
        {VESSEL_STAGES.map((s, i) => (
          <li
            key={s}
            aria-current={i === at ? 'step' : undefined}
            className={`flex gap-2 py-0.5 border-l-4 pl-2 ${i < at ? 'border-edge text-soft' : i === at ? 'border-accent font-semibold' : 'border-line text-soft'}`}
          >
            <span aria-hidden="true">{i < at ? '✓' : i === at ? '●' : '○'}</span>
            {STAGE_WORDS[s]}
            {i === at ? <span className="ml-auto tabular-nums">{sayMinutes(cycle.stageMin)}</span> : null}
          </li>
        ))}
      </ol>
      <div className="space-y-2">
        {cycle.alarms.map((a) => (
          <p key={a} role="alert" className="border-l-4 border-fail bg-fail-tint pl-2 py-1 font-semibold">
            {a}
          </p>
        ))}
        <Next cycle={cycle} mayWork={mayWork} />
        {cycle.leak ? (
          <p>
            Leak test:{' '}
            {cycle.leak === 'runs'
              ? 'runs; five minutes with the valve shut'
              : `${formatNumber(cycle.leak.riseMbar, 2)} mbar in five minutes, ${cycle.leak.passed ? 'passed' : 'not passed'}`}
          </p>
        ) : null}
        {cycle.plateau ? (
          <p>
            Filling: the capacitance rose by {formatNumber(cycle.plateau.risePercent, 3)} %
            {cycle.plateau.slopePercentMin === null
              ? ''
              : `, now ${formatNumber(cycle.plateau.slopePercentMin, 2)} %/min`}
            ;{' '}
            <strong>
              {cycle.plateau.state === 'plateau'
                ? 'it stands: filled'
                : cycle.plateau.state === 'signal_fault'
                  ? 'the signal is not believed'
                  : cycle.plateau.state === 'flat_no_rise'
                    ? 'it stands but never rose'
                    : 'still rising'}
            </strong>
          </p>
        ) : null}
      </div>
      <div className="lg:col-span-3 grid grid-cols-1 lg:grid-cols-[minmax(0,1.6fr)_minmax(0,1fr)] gap-x-6 gap-y-3">
        <div className="min-w-0 space-y-2">
          {cycle.traces.map((id) => (
            <LiveTrace key={id} id={id} names={NAMES} only={CAPACITANCE} />
          ))}
          <Signals cycle={cycle} mayWork={mayWork} />
        </div>
        <Events cycle={cycle} mayWork={mayWork} />
      </div>
    </div>
  );
}
const NAMES = new Map([['capacitance_nF', 'Capacitance of winding to frame']]);

/** What stands before the next stage, lamp by lamp. */
function Next({ cycle, mayWork }: { cycle: CycleView; mayWork: boolean }) {
  const [next, { error, isLoading }] = useNextStageMutation();
  const [reason, setReason] = useState('');
  const mayOver = useMay('foreman');
  if (!cycle.next) return null;
  const missing = cycle.lamps.filter((l) => !l.holds);
  const asked = error !== undefined && problemOf(error).title === 'Interlock' && missing.length > 0;
  return (
    <div>
      <p className="font-semibold">Next: {STAGE_WORDS[cycle.next]}</p>
      <ul aria-label="Interlocks" className="my-1">
        {cycle.lamps.map((l) => (
          <li key={l.code} className={`flex gap-2 items-center ${l.holds ? '' : 'font-semibold'}`}>
            <span
              aria-hidden="true"
              className={`inline-block size-3.5 rounded-full border-2 ${l.holds ? 'bg-pass border-pass' : 'border-fail'}`}
            />
            {l.says}
            <span className={`ml-auto text-small ${l.holds ? 'text-pass' : 'text-fail'}`}>
              {l.holds ? 'holds' : 'not yet'}
            </span>
          </li>
        ))}
      </ul>
      {mayWork ? (
        <div className="flex flex-wrap gap-2 items-end">
          {missing.length > 0 && mayOver && asked ? (
            <div className="grow">
              <PlainField
                label="Go on all the same, because"
                value={reason}
                onChange={(e) => setReason(e.target.value)}
              />
            </div>
          ) : null}
          <Button
            bench
            look={missing.length === 0 ? 'main' : 'plain'}
            disabled={isLoading}
            onClick={() =>
              void next({ id: cycle.id, reason: reason.trim() }).then((r) => (r.data ? setReason('') : undefined))
            }
          >
            {cycle.next === 'out' ? 'Lid open: the cycle is over' : `Begin: ${STAGE_WORDS[cycle.next].toLowerCase()}`}
          </Button>
        </div>
      ) : null}
      {error !== undefined && (asked || problemOf(error).title !== 'Interlock') ? <ProblemNote error={error} /> : null}
    </div>
  );
}

function Events({ cycle, mayWork }: { cycle: CycleView; mayWork: boolean }) {
  const time = useTime();
  const [note, setNote] = useState('');
  const [add, { error, isLoading }] = useNoteCycleMutation();
  const tell = (kind: 'leak test' | 'note' | 'broken off') =>
    void add({ id: cycle.id, kind, note: note.trim() }).then((r) => (r.data ? setNote('') : undefined));
  return (
    <section aria-label="What happened" className="space-y-2 min-w-0">
      {mayWork ? (
        <>
          <label className="block">
            <span className="block text-small font-semibold">Note</span>
            <input
              value={note}
              onChange={(e) => setNote(e.target.value)}
              className="w-full rounded-sm border border-edge bg-sheet px-2 min-h-11"
            />
          </label>
          <div className="flex flex-wrap gap-2">
            {cycle.stage === 'vacuum' ? (
              <Button bench disabled={isLoading} onClick={() => tell('leak test')}>
                Leak test: valve shut
              </Button>
            ) : null}
            <Button bench disabled={isLoading || note.trim().length < 3} onClick={() => tell('note')}>
              Note it
            </Button>
            <Button
              bench
              look="danger"
              disabled={isLoading || note.trim().length < 3}
              onClick={() => tell('broken off')}
            >
              Break off, as noted
            </Button>
          </div>
          <ProblemNote error={error} />
        </>
      ) : null}
      <ul className="text-small text-soft">
        {cycle.events.map((e) => (
          <li key={e.at + e.kind + (e.stage ?? '')}>
            {time(e.at)} {e.stage ? STAGE_WORDS[e.stage] : e.kind}
            {e.missing.length > 0 ? `, over ${e.missing.join(', ')}` : ''}
            {e.note ? `: ${e.note}` : ''}, {e.by}
          </li>
        ))}
      </ul>
    </section>
  );
}
