import { largestOf, median, smallestOf } from '../quantity/extent.ts';
import { parseNumber } from '../quantity/parse.ts';

/** One channel of an oven log. Times in minutes from the first row, temperatures in °C; null = lost. */
export interface TraceChannel {
  name: string;
  valuesC: (number | null)[];
}
export interface Trace {
  timesMin: number[];
  channels: TraceChannel[];
}
export interface BadRow {
  line: number;
  text: string;
  reason: string;
}
export interface TraceReading {
  trace: Trace;
  badRows: BadRow[];
  separator: string;
  unit: '°C' | '°F';
  timeKind: 'minutes' | 'clock' | 'date and clock';
}

/** Rows at most in one oven log: more than a week at one reading a second. */
export const MOST_ROWS = 1_000_000;
/** Characters at most of one oven log as text: so many rows of a time and eight channels. */
export const MOST_CSV = 150_000_000;

/** Lowest and highest temperature a thermocouple log is believed to hold, °C (docs/derivations.md 14). */
export const BELIEVED_C = { low: -50, high: 600 } as const;

/**
 * Reads an oven log as text: comma, semicolon or tab; decimal point or comma; times as minutes or clock (past midnight
 * too); °C or °F by header or choice; several channels. Rows that cannot be read are listed with the reason, never
 * silently dropped. Rows are sorted by time; of equal times the last received wins.
 */
export function readTraceCsv(csv: string, options: { unit?: '°C' | '°F' } = {}): TraceReading {
  const lines = csv.replace(/^\uFEFF/, '').split(/\r\n|\n|\r/);
  const firstFull = lines.find((l) => l.trim() !== '') ?? '';
  const separator = firstFull.includes(';') ? ';' : firstFull.includes('\t') ? '\t' : ',';
  const split = (line: string) => line.split(separator).map(bare);
  const header = split(firstFull);
  const hasHeader = header.slice(1).some((c) => c !== '' && parseNumber(c) === undefined);
  const names = hasHeader ? header.slice(1) : header.slice(1).map((_, i) => `Channel ${i + 1}`);
  const unit: '°C' | '°F' =
    options.unit ?? (hasHeader && header.some((h) => /°\s*f\b|\bdeg\s*f\b|\(f\)|_f$/i.test(h)) ? '°F' : '°C');
  const badRows: BadRow[] = [];
  const rows: { at: number; values: (number | null)[] }[] = [];
  let timeKind: TraceReading['timeKind'] = 'minutes';
  let lastClock = -1;
  let days = 0;
  let seenHeader = !hasHeader;
  lines.forEach((text, i) => {
    if (text.trim() === '') return;
    if (!seenHeader) {
      seenHeader = true;
      return;
    }
    const cells = split(text);
    const line = i + 1;
    const time = readTime(cells[0] ?? '');
    if (!time) {
      badRows.push({ line, text, reason: `"${cells[0] ?? ''}" is not a time (minutes, or a clock as 14:05).` });
      return;
    }
    let at = time.minutes;
    if (time.kind === 'clock') {
      if (lastClock >= 0 && at < lastClock - 720) days += 1;
      lastClock = at;
      at += days * 1440;
    }
    if (time.kind !== 'minutes') timeKind = time.kind;
    const values: (number | null)[] = [];
    const reasons: string[] = [];
    names.forEach((name, c) => {
      const cell = cells[c + 1] ?? '';
      if (cell === '') {
        values.push(null);
        return;
      }
      const number = parseNumber(/\d$/.test(cell) ? cell : cell.replace(/\s*°?\s*[cf]$/i, ''));
      if (number === undefined) {
        values.push(null);
        reasons.push(`${name}: "${cell}" is not a temperature`);
        return;
      }
      const celsius = unit === '°F' ? ((number - 32) * 5) / 9 : number;
      if (celsius < BELIEVED_C.low || celsius > BELIEVED_C.high) {
        values.push(null);
        reasons.push(`${name}: ${cell} is outside ${BELIEVED_C.low} to ${BELIEVED_C.high} °C`);
        return;
      }
      values.push(celsius);
    });
    if (reasons.length > 0) badRows.push({ line, text, reason: `${reasons.join('; ')}.` });
    if (values.some((v) => v !== null) || reasons.length === 0) rows.push({ at, values });
  });
  // the sort keeps the order of equal times, so the last received of them stands last
  const sorted = rows.every((row, i) => i === 0 || (rows[i - 1] as typeof row).at <= row.at)
    ? rows
    : [...rows].sort((a, b) => a.at - b.at);
  const unique = sorted.filter((row, i) => sorted[i + 1]?.at !== row.at);
  const start = unique[0]?.at ?? 0;
  return {
    trace: {
      timesMin: unique.map((r) => r.at - start),
      channels: names.map((name, c) => ({
        name: name || `Channel ${c + 1}`,
        valuesC: unique.map((r) => r.values[c] ?? null),
      })),
    },
    badRows,
    separator,
    unit,
    timeKind,
  };
}

/** A cell without the blanks and quotation marks round it. */
function bare(cell: string): string {
  const text = cell.trim();
  return text.length > 1 && text.startsWith('"') && text.endsWith('"') ? text.slice(1, -1) : text;
}

function readTime(cell: string): { minutes: number; kind: TraceReading['timeKind'] } | undefined {
  const clock = /^(\d{1,2}):(\d{2})(?::(\d{2}(?:[.,]\d+)?))?$/.exec(cell);
  if (clock) {
    const [h, m, s] = [Number(clock[1]), Number(clock[2]), parseNumber(clock[3] ?? '0') ?? 0];
    return h < 24 && m < 60 && s < 60 ? { minutes: h * 60 + m + s / 60, kind: 'clock' } : undefined;
  }
  const date = /^(\d{4})-(\d{2})-(\d{2})[T ](\d{2}):(\d{2})(?::(\d{2}))?/.exec(cell);
  if (date) {
    const [y, mo, d, h, mi, s] = date.slice(1).map((x) => Number(x ?? 0)) as [
      number,
      number,
      number,
      number,
      number,
      number,
    ];
    return { minutes: Date.UTC(y, mo - 1, d, h, mi, s) / 60000, kind: 'date and clock' };
  }
  const minutes = parseNumber(cell.replace(/\s*min$/i, ''));
  return minutes === undefined || minutes < 0 ? undefined : { minutes, kind: 'minutes' };
}

/** Points of one channel that hold a value. */
export function pointsOf(trace: Trace, channel: number): { t: number; c: number }[] {
  const values = trace.channels[channel]?.valuesC ?? [];
  const points: { t: number; c: number }[] = [];
  for (let i = 0; i < trace.timesMin.length; i++) {
    const c = values[i];
    if (c !== null && c !== undefined) points.push({ t: trace.timesMin[i] as number, c });
  }
  return points;
}

/** Default for a gap: three times the median step (of an even number of steps the mean of the two in the middle). */
export function defaultMaxGapMin(timesMin: readonly number[]): number {
  return 3 * median(timesMin.slice(1).map((t, i) => t - (timesMin[i] as number)));
}

/** The longest step between two readings that still counts: so many minutes, or as the two readings say. */
export type Gap = number | ((a: { t: number }, b: { t: number }) => number);
/** Whether the step from one reading to the next is a gap: it earns nothing. */
export const isGap = (gap: Gap, a: { t: number }, b: { t: number }): boolean =>
  b.t - a.t > (typeof gap === 'number' ? gap : gap(a, b));

/** Steps to and from a reading that a person typed may be longer than those of the logger; all times in min. */
export function gapWithTyped(maxGapMin: number, typedMin: readonly number[], typedGapMin: number): Gap {
  if (typedMin.length === 0) return maxGapMin;
  const typed = new Set(typedMin);
  const longer = Math.max(maxGapMin, typedGapMin);
  return (a, b) => (typed.has(a.t) || typed.has(b.t) ? longer : maxGapMin);
}

/** Time at or above a temperature, by linear interpolation at the crossings; gaps earn nothing and break runs. */
export function timeAbove(
  points: readonly { t: number; c: number }[],
  thresholdC: number,
  gap: Gap,
): { totalMin: number; longestMin: number } {
  let total = 0;
  let run = 0;
  let longest = 0;
  for (let i = 1; i < points.length; i++) {
    const a = points[i - 1] as { t: number; c: number };
    const b = points[i] as { t: number; c: number };
    const step = b.t - a.t;
    if (isGap(gap, a, b)) {
      run = 0;
      continue;
    }
    const up = a.c >= thresholdC;
    const down = b.c >= thresholdC;
    let part = 0;
    if (up && down) part = step;
    else if (up !== down) part = (step * Math.abs((up ? a.c : b.c) - thresholdC)) / Math.abs(b.c - a.c);
    total += part;
    if (up && down) run += part;
    else if (up) {
      longest = Math.max(longest, run + part);
      run = 0;
    } else run = down ? part : 0;
    longest = Math.max(longest, run);
  }
  return { totalMin: total, longestMin: longest };
}

/**
 * Largest rise and fall over windows of at least `windowMin`, K/min, both ≥ 0; windows holding a gap are left out.
 * @param coolingFromC falls count in windows that begin at this temperature or above
 */
export function rampRates(
  points: readonly { t: number; c: number }[],
  windowMin: number,
  gap: Gap,
  coolingFromC = Number.NEGATIVE_INFINITY,
): { heatingKMin: number; coolingKMin: number } {
  let heating = 0;
  let cooling = 0;
  // the first sample a window away moves on with the sample it is reckoned from, so the log is walked once
  let j = 0;
  let unbrokenFrom = 0;
  for (let i = 0; i < points.length; i++) {
    const a = points[i] as { t: number; c: number };
    if (j <= i) [j, unbrokenFrom] = [i, i];
    while (j < points.length && (j === i || (points[j] as { t: number }).t - a.t < windowMin)) {
      j += 1;
      if (j < points.length && isGap(gap, points[j - 1] as { t: number }, points[j] as { t: number })) unbrokenFrom = j;
    }
    if (j >= points.length) break;
    if (unbrokenFrom > i) continue;
    const b = points[j] as { t: number; c: number };
    const rate = (b.c - a.c) / (b.t - a.t);
    heating = Math.max(heating, rate);
    if (a.c >= coolingFromC) cooling = Math.max(cooling, -rate);
  }
  return { heatingKMin: heating, coolingKMin: cooling };
}

/** Index of the first point at or after a time. */
function indexFrom(points: readonly { t: number }[], t: number): number {
  let low = 0;
  let high = points.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((points[middle] as { t: number }).t < t) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** How far a channel moved between two times, K; 0 with fewer than two readings. */
function movedK(points: readonly { t: number; c: number }[], fromMin: number, toMin: number): number {
  const inside: number[] = [];
  for (let i = indexFrom(points, fromMin); i < points.length; i++) {
    const p = points[i] as { t: number; c: number };
    if (p.t > toMin) break;
    inside.push(p.c);
  }
  return inside.length > 1 ? largestOf(inside) - smallestOf(inside) : 0;
}

/** Rows at most in a trace thinned for drawing. */
export const THIN_ROWS = 2000;

/**
 * The rows of a long trace that a drawing needs: of each stretch the first row and those in which a channel is lowest and highest, so
 * that no peak and no gap is lost. A trace that is short enough comes back as it is.
 */
export function thinTrace<C extends TraceChannel>(
  trace: { timesMin: number[]; channels: C[] },
  mostRows = THIN_ROWS,
): { timesMin: number[]; channels: C[] } {
  const rows = trace.timesMin.length;
  if (rows <= mostRows) return trace;
  const stretches = Math.max(1, Math.floor(mostRows / (1 + 2 * trace.channels.length)));
  const kept = new Set<number>([rows - 1]);
  for (let s = 0; s < stretches; s++) {
    const from = Math.floor((s * rows) / stretches);
    const to = Math.floor(((s + 1) * rows) / stretches);
    kept.add(from);
    for (const { valuesC } of trace.channels) {
      let low = -1;
      let high = -1;
      for (let i = from; i < to; i++) {
        const c = valuesC[i];
        if (c === null || c === undefined) continue;
        if (low < 0 || c < (valuesC[low] as number)) low = i;
        if (high < 0 || c > (valuesC[high] as number)) high = i;
      }
      if (low >= 0) kept.add(low).add(high);
    }
  }
  const rowsKept = [...kept].sort((a, b) => a - b);
  return {
    timesMin: rowsKept.map((i) => trace.timesMin[i] as number),
    channels: trace.channels.map((c) => ({ ...c, valuesC: rowsKept.map((i) => c.valuesC[i] ?? null) })),
  };
}

/** A channel stands still within so many K for so many min; confirmed when another moved by more K meanwhile (docs/derivations.md 14). */
export const STILL = { withinK: 0.05, min: 30, othersK: 5 } as const;

/**
 * Whether a channel stood still (range within `epsK`) for at least `minMin`: confirmed when another channel moved more
 * than 5 K meanwhile, else only suspect, since a well-kept hold is flat too.
 */
export function stuckChannel(
  trace: Trace,
  channel: number,
  epsK: number = STILL.withinK,
  minMin: number = STILL.min,
): { state: 'no' | 'suspect' | 'confirmed'; fromMin: number; toMin: number } {
  const points = pointsOf(trace, channel);
  let others: { t: number; c: number }[][] | undefined;
  let best: { state: 'no' | 'suspect' | 'confirmed'; fromMin: number; toMin: number } = {
    state: 'no',
    fromMin: 0,
    toMin: 0,
  };
  let i = 0;
  while (i < points.length) {
    let low = (points[i] as { c: number }).c;
    let high = low;
    let j = i;
    while (j + 1 < points.length) {
      const c = (points[j + 1] as { c: number }).c;
      if (Math.max(high, c) - Math.min(low, c) > epsK) break;
      high = Math.max(high, c);
      low = Math.min(low, c);
      j++;
    }
    const from = (points[i] as { t: number }).t;
    const to = (points[j] as { t: number }).t;
    if (to - from >= minMin) {
      others ??= trace.channels.flatMap((_, other) => (other === channel ? [] : [pointsOf(trace, other)]));
      if (others.some((other) => movedK(other, from, to) > STILL.othersK))
        return { state: 'confirmed', fromMin: from, toMin: to };
      if (best.state === 'no') best = { state: 'suspect', fromMin: from, toMin: to };
    }
    i = j + 1;
  }
  return best;
}
