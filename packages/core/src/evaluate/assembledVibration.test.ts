import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { assembledVibration, assembledVibrationTest, nemaVibrationMmS } from './assembledVibration.ts';

const QUIET = { deV: 0.5, deH: 0.5, deA: 0.5, oeV: 0.5, oeH: 0.5, oeA: 0.5 };
const of = (more: object = {}) =>
  worked(assembledVibration, { wholeMmS: QUIET, rpm: 1500, shaftHeightMm: 160, mounting: 'free', ...more });

describe('vibration of the assembled motor', () => {
  it('the worst position decides, by shaft height and mounting', () => {
    // IEC 60034-14, older table (from memory): free, over 132 to 280 mm, grade A: 2.2 mm/s rms
    expect(of({ wholeMmS: { ...QUIET, oeH: 2.2 } })).toMatchObject({ verdict: 'pass', worstMmS: 2.2 });
    expect(of({ wholeMmS: { ...QUIET, oeH: 2.2 } }).reason).toMatch(/^other end, horizontal: Vibration 2\.2 mm\/s rms/);
    expect(of({ wholeMmS: { ...QUIET, oeH: 2.21 } }).verdict).toBe('attention');
    expect(of({ wholeMmS: { ...QUIET, deA: 2.43 } })).toMatchObject({ verdict: 'fail' });
    expect(of({ mounting: 'rigid', wholeMmS: { ...QUIET, deV: 1.8 } }).verdict).toBe('pass');
    expect(of({ mounting: 'rigid', wholeMmS: { ...QUIET, deV: 1.81 } }).verdict).toBe('attention');
    expect(of({ limits: { 'noLoad.vibrationMmS': 0.4 } }).verdict).toBe('fail');
  });
  it.each([
    [{ oeA: undefined }, 'attention', /Not read: other end, axial/],
    [{ deA: undefined }, 'cannot judge', /Not read: drive end, axial/],
    [{ oeA: undefined, oeV: undefined }, 'cannot judge', /other end, vertical; other end, axial/],
  ])('a position that was not read is said: %j', (gone, verdict, says) => {
    const is = of({ wholeMmS: { ...QUIET, ...gone } });
    expect(is.verdict).toBe(verdict);
    expect(is.reason).toMatch(says);
  });
  it('nothing read, coupled, misread: cannot be judged', () => {
    expect(of({ wholeMmS: {} })).toEqual({
      verdict: 'cannot judge',
      reason: expect.stringContaining('Nothing was read') as string,
    });
    expect(of({ coupled: true }).verdict).toBe('cannot judge');
    expect(of({ coupled: false }).verdict).toBe('pass');
    expect(of({ turnMmS: { deV: 0.5 } }).verdict).toBe('pass');
    expect(of({ turnMmS: { deV: 0.51 } })).toMatchObject({
      verdict: 'cannot judge',
      reason: expect.stringContaining('misread') as string,
    });
  });
  it.each([
    // rotation 25 Hz
    [6.25, 'pass'],
    [6.3, 'cannot judge'],
    [49.9, 'cannot judge'],
    [50, 'pass'],
  ])('a mounting that resonates at %d Hz: %s', (standHz, verdict) => {
    expect(of({ standHz }).verdict).toBe(verdict);
  });
  it('the power-off check tells electromagnetic from mechanical', () => {
    const loud = { wholeMmS: { ...QUIET, deV: 3 } };
    const share = (twiceLineMmS: number, afterOffMmS?: number) => of({ ...loud, twiceLineMmS, afterOffMmS });
    expect(share(0.89)).toMatchObject({ verdict: 'fail' });
    expect(share(0.89).reason).not.toMatch(/switch the power off/);
    expect(share(0.9).reason).toMatch(/switch the power off/);
    expect(share(1.5, 0.3)).toMatchObject({ cause: 'electromagnetic', twiceLineStaysPercent: 20 });
    expect(share(1.5, 0.31)).toMatchObject({ cause: 'mechanical at twice line' });
    // a quiet motor is told of it too, and passes
    expect(of({ twiceLineMmS: 0.3, afterOffMmS: 0.01 })).toMatchObject({ verdict: 'pass', cause: 'electromagnetic' });
    expect(of({ twiceLineMmS: 0.1, afterOffMmS: 0.01 }).cause).toBeUndefined();
  });
  it('a loud one says whether it turns with the shaft', () => {
    const loud = (turn: number) => of({ wholeMmS: { ...QUIET, deV: 3 }, turnMmS: { deV: turn } });
    expect(loud(2.1)).toMatchObject({ cause: 'turns with the shaft', worstTurnMmS: 2.1 });
    expect(loud(2.1).reason).toMatch(/trim it/);
    expect(loud(2.09)).toMatchObject({ cause: 'other' });
    expect(of({ turnMmS: { deV: 0.4 } }).cause).toBeUndefined();
  });
  it('stands beside what the other standard allows', () => {
    // 0.15 in/s peak is 2.694 mm/s rms (NEMA MG 1 part 7, from memory)
    expect(nemaVibrationMmS(1800, 'free')).toBeCloseTo(2.694, 3);
    expect(nemaVibrationMmS(1200, 'free')).toBeCloseTo(2.694, 3);
    expect(nemaVibrationMmS(1199, 'free')).toBeCloseTo(2.155, 3);
    expect(nemaVibrationMmS(900, 'rigid')).toBeCloseTo(1.724, 3);
    expect(nemaVibrationMmS(720, 'free')).toBeCloseTo(1.6164, 3);
    expect(nemaVibrationMmS(600, 'free')).toBeCloseTo(1.4368, 3);
    expect(nemaVibrationMmS(599, 'free')).toBeUndefined();
    expect(of().reason).toMatch(/NEMA MG 1 part 7 allows 2\.69 mm\/s rms/);
  });
  it('the matrix reads it from typed fields and the plate', () => {
    const context = { nameplate: { frame: '160M', speedRpm: 1458 }, limits: {} } as never;
    const input = assembledVibrationTest.input?.(
      { deV: 1, deV1: 0.6, mounting: 'free', coupled: 'uncoupled', twiceLine: 0.2 },
      context,
    );
    expect(input).toMatchObject({
      wholeMmS: { deV: 1 },
      turnMmS: { deV: 0.6 },
      rpm: 1458,
      shaftHeightMm: 160,
      coupled: false,
      twiceLineMmS: 0.2,
    });
    expect(assembledVibrationTest.input?.({ deV: 1, speed: 2900 }, context)).toMatchObject({ rpm: 2900 });
    expect(assembledVibrationTest.lacks?.({})).toMatchObject({ field: 'deV' });
    expect(assembledVibrationTest.lacks?.({ oeH: 1 })).toBeUndefined();
  });
  it('an instrument out of calibration is said', () => {
    expect(of({ calibrationExpired: true }).verdict).toBe('attention');
  });
});
