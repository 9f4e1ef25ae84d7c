import {
  asLinkedToRun,
  explainFigures,
  oddFigures,
  TEST_STAGES,
  stageTitle,
  leadMark,
  parseNumber,
  phaseWords,
  type Connection,
  type Layout,
  type RouteId,
  type TestStage,
  type WindingPart,
} from '@norther/core';
import type { JobDetail } from '@norther/contracts';
import { useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { useMarks } from '../../app/shop.ts';
import { Quiet } from '../../ui/Problem.tsx';

const ROWS = [
  ['resistance', 'Resistance', ['T1–T2', 'T2–T3', 'T3–T1']],
  ['current', 'Current without load', ['T1', 'T2', 'T3']],
  ['frequency', 'Surge frequency', ['T1–T2', 'T2–T3', 'T3–T1']],
] as const;

/** A typed reading; "open" is no end of resistance, no wave and no current. */
function readingOf(kind: 'resistance' | 'current' | 'frequency', text: string): number | undefined {
  if (/^(open|ol|o\.l\.|∞|inf)$/i.test(text.trim())) return kind === 'resistance' ? Infinity : 0;
  const x = parseNumber(text);
  return x !== undefined && (x > 0 || (x === 0 && kind !== 'resistance')) ? x : undefined;
}

/** What a stage's tests read, by the names of the fields here. */
function typedOf(job: JobDetail, part: WindingPart, stage: TestStage | undefined): Record<string, string> {
  const figures = stage ? oddFigures(job.tests, stage, part) : {};
  return Object.fromEntries(ROWS.flatMap(([key]) => (figures[key] ?? []).map((text, i) => [`${key}${i}`, text])));
}

/** From odd test figures, typed or as a stage's tests read them, to the single mistakes that would explain them. */
export function OddReadings({
  job,
  part,
  layout,
  connection,
}: {
  job: JobDetail;
  part: WindingPart;
  layout: Layout;
  connection: Connection;
}) {
  const [query] = useSearchParams();
  const stage = TEST_STAGES.find((s) => s === query.get('stage'));
  const { school } = useMarks();
  const linked = useMemo(() => asLinkedToRun(layout, connection), [layout, connection]);
  const [typed, setTyped] = useState<Record<string, string>>(() => typedOf(job, part, stage));
  const readings = useMemo(
    () =>
      Object.fromEntries(
        ROWS.flatMap(([key]) => {
          const list = [0, 1, 2].map((i) => readingOf(key, typed[`${key}${i}`] ?? ''));
          return list.every((x) => x !== undefined) ? [[key, list]] : [];
        }),
      ),
    [typed],
  );
  const found = useMemo(
    () => (linked && Object.keys(readings).length > 0 ? explainFigures(layout, linked, readings).slice(0, 6) : []),
    [layout, linked, readings],
  );
  if (!linked)
    return <Quiet>Odd figures are explained for three-phase windings of one speed that run on three lines.</Quiet>;
  return (
    <div className="grid grid-cols-1 lg:grid-cols-[minmax(0,0.9fr)_minmax(0,1.1fr)] gap-6">
      <section aria-label="Readings">
        {stage ? <p className="text-small mb-2">As read: {stageTitle(stage, job.route as RouteId)}.</p> : null}
        {connection.leads > 3 ? (
          <p className="text-small mb-2">
            Readings between the lines, with the {connection.leads} leads linked to run
            {connection.leads > 6 ? ' at the lower voltage' : ` in ${connection.connection}`}.
          </p>
        ) : null}
        {ROWS.map(([key, title, names]) => (
          <fieldset key={key} className="mb-3">
            <legend className="font-semibold">{title}, any unit</legend>
            <div className="grid grid-cols-2 md:grid-cols-3 gap-2">
              {names.map((name, i) => (
                <label key={name} className="text-small">
                  {leadMark(name, school)}
                  <input
                    aria-label={`${title} ${leadMark(name, school)}`}
                    value={typed[`${key}${i}`] ?? ''}
                    onChange={(e) => setTyped({ ...typed, [`${key}${i}`]: e.target.value })}
                    className="w-full min-h-11 border border-edge rounded-sm px-2 bg-sheet text-[1.125rem]"
                  />
                </label>
              ))}
            </div>
          </fieldset>
        ))}
        <Quiet>
          Three readings of one kind are enough; more kinds narrow it down. Where nothing flows, write “open”. A cage
          rotor in place softens current and surge.
        </Quiet>
      </section>
      <section aria-label="What would explain it" aria-live="polite">
        {found.length === 0 ? (
          <Quiet>Nothing to explain yet.</Quiet>
        ) : (
          <ol className="space-y-3">
            {found.map((e) => (
              <li key={e.kind + e.says[0]} className="border-l-4 border-edge pl-3">
                <p className="font-semibold">
                  {phaseWords(e.says.slice(0, 6).join(', or '), school)}
                  {e.says.length > 6 ? `, or ${e.says.length - 6} more alike` : ''}
                </p>
                <p className="text-small">
                  off by {e.misfitPercent.toFixed(1)} % in pattern. {e.look}
                </p>
              </li>
            ))}
          </ol>
        )}
      </section>
    </div>
  );
}
