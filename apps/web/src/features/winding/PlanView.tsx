import {
  connect,
  connectionChoiceOf,
  connectionOfRecord,
  connectionRing,
  developedWinding,
  drawingToSvg,
  highSpeedLayout,
  inHalves,
  inSameCore,
  layoutInputOf,
  layoutOfRecord,
  PART_TITLES,
  phasorStar,
  plateOfPart,
  possibleCircuits,
  runCalculation,
  slotRing,
  slotSection,
  windingChecks,
  windingFigures,
  windingRecordSchema,
  windingRotorVoltage,
  type ConnectionChoice,
  type Drawing,
  type Layout,
  type Nameplate,
  type WindingPart,
  type WindingRecord,
} from '@norther/core';
import type { JobDetail, WindingView } from '@norther/contracts';
import { type ReactNode, useMemo, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { useReleasePlanMutation } from '../../app/api.ts';
import { useMarks, useMay, useSettings, useTime } from '../../app/shop.ts';
import { DrawingView, Highlights } from '../../drawing/DrawingView.tsx';
import { Button } from '../../ui/Button.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';
import { FieldDrawings } from './FieldDrawings.tsx';
import { FigureList } from './FigureList.tsx';
import { PartSwitch, partOf } from './PartSwitch.tsx';
import { CoilTable, ConnectionTables, FactorTable } from './WindingTables.tsx';

/** The rewind as found: layout, factors, figures, field, connection and the card, of each winding of the motor. */
export function PlanView({ job }: { job: JobDetail }) {
  const [query] = useSearchParams();
  const part = partOf(query.get('part'));
  const own = part === 'stator' ? job : job.otherWindings.find((w) => w.part === part);
  const view = own?.plan ?? own?.winding ?? null;
  const recorded = ['stator' as const, ...job.otherWindings.map((w) => w.part)];
  return (
    <>
      {recorded.length > 1 ? <PartSwitch parts={recorded} part={part} /> : null}
      {view ? (
        <Plan key={`${part}${view.role}${view.revision}`} job={job} part={part} view={view} plan={own?.plan ?? null} />
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

function Plan({
  job,
  part,
  view,
  plan,
}: {
  job: JobDetail;
  part: WindingPart;
  view: WindingView;
  plan: WindingView | null;
}) {
  const { letters } = useMarks();
  const limits = useSettings()?.limits;
  const nameplate = useMemo(() => plateOfPart(job.nameplate as Nameplate, part), [job, part]);
  const stator = useMemo(
    () => (part === 'stator' || !job.winding ? undefined : windingRecordSchema.parse(job.winding.record)),
    [job, part],
  );
  const record = useMemo(() => {
    const own = windingRecordSchema.parse(view.record);
    return part === 'second' ? inSameCore(own, stator) : own;
  }, [view, part, stator]);
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
        <PlanState job={job} part={part} plan={plan} verifiable={checks.verifiable} />
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
      {part === 'rotor' && stator ? <RotorVoltage job={job} stator={stator} rotor={record} /> : null}
      <div className="grid grid-cols-[1fr_1fr_minmax(250px,0.75fr)] gap-5">
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
          <div className="grid grid-cols-[minmax(0,0.8fr)_minmax(0,1.25fr)_minmax(0,0.6fr)] gap-6 mt-4">
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
          <p className="mt-3 text-small">
            Take away:{' '}
            {(
              [
                ['record.json', 'record (JSON)'],
                ['coils.csv', 'coils (CSV)'],
                ['groups.csv', 'groups (CSV)'],
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

/** A heading with the drawing as a file beside it. */
function Titled({
  title,
  drawing,
  file,
  children,
}: {
  title: string;
  drawing: Drawing | undefined;
  file: string;
  children?: ReactNode;
}) {
  const save = (): void => {
    if (!drawing) return;
    const url = URL.createObjectURL(new Blob([drawingToSvg(drawing)], { type: 'image/svg+xml' }));
    const a = document.createElement('a');
    a.href = url;
    a.download = `${file}.svg`;
    a.click();
    setTimeout(() => URL.revokeObjectURL(url), 1000);
  };
  return (
    <h2 className="font-semibold flex flex-wrap gap-3 items-center">
      {title}
      {children}
      {drawing ? (
        <button type="button" className="text-small font-normal text-accent underline ml-auto" onClick={save}>
          SVG<span className="sr-only"> of {title}</span>
        </button>
      ) : null}
    </h2>
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

/** The connection of the record, and what other circuits, jumpers and leads would look like. */
function ConnectionPanel({ record, layout }: { record: WindingRecord; layout: Layout }) {
  const { school } = useMarks();
  const [tried, setTried] = useState<ConnectionChoice>();
  const possible = useMemo(() => possibleCircuits(layout), [layout]);
  const recorded = useMemo(() => connectionChoiceOf(record, layout), [record, layout]);
  const asRecorded = useMemo(() => connectionOfRecord(record), [record]);
  const threePhase = layout.kind === 'three-phase';
  const choice: ConnectionChoice = tried ??
    recorded ?? { connection: 'wye', circuits: 1, jumper: 'adjacent-pole', leads: 3, partWinding: false };
  const { made, why } = useMemo(() => {
    if (!tried) return { made: asRecorded.connection, why: asRecorded.why };
    try {
      return { made: connect(layout, tried), why: undefined };
    } catch (error) {
      return { made: undefined, why: error instanceof Error ? error.message.replace(/^\w+: /, '') : '' };
    }
  }, [tried, asRecorded, layout]);
  const differs = tried !== undefined && JSON.stringify(tried) !== JSON.stringify(recorded);
  const drawing = useMemo(
    () => (made ? connectionRing(layout, made, { marks: school, size: 440 }) : undefined),
    [layout, made, school],
  );
  const halved = choice.partWinding || choice.leads === 9 || choice.leads === 12;
  const circuits = possible
    .filter((p) => !halved || p.circuits % 2 === 0)
    .map((p) => (halved ? p.circuits / 2 : p.circuits));
  const jumpersOf = (c: number) => possible.find((p) => p.circuits === c * (halved ? 2 : 1))?.jumpers ?? [];
  const leadsValue = choice.partWinding ? 'pw' : String(choice.leads);
  const box = 'border border-edge bg-sheet min-h-8';
  return (
    <section aria-label="Connection">
      <Titled title="Connection" drawing={drawing} file="connection">
        {threePhase ? (
          <span className="inline-flex flex-wrap gap-1 text-small font-normal">
            <select
              aria-label="Connection"
              value={choice.connection}
              onChange={(e) => setTried({ ...choice, connection: e.target.value as 'wye' | 'delta' })}
              className={box}
            >
              <option value="wye">wye</option>
              <option value="delta">delta</option>
            </select>
            <select
              aria-label="Circuits"
              value={choice.circuits}
              onChange={(e) =>
                setTried({
                  ...choice,
                  circuits: Number(e.target.value),
                  jumper: jumpersOf(Number(e.target.value))[0] ?? choice.jumper,
                })
              }
              className={box}
            >
              {circuits.map((c) => (
                <option key={c} value={c}>
                  {c} circuit{c > 1 ? 's' : ''}
                  {halved ? ' a half' : ''}
                </option>
              ))}
            </select>
            <select
              aria-label="Jumpers"
              value={choice.jumper}
              onChange={(e) => setTried({ ...choice, jumper: e.target.value as typeof choice.jumper })}
              className={box}
            >
              {jumpersOf(choice.circuits).map((j) => (
                <option key={j} value={j}>
                  {j === 'adjacent-pole' ? 'short 1-4' : 'long 1-7'}
                </option>
              ))}
            </select>
            <select
              aria-label="Leads"
              value={leadsValue}
              onChange={(e) => {
                const partWinding = e.target.value === 'pw';
                const leads = (partWinding ? 6 : Number(e.target.value)) as 3 | 6 | 9 | 12;
                const half = partWinding || leads > 6;
                const all = choice.circuits * (halved ? 2 : 1);
                const next = half ? Math.max(1, Math.floor(all / 2)) : all;
                setTried({ ...choice, leads, partWinding, circuits: next });
              }}
              className={box}
            >
              <option value="3">3 leads</option>
              <option value="6">6 leads</option>
              <option value="pw">6, part-winding</option>
              <option value="9">9 leads</option>
              <option value="12">12 leads</option>
            </select>
          </span>
        ) : null}
      </Titled>
      {differs && recorded ? (
        <p className="text-small text-attention font-semibold">
          To look at only; the record stays {record.circuits}-circuit {record.connection}, {record.leads ?? '3'} leads
          {inHalves(record) ? ' (circuits of each half)' : ''}.{' '}
          <button type="button" className="underline" onClick={() => setTried(undefined)}>
            back
          </button>
        </p>
      ) : null}
      {drawing && made ? (
        <>
          <DrawingView drawing={drawing} />
          <ConnectionTables layout={layout} made={made} />
        </>
      ) : (
        <Quiet>{why}</Quiet>
      )}
    </section>
  );
}

function PlanState({
  job,
  part,
  plan,
  verifiable,
}: {
  job: JobDetail;
  part: WindingPart;
  plan: WindingView | null;
  verifiable: boolean;
}) {
  const mayRelease = useMay('foreman') && !job.closedAt;
  const [release, { isLoading, error }] = useReleasePlanMutation();
  const [reason, setReason] = useState('Rewind as found.');
  const time = useTime();
  const found = part === 'stator' ? job.winding : job.otherWindings.find((w) => w.part === part)?.winding;
  const newer = plan && found && JSON.stringify(plan.typed) !== JSON.stringify(found.typed);
  return (
    <div className="flex flex-wrap gap-3 items-center flex-1">
      <p>
        {part === 'stator' ? '' : `${PART_TITLES[part]}: `}
        {plan ? (
          <>
            <strong>Plan {plan.revision} released</strong> by {plan.released?.by} on {time(plan.at)}. {plan.reason}
          </>
        ) : (
          <strong>As found, not released for winding.</strong>
        )}
        {newer ? (
          <span className="text-attention font-semibold"> The record was corrected after the release.</span>
        ) : null}
      </p>
      {mayRelease && found && (!plan || newer) ? (
        <form
          className="flex gap-2 items-center"
          onSubmit={(e) => {
            e.preventDefault();
            void release({ number: job.number, part, revision: found.revision, reason });
          }}
        >
          <input
            aria-label="Reason of the release"
            value={reason}
            onChange={(e) => setReason(e.target.value)}
            className="min-h-9 border border-edge rounded-sm px-2 bg-sheet w-56"
          />
          <Button
            type="submit"
            look="plain"
            disabled={isLoading || !verifiable}
            title={verifiable ? '' : 'The record is not complete or cannot be right; see Data as found.'}
          >
            Release as plan
          </Button>
          {verifiable ? null : <span className="text-small text-soft">the record is not complete yet</span>}
        </form>
      ) : null}
      <ProblemNote error={error} />
    </div>
  );
}
