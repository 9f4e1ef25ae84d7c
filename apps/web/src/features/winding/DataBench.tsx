import {
  checkRecord,
  layoutOfRecord,
  readWindingRecord,
  runCalculation,
  slotRing,
  WINDING_FIELDS,
  windingFigures,
  windingChecks,
  type FieldSpec,
  type Finding,
  type Nameplate,
} from '@norther/core';
import type { JobDetail, WindingView } from '@norther/contracts';
import { useMemo, useState } from 'react';
import { problemOf, useSaveWindingMutation } from '../../app/api.ts';
import { useMarks, useMay, useSettings, useTime } from '../../app/shop.ts';
import { DrawingView, Highlights } from '../../drawing/DrawingView.tsx';
import { Button } from '../../ui/Button.tsx';
import { DraftNote, enterMovesOn, Field } from '../../ui/Field.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';
import { useTypedForm } from '../../ui/useTypedForm.ts';
import { FigureList } from './FigureList.tsx';

const spec = (name: string): FieldSpec => WINDING_FIELDS.find((f) => f.name === name) as FieldSpec;
const SECTIONS: readonly { title: string; fields: readonly string[] }[] = [
  {
    title: 'Count',
    fields: ['slots', 'poles', 'layers', 'form', 'poleGroups', 'coilCount', 'groupCount', 'grouping', 'spansSlots'],
  },
  { title: 'Turns and wire', fields: ['turns', 'turnsSecondCount', 'strands', 'wireGrade', 'material'] },
  {
    title: 'Connection',
    fields: [
      'connection',
      'circuits',
      'leads',
      'jumper',
      'endsPerLead',
      'wireTipsPerLead',
      'starPoints',
      'endsPerStar',
      'leadOneGroup',
      'leadExit',
      'connectionSide',
      'leadSize',
      'leadMarks',
    ],
  },
  {
    title: 'Core',
    fields: [
      'boreM',
      'coreLengthM',
      'coreOuterM',
      'backIronM',
      'toothWidthM',
      'slotDepthM',
      'slotOpeningM',
      'slotAreaM2',
      'slotNetAreaM2',
      'airGapM',
      'ductCount',
      'ductWidthM',
      'rotorBars',
      'skewSlots',
    ],
  },
  {
    title: 'End turns and insulation',
    fields: [
      'extensionConnectionEndM',
      'extensionOppositeEndM',
      'overhangOuterM',
      'overhangInnerM',
      'linerM',
      'separatorM',
      'wedge',
      'phasePaper',
    ],
  },
  {
    title: 'Before and after stripping',
    fields: ['resistanceOhm', 'resistanceTemperatureC', 'copperKg', 'copperState', 'sampleCoilM'],
  },
];
const WORDS = { E: 'cannot be right', W: 'look again', I: 'for information' } as const;

/** Data as found: typed as at the bench, drawn and checked at every key press. */
export function DataBench({ job }: { job: JobDetail }) {
  const recorded = job.winding;
  return <Bench key={recorded?.revision ?? 0} job={job} recorded={recorded} />;
}

function Bench({ job, recorded }: { job: JobDetail; recorded: WindingView | null }) {
  const form = useTypedForm({ key: `winding:${job.number}`, specs: WINDING_FIELDS, start: recorded?.typed ?? {} });
  const [save, saving] = useSaveWindingMutation();
  const [reason, setReason] = useState('');
  const mayWrite = useMay('winder') && !job.closedAt;
  const limits = useSettings()?.limits;
  const time = useTime();
  const { letters } = useMarks();
  const nameplate = job.nameplate as Nameplate;
  const live = useMemo(() => {
    const { record } = readWindingRecord(form.typed, form.defaults);
    const laid = layoutOfRecord(record);
    return {
      record,
      layout: laid.layout,
      why: laid.layout ? undefined : laid.why,
      findings: checkRecord(record, nameplate, limits ?? {}),
      missing: windingChecks.compute({ record, nameplate, limits: limits ?? {} }).missing,
      figures: runCalculation(windingFigures, { record, nameplate }),
    };
  }, [form.typed, form.defaults, nameplate, limits]);
  const agreed = job.steps.some((s) => s.code === 'DAT' && s.state === 'passed');
  const problem = saving.error ? problemOf(saving.error) : undefined;
  const slots = typeof live.record.slots === 'number' ? live.record.slots : 0;
  const ring = useMemo(
    () => (slots > 0 ? slotRing({ slots, layout: live.layout, letters, size: 440 }) : undefined),
    [slots, live.layout, letters],
  );
  const submit = async (): Promise<void> => {
    const typed = form.typed;
    const answer = await save({
      number: job.number,
      revision: recorded?.revision ?? 0,
      typed,
      ...(reason ? { reason } : {}),
    });
    if ('data' in answer) form.recorded(typed);
  };
  return (
    <div className="grid grid-cols-[minmax(0,1.15fr)_minmax(400px,1fr)] gap-6">
      <form
        onKeyDown={enterMovesOn}
        onSubmit={(e) => {
          e.preventDefault();
          void submit();
        }}
      >
        <fieldset disabled={!mayWrite}>
          {SECTIONS.map((s) => (
            <section key={s.title} className="mb-2">
              <h2 className="font-semibold border-b border-line mb-1.5">{s.title}</h2>
              <div className="grid grid-cols-3 gap-x-3">
                {s.fields.map((name) => (
                  <Field key={name} form={form} spec={spec(name)} />
                ))}
              </div>
            </section>
          ))}
          <Field form={form} spec={spec('remarks')} wide />
        </fieldset>
        <div className="sticky bottom-0 bg-page border-t-2 border-edge py-2 flex flex-wrap gap-3 items-center">
          {agreed && form.changed ? (
            <label className="flex-1 min-w-60">
              <span className="sr-only">Reason of the correction</span>
              <input
                value={reason}
                onChange={(e) => setReason(e.target.value)}
                placeholder="Reason of the correction (the data were agreed)"
                className="w-full min-h-9 border border-edge rounded-sm px-2 bg-sheet"
              />
            </label>
          ) : null}
          <Button look="main" bench type="submit" disabled={!mayWrite || saving.isLoading || !form.changed}>
            Record
          </Button>
          {form.changed ? (
            <Button look="quiet" bench onClick={form.undo}>
              Undo to recorded
            </Button>
          ) : null}
          <DraftNote form={form} />
          <span className="text-small text-soft">
            {recorded
              ? `revision ${recorded.revision}, ${recorded.person}, ${time(recorded.at)}`
              : 'nothing recorded yet'}
          </span>
          {form.staleDraft ? (
            <span className="text-small text-attention font-semibold">
              Your draft began before the newest revision.
            </span>
          ) : null}
          <ProblemNote error={saving.error} />
          {problem?.status === 409 ? (
            <BothSides current={problem.current as WindingView} mine={form.typed} onTakeTheirs={() => form.undo()} />
          ) : null}
        </div>
      </form>
      <div className="sticky top-2 self-start space-y-3 max-h-[calc(100vh-1rem)] overflow-y-auto pr-1">
        <Highlights>
          {ring ? (
            <DrawingView drawing={ring} className="max-w-[440px] mx-auto" />
          ) : (
            <Quiet>Type the number of slots: the core is drawn as you type.</Quiet>
          )}
        </Highlights>
        {live.why && slots > 0 ? <p className="text-small text-soft">{live.why}</p> : null}
        <FindingList
          findings={live.findings}
          missing={live.missing.map((m) => WINDING_FIELDS.find((f) => f.name === m)?.label ?? m)}
        />
        <FigureList result={live.figures} />
      </div>
    </div>
  );
}

function FindingList({ findings, missing }: { findings: readonly Finding[]; missing: readonly string[] }) {
  const ink = { E: 'border-fail', W: 'border-attention', I: 'border-edge' } as const;
  return (
    <section aria-live="polite" aria-label="Checks">
      <h2 className="font-semibold">{findings.length === 0 ? 'Checks: nothing against it' : 'Checks'}</h2>
      <ul className="space-y-1">
        {findings.map((f) => (
          <li key={f.check + f.message} className={`border-l-4 pl-2 text-small ${ink[f.severity]}`}>
            <strong>{WORDS[f.severity]}: </strong>
            {f.message}
          </li>
        ))}
      </ul>
      {missing.length > 0 ? (
        <p className="text-small text-soft mt-1">To be agreed it still needs: {missing.join(', ')}.</p>
      ) : null}
    </section>
  );
}

function BothSides({
  current,
  mine,
  onTakeTheirs,
}: {
  current: WindingView | null;
  mine: Record<string, string>;
  onTakeTheirs: () => void;
}) {
  const theirs = current?.typed ?? {};
  const names = [...new Set([...Object.keys(theirs), ...Object.keys(mine)])].filter(
    (n) => (theirs[n] ?? '') !== (mine[n] ?? ''),
  );
  return (
    <div className="w-full border border-edge bg-sheet p-3">
      <p className="font-semibold">Both sides ({current?.person} saved first)</p>
      <table className="text-small w-full">
        <thead>
          <tr>
            <th className="text-left">Field</th>
            <th className="text-left">Theirs</th>
            <th className="text-left">Yours</th>
          </tr>
        </thead>
        <tbody>
          {names.map((n) => (
            <tr key={n}>
              <td>{WINDING_FIELDS.find((f) => f.name === n)?.label ?? n}</td>
              <td>{theirs[n] ?? '–'}</td>
              <td>{mine[n] ?? '–'}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="text-small mt-1">Record again to put yours on top of theirs as a new revision, or take theirs.</p>
      <Button look="plain" onClick={onTakeTheirs}>
        Take theirs
      </Button>
    </div>
  );
}
