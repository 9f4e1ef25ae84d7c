import { z } from 'zod';
import { defineCalculation, refuse } from '../calculation.ts';
import { add, polar, sizeOf, subtract, type Complex } from './complex.ts';
import type { Phase } from './layoutTypes.ts';
import { windingRecordSchema, type WindingRecord } from './record.ts';

/** A bar: the slot it lies in and whether it is the top one (nearer the gap) or the bottom one. */
export interface Bar {
  slot: number;
  layer: 'top' | 'bottom';
}

/** The bars of one phase in the order in which the current meets them. */
export interface WavePhase {
  phase: Phase;
  /** tours of the first half, from the ring on */
  first: Bar[][];
  /** tours of the second half, which runs backward, to the star */
  second: Bar[][];
}

export interface BarWave {
  slots: number;
  poles: number;
  farPitch: number;
  ringPitch: number;
  /** ring-end step where a tour would close on itself */
  shortPitch: number;
  parallel: boolean;
  phases: WavePhase[];
  turnsPerPhase: number;
  windingFactor: number;
  /** joints at the ring end that are not of the regular pitch */
  shortJoints: number;
}

/**
 * Two bars a slot joined into waves: q tours of p double steps forward, one jumper, q tours backward. Source: Richter,
 * Ankerwicklungen; derived (docs/derivations.md, bar waves).
 * @param farPitch y₁ in slots; a pole pitch where left out
 * @throws CalculationInputError where q is not whole, the pitch cannot be, or a bar would be met twice
 */
export function barWave(x: {
  slots: number;
  poles: number;
  farPitch?: number | undefined;
  /** both halves between ring and star instead of one after the other */
  parallel?: boolean | undefined;
  /** entries a third of the circumference apart instead of 2S/(3P) slots */
  thirds?: boolean | undefined;
}): BarWave {
  const { slots: S, poles: P } = x;
  const p = P / 2;
  const q = S / (3 * P);
  const tau = S / P;
  if (!Number.isInteger(q))
    refuse(
      'slots',
      `A bar wave wants a whole number of slots per pole and phase; ${S} slots and ${P} poles give ${q.toFixed(2)}.`,
    );
  const y1 = x.farPitch ?? tau;
  if (y1 < tau - q || y1 > tau)
    refuse('farPitchSlots', `The far-end pitch is ${tau - q} to ${tau} slots here, not ${y1}.`);
  if (x.thirds && p % 3 === 0)
    refuse(
      'thirds',
      `With ${p} pole pairs entries a third of the circumference apart lie in one phase; take them ${2 * q} slots apart.`,
    );
  const wrap = (slot: number) => ((((slot - 1) % S) + S) % S) + 1;
  const phases = (['A', 'B', 'C'] as const).map((phase, k): WavePhase => {
    // where p mod 3 = 2 the circumference meets the phases the other way round the circumference
    const turn = x.thirds ? ((p % 3 === 2 ? (3 - k) % 3 : k) * S) / 3 : k * 2 * q;
    const first: Bar[][] = [];
    const second: Bar[][] = [];
    for (let tour = 0; tour < q; tour++) {
      const forward: Bar[] = [];
      const backward: Bar[] = [];
      for (let i = 0; i < p; i++) {
        const s = q - tour + turn + 2 * tau * i;
        forward.push({ slot: wrap(s), layer: 'top' }, { slot: wrap(s + y1), layer: 'bottom' });
        const b = 1 + (y1 - tau) + tour + turn - 2 * tau * i;
        backward.push({ slot: wrap(b), layer: 'bottom' }, { slot: wrap(b - y1), layer: 'top' });
      }
      first.push(forward);
      second.push(backward);
    }
    return { phase, first, second };
  });
  const seen = new Set(phases.flatMap((w) => waveBars(w).map((b) => `${b.slot}${b.layer}`)));
  if (seen.size !== 2 * S)
    refuse('farPitchSlots', `${2 * S - seen.size} of ${2 * S} bars would be met twice or never with these pitches.`);
  const degrees = (180 * P) / S;
  // the current of every second bar comes back to the ring end
  const emfs = phases.map((w) =>
    waveBars(w).reduce<Complex>((sum, b, i) => (i % 2 === 0 ? add : subtract)(sum, polar(1, (b.slot - 1) * degrees)), {
      re: 0,
      im: 0,
    }),
  );
  return {
    slots: S,
    poles: P,
    farPitch: y1,
    ringPitch: 2 * tau - y1,
    shortPitch: 2 * tau - y1 - 1,
    parallel: x.parallel ?? false,
    phases,
    turnsPerPhase: x.parallel ? S / 6 : S / 3,
    windingFactor: sizeOf(emfs[0] ?? { re: 0, im: 0 }) / ((2 * S) / 3),
    shortJoints: 3 * 2 * (q - 1),
  };
}

/** Every bar of a phase, first half then second. */
export const waveBars = (w: WavePhase): Bar[] => [...w.first.flat(), ...w.second.flat()];

/** A tour as it is said at the bench: "4t 16b 28t 40b". */
export const sayTour = (bars: readonly Bar[]): string =>
  bars.map((b) => `${b.slot}${b.layer === 'top' ? 't' : 'b'}`).join(' ');

/** The jumper between the halves of a phase: from its last bar of the first half to the first of the second. */
export function jumperOf(w: WavePhase): readonly [Bar, Bar] | undefined {
  const from = w.first.at(-1)?.at(-1);
  const to = w.second[0]?.[0];
  return from && to ? [from, to] : undefined;
}

/** The wave of a record; undefined where it is no bar rotor or cannot be laid. */
export function waveOf(record: WindingRecord): BarWave | undefined {
  if (record.kind !== 'bar-rotor' || record.slots === undefined || record.poles === undefined) return undefined;
  if ((record.barsPerSlot ?? 2) !== 2) return undefined;
  try {
    return barWave({
      slots: record.slots,
      poles: record.poles,
      farPitch: record.farPitchSlots,
      parallel: record.circuits === 2,
    });
  } catch {
    return undefined;
  }
}

/** Calculation `winding.barWave`. */
export const windingBarWave = defineCalculation({
  id: 'winding.barWave',
  version: 1,
  title: 'Bar wave of a slip-ring rotor: tours, jumper, star ends, short joints',
  sources: ['Richter, Ankerwicklungen', 'derived'],
  input: z.strictObject({
    record: windingRecordSchema,
    thirds: z.boolean().default(false).describe('ring entries a third of the circumference apart'),
  }),
  output: z.object({
    phases: z.array(z.unknown()),
    farPitch: z.number(),
    ringPitch: z.number(),
    shortPitch: z.number(),
    turnsPerPhase: z.number(),
    windingFactor: z.number(),
    shortJoints: z.number(),
    parallel: z.boolean(),
    slots: z.number(),
    poles: z.number(),
  }),
  example: { record: { kind: 'bar-rotor', slots: 48, poles: 4, barsPerSlot: 2, circuits: 1, connection: 'wye' } },
  compute: ({ record, thirds }) => {
    if (record.kind !== 'bar-rotor') refuse('record.kind', 'A bar wave is for wound rotors of bars.');
    if (record.slots === undefined || record.poles === undefined)
      return refuse('record.slots', 'Slots and poles are needed.');
    if ((record.barsPerSlot ?? 2) !== 2) refuse('record.barsPerSlot', 'The wave is worked out for two bars in a slot.');
    return barWave({
      slots: record.slots,
      poles: record.poles,
      farPitch: record.farPitchSlots,
      parallel: record.circuits === 2,
      thirds,
    });
  },
});
