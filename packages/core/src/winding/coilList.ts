import { refuse } from '../calculation.ts';
import { polar, scale, add, sizeOf, subtract, type Complex } from './complex.ts';
import { BELTS_60, type Phase, type PlacedCoil, type Sign } from './layoutTypes.ts';

/** A coil as it is read off the core: go slot and return slot, counted from 1. */
export type SlotPair = readonly [go: number, back: number];

/** Span of a coil in slots; a return slot before the go slot goes on round the core. */
export const spanOf = ([go, back]: SlotPair, slots: number): number => (((back - go) % slots) + slots) % slots;

/**
 * The coils of a whole core from those that were read off: one repeat is enough, n coils repeat every 2n slots.
 * @throws CalculationInputError where the repeat does not go round the core, or a slot is left empty or taken twice
 */
export function wholeList(list: readonly SlotPair[], slots: number): SlotPair[] {
  const n = list.length;
  const beyond = list.flat().find((slot) => slot < 1 || slot > slots);
  if (beyond !== undefined) refuse('coilList', `Slot ${beyond} is not on a core of ${slots} slots.`);
  if (slots % (2 * n) !== 0)
    refuse(
      'coilList',
      `${n} coils read off do not repeat round ${slots} slots; ${slots / 2} coils are the whole core, ${
        [1, 2, 3, 4, 5, 6, 8, 9, 12].filter((k) => slots % (2 * k) === 0 && k < slots / 2).join(', ') || 'all'
      } can be a repeat. Is a coil missing?`,
    );
  const out: SlotPair[] = [];
  for (let shift = 0; shift < slots; shift += 2 * n)
    for (const [go, back] of list) out.push([((go - 1 + shift) % slots) + 1, ((back - 1 + shift) % slots) + 1]);
  const count = new Array<number>(slots).fill(0);
  for (const pair of out) for (const slot of pair) count[slot - 1] = (count[slot - 1] ?? 0) + 1;
  const empty = count.flatMap((c, i) => (c === 0 ? [i + 1] : []));
  const double = count.flatMap((c, i) => (c > 1 ? [i + 1] : []));
  if (empty.length > 0)
    refuse(
      'coilList',
      `Each slot holds one coil side: slot ${empty.slice(0, 6).join(', ')} would be empty, slot ${double.slice(0, 6).join(', ')} taken twice. Look at the coils there again.`,
    );
  return out;
}

interface Axis {
  pair: SlotPair;
  span: number;
  /** coil axis in parts of an electrical turn of 12S */
  x: number;
  /** coil axis along the core, in half slots */
  at: number;
}

/** Coil axes in whole numbers: x = 3P(2(go − 1) + y), half a turn on where the coil was typed return to go. */
function axesOf(list: readonly SlotPair[], slots: number, poles: number): Axis[] {
  const full = 12 * slots;
  return list.map((pair) => {
    const y = spanOf(pair, slots);
    if ((poles * y) % (2 * slots) === 0)
      refuse(
        'coilList',
        `The coil ${pair[0]}-${pair[1]} spans ${y} slots, a whole number of pole pairs: it links no flux. Read it again.`,
      );
    const turned = (poles * y) % (4 * slots) > 2 * slots ? 6 * slots : 0;
    const along = 2 * (pair[0] - 1) + y;
    // typed from return to go a coil lies across the shorter way all the same
    const at = (y > slots / 2 ? along + slots : along) % (2 * slots);
    return { pair, span: y, x: (3 * poles * along + turned) % full, at };
  });
}

/** Phase sums of coils in their sixths; turns as placed. */
function sumsOf(
  axes: readonly Axis[],
  sixths: readonly number[],
  turns: readonly number[],
  slots: number,
  poles: number,
) {
  const sums: Record<Phase, { emf: Complex; coils: number; turns: number }> = {
    A: { emf: { re: 0, im: 0 }, coils: 0, turns: 0 },
    B: { emf: { re: 0, im: 0 }, coils: 0, turns: 0 },
    C: { emf: { re: 0, im: 0 }, coils: 0, turns: 0 },
  };
  const degrees = (180 * poles) / slots;
  axes.forEach((a, i) => {
    const [phase, sign] = BELTS_60[sixths[i] ?? 0] as readonly [Phase, Sign];
    const own = subtract(polar(1, (a.pair[0] - 1) * degrees), polar(1, (a.pair[1] - 1) * degrees));
    const sum = sums[phase];
    sum.emf = add(sum.emf, scale(own, sign * (turns[i] ?? 1)));
    sum.coils += 1;
    sum.turns += turns[i] ?? 1;
  });
  return sums;
}

/** Equal coils, turns and EMF, 120° apart, or how far off. */
function balanced(sums: ReturnType<typeof sumsOf>): boolean {
  const { A, B, C } = sums;
  if (A.coils !== B.coils || A.coils !== C.coils || A.turns !== B.turns || A.turns !== C.turns) return false;
  const size = sizeOf(A.emf);
  const near = 1e-9 * Math.max(1, size);
  const turn = (v: Complex, deg: number): Complex => {
    const r = polar(1, deg);
    return { re: v.re * r.re - v.im * r.im, im: v.re * r.im + v.im * r.re };
  };
  return [120, -120].some(
    (deg) => sizeOf(subtract(turn(A.emf, deg), B.emf)) <= near && sizeOf(subtract(turn(A.emf, -deg), C.emf)) <= near,
  );
}

/**
 * A single layer from any list of coils: each coil goes to the sixth of its axis; of the borders that make the phases equal that of the
 * largest winding factor is taken. Groups are runs of one sign, numbered from the first coil's. Source: derived
 * (docs/derivations.md, single layer from a list).
 * @throws CalculationInputError when no border makes three equal phases, or a slot is empty or taken twice
 */
export function placeCoilList(input: {
  slots: number;
  poles: number;
  coilList: readonly SlotPair[];
  turns: readonly number[];
  grouping?: readonly number[] | undefined;
}): PlacedCoil[] {
  const { slots: S, poles: P } = input;
  const list = wholeList(input.coilList, S);
  const axes = axesOf(list, S, P);
  const turns = list.map((_, i) => input.turns[i % input.coilList.length] ?? input.turns[0] ?? 1);
  const borders = [...new Set(axes.map((a) => a.x % (2 * S)))].sort((a, b) => a - b);
  const order = axes.map((_, i) => i).sort((i, j) => (axes[i]?.at ?? 0) - (axes[j]?.at ?? 0));
  const sixthsBy = (o: number) => axes.map((a) => Math.floor(((((a.x - o) % (12 * S)) + 12 * S) % (12 * S)) / (2 * S)));
  const tries = borders.flatMap((o) => {
    const sixths = sixthsBy(o);
    const sums = sumsOf(axes, sixths, turns, S, P);
    if (!balanced(sums)) return [];
    const runs = runsOf(order, sixths, 0);
    const begins = runs.some((run) => run[0] === 0);
    const found =
      input.grouping !== undefined &&
      sameSequence(
        runs.map((r) => r.length),
        input.grouping,
      );
    return [{ o, sixths, kw: sizeOf(sums.A.emf), begins, found }];
  });
  const best = Math.max(...tries.map((t) => t.kw));
  const near = tries
    .filter((t) => t.kw >= best * (1 - 1e-9))
    .sort((a, b) => Number(b.found) - Number(a.found) || Number(b.begins) - Number(a.begins) || a.o - b.o);
  const [chosen] = near;
  if (!chosen) {
    const sums = sumsOf(axes, sixthsBy(borders[0] ?? 0), turns, S, P);
    const say = (['A', 'B', 'C'] as const)
      .map((p) => `${p} ${sums[p].coils} coils, ${sizeOf(sums[p].emf).toPrecision(4)}`)
      .join('; ');
    return refuse(
      'coilList',
      `These coils make no three equal phases with ${P} poles (sums: ${say}). Read the coils again.`,
    );
  }
  const first = chosen.sixths[0] ?? 0;
  const sixths = chosen.sixths.map((k) => (k - first + 6) % 6);
  const placed: PlacedCoil[] = [];
  runsOf(order, sixths, 0).forEach((run, n) => {
    for (const i of run) {
      const a = axes[i] as Axis;
      const [phase, sign] = BELTS_60[sixths[i] ?? 0] as readonly [Phase, Sign];
      placed.push({
        group: n + 1,
        phase,
        sign,
        go: a.pair[0] - 1,
        back: a.pair[0] - 1 + a.span,
        turns: turns[i] ?? 1,
      });
    }
  });
  return placed;
}

/** Neighbouring coils of one sixth, along the core, beginning with the run that holds a given coil. */
function runsOf(order: readonly number[], sixths: readonly number[], holding: number): number[][] {
  const runs: number[][] = [];
  for (const i of order) {
    const last = runs.at(-1);
    if (last && sixths[last[0] ?? 0] === sixths[i]) last.push(i);
    else runs.push([i]);
  }
  const [head, tail] = [runs[0], runs.at(-1)];
  if (runs.length > 1 && head && tail && sixths[head[0] ?? 0] === sixths[tail[0] ?? 0]) {
    runs[0] = [...tail, ...head];
    runs.pop();
  }
  const at = runs.findIndex((run) => run.includes(holding));
  return [...runs.slice(at), ...runs.slice(0, at)];
}

/** Whether two circular sequences are the same, wherever counting began. */
function sameSequence(a: readonly number[], b: readonly number[]): boolean {
  return a.length === b.length && a.some((_, k) => a.every((x, i) => x === b[(i + k) % b.length]));
}

/** Whether the coils of a list lie in each other (go rises, return falls) or beside each other. */
export function formOfList(list: readonly SlotPair[], slots: number): 'lap' | 'concentric' {
  return list.some((pair, i) => {
    const before = list[i - 1];
    return before !== undefined && pair[0] === before[0] + 1 && spanOf(pair, slots) === spanOf(before, slots) - 2;
  })
    ? 'concentric'
    : 'lap';
}
