import {
  BALANCE_SECTIONS,
  BALANCE_SET_UP_FIELDS,
  balanceSetUpOf,
  formatNumber,
  guideOf,
  judgeSetUp,
  toleranceOf,
  USUAL_GRADE,
  type RotorKind,
} from '@norther/core';
import type { BalanceSessionView, JobDetail } from '@norther/contracts';
import { useMemo, useState } from 'react';
import { useBeginBalanceMutation } from '../../app/api/balance.ts';
import { useSettings } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { DraftNote, enterMovesOn, Field } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';
import { type Typed, useTypedForm } from '../../ui/useTypedForm.ts';
import { VerdictMark } from '../../ui/Verdict.tsx';
import { RotorDrawing } from './RotorDrawing.tsx';

/** The set-up sheet of a rotor, drawn and reckoned as it is typed. */
export function SetUp({ job, last }: { job: JobDetail; last: BalanceSessionView | undefined }) {
  const start = useMemo((): Typed => {
    if (last) return last.typed;
    const speed = job.nameplateTyped['speedRpm'];
    return {
      kind: job.parts.some((p) => p.kind === 'wound-rotor') ? 'wound rotor' : 'cage rotor',
      grade: '2.5',
      ...(speed ? { service: speed } : {}),
      way1: 'add',
      way2: 'add',
      readings: 'vibration',
      phase: 'lead',
      key: 'half',
    };
  }, [job, last]);
  const form = useTypedForm({ key: `balance:${job.number}:set-up`, specs: BALANCE_SET_UP_FIELDS, start });
  const limits = useSettings()?.limits;
  const [begin, { error, isLoading }] = useBeginBalanceMutation();
  const [tried, setTried] = useState(false);
  const missing = BALANCE_SET_UP_FIELDS.filter((f) => f.required && !form.typed[f.name]);
  const made = useMemo(
    () => (missing.length > 0 || form.reading.problems.length > 0 ? undefined : balanceSetUpOf(form.reading.values)),
    // missing follows from what was typed
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [form.reading],
  );
  const setUp = made && 'setUp' in made ? made.setUp : undefined;
  const standing = setUp ? judgeSetUp(setUp, limits ?? {}) : [];
  const tolerance = setUp && toleranceOf(setUp);
  const guide = setUp && guideOf(setUp);
  const usual = USUAL_GRADE[form.typed['kind'] as RotorKind];
  return (
    <div className="grid grid-cols-1 lg:grid-cols-[minmax(0,1.35fr)_minmax(360px,1fr)] gap-6">
      <form
        aria-label="Set-up sheet"
        onKeyDown={enterMovesOn}
        onSubmit={(e) => {
          e.preventDefault();
          setTried(true);
          if (!setUp) return;
          void begin({ number: job.number, typed: form.typed }).then((r) =>
            r.data ? form.recorded(form.typed) : undefined,
          );
        }}
      >
        {BALANCE_SECTIONS.map((s) => (
          <section key={s.title} className="mb-2">
            <h2 className="font-semibold border-b border-line mb-1.5">{s.title}</h2>
            <div className="grid grid-cols-2 md:grid-cols-4 gap-x-3">
              {s.fields.map((f) => (
                <Field
                  key={f.name}
                  form={form}
                  spec={f}
                  bench
                  extra={f.name === 'grade' && usual ? `usually ${usual.grade}: ${usual.why}` : undefined}
                />
              ))}
            </div>
          </section>
        ))}
        {made && 'message' in made ? <ProblemNote>{made.message}</ProblemNote> : null}
        {tried && missing.length > 0 ? (
          <ProblemNote>Still needed: {missing.map((m) => m.label).join(', ')}.</ProblemNote>
        ) : null}
        <ProblemNote error={error} />
        <div className="flex gap-3 items-center">
          <Button look="main" bench type="submit" disabled={isLoading}>
            On the stand: begin
          </Button>
          <DraftNote form={form} />
        </div>
      </form>
      <div className="space-y-3 sticky top-2 self-start">
        {setUp && tolerance && guide ? (
          <>
            <RotorDrawing setUp={setUp} />
            <dl className="grid grid-cols-[auto_1fr] gap-x-3">
              <dt className="text-soft">Allowed, whole rotor</dt>
              <dd>
                {formatNumber(tolerance.permissibleGMm, 4)} g·mm (
                {formatNumber(tolerance.permissibleGMm / setUp.massKg, 3)} µm)
                {tolerance.countsGMm < tolerance.permissibleGMm
                  ? `; ${formatNumber(tolerance.countsGMm, 4)} g·mm counts`
                  : ''}
              </dd>
              <dt className="text-soft">Bearing A, bearing B</dt>
              <dd>
                {tolerance.sharesGMm.map((x) => formatNumber(x, 4)).join(' and ')} g·mm
                {tolerance.clamped ? ', held within the bounds' : ''}
              </dd>
              {guide.trials.map((t, i) => (
                <div key={i} className="contents">
                  <dt className="text-soft">Trial in plane {i + 1}</dt>
                  <dd>
                    {formatNumber(t.massG, 3)} g at {formatNumber(setUp.planes[i]?.radiusMm ?? 0, 4)} mm (
                    {formatNumber(t.gMm, 3)} g·mm, pulls {formatNumber(t.forceN, 2)} N)
                  </dd>
                </div>
              ))}
              {guide.halfKeyG !== undefined ? (
                <>
                  <dt className="text-soft">Half key</dt>
                  <dd>
                    {formatNumber(guide.halfKeyG, 3)} g
                    {guide.halfKeyGMm === undefined
                      ? ''
                      : `: forgotten, it shifts the rotor by ${formatNumber(guide.halfKeyGMm, 3)} g·mm`}
                  </dd>
                </>
              ) : null}
            </dl>
            {standing.map((j) => (
              <p key={j.reason} role="status">
                <VerdictMark verdict={j.verdict} /> {j.reason}
              </p>
            ))}
          </>
        ) : (
          <p className="text-soft">The rotor is drawn when its bearings, planes and radii are typed.</p>
        )}
      </div>
    </div>
  );
}
