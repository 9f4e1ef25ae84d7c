import { z } from 'zod';
import { defineCalculation, refuse } from '../calculation.ts';
import { BELTS_60, type Coil, type Phase, type PlacedCoil, type Sign, type SlotSide } from './layoutTypes.ts';

/** A coil side fills its slot or half of it. */
export const SIDE_KINDS = ['full', 'half'] as const;
export type SideKind = (typeof SIDE_KINDS)[number];

/**
 * A group of a mixed single and double layer that has the slot contents of a double-layer lap of integer q, T turns and a span of
 * τ − e slots: e inner half coils, the rest full; innermost span τ − e − q + 1, then two more each. Source: derived
 * (docs/derivations.md, mixed layers).
 */
export function mixedGroup(x: { slots: number; poles: number; spanSlots: number; turns: number }) {
  const q = x.slots / (3 * x.poles);
  const tau = x.slots / x.poles;
  const e = tau - x.spanSlots;
  if (!Number.isInteger(q))
    refuse(
      'slots',
      `Mixed layers want a whole number of slots per pole and phase; ${x.slots} slots and ${x.poles} poles give ${q.toFixed(2)}.`,
    );
  if (e < 0 || e > q)
    refuse('spanSlots', `The lap this comes from spans ${tau - q} to ${tau} slots here, not ${x.spanSlots}.`);
  const m = e + Math.ceil((q - e) / 2);
  const odd = (q - e) % 2 === 1;
  return Array.from({ length: m }, (_, i) => {
    const half = i < e || (odd && i === m - 1);
    return {
      spanSlots: tau - e - q + 1 + 2 * i,
      turns: half ? x.turns : 2 * x.turns,
      side: (half ? 'half' : 'full') as SideKind,
    };
  }).reverse();
}

/**
 * Places concentric groups of full and half coils, one for every belt; slot by slot a full side counts one, a half side a half.
 * @throws CalculationInputError where a slot is not filled exactly
 */
export function placeMixed(input: {
  slots: number;
  poles: number;
  spansSlots: readonly number[];
  sideKinds: readonly SideKind[];
}): PlacedCoil[] {
  const { slots: S, poles: P, spansSlots: spans, sideKinds } = input;
  const q = S / (3 * P);
  if (!Number.isInteger(q))
    refuse(
      'slots',
      `Mixed layers want a whole number of slots per pole and phase; ${S} slots and ${P} poles give ${q.toFixed(2)}.`,
    );
  if (sideKinds.length !== spans.length)
    refuse(
      'sideKinds',
      `${sideKinds.length} coils are said full or half, ${spans.length} spans: say it for every coil of a group, outermost first.`,
    );
  const outer = Math.max(...spans);
  if (spans.some((y) => (outer - y) % 2 !== 0))
    refuse('spansSlots', `Coils in each other differ by two slots each: ${spans.join(', ')} cannot lie in one group.`);
  const filled = new Array<number>(S).fill(0);
  const list: PlacedCoil[] = [];
  for (let k = 0; k < 3 * P; k++) {
    const [phase, sign] = BELTS_60[k % 6] as readonly [Phase, Sign];
    spans.forEach((y, j) => {
      const go = k * q + (outer - y) / 2;
      list.push({ group: k + 1, phase, sign, go, back: go + y });
      const share = sideKinds[j] === 'half' ? 0.5 : 1;
      for (const slot of [go % S, (go + y) % S]) filled[slot] = (filled[slot] ?? 0) + share;
    });
  }
  const wrong = filled.findIndex((share) => share !== 1);
  if (wrong >= 0)
    refuse(
      'sideKinds',
      `Slot ${wrong + 1} would be ${filled[wrong] ?? 0} filled instead of once: a full side counts 1, a half side ½. Look at spans and at which coils are full.`,
    );
  return list;
}

/** Coil sides of a mixed winding: a full side alone, of two halves the one that goes in lies nearer the bore. */
export function mixedSides(coils: readonly Coil[], slots: number): SlotSide[] {
  const all = coils.flatMap((c): SlotSide[] => [
    { slot: c.goSlot, layer: 'single', coil: c.number, side: 'go', phase: c.phase, sign: c.sign },
    { slot: c.returnSlot, layer: 'single', coil: c.number, side: 'return', phase: c.phase, sign: -c.sign as Sign },
  ]);
  return Array.from({ length: slots }, (_, s) => all.filter((x) => x.slot === s + 1)).flatMap((here) =>
    here.length < 2
      ? here
      : [...here]
          .sort((a, b) => (a.side === b.side ? a.coil - b.coil : a.side === 'go' ? -1 : 1))
          .map((x, i): SlotSide => ({ ...x, layer: i === 0 ? 'top' : 'bottom' })),
  );
}

/** Calculation `winding.mixedLayers`. */
export const windingMixedLayers = defineCalculation({
  id: 'winding.mixedLayers',
  version: 1,
  title: 'Mixed single and double layer: the group with the slot contents of a double-layer lap',
  sources: ['derived'],
  input: z.strictObject({
    slots: z.int().min(6).max(144),
    poles: z.int().min(2).max(48).multipleOf(2),
    spanSlots: z.int().min(1).describe('of the double-layer lap'),
    turns: z.number().positive().default(1).describe('of a coil of the lap'),
  }),
  output: z.object({
    group: z.array(z.object({ spanSlots: z.number(), turns: z.number(), side: z.enum(SIDE_KINDS) })),
    coils: z.number(),
    lapCoils: z.number(),
  }),
  example: { slots: 36, poles: 4, spanSlots: 8, turns: 22 },
  compute: (x) => {
    const group = mixedGroup(x);
    return { group, coils: 3 * x.poles * group.length, lapCoils: x.slots };
  },
});
