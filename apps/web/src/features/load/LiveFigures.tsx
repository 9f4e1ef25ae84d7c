import type { LoadRunView } from '@norther/contracts';
import { formatNumber, largestA, liveFigures, loadFrames, notAbove, type LoadFrame } from '@norther/core';
import { useTail, useTraceWindow } from '../../app/useTrace.ts';
import { Quiet } from '../../ui/Problem.tsx';

const SECONDS = () => ({ zero: 0, scale: 1 });
/** Samples left out for so long are told, s. */
const SILENT_S = 2;

/** The newest reading of a run, as it comes over the line. */
function useNewest(trace: string): LoadFrame | undefined {
  const { whole, again } = useTraceWindow(trace, SECONDS);
  const tail = useTail(trace, whole, again);
  if (!whole) return undefined;
  const from = tail.x.length > 0 ? tail : whole;
  const at = from.x.length - 1;
  if (at < 0) return undefined;
  return loadFrames(
    whole.channels,
    [from.x[at] ?? 0],
    from.values.map((v) => [v[at] ?? null]),
  )[0];
}

/** The figures of a motor under load, large enough to be read from five metres. */
export function LiveFigures({ run }: { run: LoadRunView }) {
  if (run.trace) return <Figures run={run} trace={run.trace} />;
  return (
    <Quiet>
      {run.instrument?.hears || !run.instrument?.simulated
        ? `Waiting for what ${run.source} sends …`
        : `${run.source} is not heard of.`}
    </Quiet>
  );
}

function Figures({ run, trace }: { run: LoadRunView; trace: string }) {
  const f = useNewest(trace);
  if (!f) return <Quiet>Reading …</Quiet>;
  const amps = largestA(f);
  const { outW, efficiency, slip, powerFactor } = liveFigures(f, run.poles ?? undefined);
  const held = run.settings.loadFactor * run.settings.ratedA;
  const over = amps !== undefined && !notAbove(amps, held);
  const hot = run.settings.windingC !== undefined && (f.windingC ?? 0) > run.settings.windingC;
  const share = (value: number | undefined, of: number | null) =>
    value === undefined || of === null ? '' : `${formatNumber((100 * value) / of, 3)} % of rated`;
  const silent = run.silentS !== null && run.silentS > SILENT_S;
  const moving = run.unsteady === null || run.unsteady.length > 0;
  return (
    <section aria-label="Now" className="space-y-2">
      {/* figures of before the silence are not those of now */}
      <dl className={`grid grid-cols-2 md:grid-cols-3 gap-x-6 gap-y-2 m-0 ${silent ? 'opacity-50' : ''}`}>
        <Figure name="Current" value={amps} unit="A" digits={3} tone={over ? 'bad' : undefined}>
          {share(amps, run.settings.ratedA)}
          {f.lineA.every((a) => a !== undefined) ? `; ${f.lineA.map((a) => formatNumber(a ?? 0, 3)).join(', ')}` : ''}
        </Figure>
        <Figure name="Torque" value={f.torqueNm} unit="N·m" digits={3}>
          {share(f.torqueNm, run.ratedNm)}
        </Figure>
        <Figure name="Speed" value={f.rpm} unit="r/min" digits={5}>
          {slip === undefined ? '' : `slip ${formatNumber(100 * slip, 3)} %`}
        </Figure>
        <Figure name="Output" value={outW === undefined ? undefined : outW / 1000} unit="kW" digits={3}>
          {f.watts === undefined ? '' : `of ${formatNumber(f.watts / 1000, 3)} kW taken`}
        </Figure>
        <Figure name="Efficiency" value={efficiency === undefined ? undefined : 100 * efficiency} unit="%" digits={3}>
          {[moving ? 'not steady' : '', powerFactor === undefined ? '' : `power factor ${formatNumber(powerFactor, 2)}`]
            .filter(Boolean)
            .join('; ')}
        </Figure>
        <Figure name="Winding" value={f.windingC} unit="°C" digits={3} tone={hot ? 'bad' : undefined}>
          {[
            f.bearingC === undefined ? '' : `bearing ${formatNumber(f.bearingC, 3)} °C`,
            f.vibrationMmS === undefined ? '' : `${formatNumber(f.vibrationMmS, 2)} mm/s`,
          ]
            .filter(Boolean)
            .join('; ')}
        </Figure>
      </dl>
      <p className="min-h-6" aria-live="polite">
        {silent ? <strong className="text-fail">Nothing has come for {Math.round(run.silentS ?? 0)} s. </strong> : null}
        {run.guard.says === 'unload' ? (
          <strong className="text-fail">The load was taken off: {run.guard.why}. </strong>
        ) : run.guard.says === 'hold' ? (
          <strong className="text-attention">Held: {run.guard.why}. </strong>
        ) : null}
        {silent ? null : run.unsteady === null ? (
          <span className="text-soft">Not long enough at one load yet.</span>
        ) : run.unsteady.length > 0 ? (
          <span className="text-soft">Not steady: {run.unsteady.join(', ')}.</span>
        ) : (
          <span className="text-pass font-semibold">Steady.</span>
        )}
      </p>
    </section>
  );
}

function Figure({
  name,
  value,
  unit,
  digits,
  tone,
  children,
}: {
  name: string;
  value: number | undefined;
  unit: string;
  digits: number;
  tone?: 'bad' | undefined;
  children?: React.ReactNode;
}) {
  return (
    <div className={`border-l-4 pl-3 ${tone ? 'border-fail' : 'border-line'}`}>
      <dt className="text-small text-soft">{name}</dt>
      {/* a twelfth of the height of the screen */}
      <dd
        className={`m-0 tabular-nums font-semibold leading-none whitespace-nowrap ${tone ? 'text-fail' : ''}`}
        style={{ fontSize: 'min(8.4vh, 13vw)' }}
      >
        {value === undefined ? '–' : formatNumber(value, digits)}
        <span className="text-bench font-normal"> {unit}</span>
      </dd>
      <dd className="m-0 text-small text-soft truncate">{children}</dd>
    </div>
  );
}
