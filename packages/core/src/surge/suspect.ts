import { notAbove } from '../verdict.ts';
import type { Comparison } from './levels.ts';

export const SURGE_MODES = ['lead to lead', 'one against two', 'not known'] as const;
export type SurgeMode = (typeof SURGE_MODES)[number];
export const SURGE_CONNECTIONS = ['wye', 'delta', 'not known'] as const;
export type SurgeConnection = (typeof SURGE_CONNECTIONS)[number];

/** Phases as the leads are marked: U at T1, V at T2, W at T3. */
export const SURGE_PHASES = ['U', 'V', 'W'] as const;
export type SurgePhase = (typeof SURGE_PHASES)[number];

/** The three waves of a test, in their order. */
export const waveNames = (mode: SurgeMode): readonly [string, string, string] =>
  mode === 'one against two' ? ['U', 'V', 'W'] : ['UV', 'VW', 'WU'];

/** What the phase resistances say of the inductance of the faulty phase. */
export type Change = 'lost' | 'gained';

/** The phase resistance that stands out, against the mean of the other two. */
export interface ResistanceOdd {
  phase: number;
  percent: number;
}

/** The phase whose resistance lies furthest from the mean of the other two, and by how much. */
export function oddResistance(phasesOhm: readonly [number, number, number]): ResistanceOdd {
  const off = phasesOhm.map((r, i) => {
    const others = ((phasesOhm[(i + 1) % 3] as number) + (phasesOhm[(i + 2) % 3] as number)) / 2;
    return (100 * (r - others)) / others;
  });
  const phase = off.reduce((best, x, i) => (Math.abs(x) > Math.abs(off[best] as number) ? i : best), 0);
  return { phase, percent: off[phase] as number };
}

export interface Suspect {
  /** number of the odd wave: the one that both failing comparisons share */
  odd: number | undefined;
  /** the suspect phase, where the rules allow to name one */
  phase: SurgePhase | undefined;
  /** the odd wave is the healthy one */
  oddIsHealthy: boolean | undefined;
  change: Change;
  /** why no phase is named */
  why: string | undefined;
}

const none = (change: Change, why: string, odd?: number): Suspect => ({
  odd,
  phase: undefined,
  oddIsHealthy: undefined,
  change,
  why,
});

/** The wave that two failing comparisons of three share. */
export function oddWave(comparisons: readonly Comparison[]): number | undefined {
  const out = comparisons.filter((c) => c.out);
  const [a, b] = out;
  if (comparisons.length !== 3 || out.length !== 2 || !a || !b) return undefined;
  return [a.first, a.second].find((w) => w === b.first || w === b.second);
}

/**
 * The suspect phase of exactly two failing comparisons. In wye lead to lead and in delta one against two the odd wave is the one that
 * holds none of the faulty phase: it must ring lowest where inductance was lost, highest where it was gained; otherwise it is the worst
 * one and must ring at the other end. Three unlike waves, or a frequency that does not fit, name no phase.
 * Source: derived, on the model of the ideal gap (docs/derivations.md 43).
 * @param hz ring frequency of the three waves
 * @param odd the resistance that stands out, where it is more than the shop's limit; undefined: equal, or not known
 * @param nearPercent the odd wave within this of the mean of the other two says nothing
 */
export function suspectOf(x: {
  comparisons: readonly Comparison[];
  hz: readonly (number | undefined)[];
  mode: SurgeMode;
  connection: SurgeConnection;
  odd: ResistanceOdd | undefined;
  /** turn insulation broke down while the voltage rose */
  breaksDown: boolean;
  nearPercent: number;
}): Suspect {
  const change: Change = !x.breaksDown && x.odd && x.odd.percent > 0 ? 'gained' : 'lost';
  const odd = oddWave(x.comparisons);
  if (odd === undefined) return none(change, 'a phase is named only where exactly two comparisons are out');
  if (x.mode === 'not known' || x.connection === 'not known')
    return none(change, 'connection or kind of test is not known', odd);
  const [a, b, c] = x.hz;
  if (a === undefined || b === undefined || c === undefined) return none(change, 'not every wave rings', odd);
  const all = [a, b, c];
  const own = all[odd] as number;
  const others = all.filter((_, i) => i !== odd) as [number, number];
  const mean = (others[0] + others[1]) / 2;
  if (notAbove(100 * Math.abs(own / mean - 1), x.nearPercent))
    return none(change, 'the odd wave rings as the other two do', odd);
  const oddIsHealthy = (x.connection === 'wye') === (x.mode === 'lead to lead');
  const lowest = (change === 'lost') === oddIsHealthy;
  const fits = lowest ? own < Math.min(...others) : own > Math.max(...others);
  if (!fits)
    return none(
      change,
      `the odd wave should ring ${lowest ? 'lowest' : 'highest'} of the three and does not: the fault is not of one whole phase`,
      odd,
    );
  const at = oddIsHealthy ? (x.connection === 'wye' ? odd + 2 : odd + 1) : odd;
  const index = at % 3;
  if (!x.breaksDown && x.odd && x.odd.phase !== index)
    return none(
      change,
      `waves and resistances point to different phases (${SURGE_PHASES[index]}, ${SURGE_PHASES[x.odd.phase]})`,
      odd,
    );
  return { odd, phase: SURGE_PHASES[index], oddIsHealthy, change, why: undefined };
}

/** The two other phases, whose groups exchanged between them look the same. */
export const othersOf = (phase: SurgePhase): SurgePhase[] => SURGE_PHASES.filter((p) => p !== phase);
