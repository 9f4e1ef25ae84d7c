import { useEffect, useState } from 'react';
import { useDraftText } from '../../app/draft.ts';
import { Button } from '../../ui/Button.tsx';
import { PlainField } from '../../ui/Field.tsx';

const TICK_MS = 200;
const UNITS = { s: { ms: 1000, digits: 0 }, min: { ms: 60_000, digits: 1 } } as const;

/**
 * Readings against the clock: one press starts it, what is read is entered with the time it was read at. The start is kept: a reload, or
 * another screen meanwhile, does not stop it.
 */
export function ReadingClock({
  name,
  keptAs,
  start,
  unit,
  columns,
  onRead,
}: {
  name: string;
  /** of the draft that keeps the start */
  keptAs: string;
  start: string;
  unit: keyof typeof UNITS;
  columns: readonly { name: string; label: string }[];
  onRead: (time: string, values: Record<string, string>) => void;
}) {
  const kept = useDraftText(`clock:${keptAs}`);
  const from = kept.text === '' ? undefined : Number(kept.text);
  const [now, setNow] = useState(() => Date.now());
  const [read, setRead] = useState<Record<string, string>>({});
  useEffect(() => {
    if (from === undefined) return undefined;
    const beat = setInterval(() => setNow(Date.now()), TICK_MS);
    return () => clearInterval(beat);
  }, [from]);
  const { ms, digits } = UNITS[unit];
  const timeOf = (at: number) => (from === undefined ? 0 : Math.max(0, (at - from) / ms)).toFixed(digits);
  const values = Object.fromEntries(columns.map((c) => [c.name, (read[c.name] ?? '').trim()]));
  const some = Object.values(values).some((v) => v !== '');
  const enter = () => {
    if (from === undefined || !some) return;
    onRead(timeOf(Date.now()), values);
    setRead({});
  };
  return (
    <section aria-label={name} className="border-b border-line pb-2 mb-2">
      <div
        className="flex flex-wrap gap-3 items-end"
        onKeyDown={(e) => {
          if (e.key !== 'Enter' || (e.target as HTMLElement).tagName === 'BUTTON') return;
          // the form beneath goes to its next field by Enter; here a reading is taken
          e.preventDefault();
          e.stopPropagation();
          enter();
        }}
      >
        <Button
          bench
          onClick={() => {
            setNow(Date.now());
            if (from === undefined) kept.set(String(Date.now()));
            else kept.recorded();
          }}
        >
          {from === undefined ? start : 'Stop the clock'}
        </Button>
        <output className="text-bench tabular-nums font-semibold pb-2" aria-live="off">
          {timeOf(now)} {unit}
        </output>
        {columns.map((c) => (
          <PlainField
            key={c.name}
            label={c.label}
            value={read[c.name] ?? ''}
            disabled={from === undefined}
            onChange={(e) => setRead({ ...read, [c.name]: e.target.value })}
          />
        ))}
        <Button bench disabled={from === undefined || !some} onClick={enter}>
          Enter with its time
        </Button>
      </div>
    </section>
  );
}
