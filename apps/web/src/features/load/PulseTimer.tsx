import { formatNumber, lockedPulse, type ShopLimits } from '@norther/core';
import { useEffect, useState } from 'react';
import { Button } from '../../ui/Button.tsx';
import { PlainField } from '../../ui/Field.tsx';

const TICK_MS = 100;

/** Pulses of a locked rotor against the clock: how long it may be on, how long it cools before the next. */
export function PulseTimer({
  ratedA,
  ratedDensity,
  limits,
}: {
  ratedA: number | undefined;
  /** density in the wire at the rated current, A/mm² */
  ratedDensity: number | undefined;
  limits: ShopLimits;
}) {
  const [amps, setAmps] = useState('');
  const [from, setFrom] = useState<number>();
  const [rest, setRest] = useState<{ from: number; seconds: number }>();
  const [now, setNow] = useState(0);
  const running = from !== undefined || rest !== undefined;
  useEffect(() => {
    if (!running) return undefined;
    const beat = setInterval(() => setNow(Date.now()), TICK_MS);
    return () => clearInterval(beat);
  }, [running]);
  const a = Number(amps.replace(',', '.'));
  const density = ratedDensity && ratedA && a > 0 ? (ratedDensity * a) / ratedA : undefined;
  const pulse = lockedPulse(density, limits);
  const on = from === undefined ? 0 : Math.max(0, (now - from) / 1000);
  const left = rest ? rest.seconds - (now - rest.from) / 1000 : 0;
  const over = on >= pulse.mostS;
  return (
    <section aria-label="Pulses" className="border-b border-line pb-2 mb-2 space-y-1">
      <div className="flex flex-wrap gap-3 items-end">
        <PlainField label="Current of the pulse, A" value={amps} onChange={(e) => setAmps(e.target.value)} />
        <Button
          bench
          look={from === undefined ? 'plain' : 'danger'}
          disabled={rest !== undefined && left > 0}
          onClick={() => {
            const at = Date.now();
            setNow(at);
            if (from === undefined) {
              setRest(undefined);
              setFrom(at);
            } else {
              setRest({ from: at, seconds: pulse.pauseS((at - from) / 1000) });
              setFrom(undefined);
            }
          }}
        >
          {from === undefined ? 'Power on' : 'Power off'}
        </Button>
        <output className={`text-bench tabular-nums font-semibold ${over ? 'text-fail' : ''}`} aria-live="off">
          {from !== undefined ? `${on.toFixed(1)} s` : rest && left > 0 ? `cools ${Math.ceil(left)} s` : 'ready'}
        </output>
      </div>
      <p className={over ? 'text-fail font-semibold' : 'text-small text-soft'} role={over ? 'alert' : undefined}>
        {over
          ? 'Off now: the winding heats without giving any away.'
          : `On for at most ${formatNumber(pulse.mostS, 2)} s${
              pulse.kelvinPerS === undefined
                ? ' (the wire is not known: the longest pulse)'
                : `: the wire heats by ${formatNumber(pulse.kelvinPerS, 2)} K a second`
            }.`}
      </p>
    </section>
  );
}
