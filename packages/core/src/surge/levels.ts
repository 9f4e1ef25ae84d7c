import { notAbove } from '../verdict.ts';
import { errorArea, pulseToPulse, type PulseFigures, type SurgePulse } from './wave.ts';

/** The records of one pair of leads (or one lead against the two others), as the voltage rose. */
export interface WaveRecord {
  name: string;
  pulses: readonly SurgePulse[];
}

/** Two waves of one voltage against each other; the first is the reference. */
export interface Comparison {
  /** numbers of the two waves, from 0 */
  first: number;
  second: number;
  areaPercent: number;
  /** samples and step of the window that was compared */
  samples: number;
  dtS: number;
  /** 100 (f_second − f_first)/f_first; undefined where one does not ring */
  shiftPercent: number | undefined;
  /** 100 (peak_second − peak_first)/peak_first */
  amplitudePercent: number;
  out: boolean;
}

/** Every comparison at one voltage. */
export interface SurgeLevel {
  appliedV: number;
  /** the pulse of each wave that was taken */
  pulses: number[];
  comparisons: Comparison[];
}

/** From one pulse to the next. */
export interface PulseStep {
  fromV: number;
  toV: number;
  areaPercent: number;
  out: boolean;
}

/** Voltages that stand for one: what a tester's setting strays. */
const SAME_VOLTAGE = 0.02;
export const sameVoltage = (a: number, b: number): boolean => notAbove(Math.abs(a - b), SAME_VOLTAGE * Math.max(a, b));

/** The comparisons of as many waves: of three first/second, second/third, third/first. */
function pairsOf(count: number): [number, number][] {
  if (count < 2) return [];
  return count === 2 ? [[0, 1]] : Array.from({ length: count }, (_, i): [number, number] => [i, (i + 1) % count]);
}

/**
 * Compares the waves at every voltage that all of them reached, the lowest first.
 * @param area limit of the area, %
 */
export function levelsOf(
  waves: readonly WaveRecord[],
  figures: readonly (readonly PulseFigures[])[],
  area: number,
): SurgeLevel[] {
  const pairs = pairsOf(waves.length);
  if (pairs.length === 0) return [];
  const [lead] = waves;
  const out: SurgeLevel[] = [];
  lead?.pulses.forEach((pulse, own) => {
    // the last record of that voltage counts
    if (lead.pulses.slice(own + 1).some((p) => sameVoltage(p.appliedV, pulse.appliedV))) return;
    const at = waves.map((w) => w.pulses.findLastIndex((p) => sameVoltage(p.appliedV, pulse.appliedV)));
    if (at.includes(-1)) return;
    const comparisons = pairs.flatMap(([first, second]): Comparison[] => {
      const [a, b] = [waves[first]?.pulses[at[first] as number], waves[second]?.pulses[at[second] as number]];
      const [f, g] = [figures[first]?.[at[first] as number], figures[second]?.[at[second] as number]];
      const found = a && b ? errorArea(a, b, a.appliedV / b.appliedV) : undefined;
      if (!a || !b || !f || !g || !found) return [];
      return [
        {
          first,
          second,
          areaPercent: found.percent,
          samples: found.samples,
          dtS: found.dtS,
          shiftPercent: f.hz === undefined || g.hz === undefined ? undefined : (100 * (g.hz - f.hz)) / f.hz,
          amplitudePercent: (100 * ((g.peakV * a.appliedV) / b.appliedV - f.peakV)) / f.peakV,
          out: !notAbove(found.percent, area),
        },
      ];
    });
    if (comparisons.length === pairs.length) out.push({ appliedV: pulse.appliedV, pulses: at, comparisons });
  });
  return out.sort((a, b) => a.appliedV - b.appliedV);
}

/** Every step of one wave from pulse to pulse, in the order in which they were taken. */
export const stepsOf = ({ pulses }: WaveRecord, most: number): PulseStep[] =>
  pulses.slice(1).flatMap((next, i): PulseStep[] => {
    const before = pulses[i] as SurgePulse;
    const found = pulseToPulse(before, next);
    if (!found) return [];
    return [
      {
        fromV: before.appliedV,
        toV: next.appliedV,
        areaPercent: found.percent,
        out: !notAbove(found.percent, most),
      },
    ];
  });
