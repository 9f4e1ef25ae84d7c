import { describe, expect, it } from 'vitest';
import { GUARD_BEGIN, goneOn, guardStep, type GuardSettings, type GuardState } from './guard.ts';
import { loadFrame as frame } from '../../../../scripts/testing/onDynamometer.ts';
import type { LoadFrame } from './loadFrames.ts';

describe('the guard', () => {
  const SET: GuardSettings = {
    ratedA: 10,
    loadFactor: 1,
    overS: 2,
    unloadFactor: 1.2,
    overloadS: 60,
    windingC: 140,
    bearingC: 90,
    vibrationMmS: 7.1,
  };
  const follow = (frames: readonly LoadFrame[], s = SET): GuardState =>
    frames.reduce((state, f) => guardStep(state, f, s), GUARD_BEGIN);
  const every = (n: number, more: (i: number) => Partial<LoadFrame>) =>
    Array.from({ length: n }, (_, i) => frame(i * 0.05, more(i)));
  const amps = (a: number) => ({ lineA: [9, a, 9] });
  it.each([
    [10, 'ok'],
    [10.01, 'hold'],
    [12, 'hold'],
    [12.01, 'unload'],
  ] as const)('any line at %s A for over two seconds: %s', (a, says) => {
    expect(follow(every(60, () => amps(a))).says).toBe(says);
  });
  it('holds only after two seconds without a break', () => {
    expect(follow(every(40, () => amps(11))).says).toBe('ok');
    expect(follow(every(41, () => amps(11))).says).toBe('hold');
    expect(follow(every(60, (i) => amps(i === 30 ? 10 : 11))).says).toBe('ok');
    const held = follow(every(60, (i) => amps(i < 50 ? 11 : 10)));
    expect([held.says, held.why]).toEqual(['ok', '']);
  });
  it('unloads at the second bad sample in a row, stays so, and goes on when it is let', () => {
    expect(follow(every(1, () => amps(13))).says).toBe('ok');
    const two = follow(every(2, () => amps(13)));
    expect([two.says, two.at]).toEqual(['unload', 0.05]);
    expect(two.why).toMatch(/current 13 A, at most 12 A/);
    expect(follow(every(9, (i) => amps(i % 2 ? 13 : 10))).says).toBe('ok');
    expect(follow(every(50, (i) => amps(i < 2 ? 13 : 5))).says).toBe('unload');
    expect(goneOn(two, 5).says).toBe('ok');
  });
  it.each([
    ['windingC', 140],
    ['bearingC', 90],
    ['vibrationMmS', 7.1],
  ] as const)('%s up to its limit', (name, bound) => {
    expect(follow(every(5, () => ({ [name]: bound }))).says).toBe('ok');
    expect(follow(every(5, () => ({ [name]: bound + 0.01 }))).says).toBe('unload');
    expect(
      follow(
        every(5, () => ({ [name]: bound + 50 })),
        { ...SET, [name]: undefined },
      ).says,
    ).toBe('ok');
  });
  it('short overload points have their time', () => {
    const short = { ...SET, loadFactor: 1.6 };
    const long = (n: number) => Array.from({ length: n }, (_, i) => frame(i, amps(15)));
    expect(follow(long(61), short).says).toBe('ok');
    expect(follow(long(62), short)).toMatchObject({ says: 'unload', why: expect.stringMatching(/for 60 s/) as string });
    expect(
      follow(
        long(62).map((f, i) => (i === 40 ? { ...f, lineA: [9, 10, 9] } : f)),
        short,
      ).says,
    ).toBe('ok');
  });
  it('a motor whose current nobody reads any more is unloaded', () => {
    const blind = (n: number) => [frame(0), ...Array.from({ length: n }, (_, i) => frame((i + 1) / 10, { lineA: [] }))];
    expect(follow(blind(19)).says).toBe('ok');
    expect(follow(blind(20))).toMatchObject({ says: 'unload', why: expect.stringMatching(/no current/) as string });
  });
  it('a motor that pulls out is unloaded; one whose load is taken off is not', () => {
    const out = every(60, (i) => ({ rpm: 1450 * (1 - 0.001 * i), torqueNm: 90 * (1 - 0.002 * i) }));
    expect(follow(out)).toMatchObject({ says: 'unload', why: expect.stringMatching(/pulls out/) as string });
    expect(follow(every(60, (i) => ({ rpm: 1450 + 0.5 * i, torqueNm: 90 * (1 - 0.01 * i) }))).says).toBe('ok');
    expect(follow(every(60, (i) => ({ rpm: 1450 * (1 - 0.001 * i), torqueNm: 90 * (1 + 0.002 * i) }))).says).toBe('ok');
  });
  it.each([
    [1, 2, {}, 'ok'],
    [1.1, 2.1, {}, 'unload'],
    [1, 2.1, {}, 'ok'],
    [1.1, 2, {}, 'ok'],
    [1.1, 2.1, { pullSpeedPercent: 1.2 }, 'ok'],
    [1.1, 2.1, { pullTorquePercent: 2.2 }, 'ok'],
  ] as const)('speed down by %s %%, torque by %s %% within a second, %j: %s', (speed, torque, more, says) => {
    const frames = Array.from({ length: 30 }, (_, i) =>
      frame(i * 0.05, i < 15 ? { rpm: 1000, torqueNm: 100 } : { rpm: 1000 - 10 * speed, torqueNm: 100 - torque }),
    );
    expect(follow(frames, { ...SET, ...more }).says).toBe(says);
  });
});
