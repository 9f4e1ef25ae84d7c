import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { rotorSwing, rotorSwingTest, swingPercent } from './rotorSwing.ts';

const judge = (x: object) => worked(rotorSwing, x);
/** Currents whose swing is the given per cent, round 10 A. */
const swinging = (percent: number) => ({ maxA: 10 + percent / 20, minA: 10 - percent / 20 });

describe('single-phase rotor test', () => {
  it('the swing is that of largest and smallest against their mean', () => {
    expect(swingPercent(5.12, 4.86)).toBeCloseTo(5.2104, 4);
    expect(judge(swinging(4)).swingPercent).toBeCloseTo(4, 12);
  });
  it.each([
    [0, 'pass'],
    [2.9, 'pass'],
    [3, 'pass'],
    [3.01, 'attention'],
    [5, 'attention'],
    [5.01, 'fail'],
    [40, 'fail'],
  ])('%d %% is %s', (percent, verdict) => {
    const said = judge(swinging(percent));
    expect(said.verdict).toBe(verdict);
    if (verdict === 'fail') expect(said.reason).toMatch(/another pair of leads/);
    if (verdict === 'pass') expect(said.reason).toMatch(/no proof of health/);
    expect(said.reason).not.toMatch(/NaN|undefined/);
  });
  it('the limits are the shop’s', () => {
    const limits = { 'rotor.swingPassPercent': 2, 'rotor.swingFailPercent': 8 };
    expect(judge({ ...swinging(2.5), limits }).verdict).toBe('attention');
    expect(judge({ ...swinging(7), limits }).verdict).toBe('attention');
    expect(judge({ ...swinging(9), limits }).verdict).toBe('fail');
  });
  it.each([
    [{ dips: 4, poles: 4 }, /4 dips for 4 poles: a bar that is open/],
    [{ dips: 5, poles: 4 }, /Swing 4 %, above 3 %[^.]*\.$/],
    [{ pattern: 'a dip at each pole' }, /mark of an open bar/],
    [{ pattern: 'fine ripple of the slots' }, /slotting, not a fault/],
    [{ pattern: 'one swing a turn' }, /eccentricity/],
  ])('%o says what it looks like', (more, reason) => {
    expect(judge({ ...swinging(4), ...more }).reason).toMatch(reason);
  });
  it.each([
    [{}, /are needed/],
    [{ maxA: 5 }, /are needed/],
    [{ maxA: 5, minA: 0 }, /above zero/],
    [{ maxA: 4, minA: 5 }, /exchange them/],
  ])('%o cannot be judged', (x, reason) => {
    const said = judge(x);
    expect(said.verdict).toBe('cannot judge');
    expect(said.reason).toMatch(reason);
  });
  it('with an instrument out of calibration a pass is looked at', () => {
    const said = judge({ ...swinging(1), calibrationExpired: true });
    expect([said.verdict, /out of calibration/.test(said.reason)]).toEqual(['attention', true]);
    expect(judge({ ...swinging(6), calibrationExpired: true }).verdict).toBe('fail');
  });
  it('is wanted of whole motors only, where the matrix has it', () => {
    expect(rotorSwingTest.needsWholeMotor).toBe(true);
    expect(Object.values(rotorSwingTest.stages).every((s) => s === 'optional')).toBe(true);
  });
});
