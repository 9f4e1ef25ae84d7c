import { describe, expect, it } from 'vitest';
import { checkAlone } from '../../../../scripts/testing/recordChecks.ts';
import { METRIC_DEFAULTS } from '../quantity/fields.ts';
import { FORM_COIL_CHECKS } from './formCoilChecks.ts';
import { leastStraightM } from './formCoil.ts';
import { formCoilOf } from './formCoilOf.ts';
import { readWindingRecord } from './readRecord.ts';

const { said } = checkAlone(FORM_COIL_CHECKS);
const TYPED = {
  kind: 'form-wound',
  slots: '54',
  poles: '6',
  spansSlots: '1-9',
  turns: '5',
  boreM: '420',
  coreLengthM: '380',
  slotDepthM: '60',
  slotWidthM: '11',
  stripThicknessM: '1.9',
  stripWidthM: '7',
  stripsWide: '1',
  stripsHigh: '2',
  strandBuildM: '0.15',
  turnTapeM: '0.16',
  groundWallM: '1.4',
  separatorM: '2',
  bottomStripM: '1',
  topStripM: '1',
  wedgeDepthM: '4',
  coilStraightM: '35',
  knucklePinM: '15',
  coilGapM: '3.5',
};
const record = (more: Record<string, string> = {}) =>
  readWindingRecord(
    Object.fromEntries(Object.entries({ ...TYPED, ...more }).filter(([, v]) => v !== '')),
    METRIC_DEFAULTS,
  ).record;
const made = (more: Record<string, string> = {}) => {
  const coil = formCoilOf(record(more));
  if (!coil) throw new Error('no coil');
  return coil;
};
const room = (more: Record<string, string> = {}, limits = {}) => said('form-room', { record: record(more), limits });
const wall = (volts: number[] | undefined, more: Record<string, string> = {}, limits = {}) =>
  said('ground-wall', { record: record(more), nameplate: volts ? { voltagesV: volts } : {}, limits });
/** A slot that leaves this much beside the coil, or below the coils, mm. */
const width = (rest: number) => ({ slotWidthM: (1000 * made().coilWidthM + rest).toFixed(9) });
const depth = (rest: number) => ({
  slotDepthM: (60 - 1000 * made().depthRestM + rest).toFixed(9),
});
const BARE = { 'form.widthRestLowMm': 0.2, 'form.widthRestHighMm': 0.6, 'form.depthRestMm': 3 };

describe('strip coils in their slot', () => {
  it.each([
    [-0.01, ['E']],
    [0.199, ['W']],
    [0.2, []],
    [0.6, []],
    [0.601, ['W']],
  ])('%d mm beside the coil', (rest, wanted) =>
    expect(room({ ...width(rest), ...depth(1) }, BARE).map((l) => l[0])).toEqual(wanted),
  );
  it.each([
    [-0.01, ['E']],
    [0, []],
    [3, []],
    [3.001, ['W']],
  ])('%d mm below the coils', (rest, wanted) =>
    expect(room({ ...width(0.4), ...depth(rest) }, BARE).map((l) => l[0])).toEqual(wanted),
  );
  it('says coil, slot and rest, with the fields to look at', () => {
    const coil = 1000 * made().coilWidthM;
    expect(room({ ...width(-0.5), ...depth(1) }, BARE)[0]).toMatch(
      new RegExp(
        `^E stripWidthM,turnTapeM,groundWallM,slotWidthM: The coil is ${coil.toPrecision(3)} mm wide, the slot ${(coil - 0.5).toPrecision(3)} mm: it does not go in`,
      ),
    );
    expect(room({ ...width(0.9), ...depth(1) }, BARE)[0]).toMatch(/, 0\.9 mm over; 0\.2 to 0\.6 mm is usual\.$/);
    expect(room({ ...width(0.4), ...depth(-2) }, BARE)[0]).toMatch(
      /^E turns,stripThicknessM,groundWallM,slotDepthM,separatorM: Two coils of [\d.]+ mm .* leave -2 mm of the slot's [\d.]+ mm: they do not go in/,
    );
    expect(room({ ...width(0.4), ...depth(5) }, BARE)[0]).toMatch(/leave 5 mm .*, more than 3 mm: pack the slot\.$/);
  });
  it('coils that cannot pass each other in the ends', () => {
    for (const gap of ['3.5', '6', '9', '9.4', '9.8', '12']) {
      const coil = made({ coilGapM: gap });
      const lines = room({ ...width(0.4), ...depth(1), coilGapM: gap }, BARE).filter((l) => /pass each other/.test(l));
      expect(lines).toHaveLength(coil.sinSlant > 0.9 ? 1 : 0);
      for (const l of lines) {
        expect(l).toMatch(/^E groundWallM,coilGapM,boreM: .* above 90 % they cannot pass each other\.$/);
        expect(Number(/take ([\d.]+) %/.exec(l)?.[1])).toBeCloseTo(100 * coil.sinSlant, 0);
      }
    }
  });
  it('is asked of strip coils that are measured', () => {
    expect(said('form-room', { record: { kind: 'three-phase' } })).toEqual([]);
    expect(room({ stripWidthM: '' })).toEqual([]);
  });
});

describe('ground wall and straight part for the voltage', () => {
  it('the highest voltage of the plate counts', () => {
    const stress = (volts: number[]) => wall(volts, {}, { 'form.wallStressKVmm': 1.5 }).filter((l) => /kV\/mm/.test(l));
    expect(stress([3300])).toEqual([]);
    expect(stress([3300, 6600])).toHaveLength(1);
    expect(stress([6600, 3300])).toHaveLength(1);
    expect(stress([6600])[0]).toMatch(
      /^W groundWallM: 6\.6 kV on a wall of 1\.4 mm is 2\.72 kV\/mm; up to 1\.5 is usual\.$/,
    );
  });
  it('at the limit it passes, just above it is told', () => {
    const at = 3.3 / Math.sqrt(3) / 1.4;
    expect(wall([3300], {}, { 'form.wallStressKVmm': at })).toEqual([]);
    expect(wall([3300], {}, { 'form.wallStressKVmm': at * 0.999 })).toHaveLength(1);
  });
  it('a straight part that was not measured is a note with what is taken; one too short a warning', () => {
    expect(wall([3300], { coilStraightM: '' })).toEqual([
      expect.stringMatching(/^I coilStraightM: The straight part was not measured; [\d.]+ mm is taken\.$/),
    ]);
    const least = Math.round(1e6 * leastStraightM(3300)) / 1000;
    expect(wall([3300], { coilStraightM: String(least) })).toEqual([]);
    expect(wall([3300], { coilStraightM: String(least - 0.5) })).toEqual([
      `W coilStraightM: Coils leave the core ${Number((least - 0.5).toPrecision(3))} mm straight; for 3.3 kV at least ${least} mm is usual.`,
    ]);
  });
  it('without a voltage, or without a coil, nothing is said', () => {
    expect(wall(undefined, { coilStraightM: '' })).toEqual([]);
    expect(wall([6600], { stripWidthM: '' })).toEqual([]);
  });
});
