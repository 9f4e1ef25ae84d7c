import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import {
  asLinkedToRun,
  circuitsAreEqual,
  connect,
  connectionWarnings,
  deltaRingEmf,
  groupsPerPhase,
  phaseGroups,
  possibleCircuits,
  readableCircuitLimit,
  windingConnection,
  type ConnectionChoice,
} from './connection.ts';
import { groupingFits, layoutOf } from './layout.ts';
import type { LayoutInput } from './layoutTypes.ts';

const lap = (more: Partial<LayoutInput> = {}): LayoutInput => ({
  slots: 24,
  poles: 4,
  layers: 2,
  form: 'lap',
  poleGroups: 'every-pole',
  spanSlots: 5,
  turns: [10],
  ...more,
});
/** 24 slots, 4 poles: groups A+ C− B+ A− C+ B− round the bore, twice. */
const layout = layoutOf(lap());
const made = (more: Partial<ConnectionChoice> = {}, of = layout) =>
  connect(of, { connection: 'wye', circuits: 1, jumper: 'adjacent-pole', leads: 3, ...more });
const nodes = (c: ReturnType<typeof made>) => Object.fromEntries(c.nodes.map((n) => [n.name, n.ends.join(' ')]));
const jumpers = (c: ReturnType<typeof made>, phase = 'A') =>
  c.jumpers.filter((j) => j.phase === phase).map((j) => `${j.from}-${j.to}`);

describe('connections by hand, 24 slots 4 poles', () => {
  it('the groups of a phase in the order they are joined', () => {
    expect(phaseGroups(layout, 'A', 'adjacent-pole').map((g) => g.number)).toEqual([1, 4, 7, 10]);
    expect(phaseGroups(layout, 'A', 'skip-pole').map((g) => g.number)).toEqual([1, 7, 4, 10]);
    // the first of C is entered at its finish: it begins with its first positive group
    expect(phaseGroups(layout, 'C', 'adjacent-pole').map((g) => g.number)).toEqual([5, 8, 11, 2]);
  });
  it.each([
    [{}, { T1: '1S', T2: '3S', T3: '5S', Y: '10S 12S 2S' }, ['1F-4F', '4S-7S', '7F-10F']],
    [{ jumper: 'skip-pole' }, { T1: '1S', T2: '3S', T3: '5S', Y: '10S 12S 2S' }, ['1F-7S', '7F-4F', '4S-10F']],
    [{ connection: 'delta' }, { T1: '1S 2S', T2: '3S 10S', T3: '5S 12S' }, ['1F-4F', '4S-7S', '7F-10F']],
    [{ circuits: 2 }, { T1: '1S 7S', T2: '3S 9S', T3: '5S 11S', Y: '4S 10S 6S 12S 8S 2S' }, ['1F-4F', '7F-10F']],
    [
      { circuits: 4 },
      { T1: '1S 4F 7S 10F', T2: '3S 6F 9S 12F', T3: '5S 8F 11S 2F', Y: '1F 4S 7F 10S 3F 6S 9F 12S 5F 8S 11F 2S' },
      [],
    ],
    [{ leads: 6 }, { T1: '1S', T2: '3S', T3: '5S', T4: '10S', T5: '12S', T6: '2S' }, ['1F-4F', '4S-7S', '7F-10F']],
    [
      { leads: 9 },
      { T1: '1S', T2: '3S', T3: '5S', T4: '4S', T5: '6S', T6: '8S', T7: '7S', T8: '9S', T9: '11S', Y: '10S 12S 2S' },
      ['1F-4F', '7F-10F'],
    ],
    [
      { leads: 9, connection: 'delta' },
      { T1: '1S 2S', T2: '3S 10S', T3: '5S 12S', T4: '4S', T5: '6S', T6: '8S', T7: '7S', T8: '9S', T9: '11S' },
      ['1F-4F', '7F-10F'],
    ],
    [
      { leads: 12 },
      {
        T1: '1S',
        T2: '3S',
        T3: '5S',
        T4: '4S',
        T5: '6S',
        T6: '8S',
        T7: '7S',
        T8: '9S',
        T9: '11S',
        T10: '10S',
        T11: '12S',
        T12: '2S',
      },
      ['1F-4F', '7F-10F'],
    ],
    [
      { partWinding: true, leads: 6 },
      { T1: '1S', T2: '3S', T3: '5S', T7: '7S', T8: '9S', T9: '11S', Y1: '4S 6S 8S', Y2: '10S 12S 2S' },
      ['1F-4F', '7F-10F'],
    ],
  ] as const)('%j', (choice, meets, joined) => {
    const c = made(choice);
    expect(nodes(c)).toEqual(meets);
    expect(jumpers(c)).toEqual(joined);
    expect(c.nodes.every((n) => n.kind === (n.name.startsWith('Y') ? 'star' : 'lead'))).toBe(true);
    expect(c.nodes.map((n) => n.name)).toEqual(Object.keys(meets));
  });
  it('halves are numbered where a phase is brought out in halves, circuits within the phase', () => {
    expect(made({ leads: 9 }).circuits.map((c) => [c.phase, c.number, c.half, c.from, c.to])).toEqual([
      ['A', 1, 1, 'T1', 'T4'],
      ['A', 2, 2, 'T7', 'Y'],
      ['B', 1, 1, 'T2', 'T5'],
      ['B', 2, 2, 'T8', 'Y'],
      ['C', 1, 1, 'T3', 'T6'],
      ['C', 2, 2, 'T9', 'Y'],
    ]);
    expect(made({ circuits: 2 }).circuits[1]).toEqual({
      phase: 'A',
      number: 2,
      from: 'T1',
      to: 'Y',
      steps: [
        { group: 7, enter: '7S', leave: '7F' },
        { group: 10, enter: '10F', leave: '10S' },
      ],
    });
    expect(made({ leads: 9 }).links.length).toBeGreaterThan(0);
    expect(made().links).toEqual([]);
    expect(
      made({ leads: 6 })
        .links.map((l) => l.use)
        .join(),
    ).not.toBe(
      made({ leads: 9 })
        .links.map((l) => l.use)
        .join(),
    );
    expect(made({ leads: 9, connection: 'delta' }).links).not.toEqual(made({ leads: 9 }).links);
  });
  it('refuses what would not be equal, and says what would', () => {
    expect(() => made({ circuits: 3 })).toThrow(
      /3 circuits joined adjacent-pole would not be equal: .*1 \(adjacent-pole or skip-pole\), 2 .*, 4 /,
    );
    expect(() => made({ circuits: 4, leads: 9 })).toThrow(
      /Two halves of 4 circuits joined adjacent-pole are 8 circuits/,
    );
    expect(() => made({ partWinding: true, connection: 'delta', leads: 6 })).toThrow(
      /part-winding start takes two wyes/,
    );
  });
  it('which circuits work, with which jumpers', () => {
    expect(possibleCircuits(layout).map((p) => p.circuits)).toEqual([1, 2, 4]);
    expect(circuitsAreEqual(layout, 2, 'adjacent-pole')).toBe(true);
    expect(circuitsAreEqual(layout, 3, 'adjacent-pole')).toBe(false);
    expect([groupsPerPhase(layout), readableCircuitLimit(layout)]).toEqual([4, 4]);
    const uneven = layoutOf(lap({ slots: 27, poles: 6, spanSlots: 4 }));
    expect(possibleCircuits(uneven).find((p) => p.circuits === 3)?.jumpers).toEqual(['adjacent-pole']);
    expect([groupsPerPhase(uneven), readableCircuitLimit(uneven)]).toEqual([6, 3]);
    // one coil with a turn more: no two circuits are equal any more
    const odd = layoutOf(lap({ turns: [11, ...Array.from({ length: 23 }, () => 10)] }));
    expect(possibleCircuits(odd).map((p) => p.circuits)).toEqual([1]);
  });
  it('round a delta nothing is left, with one phase turned twice its voltage', () => {
    expect(deltaRingEmf(layout)).toBeCloseTo(0, 9);
    for (const phase of ['A', 'B', 'C'] as const) expect(deltaRingEmf(layout, phase)).toBeCloseTo(2, 9);
  });
  it('phases that are not equal are warned of before they are joined', () => {
    expect(connectionWarnings(layout)).toEqual([]);
    expect(connectionWarnings(layoutOf(lap({ slots: 32, spanSlots: 7 })))[0]).toMatch(
      /three phases are not equal with 32 slots and 4 poles/,
    );
    const single: LayoutInput = {
      kind: 'single-phase',
      slots: 24,
      poles: 4,
      layers: 1,
      form: 'concentric',
      poleGroups: 'every-pole',
      spansSlots: [5, 3],
      turns: [30, 20],
      auxiliary: { spansSlots: [5, 3], turns: [20, 15] },
    } as never;
    expect(connectionWarnings(layoutOf(single))).toEqual([]);
    const c = made({}, layoutOf(single));
    expect(c.nodes.map((n) => n.name)).toEqual(['U1', 'U2', 'Z1', 'Z2']);
    expect(c.circuits.map((x) => x.steps.length)).toEqual([4, 4]);
    // circuits are the main's; the auxiliary is joined for itself
    expect(made({ circuits: 2 }, layoutOf(single)).circuits.map((x) => [x.phase, x.steps.length])).toEqual([
      ['A', 2],
      ['A', 2],
      ['B', 4],
    ]);
    expect(c.links).toEqual([]);
  });
  it('linked to run: halves in parallel, three leads', () => {
    expect(asLinkedToRun(layout, made())?.leads).toBe(3);
    expect(asLinkedToRun(layout, made({ leads: 6 }))).toMatchObject({ leads: 3, circuitsPerPhase: 1 });
    expect(asLinkedToRun(layout, made({ leads: 9 }))).toMatchObject({ leads: 3, circuitsPerPhase: 2 });
    expect(asLinkedToRun(layout, made({ leads: 12, connection: 'delta' }))).toMatchObject({
      connection: 'delta',
      circuitsPerPhase: 2,
    });
    expect(asLinkedToRun(layout, made({ leads: 6, partWinding: true }))).toBeUndefined();
    expect(asLinkedToRun({ ...layout, kind: 'two-speed' }, made())).toBeUndefined();
    // a connection of another layout that cannot run so
    expect(asLinkedToRun(layout, { ...made({ leads: 9 }), circuitsPerPhase: 3 })).toBeUndefined();
  });
  it('the calculation gives the same, with what else would work', () => {
    const x = worked(windingConnection, {
      slots: 24,
      poles: 4,
      layers: 2,
      form: 'lap',
      spanSlots: 5,
      connection: 'delta',
      circuits: 2,
    });
    expect(x.nodes).toEqual(made({ connection: 'delta', circuits: 2 }).nodes);
    expect(x.possible).toEqual(possibleCircuits(layout));
    expect(x.warnings).toEqual([]);
  });
});

describe('two speeds from one winding', () => {
  const two = layoutOf({
    kind: 'two-speed',
    slots: 24,
    poles: 4,
    layers: 2,
    form: 'lap',
    poleGroups: 'every-pole',
    spanSlots: 6,
    turns: [10],
  });
  const of = (duty: ConnectionChoice['duty'], circuits = 1) =>
    connect(two, { connection: 'delta', circuits, jumper: 'adjacent-pole', leads: 6, duty });
  it('consequent at the low speed, whatever was said; halves with their mid-point out', () => {
    expect([two.poleGroups, two.groups.length]).toEqual(['consequent', 6]);
    expect(two.groups.every((g) => g.sign === 1)).toBe(true);
    const torque = of('constant torque');
    expect(torque.circuits.map((c) => `${c.phase}${c.half} ${c.from}-${c.to}`)).toEqual([
      'A1 T1-T4',
      'A2 T4-T2',
      'B1 T2-T6',
      'B2 T6-T3',
      'C1 T3-T5',
      'C2 T5-T1',
    ]);
    expect(of(undefined).circuits).toEqual(torque.circuits);
    expect(of('variable torque').circuits.map((c) => c.to)).toEqual(['T4', 'Y', 'T6', 'Y', 'T5', 'Y']);
    expect(of('constant power').circuits.map((c) => `${c.from}-${c.to}`)).toEqual([
      'T4-T1',
      'T1-T5',
      'T6-T2',
      'T2-T4',
      'T5-T3',
      'T3-T6',
    ]);
    // the second half of constant power is entered the other way
    expect(of('constant power').circuits.map((c) => c.steps[0]?.enter.at(-1))).toEqual(['S', 'F', 'S', 'F', 'S', 'F']);
    expect(torque.circuits.every((c) => c.steps[0]?.enter.endsWith('S'))).toBe(true);
    expect([torque.leads, torque.links.length]).toEqual([6, 2]);
    expect(() => of('constant torque', 2)).toThrow(/1 groups in a half do not divide into 2 equal circuits/);
  });
});

describe('layouts by hand', () => {
  it('two layers: every coil begins in its slot and ends a span on; groups by the star of slots', () => {
    expect(
      layout.coils
        .slice(0, 3)
        .map((c) => [c.number, c.group, c.phase, c.sign, c.goSlot, c.returnSlot, c.spanSlots, c.position]),
    ).toEqual([
      [1, 1, 'A', 1, 1, 6, 5, 1],
      [2, 1, 'A', 1, 2, 7, 5, 2],
      [3, 2, 'C', -1, 3, 8, 5, 1],
    ]);
    expect(layout.coils.at(-1)).toMatchObject({ goSlot: 24, returnSlot: 5 });
    expect(layout).toMatchObject({
      polePitchSlots: 6,
      slotAngleDeg: 30,
      repeats: 2,
      slotsPerPolePerPhase: { numerator: 2, denominator: 1 },
    });
    expect(layout.groups.map((g) => `${g.phase}${g.sign === 1 ? '+' : '−'}`).slice(0, 6)).toEqual([
      'A+',
      'C−',
      'B+',
      'A−',
      'C+',
      'B−',
    ]);
    expect(layoutOf(lap({ poleGroups: 'consequent' })).groups).toHaveLength(6);
    expect(layoutOf(lap({ spanSlots: undefined })).spanSlots).toBe(6);
  });
  it('two layers, concentric: outermost first, the same slots', () => {
    const nested = layoutOf(lap({ form: 'concentric' }));
    expect(nested.coils.slice(0, 2).map((c) => [c.goSlot, c.returnSlot])).toEqual([
      [1, 7],
      [2, 6],
    ]);
    expect(() => layoutOf(lap({ form: 'concentric', spanSlots: 1 }))).toThrow(
      /innermost of 2 concentric coils would have no span left/,
    );
    expect(layoutOf(lap({ form: 'concentric', spanSlots: 2 })).coils[1]?.spanSlots).toBe(1);
  });
  it('one layer, lap: every second slot, odd spans', () => {
    const one = (more: object) => layoutOf(lap({ layers: 1, slots: 36, spanSlots: 9, ...more }));
    expect(
      one({})
        .coils.slice(0, 4)
        .map((c) => [c.goSlot, c.returnSlot, c.group]),
    ).toEqual([
      [1, 10, 1],
      [3, 12, 1],
      [5, 14, 2],
      [7, 16, 3],
    ]);
    expect(one({ spanSlots: undefined }).spanSlots).toBe(9);
    expect(one({ slots: 24, spanSlots: undefined }).spanSlots).toBe(5);
    expect(() => one({ spanSlots: 8 })).toThrow(/needs an odd span \(1-8 or 1-10 rather than 1-9\)/);
    expect(() => one({ slots: 27, poles: 6 })).toThrow(/needs an even number of slots, not 27/);
    expect(() => one({ spanSlots: 37 })).toThrow(/A span of 37 slots does not fit a core of 36/);
    expect(() => layoutOf(lap({ spanSlots: 24 }))).toThrow(/A span of 24 slots does not fit a core of 24/);
    expect(layoutOf(lap({ spanSlots: 23 })).spanSlots).toBe(23);
  });
  it('one layer, half-coiled and whole-coiled', () => {
    const half = layoutOf(lap({ layers: 1, poleGroups: 'consequent', spanSlots: undefined }));
    expect(half.coils.map((c) => [c.goSlot, c.returnSlot]).slice(0, 4)).toEqual([
      [1, 7],
      [2, 8],
      [5, 11],
      [6, 12],
    ]);
    const nested = layoutOf(lap({ layers: 1, form: 'concentric', poleGroups: 'consequent', spanSlots: undefined }));
    expect(nested.coils.map((c) => [c.goSlot, c.returnSlot]).slice(0, 4)).toEqual([
      [1, 8],
      [2, 7],
      [5, 12],
      [6, 11],
    ]);
    const whole = layoutOf(lap({ layers: 1, slots: 48, form: 'concentric', spanSlots: undefined }));
    expect(whole.coils.map((c) => [c.goSlot, c.returnSlot]).slice(0, 4)).toEqual([
      [3, 14],
      [4, 13],
      [7, 18],
      [8, 17],
    ]);
    expect(whole.groups.map((g) => g.coils.length)).toEqual(Array.from({ length: 12 }, () => 2));
    const odd = layoutOf(lap({ layers: 1, slots: 36, form: 'concentric', spanSlots: undefined }));
    expect(odd.groups.map((g) => g.coils.length)).toEqual([2, 1, 2, 1, 2, 1, 2, 1, 2, 1, 2, 1]);
    expect(() => layoutOf(lap({ layers: 1, slots: 30, form: 'concentric', spanSlots: undefined }))).toThrow(
      /30 slots and 4 poles give 30\/12 slots per pole per phase/,
    );
    // a circuit limit of half the groups where their sizes alternate
    expect([odd.circuitLimit, whole.circuitLimit]).toEqual([2, 4]);
  });
  it('turns: one for all, one for each place of a group, one for every coil', () => {
    expect(
      layoutOf(lap({ turns: [10, 12] }))
        .coils.slice(0, 4)
        .map((c) => c.turns),
    ).toEqual([10, 12, 10, 12]);
    const each = Array.from({ length: 24 }, (_, i) => i + 1);
    expect(layoutOf(lap({ turns: each })).coils.map((c) => c.turns)).toEqual(each);
    expect(() => layoutOf(lap({ turns: [1, 2, 3] }))).toThrow(
      /3 turn counts were given; give one for all coils, 2 for the coils of a group, or 24 for every coil/,
    );
  });
  it('spans said must be those of the form', () => {
    expect(() => layoutOf(lap({ form: 'concentric', spansSlots: [6, 4] }))).not.toThrow();
    expect(() => layoutOf(lap({ form: 'concentric', spansSlots: [4, 6] }))).not.toThrow();
    expect(() => layoutOf(lap({ spansSlots: [5] }))).not.toThrow();
    expect(() => layoutOf(lap({ spansSlots: [4] }))).toThrow(
      /Spans of 4 slots do not fit: the coils of a group span 5, 5 slots here/,
    );
    expect(() => layoutOf(lap({ form: 'concentric', spansSlots: [7, 5] }))).toThrow(
      /Spans of 7, 5 slots do not fit: the coils of a group span 6, 4 slots/,
    );
  });
  it('groups as counted: a number for each belt, or for each that holds a coil', () => {
    expect(groupingFits([2, 2, 2], 6, 3)).toBe(true);
    expect(groupingFits([2, 2, 3], 6, 3)).toBe(false);
    expect(groupingFits([3, 3], 6, 3)).toBe(false);
    // three coils in six belts: three groups hold one, or six numbers with three noughts
    expect(groupingFits([1, 1, 1], 3, 6)).toBe(true);
    expect(groupingFits([1, 0, 1, 0, 1, 0], 3, 6)).toBe(true);
    expect(groupingFits([1, 1, 1, 0], 3, 6)).toBe(false);
    const thirty = (grouping?: number[]) =>
      layoutOf(lap({ slots: 30, spanSlots: 6, ...(grouping ? { grouping } : {}) }));
    expect(thirty().groups.map((g) => g.coils.length)).toEqual([3, 2, 3, 2, 3, 2, 3, 2, 3, 2, 3, 2]);
    expect(
      thirty([2, 3, 2, 3, 2, 3, 2, 3, 2, 3, 2, 3])
        .groups.map((g) => g.coils.length)
        .slice(0, 3),
    ).toEqual([2, 3, 2]);
    expect(() => thirty([3, 3])).toThrow(/2 groups of 6 coils do not fit: this winding has 30 coils in 12 groups/);
    // 12 teeth, 10 poles: twelve coils in thirty belts, numbered by their belts
    const tooth = layoutOf(lap({ slots: 12, poles: 10, spanSlots: 1, turns: [20] }));
    expect(tooth.groups).toHaveLength(12);
    expect(tooth.balance.balanced).toBe(true);
  });
});
