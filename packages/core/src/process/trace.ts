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

/** Lowest and highest temperature a thermocouple log is believed to hold, °C (process reference 3.4). */
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
  const split = (line: string) => line.split(separator).map((c) => c.trim().replace(/^"(.*)"$/, '$1'));
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
      const number = parseNumber(cell.replace(/\s*°?\s*[cf]$/i, ''));
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
  const sorted = rows.map((row, order) => ({ ...row, order })).sort((a, b) => a.at - b.at || a.order - b.order);
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
  return trace.timesMin.flatMap((t, i) => {
    const c = values[i];
    return c === null || c === undefined ? [] : [{ t, c }];
  });
}

/** Default for a gap: three times the median step. */
export function defaultMaxGapMin(timesMin: readonly number[]): number {
  const steps = timesMin
    .slice(1)
    .map((t, i) => t - (timesMin[i] as number))
    .sort((a, b) => a - b);
  return steps.length === 0 ? 0 : 3 * (steps[Math.floor(steps.length / 2)] as number);
}

/** Time at or above a temperature, by linear interpolation at the crossings; gaps earn nothing and break runs. */
export function timeAbove(
  points: readonly { t: number; c: number }[],
  thresholdC: number,
  maxGapMin: number,
): { totalMin: number; longestMin: number } {
  let total = 0;
  let run = 0;
  let longest = 0;
  for (let i = 1; i < points.length; i++) {
    const a = points[i - 1] as { t: number; c: number };
    const b = points[i] as { t: number; c: number };
    const step = b.t - a.t;
    if (step > maxGapMin) {
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

/** Largest rise and fall over windows of at least `windowMin`, K/min, both ≥ 0; windows holding a gap are left out. */
export function rampRates(
  points: readonly { t: number; c: number }[],
  windowMin: number,
  maxGapMin: number,
): { heatingKMin: number; coolingKMin: number } {
  let heating = 0;
  let cooling = 0;
  for (let i = 0; i < points.length; i++) {
    const a = points[i] as { t: number; c: number };
    for (let j = i + 1; j < points.length; j++) {
      const b = points[j] as { t: number; c: number };
      if (b.t - (points[j - 1] as { t: number }).t > maxGapMin) break;
      if (b.t - a.t < windowMin) continue;
      const rate = (b.c - a.c) / (b.t - a.t);
      heating = Math.max(heating, rate);
      cooling = Math.max(cooling, -rate);
      break;
    }
  }
  return { heatingKMin: heating, coolingKMin: cooling };
}

/**
 * Whether a channel stood still (range within `epsK`) for at least `minMin`: confirmed when another channel moved more
 * than 5 K meanwhile, else only suspect, since a well-kept hold is flat too.
 */
export function stuckChannel(
  trace: Trace,
  channel: number,
  epsK = 0.05,
  minMin = 30,
): { state: 'no' | 'suspect' | 'confirmed'; fromMin: number; toMin: number } {
  const points = pointsOf(trace, channel);
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
      const moved = trace.channels.some((_, other) => {
        if (other === channel) return false;
        const inside = pointsOf(trace, other)
          .filter((p) => p.t >= from && p.t <= to)
          .map((p) => p.c);
        return inside.length > 1 && Math.max(...inside) - Math.min(...inside) > 5;
      });
      if (moved) return { state: 'confirmed', fromMin: from, toMin: to };
      if (best.state === 'no') best = { state: 'suspect', fromMin: from, toMin: to };
    }
    i = j + 1;
  }
  return best;
}
