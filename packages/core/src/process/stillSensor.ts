import { STILL } from './trace.ts';

/** Of each channel: the lowest and highest that was seen, and how many readings. */
interface Seen {
  low: number[];
  high: number[];
  n: number[];
}
type Values = readonly (number | null)[];
export interface StillRun {
  from: number;
  to: number;
  low: number;
  high: number;
  /** rows inside it that are not reckoned yet: most runs end long before they count */
  rows: Values[];
  /** rows since its last reading, in which this channel was lost; and what was in those of long before */
  since: Values[];
  sinceSeen: Seen | undefined;
  /** what the others did inside it, once it is long enough to count */
  inside: Seen | undefined;
}
const nothingSeen = (n: number): Seen => ({
  low: new Array<number>(n).fill(Infinity),
  high: new Array<number>(n).fill(-Infinity),
  n: new Array<number>(n).fill(0),
});
/** Takes in a row, but for the channel whose run it is. */
function look(seen: Seen, values: Values, channel: number): void {
  for (let i = 0; i < values.length; i++) {
    const v = values[i];
    if (i === channel || v === null || v === undefined) continue;
    if (v < (seen.low[i] as number)) seen.low[i] = v;
    if (v > (seen.high[i] as number)) seen.high[i] = v;
    seen.n[i] = (seen.n[i] as number) + 1;
  }
}
/** Rows that are kept until they are reckoned. */
const MOST_PENDING = 512;
export function lostReading(run: StillRun, values: Values, channel: number): void {
  run.since.push(values);
  if (run.since.length < MOST_PENDING) return;
  run.sinceSeen ??= nothingSeen(values.length);
  for (const row of run.since) look(run.sinceSeen, row, channel);
  run.since = [];
}
function takeIn(into: Seen, from: Seen): void {
  for (let i = 0; i < into.n.length; i++) {
    into.low[i] = Math.min(into.low[i] as number, from.low[i] as number);
    into.high[i] = Math.max(into.high[i] as number, from.high[i] as number);
    into.n[i] = (into.n[i] as number) + (from.n[i] as number);
  }
}
export const othersMoved = (run: StillRun): boolean =>
  run.to - run.from >= STILL.min &&
  run.inside !== undefined &&
  run.inside.n.some((n, i) => n > 1 && (run.inside?.high[i] ?? 0) - (run.inside?.low[i] ?? 0) > STILL.othersK);

/** Takes a reading of a sensor. @returns whether the run that ends with it stood still while others moved */
export function stoodStill(
  part: { run: StillRun | undefined; channel: number },
  t: number,
  c: number,
  values: Values,
): boolean {
  const { run } = part;
  if (run && Math.max(run.high, c) - Math.min(run.low, c) <= STILL.withinK) {
    run.low = Math.min(run.low, c);
    run.high = Math.max(run.high, c);
    run.to = t;
    if (run.since.length > 0) {
      for (const row of run.since) run.rows.push(row);
      run.since = [];
    }
    run.rows.push(values);
    if (run.sinceSeen) {
      takeIn((run.inside ??= nothingSeen(values.length)), run.sinceSeen);
      run.sinceSeen = undefined;
    }
    if (t - run.from < STILL.min && run.rows.length < MOST_PENDING) return false;
    run.inside ??= nothingSeen(values.length);
    for (const row of run.rows) look(run.inside, row, part.channel);
    run.rows = [];
    return false;
  }
  if (!run) {
    part.run = { from: t, to: t, low: c, high: c, rows: [values], since: [], sinceSeen: undefined, inside: undefined };
    return false;
  }
  const was = othersMoved(run);
  run.from = run.to = t;
  run.low = run.high = c;
  // most runs are of one row: its place is taken again
  if (run.rows.length === 1) run.rows[0] = values;
  else run.rows = [values];
  if (run.since.length > 0) run.since = [];
  run.sinceSeen = run.inside = undefined;
  return was;
}
