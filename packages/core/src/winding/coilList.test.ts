import { describe, expect, it } from 'vitest';
import { METRIC_DEFAULTS } from '../quantity/fields.ts';
import { parseSlotPairs, parseWords } from '../quantity/parse.ts';
import { checkRecord } from './checks.ts';
import { formOfList, spanOf, wholeList } from './coilList.ts';
import { possibleCircuits } from './connection.ts';
import { connectionOfRecord } from './connectionOfRecord.ts';
import { hasFilledBelts, workingFactor } from './factors.ts';
import { windingFigures } from './figures.ts';
import { layoutOf } from './layout.ts';
import { layoutInputSchema, type Layout, type Phase } from './layoutTypes.ts';
import { readWindingRecord, typedOfRecord } from './readRecord.ts';
import { sayCoils } from './say.ts';

const pairs = (text: string) => {
  const read = parseSlotPairs(text);
  if (!read.ok) throw new Error(read.message);
  return read.value;
};
const laid = (slots: number, poles: number, text: string, more: object = {}): Layout =>
  layoutOf(layoutInputSchema.parse({ slots, poles, layers: 1, form: 'lap', coilList: pairs(text), ...more }));
const said = (layout: Layout, phase: Phase) =>
  layout.groups
    .filter((g) => g.phase === phase)
    .map(
      (g) =>
        g.coils.map((n) => `${layout.coils[n - 1]?.goSlot}-${layout.coils[n - 1]?.returnSlot}`).join(' ') +
        (g.sign > 0 ? ' +' : ' −'),
    )
    .join(', ');

describe('single layer from any list of coils (winding reference 4.9)', () => {
  it('check 105: crossed 36/4 1-9, 2-10, 11-18: k_w 0.9598, coil by coil', () => {
    const layout = laid(36, 4, '1-9, 2-10, 11-18');
    expect(workingFactor(layout)).toBeCloseTo(0.9598, 4);
    expect(said(layout, 'A')).toBe('1-9 2-10 +, 11-18 −, 19-27 20-28 +, 29-36 −');
    expect(said(layout, 'B')).toBe('7-15 8-16 +, 17-24 −, 25-33 26-34 +, 35-6 −');
    expect(said(layout, 'C')).toBe('5-12 −, 13-21 14-22 +, 23-30 −, 31-3 32-4 +');
    expect(layout.balance.balanced).toBe(true);
    expect(hasFilledBelts(layout)).toBe(true);
    expect(possibleCircuits(layout).map((c) => c.circuits)).toEqual([1, 2]);
    expect(layout.spanSlots).toBeCloseTo(7.667, 3);
  });
  it('check 106: 11-19 typed: slot 18 empty, 19 double', () => {
    expect(() => laid(36, 4, '1-9, 2-10, 11-19')).toThrow(/slot 6, 12, 18.* would be empty, slot 1, 7, 13, 19/);
    const whole = wholeList(pairs('1-9, 2-10, 11-18'), 36).map(([g, b], i) => (i === 2 ? `${g}-19` : `${g}-${b}`));
    expect(() => laid(36, 4, whole.join(', '))).toThrow(/slot 18 would be empty, slot 19 taken twice/);
  });
  it('check 107: chain 48/4 1-11, 2-12: k_w 0.9577', () => {
    const layout = laid(48, 4, '1-11, 2-12');
    expect(workingFactor(layout)).toBeCloseTo(0.9577, 4);
    expect(possibleCircuits(layout).map((c) => c.circuits)).toEqual([1, 2, 4]);
    expect(layout.groups).toHaveLength(12);
  });
  it.each([
    [24, 4, '1-6', 0.9659],
    [60, 4, '1-14, 2-15, 3-16, 17-29, 18-30', 0.9567],
    [36, 4, '1-9, 2-10, 11-18, 19-27, 20-28, 29-36', 0.9598],
    [36, 4, '1-12, 2-11, 3-10', 0.9598],
    [24, 2, '1-12, 2-11, 13-24, 14-23', 0.9577],
  ])('%i/%i %s: k_w %d, filled belts', (slots, poles, text, kw) => {
    const layout = laid(slots, poles, text);
    expect(workingFactor(layout)).toBeCloseTo(kw, 4);
    expect(hasFilledBelts(layout)).toBe(true);
  });
  it('36/4, 1-8 on every second slot: not filled, 0.9019', () => {
    const layout = laid(36, 4, '1-8');
    expect(workingFactor(layout)).toBeCloseTo(0.9019, 4);
    expect(hasFilledBelts(layout)).toBe(false);
  });
  it('a coil typed from return to go is the same winding, and is asked about', () => {
    const layout = laid(36, 4, '1-9, 2-10, 18-11');
    expect(workingFactor(layout)).toBeCloseTo(0.9598, 4);
    expect(layout.balance.balanced).toBe(true);
    expect(said(layout, 'A')).toBe('1-9 2-10 +, 18-11 +, 19-27 20-28 +, 36-29 +');
    const { record } = readWindingRecord({ slots: '36', poles: '4', coilList: '1-9, 2-10, 18-11' }, METRIC_DEFAULTS);
    expect(checkRecord(record, {}).find((c) => c.check === 'span')?.message).toMatch(/18-11 spans 29.*11-18 spans 7/);
  });
  it('half a coil list does not go round', () => {
    expect(() => laid(36, 4, '1-9, 2-10, 11-18, 19-27')).toThrow(
      /4 coils read off do not repeat round 36 slots; 18 coils are the whole/,
    );
  });
  it('a coil of a whole pole pair links nothing; slots beyond the core are named', () => {
    const wide = Array.from({ length: 18 }, (_, i) => `${i + 1}-${i + 19}`).join(', ');
    expect(() => laid(36, 4, wide)).toThrow(/links no flux/);
    expect(() => laid(36, 4, '1-9, 2-10, 40-47')).toThrow(/Slot 40 is not on a core of 36/);
    expect(() =>
      laid(30, 4, '1-8, 2-9, 3-10, 4-11, 5-12, 6-13, 7-14, 15-16, 17-18, 19-20, 21-22, 23-24, 25-26, 27-28, 29-30'),
    ).toThrow(/no three equal phases.*sums/);
  });
  it('turns may differ from coil to coil of the repeat', () => {
    const layout = laid(36, 4, '1-9, 2-10, 11-18', { turns: [30, 30, 28] });
    expect(layout.coils.filter((c) => c.turns === 28).every((c) => c.spanSlots === 7)).toBe(true);
    expect(layout.balance.balanced).toBe(true);
  });
  it('every list that reads off a regular single layer gives its factor', () => {
    for (const [slots, poles, form] of [
      [24, 4, 'concentric'],
      [36, 4, 'concentric'],
      [48, 4, 'concentric'],
      [36, 6, 'lap'],
      [54, 6, 'lap'],
    ] as const) {
      const regular = layoutOf(
        layoutInputSchema.parse({
          slots,
          poles,
          layers: 1,
          form,
          spanSlots: form === 'lap' ? slots / poles - (1 - ((slots / poles) % 2)) : undefined,
        }),
      );
      const again = laid(slots, poles, regular.coils.map((c) => `${c.goSlot}-${c.returnSlot}`).join(', '));
      expect(workingFactor(again)).toBeCloseTo(workingFactor(regular), 9);
      expect(again.balance.balanced).toBe(true);
      expect(again.groups.length).toBe(regular.groups.length);
    }
  });
});

describe('a list of coils from record to connection', () => {
  const typed = {
    slots: '36',
    poles: '4',
    layers: 'single',
    coilList: '1-9, 2-10, 11-18',
    turns: '28',
    strands: '1x0.9',
    wireGrade: '2',
    connection: 'wye',
    circuits: '1',
    leads: '3',
    boreM: '90',
    coreLengthM: '95',
    slotDepthM: '16',
  };
  const { record, problems } = readWindingRecord(typed, METRIC_DEFAULTS);
  it('is read, kept, said and read again', () => {
    expect(problems).toEqual([]);
    expect(record.coilList).toEqual([
      [1, 9],
      [2, 10],
      [11, 18],
    ]);
    expect(sayCoils(record)).toBe('1-9, 2-10, 11-18');
    expect(readWindingRecord(typedOfRecord(record), METRIC_DEFAULTS).record).toEqual(record);
  });
  it('mean turn by each coil’s own span', () => {
    const f = windingFigures.compute(windingFigures.input.parse({ record, nameplate: {} }));
    const of = (spans: number[]) =>
      windingFigures.compute(
        windingFigures.input.parse({
          record: { ...record, coilList: undefined, layers: 'single', form: 'lap', spansSlots: spans },
          nameplate: {},
        }),
      ).meanTurnM ?? 0;
    expect(f.meanTurnM).toBeCloseTo((2 * of([8]) + of([7])) / 3, 9);
    expect(f.seriesTurns).toBe(168);
  });
  it('has a connection, whole circuits of as many long as short coils', () => {
    const made = connectionOfRecord({ ...record, circuits: 2 });
    expect(made.connection?.circuits).toHaveLength(6);
    expect(connectionOfRecord({ ...record, circuits: 4 }).connection).toBeUndefined();
    expect(checkRecord(record, {}).filter((c) => c.severity === 'E')).toEqual([]);
  });
  it('sums that are off stand in the checks with their field', () => {
    const wrong = readWindingRecord({ ...typed, coilList: '1-9, 2-10, 11-19' }, METRIC_DEFAULTS).record;
    expect(checkRecord(wrong, {})[0]).toMatchObject({
      check: 'layout',
      severity: 'E',
      fields: ['coilList', 'slots', 'poles'],
    });
  });
  it.each([
    [
      '1-9 2-10 11-18',
      [
        [1, 9],
        [2, 10],
        [11, 18],
      ],
    ],
    [
      '1→9; 2→10',
      [
        [1, 9],
        [2, 10],
      ],
    ],
    ['29 to 36', [[29, 36]]],
  ])('%s is read', (text, wanted) => expect(pairs(text)).toEqual(wanted));
  it.each([
    ['1-9, 1-7, 1-5', /spans only.*1-9, 2-8, 3-7/],
    ['1-1', /one slot/],
    ['0-4', /numbered from 1/],
    ['1-9, 2', /"2" is not a coil/],
    ['', /Type the coils/],
  ])('%s is refused in words', (text, message) => {
    const read = parseSlotPairs(text);
    expect(read.ok ? '' : read.message).toMatch(message);
  });
  it('words for the coils of a group', () => {
    expect(parseWords('full, half', ['full', 'half'])).toEqual({ ok: true, value: ['full', 'half'] });
    expect(parseWords('2x half full', ['full', 'half'])).toEqual({ ok: true, value: ['half', 'half', 'full'] });
    expect(parseWords('whole', ['full', 'half'])).toMatchObject({
      ok: false,
      message: expect.stringMatching(/neither full nor half/),
    });
  });
  it('form and span of a list', () => {
    expect(
      formOfList(
        [
          [1, 9],
          [2, 8],
        ],
        36,
      ),
    ).toBe('concentric');
    expect(
      formOfList(
        [
          [1, 9],
          [2, 10],
        ],
        36,
      ),
    ).toBe('lap');
    expect(spanOf([35, 6], 36)).toBe(7);
  });
});
