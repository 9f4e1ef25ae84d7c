import { sameVoltage, type WaveRecord } from './levels.ts';
import { errorArea, type SurgePulse } from './wave.ts';

/** Places of the rotor that are compared, of each wave at most: the first ones. */
export const MOST_PLACES = 24;

/** Each wave at the place of the rotor where the waves are most alike. */
export interface BestPlaces {
  /** voltage at which the rotor was turned */
  appliedV: number;
  /** of each wave the one record of its best place */
  waves: WaveRecord[];
  /** every wave as the voltage was raised, the rotor standing: one record of each voltage; none where it was only turned */
  rising: WaveRecord[];
  /** places of the wave that has the fewest */
  places: number;
  /** largest area between two places of one wave, % */
  driftPercent: number;
}

const areaOf = (a: SurgePulse, b: SurgePulse): number => errorArea(a, b, a.appliedV / b.appliedV)?.percent ?? Infinity;

/**
 * Compares every place of the rotor of one wave with every place of the next, and takes the places at which the worst comparison is
 * least. A fault of the winding stays at every place; the rotor's effect does not. Undefined where a wave was not repeated at a voltage
 * that all of them have.
 */
export function bestPlaces(waves: readonly WaveRecord[]): BestPlaces | undefined {
  const [lead] = waves;
  const repeatsAt = (w: WaveRecord, volts: number) => w.pulses.filter((p) => sameVoltage(p.appliedV, volts));
  const least = (volts: number) => Math.min(...waves.map((w) => repeatsAt(w, volts).length));
  const appliedV = (lead?.pulses ?? [])
    .map((p) => p.appliedV)
    .reduce<number | undefined>((best, v) => (best === undefined || least(v) > least(best) ? v : best), undefined);
  if (waves.length < 2 || appliedV === undefined || least(appliedV) < 2) return undefined;
  const at = waves.map((w) => repeatsAt(w, appliedV).slice(0, MOST_PLACES));
  const next = (i: number) => (i + 1) % waves.length;
  const areas = at.map((own, i) => own.map((a) => (at[next(i)] ?? []).map((b) => areaOf(a, b))));
  const chosen = chosenOf(
    at.map((a) => a.length),
    areas,
  );
  const drift = at
    .flatMap((own) => own.flatMap((a, i) => own.slice(i + 1).map((b) => areaOf(a, b))))
    .filter(Number.isFinite);
  return {
    appliedV,
    waves: waves.map((w, i) => ({ name: w.name, pulses: [at[i]?.[chosen[i] ?? 0] as SurgePulse] })),
    rising: waves.map((w) => ({
      name: w.name,
      pulses: w.pulses.filter((p, k) => {
        const after = w.pulses[k + 1];
        // of the places, the one at which the rotor stood when the voltage was raised
        if (sameVoltage(p.appliedV, appliedV)) return after !== undefined && !sameVoltage(after.appliedV, appliedV);
        return !w.pulses.slice(k + 1).some((q) => sameVoltage(q.appliedV, p.appliedV));
      }),
    })),
    places: least(appliedV),
    driftPercent: Math.max(0, ...drift),
  };
}

/** The place of each wave for which the largest area of a round of comparisons is least. */
function chosenOf(counts: readonly number[], areas: readonly (readonly (readonly number[])[])[]): number[] {
  let best: { places: number[]; worst: number } = { places: counts.map(() => 0), worst: Infinity };
  const walk = (places: number[], worst: number): void => {
    if (worst >= best.worst) return;
    const i = places.length;
    if (i === counts.length) {
      // two waves have one comparison; three and more close the round
      const close = counts.length > 2 ? (areas[i - 1]?.[places[i - 1] ?? 0]?.[places[0] ?? 0] ?? Infinity) : 0;
      const all = Math.max(worst, close);
      if (all < best.worst) best = { places, worst: all };
      return;
    }
    for (let k = 0; k < (counts[i] ?? 0); k++)
      walk([...places, k], i === 0 ? 0 : Math.max(worst, areas[i - 1]?.[places[i - 1] ?? 0]?.[k] ?? Infinity));
  };
  walk([], 0);
  return best.places;
}
