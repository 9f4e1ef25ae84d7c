import { STAGES } from '@norther/core';
import type { Station } from './stations.ts';

const X0 = 24;
const STEP = 72;
const MID = 30;
const APART = 15;
const WIDTH = X0 * 2 + STEP * (STAGES.length - 1);

const WORDS: Record<Station['look'], string> = {
  done: 'done',
  running: 'running',
  ready: 'ready',
  waiting: 'not yet',
  failed: 'failed',
  sign: 'needs a person',
  held: 'held',
};

/**
 * The route as a trunk that parts into two rails and joins again. A station is filled when done, ringed when it is
 * someone's turn; a bar across the rail before it is a closed hold, a bar with a gap one passed under override.
 */
export function Rails({
  stations,
  chosen,
  onChoose,
  titles,
}: {
  stations: readonly Station[];
  chosen?: string | undefined;
  onChoose?: (stage: string) => void;
  titles?: boolean;
}) {
  const hasStator = stations.some((s) => s.rail === 'stator');
  const hasRotor = stations.some((s) => s.rail === 'rotor');
  const both = hasStator && hasRotor;
  const x = (column: number) => X0 + STEP * column;
  const y = (rail: Station['rail']) =>
    rail === 'trunk' || !both ? MID : rail === 'stator' ? MID - APART : MID + APART;
  const columns = stations.map((s) => s.column);
  const last = Math.max(...columns);
  const top = titles ? 14 : 0;
  const split = STAGES.indexOf('Agree');
  const join = STAGES.indexOf('Assemble');
  const joined = stations.some((s) => s.column >= join);
  const lines = both
    ? [
        `M${x(0)} ${MID}H${x(split) + 14}`,
        ...[-1, 1].map(
          (d) =>
            `M${x(split) + 14} ${MID}l${APART} ${d * APART}H${x(join) - 14 - APART}${joined ? `l${APART} ${-d * APART}` : ''}`,
        ),
        joined ? `M${x(join) - 14} ${MID}H${x(last)}` : '',
      ]
    : [`M${x(0)} ${MID}H${x(last)}`];
  return (
    <svg
      viewBox={`0 ${-top} ${WIDTH} ${60 + top}`}
      className="w-full h-auto block max-w-[1150px] mx-auto"
      role="group"
      aria-label="Route"
    >
      {titles
        ? STAGES.map((stage, i) => (
            <text
              key={stage}
              x={x(i)}
              y={-2}
              textAnchor="middle"
              fontSize="10.5"
              className="fill-[var(--soft)] font-semibold"
            >
              {stage}
            </text>
          ))
        : null}
      <path d={lines.join('')} fill="none" stroke="var(--edge)" strokeWidth="2.5" />
      {stations.map((s) => (
        <StationMark
          key={`${s.stage}${s.rail}`}
          station={s}
          x={x(s.column)}
          y={y(s.rail)}
          chosen={chosen === s.stage}
          {...(onChoose ? { onChoose: () => onChoose(s.stage) } : {})}
        />
      ))}
    </svg>
  );
}

function StationMark({
  station: s,
  x,
  y,
  chosen,
  onChoose,
}: {
  station: Station;
  x: number;
  y: number;
  chosen: boolean;
  onChoose?: () => void;
}) {
  const said = `${s.stage}${s.rail === 'trunk' ? '' : `, ${s.rail}`}: ${WORDS[s.look]}, ${s.done} of ${s.steps.length}${s.signal === 'closed' ? ', hold closed' : s.signal === 'overridden' ? ', hold passed under override' : ''}`;
  const interactive = onChoose
    ? {
        role: 'button',
        tabIndex: 0,
        onClick: onChoose,
        onKeyDown: (e: React.KeyboardEvent) =>
          e.key === 'Enter' || e.key === ' ' ? (e.preventDefault(), onChoose()) : undefined,
        style: { cursor: 'pointer' },
      }
    : { role: 'img' };
  const r = 9;
  const share = s.steps.length === 0 ? 0 : s.done / s.steps.length;
  return (
    <g transform={`translate(${x} ${y})`} aria-label={said} {...interactive}>
      <title>{said}</title>
      <rect x={-18} y={-14} width={36} height={28} fill="transparent" />
      {s.signal === 'closed' ? <path d="M-17 -8V8" stroke="var(--fail)" strokeWidth="3.5" /> : null}
      {s.signal === 'overridden' ? <path d="M-17 -9V-3M-17 3V9" stroke="var(--attention)" strokeWidth="3.5" /> : null}
      {chosen ? <circle r={r + 5} fill="none" stroke="var(--accent)" strokeWidth="2" strokeDasharray="3 2" /> : null}
      {s.look === 'failed' ? (
        <>
          <circle r={r} fill="var(--fail-tint)" stroke="var(--fail)" strokeWidth="2.5" />
          <path d="M-4 -4L4 4M4 -4L-4 4" stroke="var(--fail)" strokeWidth="2.5" />
        </>
      ) : s.look === 'sign' ? (
        <>
          <path d="M0 -11L11 0L0 11L-11 0Z" fill="var(--attention-tint)" stroke="var(--attention)" strokeWidth="2.5" />
          <path d="M0 -5V1.5M0 4.5V5.5" stroke="var(--attention)" strokeWidth="2.5" />
        </>
      ) : s.look === 'done' ? (
        <>
          <circle r={r} fill="var(--edge)" stroke="var(--edge)" strokeWidth="2" />
          <path d="M-4 0.5L-1 3.5L4.5 -3" fill="none" stroke="var(--sheet)" strokeWidth="2.2" />
        </>
      ) : (
        <>
          <circle
            r={r}
            fill="var(--sheet)"
            stroke={s.look === 'running' || s.look === 'ready' ? 'var(--accent)' : 'var(--edge)'}
            strokeWidth={s.look === 'waiting' || s.look === 'held' ? 1.8 : 3}
            {...(s.look === 'waiting' || s.look === 'held' ? { strokeDasharray: '3 2.5' } : {})}
          />
          {share > 0 && share < 1 ? (
            <path
              d={wedge(r - 3, share)}
              fill={s.look === 'waiting' || s.look === 'held' ? 'var(--edge)' : 'var(--accent)'}
            />
          ) : null}
          {s.look === 'running' ? <circle r="3" fill="var(--accent)" /> : null}
        </>
      )}
    </g>
  );
}

function wedge(r: number, share: number): string {
  const a = 2 * Math.PI * share - Math.PI / 2;
  return `M0 0V${-r}A${r} ${r} 0 ${share > 0.5 ? 1 : 0} 1 ${r * Math.cos(a)} ${r * Math.sin(a)}Z`;
}

/** The legend of the marks, once on a page. */
export function RailsLegend() {
  const item = (look: Station['look'], text: string, signal: Station['signal'] = 'none') => (
    <span className="inline-flex items-center gap-1 whitespace-nowrap">
      <svg viewBox="-20 -14 34 28" className="w-7 h-6" aria-hidden="true">
        <StationMark
          station={{ stage: 'Intake', rail: 'trunk', column: 0, steps: [], look, done: 0, signal }}
          x={0}
          y={0}
          chosen={false}
        />
      </svg>
      {text}
    </span>
  );
  return (
    <p className="flex flex-wrap gap-x-4 text-small text-soft">
      {item('done', 'done')}
      {item('ready', "someone's turn")}
      {item('running', 'running')}
      {item('sign', 'needs a person')}
      {item('failed', 'failed')}
      {item('waiting', 'hold closed', 'closed')}
      {item('done', 'hold passed under override', 'overridden')}
    </p>
  );
}

/** Names of the stages over the stacked rails of the floor. */
export function StageNames() {
  return (
    <svg viewBox={`0 0 ${WIDTH} 18`} className="w-full h-auto block" aria-hidden="true">
      {STAGES.map((stage, i) => (
        <text key={stage} x={X0 + STEP * i} y={13} textAnchor="middle" fontSize="15" className="fill-[var(--soft)]">
          {stage}
        </text>
      ))}
    </svg>
  );
}
