import { gradedSpans, sinusoidalTurns, type WindingRecord } from '@norther/core';
import { useState } from 'react';
import { Button } from '../../ui/Button.tsx';

/** Sinusoidal turns for a wanted number of coils on a pole, offered for the main or the auxiliary winding. */
export function SinusoidalPanel({
  record,
  onTake,
}: {
  record: WindingRecord;
  onTake: (changes: Record<string, string>) => void;
}) {
  const [coils, setCoils] = useState('3');
  const [total, setTotal] = useState('');
  const [full, setFull] = useState(false);
  if (record.kind !== 'single-phase' || !record.slots || !record.poles || record.slots % record.poles !== 0)
    return null;
  const pitch = record.slots / record.poles;
  const n = Number(coils);
  const turns = Number(total);
  const spans = Number.isInteger(n) && n > 0 && n < 20 ? gradedSpans(pitch, n, full) : [];
  const most = Math.ceil((full ? pitch : pitch - 1) / 2);
  const fits = spans.length > 0 && (spans[spans.length - 1] ?? 0) >= 1;
  const made =
    fits && Number.isInteger(turns) && turns > 0 && turns <= 5000 ? sinusoidalTurns(pitch, spans, turns) : undefined;
  const small = 'w-16 min-h-8 border border-edge rounded-sm px-1 bg-sheet';
  const typed = made && {
    spans: made.coils.map((c) => `1-${c.spanSlots + 1}`).join(', '),
    turns: made.coils.map((c) => String(c.turns)).join(', '),
  };
  return (
    <section aria-label="Sinusoidal turns" className="border-l-4 border-edge pl-3 mb-3 text-small">
      <h3 className="font-semibold">Sinusoidal turns</h3>
      <div className="flex flex-wrap gap-4 items-center">
        <label>
          coils on a pole{' '}
          <input value={coils} inputMode="numeric" onChange={(e) => setCoils(e.target.value)} className={small} />
        </label>
        <label>
          turns of a pole{' '}
          <input value={total} inputMode="numeric" onChange={(e) => setTotal(e.target.value)} className={small} />
        </label>
        <label className="inline-flex items-center gap-1">
          <input type="checkbox" checked={full} onChange={(e) => setFull(e.target.checked)} /> outer coil of full pitch
        </label>
      </div>
      {!fits ? (
        <p>
          A pole of {pitch} slots holds at most {most} coils.
        </p>
      ) : null}
      {made && typed ? (
        <>
          <p>
            {made.coils.map((c) => `1-${c.spanSlots + 1}: ${c.turns} (${c.percent.toFixed(1)} %)`).join(', ')}; factor{' '}
            {made.factor.toFixed(4)}
          </p>
          <div className="flex gap-2">
            <Button look="plain" onClick={() => onTake({ spansSlots: typed.spans, turns: typed.turns })}>
              Take for the main winding
            </Button>
            <Button look="plain" onClick={() => onTake({ auxSpansSlots: typed.spans, auxTurns: typed.turns })}>
              Take for the auxiliary
            </Button>
          </div>
        </>
      ) : null}
    </section>
  );
}
