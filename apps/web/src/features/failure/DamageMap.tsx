import {
  burntDeveloped,
  burntRing,
  DAMAGES,
  developedPlace,
  readMarks,
  sayMarks,
  WORST_AT,
  type CoilMark,
  type Layout,
  type PhotographPin,
} from '@norther/core';
import { useMemo, useState } from 'react';
import { useMarks } from '../../app/shop.ts';
import { DrawingView, Highlights } from '../../drawing/DrawingView.tsx';
import { PlainSelect } from '../../ui/Field.tsx';
import { Segmented } from '../../ui/Segmented.tsx';

const BRUSHES = DAMAGES.map((d, i) => [String(i), i === 0 ? d : `${i} ${d}`] as const);
const VIEWS = [
  ['ring', 'Slot ring'],
  ['unrolled', 'Unrolled'],
] as const;

/** Width for which the unrolled winding is drawn; many slots make it wider, and it is then scrolled. */
const WIDE = 640;

/** Marks after one touch: the coils take what is chosen, or lose it when they all have it already. */
export function touched(
  marks: readonly CoilMark[],
  coils: readonly number[],
  brush: Omit<CoilMark, 'coil'>,
): CoilMark[] {
  const others = marks.filter((m) => !coils.includes(m.coil));
  const same = coils.every((c) =>
    marks.some((m) => m.coil === c && m.damage === brush.damage && m.worst === brush.worst),
  );
  return same || brush.damage === 0 ? others : [...others, ...coils.map((coil) => ({ coil, ...brush }))];
}

/** The old winding, touched where it is damaged: a coil or a whole group at a time, with how badly and where. */
export function DamageMap({
  layout,
  text,
  pins,
  onText,
  onPin,
}: {
  layout: Layout;
  text: string;
  pins: readonly PhotographPin[];
  onText: ((text: string) => void) | undefined;
  /** a place of the core was touched while a photograph is to be pinned */
  onPin: ((at: { slot: number; along: number }) => void) | undefined;
}) {
  const { letters } = useMarks();
  const [brush, setBrush] = useState('2');
  const [worst, setWorst] = useState('');
  const [view, setView] = useState<'ring' | 'unrolled'>('ring');
  const { marks } = useMemo(() => readMarks(text), [text]);
  const mayMark = onText !== undefined;
  const shown = onPin ? 'unrolled' : view;
  const drawing = useMemo(
    () =>
      shown === 'ring'
        ? burntRing(layout, marks, { size: 520, letters, touch: mayMark })
        : burntDeveloped(layout, marks, pins, { width: WIDE, letters }),
    [layout, marks, pins, shown, letters, mayMark],
  );
  const touch = (of: readonly string[], at: { x: number; y: number }): void => {
    if (onPin) return onPin(developedPlace(layout, at, WIDE));
    if (!onText) return;
    const numbered = (what: string): number[] =>
      of.flatMap((o) => (o.startsWith(`${what}:`) ? [Number(o.slice(what.length + 1))] : []));
    // an arc of a group names the group first
    const [group] = of[0]?.startsWith('group:') ? numbered('group') : [];
    const coils =
      group === undefined ? numbered('coil').slice(0, 1) : (layout.groups.find((g) => g.number === group)?.coils ?? []);
    if (coils.length === 0) return;
    const place = WORST_AT.find((w) => w === worst);
    onText(sayMarks(touched(marks, coils, { damage: Number(brush), ...(place ? { worst: place } : {}) })));
  };
  return (
    <section aria-label="Map of the old winding" className="space-y-2">
      {onText ? (
        <div className="flex flex-wrap gap-3 items-end">
          <Segmented label="How badly" options={BRUSHES} value={brush} onChange={setBrush} />
          <PlainSelect
            label="Worst where"
            value={worst}
            onChange={(e) => setWorst(e.target.value)}
            options={[{ value: '', label: '' }, ...WORST_AT.map((w) => ({ value: w, label: w }))]}
          />
        </div>
      ) : null}
      <div className="flex flex-wrap gap-3 items-center justify-between">
        <Segmented label="Drawing" options={VIEWS} value={shown} onChange={setView} />
        <p className="text-small text-soft">
          {onPin
            ? 'Touch the place that the photograph shows.'
            : onText
              ? 'Touch a coil side, or the arc of a group for all its coils; once more takes it back.'
              : ''}
        </p>
      </div>
      <Highlights>
        <div className={shown === 'ring' ? 'max-w-[34rem] mx-auto' : 'overflow-x-auto'}>
          <div style={shown === 'ring' ? undefined : { minWidth: drawing.width * 0.85 }}>
            <DrawingView drawing={drawing} onTouch={onText || onPin ? touch : undefined} />
          </div>
        </div>
      </Highlights>
    </section>
  );
}
