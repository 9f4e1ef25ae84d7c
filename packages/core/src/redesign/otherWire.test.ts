import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { runCalculation } from '../calculation.ts';
import { asFoundOf, whyNotSearched } from './asFound.ts';
import { EXAMPLE_PLATE, EXAMPLE_RECORD } from '../winding/exampleRecord.ts';
import { distributionFactor, workingFactor } from '../winding/factors.ts';
import { layoutOfRecord } from '../winding/recordLayout.ts';
import { windingRecordSchema, type WindingRecord } from '../winding/record.ts';
import {
  EQUAL_RESISTANCE_SHARE,
  extraTurnPlaces,
  judgeRewire,
  rewiredRecord,
  scaledTurns,
  targetAreaM2,
  turnChoices,
  windingOtherWire,
  wireChoices,
} from './otherWire.ts';

const wire = (mm: number, count = 1) => ({ count, bareM: mm / 1000, label: String(mm) });
const sizes = [0.5, 0.56, 0.6, 0.63, 0.67, 0.71, 0.75, 0.8, 0.85, 0.9, 0.95, 1, 1.06, 1.12, 1.18, 1.25].map((d) => ({
  bareM: d / 1000,
  label: String(d),
}));
const m1 = windingRecordSchema.parse(EXAMPLE_RECORD);
const single = windingRecordSchema.parse({
  kind: 'single-phase',
  slots: 36,
  poles: 4,
  spansSlots: [8, 6, 4],
  turns: [40, 35, 26],
  strands: [wire(0.9)],
  wireGrade: '2',
  auxKind: 'capacitor run',
  auxSpansSlots: [9, 7],
  auxTurns: [30, 52],
  auxStrands: [wire(0.5)],
  boreM: 0.09,
  coreLengthM: 0.08,
  slotDepthM: 0.016,
  slotNetAreaM2: 95e-6,
  slotAreaM2: 110e-6,
});

describe('T and T+1 (winding reference 9.4)', () => {
  it.each([
    [3, 1, [1]],
    [3, 2, [0, 2]],
    [4, 1, [1]],
    [4, 2, [1, 2]],
    [4, 3, [0, 1, 2]],
    [5, 1, [2]],
    [5, 2, [1, 3]],
    [5, 3, [1, 2, 3]],
    [5, 4, [0, 1, 3, 4]],
    [2, 1, [0]],
  ])('%i coils, %i with an extra turn: places %j', (n, m, places) => expect(extraTurnPlaces(n, m)).toEqual(places));
  it('checks 126, 127: M1 to 19.630 turns: 20 19 20, distribution factor 0.95911, flux −0.12 % instead of −1.85 %', () => {
    const choices = turnChoices(m1, 19.63 / 34);
    expect(choices[0]?.turns).toEqual([20, 19, 20]);
    expect(choices[0]?.fluxErrorPercent).toBeCloseTo(-0.12, 2);
    const all = choices.find((c) => c.turns.length === 1 && c.turns[0] === 20);
    expect(all?.fluxErrorPercent).toBeCloseTo(-1.85, 2);
    const { layout } = layoutOfRecord({ ...m1, turns: [20, 19, 20] } as WindingRecord);
    const kp = Math.sin((Math.PI / 2) * (8 / 9));
    expect((layout ? workingFactor(layout) : 0) / kp).toBeCloseTo(0.95911, 4);
    expect(distributionFactor(3, 60)).toBeCloseTo(0.9598, 4);
  });
  it('groups of unlike size: all coils of the groups of one size, and the phases stay equal', () => {
    const fractional = windingRecordSchema.parse({
      slots: 27,
      poles: 6,
      layers: 'double',
      form: 'lap',
      spansSlots: [4],
      turns: [20],
      circuits: 1,
      connection: 'wye',
    });
    const choices = turnChoices(fractional, 1.02);
    expect(choices.map((c) => c.says)).toEqual(
      expect.arrayContaining(['21 in the groups of 1, 20 in the others', '21 in the groups of 2, 20 in the others']),
    );
    for (const c of choices)
      expect(layoutOfRecord({ ...fractional, turns: c.turns } as WindingRecord).layout?.balance.balanced).toBe(true);
  });
  it('check 128: graded 40/35/26 from 115 to 127 V: 44/39/29, flux −0.33 %', () => {
    expect(scaledTurns([40, 35, 26], 127 / 115)).toEqual([44, 39, 29]);
    const [choice] = turnChoices(single, 127 / 115);
    expect(choice?.turns).toEqual([44, 39, 29]);
    expect(choice?.fluxErrorPercent).toBeCloseTo(-0.33, 2);
    expect(choice?.auxTurns).toEqual([33, 58]);
    expect(Math.abs(choice?.ratioErrorPercent ?? 9)).toBeLessThan(2);
  });
  it('rounding keeps the whole: round(k Σ T)', () => {
    for (const k of [0.5, 0.77, 1.05, 1.33])
      expect(scaledTurns([40, 35, 26, 11], k).reduce((a, b) => a + b, 0)).toBe(Math.round(k * 112));
  });
  it('two speeds: one factor for all groups, both speeds stay as they are', () => {
    const two = windingRecordSchema.parse({
      kind: 'two-speed',
      slots: 36,
      poles: 8,
      spansSlots: [5],
      turns: [20],
      circuits: 1,
      duty: 'constant torque',
    });
    const choices = turnChoices(two, 1.1);
    expect(choices[0]?.turns).toEqual([22]);
    expect(choices[0]?.fluxErrorPercent).toBeCloseTo(0, 9);
  });
});

describe('aluminium to copper', () => {
  it('check 129: equal resistance takes 0.6202 of the area, mass × 2.042; equal space mass × 3.293', () => {
    expect(EQUAL_RESISTANCE_SHARE).toBeCloseTo(0.6202, 4);
    expect(Math.sqrt(EQUAL_RESISTANCE_SHARE)).toBeCloseTo(0.7875, 4);
    expect((EQUAL_RESISTANCE_SHARE * 8890) / 2700).toBeCloseTo(2.042, 3);
    expect(8890 / 2700).toBeCloseTo(3.293, 3);
  });
  const aluminium = windingRecordSchema.parse({ ...EXAMPLE_RECORD, material: 'aluminium', strands: [wire(1, 2)] });
  it('2 × 1.00 Al: 0.9742 mm² of copper, 1 × 1.12 is +1.1 %', () => {
    const target = targetAreaM2(aluminium, aluminium.strands ?? [], {
      turnsFactor: 1,
      to: 'copper',
      keeps: 'resistance',
    });
    expect(target * 1e6).toBeCloseTo(0.9742, 4);
    const found = wireChoices(aluminium, EXAMPLE_PLATE, sizes, {
      winding: 'main',
      to: 'copper',
      keeps: 'resistance',
      tolerancePercent: 2,
      mostWires: 1,
    });
    expect(found[0]?.strands).toEqual([wire(1.12)]);
    expect(found[0]?.areaErrorPercent).toBeCloseTo(1.1, 1);
    expect(found[0]?.judged.resistanceChangePercent).toBeCloseTo(-1.1, 1);
    expect(found[0]?.judged.record.material).toBe('copper');
    expect(found[0]?.judged.warnings.join()).toMatch(/joints and lugs for copper/);
  });
  it('equal space: resistance 0.6202 of before', () => {
    const judged = judgeRewire(aluminium, EXAMPLE_PLATE, { material: 'copper' });
    expect(judged.resistanceChangePercent).toBeCloseTo(100 * (EQUAL_RESISTANCE_SHARE - 1), 6);
    expect(
      targetAreaM2(aluminium, aluminium.strands ?? [], { turnsFactor: 1, to: 'copper', keeps: 'space' }) * 1e6,
    ).toBeCloseTo(1.5708, 4);
  });
  it('back to aluminium the other way', () => {
    expect(
      targetAreaM2(m1, [wire(1)], { turnsFactor: 1, to: 'aluminium', keeps: 'resistance' }) / (Math.PI / 4e6),
    ).toBeCloseTo(1 / 0.6202, 3);
  });
});

describe('as found, other wire', () => {
  it('turns untouched, area kept, resistance and density by A₁/A₂', () => {
    const [first] = wireChoices(m1, EXAMPLE_PLATE, sizes, {
      winding: 'main',
      to: 'copper',
      keeps: 'resistance',
      tolerancePercent: 2,
      mostWires: 4,
    });
    expect(first?.judged.fluxChangePercent).toBe(0);
    const area = 1 + (first?.areaErrorPercent ?? 0) / 100;
    expect(1 + (first?.judged.resistanceChangePercent ?? 0) / 100).toBeCloseTo(1 / area, 9);
    expect(1 + (first?.judged.densityChangePercent ?? 0) / 100).toBeCloseTo(1 / area, 9);
  });
  it('main and auxiliary of a single-phase motor each have theirs; the fullest slot counts both', () => {
    const of = (winding: 'main' | 'auxiliary') =>
      wireChoices(single, {}, sizes, { winding, to: 'copper', keeps: 'resistance', tolerancePercent: 4, mostWires: 2 });
    expect(of('main').length).toBeGreaterThan(0);
    expect(of('auxiliary')[0]?.judged.record.auxStrands).toEqual([wire(0.5)]);
    expect(of('auxiliary')[0]?.judged.record.strands).toEqual(single.strands);
    const thick = judgeRewire(single, {}, { auxStrands: [wire(1.25)] });
    expect(thick.fill ?? 0).toBeGreaterThan(judgeRewire(single, {}, {}).fill ?? 9);
  });
  it.each([
    [
      'wire that does not pass the opening',
      { slotOpeningM: 0.0015, linerM: 0.0002 },
      { strands: [wire(0.9)] },
      /slot opening/,
    ],
    ['more wire than fits', {}, { strands: [wire(1.25, 3)] }, /slot fill/],
    [
      'turns that make the phases unequal',
      {},
      { turns: Array.from({ length: 36 }, (_, i) => (i === 0 ? 35 : 34)) },
      /phases or circuits/,
    ],
  ])('%s is refused', (_, more, rewire, said) => {
    expect(judgeRewire({ ...m1, ...more } as WindingRecord, EXAMPLE_PLATE, rewire).refused).toMatch(said);
  });
  it('at the limit of fill it is not refused, beyond it is', () => {
    const fill = judgeRewire(m1, EXAMPLE_PLATE, {}).fill ?? 0;
    expect(judgeRewire(m1, EXAMPLE_PLATE, {}, { 'winding.fillError': fill }).refused).toBeUndefined();
    expect(judgeRewire(m1, EXAMPLE_PLATE, {}, { 'winding.fillError': fill - 1e-6 }).refused).toMatch(/slot fill/);
    expect(judgeRewire(m1, EXAMPLE_PLATE, {}, { 'winding.fillWarn': fill }).warnings).not.toContain('tight slot');
    expect(judgeRewire(m1, EXAMPLE_PLATE, {}, { 'winding.fillWarn': fill - 1e-6 }).warnings).toContain('tight slot');
  });
  it('what was weighed and measured of the old winding is dropped, its mean turn stays', () => {
    const before = { ...m1, copperKg: 8.2, resistanceOhm: 0.69, turnsSecondCount: [34] } as WindingRecord;
    const next = rewiredRecord(before, { strands: [wire(1.18)] }, 0.66);
    expect([next.copperKg, next.resistanceOhm, next.turnsSecondCount, next.sampleCoilM]).toEqual([
      undefined,
      undefined,
      undefined,
      0.66,
    ]);
  });
  it('every kind with round wire has choices', () => {
    const mixed = windingRecordSchema.parse({
      ...EXAMPLE_RECORD,
      layers: 'mixed',
      form: 'concentric',
      spansSlots: [8, 6],
      sideKinds: ['full', 'half'],
      turns: [44, 22],
    });
    const list = windingRecordSchema.parse({
      ...EXAMPLE_RECORD,
      layers: 'single',
      coilList: [
        [1, 9],
        [2, 10],
        [11, 18],
      ],
    });
    const teeth = windingRecordSchema.parse({
      kind: 'tooth-coil',
      slots: 12,
      poles: 10,
      layers: 'double',
      turns: [40],
      strands: [wire(0.8)],
      circuits: 1,
      connection: 'wye',
    });
    const two = windingRecordSchema.parse({
      kind: 'two-speed',
      slots: 36,
      poles: 8,
      spansSlots: [5],
      turns: [20],
      circuits: 1,
      strands: [wire(0.8)],
    });
    for (const record of [mixed, list, teeth, two, single, m1])
      expect(worked(windingOtherWire, { record, sizes, tolerancePercent: 3 }).main.length, record.kind).toBeGreaterThan(
        0,
      );
    expect(() => runCalculation(windingOtherWire, { record: { slots: 36, poles: 4 }, sizes })).toThrow(
      /wires as found/,
    );
    expect(() => runCalculation(windingOtherWire, { record: { strands: [wire(1)] }, sizes, turnsFactor: 1.1 })).toThrow(
      /record\.turns/,
    );
  });
});

describe('what the general search is for', () => {
  const why = (more: object, plate: object = EXAMPLE_PLATE) =>
    whyNotSearched(windingRecordSchema.parse({ ...EXAMPLE_RECORD, ...more }), plate)?.field;
  it('a winding laid by its span, of a machine whose flux comes from the line', () => {
    expect(why({})).toBeUndefined();
    expect(why({ layers: 'mixed' })).toBe('record.layers');
    expect(why({ layers: 'single', coilList: [[1, 9]] })).toBe('record.coilList');
    expect(why({}, { ...EXAMPLE_PLATE, machine: 'permanent magnet', emfConstantVs: 1 })).toBe('nameplate.machine');
    expect(whyNotSearched(single, {})?.field).toBe('record.kind');
  });
  it('the core refuses what the screen does not offer', () => {
    const plate = { ...EXAMPLE_PLATE, machine: 'permanent magnet' as const, emfConstantVs: 1 };
    expect(() => asFoundOf(m1, plate)).toThrow(/nameplate\.machine: .*only move Ke/);
  });
});
