import { refuse } from '../calculation.ts';
import { divisorsOf, gcd, slotsPerPolePerPhase } from './integers.ts';
import {
  BELTS_60,
  PHASES,
  type Phase,
  type Sign,
  type WindingType,
  type LayoutInput,
  type Coil,
  type Group,
  type SlotSide,
  type Layout,
  type PlacedCoil,
} from './layoutTypes.ts';
import { formOfList, placeCoilList } from './coilList.ts';
import { mixedSides, placeMixed } from './mixedLayers.ts';
import { balanceOf } from './phaseBalance.ts';
import { placeSinglePhase } from './singlePhase.ts';

/**
 * Coil and group tables of a three-phase winding from the star of slots.
 * Slots, coils and groups are numbered from 1, clockwise seen from the connection end. All slot assignment is in
 * integers. Sources: star of slots (Richter, Ankerwicklungen; Pyrhönen et al., Design of Rotating Electrical Machines).
 * @throws CalculationInputError when the form asked for cannot be laid with these slots and poles
 */
export function layoutOf(input: LayoutInput): Layout {
  const { slots: S, poles: P } = input;
  const q = slotsPerPolePerPhase(S, P);
  const placed = placedOf(input);
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
      turns: one.turns ?? 1,
    });
  }
  groups.sort((a, b) => a.number - b.number);
  // a coil round one tooth is known by its tooth, not by the places that stay empty below one slot per pole and phase
  if (coils.every((c) => c.spanSlots === 1) && groups.every((g) => g.coils.length === 1))
    for (const group of groups) {
      const coil = coils[(group.coils[0] ?? 1) - 1] as Coil;
      group.number = coil.group = coil.goSlot;
    }
  if (input.kind !== 'single-phase' && !input.coilList) {
    giveTurns(coils, groups, input.turns);
    refuseOtherSpans(input, coils, groups);
  }
  const layers = input.coilList ? 1 : input.sideKinds ? 2 : input.layers;
  const sides =
    input.kind === 'single-phase'
      ? stackedSides(coils)
      : input.sideKinds
        ? mixedSides(coils, S)
        : slotSides(coils, S, layers);
  const p = P / 2;
  const t = gcd(S, p);
  const circuitLimit = input.coilList || input.sideKinds ? groupLimit(groups) : circuitLimitOf(input);
  const layout: Layout = {
    kind: input.kind ?? 'three-phase',
    phases: PHASES.filter((phase) => groups.some((g) => g.phase === phase)),
    slots: S,
    poles: P,
    layers: input.kind === 'single-phase' ? (sides.some((x) => x.layer !== 'single') ? 2 : 1) : layers,
    form: formOf(input),
    poleGroups: input.coilList && groups.length === (3 * P) / 2 ? 'consequent' : poleGroupsOf(input),
    ...(input.coilList ? { from: 'coil list' as const } : input.sideKinds ? { from: 'mixed layers' as const } : {}),
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

function placedOf(input: LayoutInput): PlacedCoil[] {
  if (input.kind === 'single-phase') return placeSinglePhase(input);
  if (input.coilList) return placeCoilList({ ...input, coilList: input.coilList });
  if (input.sideKinds)
    return placeMixed({ ...input, sideKinds: input.sideKinds, spansSlots: input.spansSlots ?? [input.spanSlots ?? 1] });
  return place(input);
}

function formOf(input: LayoutInput): Layout['form'] {
  if (input.kind === 'single-phase' || input.sideKinds) return 'concentric';
  return input.coilList ? formOfList(input.coilList, input.slots) : input.form;
}

/** Circuits that groups allow: one for every group of a phase, for every second where their sizes alternate. */
function groupLimit(groups: readonly Group[]): number {
  const own = groups.filter((g) => g.phase === 'A');
  return new Set(own.map((g) => g.coils.length)).size > 1 ? own.length / 2 : own.length;
}

/** Spans said of a three-phase winding must be those its form gives; the form cannot be changed by saying others. */
function refuseOtherSpans(input: LayoutInput, coils: readonly Coil[], groups: readonly Group[]): void {
  if (!input.spansSlots || input.sideKinds) return;
  const key = (a: readonly number[]) => [...a].sort((x, y) => y - x).join(', ');
  const own = groups.map((g) => g.coils.map((n) => coils[n - 1]?.spanSlots ?? 0));
  const said = key(input.spansSlots);
  if (own.some((spans) => key(spans) === said || (new Set(spans).size === 1 && said === String(spans[0])))) return;
  refuse(
    'spansSlots',
    `Spans of ${said} slots do not fit: the coils of a group span ${[...new Set(own.map(key))].join(' or ')} slots here. Say spanSlots for lap coils.`,
  );
}

/** A two-speed winding is consequent pole at its low speed, whatever was said. */
function poleGroupsOf(input: LayoutInput): LayoutInput['poleGroups'] {
  return input.kind === 'two-speed' ? 'consequent' : input.poleGroups;
}

/** Groups that hold a coil, where there are fewer coils than belts. */
const usedBelts = (coils: number, belts: number): number[] => [
  ...new Set(Array.from({ length: coils }, (_, i) => Math.floor((i * belts) / coils))),
];

/** Whether coils per group as counted can be those of a winding: every coil once, a number for every group. */
export function groupingFits(grouping: readonly number[], coils: number, belts: number): boolean {
  const groups = belts > coils ? usedBelts(coils, belts).length : belts;
  return (grouping.length === belts || grouping.length === groups) && grouping.reduce((a, b) => a + b, 0) === coils;
}

/** Group (0-based belt) of every coil in order: as counted at the stator when that is given, else from the star of slots. */
function beltsOf(input: LayoutInput, coils: number, belts: number): number[] {
  const { grouping } = input;
  if (grouping) {
    if (!groupingFits(grouping, coils, belts))
      refuse(
        'grouping',
        `${grouping.length} groups of ${grouping.reduce((a, b) => a + b, 0)} coils do not fit: this winding has ${coils} coils in ${belts > coils ? usedBelts(coils, belts).length : belts} groups.`,
      );
    // empty belts (fewer coils than belts) keep their numbers
    const numbers = grouping.length === belts ? grouping.map((_, k) => k) : usedBelts(coils, belts);
    return grouping.flatMap((n, k) => new Array<number>(n).fill(numbers[k] ?? k));
  }
  return Array.from({ length: coils }, (_, i) => Math.floor((i * belts) / coils));
}

function place(input: LayoutInput): PlacedCoil[] {
  const { slots: S, poles: P, layers, form } = input;
  const poleGroups = poleGroupsOf(input);
  const p = P / 2;
  if (layers === 2) {
    const y = input.spanSlots ?? Math.max(1, Math.floor(S / P));
    if (y >= S) refuse('spanSlots', `A span of ${y} slots does not fit a core of ${S} slots.`);
    const consequent = poleGroups === 'consequent';
    const list = beltsOf(input, S, consequent ? 3 * p : 3 * P).map((k, i): PlacedCoil => {
      const [phase, sign] = consequent
        ? ([PHASES[k % 3] as Phase, 1] as const)
        : (BELTS_60[k % 6] as readonly [Phase, Sign]);
      return { group: k + 1, phase, sign, go: i, back: i + y };
    });
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
    const list = beltsOf(input, S / 2, 3 * P).map((k, i): PlacedCoil => {
      const [phase, sign] = BELTS_60[k % 6] as readonly [Phase, Sign];
      return { group: k + 1, phase, sign, go: 2 * i, back: 2 * i + y };
    });
    return list;
  }
  const q = S / (3 * P);
  if (!Number.isInteger(q)) {
    refuse(
      'slots',
      `${S} slots and ${P} poles give ${S}/${3 * P} slots per pole per phase; this single-layer form needs a whole number. Use a single-layer lap or a double layer.`,
    );
  }
  const list: PlacedCoil[] = [];
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
function nestGroups(list: PlacedCoil[], y: number): PlacedCoil[] {
  const byGroup = new Map<number, PlacedCoil[]>();
  for (const one of list) {
    const group = byGroup.get(one.group);
    if (group) group.push(one);
    else byGroup.set(one.group, [one]);
  }
  const out: PlacedCoil[] = [];
  for (const group of byGroup.values()) {
    const n = group.length;
    const smallest = y - n + 1;
    if (smallest < 1) {
      refuse(
        'spanSlots',
        `With a mean span of ${y} slots the innermost of ${n} concentric coils would have no span left.`,
      );
    }
    group.forEach((one, j) => out.push({ ...one, back: (group[0] as PlacedCoil).go + y + n - 1 - j }));
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

/** Coil sides slot by slot where a slot may hold none, one or several: the main winding lies deeper, the auxiliary on top. */
function stackedSides(coils: Coil[]): SlotSide[] {
  const sides = coils.flatMap((c): SlotSide[] => [
    { slot: c.goSlot, layer: 'single', coil: c.number, side: 'go', phase: c.phase, sign: c.sign },
    { slot: c.returnSlot, layer: 'single', coil: c.number, side: 'return', phase: c.phase, sign: -c.sign as Sign },
  ]);
  sides.sort((a, b) => a.slot - b.slot || (a.phase < b.phase ? 1 : a.phase > b.phase ? -1 : 0) || a.coil - b.coil);
  return sides.map((s) => {
    const mates = sides.filter((x) => x.slot === s.slot);
    return mates.length === 1 ? s : { ...s, layer: mates[0] === s ? 'top' : 'bottom' };
  });
}

function meanSpan(coils: Coil[]): number {
  return coils.reduce((sum, c) => sum + c.spanSlots, 0) / coils.length;
}

/**
 * Largest number of circuits per phase whose phasors can be equal (section 4.3: from the star of slots).
 * Confirmed by phasor sums before a connection is offered.
 */
export function circuitLimitOf(
  input: Pick<LayoutInput, 'slots' | 'poles' | 'layers' | 'form' | 'poleGroups'> & { kind?: WindingType },
): number {
  const { slots: S, poles: P, layers, form } = input;
  const poleGroups = input.kind === 'two-speed' ? 'consequent' : input.poleGroups;
  const p = P / 2;
  if (input.kind === 'single-phase') return poleGroups === 'consequent' ? p : P;
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
