import {
  layoutOfRecord,
  readWindingRecord,
  runCalculation,
  slotRing,
  WINDING_FIELDS,
  windingFigures,
  windingChecks,
  FIRST_PART,
  partFacts,
  WINDING_PARTS,
  type FieldSpec,
  type Finding,
  type WindingPart,
  operation,
} from '@norther/core';
import { type JobDetail, type WindingView, windingOfPart } from '@norther/contracts';
import { useMemo, useRef } from 'react';
import { useSearchParams } from 'react-router';
import { useDraftText } from '../../app/draft.ts';
import { useFirstField } from '../../app/keyboard.ts';
import { problemOf } from '../../app/api/base.ts';
import { useSaveWindingMutation } from '../../app/api/winding.ts';
import { useMarks, useMay, useSettings, useTime } from '../../app/shop.ts';
import { DrawingView, Highlights } from '../../drawing/DrawingView.tsx';
import { Button } from '../../ui/Button.tsx';
import { DraftNote, enterMovesOn, Field } from '../../ui/Field.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';
import { useTypedForm } from '../../ui/useTypedForm.ts';
import { sectionsOf } from './dataSections.ts';
import { FigureList } from './FigureList.tsx';
import { PartSwitch, partOf } from './PartSwitch.tsx';
import { ReadConnectionPanel } from './ReadConnectionPanel.tsx';
import { SinusoidalPanel } from './SinusoidalPanel.tsx';
import { TakeOver } from './TakeOver.tsx';

const spec = (name: string): FieldSpec => WINDING_FIELDS.find((f) => f.name === name) as FieldSpec;
const WORDS = { E: 'cannot be right', W: 'look again', I: 'for information' } as const;

/** Data as found: typed as at the bench, drawn and checked at every key press. */
export function DataBench({ job }: { job: JobDetail }) {
  const [query] = useSearchParams();
  const part = partOf(query.get('part'));
  const recorded = windingOfPart(job, part).found;
  return (
    <>
      <PartSwitch parts={WINDING_PARTS} part={part} />
      <Bench key={`${part}${recorded?.revision ?? 0}`} job={job} part={part} recorded={recorded} />
    </>
  );
}

function Bench({ job, part, recorded }: { job: JobDetail; part: WindingPart; recorded: WindingView | null }) {
  const draftKey = part === FIRST_PART ? `winding:${job.number}` : `winding:${job.number}:${part}`;
  const form = useTypedForm({ key: draftKey, specs: WINDING_FIELDS, start: recorded?.typed ?? {} });
  const [save, saving] = useSaveWindingMutation();
  const reason = useDraftText(`reason:${draftKey}`);
  const mayWrite = useMay('winder') && !job.closedAt;
  const limits = useSettings()?.limits;
  const time = useTime();
  const { letters } = useMarks();
  const { nameplateFound: nameplate, inCore } = useMemo(() => windingOfPart(job, part), [job, part]);
  const live = useMemo(() => {
    const read = readWindingRecord(form.typed, form.defaults).record;
    const record = inCore(read);
    const laid = layoutOfRecord(record);
    const checked = windingChecks.compute({ record, nameplate, limits: limits ?? {} });
    return {
      record,
      layout: laid.layout,
      why: laid.layout ? undefined : laid.why,
      findings: checked.findings,
      missing: checked.missing,
      figures: runCalculation(windingFigures, { record, nameplate }),
    };
  }, [form.typed, form.defaults, nameplate, limits, inCore]);
  const agreed = job.steps.some((s) => operation(s.code).agreesData && s.state === 'passed');
  const problem = saving.error ? problemOf(saving.error) : undefined;
  const slots = typeof live.record.slots === 'number' ? live.record.slots : 0;
  const ring = useMemo(
    () => (slots > 0 ? slotRing({ slots, layout: live.layout, letters, size: 440 }) : undefined),
    [slots, live.layout, letters],
  );
  const take = (changes: Record<string, string>): void => {
    for (const [name, value] of Object.entries(changes)) form.set(name, value);
  };
  const submit = async (): Promise<void> => {
    const typed = form.typed;
    const answer = await save({
      number: job.number,
      part,
      revision: recorded?.revision ?? 0,
      typed,
      ...(reason.text ? { reason: reason.text } : {}),
    });
    if (!('data' in answer)) return;
    form.recorded(typed);
    reason.recorded();
  };
  const place = useRef<HTMLFormElement>(null);
  useFirstField(place);
  return (
    <div className="grid grid-cols-1 lg:grid-cols-[minmax(0,1.15fr)_minmax(400px,1fr)] gap-6">
      <form
        ref={place}
        onKeyDown={enterMovesOn}
        onSubmit={(e) => {
          e.preventDefault();
          void submit();
        }}
      >
        <fieldset disabled={!mayWrite}>
          {sectionsOf(live.record.kind, form.typed).map((s) => (
            <section key={s.title} className="mb-2">
              <h2 className="font-semibold border-b border-line mb-1.5">{s.title}</h2>
              <div className="grid grid-cols-2 md:grid-cols-3 gap-x-3">
                {s.fields.map((name) => (
                  <Field key={name} form={form} spec={spec(name)} />
                ))}
              </div>
              {s.title === 'Connection' && live.layout ? (
                <ReadConnectionPanel record={live.record} layout={live.layout} onTake={take} />
              ) : null}
              {s.title === 'Auxiliary winding' ? <SinusoidalPanel record={live.record} onTake={take} /> : null}
            </section>
          ))}
          <Field form={form} spec={spec('remarks')} wide />
        </fieldset>
        <div className="sticky bottom-0 bg-page border-t-2 border-edge py-2 flex flex-wrap gap-3 items-center">
          {agreed && form.changed ? (
            <label className="flex-1 min-w-60">
              <span className="sr-only">Reason of the correction</span>
              <input
                value={reason.text}
                onChange={(e) => reason.set(e.target.value)}
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
          {mayWrite ? (
            <TakeOver number={job.number} part={part} typed={form.typed} here={form.defaults} onTake={take} />
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
        {form.typed['startedFrom'] ? (
          <p className="text-small text-soft">Started from {form.typed['startedFrom']}.</p>
        ) : null}
        {partFacts(part).plate === 'rings' ? (
          <Quiet>
            Judged at the rotor voltage and current of the nameplate; the ring voltage is worked out on the plan.
          </Quiet>
        ) : null}
        {live.why && slots > 0 ? <p className="text-small text-soft">{live.why}</p> : null}
        <FindingList
          findings={live.findings}
          onTake={mayWrite ? take : undefined}
          missing={live.missing.map((m) => WINDING_FIELDS.find((f) => f.name === m)?.label ?? m)}
        />
        <FigureList result={live.figures} />
      </div>
    </div>
  );
}

function FindingList({
  findings,
  missing,
  onTake,
}: {
  findings: readonly Finding[];
  missing: readonly string[];
  onTake: ((changes: Record<string, string>) => void) | undefined;
}) {
  const ink = { E: 'border-fail', W: 'border-attention', I: 'border-edge' } as const;
  return (
    <section aria-live="polite" aria-label="Checks">
      <h2 className="font-semibold">{findings.length === 0 ? 'Checks: nothing against it' : 'Checks'}</h2>
      <ul className="space-y-1">
        {findings.map((f) => (
          <li key={f.check + f.message} className={`border-l-4 pl-2 text-small ${ink[f.severity]}`}>
            <strong>{WORDS[f.severity]}: </strong>
            {f.message}
            {f.proposal && onTake ? (
              <button
                type="button"
                className="block text-accent underline min-h-8"
                onClick={() => onTake(f.proposal?.changes ?? {})}
              >
                Type it in: {f.proposal.say}
              </button>
            ) : null}
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
