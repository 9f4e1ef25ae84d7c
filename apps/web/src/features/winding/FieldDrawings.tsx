import { fieldWave, fieldWaveBase, formatNumber, harmonicBars, runCalculation, windingField } from '@norther/core';
import type { Layout, LayoutInput } from '@norther/core';
import { Pause, Play } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { DrawingView } from '../../drawing/DrawingView.tsx';
import { Button } from '../../ui/Button.tsx';
import { Worked } from '../../ui/Working.tsx';

const PERIOD_MS = 4000;

/** The air gap wave over one period, its harmonics, and what they come to. */
export function FieldDrawings({
  layout,
  input,
  rotorBars,
  skewSlots,
}: {
  layout: Layout;
  input: LayoutInput;
  rotorBars: number | undefined;
  skewSlots: number | undefined;
}) {
  const base = useMemo(() => fieldWaveBase(layout), [layout]);
  const bars = useMemo(() => harmonicBars(layout, { width: 600, height: 190 }), [layout]);
  const [deg, setDeg] = useState(0);
  const [runs, setRuns] = useState(false);
  useEffect(() => {
    if (!runs) return;
    let frame = 0;
    let last = performance.now();
    const turn = (now: number): void => {
      const step = ((now - last) / PERIOD_MS) * 360;
      last = now;
      setDeg((d) => (d + step) % 360);
      frame = requestAnimationFrame(turn);
    };
    frame = requestAnimationFrame(turn);
    return () => cancelAnimationFrame(frame);
  }, [runs]);
  const field = useMemo(
    () =>
      runCalculation(windingField, {
        ...input,
        highestOrder: 3 * layout.slots,
        ...(rotorBars ? { rotorBars } : {}),
        skewSlots: skewSlots ?? 0,
      }),
    [input, layout.slots, rotorBars, skewSlots],
  );
  const v = field.values;
  const step = (symbol: string) => field.working.filter((w) => w.symbol === symbol);
  return (
    <section aria-label="Air gap field">
      <h2 className="font-semibold">Air gap field</h2>
      <DrawingView drawing={fieldWave(base, deg, { width: 600, height: 190 })} />
      <div className="flex items-center gap-3">
        <Button look="plain" onClick={() => setRuns(!runs)} aria-pressed={runs}>
          {runs ? <Pause size={16} aria-hidden /> : <Play size={16} aria-hidden />}
          {runs ? 'Stop' : 'Turn'}
        </Button>
        <label className="flex-1 flex items-center gap-2 text-small">
          instant
          <input
            type="range"
            min={0}
            max={359}
            value={Math.round(deg) % 360}
            onChange={(e) => {
              setRuns(false);
              setDeg(Number(e.target.value));
            }}
            className="flex-1 min-h-8"
          />
          <span className="w-10 text-right">{Math.round(deg) % 360}°</span>
        </label>
      </div>
      <DrawingView drawing={bars} />
      <dl className="grid grid-cols-1 lg:grid-cols-[1fr_auto_1fr_auto] gap-x-4 text-small">
        <dt className="text-soft">Field distortion</dt>
        <dd className="text-right">
          <Worked title="Field distortion" steps={step('THD')}>
            {formatNumber(100 * v.distortion, 4)} %
          </Worked>
        </dd>
        <dt className="text-soft">Differential leakage</dt>
        <dd className="text-right">
          <Worked title="Differential leakage" steps={step('σ_d')}>
            {formatNumber(100 * v.differentialLeakage, 4)} %
          </Worked>
        </dd>
        <dt className="text-soft">Cogging periods a turn (magnets)</dt>
        <dd className="text-right">{v.coggingPeriods}</dd>
        <dt className="text-soft">Radial balance, gcd(S, P)</dt>
        <dd className="text-right">
          {v.radialOrder}
          {v.radialOrder === 1 ? ' one-sided pull' : v.radialOrder === 2 ? ' two-lobed' : ''}
        </dd>
      </dl>
      {v.rotorSlotRules.length > 0 ? (
        <p className="text-small border-l-4 border-edge pl-2 mt-1">
          Slots and bars: {v.rotorSlotRules.map((r) => r.message).join('; ')}. Information only.
        </p>
      ) : null}
    </section>
  );
}
