import { guideOf, parseNumber, type BalanceEntry, type BalanceSetUp, type PlaneStep } from '@norther/core';
import { useState } from 'react';
import { Button } from '../../ui/Button.tsx';
import { PlainField, PlainSelect } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';

type Send = (entry: BalanceEntry) => Promise<boolean>;
const round = (x: number, digits: number): string => String(Number(x.toFixed(digits)));

/** What the stand shows of one run; with a trial mass where one is in. */
export function RunForm({
  setUp,
  trial,
  repeat,
  busy,
  onSend,
}: {
  setUp: BalanceSetUp;
  trial: number | undefined;
  repeat: boolean;
  busy: boolean;
  onSend: Send;
}) {
  const direct = setUp.readings === 'unbalance per plane';
  const names = direct ? setUp.planes.map((_, i) => `Plane ${i + 1}`) : ['Bearing A', 'Bearing B'];
  const radius = trial === undefined ? 1 : (setUp.planes[trial - 1]?.radiusMm ?? 1);
  const guide = trial === undefined ? undefined : guideOf(setUp).trials[trial - 1];
  const [typed, setTyped] = useState<Record<string, string>>(guide ? { mass: round(guide.massG, 2), at: '0' } : {});
  const [stays, setStays] = useState('no');
  const [wrong, setWrong] = useState('');
  const put = (name: string) => (e: React.ChangeEvent<HTMLInputElement>) =>
    setTyped({ ...typed, [name]: e.target.value });
  const n = (name: string): number | undefined => parseNumber(typed[name] ?? '');
  const submit = async (): Promise<void> => {
    const readings = names.map((_, i) => ({ size: n(`size${i}`), angleDeg: n(`angle${i}`) }));
    const bad = names.find(
      (_, i) => !(readings[i]?.size !== undefined && readings[i].size >= 0) || readings[i]?.angleDeg === undefined,
    );
    if (bad !== undefined) return setWrong(`${bad}: amplitude and angle are numbers, for example 4.2 and 135.`);
    const rpm = typed['rpm'] ? n('rpm') : undefined;
    if (typed['rpm'] && !(rpm !== undefined && rpm > 0)) return setWrong('Speed is a number of r/min.');
    const of = readings as { size: number; angleDeg: number }[];
    const more = rpm === undefined ? {} : { rpm };
    if (trial === undefined) {
      setWrong('');
      return void (await onSend({ kind: 'run', readings: of, repeat, ...more }));
    }
    const [mass, at] = [n('mass'), n('at')];
    if (!(mass !== undefined && mass > 0) || at === undefined)
      return setWrong('The trial mass wants grams and an angle.');
    setWrong('');
    await onSend({
      kind: 'trial',
      plane: trial,
      gMm: mass * radius,
      angleDeg: at,
      readings: of,
      staysIn: stays === 'yes',
      ...more,
    });
  };
  return (
    <form
      aria-label="Reading"
      className="border border-line bg-sheet p-3 space-y-2 max-w-3xl"
      onSubmit={(e) => {
        e.preventDefault();
        void submit();
      }}
    >
      {trial !== undefined ? (
        <div className="grid grid-cols-3 gap-3">
          <PlainField
            label="Trial mass, g"
            inputMode="decimal"
            value={typed['mass'] ?? ''}
            onChange={put('mass')}
            hint={`at radius ${round(radius, 1)} mm`}
          />
          <PlainField label="Trial mass at, °" inputMode="decimal" value={typed['at'] ?? ''} onChange={put('at')} />
          <PlainSelect
            label="Afterwards"
            value={stays}
            onChange={(e) => setStays(e.target.value)}
            options={[
              { value: 'no', label: 'it comes out' },
              { value: 'yes', label: 'it stays in' },
            ]}
          />
        </div>
      ) : null}
      <div className="grid grid-cols-2 md:grid-cols-5 gap-3">
        {names.map((name, i) => (
          <div key={name} className="contents">
            <PlainField
              label={`${name}, ${direct ? 'g·mm' : 'amplitude'}`}
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
      <Button look="main" bench type="submit" disabled={busy}>
        Enter this run
      </Button>
    </form>
  );
}

interface Row {
  plane: number;
  mass: string;
  at: string;
  place: string;
}

/** What was fixed or taken away: as it was said, or as it is. */
export function CorrectionForm({
  setUp,
  next,
  busy,
  onSend,
}: {
  setUp: BalanceSetUp;
  next: readonly PlaneStep[];
  busy: boolean;
  onSend: Send;
}) {
  const [rows, setRows] = useState<Row[]>(() =>
    next.flatMap((n) =>
      n.masses.map((m) => ({
        plane: n.plane,
        mass: round(m.massG, 2),
        at: round(m.angleDeg, 1),
        place: m.place === undefined ? '' : String(m.place),
      })),
    ),
  );
  const [wrong, setWrong] = useState('');
  const put = (i: number, part: Partial<Row>) => setRows(rows.map((r, k) => (k === i ? { ...r, ...part } : r)));
  const send = async (): Promise<void> => {
    const masses = rows.map((r) => {
      const p = setUp.planes[r.plane - 1];
      const mass = parseNumber(r.mass);
      const place = r.place.trim() === '' ? undefined : Number(r.place);
      const at =
        place !== undefined && p && p.places > 0 ? p.firstDeg + (360 * (place - 1)) / p.places : parseNumber(r.at);
      return { p, mass, at, place, plane: r.plane };
    });
    const bad = masses.findIndex((m) => !(m.mass !== undefined && m.mass > 0) || m.at === undefined || !m.p);
    if (bad >= 0) return setWrong(`Row ${bad + 1}: grams above zero, and a place or an angle.`);
    setWrong('');
    await onSend({
      kind: 'correction',
      masses: masses.map((m) => ({
        plane: m.plane,
        angleDeg: m.at ?? 0,
        // taken away counts below zero
        massG: (m.p?.way === 'add' ? 1 : -1) * (m.mass ?? 0),
        radiusMm: m.p?.radiusMm ?? 1,
        how: m.p?.way ?? '',
        ...(m.place === undefined ? {} : { place: m.place }),
      })),
    });
  };
  return (
    <form
      aria-label="Correction"
      className="border border-line bg-sheet p-3 space-y-2 max-w-3xl"
      onSubmit={(e) => {
        e.preventDefault();
        void send();
      }}
    >
      <p className="text-small text-soft">
        As it was said; where a mass sits otherwise, enter it as it is. The next run is reckoned from there.
      </p>
      {rows.map((r, i) => {
        const p = setUp.planes[r.plane - 1];
        return (
          <div key={i} className="grid grid-cols-2 md:grid-cols-[6.5rem_1fr_1fr_1fr_auto] gap-3 items-end">
            <PlainSelect
              label={`${i + 1}: plane`}
              value={String(r.plane)}
              onChange={(e) => put(i, { plane: Number(e.target.value) })}
              options={setUp.planes.map((_, k) => ({ value: String(k + 1), label: `plane ${k + 1}` }))}
            />
            <PlainField
              label={`${i + 1}: ${p?.way === 'add' ? 'fixed' : 'taken away'}, g`}
              inputMode="decimal"
              value={r.mass}
              onChange={(e) => put(i, { mass: e.target.value })}
            />
            <PlainField
              label={`${i + 1}: place`}
              inputMode="numeric"
              disabled={(p?.places ?? 0) === 0}
              value={r.place}
              onChange={(e) => put(i, { place: e.target.value })}
            />
            <PlainField
              label={`${i + 1}: or at, °`}
              inputMode="decimal"
              disabled={r.place.trim() !== ''}
              value={r.at}
              onChange={(e) => put(i, { at: e.target.value })}
            />
            <Button look="quiet" onClick={() => setRows(rows.filter((_, k) => k !== i))}>
              Not done
            </Button>
          </div>
        );
      })}
      <div className="flex gap-3">
        <Button onClick={() => setRows([...rows, { plane: 1, mass: '', at: '', place: '' }])}>Another mass</Button>
        <Button look="main" bench type="submit" disabled={busy || rows.length === 0}>
          It is done
        </Button>
      </div>
      {wrong ? <ProblemNote>{wrong}</ProblemNote> : null}
    </form>
  );
}
