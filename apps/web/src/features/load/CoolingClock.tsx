import { useEffect, useState } from 'react';
import { Button } from '../../ui/Button.tsx';
import { PlainField } from '../../ui/Field.tsx';

const TICK_MS = 200;

/** The cooling of a winding against the clock: power off starts it, each resistance is entered with the seconds it was read at. */
export function CoolingClock({ onRead }: { onRead: (seconds: string, ohms: string) => void }) {
  const [from, setFrom] = useState<number>();
  const [now, setNow] = useState(0);
  const [ohms, setOhms] = useState('');
  useEffect(() => {
    if (from === undefined) return undefined;
    const beat = setInterval(() => setNow(Date.now()), TICK_MS);
    return () => clearInterval(beat);
  }, [from]);
  const seconds = from === undefined ? 0 : Math.max(0, (now - from) / 1000);
  return (
    <section aria-label="Cooling against the clock" className="border-b border-line pb-2 mb-2">
      <div className="flex flex-wrap gap-3 items-end">
        <Button
          bench
          onClick={() => {
            const at = Date.now();
            setNow(at);
            setFrom(from === undefined ? at : undefined);
          }}
        >
          {from === undefined ? 'Power off: start the clock' : 'Stop the clock'}
        </Button>
        <output className="text-bench tabular-nums font-semibold" aria-live="off">
          {seconds.toFixed(0)} s
        </output>
        <PlainField
          label="Resistance now, Ω"
          hint="Enter puts it into the lists with its second"
          value={ohms}
          disabled={from === undefined}
          onChange={(e) => setOhms(e.target.value)}
          onKeyDown={(e) => {
            if (e.key !== 'Enter') return;
            // the form beneath goes to its next field by Enter; here a reading is taken
            e.preventDefault();
            e.stopPropagation();
            const value = Number(ohms.replace(',', '.'));
            if (from === undefined || !(value > 0)) return;
            onRead(((Date.now() - from) / 1000).toFixed(0), ohms.replace(',', '.'));
            setOhms('');
          }}
        />
      </div>
    </section>
  );
}
