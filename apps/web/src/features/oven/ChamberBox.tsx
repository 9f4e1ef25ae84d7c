import { formatNumber } from '@norther/core';
import { minutesLeft, type ChamberView, type LoadPartView, type LoadView } from '@norther/contracts';
import { partState } from './words.ts';
import { sayMinutes } from './sayMinutes.ts';

const WIDE = 300;
const HIGH = 150;
const WALL = 9;
const SMALLEST = 26;

/** Drawn units a mm, so that the largest of the shop fills its place. */
export const commonScale = (chambers: readonly ChamberView[]): number =>
  Math.min(
    WIDE / Math.max(1, ...chambers.map((c) => c.doorWidthMm)),
    HIGH / Math.max(1, ...chambers.map((c) => c.doorHeightMm)),
  );

/** A chamber drawn as a box by the size of its door, with its parts to the same scale on its floor; a part is filled as far as it is done. */
export function ChamberBox({
  chamber,
  load,
  chosen,
  onChoose,
  unit,
  scale,
}: {
  chamber: ChamberView;
  load: LoadView | undefined;
  chosen: boolean;
  onChoose: () => void;
  unit: '°C' | '°F';
  /** drawn units a mm, the same for every chamber */
  scale: number;
}) {
  const inside = load?.parts.filter((p) => p.out === null) ?? [];
  const w = chamber.doorWidthMm * scale;
  const h = chamber.doorHeightMm * scale;
  const alarm = (load?.alarms.length ?? 0) > 0;
  const state = load === undefined ? 'empty' : load.state;
  const degrees = (c: number) => `${formatNumber(unit === '°F' ? 1.8 * c + 32 : c, 3)} ${unit}`;
  return (
    <button
      type="button"
      aria-pressed={chosen}
      aria-label={`${chamber.name}: ${sayState(load)}`}
      onClick={onChoose}
      className={`w-full text-left p-2 border-2 ${chosen ? 'border-accent bg-accent-tint' : 'border-transparent hover:bg-sheet'}`}
    >
      <span className="flex items-baseline gap-2">
        <span className="font-semibold">{chamber.name}</span>
        <span className={`text-small ${alarm ? 'text-fail font-semibold' : 'text-soft'}`}>
          {alarm ? 'see to it' : sayState(load)}
        </span>
        <span className="ml-auto text-small text-soft" title="door, wide × high">
          {formatNumber(chamber.doorWidthMm)} × {formatNumber(chamber.doorHeightMm)} mm
        </span>
      </span>
      <svg viewBox={`0 0 ${WIDE + 2 * WALL} ${h + 2 * WALL}`} className="w-full h-auto block mt-1" aria-hidden="true">
        <g transform={`translate(${WALL} ${WALL})`}>
          <rect
            x={-WALL / 2}
            y={-WALL / 2}
            width={w + WALL}
            height={h + WALL}
            fill={state === 'running' ? 'var(--sunk)' : 'var(--sheet)'}
            stroke={alarm ? 'var(--fail)' : state === 'empty' ? 'var(--edge)' : 'var(--ink)'}
            strokeWidth={state === 'empty' ? 2 : 4}
            strokeDasharray={state === 'empty' ? '6 4' : undefined}
          />
          {inside.map((part, i) => (
            <PartShape key={part.id} part={part} box={placed(inside, i, w, h, scale)} degrees={degrees} load={load} />
          ))}
          {state === 'empty' ? (
            <text x={w / 2} y={h / 2} textAnchor="middle" fontSize="13" fill="var(--soft)">
              empty
            </text>
          ) : null}
        </g>
      </svg>
    </button>
  );
}

interface Box {
  x: number;
  y: number;
  w: number;
  h: number;
}

/** Parts side by side on the floor, to scale; drawn narrower where they stand behind one another. */
function placed(parts: readonly LoadPartView[], i: number, w: number, h: number, scale: number): Box {
  const widths = parts.map((p) => Math.max(SMALLEST, p.widthMm * scale));
  const total = widths.reduce((n, x) => n + x, 0);
  const gap = total < w ? (w - total) / (parts.length + 1) : 0;
  const squeeze = total > w ? w / total : 1;
  const x = widths.slice(0, i).reduce((n, v) => n + v * squeeze + gap, gap);
  const high = Math.min(h, Math.max(SMALLEST, (parts[i]?.heightMm ?? 0) * scale));
  return { x, y: h - high, w: (widths[i] ?? 0) * squeeze, h: high };
}

function PartShape({
  part,
  box,
  degrees,
  load,
}: {
  part: LoadPartView;
  box: Box;
  degrees: (c: number) => string;
  load: LoadView | undefined;
}) {
  const done = Math.max(0, Math.min(1, part.now?.degree ?? 0));
  const left = minutesLeft(part.now);
  const lines = [
    part.job,
    part.now?.c === null || part.now === null ? '' : degrees(part.now.c),
    part.now?.burn && part.now.degree >= 1
      ? part.now.burn.state
      : load?.state === 'running'
        ? `${Math.floor(100 * done)} %`
        : '',
    left === null ? '' : sayMinutes(left),
  ].filter((t) => t !== '');
  const top = box.y - 4 - 12 * (lines.length - 1);
  const above = top > 10;
  return (
    <g>
      <rect
        x={box.x}
        y={box.y}
        width={box.w}
        height={box.h}
        fill="var(--sheet)"
        stroke="var(--ink)"
        strokeWidth="1.5"
      />
      <rect
        x={box.x}
        y={box.y + box.h * (1 - done)}
        width={box.w}
        height={box.h * done}
        fill={partState(part) === 'done' ? 'var(--pass)' : 'var(--accent)'}
        fillOpacity="0.35"
      />
      {lines.map((text, k) => (
        <text
          key={k}
          x={box.x + box.w / 2}
          y={above ? top + 12 * k : box.y + 14 + 12 * k}
          textAnchor="middle"
          fontSize="11.5"
          fontWeight={k === 0 ? 600 : 400}
          fill="var(--ink)"
        >
          {text}
        </text>
      ))}
    </g>
  );
}

export function sayState(load: LoadView | undefined): string {
  if (!load) return 'empty';
  if (load.state === 'loading') return `load ${load.number} is being put in`;
  if (load.state === 'done') return `load ${load.number}, out`;
  const inside = load.parts.filter((p) => p.out === null);
  if (inside.some((p) => p.now?.burn?.state === 'cooling')) return `load ${load.number} cools, door shut`;
  return inside.every((p) => partState(p) === 'done')
    ? `load ${load.number}: done`
    : `load ${load.number} ${load.use === 'bake' ? 'bakes' : load.use === 'dry' ? 'dries' : 'burns off'}`;
}
