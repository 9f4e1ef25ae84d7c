import {
  developedWinding,
  whyNotSearched,
  highSpeedLayout,
  layoutInputOf,
  layoutOfRecord,
  phasorStar,
  FIRST_PART,
  partFacts,
  runCalculation,
  slotRing,
  slotSection,
  windingChecks,
  windingFigures,
  windingRotorVoltage,
  type Nameplate,
  type WindingPart,
  type WindingRecord,
} from '@norther/core';
import { type JobDetail, type WindingView, recordedParts, windingOfPart } from '@norther/contracts';
import { Suspense, useEffect, useMemo, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useStockQuery } from '../../app/api/stock.ts';
import { useMarks, useSettings } from '../../app/shop.ts';
import { DrawingView, Highlights } from '../../drawing/DrawingView.tsx';
import { Quiet } from '../../ui/Problem.tsx';
import { ConnectionPanel } from './ConnectionPanel.tsx';
import { FieldDrawings } from './FieldDrawings.tsx';
import { FigureList } from './FigureList.tsx';
import { BarWaveSection } from './BarWaveSection.tsx';
import { FormCoilSection } from './FormCoilSection.tsx';
import { FormerSection } from './FormerSection.tsx';
import { ToothPathSection } from './ToothPathSection.tsx';
import { preloadable } from '../../ui/preloadable.tsx';
import { PartSwitch, partOf, partQuery } from './PartSwitch.tsx';
import { PlanState } from './PlanState.tsx';
import { Titled } from './Titled.tsx';
import { CoilTable, FactorTable } from './WindingTables.tsx';
import { Segmented } from '../../ui/Segmented.tsx';

type Doing = 'plan' | 'wire' | 'change';

/** What can be planned of a winding: every one of round wire with other wire, a three-phase one of one speed as something else. */
function plansOf(found: WindingView | null, nameplate: Nameplate): (readonly [Doing, string])[] {
  if (!found) return [];
  const round = (found.record.strands?.length ?? 0) > 0;
  return [
    ['plan', 'Plan and card'],
    ...(round ? [['wire', 'As found, other wire'] as const] : []),
    ...(whyNotSearched(found.record, nameplate) ? [] : [['change', 'Change the rewind'] as const]),
  ];
}

const ChangeRewind = preloadable(() => import('../redesign/ChangeRewind.tsx').then((m) => m.ChangeRewind));
/** Fetches the screen of a changed rewind before it is asked for. */
export const preloadChange = ChangeRewind.preload;

const OtherWire = preloadable(() => import('../redesign/OtherWire.tsx').then((m) => m.OtherWire));

/** The rewind as found: layout, factors, figures, field, connection and the card, of each winding of the motor. */
export function PlanView({ job }: { job: JobDetail }) {
  const [query, setQuery] = useSearchParams();
  const part = partOf(query.get('part'));
  const { shown: view, found, plan, nameplateFound } = windingOfPart(job, part);
  const plans = plansOf(found, nameplateFound);
  const doing = plans.find(([id]) => id === query.get('do'))?.[0] ?? 'plan';
  const recorded = recordedParts(job);
  const searches = plans.some(([id]) => id === 'change');
  // what another rewind needs comes while its screen does: the stock, and the worker that searches
  useStockQuery(undefined, { skip: doing === 'plan' });
  useEffect(() => {
    if (!searches) return;
    const later = setTimeout(() => void import('../../worker/door.ts').then((m) => m.warmCore()), 1500);
    return () => clearTimeout(later);
  }, [searches]);
  return (
    <>
      {recorded.length > 1 ? <PartSwitch parts={recorded} part={part} /> : null}
      {plans.length > 1 ? (
        <div className="mb-3">
          <Segmented
            label="What to plan"
            options={plans}
            value={doing}
            onChange={(to) => setQuery({ ...partQuery(part), ...(to === 'plan' ? {} : { do: to }) })}
          />
        </div>
      ) : null}
      {doing !== 'plan' && found ? (
        <Suspense fallback={<Quiet>Opening …</Quiet>}>
          <Changing key={`${doing}${part}${found.revision}`} job={job} part={part} found={found} doing={doing} />
        </Suspense>
      ) : view ? (
        <Plan key={`${part}${view.role}${view.revision}`} job={job} part={part} plan={plan} />
      ) : (
        <Quiet>
          No winding data yet.{' '}
          <Link className="text-accent underline" to={`/jobs/${job.number}/data?part=${part}`}>
            Take the data first.
          </Link>
        </Quiet>
      )}
    </>
  );
}

function Changing({
  job,
  part,
  found,
  doing,
}: {
  job: JobDetail;
  part: WindingPart;
  found: WindingView;
  doing: Doing;
}) {
  const { inCore, nameplateFound } = useMemo(() => windingOfPart(job, part), [job, part]);
  const record = useMemo(() => inCore(found.record), [inCore, found]);
  const Room = doing === 'wire' ? OtherWire : ChangeRewind;
  return <Room job={job} part={part} record={record} nameplate={nameplateFound} revision={found.revision} />;
}

function Plan({ job, part, plan }: { job: JobDetail; part: WindingPart; plan: WindingView | null }) {
  const { letters } = useMarks();
  const limits = useSettings()?.limits;
  const { record, nameplate } = useMemo(() => windingOfPart(job, part), [job, part]);
  // the rings' voltage follows from both windings
  const stator = partFacts(part).plate === 'rings' ? windingOfPart(job, FIRST_PART).found?.record : undefined;
  const laid = useMemo(() => layoutOfRecord(record), [record]);
  const input = useMemo(() => layoutInputOf(record), [record]);
  const [fast, setFast] = useState(false);
  const layout = useMemo(
    () => (laid.layout && record.kind === 'two-speed' && fast ? highSpeedLayout(laid.layout) : laid.layout),
    [laid.layout, record.kind, fast],
  );
  const figures = useMemo(() => runCalculation(windingFigures, { record, nameplate }), [record, nameplate]);
  const checks = useMemo(
    () => windingChecks.compute({ record, nameplate, limits: limits ?? {} }),
    [record, nameplate, limits],
  );
  const section = useMemo(() => slotSection(record, laid.layout), [record, laid.layout]);
  const ring = useMemo(
    () => (layout ? slotRing({ slots: layout.slots, layout, letters, size: 440 }) : undefined),
    [layout, letters],
  );
  const developed = useMemo(() => (layout ? developedWinding(layout, { letters }) : undefined), [layout, letters]);
  const star = useMemo(() => (layout ? phasorStar(layout, { letters, size: 400 }) : undefined), [layout, letters]);
  const files = `/api/jobs/${job.number}/winding/${part}`;
  return (
    <Highlights>
      <div className="flex flex-wrap gap-3 items-center mb-2">
        <PlanState job={job} part={part} plan={plan} checks={checks} />
        <a
          href={`/api/jobs/${job.number}/card.pdf?part=${part}`}
          target="_blank"
          rel="noreferrer"
          className="inline-flex items-center min-h-11 px-4 rounded-sm bg-accent text-on-accent font-semibold"
        >
          Winding card (PDF)
        </a>
        <a
          href={`/api/jobs/${job.number}/card.pdf?part=${part}&drawings=all`}
          target="_blank"
          rel="noreferrer"
          className="text-accent underline"
        >
          with all drawings
        </a>
      </div>
      {record.startedFrom ? <p className="text-small text-soft">Started from {record.startedFrom}.</p> : null}
      {stator ? <RotorVoltage job={job} stator={stator} rotor={record} /> : null}
      <div className="grid grid-cols-1 lg:grid-cols-[1fr_1fr_minmax(250px,0.75fr)] gap-5">
        <section aria-label="Layout">
          <Titled title="Layout, seen from the connection end" drawing={ring} file="slot-ring">
            {record.kind === 'two-speed' && laid.layout ? (
              <select
                aria-label="Speed shown"
                value={fast ? 'high' : 'low'}
                onChange={(e) => setFast(e.target.value === 'high')}
                className="border border-edge bg-sheet min-h-8 text-small"
              >
                <option value="low">low speed, {laid.layout.poles} poles</option>
                <option value="high">high speed, {laid.layout.poles / 2} poles</option>
              </select>
            ) : null}
          </Titled>
          {ring ? <DrawingView drawing={ring} /> : <Quiet>{'why' in laid ? laid.why : ''}</Quiet>}
          {layout ? <CoilTable layout={layout} /> : null}
        </section>
        {laid.layout ? <ConnectionPanel record={record} layout={laid.layout} /> : <div />}
        <div className="space-y-4">
          <FigureList result={figures} />
          {laid.layout && input ? (
            <FactorTable input={input} layout={laid.layout} skewSlots={record.skewSlots} />
          ) : null}
        </div>
      </div>
      {layout && developed && star && input ? (
        <>
          <section aria-label="Developed winding" className="mt-4">
            <Titled title="Unrolled" drawing={developed} file="developed" />
            <div className="overflow-x-auto" tabIndex={0} role="group" aria-label="Unrolled winding">
              <div style={{ minWidth: developed.width > 1240 ? developed.width : undefined }}>
                <DrawingView drawing={developed} />
              </div>
            </div>
          </section>
          <div className="grid grid-cols-1 lg:grid-cols-[minmax(0,0.8fr)_minmax(0,1.25fr)_minmax(0,0.6fr)] gap-6 mt-4">
            <section aria-label="Star of slots">
              <Titled title="Star of slots" drawing={star} file="phasor-star" />
              <DrawingView drawing={star} />
            </section>
            <FieldDrawings layout={layout} input={input} rotorBars={record.rotorBars} skewSlots={record.skewSlots} />
            <section aria-label="Slot">
              <Titled title="Slot" drawing={section.drawing} file="slot-section" />
              {section.drawing ? <DrawingView drawing={section.drawing} /> : <Quiet>{section.why}</Quiet>}
            </section>
          </div>
          {record.kind === 'tooth-coil' ? (
            <ToothPathSection record={record} layout={layout} />
          ) : record.kind === 'form-wound' ? (
            <FormCoilSection record={record} />
          ) : record.kind === 'bar-rotor' ? (
            <BarWaveSection record={record} />
          ) : (
            <FormerSection record={record} nameplate={nameplate} />
          )}
          <p className="mt-3 text-small">
            Take away:{' '}
            {(
              [
                ['record.json', 'record (JSON)'],
                ['coils.csv', 'coils (CSV)'],
                ['groups.csv', 'groups (CSV)'],
                ['joints.csv', 'joints (CSV)'],
                ['joints.json', 'joints (JSON)'],
                ['drawings.pdf', 'drawings (PDF)'],
              ] as const
            ).map(([file, text]) => (
              <a
                key={file}
                className="text-accent underline mr-4"
                href={`${files}/${file}`}
                target="_blank"
                rel="noreferrer"
              >
                {text}
              </a>
            ))}
            <Link className="text-accent underline" to={`/archive?like=job/${job.number}/${part}`}>
              similar windings
            </Link>
          </p>
        </>
      ) : null}
    </Highlights>
  );
}

const NO_LIMITS = {};

function RotorVoltage({ job, stator, rotor }: { job: JobDetail; stator: WindingRecord; rotor: WindingRecord }) {
  const limits = useSettings()?.limits ?? NO_LIMITS;
  const says = useMemo(() => {
    try {
      return windingRotorVoltage.compute({ stator, rotor, nameplate: job.nameplate as Nameplate, limits }).says;
    } catch (error) {
      return error instanceof Error ? error.message.replace(/^[\w.]+: /, '') : '';
    }
  }, [stator, rotor, job, limits]);
  return <p className="border-l-4 border-edge pl-2 mb-2">{says}</p>;
}
