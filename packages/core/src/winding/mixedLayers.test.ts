import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { runCalculation } from '../calculation.ts';
import { METRIC_DEFAULTS } from '../quantity/fields.ts';
import { USUAL_MATERIALS } from '../insulation/materials.ts';
import { billOfRecord } from '../insulation/planBill.ts';
import { checkRecord } from './checks.ts';
import { possibleCircuits } from './connection.ts';
import { windingFactors, workingFactor } from './factors.ts';
import { layoutOf } from './layout.ts';
import { layoutInputSchema, type Layout } from './layoutTypes.ts';
import { mixedGroup, windingMixedLayers } from './mixedLayers.ts';
import { readWindingRecord, typedOfRecord } from './readRecord.ts';
import { fullestSlot } from './recordLayout.ts';
import { sayCoils } from './say.ts';

const mixed = (slots: number, spansSlots: number[], sideKinds: string[], turns: number[], poles = 4): Layout =>
  layoutOf(layoutInputSchema.parse({ slots, poles, layers: 2, form: 'concentric', spansSlots, sideKinds, turns }));
const fromLap = (slots: number, span: number, poles = 4) => {
  const group = mixedGroup({ slots, poles, spanSlots: span, turns: 1 });
  return {
    group,
    layout: mixed(
      slots,
      group.map((g) => g.spanSlots),
      group.map((g) => g.side),
      group.map((g) => g.turns),
      poles,
    ),
  };
};

describe('mixed single and double layer (winding reference 4.10)', () => {
  it.each([
    [36, 8, '6 × 1, 8 × 2', 24, 0.9452],
    [36, 9, '7 × 2, 9 × 1', 24, 0.9598],
    [24, 5, '4 × 1, 6 × 1', 24, 0.933],
    [48, 10, '7 × 1, 9 × 1, 11 × 2', 36, 0.925],
    [48, 11, '8 × 1, 10 × 2, 12 × 1', 36, 0.9495],
    [60, 14, '10 × 1, 12 × 2, 14 × 2', 36, 0.9514],
  ])('checks 108, 109: %i slots from a lap of %i: %s, %i coils, k_w %d', (slots, span, wanted, coils, kw) => {
    const { group, layout } = fromLap(slots, span);
    expect(
      [...group]
        .reverse()
        .map((g) => `${g.spanSlots} × ${g.turns}`)
        .join(', '),
    ).toBe(wanted);
    expect(layout.coils).toHaveLength(coils);
    expect(workingFactor(layout)).toBeCloseTo(kw, 4);
    expect(layout.balance.balanced).toBe(true);
  });
  it.each([
    [36, 8],
    [36, 9],
    [48, 10],
    [48, 11],
    [60, 13],
  ])('%i slots: the same slot contents as the lap of %i, so the same factor at every order', (slots, span) => {
    const lap = layoutOf(layoutInputSchema.parse({ slots, poles: 4, layers: 2, form: 'lap', spanSlots: span }));
    const net = (layout: Layout) => {
      const out = Array.from({ length: slots }, () => ({ A: 0, B: 0, C: 0 }));
      for (const side of layout.sides)
        (out[side.slot - 1] as { A: number; B: number; C: number })[side.phase] +=
          side.sign * (layout.coils[side.coil - 1]?.turns ?? 0);
      return out;
    };
    const own = net(fromLap(slots, span).layout);
    const wanted = net(lap);
    // the same up to where counting begins
    expect(
      Array.from({ length: slots }, (_, k) => k).some((k) =>
        wanted.every((w, i) => JSON.stringify(w) === JSON.stringify(own[(i + k) % slots])),
      ),
    ).toBe(true);
    const sizes = (layout: Layout) => windingFactors(layout, 13).map((x) => x.size.toFixed(9));
    expect(sizes(fromLap(slots, span).layout)).toEqual(sizes(lap));
  });
  it('check 110: turns 45 and 22: 0.9458', () => {
    expect(workingFactor(mixed(36, [8, 6], ['full', 'half'], [45, 22]))).toBeCloseTo(0.9458, 4);
  });
  it('36/4 from 1-9: coils and slots as printed, groups all alike, four circuits', () => {
    const layout = mixed(36, [8, 6], ['full', 'half'], [2, 1]);
    const of = (phase: string) =>
      layout.coils.filter((c) => c.phase === phase).map((c) => `${c.goSlot}-${c.returnSlot}`);
    expect(of('A')).toEqual(['1-9', '2-8', '10-18', '11-17', '19-27', '20-26', '28-36', '29-35']);
    expect(of('C')).toEqual(['4-12', '5-11', '13-21', '14-20', '22-30', '23-29', '31-3', '32-2']);
    const at = (slot: number) =>
      layout.sides
        .filter((s) => s.slot === slot)
        .map((s) => `${s.sign > 0 ? s.phase : s.phase.toLowerCase()}${s.layer === 'single' ? '' : '½'}`)
        .sort()
        .join('');
    expect([1, 2, 3, 4, 5, 6, 8, 9, 11].map(at)).toEqual(['A', 'A½c½', 'c', 'c', 'B½c½', 'B', 'B½a½', 'a', 'C½a½']);
    expect(possibleCircuits(layout).map((c) => c.circuits)).toEqual([1, 2, 4]);
    expect(fullestSlot(layout)).toEqual({ main: 2, aux: 0 });
  });
  it('a slot that is not filled exactly is named', () => {
    expect(() => mixed(36, [8, 6], ['full', 'full'], [2, 1])).toThrow(/Slot \d+ would be 1\.5|2 filled/);
    expect(() => mixed(36, [8, 6], ['half', 'half'], [2, 1])).toThrow(/filled instead of once/);
    expect(() => mixed(36, [8, 6], ['full'], [2])).toThrow(/1 coils are said full or half, 2 spans/);
    expect(() => mixed(36, [8, 5], ['full', 'half'], [2, 1])).toThrow(/differ by two slots/);
    expect(() => mixed(30, [7, 5], ['full', 'half'], [2, 1])).toThrow(/whole number of slots per pole and phase/);
  });
  it('the calculation says how many coils are saved', () => {
    const made = worked(windingMixedLayers, { slots: 36, poles: 4, spanSlots: 8, turns: 22 });
    expect(made).toMatchObject({
      coils: 24,
      lapCoils: 36,
      group: [
        { spanSlots: 8, turns: 44, side: 'full' },
        { spanSlots: 6, turns: 22, side: 'half' },
      ],
    });
    expect(() => runCalculation(windingMixedLayers, { slots: 36, poles: 4, spanSlots: 5 })).toThrow(/spans 6 to 9/);
    expect(() => runCalculation(windingMixedLayers, { slots: 30, poles: 4, spanSlots: 6 })).toThrow(/whole number/);
  });
});

describe('mixed layers from record to material', () => {
  const typed = {
    slots: '36',
    poles: '4',
    layers: 'mixed',
    spansSlots: '1-9, 2-8',
    sideKinds: 'full, half',
    turns: '44, 22',
    strands: '2x0.8',
    wireGrade: '2',
    connection: 'wye',
    circuits: '1',
    leads: '3',
    boreM: '110',
    coreLengthM: '120',
    slotDepthM: '20',
    coilCount: '24',
    groupCount: '12',
    coreOuterM: '180',
    backIronM: '15',
    toothWidthM: '5',
    slotOpeningM: '3',
    slotAreaM2: '120',
    slotNetAreaM2: '100',
    linerM: '0.3',
    separatorM: '0.3',
  };
  const { record, problems } = readWindingRecord(typed, METRIC_DEFAULTS);
  it('is read, said with full and half coils, and read again', () => {
    expect(problems).toEqual([]);
    expect(sayCoils(record)).toBe('1-9 full, 2-8 half');
    expect(readWindingRecord(typedOfRecord(record), METRIC_DEFAULTS).record).toEqual(record);
    expect(checkRecord(record, {}).filter((c) => c.severity === 'E')).toEqual([]);
  });
  it('separators only in slots of two sides', () => {
    const { bill, problems } = billOfRecord(
      record,
      { voltagesV: [400], insulationClass: 'F', frame: '112M' },
      { sheetWaste: '0' },
      { materials: USUAL_MATERIALS, defaults: METRIC_DEFAULTS },
    );
    expect(problems).toEqual([]);
    const figures = bill?.figures ?? { coils: 0, separators: 0, liners: 0 };
    expect(figures.coils).toBe(24);
    expect(figures.separators).toBe(12);
    expect(figures.liners).toBe(36);
  });
  it.each([
    ['44, 22', false],
    ['45, 22', false],
    ['45, 23', false],
    ['44, 20', true],
    ['22, 44', true],
  ])('turns %s: asked about %s', (turns, asked) => {
    const checked = readWindingRecord({ ...typed, turns }, METRIC_DEFAULTS).record;
    expect(checkRecord(checked, {}).some((c) => c.check === 'mixed-turns')).toBe(asked);
  });
  it('coils are counted against the groups, not against the slots', () => {
    const wrong = readWindingRecord({ ...typed, coilCount: '36' }, METRIC_DEFAULTS).record;
    expect(checkRecord(wrong, {}).find((c) => c.check === 'coils-slots')?.message).toMatch(
      /full and half sides as said.*hold 24/,
    );
  });
});
