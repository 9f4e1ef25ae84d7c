import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { checkRecord } from './checks.ts';
import { windingMeanTurn } from './copper.ts';
import { assumedLapEnd, chordM, halfEllipseM, measuredLapEnd, measuredRoundEnd } from './endTurn.ts';
import { EXAMPLE_RECORD } from './exampleRecord.ts';
import { windingFigures } from './figures.ts';
import { windingRecordSchema } from './record.ts';
import { toothCoil } from './toothCoil.ts';

/** The worked machine M1 of the winding reference; lengths in mm. */
const m1 = (X?: number, Y?: number) =>
  (worked(windingMeanTurn, {
    form: 'lap',
    coreLengthM: 0.14,
    boreM: 0.15,
    slotDepthM: 0.024,
    slots: 36,
    spansSlots: [8],
    ...(X === undefined ? {} : { extensionConnectionEndM: X / 1000 }),
    ...(Y === undefined ? {} : { extensionOppositeEndM: Y / 1000 }),
  }).metres ?? 0) * 1000;
const TAU = chordM(0.15, 0.024, 8, 36);

describe('measured projection (winding reference 11.2)', () => {
  it.each([
    [75, 75, 706.5],
    [75, 60, 676.5],
    [50, 50, 620.4],
    [60, 75, 676.5],
  ])('check 132: M1 at X %d and %d: %d mm', (a, b, wanted) => expect(Math.abs(m1(a, b) - wanted)).toBeLessThan(0.2));
  it('without a projection as assumed; the projection of the assumed end gives the same again', () => {
    expect(m1()).toBeCloseTo(664.6, 0);
    expect(assumedLapEnd(TAU).projectionM * 1000).toBeCloseTo(64.5, 1);
    expect(m1(assumedLapEnd(TAU).projectionM * 1000, assumedLapEnd(TAU).projectionM * 1000)).toBeCloseTo(m1(), 6);
  });
  it('X 75: straight part 22.47; X 50: the slant gives way to 29.95°', () => {
    expect((measuredLapEnd(0.075, TAU)?.straightM ?? 0) * 1000).toBeCloseTo(22.47, 1);
    const short = measuredLapEnd(0.05, TAU);
    expect(short?.slantDeg).toBeCloseTo(29.95, 1);
    expect(short?.straightM).toBe(0.005);
  });
  it('one end measured: the other as assumed', () => {
    expect(m1(75)).toBeCloseTo((706.5 + m1()) / 2, 0);
  });
  it.each([15.01, 20, 50])('a projection of %d mm still can be', (X) =>
    expect(measuredLapEnd(X / 1000, TAU)).toBeDefined(),
  );
  it.each([15, 10, 1])('a projection of %d mm cannot be', (X) => expect(measuredLapEnd(X / 1000, TAU)).toBeUndefined());
  it.each([
    [11, 783.2],
    [9, 688.0],
    [7, 593.0],
  ])('check 133: concentric, span %d of 36, X 75: %d mm', (span, wanted) => {
    const outer = chordM(0.15, 0.024, 11, 36);
    const end = measuredRoundEnd(0.075, chordM(0.15, 0.024, span, 36), outer);
    expect(Math.abs((0.28 + 2 * (end?.lengthM ?? 0)) * 1000 - wanted)).toBeLessThan(0.3);
  });
  it('the group by its turns: 688.1 mm', () => {
    const of = (spanWeights?: number[]) =>
      (worked(windingMeanTurn, {
        form: 'concentric',
        coreLengthM: 0.14,
        boreM: 0.15,
        slotDepthM: 0.024,
        slots: 36,
        spansSlots: [11, 9, 7],
        ...(spanWeights ? { spanWeights } : {}),
        extensionConnectionEndM: 0.075,
        extensionOppositeEndM: 0.075,
      }).metres ?? 0) * 1000;
    expect(Math.abs(of() - 688.1)).toBeLessThan(0.3);
    expect(of([3, 1, 1])).toBeGreaterThan(of([1, 1, 3]) + 50);
  });
  it('half an ellipse with equal axes is half a circle', () => expect(halfEllipseM(2, 2)).toBeCloseTo(2 * Math.PI, 12));
  it('where it comes from is told: weighed, sample, projection, assumed', () => {
    const from = (more: object) =>
      windingFigures.compute(windingFigures.input.parse({ record: { ...EXAMPLE_RECORD, ...more }, nameplate: {} }))
        .meanTurnFrom;
    const X = { extensionConnectionEndM: 0.075 };
    expect(from({})).toBe('geometry');
    expect(from(X)).toBe('measured projection');
    expect(from({ ...X, sampleCoilM: 0.7 })).toBe('sample coil');
    expect(from({ ...X, sampleCoilM: 0.7, copperKg: 8 })).toBe('weighed copper');
    expect(from({ extensionConnectionEndM: 0.01 })).toBe('geometry');
  });
});

describe('projections that cannot be, or are odd', () => {
  const said = (X: number) =>
    checkRecord(windingRecordSchema.parse({ ...EXAMPLE_RECORD, extensionConnectionEndM: X / 1000 }), {})
      .filter((c) => c.check === 'end-turn')
      .map((c) => c.severity)
      .join();
  it.each([
    [15, 'E'],
    [15.1, 'W'],
    [30.3, 'W'],
    [31.1, 'W'],
    [32, ''],
    [64.5, ''],
    [113, ''],
    [113.6, 'W'],
    [121.4, 'W'],
    [121.6, 'W'],
  ])('lap, X %d mm: %s', (X, severity) => expect(said(X)).toBe(severity));
  it('a concentric group whose innermost coil would stand inside the core', () => {
    const concentric = {
      ...EXAMPLE_RECORD,
      layers: 'single',
      form: 'concentric',
      poleGroups: 'every-pole',
      spansSlots: [11, 9, 7],
    };
    const check = (X: number) =>
      checkRecord(windingRecordSchema.parse({ ...concentric, extensionOppositeEndM: X / 1000 }), {}).filter(
        (c) => c.check === 'end-turn',
      );
    expect(check(20)[0]).toMatchObject({ severity: 'E', fields: ['extensionOppositeEndM'] });
    expect(check(75)).toEqual([]);
  });
});

describe('coils round teeth (winding reference 11.1)', () => {
  const wire = [{ count: 1, bareM: 0.001, label: '1.0' }];
  const base = {
    boreM: 0.08,
    slotDepthM: 0.02,
    slots: 12,
    toothWidthM: 0.01,
    coreLengthM: 0.05,
    sideM: 0.0005,
    endM: 0.0015,
    cornerM: 0.0015,
    gapM: 0.001,
    heightM: 0.017,
    everyTooth: true,
    turns: 60,
    strands: wire,
    grade: 2 as const,
  };
  const mm = (metres: number) => metres * 1000;
  it('check 130: 15 wires a layer, 4 layers, build 4.376, mean turn 139.17 mm', () => {
    const made = toothCoil(base);
    expect([made.wiresPerLayer, made.layers]).toEqual([15, 4]);
    expect(mm(made.buildM)).toBeCloseTo(4.376, 3);
    expect(mm(made.meanTurnM)).toBeCloseTo(139.17, 1);
    expect(mm(made.slotWidthM)).toBeCloseTo(16.18, 2);
    expect(mm(made.roomM)).toBeCloseTo(7.09, 2);
    expect(mm(made.narrowRoomM)).toBeCloseTo(5.26, 2);
  });
  it('check 130: every second tooth, 120 turns: build 8.752 of 15.18, 152.92 mm', () => {
    const made = toothCoil({ ...base, everyTooth: false, turns: 120 });
    expect(mm(made.buildM)).toBeCloseTo(8.752, 3);
    expect(mm(made.roomM)).toBeCloseTo(15.18, 2);
    expect(mm(made.meanTurnM)).toBeCloseTo(152.92, 1);
  });
  it('check 131: a projection of 8.0 makes the ends fuller: 142.51 mm', () => {
    const made = toothCoil({ ...base, projectionM: 0.008 });
    expect(mm(made.endBuildM)).toBeCloseTo(6.5, 9);
    expect(mm(made.meanTurnM)).toBeCloseTo(142.51, 1);
  });
  it('a projection under the layers less one is not believed', () => {
    expect(toothCoil({ ...base, projectionM: 0.0047 }).projectionTooShort).toBe(true);
    expect(toothCoil({ ...base, projectionM: 0.0048 }).projectionTooShort).toBe(false);
    expect(toothCoil({ ...base, projectionM: 0.0047 }).meanTurnM).toBe(toothCoil(base).meanTurnM);
  });
  it('layers nested in each other build 0.866 after the first', () => {
    expect(mm(toothCoil({ ...base, nested: true }).buildM)).toBeCloseTo(1.094 * (1 + 3 * 0.8660254), 6);
  });
  const record = (more: object = {}) =>
    windingRecordSchema.parse({
      kind: 'tooth-coil',
      slots: 12,
      poles: 10,
      layers: 'double',
      turns: [60],
      strands: wire,
      wireGrade: '2',
      circuits: 1,
      connection: 'wye',
      boreM: 0.08,
      coreLengthM: 0.05,
      slotDepthM: 0.02,
      toothWidthM: 0.01,
      windingHeightM: 0.017,
      toothInsulationSideM: 0.0005,
      toothInsulationEndM: 0.0015,
      bobbinRadiusM: 0.0015,
      coilGapM: 0.001,
      ...more,
    });
  it('stands in the figures: 139.17 mm and 0.7332 Ω a phase at 20 °C', () => {
    const f = windingFigures.compute(windingFigures.input.parse({ record: record(), nameplate: {} }));
    expect(mm(f.meanTurnM ?? 0)).toBeCloseTo(139.17, 1);
    expect(f.phaseResistance20Ohm).toBeCloseTo(0.7332, 3);
    expect(f.meanTurnFrom).toBe('geometry');
  });
  it.each([
    ['fits', {}, ''],
    ['more than the narrow end takes', { turns: [75] }, 'W'],
    ['more than the slot takes', { turns: [105] }, 'E'],
    ['every second tooth has twice the room', { turns: [105], layers: 'single' }, ''],
    ['projection too short', { extensionConnectionEndM: 0.004 }, 'W'],
  ])('%s', (_, more, severity) => {
    const said = checkRecord(record(more), {}).filter((c) => c.check === 'tooth-room');
    expect(said.map((c) => c.severity).join()).toBe(severity);
  });
});
