import {
  connect,
  connectionRing,
  formatNumber,
  layoutOfRecord,
  leadMark,
  possibleCircuits,
  runCalculation,
  slotRing,
  windingFactorsCalculation,
  windingFigures,
  windingRecordSchema,
  layoutInputOf,
  windingChecks,
  type Layout,
  type Nameplate,
} from '@norther/core';
import type { JobDetail } from '@norther/contracts';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { useReleasePlanMutation } from '../../app/api.ts';
import { useMarks, useMay, useSettings, useTime } from '../../app/shop.ts';
import { DrawingView, Highlights, useMark } from '../../drawing/DrawingView.tsx';
import { Button } from '../../ui/Button.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';
import { FigureList } from './FigureList.tsx';

/** The rewind as found: layout, factors, figures, connection and the card. */
export function PlanView({ job }: { job: JobDetail }) {
  const { letters, school } = useMarks();
  const limits = useSettings()?.limits;
  const view = job.plan ?? job.winding;
  const nameplate = job.nameplate as Nameplate;
  const record = useMemo(() => windingRecordSchema.parse(view?.record ?? {}), [view]);
  const laid = useMemo(() => layoutOfRecord(record), [record]);
  const layout = laid.layout;
  const [tried, setTried] = useState<{
    connection: 'wye' | 'delta';
    circuits: number;
    jumper: 'adjacent-pole' | 'skip-pole';
    leads: 3 | 6;
  }>();
  const possible = useMemo(() => (layout ? possibleCircuits(layout) : []), [layout]);
  const asRecorded = {
    connection: record.connection ?? 'wye',
    circuits: record.circuits ?? 1,
    jumper: record.jumper ?? possible.find((p) => p.circuits === record.circuits)?.jumpers[0] ?? 'adjacent-pole',
    leads: record.leads === '6' ? (6 as const) : (3 as const),
  } as const;
  const choice = tried ?? asRecorded;
  const notDrawn = record.leads === '9' || record.leads === '12';
  const made = useMemo(() => {
    if (!layout) return undefined;
    try {
      return connect(layout, choice);
    } catch {
      return undefined;
    }
    // the choice is a small plain object: compare it by its parts
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [layout, choice.connection, choice.circuits, choice.jumper, choice.leads]);
  const figures = useMemo(() => runCalculation(windingFigures, { record, nameplate }), [record, nameplate]);
  const checks = useMemo(
    () => windingChecks.compute({ record, nameplate, limits: limits ?? {} }),
    [record, nameplate, limits],
  );
  if (!view) {
    return (
      <Quiet>
        No winding data yet.{' '}
        <Link className="text-accent underline" to={`/jobs/${job.number}/data`}>
          Take the data first.
        </Link>
      </Quiet>
    );
  }
  const differs =
    tried !== undefined &&
    (Object.keys(asRecorded) as (keyof typeof asRecorded)[]).some((k) => asRecorded[k] !== tried[k]);
  return (
    <Highlights>
      <div className="flex flex-wrap gap-3 items-center mb-2">
        <PlanState job={job} verifiable={checks.verifiable} />
        <a
          href={`/api/jobs/${job.number}/card.pdf`}
          target="_blank"
          rel="noreferrer"
          className="inline-flex items-center min-h-11 px-4 rounded-sm bg-accent text-on-accent font-semibold"
        >
          Winding card (PDF)
        </a>
      </div>
      <div className="grid grid-cols-[1fr_1fr_minmax(250px,0.75fr)] gap-5">
        <section aria-label="Layout">
          <h2 className="font-semibold">Layout, seen from the connection end</h2>
          {layout ? (
            <DrawingView drawing={slotRing({ slots: layout.slots, layout, letters, size: 440 })} />
          ) : (
            <Quiet>{'why' in laid ? laid.why : ''}</Quiet>
          )}
        </section>
        <section aria-label="Connection">
          <h2 className="font-semibold flex flex-wrap gap-2 items-center">
            Connection
            <span className="inline-flex gap-1 text-small font-normal">
              <select
                aria-label="Connection"
                value={choice.connection}
                onChange={(e) => setTried({ ...choice, connection: e.target.value as 'wye' | 'delta' })}
                className="border border-edge bg-sheet min-h-8"
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
                    jumper: possible.find((p) => p.circuits === Number(e.target.value))?.jumpers[0] ?? choice.jumper,
                  })
                }
                className="border border-edge bg-sheet min-h-8"
              >
                {possible.map((p) => (
                  <option key={p.circuits} value={p.circuits}>
                    {p.circuits} circuit{p.circuits > 1 ? 's' : ''}
                  </option>
                ))}
              </select>
              <select
                aria-label="Jumpers"
                value={choice.jumper}
                onChange={(e) => setTried({ ...choice, jumper: e.target.value as typeof choice.jumper })}
                className="border border-edge bg-sheet min-h-8"
              >
                {(possible.find((p) => p.circuits === choice.circuits)?.jumpers ?? []).map((j) => (
                  <option key={j} value={j}>
                    {j === 'adjacent-pole' ? 'short 1-4' : 'long 1-7'}
                  </option>
                ))}
              </select>
              <select
                aria-label="Leads"
                value={choice.leads}
                onChange={(e) => setTried({ ...choice, leads: Number(e.target.value) as 3 | 6 })}
                className="border border-edge bg-sheet min-h-8"
              >
                <option value={3}>3 leads</option>
                <option value={6}>6 leads</option>
              </select>
            </span>
          </h2>
          {differs ? (
            <p className="text-small text-attention font-semibold">
              To look at only; the record stays {asRecorded.circuits}-circuit {asRecorded.connection}.{' '}
              <button type="button" className="underline" onClick={() => setTried(undefined)}>
                back
              </button>
            </p>
          ) : null}
          {notDrawn && !differs ? (
            <Quiet>{record.leads} leads: recorded and checked, not drawn yet.</Quiet>
          ) : layout && made ? (
            <DrawingView drawing={connectionRing(layout, made, { marks: school, size: 440 })} />
          ) : (
            <Quiet>These circuits would not be equal; choose others.</Quiet>
          )}
        </section>
        <FigureList result={figures} />
      </div>
      {layout && made && !notDrawn ? (
        <div className="grid grid-cols-[1.4fr_1fr] gap-6 mt-3">
          <section>
            <h2 className="font-semibold border-b border-line">Circuits and jumpers</h2>
            <table className="w-full text-small">
              <tbody>
                {made.circuits.map((c) => (
                  <CircuitRow
                    key={`${c.phase}${c.number}`}
                    phase={c.phase}
                    name={`${letters[c.phase === 'A' ? 0 : c.phase === 'B' ? 1 : 2]} ${c.number}`}
                    path={`${leadMark(c.from, school)} – ${c.steps.map((s) => `${s.enter} ${s.leave}`).join(' – ')} – ${leadMark(c.to, school)}`}
                  />
                ))}
              </tbody>
            </table>
            <h2 className="font-semibold border-b border-line mt-3">Leads and star</h2>
            <table className="w-full text-small">
              <tbody>
                {made.nodes.map((n) => (
                  <tr key={n.name} className="border-b border-line">
                    <th scope="row" className="text-left w-16">
                      {leadMark(n.name, school)}
                    </th>
                    <td>{n.ends.join('  ')}</td>
                  </tr>
                ))}
                {made.links.map((l) => (
                  <tr key={l.use} className="border-b border-line">
                    <th scope="row" className="text-left font-normal">
                      {l.use}
                    </th>
                    <td>
                      lines to {l.lines.map((x) => leadMark(x, school)).join(', ')}
                      {l.links.length > 0 ? `; joined ${l.links.map((x) => leadMark(x, school)).join(', ')}` : ''}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
          <Factors layout={layout} record={record} />
        </div>
      ) : null}
    </Highlights>
  );
}

function CircuitRow({ phase, name, path }: { phase: string; name: string; path: string }) {
  const { lit, ...mark } = useMark(`phase:${phase}`);
  return (
    <tr {...mark} className={`border-b border-line ${lit ? 'bg-accent-tint' : ''}`}>
      <th scope="row" className="text-left w-16">
        {name}
      </th>
      <td>{path}</td>
    </tr>
  );
}

function Factors({ layout, record }: { layout: Layout; record: ReturnType<typeof windingRecordSchema.parse> }) {
  const input = layoutInputOf(record);
  const result = useMemo(
    () =>
      input
        ? runCalculation(windingFactorsCalculation, {
            ...input,
            turns: [1],
            highestOrder: 31,
            skewSlots: record.skewSlots ?? 0,
          })
        : undefined,
    [input, record.skewSlots],
  );
  if (!result) return null;
  return (
    <section>
      <h2 className="font-semibold border-b border-line">
        Winding factors ({layout.slots} slots, {layout.poles} poles)
      </h2>
      <p className="text-small text-soft">
        pitch {formatNumber(result.values.pitch, 4)} · distribution {formatNumber(result.values.distribution, 4)} · skew{' '}
        {formatNumber(result.values.skew, 4)}
      </p>
      <ul className="grid grid-cols-4 gap-x-4 text-small">
        {result.values.factors
          .filter((f) => f.order % 2 === 1)
          .map((f) => (
            <li key={f.order} className="flex justify-between border-b border-line">
              <span className="text-soft">{f.order}</span>
              <span>{formatNumber(f.withSkew, 4).replace('-', '−')}</span>
            </li>
          ))}
      </ul>
    </section>
  );
}

function PlanState({ job, verifiable }: { job: JobDetail; verifiable: boolean }) {
  const mayRelease = useMay('foreman') && !job.closedAt;
  const [release, { isLoading, error }] = useReleasePlanMutation();
  const [reason, setReason] = useState('Rewind as found.');
  const time = useTime();
  const { plan, winding } = job;
  const newer = plan && winding && JSON.stringify(plan.typed) !== JSON.stringify(winding.typed);
  return (
    <div className="flex flex-wrap gap-3 items-center flex-1">
      <p>
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
      {mayRelease && winding && (!plan || newer) ? (
        <form
          className="flex gap-2 items-center"
          onSubmit={(e) => {
            e.preventDefault();
            void release({ number: job.number, revision: winding.revision, reason });
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
