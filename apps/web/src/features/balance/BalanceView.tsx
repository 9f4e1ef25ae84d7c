import {
  balanceOnePlane,
  CalculationInputError,
  formatNumber,
  formatQuantity,
  polarPlot,
  runCalculation,
  type CalculationResult,
  type PolarVector,
} from '@norther/core';
import { BALANCE_FIELDS, balanceInput, type BalanceView, type JobDetail } from '@norther/contracts';
import { useMemo, useState } from 'react';
import type { z } from 'zod';
import { useRecordBalanceMutation } from '../../app/api/evaluate.ts';
import { useMay, useSettings, useTime } from '../../app/shop.ts';
import { DrawingView } from '../../drawing/DrawingView.tsx';
import { Button } from '../../ui/Button.tsx';
import { PieceField } from '../motor/PieceField.tsx';
import { DraftNote, enterMovesOn, Field } from '../../ui/Field.tsx';
import { ProblemNote, Quiet } from '../../ui/Problem.tsx';
import { type Typed, useTypedForm } from '../../ui/useTypedForm.ts';
import { VerdictMark } from '../../ui/Verdict.tsx';
import { ShowWorking } from '../evaluate/ShowWorking.tsx';
import { WorkingTable } from '../../ui/Working.tsx';

type Result = CalculationResult<z.output<typeof balanceOnePlane.output>>;
const spec = (name: string) => BALANCE_FIELDS.find((f) => f.name === name) as (typeof BALANCE_FIELDS)[number];
const SECTIONS: readonly { title: string; fields: readonly string[] }[] = [
  {
    title: 'Set-up',
    fields: [
      'grade',
      'mass',
      'serviceSpeed',
      'balancingSpeed',
      'width',
      'span',
      'radius',
      'method',
      'positions',
      'firstPosition',
      'stand',
      'scatter',
    ],
  },
  {
    title: 'Runs (once-per-turn amplitude and phase, one unit and one angle sense all through)',
    fields: [
      'foundSize',
      'foundAngle',
      'trial',
      'trialAngle',
      'trialSize',
      'trialPhase',
      'trialStays',
      'afterSize',
      'afterPhase',
    ],
  },
];

/** One plane in one sheet: set-up, three readings, what to add where, the residual judged. */
export function OnePlane({ job }: { job: JobDetail }) {
  const last = job.balances.find((b) => (b.result as { id?: string } | null)?.id !== 'balance.session');
  return <Bench key={last?.id ?? 'first'} job={job} last={last} />;
}

function Bench({ job, last }: { job: JobDetail; last: BalanceView | undefined }) {
  const mass = job.nameplateTyped['speedRpm'];
  const start: Typed = last?.typed ?? { method: 'add', ...(mass ? { serviceSpeed: mass } : {}) };
  const form = useTypedForm({ key: `balance:${job.number}`, specs: BALANCE_FIELDS, start });
  const limits = useSettings()?.limits;
  const [record, { isLoading, error }] = useRecordBalanceMutation();
  const [tried, setTried] = useState(false);
  const [piece, setPiece] = useState('');
  const mayRecord = useMay('winder') && !job.closedAt;
  const time = useTime();
  const missing = BALANCE_FIELDS.filter((f) => f.required && !form.typed[f.name]);
  const result = useMemo((): Result | string => {
    if (missing.length > 0) return `Still needed: ${missing.map((m) => m.label).join(', ')}.`;
    try {
      return runCalculation(balanceOnePlane, balanceInput(form.reading.values, limits ?? {}));
    } catch (e) {
      return e instanceof CalculationInputError ? e.message : 'These readings cannot be worked out.';
    }
    // missing follows from what was typed
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [form.reading.values, limits]);
  return (
    <div className="grid grid-cols-1 lg:grid-cols-[minmax(0,1.1fr)_minmax(400px,1fr)] gap-6">
      <form
        onKeyDown={enterMovesOn}
        onSubmit={(e) => {
          e.preventDefault();
          setTried(true);
          if (missing.length === 0 && form.reading.problems.length === 0)
            void record({
              number: job.number,
              typed: form.typed,
              ...(piece.trim() === '' ? {} : { unit: Number(piece) }),
            }).then((r) => ('data' in r ? form.recorded(form.typed) : undefined));
        }}
      >
        <p className="text-small font-semibold mb-1">
          Caution: guard on, trial mass fixed for its own force, stop before changing masses. Local codes and licensed
          practice decide.
        </p>
        <fieldset disabled={!mayRecord}>
          <label className="block mb-2 text-small">
            <span className="font-semibold">Read a run set from a file</span>{' '}
            <span className="text-soft">(lines of field;value)</span>
            <input
              type="file"
              accept=".csv,.txt"
              className="block"
              onChange={(e) => {
                void e.target.files?.[0]?.text().then((text) => {
                  for (const line of text.split(/\r?\n/)) {
                    const [name, value] = line.split(';');
                    if (name && value !== undefined && BALANCE_FIELDS.some((f) => f.name === name.trim()))
                      form.set(name.trim(), value.trim());
                  }
                });
              }}
            />
          </label>
          {SECTIONS.map((s) => (
            <section key={s.title} className="mb-2">
              <h2 className="font-semibold border-b border-line mb-1.5">{s.title}</h2>
              <div className="grid grid-cols-2 md:grid-cols-4 gap-x-3">
                {s.fields.map((name) => (
                  <Field key={name} form={form} spec={spec(name)} bench />
                ))}
              </div>
            </section>
          ))}
          <PieceField job={job} piece={piece} onPiece={setPiece} />
        </fieldset>
        {tried && missing.length > 0 ? (
          <ProblemNote>Still needed: {missing.map((m) => m.label).join(', ')}.</ProblemNote>
        ) : null}
        <ProblemNote error={error} />
        <div className="flex gap-3 items-center">
          <Button
            look="main"
            bench
            type="submit"
            disabled={!mayRecord || isLoading || (!form.changed && last !== undefined)}
          >
            Record this run
          </Button>
          <DraftNote form={form} />
        </div>
      </form>
      <div className="space-y-2 sticky top-2 self-start">
        {typeof result === 'string' ? <Quiet>{result}</Quiet> : <Outcome result={result} />}
        {job.balances.length > 0 ? (
          <section>
            <h2 className="font-semibold border-b border-line">Recorded runs</h2>
            <ul className="text-small space-y-1">
              {job.balances.map((b) => (
                <li key={b.id}>
                  <VerdictMark verdict={b.verdict} /> {b.reason}{' '}
                  <span className="text-soft">
                    {b.person}, {time(b.at)}
                  </span>
                  <ShowWorking number={job.number} id={b.id} result={b.result} />
                </li>
              ))}
            </ul>
          </section>
        ) : null}
      </div>
    </div>
  );
}

function Outcome({ result }: { result: Result }) {
  const v = result.values;
  const vectors: PolarVector[] = [
    ...v.placed.map((p): PolarVector => ({
      label: `${formatNumber(p.massG, 3)} g`,
      size: p.unbalanceGMm,
      angleDeg: p.angleDeg,
      role: 'accent',
    })),
    ...(v.residualGMm !== undefined && v.residualAngleDeg !== undefined
      ? [
          {
            label: 'residual',
            size: v.residualGMm,
            angleDeg: v.residualAngleDeg,
            role: v.verdict === 'pass' ? ('good' as const) : ('bad' as const),
          },
        ]
      : []),
  ];
  return (
    <>
      <p>
        <VerdictMark verdict={v.verdict} size="large" />
      </p>
      <p>{v.reason}</p>
      {v.correction ? (
        <p className="text-title">
          <strong>{v.correction.method === 'add' ? 'Add' : 'Remove'}</strong>{' '}
          {v.placed.map((p) => `${formatNumber(p.massG, 3)} g at ${formatNumber(p.angleDeg, 4)}°`).join(' and ')}
          <span className="text-body text-soft">
            {' '}
            ({formatQuantity(v.correction.unbalanceGMm, 'unbalance', 'g·mm', 4)} at{' '}
            {formatNumber(v.correction.angleDeg, 4)}°)
          </span>
        </p>
      ) : null}
      <DrawingView
        drawing={polarPlot({
          title: 'Correction and residual',
          vectors,
          unit: 'g·mm; angles from the mark, all in one sense',
          limit: v.permissibleGMm,
        })}
        className="max-w-[440px]"
      />
      {result.working.length > 0 ? (
        <details>
          <summary className="text-small text-accent cursor-pointer py-1.5">Show the working</summary>
          <WorkingTable steps={result.working} />
        </details>
      ) : null}
    </>
  );
}
