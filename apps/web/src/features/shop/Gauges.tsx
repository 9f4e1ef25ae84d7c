import { parseNumber, type Gauge } from '@norther/core';
import { useState } from 'react';
import { DateField } from '../../ui/DateField.tsx';
import { Button } from '../../ui/Button.tsx';
import { PlainField } from '../../ui/Field.tsx';

/** What the shop measures with and until when it is calibrated; the voltages at hand for the loop of a core test. */
export function Gauges({
  gauges,
  taps,
  onGauges,
  onTaps,
}: {
  gauges: readonly Gauge[];
  taps: readonly number[];
  onGauges: (gauges: Gauge[]) => void;
  onTaps: (taps: number[]) => void;
}) {
  const [typed, setTyped] = useState(taps.join(', '));
  const [wrong, setWrong] = useState('');
  return (
    <div className="space-y-3">
      {gauges.map((g, i) => {
        const put = (part: Partial<Gauge>) => onGauges(gauges.map((x, k) => (k === i ? { ...x, ...part } : x)));
        return (
          <div key={i} className="grid grid-cols-[1fr_11rem_auto] gap-2 items-start">
            <PlainField
              label={`Instrument ${i + 1}`}
              value={g.name}
              maxLength={80}
              onChange={(e) => put({ name: e.target.value })}
            />
            <DateField
              label={`${i + 1}: calibrated until`}
              value={g.calibratedUntil ?? ''}
              onChange={(day) => put({ calibratedUntil: day === '' ? null : day })}
            />
            <Button look="quiet" className="mt-5" onClick={() => onGauges(gauges.filter((_, k) => k !== i))}>
              Take out
            </Button>
          </div>
        );
      })}
      <Button onClick={() => onGauges([...gauges, { name: '', calibratedUntil: null }])}>Another instrument</Button>
      <PlainField
        label="Voltages at hand for the loop of a core test, taps too, V"
        value={typed}
        hint="for example 120, 230, 400"
        error={wrong === '' ? undefined : wrong}
        onChange={(e) => {
          setTyped(e.target.value);
          const read = e.target.value
            .split(/[,;]\s*|\s+/)
            .filter(Boolean)
            .map((t) => parseNumber(t));
          const fine = read.filter((x): x is number => x !== undefined && x > 0 && x <= 1000);
          setWrong(fine.length === read.length ? '' : 'Voltages above 0 and up to 1000 V, a comma between them.');
          if (fine.length === read.length) onTaps(fine);
        }}
      />
    </div>
  );
}
