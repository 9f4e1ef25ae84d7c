import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { runCalculation } from '../calculation.ts';
import { formCoilDrawing } from '../drawing/formCoil.ts';
import { formBill, insulationFormBill, tapeM } from '../insulation/formBill.ts';
import { METRIC_DEFAULTS } from '../quantity/fields.ts';
import { checkRecord } from './checks.ts';
import { formCoil, leastStraightM, stripAreaM2, stripCornerM, wallStressKVmm, windingFormCoil } from './formCoil.ts';
import { conductorOf, formCoilInputOf } from './formCoilOf.ts';
import { windingFigures } from './figures.ts';
import { readWindingRecord, typedOfRecord } from './readRecord.ts';

/** The example of the winding reference 11.3: 3.3 kV, 60 slots, four poles; lengths as typed in mm. */
const TYPED = {
  kind: 'form-wound',
  slots: '60',
  poles: '4',
  spansSlots: '1-13',
  turns: '6',
  turnsSecondCount: '6',
  circuits: '1',
  connection: 'wye',
  leads: '3',
  boreM: '480',
  coreLengthM: '500',
  slotDepthM: '65',
  slotWidthM: '10.6',
  stripThicknessM: '1.8',
  stripWidthM: '7.1',
  stripsWide: '1',
  stripsHigh: '2',
  strandBuildM: '0.15',
  turnTapeM: '0.16',
  groundWallM: '1.30',
  separatorM: '2',
  bottomStripM: '1',
  topStripM: '1',
  wedgeDepthM: '4',
  coilStraightM: '30',
  knucklePinM: '15',
  coilGapM: '3.5',
  leadExit: '3 o’clock',
  connectionSide: 'opposite end',
};
const PLATE = { voltagesV: [3300], currentsA: [86], frequencyHz: 50, outputW: 400e3, speedRpm: 1485 };
const record = (more: Record<string, string> = {}) => readWindingRecord({ ...TYPED, ...more }, METRIC_DEFAULTS).record;
const input = formCoilInputOf(record());
if (!input) throw new Error('no input');
const mm = (metres: number | undefined) => (metres ?? NaN) * 1000;

describe('strip (IEC 60317-0-2 from memory; winding reference 11.3)', () => {
  it.each([
    [1, 0.5],
    [1.01, 0.5],
    [1.6, 0.5],
    [1.61, 0.65],
    [2.24, 0.65],
    [2.25, 0.8],
    [3.55, 0.8],
    [3.56, 1],
    [0.8, 0.4],
  ])('%d mm thick: corner %d mm', (a, r) => expect(mm(stripCornerM(a / 1000))).toBeCloseTo(r, 9));
  it.each([
    [2, 5, 9.637],
    [4, 10, 39.142],
    [1.6, 5, 7.785],
    [1.8, 7.1, 12.417],
  ])('check 134: %d × %d mm: %d mm²', (a, b, area) =>
    expect(stripAreaM2(a / 1000, b / 1000) * 1e6).toBeCloseTo(area, 3),
  );
});

describe('form-wound coil (winding reference 11.3)', () => {
  const made = formCoil(input);
  it('check 135: turn 7.57 × 4.22, coil 10.17 × 27.92, rests 0.43 and 1.16 mm', () => {
    expect(made.areaM2 * 1e6).toBeCloseTo(24.835, 2);
    expect([mm(made.turnWidthM), mm(made.turnHeightM)].map((v) => v.toFixed(2))).toEqual(['7.57', '4.22']);
    expect([mm(made.coilWidthM), mm(made.coilHeightM)].map((v) => v.toFixed(2))).toEqual(['10.17', '27.92']);
    expect(mm(made.widthRestM)).toBeCloseTo(0.43, 9);
    expect(mm(made.depthRestM)).toBeCloseTo(1.16, 9);
  });
  it('check 136: D_m 550.16, τ_c 345.7, φ 28.33°, knuckle 67.4, mean turn 2040.3, projection 158.6 mm', () => {
    expect(mm(made.meanDiameterM)).toBeCloseTo(550.16, 2);
    expect(mm(made.tauM)).toBeCloseTo(345.7, 1);
    expect(made.slantDeg).toBeCloseTo(28.33, 2);
    expect(mm(made.knuckleM)).toBeCloseTo(67.4, 1);
    expect(mm(made.meanTurnM)).toBeCloseTo(2040.3, 0);
    expect(mm(made.projectionM)).toBeCloseTo(158.6, 1);
  });
  it('wall stress 1.47 kV/mm, straight part at least 26.5 mm at 3.3 kV', () => {
    expect(wallStressKVmm(3300, 0.0013)).toBeCloseTo(1.47, 2);
    expect(mm(leastStraightM(3300))).toBeCloseTo(26.5, 9);
  });
  it('check 136: copper 162.2 kg, 0.1700 Ω, k_w 0.9099, flux 78.55 mWb, 0.655 T, 15.9 V a turn, 3.46 A/mm²', () => {
    const f = windingFigures.compute(windingFigures.input.parse({ record: record(), nameplate: PLATE }));
    expect(Math.abs((f.bareMassKg ?? 0) / 162.2 - 1)).toBeLessThan(1e-3);
    expect(f.phaseResistance20Ohm).toBeCloseTo(0.17, 4);
    expect(f.windingFactor).toBeCloseTo(0.9099, 4);
    expect((f.fluxWb ?? 0) * 1000).toBeCloseTo(78.55, 1);
    expect(f.airGapT).toBeCloseTo(0.655, 3);
    expect(f.voltsPerTurn).toBeCloseTo(15.9, 1);
    expect(f.currentDensityAMm2).toBeCloseTo(3.46, 2);
    expect(f.meanTurnFrom).toBe('geometry');
  });
  it('is read, kept and read again; weighed copper comes first here too', () => {
    expect(readWindingRecord(TYPED, METRIC_DEFAULTS).problems).toEqual([]);
    expect(readWindingRecord(typedOfRecord(record()), METRIC_DEFAULTS).record).toEqual(record());
    const f = windingFigures.compute(
      windingFigures.input.parse({ record: record({ copperKg: '165' }), nameplate: PLATE }),
    );
    expect(f.meanTurnFrom).toBe('weighed copper');
    expect(mm(f.meanTurnM)).toBeCloseTo((2040.3 * 165) / 162.2, 0);
    expect(checkRecord(record(), PLATE).filter((c) => c.severity !== 'I')).toEqual([]);
  });
  it('calculation and record give the same; a strip given the other way round has the same area', () => {
    expect(worked(windingFormCoil, input)).toEqual(made);
    expect(conductorOf(record({ stripThicknessM: '7.1', stripWidthM: '1.8' })).areaM2).toBeCloseTo(made.areaM2, 12);
  });
  const severity = (check: string, more: Record<string, string>, plate: object = PLATE) =>
    checkRecord(record(more), plate)
      .filter((c) => c.check === check)
      .map((c) => c.severity)
      .join('');
  it.each([
    ['10.37', ''],
    ['10.36', 'W'],
    ['10.77', ''],
    ['10.78', 'W'],
    ['10.17', 'W'],
    ['10.16', 'E'],
  ])('slot %s mm wide: %s', (slotWidthM, wanted) => expect(severity('form-room', { slotWidthM })).toBe(wanted));
  it.each([
    ['63.84', ''],
    ['63.83', 'E'],
    ['65.34', ''],
    ['65.35', 'W'],
  ])('slot %s mm deep: %s', (slotDepthM, wanted) => expect(severity('form-room', { slotDepthM })).toBe(wanted));
  it('coils that cannot pass each other in the ends', () => {
    expect(severity('form-room', { coilGapM: '15.6' })).toBe('');
    expect(severity('form-room', { coilGapM: '16' })).toBe('E');
  });
  it.each([
    ['26.5', 3300, ''],
    ['26.4', 3300, 'W'],
    ['30', 6754, 'W'],
    ['50', 6754, ''],
    ['50', 6755.1, 'W'],
  ])('straight %s mm at %d V: %s', (coilStraightM, volts, wanted) =>
    expect(severity('ground-wall', { coilStraightM }, { voltagesV: [volts] })).toBe(wanted),
  );
  it('is drawn to scale: every strip of both coils, and what is left over', () => {
    const drawing = formCoilDrawing(input);
    const strips = drawing.shapes.filter((s) => s.kind === 'path' && s.role === 'phaseA');
    expect(strips).toHaveLength(24);
    expect(drawing.shapes.some((s) => s.kind === 'text' && /over: 0\.43 mm across, 1\.16 mm deep/.test(s.text))).toBe(
      true,
    );
    const notes = drawing.shapes
      .filter((s) => s.kind === 'text' && s.anchor === 'start')
      .map((s) => (s.kind === 'text' ? s.y : 0));
    expect(new Set(notes.map((y) => Math.round(y))).size).toBe(notes.length);
  });
  it('bill: strip with a spare coil and waste, tapes half-lapped, pieces for every slot', () => {
    const bill = worked(insulationFormBill, { record: record() });
    expect(Math.abs(bill.bareKg / 162.2 - 1)).toBeLessThan(1e-3);
    expect(bill.lines.map((l) => l.what)).toEqual([
      'Strip 1.8 × 7.1 mm',
      'Turn tape 20 mm wide',
      'Ground-wall tape 25 mm wide',
      'Bottom strip 1 mm',
      'Separator 2 mm',
      'Top strip 1 mm',
      'Wedge 4 mm',
    ]);
    expect(bill.lines[0]?.quantity).toBeCloseTo((bill.bareKg * 61 * 1.05) / 60, 6);
    expect(bill.lines[4]?.quantity).toBe(63);
    // one layer of 0.08 mm tape on 6 turns of 2.0403 m, perimeter 23.58 mm, 20 mm wide
    expect(bill.lines[1]?.quantity).toBeCloseTo((61 * 1.05 * 6 * made.meanTurnM * 2 * (0.00757 + 0.00422)) / 0.01, 3);
    expect(tapeM({ lengthM: 1, perimeterM: 0.0762, sideM: 0.0013, thicknessM: 0.00013, widthM: 0.025 })).toBeCloseTo(
      (5 * 0.0762) / 0.0125,
      9,
    );
    expect(formBill(record({ groundWallM: '' }))).toBeUndefined();
    expect(() => runCalculation(insulationFormBill, { record: { kind: 'form-wound' } })).toThrow(/needs strip/);
  });
  it('bars too have an area and a mean turn', () => {
    const bars = readWindingRecord(
      {
        kind: 'bar-rotor',
        slots: '48',
        poles: '4',
        barsPerSlot: '2',
        barWidthM: '3',
        barHeightM: '12',
        boreM: '200',
        coreLengthM: '180',
        slotDepthM: '30',
        connection: 'wye',
        circuits: '1',
      },
      METRIC_DEFAULTS,
    ).record;
    expect(conductorOf(bars).areaM2 * 1e6).toBeCloseTo(36, 9);
    const f = windingFigures.compute(windingFigures.input.parse({ record: bars, nameplate: {} }));
    expect(f.phaseResistance20Ohm).toBeCloseTo(((1e-6 / 58) * 16 * (f.meanTurnM ?? 0)) / 36e-6, 9);
  });
});
