import { line } from 'd3-shape';
import { useEffect, useId, useMemo, useRef, useState } from 'react';
import { Button } from '../ui/Button.tsx';
import {
  FRAME,
  heightOf,
  moved,
  nearest,
  placesOf,
  stepped,
  scaleX,
  scaleY,
  ticksApart,
  ticksOf,
  wholeWindow,
  zoomed,
  type ChartLimit,
  type ChartPoint,
  type ChartSeries,
  type Window,
} from './chartModel.ts';

const INK: Record<ChartSeries['look'], { color: string; dash?: string }> = {
  main: { color: 'var(--accent)' },
  second: { color: 'var(--phase-b)', dash: '7 3' },
  third: { color: 'var(--phase-a)', dash: '2 3' },
  quiet: { color: 'var(--edge)' },
};
const TONE = {
  pass: 'var(--pass)',
  attention: 'var(--attention)',
  fail: 'var(--fail)',
  'cannot judge': 'var(--cannot)',
};
/** Above so many points a line is drawn on canvas. */
const MOST_SHAPES = 2000;
/** Rows of the table behind the chart at most. */
const MOST_ROWS = 500;

/**
 * Curves and points over time or a number: zoom by wheel and keys, a cursor that says what stands under it, a table behind.
 * Keys: arrows move the cursor, + and − zoom, 0 shows all.
 */
export function Chart({
  title,
  series,
  xKind,
  limits = [],
  height = 260,
  sayX,
  sayY,
  xLabel,
  yLabel,
  span,
  onWindow,
}: {
  title: string;
  series: readonly ChartSeries[];
  xKind: 'time' | 'number';
  limits?: readonly ChartLimit[];
  height?: number;
  sayX: (x: number) => string;
  /** `digits`: figures that the ticks need to be told apart */
  sayY: (y: number, digits?: number) => string;
  xLabel: string;
  yLabel: string;
  /** where everything begins and ends, when the series hold only a part of it */
  span?: Window | undefined;
  /** the window that is shown has changed: long traces are asked for again, finer */
  onWindow?: (window: Window) => void;
}) {
  const id = useId();
  const box = useRef<HTMLDivElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const [width, setWidth] = useState(760);
  const [zoom, setZoom] = useState<Window>();
  const [cursor, setCursor] = useState<number>();
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => setWidth(Math.max(320, entry?.contentRect.width ?? 760)));
    if (box.current) watch.observe(box.current);
    return () => watch.disconnect();
  }, []);

  const whole = useMemo(() => span ?? wholeWindow(series), [series, span]);
  const window = zoom ?? whole;
  const tall = useMemo(() => heightOf(series, limits, window), [series, limits, window]);
  const x = useMemo(() => scaleX(xKind, window, width), [xKind, window, width]);
  const y = useMemo(() => scaleY(tall, height), [tall, height]);
  const places = useMemo(() => placesOf(series), [series]);
  const show = (next: Window | undefined) => {
    setZoom(next);
    onWindow?.(next ?? whole);
  };

  const onCanvas = useMemo(
    () => new Set(series.filter((s) => s.shape !== 'points' && s.points.length > MOST_SHAPES).map((s) => s.key)),
    [series],
  );
  const path = useMemo(
    () =>
      line<ChartPoint>()
        .defined((p) => Number.isFinite(p.y))
        .x((p) => x(p.x))
        .y((p) => y(p.y)),
    [x, y],
  );
  useEffect(() => {
    const paper = canvas.current;
    const pen = paper?.getContext('2d');
    if (!paper || !pen || onCanvas.size === 0) return;
    const fine = devicePixelRatio || 1;
    paper.width = width * fine;
    paper.height = height * fine;
    pen.scale(fine, fine);
    pen.clearRect(0, 0, width, height);
    pen.beginPath();
    pen.rect(FRAME.left, FRAME.top, width - FRAME.left - FRAME.right, height - FRAME.top - FRAME.bottom);
    pen.clip();
    const style = getComputedStyle(paper);
    for (const s of series) {
      if (!onCanvas.has(s.key)) continue;
      const { color, dash } = INK[s.look];
      pen.strokeStyle = style.getPropertyValue(color.slice(4, -1));
      pen.setLineDash(dash ? dash.split(' ').map(Number) : []);
      pen.lineWidth = 1.4;
      pen.beginPath();
      line<ChartPoint>()
        .defined((p) => Number.isFinite(p.y))
        .x((p) => x(p.x))
        .y((p) => y(p.y))
        .context(pen)(s.points);
      pen.stroke();
    }
  }, [series, onCanvas, width, height, x, y]);

  // the wheel is taken only inside the chart, and only with a listener that may stop the page from scrolling
  useEffect(() => {
    const place = box.current;
    const turn = (event: WheelEvent) => {
      if (!event.ctrlKey && !event.shiftKey) return;
      event.preventDefault();
      const at = x.invert(event.offsetX);
      show(zoomed(window, whole, event.deltaY < 0 ? 0.8 : 1.25, Number(at)));
    };
    place?.addEventListener('wheel', turn, { passive: false });
    return () => place?.removeEventListener('wheel', turn);
    // `show` follows from what stands here
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [x, window, whole]);

  const at = cursor === undefined ? undefined : cursor;
  const under =
    at === undefined
      ? []
      : series.flatMap((s) => {
          const p = nearest(s.points, at);
          return p && Number.isFinite(p.y) && Math.abs(x(p.x) - x(at)) <= 12 ? [{ s, p }] : [];
        });
  const ticks = ticksOf(tall, 5);
  const labels = ticksApart(ticks, sayY);
  const said = under.map(({ s, p }) => `${s.label}: ${sayY(p.y)}${p.note ? `, ${p.note}` : ''}`).join('; ');
  const step = (by: 1 | -1) => {
    const next = stepped(places, at, by);
    if (next === undefined) return;
    setCursor(next);
    if (next < window[0] || next > window[1]) show(moved(window, whole, by * 0.5));
  };
  const rows = series
    .flatMap((s) => s.points.filter((p) => Number.isFinite(p.y)).map((p) => ({ s, p })))
    .sort((a, b) => a.p.x - b.p.x);
  const clip = `clip-${id.replaceAll(':', '')}`;
  return (
    <figure className="m-0">
      <div
        ref={box}
        className="relative w-full"
        role="group"
        aria-label={`${title}. Arrows move the cursor, plus and minus zoom, zero shows all.`}
        tabIndex={0}
        onKeyDown={(e) => {
          const keys: Record<string, () => void> = {
            ArrowRight: () => step(1),
            ArrowLeft: () => step(-1),
            '+': () => show(zoomed(window, whole, 0.7, at ?? (window[0] + window[1]) / 2)),
            '-': () => show(zoomed(window, whole, 1.4, at ?? (window[0] + window[1]) / 2)),
            '0': () => show(undefined),
            Escape: () => setCursor(undefined),
          };
          const act = keys[e.key];
          if (!act) return;
          e.preventDefault();
          e.stopPropagation();
          act();
        }}
        onPointerMove={(e) => {
          const left = e.clientX - e.currentTarget.getBoundingClientRect().left;
          setCursor(left < FRAME.left || left > width - FRAME.right ? undefined : Number(x.invert(left)));
        }}
        onPointerLeave={() => setCursor(undefined)}
      >
        <canvas
          ref={canvas}
          aria-hidden="true"
          className="absolute inset-0 pointer-events-none"
          style={{ width, height, display: onCanvas.size > 0 ? 'block' : 'none' }}
        />
        <svg width={width} height={height} role="img" aria-label={title} className="relative block text-ink">
          <clipPath id={clip}>
            <rect
              x={FRAME.left}
              y={FRAME.top}
              width={width - FRAME.left - FRAME.right}
              height={height - FRAME.top - FRAME.bottom}
            />
          </clipPath>
          {ticks.map((v, i) => (
            <g key={v}>
              <line x1={FRAME.left} x2={width - FRAME.right} y1={y(v)} y2={y(v)} stroke="var(--line)" />
              <text x={FRAME.left - 6} y={y(v) + 4} textAnchor="end" fontSize="12" fill="var(--soft)">
                {labels[i]}
              </text>
            </g>
          ))}
          {(x.ticks(Math.max(2, Math.floor(width / 140))) as (number | Date)[]).map((v) => (
            <text
              key={Number(v)}
              x={x(v)}
              y={height - FRAME.bottom + 17}
              textAnchor="middle"
              fontSize="12"
              fill="var(--soft)"
            >
              {sayX(Number(v))}
            </text>
          ))}
          <line
            x1={FRAME.left}
            x2={width - FRAME.right}
            y1={height - FRAME.bottom}
            y2={height - FRAME.bottom}
            stroke="var(--edge)"
          />
          <g clipPath={`url(#${clip})`}>
            {limits.map((l) => (
              <g key={l.label}>
                <line
                  x1={FRAME.left}
                  x2={width - FRAME.right}
                  y1={y(l.value)}
                  y2={y(l.value)}
                  stroke={l.role === 'good' ? 'var(--pass)' : 'var(--fail)'}
                  strokeDasharray="8 4"
                />
                <text
                  x={FRAME.left + 4}
                  // under its line where there is no room above it
                  y={y(l.value) < FRAME.top + 14 ? y(l.value) + 13 : y(l.value) - 4}
                  fontSize="12"
                  fill="var(--soft)"
                >
                  {l.label} {sayY(l.value)}
                </text>
              </g>
            ))}
            {series.map((s) => (
              <g key={s.key}>
                {s.shape !== 'points' && !onCanvas.has(s.key) ? (
                  <path
                    d={path(s.points) ?? ''}
                    fill="none"
                    stroke={INK[s.look].color}
                    strokeWidth="1.6"
                    strokeDasharray={INK[s.look].dash}
                  />
                ) : null}
                {s.shape === 'line' || s.points.length > MOST_SHAPES
                  ? null
                  : s.points.map((p, i) => (
                      <circle
                        key={i}
                        cx={x(p.x)}
                        cy={y(p.y)}
                        r={s.look === 'quiet' ? 3 : 5}
                        fill={s.look === 'quiet' ? 'none' : p.tone ? TONE[p.tone] : INK[s.look].color}
                        stroke={s.look === 'quiet' ? INK.quiet.color : 'var(--sheet)'}
                        strokeWidth="1.5"
                      />
                    ))}
              </g>
            ))}
            {at === undefined ? null : (
              <line
                x1={x(at)}
                x2={x(at)}
                y1={FRAME.top}
                y2={height - FRAME.bottom}
                stroke="var(--ink)"
                strokeWidth="1"
              />
            )}
          </g>
        </svg>
      </div>
      <figcaption className="flex flex-wrap gap-x-4 gap-y-1 items-center text-small">
        {series.map((s) => (
          <span key={s.key} className="inline-flex items-center gap-1">
            <svg width="26" height="10" aria-hidden="true">
              {s.shape === 'points' ? (
                <circle
                  cx="13"
                  cy="5"
                  r="4"
                  fill={s.look === 'quiet' ? 'none' : INK[s.look].color}
                  stroke={INK[s.look].color}
                />
              ) : (
                <line
                  x1="0"
                  x2="26"
                  y1="5"
                  y2="5"
                  stroke={INK[s.look].color}
                  strokeWidth="2"
                  strokeDasharray={INK[s.look].dash}
                />
              )}
            </svg>
            {s.label}
          </span>
        ))}
        <span className="text-soft">
          {yLabel} over {xLabel}
        </span>
        {zoom ? (
          <Button look="quiet" onClick={() => show(undefined)}>
            Show all
          </Button>
        ) : null}
        <span aria-live="polite" className="min-h-5 w-full">
          {at === undefined ? '' : `${sayX(at)}${said ? ` · ${said}` : ''}`}
        </span>
      </figcaption>
      <details className="text-small">
        <summary className="cursor-pointer text-accent underline py-1">As a table</summary>
        <div className="max-h-64 overflow-auto" tabIndex={0} role="group" aria-label={`${title}, as a table`}>
          <table className="w-full">
            <thead className="sticky top-0 bg-page">
              <tr>
                {[xLabel, 'Of', yLabel, ''].map((h) => (
                  <th key={h} scope="col" className="text-left pr-3">
                    {h}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {rows.slice(0, MOST_ROWS).map(({ s, p }, i) => (
                <tr key={i} className="border-b border-line">
                  <td className="pr-3">{sayX(p.x)}</td>
                  <td className="pr-3">{s.label}</td>
                  <td className="pr-3 tabular-nums">{sayY(p.y)}</td>
                  <td>{p.note}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {rows.length > MOST_ROWS ? (
            <p>
              The first {MOST_ROWS} of {rows.length.toLocaleString('en')}; zoom in, or take the data away.
            </p>
          ) : null}
        </div>
      </details>
    </figure>
  );
}
