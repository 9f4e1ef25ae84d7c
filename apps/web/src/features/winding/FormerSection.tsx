import { formerDrawing, formerSheet, parseNumber, type Nameplate, type WindingRecord } from '@norther/core';
import { useMemo, useState } from 'react';
import { useReadingDefaults } from '../../app/shop.ts';
import { DrawingView } from '../../drawing/DrawingView.tsx';
import { PlainField } from '../../ui/Field.tsx';
import { Quiet } from '../../ui/Problem.tsx';
import { Titled } from './Titled.tsx';

/** The former's heads for the coils of a group, drawn to scale from the mean turn. */
export function FormerSection({ record, nameplate }: { record: WindingRecord; nameplate: Nameplate }) {
  const units = useReadingDefaults();
  const inch = units.lengthUnit === 'in';
  const [straight, setStraight] = useState('');
  const [build, setBuild] = useState('');
  const metres = (text: string): number | undefined => {
    const n = text.trim() === '' ? undefined : parseNumber(text);
    return n === undefined ? undefined : n * (inch ? 0.0254 : 0.001);
  };
  const bad = [straight, build].some((t) => t.trim() !== '' && !((parseNumber(t) ?? 0) > 0));
  const made = useMemo(() => {
    if (bad) return { why: 'Straight part and bundle: type a length above zero, or leave them blank.' };
    try {
      return { sheet: formerSheet(record, nameplate, { straightM: metres(straight), buildM: metres(build) }) };
    } catch (error) {
      return { why: error instanceof Error ? error.message.replace(/^[\w.]+: /, '') : '' };
    }
    // metres reads only the unit
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [record, nameplate, straight, build, bad, inch]);
  const drawings = useMemo(
    () => made.sheet?.heads.map((h) => formerDrawing(h, { unit: units.lengthUnit })) ?? [],
    [made, units.lengthUnit],
  );
  return (
    <section aria-label="Coil former" className="mt-4">
      <Titled title="Coil former" drawing={drawings[0]} file="former" />
      <div className="flex gap-4 max-w-xl items-end">
        <PlainField
          label={`Straight part beyond the core, ${units.lengthUnit}`}
          value={straight}
          placeholder={inch ? '0.47' : '12'}
          onChange={(e) => setStraight(e.target.value)}
        />
        <PlainField
          label={`Bundle, ${units.lengthUnit}`}
          value={build}
          placeholder="square, from its wires"
          onChange={(e) => setBuild(e.target.value)}
        />
      </div>
      {made.sheet ? (
        <div className="grid grid-cols-1 sm:grid-cols-2 gap-6 max-w-5xl">
          {drawings.map((d) => (
            <figure key={d.title}>
              <figcaption className="text-small font-semibold">{d.title}</figcaption>
              <DrawingView drawing={d} />
            </figure>
          ))}
        </div>
      ) : (
        <Quiet>{made.why}</Quiet>
      )}
    </section>
  );
}
