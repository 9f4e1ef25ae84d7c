import { describe, expect, it } from 'vitest';
import { checkAlone } from '../../../../scripts/testing/recordChecks.ts';
import { KIND_CHECKS } from './kindChecks.ts';
import { layoutOf } from './layout.ts';

const { said, severities } = checkAlone(KIND_CHECKS);
const ONE_PHASE = { kind: 'single-phase', poles: 4 };

describe('main and auxiliary', () => {
  const of = (record: object, more: object = {}) => said('main-aux', { record: { ...ONE_PHASE, ...record }, ...more });
  it('is asked of single-phase windings with poles only', () => {
    expect(said('main-aux', { record: { poles: 4, groupCount: 3, auxShiftSlots: 1, slots: 36 } })).toEqual([]);
    expect(of({ poles: undefined, groupCount: 3 })).toEqual([]);
    expect(of({})).toEqual([]);
  });
  it.each([
    ['main and auxiliary', 8, {}, undefined, []],
    [
      'one too few',
      7,
      {},
      undefined,
      ['E groupCount,poles: 7 groups counted; main and auxiliary have 8 with 4 poles.'],
    ],
    [
      'half of them',
      4,
      {},
      undefined,
      ['E groupCount,poles: 4 groups counted; main and auxiliary have 8 with 4 poles. Is it consequent pole?'],
    ],
    ['consequent', 4, { poleGroups: 'consequent' }, undefined, []],
    [
      'consequent, all counted',
      8,
      { poleGroups: 'consequent' },
      undefined,
      ['E groupCount,poles: 8 groups counted; main and auxiliary have 4 with 4 poles, consequent.'],
    ],
    [
      'consequent, half',
      2,
      { poleGroups: 'consequent' },
      undefined,
      ['E groupCount,poles: 2 groups counted; main and auxiliary have 4 with 4 poles, consequent.'],
    ],
    ['main alone', 4, {}, { phases: ['A'] }, []],
    [
      'main alone, too many',
      8,
      {},
      { phases: ['A'] },
      ['E groupCount,poles: 8 groups counted; main alone has 4 with 4 poles.'],
    ],
    ['both, by the layout', 8, {}, { phases: ['A', 'B'] }, []],
  ])('groups: %s', (_, groupCount, record, layout, wanted) =>
    expect(of({ groupCount, ...record }, layout ? { layout } : {})).toEqual(wanted),
  );
  it.each([
    [4.5, []],
    [4, ['E auxShiftSlots: The axes of main and auxiliary stand 80° electrical apart (4 slots); 90° is 4.5 slots.']],
    [5, ['E auxShiftSlots: The axes of main and auxiliary stand 100° electrical apart (5 slots); 90° is 4.5 slots.']],
  ])('axes %d slots apart of 36', (auxShiftSlots, wanted) => expect(of({ auxShiftSlots, slots: 36 })).toEqual(wanted));
  it('axes are asked only where shift and slots are there', () => {
    expect(of({ auxShiftSlots: 4 })).toEqual([]);
    expect(of({ slots: 36 })).toEqual([]);
  });
  const wires = (main: number, aux: number, auxKind: string | undefined = 'split phase') =>
    of({
      auxKind,
      capacitorF: 1e-5,
      ...(main > 0 ? { strands: [{ count: 1, bareM: main, label: '' }] } : {}),
      ...(aux > 0 ? { auxStrands: [{ count: 1, bareM: aux, label: '' }] } : {}),
    });
  it.each([
    ['thinner', 1e-3, 0.6e-3, 0],
    ['as thick', 1e-3, 1e-3, 1],
    ['thicker', 0.8e-3, 1e-3, 1],
    ['main unknown', 0, 1e-3, 0],
    ['auxiliary unknown', 1e-3, 0, 0],
    ['neither known', 0, 0, 0],
  ])('split phase, auxiliary %s', (_, main, aux, n) => {
    expect(wires(main, aux)).toHaveLength(n);
    expect(wires(main, aux, 'capacitor run')).toEqual([]);
  });
  it('says both sections where they were exchanged', () =>
    expect(wires(0.8e-3, 1e-3)).toEqual([
      'W strands,auxStrands: The auxiliary of a split-phase motor has the thinner wire; here 0.785 mm² against 0.503 mm² of the main. Were the two exchanged?',
    ]));
  it.each([
    ['capacitor run', undefined, 1],
    ['capacitor start', undefined, 1],
    ['capacitor run', 2e-5, 0],
    ['split phase', undefined, 0],
    [undefined, undefined, 0],
  ])('%s with a capacitor of %s', (auxKind, capacitorF, n) => {
    const notes = of({ auxKind, capacitorF });
    expect(notes).toHaveLength(n);
    if (n > 0) expect(notes[0]).toMatch(/^I capacitorF: Record the capacitor/);
  });
});

describe('turns ratio of a capacitor-run motor', () => {
  const of = (
    turnsRatio: number | undefined,
    record: object = { kind: 'single-phase', auxKind: 'capacitor run' },
    limits = {},
  ) => said('turns-ratio', { record, figures: { turnsRatio }, limits });
  it.each([
    [0.99, 1],
    [1, 0],
    [1.2, 0],
    [1.5, 0],
    [1.51, 1],
    [undefined, 0],
  ])('%s between 1 and 1.5', (ratio, n) =>
    expect(of(ratio, undefined, { 'winding.turnsRatioLow': 1, 'winding.turnsRatioHigh': 1.5 })).toHaveLength(n),
  );
  it('is asked of capacitor-run motors only', () => {
    expect(of(9)).toHaveLength(1);
    expect(of(9)[0]).toMatch(/^W auxTurns,turns: Effective turns ratio auxiliary to main 9;/);
    expect(of(9, { kind: 'single-phase', auxKind: 'split phase' })).toEqual([]);
    expect(of(9, { kind: 'three-phase', auxKind: 'capacitor run' })).toEqual([]);
  });
});

describe('two speeds', () => {
  const layout = layoutOf({
    kind: 'two-speed',
    slots: 36,
    poles: 8,
    layers: 2,
    form: 'lap',
    poleGroups: 'consequent',
    spanSlots: 5,
    turns: [10],
  });
  const of = (record: object, more: object = {}) =>
    said('two-speed', { record: { kind: 'two-speed', ...record }, ...more });
  it('is asked of two-speed windings with poles', () => {
    expect(said('two-speed', { record: { poles: 6 } })).toEqual([]);
    expect(of({})).toEqual([]);
  });
  it.each([2, 6, 10])('%d poles cannot be the larger number', (poles) =>
    expect(of({ poles })).toEqual([
      `E poles: ${poles} poles at the low speed would be ${poles / 2} at the high speed; enter the larger pole number, 4, 8, 12 …`,
    ]),
  );
  it('without a layout nothing is said of the rest', () => expect(of({ poles: 8 })).toEqual([]));
  it('asks for the duty, and says the factors of both speeds', () => {
    const [note, ...more] = of({ poles: 8 }, { layout });
    expect(more).toEqual([]);
    expect(note).toMatch(/^I duty: k_w 0\.8312 at 8 poles, 0\.7352 at 4\. Say what/);
    expect(of({ poles: 8, duty: 'constant torque' }, { layout })).toEqual([]);
  });
});

describe('bars joined into waves', () => {
  const of = (record: object) => said('bar-wave', { record: { kind: 'bar-rotor', slots: 48, poles: 4, ...record } });
  it('what can be joined is not remarked on', () => {
    expect(of({})).toEqual([]);
    expect(of({ farPitchSlots: 12 })).toEqual([]);
  });
  it('what cannot is an error of pitch, slots and poles', () => {
    const [error] = of({ farPitchSlots: 3 });
    expect(error).toMatch(/^E farPitchSlots,slots,poles: ./);
    expect(error).not.toMatch(/undefined/);
  });
  it.each([
    ['four bars in a slot', { barsPerSlot: 4, farPitchSlots: 3 }],
    ['no slots', { slots: undefined, farPitchSlots: 3 }],
    ['no poles', { poles: undefined, farPitchSlots: 3 }],
    ['another kind', { kind: 'three-phase', farPitchSlots: 3 }],
  ])('is not asked of: %s', (_, record) => expect(of(record)).toEqual([]));
  it('two bars said are two bars', () => expect(of({ barsPerSlot: 2, farPitchSlots: 3 })).toHaveLength(1));
});

describe('stator slots against rotor bars', () => {
  const of = (record: object, nameplate: object = {}) =>
    said('slot-combination', { record: { slots: 36, poles: 4, rotorBars: 36, ...record }, nameplate });
  it('equal numbers are told, as a note', () =>
    expect(of({})[0]).toMatch(/^I rotorBars: 36 slots with 36 bars: .*An existing motor is not refused/));
  it('several rules are told one after the other', () =>
    expect((of({})[0] ?? '').split('; ').length).toBeGreaterThan(1));
  it('a quiet pair is not remarked on', () =>
    expect(of({ rotorBars: 28 })).toEqual(of({ rotorBars: 28, skewSlots: 0 })));
  it('skew is looked at', () =>
    expect(of({ rotorBars: 37, skewSlots: 1 })).not.toEqual(of({ rotorBars: 36, skewSlots: 1 })));
  it.each([
    ['magnets', {}, { machine: 'permanent magnet' }],
    ['no slots', { slots: undefined }, {}],
    ['no poles', { poles: undefined }, {}],
    ['no bars', { rotorBars: undefined }, {}],
    ['nine bars', { rotorBars: 9, slots: 9 }, {}],
  ])('is not asked with %s', (_, record, nameplate) => expect(of(record, nameplate)).toEqual([]));
  it('ten bars are a cage', () =>
    expect(severities('slot-combination', { record: { slots: 10, poles: 4, rotorBars: 10 } })).toBe('I'));
});
