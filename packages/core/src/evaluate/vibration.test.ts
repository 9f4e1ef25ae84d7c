import { describe, expect, it } from 'vitest';
import { judgeVibration, shaftHeightOf, type Mounting, type VibrationGrade } from './vibration.ts';

/** docs/derivations.md 16 (IEC 60034-14, older table, from memory): each limit at, just above, at 1.1 times and just above that. */
describe('vibration by shaft height', () => {
  const judge = (mmS: number, heightMm?: number, mounting?: Mounting, grade?: VibrationGrade, limits = {}) =>
    judgeVibration({ mmS, heightMm, mounting, grade, limits }).verdict;
  it.each([
    [132, 'free', 'A', 1.6],
    [132.1, 'free', 'A', 2.2],
    [280, 'free', 'A', 2.2],
    [280.1, 'free', 'A', 2.8],
    [40, 'free', 'A', 1.6],
    [132, 'rigid', 'A', 1.3],
    [160, 'rigid', 'A', 1.8],
    [315, 'rigid', 'A', 2.3],
    [132, 'free', 'B', 0.7],
    [160, 'free', 'B', 1.1],
    [315, 'free', 'B', 1.8],
    [160, 'rigid', 'B', 0.9],
    [315, 'rigid', 'B', 1.5],
  ] as [number, Mounting, VibrationGrade, number][])('H %s %s grade %s: %s mm/s', (height, mounting, grade, most) => {
    expect(judge(most, height, mounting, grade)).toBe('pass');
    expect(judge(most * 1.001, height, mounting, grade)).toBe('attention');
    expect(judge(most * 1.1, height, mounting, grade)).toBe('attention');
    expect(judge(most * 1.101, height, mounting, grade)).toBe('fail');
  });
  it('H 160 free: 2.2 passes, 2.3 is looked at, 2.5 fails (printed example)', () => {
    expect([2.2, 2.3, 2.5].map((v) => judge(v, 160, 'free'))).toEqual(['pass', 'attention', 'fail']);
  });
  it('rigid grade B has no figure for small machines', () =>
    expect(judge(0.1, 100, 'rigid', 'B')).toBe('cannot judge'));
  it('without a shaft height it never passes; without a mounting the rigid row counts', () => {
    expect(judge(0.1, undefined, 'free')).toBe('attention');
    expect(judge(2.8 * 1.1, undefined, 'free')).toBe('attention');
    expect(judge(2.8 * 1.101, undefined, 'free')).toBe('fail');
    expect(judgeVibration({ mmS: 1, limits: {} }).reason).toMatch(/shaft height missing/);
    expect(judge(1.31, 100)).toBe('attention');
    expect(judge(1.3, 100)).toBe('pass');
  });
  it('a shop’s own single limit stands in place of the table', () => {
    expect(judge(1.5, undefined, undefined, undefined, { 'noLoad.vibrationMmS': 1.5 })).toBe('pass');
    expect(judge(2, 315, 'free', 'A', { 'noLoad.vibrationMmS': 1.5 })).toBe('fail');
    expect(judge(1.7, 132, 'free', 'A', { 'vibration.freeA132': 1.7 })).toBe('pass');
  });
  it.each([
    ['160M', 160],
    ['IEC 132S', 132],
    ['254T', 158.75],
    ['182T', 114.3],
    ['48', 76.2],
    ['', undefined],
    ['special', undefined],
  ])('frame %s is %s mm high', (frame, height) => {
    expect(shaftHeightOf(frame)).toEqual(height === undefined ? undefined : expect.closeTo(height, 6));
  });
});
