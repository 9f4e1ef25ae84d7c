import { massOfDepth, parseNumber, type BalanceSetUp, type FixedMass, type PlaneStep } from '@norther/core';
import { useState } from 'react';
import { Button } from '../../ui/Button.tsx';
import { PlainField, PlainSelect } from '../../ui/Field.tsx';
import { ProblemNote } from '../../ui/Problem.tsx';
import { round, type Send } from './RunForm.tsx';

interface Row {
  plane: number;
  /** grams fixed, or millimetres deep */
  size: string;
  at: string;
  place: string;
  /** an old mass that comes out */
  out?: true;
}
const rowsOf = (next: readonly PlaneStep[], setUp: BalanceSetUp): Row[] =>
  next.flatMap((n) =>
    n.masses.map((m) => ({
      plane: n.plane,
      size:
        setUp.planes[n.plane - 1]?.way === 'add'
          ? round(m.massG, 2)
          : m.depthMm === undefined
            ? ''
            : round(m.depthMm, 3),
      at: round(m.angleDeg, 1),
      place: m.place === undefined ? '' : String(m.place),
    })),
  );

/** What was fixed or taken away: as it was said, or as it is. */
export function CorrectionForm({
  setUp,
  next,
  there = [],
  merged,
  busy,
  onSend,
}: {
  setUp: BalanceSetUp;
  next: readonly PlaneStep[];
  /** masses that sit in each plane already */
  there?: readonly (readonly FixedMass[])[];
  /** the old masses taken out and fixed afresh */
  merged?: { next: PlaneStep[]; out: FixedMass[] } | undefined;
  busy: boolean;
  onSend: Send;
}) {
  const [rows, setRows] = useState<Row[]>(() => rowsOf(next, setUp));
  const [wrong, setWrong] = useState('');
  const put = (i: number, part: Partial<Row>) => setRows(rows.map((r, k) => (k === i ? { ...r, ...part } : r)));
  const send = async (): Promise<void> => {
    const masses = rows.map((r) => {
      const p = setUp.planes[r.plane - 1];
      const size = parseNumber(r.size);
      const place = r.place.trim() === '' ? undefined : Number(r.place);
      const at =
        place !== undefined && p && p.places > 0 ? p.firstDeg + (360 * (place - 1)) / p.places : parseNumber(r.at);
      return { p, size, at, place, plane: r.plane, out: r.out };
    });
    const bad = masses.findIndex((m) => !(m.size !== undefined && m.size > 0) || m.at === undefined || !m.p);
    if (bad >= 0)
      return setWrong(
        `Row ${bad + 1}: ${masses[bad]?.p?.way === 'add' ? 'grams' : 'millimetres'} above zero, and a place or an angle.`,
      );
    setWrong('');
    await onSend({
      kind: 'correction',
      masses: masses.map((m) => {
        const p = m.p;
        const radiusMm = p?.radiusMm ?? 1;
        const size = m.size ?? 0;
        const massG =
          p?.way === 'add' || !p ? (m.out ? -1 : 1) * size : massOfDepth(p, size, m.at ?? 0, there[m.plane - 1] ?? []);
        return {
          plane: m.plane,
          angleDeg: m.at ?? 0,
          massG,
          radiusMm,
          how: p?.way === 'add' ? (m.out ? 'taken out' : 'add') : `${p?.way ?? ''}, ${round(size, 3)} mm deep`,
          ...(m.place === undefined ? {} : { place: m.place }),
        };
      }),
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
        const adds = p?.way === 'add';
        return (
          <div key={i} className="grid grid-cols-2 md:grid-cols-[6.5rem_1fr_1fr_1fr_auto] gap-3 items-end">
            <PlainSelect
              label={`${i + 1}: plane`}
              value={String(r.plane)}
              onChange={(e) => put(i, { plane: Number(e.target.value) })}
              options={setUp.planes.map((_, k) => ({ value: String(k + 1), label: `plane ${k + 1}` }))}
            />
            <PlainField
              label={`${i + 1}: ${adds ? (r.out ? 'taken out, g' : 'fixed, g') : 'deep, mm'}`}
              inputMode="decimal"
              value={r.size}
              onChange={(e) => put(i, { size: e.target.value })}
            />
            <PlainField
              label={`${i + 1}: ${p?.called ?? 'place'}`}
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
      <div className="flex flex-wrap gap-3">
        <Button onClick={() => setRows([...rows, { plane: 1, size: '', at: '', place: '' }])}>
          {setUp.planes[0]?.way === 'add' ? 'Another mass' : 'Another place'}
        </Button>
        {merged ? (
          <Button
            onClick={() =>
              setRows([
                ...merged.out.map((m) => ({
                  plane: m.plane,
                  size: round(m.massG, 3),
                  at: round(m.angleDeg, 1),
                  place: m.place === undefined ? '' : String(m.place),
                  out: true as const,
                })),
                ...rowsOf(merged.next, setUp),
              ])
            }
          >
            Old masses out, fix afresh
          </Button>
        ) : null}
        <Button look="main" bench type="submit" disabled={busy || rows.length === 0}>
          It is done
        </Button>
      </div>
      {wrong ? <ProblemNote>{wrong}</ProblemNote> : null}
    </form>
  );
}
