import { appliedOf } from '../surge/surgeTrace.ts';
import { curveReadings } from '../evaluate/insulationCurve.ts';
import { formatNumber } from '../quantity/format.ts';

/** A run of an analyser as its trace tells it. */
export interface SentRun {
  what: string;
  channels: readonly { name: string; unit: string; role: string }[];
  /** seconds */
  x: readonly number[];
  values: readonly (readonly (number | null)[])[];
}

/** What each test is sent as. */
export const SENT_AS: Readonly<Record<string, string>> = {
  surge: 'surge',
  windingResistance: 'resistance',
  insulationResistance: 'insulation',
  highPotential: 'high potential',
  loadTest: 'load',
  inputOutput: 'load',
  temperatureRise: 'cooling',
};

/** Streams of one run are named after it, and then after what each is; runs and their streams in the order given. */
export function runsOfStreams<T extends { stream: string }>(streams: readonly T[]): { name: string; sent: T[] }[] {
  const out = new Map<string, T[]>();
  for (const s of streams) {
    const name = s.stream.replace(/, [^,]*$/, '');
    out.set(name, [...(out.get(name) ?? []), s]);
  }
  return [...out].map(([name, sent]) => ({ name, sent }));
}

/** Above this a resistance is an open circuit, Ω. */
const OPEN_OHM = 1e6;
/** A voltage below this share of the highest is a collapse, at the end of a test. */
const COLLAPSED = 0.5;

const numbers = (v: readonly (number | null)[] | undefined): number[] =>
  (v ?? []).filter((n): n is number => n !== null);
const mean = (v: readonly number[]): number => v.reduce((s, n) => s + n, 0) / v.length;
const shown = (n: number): string => formatNumber(n, 6);

/** What a form is filled in with from a run that an instrument sent; empty where the run tells nothing of the test. */
export function readingsOfRun(kind: string, run: SentRun): Record<string, string> {
  const channel = (name: string) => run.channels.findIndex((c) => c.name.toLowerCase() === name.toLowerCase());
  const of = (name: string) => numbers(run.values[channel(name)]);
  const out: Record<string, string> = {};
  const put = (field: string, value: number | undefined) => {
    if (value !== undefined && Number.isFinite(value)) out[field] = shown(value);
  };
  const warm = of('winding');
  if (warm.length > 0 && kind !== 'highPotential') put('windingC', mean(warm));
  if (kind === 'windingResistance')
    for (const [field, name] of [
      ['ab', 'T1-T2'],
      ['bc', 'T2-T3'],
      ['ca', 'T3-T1'],
    ] as const) {
      const read = of(name);
      if (read.length === 0) continue;
      const r = mean(read);
      if (r > OPEN_OHM) out[field] = `>${OPEN_OHM}`;
      else put(field, r);
    }
  if (kind === 'insulationResistance') {
    const at = channel('R');
    const pairs = run.x.flatMap((t, i) => {
      const r = run.values[at]?.[i];
      return r === null || r === undefined ? [] : [[t, r] as const];
    });
    const read = curveReadings(
      pairs.map(([t]) => t),
      pairs.map(([, r]) => r),
    );
    put('r30s', read.r30s);
    put('r1min', read.r1min);
    put('r10min', read.r10min);
    put('testV', appliedOf(run.channels[at]?.role ?? ''));
  }
  if (kind === 'highPotential') {
    const volts = of('U');
    const top = volts.length === 0 ? undefined : Math.max(...volts);
    put('testV', top);
    const amps = of('I');
    const collapsed = top !== undefined && (volts.at(-1) ?? 0) < COLLAPSED * top;
    out['outcome'] = collapsed ? 'fail' : 'pass';
    if (amps.length > 0) put('current', Math.max(...amps));
    if (top !== undefined) {
      const held = run.x.filter((_, i) => (run.values[channel('U')]?.[i] ?? 0) >= 0.97 * top);
      put('seconds', Math.max(0, (held.at(-1) ?? 0) - (held[0] ?? 0)));
    }
    out['voltage'] = run.channels[channel('U')]?.role === 'DC' ? 'DC' : 'AC';
  }
  return out;
}
