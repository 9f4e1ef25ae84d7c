import { describe, expect, it } from 'vitest';
import { METRIC_DEFAULTS, readForm } from '../quantity/fields.ts';
import { checkRecord } from '../winding/checks.ts';
import { windingFigures } from '../winding/figures.ts';
import { windingRecordSchema } from '../winding/record.ts';
import { hasMagnets, machineKindOf } from './machineKind.ts';
import { coggingPeriods, coiledToothT, emfConstantRms, magnetFluxWb } from './magnets.ts';
import { NAMEPLATE_FIELDS, nameplateSchema, type Nameplate } from './nameplate.ts';

/** The example of the winding reference 7.1: 18.6 V line at 3000 r/min, 12/10, wye, 80 turns in series. */
const KE = 18.6 / ((2 * Math.PI * 3000) / 60);
const base = { emfConstantVs: KE, poles: 10, seriesTurns: 80, windingFactor: 0.933 } as const;

describe('flux from the EMF constant (winding reference 7.1)', () => {
  it('18.6 V at 3000 r/min is Ke 0.0592056 V s', () => expect(KE).toBeCloseTo(0.0592056, 6));
  it('check 114: 0.12953 mWb in wye, 0.22435 in delta', () => {
    expect(magnetFluxWb({ ...base, connection: 'wye' }) * 1000).toBeCloseTo(0.12953, 4);
    expect(magnetFluxWb({ ...base, connection: 'delta' }) * 1000).toBeCloseTo(0.22435, 4);
  });
  it('D 40, L 30 mm: B_g 0.540 T', () => {
    expect((magnetFluxWb({ ...base, connection: 'wye' }) * 10) / (2 * 0.04 * 0.03)).toBeCloseTo(0.54, 3);
  });
  it.each([
    [12, 10, 1.355],
    [9, 8, 1.418],
    [12, 8, 1.209],
  ])('%i/%i: the full-slot-pitch formula reads %d times too high', (slots, poles, times) => {
    // B_g (πD/S) L against Φ sin(90° P/S) with Φ = 2 B_g D L/P
    expect((Math.PI * poles) / (2 * slots) / Math.sin((Math.PI / 2) * (poles / slots))).toBeCloseTo(times, 3);
    expect(coiledToothT(1, poles, slots, 1, 1)).toBeCloseTo(Math.sin((Math.PI / 2) * (poles / slots)), 12);
  });
  it.each([
    ['6.2', 6.2 * 0.0095493],
    ['6.2 V/1000 r/min', 6.2 * 0.0095493],
    ['0.0592 V·s/rad', 0.0592],
    ['0.0592 V/(rad/s)', 0.0592],
    ['6.2 mV/rpm', 6.2 * 0.0095493],
  ])('Ke typed as %s', (emfConstantVs, wanted) => {
    const read = readForm(NAMEPLATE_FIELDS, { emfConstantVs }, METRIC_DEFAULTS);
    expect(read.problems).toEqual([]);
    expect(read.values['emfConstantVs']).toBeCloseTo(wanted, 6);
  });
  it('Ke in a unit of something else is refused with those that fit', () => {
    const read = readForm(NAMEPLATE_FIELDS, { emfConstantVs: '6.2 V' }, METRIC_DEFAULTS);
    expect(read.problems[0]?.message).toMatch(/V·s\/rad.*V\/1000 r\/min/);
  });
  it('a peak value is brought to rms', () => {
    expect(emfConstantRms({ emfConstantVs: 1, emfMeasured: 'line, peak' })).toBeCloseTo(Math.SQRT1_2, 12);
    expect(emfConstantRms({ emfConstantVs: 1, emfMeasured: 'line, rms' })).toBe(1);
    expect(emfConstantRms({ emfConstantVs: 1 })).toBe(1);
    expect(emfConstantRms({})).toBeUndefined();
  });
  it.each([
    [12, 10, 60],
    [9, 6, 18],
    [36, 8, 72],
  ])('%i slots, %i poles: %i cogging periods', (slots, poles, periods) =>
    expect(coggingPeriods(slots, poles)).toBe(periods),
  );
});

describe('a magnet machine in figures and checks', () => {
  const record = windingRecordSchema.parse({
    kind: 'tooth-coil',
    slots: 12,
    poles: 10,
    layers: 'double',
    turns: [20],
    strands: [{ count: 1, bareM: 0.0007, label: '0.7' }],
    wireGrade: '2',
    circuits: 1,
    connection: 'wye',
    leads: '3',
    boreM: 0.04,
    coreLengthM: 0.03,
    toothWidthM: 0.005,
    backIronM: 0.004,
    slotDepthM: 0.014,
    rotorBars: 44,
  });
  const plate = (more: object): Nameplate =>
    nameplateSchema.parse({
      machine: 'permanent magnet',
      voltagesV: [48],
      currentsA: [3],
      outputW: 90,
      frequencyHz: 250,
      speedRpm: 3000,
      ...more,
    });
  const figures = (more: object) =>
    windingFigures.compute(windingFigures.input.parse({ record, nameplate: plate(more) }));
  const said = (more: object) => checkRecord(record, plate(more)).map((c) => `${c.severity} ${c.check}`);
  it('flux from Ke, never from the voltage of the drive', () => {
    const f = figures({ emfConstantVs: KE });
    expect((f.fluxWb ?? 0) * 1000).toBeCloseTo(0.12953, 3);
    expect(f.airGapT).toBeCloseTo(0.54, 2);
    expect(f.phaseVoltageV).toBeCloseTo(18.6 / Math.sqrt(3), 6);
    expect(figures({ emfConstantVs: KE, voltagesV: [96] }).fluxWb).toBe(f.fluxWb);
    expect(f.toothT).toBeCloseTo(coiledToothT(f.fluxWb ?? 0, 10, 12, 0.005, 0.95 * 0.03), 9);
    expect(f.coggingPeriods).toBe(60);
  });
  it('without Ke there is no flux, and that is said', () => {
    expect(figures({}).fluxWb).toBeUndefined();
    expect(figures({}).voltsPerCoil).toBeUndefined();
    expect(said({})).toContain('I flux-density');
    expect(said({ emfConstantVs: KE })).not.toContain('I flux-density');
  });
  it.each([
    [3000, false],
    [3014.9, false],
    [2985.1, false],
    [3015.2, true],
    [2984.8, true],
    [2880, true],
  ])('%d r/min at 250 Hz and ten poles: not synchronous %s', (speedRpm, off) => {
    expect(said({ speedRpm, emfConstantVs: KE }).includes('W speed')).toBe(off);
    expect(said({ speedRpm, emfConstantVs: KE })).not.toContain('E speed');
  });
  it('no slip, no power factor of the line, no bars of a cage', () => {
    const of = said({ emfConstantVs: KE, currentsA: [30] });
    expect(of.filter((c) => /current$|slot-combination/.test(c))).toEqual([]);
  });
  it('the machine is told by its plate', () => {
    expect(machineKindOf(plate({}), record)).toBe('permanent magnet');
    expect(hasMagnets({})).toBe(false);
    expect(machineKindOf({ machine: 'induction' }, record)).toBe('three-phase');
  });
});
