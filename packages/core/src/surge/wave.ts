/** One record of a surge: volts at equal steps of time from the closing of the switch, and the voltage that was applied. */
export interface SurgePulse {
  /** volts */
  v: ArrayLike<number>;
  /** seconds from sample to sample */
  dtS: number;
  /** crest, volts */
  appliedV: number;
}

/** Least zero crossings that a ring frequency is told from. */
const FEWEST_CROSSINGS = 3;
/** A crossing between halves smaller than this many times the noise is none. */
const NOISE_FACTOR = 8;
/** Sixth differences: weights ±1 6 15 20, the root of the sum of their squares; quartile of a normal spread. */
const SIXTH = [1, -6, 15, -20, 15, -6, 1] as const;
const SIXTH_GAIN = Math.sqrt(924);
const QUARTILE = 0.6744897501960817;

/**
 * The record as it would stand at other times: linear between its samples.
 * @param stretch time of this record that belongs to one second of the other
 * @returns values at 0, dt, 2 dt … as far as both reach, at most `most`
 */
export function resampled({ v, dtS: own }: Pick<SurgePulse, 'v' | 'dtS'>, dtS: number, most: number, stretch = 1) {
  const last = v.length - 1;
  const step = (dtS * stretch) / own;
  // a sample that rounding puts a hair behind the last one is the last one
  const count = Math.min(most, Math.floor(last / step + 1e-9) + 1);
  const out = new Float64Array(count);
  for (let i = 0; i < count; i++) {
    const at = Math.min(last, i * step);
    const k = Math.min(last - 1, Math.floor(at));
    const part = at - k;
    out[i] = k < 0 ? (v[0] as number) : (v[k] as number) * (1 - part) + (v[k + 1] as number) * part;
  }
  return out;
}

/** How two records lie beside each other. */
export interface Area {
  /** 100 Σ|a − b| / Σ|a| over the samples of the first record that both reach */
  percent: number;
  samples: number;
  dtS: number;
}

/**
 * Error area ratio of `b` against the reference `a`, %. Records of unlike steps or lengths are brought to the times of the first, over
 * the span that both reach. Not symmetric: the reference is always named. Undefined where the reference holds nothing.
 * @param scaleB what every value of b is multiplied by
 * @param stretch time of b that belongs to one second of a (frequencies aligned: f_a / f_b)
 */
export function errorArea(
  a: Pick<SurgePulse, 'v' | 'dtS'>,
  b: Pick<SurgePulse, 'v' | 'dtS'>,
  scaleB = 1,
  stretch = 1,
): Area | undefined {
  const same = stretch === 1 && a.dtS === b.dtS;
  const other = same ? b.v : resampled(b, a.dtS, a.v.length, stretch);
  const n = Math.min(a.v.length, other.length);
  let off = 0;
  let all = 0;
  for (let i = 0; i < n; i++) {
    const x = a.v[i] as number;
    off += Math.abs(x - (other[i] as number) * scaleB);
    all += Math.abs(x);
  }
  return all > 0 ? { percent: (100 * off) / all, samples: n, dtS: a.dtS } : undefined;
}

/** From one pulse to the next of one wave: each divided by its own applied voltage, then the area against the one before. */
export const pulseToPulse = (before: SurgePulse, next: SurgePulse): Area | undefined =>
  errorArea(before, next, before.appliedV / next.appliedV);

/** Largest size of a record, volts. */
export function peakOf(v: ArrayLike<number>): number {
  let low = 0;
  let high = 0;
  for (let i = 0; i < v.length; i++) {
    const x = v[i] as number;
    if (x > high) high = x;
    else if (x < low) low = x;
  }
  return Math.max(high, -low);
}

/** Places of a long record at which its noise is looked at. */
const NOISE_PLACES = 256;

/** What of a record is noise or the step of the converter, volts: halves smaller than some times this cross nothing. */
export function noiseOf(v: ArrayLike<number>): number {
  const n = v.length;
  if (n < SIXTH.length + 1) return 0;
  const every = Math.max(1, Math.floor((n - 6) / NOISE_PLACES));
  const places = Math.floor((n - 7) / every) + 1;
  const sixth = new Float64Array(places);
  const values = new Float64Array(places);
  for (let p = 0; p < places; p++) {
    const i = p * every;
    let d = 0;
    for (let k = 0; k < 7; k++) d += (SIXTH[k] as number) * (v[i + k] as number);
    sixth[p] = Math.abs(d);
    values[p] = v[i] as number;
  }
  sixth.sort();
  const noise = (sixth[places >> 1] as number) / (QUARTILE * SIXTH_GAIN);
  // a converter of few steps repeats its values: its own step is noise as well
  values.sort();
  let repeats = 0;
  let step = Infinity;
  for (let p = 1; p < places; p++) {
    const gap = (values[p] as number) - (values[p - 1] as number);
    if (gap === 0) repeats += 1;
    else step = Math.min(step, gap);
  }
  return Math.max(noise, 2 * repeats > places && Number.isFinite(step) ? step / 2 : 0);
}

/**
 * Times at which a wave goes through zero, s: linear between samples, a sample of exactly zero counts once. Halves that do not stand
 * out of the noise cross nothing.
 */
export function crossingsOf({ v, dtS }: Pick<SurgePulse, 'v' | 'dtS'>): number[] {
  const least = NOISE_FACTOR * noiseOf(v);
  const out: number[] = [];
  let side = 0;
  let last = -1;
  let before = 0;
  // first and last change of sign since the wave stood out of the noise: it went through zero in their middle
  let first = -1;
  let latest = 0;
  for (let i = 0; i < v.length; i++) {
    const x = v[i] as number;
    if (x * before < 0) {
      // zeros between the two signs: it was there with the first of them
      latest = i - last > 1 ? last + 1 : last + before / (before - x);
      if (first < 0) first = latest;
    } else if (x === 0) continue;
    before = x;
    last = i;
    if (x >= least) {
      if (side < 0 && first >= 0) out.push(((first + latest) / 2) * dtS);
      side = 1;
      first = -1;
    } else if (-x >= least) {
      if (side > 0 && first >= 0) out.push(((first + latest) / 2) * dtS);
      side = -1;
      first = -1;
    }
  }
  return out;
}

/** (n − 1) / (2 (t_n − t_1)) from n crossings, Hz; undefined below three: the wave does not ring. */
export const ringFrequencyHz = (wave: Pick<SurgePulse, 'v' | 'dtS'>): number | undefined =>
  frequencyOf(crossingsOf(wave));

function frequencyOf(t: readonly number[]): number | undefined {
  const n = t.length;
  if (n < FEWEST_CROSSINGS) return undefined;
  const span = (t[n - 1] as number) - (t[0] as number);
  return span > 0 ? (n - 1) / (2 * span) : undefined;
}

/** What one reading of a record tells of it. */
export interface PulseFigures {
  /** ring frequency; undefined where it does not ring */
  hz: number | undefined;
  peakV: number;
  /** how much of its first swing it keeps at its second: 1 undamped, 0 where nothing comes back */
  swing: number;
}

export function figuresOf({ v, dtS }: Pick<SurgePulse, 'v' | 'dtS'>): PulseFigures {
  const peakV = peakOf(v);
  const t = crossingsOf({ v, dtS });
  const [from, to] = t;
  let most = 0;
  if (from !== undefined) {
    const end = to === undefined ? v.length : Math.min(v.length, Math.ceil(to / dtS));
    for (let i = Math.ceil(from / dtS); i < end; i++) most = Math.max(most, Math.abs(v[i] as number));
  }
  return { hz: frequencyOf(t), peakV, swing: peakV > 0 ? most / peakV : 0 };
}

/** A record against an earlier one of the same winding, frequencies aligned first. */
export interface Aligned {
  /** 100 (f_b − f_a)/f_a */
  shiftPercent: number;
  /** as the records stand */
  plainPercent: number;
  /** after b was laid on the times of a */
  alignedPercent: number;
  samples: number;
}

/** `a` earlier, `b` later: b'(t) = b(t f_a/f_b), then the area over what is left of the record. Undefined where one does not ring. */
export function alignedArea(a: Pick<SurgePulse, 'v' | 'dtS'>, b: Pick<SurgePulse, 'v' | 'dtS'>): Aligned | undefined {
  const [fa, fb] = [ringFrequencyHz(a), ringFrequencyHz(b)];
  if (fa === undefined || fb === undefined) return undefined;
  const plain = errorArea(a, b);
  const aligned = errorArea(a, b, 1, fa / fb);
  if (!plain || !aligned) return undefined;
  return {
    shiftPercent: (100 * (fb - fa)) / fa,
    plainPercent: plain.percent,
    alignedPercent: aligned.percent,
    samples: aligned.samples,
  };
}

/** How many samples stand at the end of the scale, one behind the other: more than two at the peak say that the converter clipped. */
export function clippedSamples(v: ArrayLike<number>): number {
  const peak = peakOf(v);
  if (peak === 0) return 0;
  let most = 0;
  let run = 0;
  for (let i = 0; i < v.length; i++) {
    run = Math.abs(Math.abs(v[i] as number) - peak) <= 1e-9 * peak ? run + 1 : 0;
    most = Math.max(most, run);
  }
  return most;
}
