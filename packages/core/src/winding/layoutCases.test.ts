/** Layouts laid by hand: each expected row is counted slot by slot on paper from docs/derivations.md 4 and the star of slots. */
import { describe, expect, it } from 'vitest';
import { CalculationInputError } from '../calculation.ts';
import { circuitLimitOf, layoutOf } from './layout.ts';
import type { Layout, LayoutInput } from './layoutTypes.ts';

const input = (slots: number, poles: number, more: Partial<LayoutInput> = {}): LayoutInput => ({
  slots,
  poles,
  layers: 2,
  form: 'lap',
  poleGroups: 'every-pole',
  turns: [10],
  ...more,
});
const laid = (slots: number, poles: number, more: Partial<LayoutInput> = {}) => layoutOf(input(slots, poles, more));
const spansOf = (layout: Layout) =>
  layout.groups.map((g) => g.coils.map((n) => layout.coils[n - 1]?.spanSlots).join(' ')).join(', ');
const coilsOf = (layout: Layout, count: number) =>
  layout.coils.slice(0, count).map((c) => `${c.sign > 0 ? '+' : '-'}${c.phase}${c.group} ${c.goSlot}-${c.returnSlot}`);
const refusal = (work: () => unknown): { field: string; say: string } => {
  try {
    work();
  } catch (error) {
    if (error instanceof CalculationInputError) return { field: error.field, say: error.problems[0]?.message ?? '' };
    throw error;
  }
  throw new Error('nothing was refused');
};

describe('coils as they lie', () => {
  it.each<[string, number, number, Partial<LayoutInput>, string[]]>([
    ['double layer, span of a pole by itself', 24, 4, {}, ['+A1 1-7', '+A1 2-8', '-C2 3-9', '-C2 4-10', '+B3 5-11']],
    ['double layer, a part of a slot left out', 27, 6, {}, ['+A1 1-5', '+A1 2-6', '-C2 3-7']],
    ['never less than a slot', 9, 10, {}, ['+A1 1-2', '-A2 2-3', '+A3 3-4', '+C4 4-5']],
    ['the longest span a core takes', 24, 4, { spanSlots: 23 }, ['+A1 1-24', '+A1 2-1']],
    [
      'consequent pole: three groups on two poles, one sign',
      24,
      4,
      { poleGroups: 'consequent' },
      ['+A1 1-7', '+A1 2-8', '+A1 3-9', '+A1 4-10', '+B2 5-11'],
    ],
    [
      'two-speed is consequent whatever is said',
      24,
      4,
      { kind: 'two-speed' },
      ['+A1 1-7', '+A1 2-8', '+A1 3-9', '+A1 4-10', '+B2 5-11'],
    ],
    [
      'nested: outermost first',
      24,
      4,
      { form: 'concentric', spanSlots: 5 },
      ['+A1 1-7', '+A1 2-6', '-C2 3-9', '-C2 4-8'],
    ],
    ['nested as close as can be', 24, 4, { form: 'concentric', spanSlots: 2 }, ['+A1 1-4', '+A1 2-3', '-C2 3-6']],
    [
      'single layer lap: one less than an even pole',
      24,
      4,
      { layers: 1 },
      ['+A1 1-6', '-C2 3-8', '+B3 5-10', '-A4 7-12'],
    ],
    ['single layer lap: an odd pole whole', 36, 4, { layers: 1 }, ['+A1 1-10', '+A1 3-12', '-C2 5-14', '+B3 7-16']],
    ['single layer lap round teeth', 12, 8, { layers: 1, spanSlots: 1 }, ['+A1 1-2', '+C3 3-4', '+B5 5-6']],
    [
      'half-coiled lap',
      24,
      4,
      { layers: 1, poleGroups: 'consequent' },
      ['+A1 1-7', '+A1 2-8', '+B2 5-11', '+B2 6-12', '+C3 9-15'],
    ],
    [
      'half-coiled concentric',
      24,
      4,
      { layers: 1, form: 'concentric', poleGroups: 'consequent' },
      ['+A1 1-8', '+A1 2-7', '+B2 5-12', '+B2 6-11'],
    ],
    ['whole-coiled, even', 24, 4, { layers: 1, form: 'concentric' }, ['+A1 2-7', '-C2 4-9', '+B3 6-11', '-A4 8-13']],
    [
      'whole-coiled, odd: two and one in turn',
      36,
      4,
      { layers: 1, form: 'concentric' },
      ['+A1 2-11', '+A1 3-10', '-C2 6-13', '+B3 8-17', '+B3 9-16', '-A4 12-19'],
    ],
  ])('%s', (_, slots, poles, more, expected) => {
    expect(coilsOf(laid(slots, poles, more), expected.length)).toEqual(expected);
  });
  it('belts that stay empty keep their numbers where coils span more than a tooth', () => {
    expect(laid(9, 8, { spanSlots: 2 }).groups.map((g) => g.number)).toEqual([1, 3, 6, 9, 11, 14, 17, 19, 22]);
    expect(laid(9, 8, { spanSlots: 1 }).groups.map((g) => g.number)).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9]);
  });
  it('groups of several tooth coils keep the numbers of their belts', () => {
    const layout = laid(15, 4, { spanSlots: 1 });
    expect(layout.groups.map((g) => g.coils.length)).toEqual([2, 1, 1, 1, 2, 1, 1, 1, 2, 1, 1, 1]);
    expect(layout.groups.map((g) => g.number)).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12]);
  });
  it('as counted at the stator: a number for every belt, or for every group there is', () => {
    const counted = laid(24, 4, { grouping: [3, 1, 2, 3, 1, 2, 3, 1, 2, 3, 1, 2] });
    expect(counted.groups.map((g) => g.coils.length)).toEqual([3, 1, 2, 3, 1, 2, 3, 1, 2, 3, 1, 2]);
    expect(coilsOf(counted, 5)).toEqual(['+A1 1-7', '+A1 2-8', '+A1 3-9', '-C2 4-10', '+B3 5-11']);
    const few = laid(9, 8, { spanSlots: 2, grouping: [1, 1, 1, 1, 1, 1, 1, 1, 1] });
    expect(few.groups.map((g) => g.number)).toEqual([1, 3, 6, 9, 11, 14, 17, 19, 22]);
  });
  it('what stands beside the coils: pole pitch, slot angle, spans, layers, phases', () => {
    const layout = laid(36, 4, { layers: 1, form: 'concentric' });
    expect(layout).toMatchObject({
      kind: 'three-phase',
      phases: ['A', 'B', 'C'],
      layers: 1,
      polePitchSlots: 9,
      slotAngleDeg: 20,
      repeats: 2,
      form: 'concentric',
      poleGroups: 'every-pole',
    });
    expect(layout.spanSlots).toBeCloseTo((9 + 7 + 7) / 3, 12);
    expect(laid(24, 4, { kind: 'two-speed' })).toMatchObject({
      kind: 'two-speed',
      poleGroups: 'consequent',
      circuitLimit: 2,
    });
  });
});

describe('slots as they are filled', () => {
  const inSlot = (layout: Layout, slot: number) =>
    layout.sides
      .filter((s) => s.slot === slot)
      .map((s) => `${s.layer} ${s.coil} ${s.side} ${s.sign > 0 ? '+' : '-'}${s.phase}`);
  it('double layer: what goes in stands above what comes back', () => {
    const layout = laid(24, 4, { spanSlots: 5 });
    expect(inSlot(layout, 1)).toEqual(['top 1 go +A', 'bottom 20 return +A']);
    expect(inSlot(layout, 6)).toEqual(['top 6 go +B', 'bottom 1 return -A']);
    expect(layout.sides).toHaveLength(48);
  });
  it('single layer: every slot one side', () => {
    const layout = laid(24, 4, { layers: 1 });
    expect(inSlot(layout, 1)).toEqual(['single 1 go +A']);
    expect(inSlot(layout, 6)).toEqual(['single 1 return -A']);
    expect(layout.sides).toHaveLength(24);
  });
  const singlePhase = (spansSlots: number[], more: Partial<LayoutInput> = {}) =>
    laid(24, 4, {
      kind: 'single-phase',
      layers: 1,
      form: 'concentric',
      spansSlots: [5, 3],
      turns: [20, 12],
      auxiliary: { spansSlots, turns: [30] },
      ...more,
    } as Partial<LayoutInput>);
  it('main and auxiliary apart: one layer', () => {
    const layout = singlePhase([5]);
    expect(layout).toMatchObject({
      layers: 1,
      phases: ['A', 'B'],
      circuitLimit: 4,
      form: 'concentric',
      kind: 'single-phase',
    });
    expect(coilsOf(layout, 4)).toEqual(['+A1 1-6', '+A1 2-5', '-A2 7-12', '-A2 8-11']);
    expect(layout.coils.map((c) => c.turns)).toEqual([20, 12, 20, 12, 20, 12, 20, 12, 30, 30, 30, 30]);
    expect(layout.groups.map((g) => g.number)).toEqual([1, 2, 3, 4, 5, 6, 7, 8]);
    expect(inSlot(layout, 4)).toEqual(['single 9 go +B']);
    expect(inSlot(layout, 3)).toEqual(['single 12 return +B']);
  });
  it('where they share a slot the auxiliary lies on top', () => {
    const layout = singlePhase([5, 3]);
    expect(layout.layers).toBe(2);
    expect(inSlot(layout, 5)).toEqual(['top 10 go +B', 'bottom 2 return -A']);
    expect(inSlot(layout, 8)).toEqual(['top 10 return -B', 'bottom 4 go -A']);
    expect(inSlot(layout, 1)).toEqual(['single 1 go +A']);
  });
});

describe('turns', () => {
  it.each<[string, number, number, number[], number[]]>([
    ['one for all', 24, 4, [7], [7, 7, 7, 7]],
    ['one for each place of a group', 24, 4, [10, 12], [10, 12, 10, 12]],
    ['one for each place of the largest group', 30, 4, [10, 12, 14], [10, 12, 14, 10, 12, 10, 12, 14]],
    ['one for every coil', 24, 4, Array.from({ length: 24 }, (_, i) => i + 1), [1, 2, 3, 4]],
    ['one for every coil of groups of one', 12, 4, Array.from({ length: 12 }, (_, i) => i + 5), [5, 6, 7]],
  ])('%s', (_, slots, poles, turns, expected) => {
    expect(
      laid(slots, poles, { turns })
        .coils.slice(0, expected.length)
        .map((c) => c.turns),
    ).toEqual(expected);
  });
});

describe('what cannot be laid is refused by its field', () => {
  it.each<[string, number, number, Partial<LayoutInput>, string, RegExp]>([
    [
      'span of the whole core',
      24,
      4,
      { spanSlots: 24 },
      'spanSlots',
      /^A span of 24 slots does not fit a core of 24 slots\.$/,
    ],
    [
      'span beyond it, single layer',
      24,
      4,
      { layers: 1, spanSlots: 25 },
      'spanSlots',
      /^A span of 25 slots does not fit a core of 24/,
    ],
    ['odd slots in one layer', 27, 6, { layers: 1 }, 'slots', /even number of slots, not 27\./],
    ['even span', 24, 4, { layers: 1, spanSlots: 6 }, 'spanSlots', /odd span \(1-6 or 1-8 rather than 1-7\)/],
    [
      'part of a slot',
      30,
      4,
      { layers: 1, form: 'concentric' },
      'slots',
      /^30 slots and 4 poles give 30\/12 slots per pole per phase/,
    ],
    ['part of a slot, half-coiled lap', 30, 4, { layers: 1, poleGroups: 'consequent' }, 'slots', /30\/12/],
    [
      'no span left inside',
      24,
      4,
      { form: 'concentric', spanSlots: 1 },
      'spanSlots',
      /mean span of 1 slots the innermost of 2 concentric/,
    ],
    [
      'turn counts',
      24,
      4,
      { turns: [1, 2, 3] },
      'turns',
      /^3 turn counts were given; give one for all coils, 2 for the coils of a group, or 24 for every coil\./,
    ],
    ['turn counts for groups of one', 12, 4, { turns: [1, 2] }, 'turns', /1 for the coils of a group, or 12 for/],
    [
      'a group too few',
      24,
      4,
      { grouping: [4, 2, 2, 2, 2, 2, 2, 2, 2, 2, 2] },
      'grouping',
      /^11 groups of 24 coils do not fit: this winding has 24 coils in 12 groups\./,
    ],
    [
      'a coil too many',
      24,
      4,
      { grouping: [3, 2, 2, 2, 2, 2, 2, 2, 2, 2, 2, 2] },
      'grouping',
      /^12 groups of 25 coils .* 24 coils in 12 groups/,
    ],
    [
      'fewer coils than belts',
      9,
      8,
      { spanSlots: 2, grouping: [1, 1, 1, 1, 1, 1, 1, 2] },
      'grouping',
      /^8 groups of 9 coils .* 9 coils in 9 groups/,
    ],
    [
      'other spans of lap coils',
      24,
      4,
      { spanSlots: 5, spansSlots: [6] },
      'spansSlots',
      /^Spans of 6 slots do not fit: the coils of a group span 5, 5 slots here/,
    ],
    [
      'other spans of nested coils',
      24,
      4,
      { form: 'concentric', spanSlots: 5, spansSlots: [5] },
      'spansSlots',
      /^Spans of 5 slots .* span 6, 4 slots/,
    ],
    [
      'spans of a form that has two kinds',
      36,
      4,
      { layers: 1, form: 'concentric', spansSlots: [8, 8] },
      'spansSlots',
      /span 9, 7 or 7 slots/,
    ],
  ])('%s', (_, slots, poles, more, field, say) => {
    const found = refusal(() => laid(slots, poles, more));
    expect(found.field).toBe(field);
    expect(found.say).toMatch(say);
  });
  it('spans that say what is so are taken, in any order', () => {
    expect(spansOf(laid(24, 4, { spanSlots: 5, spansSlots: [5] })).slice(0, 8)).toBe('5 5, 5 5');
    expect(spansOf(laid(24, 4, { spanSlots: 5, spansSlots: [5, 5] })).slice(0, 8)).toBe('5 5, 5 5');
    expect(spansOf(laid(24, 4, { form: 'concentric', spanSlots: 5, spansSlots: [4, 6] })).slice(0, 8)).toBe('6 4, 6 4');
  });
});

describe('most circuits, by the star of slots (winding reference 4.3)', () => {
  it.each<[number, number, Partial<LayoutInput>, number]>([
    [24, 4, { layers: 1 }, 4],
    [36, 4, { layers: 1 }, 2],
    [36, 6, { layers: 1 }, 6],
    [30, 4, { layers: 1 }, 1],
    [48, 4, { layers: 1, form: 'concentric' }, 4],
    [36, 4, { layers: 1, form: 'concentric' }, 2],
    [72, 6, { layers: 1, form: 'concentric' }, 6],
    [54, 6, { layers: 1, form: 'concentric' }, 3],
    [24, 4, { layers: 1, poleGroups: 'consequent' }, 2],
    [48, 8, { layers: 1, form: 'concentric', poleGroups: 'consequent' }, 4],
    [24, 4, { poleGroups: 'consequent' }, 2],
    [36, 8, { poleGroups: 'consequent' }, 4],
    [24, 4, { kind: 'two-speed' }, 2],
    [24, 4, { kind: 'single-phase' }, 4],
    [24, 4, { kind: 'single-phase', poleGroups: 'consequent' }, 2],
  ])('%d/%d %o: %d', (slots, poles, more, most) => {
    expect(circuitLimitOf(input(slots, poles, more))).toBe(most);
  });
});
