import { findUnit, toBase, type Dimension } from '../quantity/units.ts';

/** One reading of a loaded motor, all at one moment. Base units; what was not read is left out. */
export interface LoadFrame {
  /** seconds from the start */
  t: number;
  /** line voltages U12 U23 U31 */
  lineV: readonly (number | undefined)[];
  /** line currents */
  lineA: readonly (number | undefined)[];
  watts?: number | undefined;
  hz?: number | undefined;
  torqueNm?: number | undefined;
  rpm?: number | undefined;
  windingC?: number | undefined;
  coolantC?: number | undefined;
  bearingC?: number | undefined;
  vibrationMmS?: number | undefined;
}

type Single = 'watts' | 'hz' | 'torqueNm' | 'rpm' | 'windingC' | 'coolantC' | 'bearingC' | 'vibrationMmS';
interface Known {
  names: RegExp;
  dimension: Dimension;
  /** unit that a bare figure has */
  usual: string;
  to: Single | readonly ['lineV' | 'lineA', number];
}

/** Channels by what they are called: short signs and plain words, capitals or not (common practice). */
const KNOWN: readonly Known[] = [
  { names: /^(u ?12|u ?ab|v ?12|u|v|voltage)$/i, dimension: 'voltage', usual: 'V', to: ['lineV', 0] },
  { names: /^(u ?23|u ?bc|v ?23)$/i, dimension: 'voltage', usual: 'V', to: ['lineV', 1] },
  { names: /^(u ?31|u ?ca|v ?31)$/i, dimension: 'voltage', usual: 'V', to: ['lineV', 2] },
  { names: /^(i ?1|i ?a|i|current)$/i, dimension: 'current', usual: 'A', to: ['lineA', 0] },
  { names: /^(i ?2|i ?b)$/i, dimension: 'current', usual: 'A', to: ['lineA', 1] },
  { names: /^(i ?3|i ?c)$/i, dimension: 'current', usual: 'A', to: ['lineA', 2] },
  { names: /^(p|p ?in|power|input power)$/i, dimension: 'power', usual: 'W', to: 'watts' },
  { names: /^(f|freq|frequency)$/i, dimension: 'frequency', usual: 'Hz', to: 'hz' },
  { names: /^(t|m|torque)$/i, dimension: 'torque', usual: 'N m', to: 'torqueNm' },
  { names: /^(n|rpm|speed)$/i, dimension: 'speed', usual: 'r/min', to: 'rpm' },
  { names: /^(winding|winding temperature|tw)$/i, dimension: 'temperature', usual: '°C', to: 'windingC' },
  { names: /^(coolant|ambient|air|ta)$/i, dimension: 'temperature', usual: '°C', to: 'coolantC' },
  { names: /^(bearing|bearing temperature|tb)$/i, dimension: 'temperature', usual: '°C', to: 'bearingC' },
  { names: /^(vibration|vib)$/i, dimension: 'velocity', usual: 'mm/s', to: 'vibrationMmS' },
];

export interface LoadChannel {
  name: string;
  unit: string;
}

/** What each channel is read as, in their order; undefined where it is none of a load run. */
const readAs = (channels: readonly LoadChannel[]): (Known | undefined)[] =>
  channels.map(({ name }) => KNOWN.find((k) => k.names.test(name.trim())));

/** Why channels tell no load test, in a sentence; undefined where they do. */
export function loadChannelsLack(channels: readonly LoadChannel[]): string | undefined {
  const known = readAs(channels);
  for (const [i, k] of known.entries()) {
    const unit = channels[i]?.unit.trim() ?? '';
    if (k && unit !== '' && !findUnit(k.dimension, unit))
      return `"${channels[i]?.name}" is in "${unit}": a ${k.dimension} is wanted there, as in ${k.usual}.`;
  }
  const has = (to: Known['to']) => known.some((k) => k && String(k.to) === String(to));
  const missing = (
    [
      ['a current (I1)', ['lineA', 0]],
      ['the power (P)', 'watts'],
      ['the torque (T)', 'torqueNm'],
      ['the speed (n)', 'rpm'],
      ['a voltage (U12)', ['lineV', 0]],
    ] as const
  ).flatMap(([says, to]) => (has(to) ? [] : [says]));
  const twice = known.findIndex((k, i) => k !== undefined && known.indexOf(k) !== i);
  if (twice >= 0) return `"${channels[twice]?.name}" stands twice: one column for each figure.`;
  return missing.length > 0
    ? `A load run needs ${missing.join(', ')}; it has ${channels.map((c) => c.name).join(', ')}.`
    : undefined;
}

/** Samples of channels as readings in base units. @param x seconds @param values one row a channel; null or NaN where one was lost */
export function loadFrames(
  channels: readonly LoadChannel[],
  x: ArrayLike<number>,
  values: readonly ArrayLike<number | null>[],
): LoadFrame[] {
  const known = readAs(channels).map((k, i) => {
    const unit = channels[i]?.unit.trim() || k?.usual || '';
    return k && findUnit(k.dimension, unit) ? { ...k, unit } : undefined;
  });
  return Array.from(x, (t, at): LoadFrame => {
    const lineV: (number | undefined)[] = [undefined, undefined, undefined];
    const lineA: (number | undefined)[] = [undefined, undefined, undefined];
    const single: Partial<Record<Single, number>> = {};
    known.forEach((k, i) => {
      const raw = values[i]?.[at];
      if (!k || raw === null || raw === undefined || !Number.isFinite(raw)) return;
      const base = toBase(raw, k.dimension, k.unit);
      if (typeof k.to === 'string') single[k.to] = base;
      else (k.to[0] === 'lineV' ? lineV : lineA)[k.to[1]] = base;
    });
    return { t, lineV, lineA, ...single };
  });
}

const said = (v: readonly (number | undefined)[]): number[] => v.filter((n): n is number => n !== undefined);
/** Mean of the lines that were read. */
export const meanRead = (v: readonly (number | undefined)[]): number | undefined => {
  const read = said(v);
  return read.length === 0 ? undefined : read.reduce((s, n) => s + n, 0) / read.length;
};
/** The largest line current. */
export const largestA = (f: Pick<LoadFrame, 'lineA'>): number | undefined => {
  const read = said(f.lineA);
  return read.length === 0 ? undefined : Math.max(...read);
};

/** What a reading tells at once: output, slip, efficiency input-output, power factor; each where it can be told. */
export function liveFigures(
  f: Pick<LoadFrame, 'torqueNm' | 'rpm' | 'watts' | 'lineV' | 'lineA'> & { hz?: number | undefined },
  poles: number | undefined,
): { outW?: number; slip?: number; efficiency?: number; powerFactor?: number } {
  const { torqueNm, rpm, watts, hz } = f;
  const [volts, amps] = [meanRead(f.lineV), meanRead(f.lineA)];
  const outW = torqueNm === undefined || rpm === undefined ? undefined : (torqueNm * rpm * Math.PI) / 30;
  const sync = hz === undefined || poles === undefined ? undefined : (120 * hz) / poles;
  const share = outW !== undefined && watts !== undefined && watts > 0 ? outW / watts : undefined;
  const apparent = volts === undefined || amps === undefined ? undefined : Math.sqrt(3) * volts * amps;
  return {
    ...(outW === undefined ? {} : { outW }),
    ...(sync !== undefined && sync > 0 && rpm !== undefined ? { slip: (sync - rpm) / sync } : {}),
    ...(share !== undefined && share > 0 ? { efficiency: share } : {}),
    ...(apparent !== undefined && apparent > 0 && watts !== undefined ? { powerFactor: watts / apparent } : {}),
  };
}
