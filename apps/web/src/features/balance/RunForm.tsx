import {
  forceN,
  formatNumber,
  guideOf,
  parseNumber,
  standCsv,
  type BalanceEntry,
  type BalanceSetUp,
} from '@norther/core';
import { useState } from 'react';
import { Button } from '../../ui/Button.tsx';
import { PlainField, PlainSelect } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';

/** What is sent: the row, and the run of a stand that it is read from. */
export type Send = (entry: BalanceEntry, more?: { trace?: string }) => Promise<boolean>;
export const round = (x: number, digits: number): string => String(Number(x.toFixed(digits)));
/** Names of what a stand shows. */
export const readingNames = (setUp: BalanceSetUp): string[] =>
  setUp.readings === 'unbalance per plane' ? setUp.planes.map((_, i) => `Plane ${i + 1}`) : ['Bearing A', 'Bearing B'];
/** A trial as it is typed. */
export interface TrialTyped {
  plane: number;
  gMm: number;
  angleDeg: number;
}
type Reading = Extract<BalanceEntry, { kind: 'run' | 'trial' }>;

/** What the stand shows of one run; with a trial mass where one is in. Typed, from a file, or taken from a stand. */
export function RunForm({
  setUp,
  unit = '',
  trial,
  repeat,
  busy,
  onSend,
  start,
  children,
}: {
  setUp: BalanceSetUp;
  unit?: string;
  trial: number | undefined;
  repeat: boolean;
  busy: boolean;
  onSend: Send;
  /** a row that is put right */
  start?: Reading;
  /** runs of a stand: gives how one is taken, with the trial mass as it is typed */
  children?: (take: (trace: string) => void, trialNow: () => TrialTyped | undefined) => React.ReactNode;
}) {
  const direct = setUp.readings === 'unbalance per plane';
  const names = readingNames(setUp);
  const radius = trial === undefined ? 1 : (setUp.planes[trial - 1]?.radiusMm ?? 1);
  const guide = trial === undefined ? undefined : guideOf(setUp).trials[trial - 1];
  const [typed, setTyped] = useState<Record<string, string>>(() =>
    start ? typedOf(start, radius) : guide ? { mass: round(guide.massG, 2), at: '0' } : {},
  );
  const [stays, setStays] = useState(start?.kind === 'trial' && start.staysIn ? 'yes' : 'no');
  const [wrong, setWrong] = useState('');
  const put = (name: string) => (e: React.ChangeEvent<HTMLInputElement>) =>
    setTyped({ ...typed, [name]: e.target.value });
  const n = (name: string): number | undefined => parseNumber(typed[name] ?? '');
  const trialNow = (): TrialTyped | undefined => {
    const [mass, at] = [n('mass'), n('at')];
    return trial !== undefined && mass !== undefined && mass > 0 && at !== undefined
      ? { plane: trial, gMm: mass * radius, angleDeg: at }
      : undefined;
  };
  const is = trialNow();
  const pulls = is ? forceN(is.gMm, setUp.balancingRpm) : undefined;
  const put1 = async (readings: { size: number; angleDeg: number }[], rpm: number | undefined, trace?: string) => {
    const more = rpm === undefined ? {} : { rpm };
    const sent = trace === undefined ? {} : { trace };
    if (trial === undefined) {
      setWrong('');
      return void (await onSend({ kind: 'run', readings, repeat, ...more }, sent));
    }
    const is = trialNow();
    if (!is) return setWrong(`The ${direct ? 'known' : 'trial'} mass wants grams and an angle.`);
    setWrong('');
    await onSend({ kind: 'trial', ...is, readings, staysIn: stays === 'yes', ...more }, sent);
  };
  const submit = async (): Promise<void> => {
    const readings = names.map((_, i) => ({ size: n(`size${i}`), angleDeg: n(`angle${i}`) }));
    const bad = names.find(
      (_, i) => !(readings[i]?.size !== undefined && readings[i].size >= 0) || readings[i]?.angleDeg === undefined,
    );
    if (bad !== undefined) return setWrong(`${bad}: amplitude and angle are numbers, for example 4.2 and 135.`);
    const rpm = typed['rpm'] ? n('rpm') : undefined;
    if (typed['rpm'] && !(rpm !== undefined && rpm > 0)) return setWrong('Speed is a number of r/min.');
    await put1(readings as { size: number; angleDeg: number }[], rpm);
  };
  const readFile = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    const run = standCsv(await file.text(), setUp, unit);
    if ('wrong' in run) return setWrong(run.wrong);
    setWrong('');
    setTyped({
      ...typed,
      ...Object.fromEntries(
        run.readings.flatMap((r, i) => [
          [`size${i}`, String(Number(r.size.toPrecision(6)))],
          [`angle${i}`, round(r.angleDeg, 2)],
        ]),
      ),
      ...(run.rpm === undefined ? {} : { rpm: round(run.rpm, 1) }),
    });
  };
  return (
    <form
      aria-label={start ? 'Put right' : 'Reading'}
      className="border border-line bg-sheet p-3 space-y-2 max-w-3xl"
      onSubmit={(e) => {
        e.preventDefault();
        void submit();
      }}
    >
      {trial !== undefined ? (
        <div className="grid grid-cols-3 gap-3">
          <PlainField
            label={direct ? 'Known mass, g' : 'Trial mass, g'}
            inputMode="decimal"
            value={typed['mass'] ?? ''}
            onChange={put('mass')}
            hint={`at radius ${round(radius, 1)} mm${pulls === undefined ? '' : `; pulls ${formatNumber(pulls, 2)} N at ${round(setUp.balancingRpm, 0)} r/min`}`}
          />
          <PlainField
            label={direct ? 'Known mass at, °' : 'Trial mass at, °'}
            inputMode="decimal"
            value={typed['at'] ?? ''}
            onChange={put('at')}
          />
          {direct ? null : (
            <PlainSelect
              label="Afterwards"
              value={stays}
              onChange={(e) => setStays(e.target.value)}
              options={[
                { value: 'no', label: 'it comes out' },
                { value: 'yes', label: 'it stays in' },
              ]}
            />
          )}
        </div>
      ) : null}
      {children?.(
        (trace) =>
          void put1(
            names.map(() => ({ size: 0, angleDeg: 0 })),
            undefined,
            trace,
          ),
        trialNow,
      )}
      <div className="grid grid-cols-2 md:grid-cols-5 gap-3">
        {names.map((name, i) => (
          <div key={name} className="contents">
            <PlainField
              label={`${name}, ${direct ? setUp.unbalanceUnit : 'amplitude'}`}
              inputMode="decimal"
              value={typed[`size${i}`] ?? ''}
              onChange={put(`size${i}`)}
            />
            <PlainField
              label={`${name}, °`}
              inputMode="decimal"
              value={typed[`angle${i}`] ?? ''}
              onChange={put(`angle${i}`)}
            />
          </div>
        ))}
        <PlainField
          label="At r/min"
          inputMode="decimal"
          value={typed['rpm'] ?? ''}
          onChange={put('rpm')}
          hint={`meant: ${round(setUp.balancingRpm, 0)}`}
        />
      </div>
      {wrong ? <ProblemNote>{wrong}</ProblemNote> : null}
      <div className="flex flex-wrap gap-3 items-center">
        <Button look="main" bench type="submit" disabled={busy}>
          {start ? 'This is right' : 'Enter this run'}
        </Button>
        <label className="text-small">
          <span className="text-soft">or from a file (A;A phase;B;B phase;speed) </span>
          <input
            type="file"
            accept=".csv,.txt"
            aria-label="Run from a file"
            onChange={(e) => void readFile(e.target.files?.[0])}
          />
        </label>
      </div>
    </form>
  );
}

const typedOf = (e: Reading, radius: number): Record<string, string> => ({
  ...Object.fromEntries(
    e.readings.flatMap((r, i) => [
      [`size${i}`, String(r.size)],
      [`angle${i}`, String(r.angleDeg)],
    ]),
  ),
  ...(e.rpm === undefined ? {} : { rpm: String(e.rpm) }),
  ...(e.kind === 'trial' ? { mass: round(e.gMm / radius, 3), at: String(e.angleDeg) } : {}),
});
