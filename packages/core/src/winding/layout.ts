import { z } from 'zod';
import { defineCalculation, refuse } from '../calculation.ts';
import { divisorsOf, gcd, slotsPerPolePerPhase } from './integers.ts';
import { add, polar, sizeOf, subtract, type Complex } from './complex.ts';

export const PHASES = ['A', 'B', 'C'] as const;
export type Phase = (typeof PHASES)[number];
export type Sign = 1 | -1;

export const layoutInputSchema = z.strictObject({
  slots: z.int().min(6).max(144),
  poles: z.int().min(2).max(48).multipleOf(2).describe('number of poles, never pairs'),
  layers: z.union([z.literal(1), z.literal(2)]).describe('coil sides per slot'),
  form: z.enum(['lap', 'concentric']),
  poleGroups: z
    .enum(['every-pole', 'consequent'])
    .default('every-pole')
    .describe('consequent: one group per phase and pole pair (also half-coiled single layer)'),
  spanSlots: z
    .int()
    .min(1)
    .optional()
    .describe(
      'coil span in slots ("1-9" is 8); concentric: mean span of a group; may be left out where the form fixes it',
    ),
  turns: z
    .array(z.number().positive())
    .min(1)
    .default([1])
    .describe('turns per coil: one value, one per coil of a group (outermost first), or one per coil of the winding'),
});
export type LayoutInput = z.output<typeof layoutInputSchema>;

export interface Coil {
  number: number;
  group: number;
  /** 1 = first coil of its group (concentric: outermost) */
  position: number;
  phase: Phase;
  /** +1: current enters at the go side when the phase current is positive */
  sign: Sign;
  goSlot: number;
  returnSlot: number;
  spanSlots: number;
  turns: number;
}

export interface Group {
  /** number of the belt that the group stands for; empty belts keep their numbers */
  number: number;
  phase: Phase;
  sign: Sign;
  coils: number[];
}

export interface SlotSide {
  slot: number;
  layer: 'single' | 'top' | 'bottom';
  coil: number;
  side: 'go' | 'return';
  phase: Phase;
  sign: Sign;
}

export interface Layout {
  slots: number;
  poles: number;
  layers: 1 | 2;
  form: 'lap' | 'concentric';
  poleGroups: 'every-pole' | 'consequent';
  spanSlots: number;
  slotsPerPolePerPhase: { numerator: number; denominator: number };
  polePitchSlots: number;
  slotAngleDeg: number;
  repeats: number;
  coils: Coil[];
  groups: Group[];
  sides: SlotSide[];
  /** circuits per phase whose circuit phasors can be equal, by section 4.3 */
  circuitLimit: number;
  circuits: number[];
  balance: Balance;
}

export interface Balance {
  balanced: boolean;
  /** per phase: phasor size relative to the largest, and angle from phase A in degrees */
  phases: { phase: Phase; coils: number; turns: number; size: number; angleDeg: number }[];
  /** negative-sequence part in per cent of the positive-sequence part */
  negativeSequencePercent: number;
}

const BELTS_60: readonly (readonly [Phase, Sign])[] = [
  ['A', 1],
  ['C', -1],
  ['B', 1],
  ['A', -1],
  ['C', 1],
  ['B', -1],
];

interface Placed {
  group: number;
  phase: Phase;
  sign: Sign;
  go: number;
  back: number;
}

/**
 * Coil and group tables of a three-phase winding from the star of slots.
 * Slots, coils and groups are numbered from 1, clockwise seen from the connection end. All slot assignment is in
 * integers. Sources: star of slots (Richter, Ankerwicklungen; Pyrhönen et al., Design of Rotating Electrical Machines).
 * @throws CalculationInputError when the form asked for cannot be laid with these slots and poles
 */
export function layoutOf(input: LayoutInput): Layout {
  const { slots: S, poles: P } = input;
  const q = slotsPerPolePerPhase(S, P);
  const placed = place(input);
  const coils: Coil[] = [];
  const groups: Group[] = [];
  const seen = new Map<number, Group>();
  for (const one of placed) {
    let group = seen.get(one.group);
    if (!group) {
      group = { number: one.group, phase: one.phase, sign: one.sign, coils: [] };
      seen.set(one.group, group);
      groups.push(group);
    }
    const number = coils.length + 1;
    group.coils.push(number);
    coils.push({
      number,
      group: one.group,
      position: group.coils.length,
      phase: one.phase,
      sign: one.sign,
      goSlot: (one.go % S) + 1,
      returnSlot: (one.back % S) + 1,
      spanSlots: one.back - one.go,
      turns: 1,
    });
  }
  groups.sort((a, b) => a.number - b.number);
  giveTurns(coils, groups, input.turns);
  const sides = slotSides(coils, S, input.layers);
  const p = P / 2;
  const t = gcd(S, p);
  const circuitLimit = circuitLimitOf(input);
  const layout: Layout = {
    slots: S,
    poles: P,
    layers: input.layers,
    form: input.form,
    poleGroups: input.poleGroups,
    spanSlots: meanSpan(coils),
    slotsPerPolePerPhase: q,
    polePitchSlots: S / P,
    slotAngleDeg: (180 * P) / S,
    repeats: t,
    coils,
    groups,
    sides,
    circuitLimit,
    circuits: divisorsOf(circuitLimit),
    balance: balanceOf(coils, S, P),
  };
  return layout;
}

function place(input: LayoutInput): Placed[] {
  const { slots: S, poles: P, layers, form, poleGroups } = input;
  const p = P / 2;
  if (layers === 2) {
    const y = input.spanSlots ?? Math.max(1, Math.floor(S / P));
    if (y >= S) refuse('spanSlots', `A span of ${y} slots does not fit a core of ${S} slots.`);
    const list: Placed[] = [];
    for (let i = 0; i < S; i++) {
      if (poleGroups === 'consequent') {
        const k = Math.floor((i * 3 * p) / S);
        list.push({ group: k + 1, phase: PHASES[k % 3] as Phase, sign: 1, go: i, back: i + y });
      } else {
        const k = Math.floor((i * 3 * P) / S);
        const [phase, sign] = BELTS_60[k % 6] as readonly [Phase, Sign];
        list.push({ group: k + 1, phase, sign, go: i, back: i + y });
      }
    }
    return form === 'lap' ? list : nestGroups(list, y);
  }
  if (S % 2 !== 0) refuse('slots', `A single-layer winding needs an even number of slots, not ${S}.`);
  if (form === 'lap' && poleGroups === 'every-pole') {
    const pitch = Math.floor(S / P);
    const y = input.spanSlots ?? (pitch % 2 === 1 ? pitch : Math.max(1, pitch - 1));
    if (y % 2 === 0) {
      refuse(
        'spanSlots',
        `A single-layer lap winding needs an odd span (1-${y} or 1-${y + 2} rather than 1-${y + 1}): coils start in every second slot.`,
      );
    }
    if (y >= S) refuse('spanSlots', `A span of ${y} slots does not fit a core of ${S} slots.`);
    const list: Placed[] = [];
    for (let i = 0; i < S; i += 2) {
      const k = Math.floor((i * 3 * P) / S);
      const [phase, sign] = BELTS_60[k % 6] as readonly [Phase, Sign];
      list.push({ group: k + 1, phase, sign, go: i, back: i + y });
    }
    return list;
  }
  const q = S / (3 * P);
  if (!Number.isInteger(q)) {
    refuse(
      'slots',
      `${S} slots and ${P} poles give ${S}/${3 * P} slots per pole per phase; this single-layer form needs a whole number. Use a single-layer lap or a double layer.`,
    );
  }
  const list: Placed[] = [];
  if (poleGroups === 'consequent') {
    // half-coiled: belts 0, 2, 4 (mod 6) go to the belt three further on; all groups one polarity
    for (let g = 0; g < 3 * p; g++) {
      const belt = 2 * g;
      for (let j = 0; j < q; j++) {
        const back = form === 'concentric' ? (belt + 3) * q + (q - 1 - j) : (belt + 3) * q + j;
        list.push({ group: g + 1, phase: PHASES[g % 3] as Phase, sign: 1, go: belt * q + j, back });
      }
    }
    return list;
  }
  // whole-coiled concentric: each belt gives its upper part to the belt above, its lower part to the belt below
  const upperOf = (k: number) => (q % 2 === 0 ? q / 2 : k % 2 === 0 ? (q + 1) / 2 : (q - 1) / 2);
  for (let k = 0; k < 3 * P; k++) {
    const [phase, sign] = BELTS_60[k % 6] as readonly [Phase, Sign];
    const u = upperOf(k);
    for (let j = 0; j < u; j++) {
      list.push({ group: k + 1, phase, sign, go: k * q + (q - u) + j, back: (k + 3) * q + (u - 1 - j) });
    }
  }
  return list;
}

/** Joins outermost go side with outermost return side: same slot contents, concentric coils. */
function nestGroups(list: Placed[], y: number): Placed[] {
  const byGroup = new Map<number, Placed[]>();
  for (const one of list) {
    const group = byGroup.get(one.group);
    if (group) group.push(one);
    else byGroup.set(one.group, [one]);
  }
  const out: Placed[] = [];
  for (const group of byGroup.values()) {
    const n = group.length;
    const smallest = y - n + 1;
    if (smallest < 1) {
      refuse(
        'spanSlots',
        `With a mean span of ${y} slots the innermost of ${n} concentric coils would have no span left.`,
      );
    }
    group.forEach((one, j) => out.push({ ...one, back: (group[0] as Placed).go + y + n - 1 - j }));
  }
  return out;
}

function giveTurns(coils: Coil[], groups: Group[], turns: number[]): void {
  const largest = Math.max(...groups.map((g) => g.coils.length));
  const perGroup = turns.length === largest && turns.length > 1;
  const perCoil = turns.length === coils.length && !perGroup && turns.length > 1;
  if (turns.length !== 1 && !perGroup && !perCoil) {
    refuse(
      'turns',
      `${turns.length} turn counts were given; give one for all coils, ${largest} for the coils of a group, or ${coils.length} for every coil.`,
    );
  }
  coils.forEach((coil, i) => {
    const value = perCoil ? turns[i] : perGroup ? turns[coil.position - 1] : turns[0];
    coil.turns = value ?? 1;
  });
}

/** Coil sides slot by slot, the one nearer the bore first; refuses a layout that leaves a slot empty or overfull. */
function slotSides(coils: Coil[], slots: number, layers: 1 | 2): SlotSide[] {
  const go = new Array<SlotSide | undefined>(slots);
  const back = new Array<SlotSide | undefined>(slots);
  const count = new Uint8Array(slots);
  for (const { number, phase, sign, goSlot, returnSlot } of coils) {
    go[goSlot - 1] = { slot: goSlot, layer: layers === 1 ? 'single' : 'top', coil: number, side: 'go', phase, sign };
    back[returnSlot - 1] = {
      slot: returnSlot,
      layer: layers === 1 ? 'single' : 'bottom',
      coil: number,
      side: 'return',
      phase,
      sign: -sign as Sign,
    };
    count[goSlot - 1] = (count[goSlot - 1] ?? 0) + 1;
    count[returnSlot - 1] = (count[returnSlot - 1] ?? 0) + 1;
  }
  const wrong = count.findIndex((n) => n !== layers);
  if (wrong >= 0) {
    refuse('spanSlots', `With this span slot ${wrong + 1} would hold ${count[wrong]} coil sides instead of ${layers}.`);
  }
  const sides: SlotSide[] = [];
  for (let s = 0; s < slots; s++) {
    const first = go[s];
    const second = back[s];
    if (first) sides.push(first);
    if (second) sides.push(second);
  }
  return sides;
}

function meanSpan(coils: Coil[]): number {
  return coils.reduce((sum, c) => sum + c.spanSlots, 0) / coils.length;
}

/**
 * Largest number of circuits per phase whose phasors can be equal (section 4.3: from the star of slots).
 * Confirmed by phasor sums before a connection is offered.
 */
export function circuitLimitOf(input: Pick<LayoutInput, 'slots' | 'poles' | 'layers' | 'form' | 'poleGroups'>): number {
  const { slots: S, poles: P, layers, form, poleGroups } = input;
  const p = P / 2;
  const t = gcd(S, p);
  if (layers === 2) {
    if (poleGroups === 'consequent') return t;
    return (S / t) % 2 === 0 ? 2 * t : t;
  }
  if (form === 'lap' && poleGroups === 'every-pole') {
    const half = S / 2;
    const t2 = gcd(half, p);
    return (half / t2) % 2 === 0 ? 2 * t2 : t2;
  }
  if (poleGroups === 'consequent') return p;
  return (S / (3 * P)) % 2 === 0 ? P : p;
}

/** EMF phasor of a coil of the working wave, in turns; signed by its polarity. */
export function coilPhasor(coil: Coil, slots: number, poles: number): Complex {
  const degrees = (180 * poles) / slots;
  const go = polar(coil.sign * coil.turns, (coil.goSlot - 1) * degrees);
  const back = polar(coil.sign * coil.turns, (coil.returnSlot - 1) * degrees);
  return subtract(go, back);
}

function balanceOf(coils: Coil[], slots: number, poles: number): Balance {
  const sums = PHASES.map((phase) => {
    const own = coils.filter((c) => c.phase === phase);
    const sum = own.reduce<Complex>((acc, c) => add(acc, coilPhasor(c, slots, poles)), { re: 0, im: 0 });
    return { phase, coils: own.length, turns: own.reduce((n, c) => n + c.turns, 0), sum };
  });
  const [a, b, c] = sums.map((s) => s.sum) as [Complex, Complex, Complex];
  const turn = (v: Complex, deg: number): Complex => {
    const r = polar(1, deg);
    return { re: v.re * r.re - v.im * r.im, im: v.re * r.im + v.im * r.re };
  };
  // phase axes stand at 0, +120, +240 degrees: positive sequence turns B back by 120
  const positive = sizeOf(add(add(a, turn(b, -120)), turn(c, -240)));
  const negative = sizeOf(add(add(a, turn(b, 120)), turn(c, 240)));
  const largest = Math.max(...sums.map((s) => sizeOf(s.sum)));
  const angleA = Math.atan2(a.im, a.re);
  const phases = sums.map((s) => ({
    phase: s.phase,
    coils: s.coils,
    turns: s.turns,
    size: largest > 0 ? sizeOf(s.sum) / largest : 0,
    angleDeg: ((((Math.atan2(s.sum.im, s.sum.re) - angleA) * 180) / Math.PI + 360.0000001) % 360) - 0.0000001,
  }));
  const share = positive > 0 ? (100 * negative) / positive : 100;
  const spread = Math.max(...phases.map((x) => Math.abs(x.size - 1)));
  const angles = Math.max(...phases.map((x, i) => Math.abs(x.angleDeg - 120 * i)));
  return { balanced: share < 1e-7 && spread < 1e-9 && angles < 1e-6, phases, negativeSequencePercent: share };
}

const phaseSchema = z.enum(PHASES);
const signSchema = z.union([z.literal(1), z.literal(-1)]);

/** Calculation `winding.layout`. */
export const windingLayout = defineCalculation({
  id: 'winding.layout',
  version: 1,
  title: 'Layout of a three-phase winding: phase, sign and layer of every slot, coils and groups',
  sources: [
    'Richter, Ankerwicklungen (star of slots)',
    'Pyrhönen, Jokinen & Hrabovcová, Design of Rotating Electrical Machines',
  ],
  input: layoutInputSchema,
  output: z.object({
    slots: z.number(),
    poles: z.number(),
    layers: z.union([z.literal(1), z.literal(2)]),
    form: z.enum(['lap', 'concentric']),
    poleGroups: z.enum(['every-pole', 'consequent']),
    spanSlots: z.number(),
    slotsPerPolePerPhase: z.object({ numerator: z.number(), denominator: z.number() }),
    polePitchSlots: z.number(),
    slotAngleDeg: z.number(),
    repeats: z.number(),
    coils: z.array(
      z.object({
        number: z.number(),
        group: z.number(),
        position: z.number(),
        phase: phaseSchema,
        sign: signSchema,
        goSlot: z.number(),
        returnSlot: z.number(),
        spanSlots: z.number(),
        turns: z.number(),
      }),
    ),
    groups: z.array(z.object({ number: z.number(), phase: phaseSchema, sign: signSchema, coils: z.array(z.number()) })),
    sides: z.array(
      z.object({
        slot: z.number(),
        layer: z.enum(['single', 'top', 'bottom']),
        coil: z.number(),
        side: z.enum(['go', 'return']),
        phase: phaseSchema,
        sign: signSchema,
      }),
    ),
    circuitLimit: z.number(),
    circuits: z.array(z.number()),
    balance: z.object({
      balanced: z.boolean(),
      phases: z.array(
        z.object({
          phase: phaseSchema,
          coils: z.number(),
          turns: z.number(),
          size: z.number(),
          angleDeg: z.number(),
        }),
      ),
      negativeSequencePercent: z.number(),
    }),
  }),
  example: { slots: 36, poles: 4, layers: 2, form: 'lap', spanSlots: 8, turns: [34] },
  compute: (input, note) => {
    const layout = layoutOf(input);
    const q = layout.slotsPerPolePerPhase;
    note?.({
      name: 'Slots per pole per phase',
      symbol: 'q',
      formula: 'S / (3 P)',
      numbers: `${input.slots} / (3 · ${input.poles})`,
      value: q.denominator === 1 ? q.numerator : `${q.numerator}/${q.denominator}`,
      unit: '',
      source: 'definition',
    });
    note?.({
      name: 'Electrical angle from slot to slot',
      symbol: 'α',
      formula: '180° · P / S',
      numbers: `180 · ${input.poles} / ${input.slots}`,
      value: layout.slotAngleDeg,
      unit: '°',
      source: 'definition',
    });
    note?.({
      name: 'Repeats of the star of slots',
      symbol: 't',
      formula: 'gcd(S, P/2)',
      numbers: `gcd(${input.slots}, ${input.poles / 2})`,
      value: layout.repeats,
      unit: '',
      source: 'Pyrhönen et al., star of slots',
    });
    note?.({
      name: 'Negative-sequence part of the phase phasors',
      symbol: 'E₂/E₁',
      formula: '|A + a²…| from the sums of the coil phasors',
      numbers: layout.balance.phases
        .map((x) => `${x.phase}: ${x.size.toFixed(4)} ∠ ${x.angleDeg.toFixed(2)}°`)
        .join(', '),
      value: layout.balance.negativeSequencePercent,
      unit: '%',
      source: 'derived',
    });
    return layout;
  },
});
