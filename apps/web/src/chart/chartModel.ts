import { bisector, extent, ticks as niceTicks } from 'd3-array';
import { scaleLinear, scaleTime } from 'd3-scale';

export interface ChartPoint {
  x: number;
  y: number;
  /** what the point is, as one says it at the cursor and in the table */
  note?: string;
  tone?: 'pass' | 'attention' | 'fail' | 'cannot judge' | undefined;
}
export interface ChartSeries {
  key: string;
  label: string;
  shape: 'line' | 'points' | 'line and points';
  /** quiet stands behind: what the others are compared with */
  look: 'main' | 'second' | 'third' | 'quiet';
  points: readonly ChartPoint[];
}
export interface ChartLimit {
  label: string;
  value: number;
  role: 'good' | 'bad';
}

export const FRAME = { left: 62, right: 14, top: 10, bottom: 34 } as const;

/** The window of x that is shown. */
export type Window = readonly [number, number];

/** Everything there is, with a little air; a single point gets a window round it. */
export function wholeWindow(series: readonly ChartSeries[]): Window {
  const [a, b] = extent(series.flatMap((s) => s.points.map((p) => p.x)));
  if (a === undefined) return [0, 1];
  const air = b === a ? Math.max(1, Math.abs(a) * 1e-3) : (b - a) * 0.03;
  return [a - air, b + air];
}

/** Lowest and highest y of what is shown, with limits and a little air. */
export function heightOf(series: readonly ChartSeries[], limits: readonly ChartLimit[], [from, to]: Window): Window {
  const shown = series.flatMap((s) => s.points.filter((p) => p.x >= from && p.x <= to).map((p) => p.y));
  const [a, b] = extent([...shown, ...limits.map((l) => l.value)]);
  if (a === undefined) return [0, 1];
  // one value all along gets room round it; nothing all along a whole unit
  const air = b === a ? Math.abs(a) * 0.1 || 1 : (b - a) * 0.08;
  return [a - air, b + air];
}

export function scaleX(kind: 'time' | 'number', [from, to]: Window, width: number) {
  const range = [FRAME.left, width - FRAME.right];
  return kind === 'time'
    ? scaleTime()
        .domain([new Date(from), new Date(to)])
        .range(range)
    : scaleLinear().domain([from, to]).range(range);
}
export const scaleY = (window: Window, height: number) =>
  scaleLinear()
    .domain(window as [number, number])
    .range([height - FRAME.bottom, FRAME.top]);

/**
 * What stands beside the ticks: told apart from each other, with as many figures as that takes.
 * @example ticksApart([2.035, 2.04], (v, digits = 2) => v.toPrecision(digits)) // ['2.035', '2.040']
 */
export function ticksApart(ticks: readonly number[], say: (y: number, digits?: number) => string): string[] {
  const plain = ticks.map((t) => say(t));
  for (let digits = 4, said = plain; digits <= 8; said = ticks.map((t) => say(t, digits)), digits++)
    if (new Set(said).size === said.length) return said;
  return plain;
}

export const ticksOf = ([from, to]: Window, count: number): number[] => niceTicks(from, to, count);

/** A window zoomed by a factor about a place, inside the whole; never narrower than a thousandth of it. */
export function zoomed(window: Window, whole: Window, factor: number, about: number): Window {
  const width = Math.min(whole[1] - whole[0], Math.max((whole[1] - whole[0]) / 1000, (window[1] - window[0]) * factor));
  const share = (about - window[0]) / (window[1] - window[0] || 1);
  const from = Math.min(Math.max(about - share * width, whole[0]), whole[1] - width);
  return [from, from + width];
}

/** A window moved by a share of its width, inside the whole. */
export function moved(window: Window, whole: Window, share: number): Window {
  const width = window[1] - window[0];
  const from = Math.min(Math.max(window[0] + share * width, whole[0]), whole[1] - width);
  return [from, from + width];
}

const byX = bisector((p: ChartPoint) => p.x);

/** The point of a series nearest to a place; its points rise with x. */
export const nearest = (points: readonly ChartPoint[], x: number): ChartPoint | undefined =>
  points[byX.center(points as ChartPoint[], x)];

/** Every place where some series has a point, rising: the steps of the cursor. */
export const placesOf = (series: readonly ChartSeries[]): number[] =>
  [...new Set(series.flatMap((s) => s.points.map((p) => p.x)))].sort((a, b) => a - b);

/** The place of the cursor one step on; the first or the last where it stood nowhere. */
export function stepped(places: readonly number[], at: number | undefined, by: 1 | -1): number | undefined {
  if (at === undefined) return by > 0 ? places[0] : places.at(-1);
  return by > 0 ? (places.find((p) => p > at) ?? places.at(-1)) : (places.findLast((p) => p < at) ?? places[0]);
}
