import { formatNumber } from '../quantity/format.ts';
import { add, polar, scale, sizeOf, subtract, type Complex } from '../winding/complex.ts';
import { vectorOf, type Vector } from './planes.ts';
import type { BalanceSetUp } from './setUp.ts';

/** What a stand sends of a run: size and angle of both bearings (or planes), and its speed. */
export const STAND_CHANNELS = ['A', 'A phase', 'B', 'B phase', 'speed'] as const;

/** A run as its samples tell it: the mean of what stood still, and how far single samples stray. */
export interface StandRun {
  readings: Vector[];
  rpm: number | undefined;
  /** largest distance of one sample from the mean, of the mean's size, % */
  strayPercent: number;
  samples: number;
}
/** Samples at other speeds are of running up or down. */
const AT_SPEED = 0.02;
const FEWEST = 3;
const ZERO: Complex = { re: 0, im: 0 };

/**
 * A run of a stand from its channels (named as `STAND_CHANNELS`; one plane leaves B out). Angles are averaged as vectors, so 359° and 1°
 * are 0°. Samples off the balancing speed are left out.
 * @returns the run, or what is wrong with it in a sentence
 */
export function standRunOf(
  channels: readonly { name: string; unit: string }[],
  columns: readonly ArrayLike<number>[],
  setUp: Pick<BalanceSetUp, 'balancingRpm' | 'readings' | 'planes' | 'unbalanceUnit'>,
  unit: string,
): StandRun | { wrong: string } {
  const at = (name: string): number => channels.findIndex((c) => c.name.trim().toLowerCase() === name.toLowerCase());
  const want = setUp.readings === 'unbalance per plane' ? setUp.planes.length : 2;
  const pairs = [
    [at('A'), at('A phase')],
    [at('B'), at('B phase')],
  ].slice(0, want) as [number, number][];
  const lost = pairs.flatMap(([a, p], i) => [
    ...(a < 0 ? [STAND_CHANNELS[2 * i]] : []),
    ...(p < 0 ? [STAND_CHANNELS[2 * i + 1]] : []),
  ]);
  if (lost.length > 0) return { wrong: `The stand sent no channel ${lost.join(', ')}.` };
  const meant = setUp.readings === 'unbalance per plane' ? setUp.unbalanceUnit : unit.trim();
  const strange = pairs
    .map(([a]) => channels[a]?.unit.trim() ?? '')
    .find((u) => u !== '' && meant !== '' && u !== meant);
  if (strange !== undefined) return { wrong: `The stand sends ${strange}; this balance reads in ${meant}.` };
  const speedAt = at('speed');
  const n = columns[pairs[0]?.[0] ?? 0]?.length ?? 0;
  const speed = (k: number): number => (speedAt < 0 ? setUp.balancingRpm : Number(columns[speedAt]?.[k] ?? NaN));
  const good: number[] = [];
  for (let k = 0; k < n; k++) {
    const whole = pairs.every(([a, p]) => Number.isFinite(columns[a]?.[k]) && Number.isFinite(columns[p]?.[k]));
    if (whole && Math.abs(speed(k) / setUp.balancingRpm - 1) <= AT_SPEED + 1e-12) good.push(k);
  }
  if (good.length < FEWEST)
    return {
      wrong: `Fewer than ${FEWEST} samples of this run are whole and at ${formatNumber(setUp.balancingRpm)} r/min.`,
    };
  let stray = 0;
  const readings = pairs.map(([a, p]) => {
    const z = good.map((k) => polar(Number(columns[a]?.[k]), Number(columns[p]?.[k])));
    const mean = scale(z.reduce(add, ZERO), 1 / z.length);
    const size = sizeOf(mean);
    if (size > 0) stray = Math.max(stray, ...z.map((x) => (100 * sizeOf(subtract(x, mean))) / size));
    return vectorOf(mean);
  });
  return {
    readings,
    rpm: speedAt < 0 ? undefined : good.reduce((s, k) => s + speed(k), 0) / good.length,
    strayPercent: stray,
    samples: good.length,
  };
}

/** Lines `A;A phase;B;B phase;speed` of a file, the names first, in any order; comma or semicolon or tab between. */
export function standCsv(
  text: string,
  setUp: Pick<BalanceSetUp, 'balancingRpm' | 'readings' | 'planes' | 'unbalanceUnit'>,
  unit: string,
): StandRun | { wrong: string } {
  const lines = text.split(/\r?\n/).filter((l) => l.trim() !== '');
  const [head = ''] = lines;
  const between = head.includes(';') ? ';' : head.includes('\t') ? '\t' : ',';
  const named = head.split(between).map((x) => /^\s*"?([^("]*?)\s*(?:\(([^)]*)\))?\s*"?\s*$/.exec(x));
  const channels = named.map((m) => ({ name: m?.[1] ?? '', unit: m?.[2] ?? '' }));
  const columns = channels.map((_, c) =>
    lines.slice(1).map((l) => {
      const cell = (l.split(between)[c] ?? '').trim();
      // a comma is a decimal point where it does not part the cells
      return cell === '' ? NaN : Number(between === ',' ? cell : cell.replace(',', '.'));
    }),
  );
  return standRunOf(channels, columns, setUp, unit);
}
