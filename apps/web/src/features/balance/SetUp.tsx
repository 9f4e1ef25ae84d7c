import {
  balanceFieldHasUse,
  BALANCE_SECTIONS,
  BALANCE_SET_UP_FIELDS,
  balanceSetUpOf,
  formatNumber,
  guideOf,
  judgeSetUp,
  sayUnbalance,
  storedMisfit,
  toleranceOf,
  UNBALANCE_UNITS,
  USUAL_GRADE,
  type RotorKind,
} from '@norther/core';
import type { BalanceSessionView, JobDetail } from '@norther/contracts';
import { useMemo, useState } from 'react';
import { useBeginBalanceMutation, useRetireFamilyMutation, useRotorFamiliesQuery } from '../../app/api/balance.ts';
import { useMay, useSettings } from '../../app/shop.ts';
import { Button } from '../../ui/Button.tsx';
import { DraftNote, enterMovesOn, Field, PlainField, PlainSelect } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';
import { type Typed, useTypedForm } from '../../ui/useTypedForm.ts';
import { VerdictMark } from '../../ui/Verdict.tsx';
import { PieceField } from '../motor/PieceField.tsx';
import { RotorDrawing } from './RotorDrawing.tsx';

/** What is balanced of each part. */
const KIND_OF: Readonly<Record<string, RotorKind>> = {
  'wound-rotor': 'wound rotor',
  armature: 'armature',
  'magnet-rotor': 'magnet rotor',
};

/** The set-up sheet of a rotor, drawn and reckoned as it is typed. */
export function SetUp({
  job,
  last,
  onBegun,
}: {
  job: JobDetail;
  last: BalanceSessionView | undefined;
  onBegun: (id: string) => void;
}) {
  const start = useMemo((): Typed => {
    if (last) return last.typed;
    const speed = job.nameplateTyped['speedRpm'];
    return {
      kind: KIND_OF[job.parts.find((p) => p.kind in KIND_OF)?.kind ?? ''] ?? 'cage rotor',
      grade: '2.5',
      ...(speed ? { service: speed } : {}),
      way1: 'add',
      way2: 'add',
      readings: 'vibration',
      phase: 'lead',
      driveEnd: 'A',
      view: 'drive end',
      unbalanceUnit: 'g·mm',
      key: 'half',
    };
  }, [job, last]);
  const form = useTypedForm({ key: `balance:${job.number}:set-up`, specs: BALANCE_SET_UP_FIELDS, start });
  const limits = useSettings()?.limits;
  const { data: families } = useRotorFamiliesQuery();
  const [family, setFamily] = useState('');
  const [piece, setPiece] = useState('');
  const kept = families?.find((f) => f.id === family);
  const takeFamily = (id: string): void => {
    setFamily(id);
    const of = families?.find((f) => f.id === id);
    for (const [name, value] of Object.entries(of?.typed ?? {})) form.set(name, value);
  };
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
  const say = (gMm: number, digits = 4): string => sayUnbalance(gMm, setUp?.unbalanceUnit ?? 'g·mm', digits);
  const tolerance = setUp && toleranceOf(setUp);
  const guide = setUp && guideOf(setUp);
  const misfit =
    kept?.influence && setUp
      ? (storedMisfit(
          { setUp: kept.setUp, stand: kept.typed['stand'] ?? '' },
          { setUp, stand: form.typed['stand'] ?? '' },
        ) ?? '')
      : undefined;
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
          void begin({
            number: job.number,
            typed: form.typed,
            ...(kept ? { family: kept.id } : {}),
            ...(piece.trim() === '' ? {} : { unit: Number(piece) }),
          }).then((r) => {
            if (!r.data) return;
            form.recorded(form.typed);
            onBegun(r.data.id);
          });
        }}
      >
        <div className="flex flex-wrap gap-3 items-end mb-2">
          {families && families.length > 0 ? (
            <PlainSelect
              label="As a rotor family"
              value={family}
              onChange={(e) => takeFamily(e.target.value)}
              options={[
                { value: '', label: 'none: typed below' },
                ...families.map((f) => ({
                  value: f.id,
                  label: `${f.name} (${f.fromJob}${f.influence ? ', with influence set' : ''})`,
                })),
              ]}
            />
          ) : null}
          <PieceField job={job} piece={piece} onPiece={setPiece} />
          {kept ? <Retire id={kept.id} name={kept.name} onDone={() => setFamily('')} /> : null}
        </div>
        {misfit === undefined ? null : (
          <p className="text-small mb-2" role="status">
            {misfit === ''
              ? 'Its influence set is tried: one trial in either plane has to agree with it.'
              : `Its influence set is not used: ${misfit}.`}
          </p>
        )}
        {BALANCE_SECTIONS.map((s) => (
          <section key={s.title} className="mb-2">
            <h2 className="font-semibold border-b border-line mb-1.5">{s.title}</h2>
            <div className="grid grid-cols-2 md:grid-cols-4 gap-x-3">
              {s.fields
                .filter((f) => balanceFieldHasUse(f.name, form.typed))
                .map((f) => (
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
                {say(tolerance.permissibleGMm)} ({formatNumber(tolerance.permissibleGMm / setUp.massKg, 3)} µm)
                {tolerance.countsGMm < tolerance.permissibleGMm ? `; ${say(tolerance.countsGMm)} counts` : ''}
                <span className="block text-small text-soft">
                  {UNBALANCE_UNITS.filter(
                    (u) => ['g·mm', 'g·in', 'oz·in', 'kg·mm'].includes(u) && u !== setUp.unbalanceUnit,
                  )
                    .map((u) => sayUnbalance(tolerance.countsGMm, u))
                    .join(' = ')}
                </span>
              </dd>
              <dt className="text-soft">Bearing A, bearing B</dt>
              <dd>
                {tolerance.sharesGMm.map((x) => say(x)).join(' and ')}
                {tolerance.clamped ? ', held within the bounds' : ''}
              </dd>
              {guide.trials.map((t, i) => (
                <div key={i} className="contents">
                  <dt className="text-soft">Trial in plane {i + 1}</dt>
                  <dd>
                    {formatNumber(t.massG, 3)} g at {formatNumber(setUp.planes[i]?.radiusMm ?? 0, 4)} mm (
                    {say(t.gMm, 3)}, pulls {formatNumber(t.forceN, 2)} N; by force {say(t.byForceGMm, 3)}, by tolerance{' '}
                    {say(t.byToleranceGMm[0], 3)} to {say(t.byToleranceGMm[1], 3)})
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
                      : `: forgotten, it shifts the rotor by ${say(guide.halfKeyGMm, 3)}`}
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

/** A family that is not offered any more. */
function Retire({ id, name, onDone }: { id: string; name: string; onDone: () => void }) {
  const may = useMay('foreman');
  const [retire, { error, isLoading }] = useRetireFamilyMutation();
  const [open, setOpen] = useState(false);
  const [why, setWhy] = useState('');
  if (!may) return null;
  return (
    <div className="flex flex-wrap gap-2 items-end">
      <Button look="quiet" onClick={() => setOpen(!open)}>
        Retire this family
      </Button>
      {open ? (
        <>
          <PlainField
            label={`Why ${name} is not offered any more`}
            value={why}
            onChange={(e) => setWhy(e.target.value)}
          />
          <Button
            disabled={isLoading || why.trim().length < 3}
            onClick={() => void retire({ id, reason: why.trim() }).then((r) => (r.data ? onDone() : undefined))}
          >
            Retire it
          </Button>
        </>
      ) : null}
      <ProblemNote error={error} />
    </div>
  );
}
