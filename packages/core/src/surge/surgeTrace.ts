import { CalculationInputError } from '../calculation.ts';
import type { SurgeWaves } from '../evaluate/testKind.ts';
import { formatNumber } from '../quantity/format.ts';
import { wavesInOrder } from './surgeCsv.ts';

/** A trace of waves as it is kept: every channel one pulse, named after its wave, its role the voltage that was applied. */
export interface WaveTrace {
  channels: { name: string; unit: string; role: string }[];
  /** seconds from the closing of the switch */
  x: Float64Array;
  values: Float64Array[];
}

/** What a channel's role says of the voltage applied, V. */
export const appliedOf = (role: string): number | undefined => {
  const found = /^([\d.]+) ?(k?)V$/i.exec(role.trim());
  return found ? Number(found[1]) * (found[2] ? 1000 : 1) : undefined;
};

/** Waves as traces to be kept: one for each wave and step of time. */
export function tracesOfWaves(waves: readonly SurgeWaves[]): WaveTrace[] {
  return waves.flatMap((w, i) => {
    const alike = new Map<string, SurgeWaves['pulses']>();
    for (const p of w.pulses) {
      const key = `${p.dtUs}/${p.v.length}`;
      alike.set(key, [...(alike.get(key) ?? []), p]);
    }
    return [...alike.values()].map((pulses): WaveTrace => {
      const { dtUs = 1, v = [] } = pulses[0] ?? {};
      return {
        channels: pulses.map((p) => ({ name: w.name ?? `wave ${i + 1}`, unit: 'V', role: `${p.appliedV} V` })),
        x: Float64Array.from(v, (_, k) => k * dtUs * 1e-6),
        values: pulses.map((p) => Float64Array.from(p.v)),
      };
    });
  });
}

/**
 * The waves of traces, as an instrument sent them or as they were kept. Channels of one name are pulses of one wave.
 * @throws CalculationInputError for a trace that holds no waves
 */
export function wavesOfTraces(traces: readonly WaveTrace[]): SurgeWaves[] {
  const refuse = (message: string): never => {
    throw new CalculationInputError([{ field: 'traces', message }]);
  };
  const out: SurgeWaves[] = [];
  for (const { channels, x, values } of traces)
    channels.forEach(({ name, unit, role }, c) => {
      if (unit !== 'V' && unit !== 'kV') refuse(`Channel ${name} is in ${unit}; a wave is in V or kV.`);
      const read = values[c] ?? new Float64Array();
      const v = Array.from(read, (n) => n * (unit === 'kV' ? 1000 : 1));
      if (v.length < 5 || v.some((n) => Number.isNaN(n)))
        refuse(`Channel ${name} has lost samples or fewer than five.`);
      const dtUs = (1e6 * ((x[x.length - 1] ?? 0) - (x[0] ?? 0))) / (x.length - 1);
      if (!(dtUs > 0)) refuse(`The times of ${name} do not rise.`);
      const peak = v.reduce((m, n) => Math.max(m, Math.abs(n)), 0);
      const appliedV = appliedOf(role) ?? peak;
      if (!(appliedV >= 1)) refuse(`Channel ${name} says ${formatNumber(appliedV)} V were applied: at least 1 V.`);
      const known = out.find((w) => w.name === name);
      if (known) known.pulses.push({ appliedV, dtUs, v });
      else out.push({ name, pulses: [{ appliedV, dtUs, v }] });
    });
  if (out.length > 3)
    refuse(`These are ${out.length} waves (${out.map((w) => w.name).join(', ')}); a test has at most three.`);
  for (const w of out) w.pulses.sort((a, b) => a.appliedV - b.appliedV);
  return wavesInOrder(out);
}
