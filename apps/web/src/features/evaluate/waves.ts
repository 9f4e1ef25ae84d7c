import type { TestTraceView, TraceView } from '@norther/contracts';
import { appliedOf, type SurgeWaves } from '@norther/core';
import type { ChartPoint, ChartSeries } from '../../chart/chartModel.ts';

/** One record as it is drawn: volts over µs. */
export interface DrawnWave {
  name: string;
  appliedV: number;
  points: ChartPoint[];
}

/** Points of one wave on a drawing at most. */
const MOST_POINTS = 1500;

/** Waves as they were read from a file, thinned for the drawing. */
export const drawnOfWaves = (waves: readonly SurgeWaves[]): DrawnWave[] =>
  waves.flatMap((w, i) =>
    w.pulses.map((p) => {
      const every = Math.max(1, Math.ceil(p.v.length / MOST_POINTS));
      return {
        name: w.name ?? `wave ${i + 1}`,
        appliedV: p.appliedV,
        points: p.v.flatMap((y, k) => (k % every === 0 ? [{ x: k * p.dtUs, y }] : [])),
      };
    }),
  );

/** Waves as they are kept: every channel of a trace is one pulse. */
export const drawnOfTrace = (trace: TraceView): DrawnWave[] =>
  trace.channels.map((c, i) => ({
    name: c.name,
    appliedV: appliedOf(c.role) ?? 0,
    points: trace.x.map((x, k) => ({ x: x * 1e6, y: trace.values[i]?.[k] ?? NaN })),
  }));

/** Voltages that waves were taken at, the lowest first. */
export const voltagesOf = (traces: readonly Pick<TestTraceView, 'channels'>[]): number[] =>
  [...new Set(traces.flatMap((t) => t.channels.map((c) => appliedOf(c.role) ?? 0)))].sort((a, b) => a - b);

const LOOKS = ['main', 'second', 'third'] as const;

/** The waves of one voltage over each other, and the difference of two where it is wanted. */
export function seriesOf(
  drawn: readonly DrawnWave[],
  appliedV: number,
  difference: readonly [string, string] | undefined,
): ChartSeries[] {
  const own = drawn.filter((d) => Math.abs(d.appliedV - appliedV) <= 0.02 * appliedV);
  const lines = own.map((d, i): ChartSeries => ({
    key: `${d.name} ${i}`,
    label: d.name,
    shape: 'line',
    look: LOOKS[i] ?? 'quiet',
    points: d.points,
  }));
  const [a, b] = (difference ?? []).map((name) => own.find((d) => d.name === name));
  if (!a || !b) return lines;
  return [
    ...lines.map((l) => (l.label === a.name || l.label === b.name ? l : { ...l, look: 'quiet' as const })),
    {
      key: 'difference',
      label: `${a.name} less ${b.name}`,
      shape: 'line',
      look: 'third',
      points: a.points.map((p, k) => ({ x: p.x, y: p.y - at(b.points, p.x, k) })),
    },
  ];
}

/** The value of a wave at a time, on the line between its points. */
function at(points: readonly ChartPoint[], x: number, guess: number): number {
  if (points[guess]?.x === x) return points[guess].y;
  const after = points.findIndex((p) => p.x >= x);
  const [q, p] = [points[after], points[after - 1]];
  if (!q) return NaN;
  return !p ? q.y : p.y + ((q.y - p.y) * (x - p.x)) / (q.x - p.x);
}
