import { z } from 'zod';
import { defineCalculation, refuse } from '../calculation.ts';
import type { LayoutInput, PlacedCoil, Sign } from './layoutTypes.ts';

/**
 * Main and auxiliary of a single-phase stator: a group of concentric coils on every pole (every second when consequent),
 * axes half a pole pitch apart unless the record says otherwise. The first main coil starts in slot 1.
 * Source: Veinott, Theory and Design of Small Induction Motors.
 * @throws CalculationInputError when the spans and axes do not fall on slots
 */
export function placeSinglePhase(input: LayoutInput): PlacedCoil[] {
  const { slots: S, poles: P } = input;
  if (S % P !== 0)
    refuse(
      'slots',
      `${S} slots do not divide by ${P} poles; a single-phase winding is laid with whole slots per pole.`,
    );
  const pitch = S / P;
  const main = input.spansSlots ?? (input.spanSlots === undefined ? undefined : [input.spanSlots]);
  if (!main || main.length === 0)
    refuse('spansSlots', 'Give the span of every main coil of a pole, outermost first: 1-9, 2-8, 3-7.');
  const step = input.poleGroups === 'consequent' ? 2 : 1;
  const out: PlacedCoil[] = [];
  const lay = (
    field: string,
    phase: 'A' | 'B',
    spans: readonly number[],
    turns: readonly number[],
    axis: number,
    firstGroup: number,
  ): number => {
    if (turns.length !== 1 && turns.length !== spans.length)
      refuse(
        field,
        `${turns.length} turn counts for ${spans.length} coils of a pole; give one for all or one for each, outermost first.`,
      );
    let group = firstGroup;
    for (let pole = 0; pole < P; pole += step) {
      group += 1;
      spans.forEach((y, i) => {
        if (y >= S) refuse(field, `A span of ${y} slots does not fit a core of ${S} slots.`);
        const start = axis + pole * pitch - y / 2;
        if (!Number.isInteger(start))
          refuse(
            field,
            `A coil 1-${y + 1} cannot be centred on its pole here: spans of one winding must all be odd or all be even, and with ${pitch} slots per pole main and auxiliary need ${pitch % 2 === 1 ? 'one odd and one even spans' : 'the same kind of spans'} to stand half a pole apart.`,
          );
        const go = ((start % S) + S) % S;
        const sign: Sign = step === 2 || pole % 2 === 0 ? 1 : -1;
        out.push({
          group,
          phase,
          sign,
          go,
          back: go + y,
          turns: turns.length === 1 ? (turns[0] ?? 1) : (turns[i] ?? 1),
        });
      });
    }
    return group;
  };
  const axis = (main[0] ?? 1) / 2;
  const last = lay('spansSlots', 'A', main, input.turns, axis, 0);
  if (input.auxiliary) {
    const shift = input.auxiliary.shiftSlots ?? pitch / 2;
    lay('auxSpansSlots', 'B', input.auxiliary.spansSlots, input.auxiliary.turns, axis + shift, last);
  }
  return out;
}

export interface GradedCoil {
  spanSlots: number;
  percent: number;
  turns: number;
}

/**
 * Sinusoidal turns of one pole: a coil of span y gets turns in proportion to sin(90° y/τ), a full-pitch coil half of that
 * because its slots are shared with the neighbour pole. Rounded so that the total stays.
 * Source: Veinott, Theory and Design of Small Induction Motors.
 * @param spans coil spans in slots, outermost first
 * @returns per cent and whole turns of each coil and the effective factor Σ N sin / Σ N (of the exact shares)
 */
export function sinusoidalTurns(
  pitchSlots: number,
  spans: readonly number[],
  total: number,
): { coils: GradedCoil[]; factor: number } {
  const sine = (y: number) => Math.sin((Math.PI / 2) * (y / pitchSlots));
  const weights = spans.map((y) => sine(y) * (Math.abs(y - pitchSlots) < 1e-9 ? 0.5 : 1));
  const sum = weights.reduce((a, b) => a + b, 0);
  const exact = weights.map((w) => (total * w) / sum);
  const turns = exact.map((x) => Math.round(x));
  for (let left = total - turns.reduce((a, b) => a + b, 0); left !== 0; left -= Math.sign(left)) {
    // correct the coil that is furthest on the wrong side of its exact share
    let worst = 0;
    exact.forEach((x, i) => {
      const gain = (x - (turns[i] ?? 0)) * Math.sign(left);
      if (gain > ((exact[worst] ?? 0) - (turns[worst] ?? 0)) * Math.sign(left)) worst = i;
    });
    turns[worst] = (turns[worst] ?? 0) + Math.sign(left);
  }
  return {
    coils: spans.map((y, i) => ({ spanSlots: y, percent: (100 * (weights[i] ?? 0)) / sum, turns: turns[i] ?? 0 })),
    factor: spans.reduce((a, y, i) => a + (weights[i] ?? 0) * sine(y), 0) / sum,
  };
}

/** Spans of `coils` concentric coils on one pole, outermost first: full pitch outside, or one less. */
export function gradedSpans(pitchSlots: number, coils: number, fullPitch: boolean): number[] {
  const outer = fullPitch ? pitchSlots : pitchSlots - 1;
  return Array.from({ length: coils }, (_, i) => outer - 2 * i);
}

/** Calculation `winding.sinusoidalTurns`. */
export const windingSinusoidalTurns = defineCalculation({
  id: 'winding.sinusoidalTurns',
  version: 1,
  title: 'Sinusoidal turns of the concentric coils of a single-phase pole',
  sources: ['Veinott, Theory and Design of Small Induction Motors'],
  input: z.strictObject({
    slots: z.int().min(6).max(144),
    poles: z.int().min(2).max(48).multipleOf(2),
    coils: z.int().min(1).max(20).describe('coils wanted on a pole'),
    totalTurns: z.int().min(1).max(5000).describe('turns of one pole'),
    fullPitch: z.boolean().default(false).describe('outermost coil spans a whole pole pitch, sharing its slots'),
  }),
  output: z.object({
    coils: z.array(z.object({ spanSlots: z.number(), percent: z.number(), turns: z.number() })),
    factor: z.number().describe('effective factor of the exact shares'),
    factorOfTurns: z.number().describe('effective factor of the whole turns'),
  }),
  example: { slots: 36, poles: 4, coils: 4, totalTurns: 100 },
  compute: (x, note) => {
    if (x.slots % x.poles !== 0)
      refuse(
        'slots',
        `${x.slots} slots do not divide by ${x.poles} poles; sinusoidal turns need whole slots per pole.`,
      );
    const pitch = x.slots / x.poles;
    const spans = gradedSpans(pitch, x.coils, x.fullPitch);
    if ((spans[spans.length - 1] ?? 0) < 1)
      refuse(
        'coils',
        `${x.coils} coils do not fit a pole pitch of ${pitch} slots; at most ${Math.ceil((x.fullPitch ? pitch : pitch - 1) / 2)}.`,
      );
    const made = sinusoidalTurns(pitch, spans, x.totalTurns);
    const whole = made.coils.reduce((a, c) => a + c.turns, 0);
    const factorOfTurns =
      made.coils.reduce((a, c) => a + c.turns * Math.sin((Math.PI / 2) * (c.spanSlots / pitch)), 0) / whole;
    note?.({
      name: 'Effective factor',
      symbol: 'k',
      formula: 'Σ N_i sin(90° y_i/τ) / Σ N_i',
      numbers: `(${made.coils.map((c) => `${c.turns} · sin(90° · ${c.spanSlots}/${pitch})`).join(' + ')}) / ${made.coils.reduce((sum, c) => sum + c.turns, 0)}`,
      value: factorOfTurns,
      unit: '',
      source: 'Veinott',
    });
    return { ...made, factorOfTurns };
  },
});
