import { compassRing, connectionOfRecord, type Phase } from '@norther/core';
import { type JobDetail, windingOfPart } from '@norther/contracts';
import { useMemo, useState } from 'react';
import { useMarks } from '../../app/shop.ts';
import { DrawingView, Highlights } from '../../drawing/DrawingView.tsx';
import { Segmented } from '../../ui/Segmented.tsx';

const FIELD: Readonly<Record<Phase, string>> = { A: 'centresU', B: 'centresV', C: 'centresW' };
type Poles = ReadonlyMap<number, 'N' | 'S'>;

/** The compass round the bore by touch: what is read at each group of the phase that is fed; a whole phase goes into its field. */
export function CompassRing({
  job,
  typed,
  wrong,
  onFill,
}: {
  job: JobDetail;
  typed: Readonly<Record<string, string>>;
  /** groups that do not fit, as the verdict names them */
  wrong: readonly number[];
  onFill: (field: string, text: string) => void;
}) {
  const { letters } = useMarks();
  const [phase, setPhase] = useState<Phase>('A');
  /** phases that are not whole yet */
  const [begun, setBegun] = useState<Partial<Record<Phase, Poles>>>({});
  const { layout } = useMemo(() => connectionOfRecord(windingOfPart(job, 'stator').record), [job]);
  const groups = useMemo(
    () => (layout?.groups ?? []).filter((g) => g.phase === phase).map((g) => g.number),
    [layout, phase],
  );
  const text = typed[FIELD[phase]] ?? '';
  const marks = useMemo((): Poles => {
    const words = text.split(/[\s,;]+/).filter((w) => w !== '');
    return words.length === groups.length
      ? new Map(groups.flatMap((g, i) => (words[i] === 'N' || words[i] === 'S' ? [[g, words[i]] as const] : [])))
      : (begun[phase] ?? new Map());
  }, [text, groups, begun, phase]);
  const drawing = useMemo(
    () => (layout ? compassRing(layout, phase, marks, { wrong, size: 460, letters }) : undefined),
    [layout, phase, marks, wrong, letters],
  );
  if (!layout || !drawing || layout.kind === 'single-phase') return null;
  const touch = (of: readonly string[]): void => {
    const group = Number(of.find((o) => o.startsWith('group:'))?.slice('group:'.length));
    if (!groups.includes(group)) return;
    const next = new Map(marks);
    // nothing, north, south, nothing again
    if (!next.has(group)) next.set(group, 'N');
    else if (next.get(group) === 'N') next.set(group, 'S');
    else next.delete(group);
    setBegun({ ...begun, [phase]: next });
    const whole = groups.every((g) => next.has(g));
    onFill(FIELD[phase], whole ? groups.map((g) => next.get(g)).join(', ') : '');
  };
  return (
    <section aria-label="Compass round the bore" className="space-y-1 my-2">
      <div className="flex flex-wrap gap-3 items-center">
        <Segmented
          label="Phase that is fed"
          options={layout.phases.map((p, i) => [p, letters[i] ?? p] as const)}
          value={phase}
          onChange={setPhase}
        />
        <p className="text-small text-soft">
          Touch each group where the compass stands: N, S, none. {marks.size} of {groups.length} read.
        </p>
      </div>
      <Highlights>
        <div className="max-w-[29rem]">
          <DrawingView drawing={drawing} onTouch={touch} />
        </div>
      </Highlights>
    </section>
  );
}
