/** Samples of one chunk of a trace at most. */
export const CHUNK_SAMPLES = 4096;
/** Samples whose first, last, least and largest stand beside them. */
export const BLOCK_SAMPLES = 64;

/** A stretch of a trace: places that rise, and each channel's value at every one of them; NaN where a value was lost. */
export interface Samples {
  x: Float64Array;
  values: readonly Float64Array[];
}

/** A stretch as it is kept: its samples in one row of numbers, and what a far view needs of them. */
export interface Chunk {
  /** number of its first sample in the trace */
  first: number;
  count: number;
  from: number;
  to: number;
  /** x of every sample, then the values of each channel, one channel after another */
  packed: Float64Array;
  /** for every block: x of its first and last sample, then first, last, least and largest of each channel */
  overview: Float64Array;
}

/** Numbers of one block in an overview. */
const blockWidth = (channels: number): number => 2 + 4 * channels;

function overviewOf({ x, values }: Samples): Float64Array {
  const width = blockWidth(values.length);
  const blocks = Math.ceil(x.length / BLOCK_SAMPLES);
  const out = new Float64Array(blocks * width);
  for (let b = 0; b < blocks; b++) {
    const from = b * BLOCK_SAMPLES;
    const to = Math.min(x.length, from + BLOCK_SAMPLES);
    const at = b * width;
    out[at] = x[from] as number;
    out[at + 1] = x[to - 1] as number;
    values.forEach((channel, c) => {
      let first = NaN;
      let last = NaN;
      let least = NaN;
      let largest = NaN;
      for (let i = from; i < to; i++) {
        const v = channel[i] as number;
        if (Number.isNaN(v)) continue;
        if (Number.isNaN(first)) first = least = largest = v;
        last = v;
        if (v < least) least = v;
        if (v > largest) largest = v;
      }
      out.set([first, last, least, largest], at + 2 + 4 * c);
    });
  }
  return out;
}

/**
 * Cuts samples into chunks, each with its overview.
 * @param first number of the first sample in its trace
 */
export function chunksOf(samples: Samples, first = 0): Chunk[] {
  const out: Chunk[] = [];
  for (let from = 0; from < samples.x.length; from += CHUNK_SAMPLES) {
    const to = Math.min(samples.x.length, from + CHUNK_SAMPLES);
    const part: Samples = { x: samples.x.subarray(from, to), values: samples.values.map((v) => v.subarray(from, to)) };
    const count = to - from;
    const packed = new Float64Array(count * (1 + part.values.length));
    packed.set(part.x, 0);
    part.values.forEach((v, c) => packed.set(v, count * (1 + c)));
    out.push({
      first: first + from,
      count,
      from: part.x[0] as number,
      to: part.x[count - 1] as number,
      packed,
      overview: overviewOf(part),
    });
  }
  return out;
}

/** The samples of one chunk as they were. */
export function samplesOf(packed: Float64Array, count: number, channels: number): Samples {
  return {
    x: packed.subarray(0, count),
    values: Array.from({ length: channels }, (_, c) => packed.subarray(count * (1 + c), count * (2 + c))),
  };
}

/** Stretches put behind each other; all of as many channels. */
export function joined(parts: readonly Samples[], channels: number): Samples {
  const count = parts.reduce((n, p) => n + p.x.length, 0);
  const out = { x: new Float64Array(count), values: Array.from({ length: channels }, () => new Float64Array(count)) };
  let at = 0;
  for (const part of parts) {
    out.x.set(part.x, at);
    part.values.forEach((v, c) => out.values[c]?.set(v, at));
    at += part.x.length;
  }
  return out;
}

/** What a drawing gets of a window: x and the values of each channel there; null where nothing was read. */
export interface Shown {
  x: number[];
  values: (number | null)[][];
  /** every sample of the window is in it; otherwise each stretch stands with its least and largest */
  exact: boolean;
}

const orNull = (v: number | undefined): number | null => (v === undefined || Number.isNaN(v) ? null : v);

/** Inside a window, with the sample before and after it, so that a line runs to the edge. */
function inside(x: Float64Array, from: number, to: number): [number, number] {
  let a = 0;
  while (a < x.length && (x[a] as number) < from) a++;
  let b = a;
  while (b < x.length && (x[b] as number) <= to) b++;
  return [Math.max(0, a - 1), Math.min(x.length, b + 1)];
}

/** Of samples: every one where they are few, else `most` stretches with the least and largest of each. */
export function shownOfSamples(samples: Samples, from: number, to: number, most: number): Shown {
  const [a, b] = inside(samples.x, from, to);
  if (b - a <= 2 * most)
    return {
      x: Array.from(samples.x.subarray(a, b)),
      values: samples.values.map((v) => Array.from(v.subarray(a, b), orNull)),
      exact: true,
    };
  const part: Samples = { x: samples.x.subarray(a, b), values: samples.values.map((v) => v.subarray(a, b)) };
  const blocks = overviewOf(part);
  return shownOfOverview([blocks], samples.values.length, -Infinity, Infinity, most);
}

/** Of overviews in rising order: at most `most` stretches, each with its least and largest, in the order in which the line runs. */
export function shownOfOverview(
  overviews: readonly Float64Array[],
  channels: number,
  from: number,
  to: number,
  most: number,
): Shown {
  const width = blockWidth(channels);
  const blocks: Float64Array[] = [];
  for (const o of overviews)
    for (let at = 0; at + width <= o.length; at += width)
      if ((o[at + 1] as number) >= from && (o[at] as number) <= to) blocks.push(o.subarray(at, at + width));
  const each = Math.max(1, Math.ceil(blocks.length / most));
  const x: number[] = [];
  const values: (number | null)[][] = Array.from({ length: channels }, () => []);
  for (let b = 0; b < blocks.length; b += each) {
    const group = blocks.slice(b, b + each);
    x.push(group[0]?.[0] as number, group.at(-1)?.[1] as number);
    for (let c = 0; c < channels; c++) {
      let least = NaN;
      let largest = NaN;
      let first = NaN;
      let last = NaN;
      for (const g of group) {
        const at = 2 + 4 * c;
        if (Number.isNaN(g[at] as number)) continue;
        if (Number.isNaN(first)) first = g[at] as number;
        last = g[at + 1] as number;
        if (!(least <= (g[at + 2] as number))) least = g[at + 2] as number;
        if (!(largest >= (g[at + 3] as number))) largest = g[at + 3] as number;
      }
      const rises = first <= last;
      values[c]?.push(orNull(rises ? least : largest), orNull(rises ? largest : least));
    }
  }
  return { x, values, exact: false };
}
