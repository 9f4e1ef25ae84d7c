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
  it('a lost current keeps what was counted: it neither ends an overload nor begins one', () => {
    const lost = { lineA: [undefined, undefined, undefined] as const };
    // 2 s over the current with single lost samples between
    expect(follow(every(42, (i) => (i % 5 === 4 ? lost : amps(11)))).says).toBe('hold');
    expect(follow(every(30, () => lost)).says).toBe('ok');
    const over = { ...SET, loadFactor: 1.25 };
    const run = (n: number, of: (i: number) => Partial<LoadFrame>) => follow(every(n, of), { ...over, overloadS: 1 });
    expect(run(22, (i) => (i === 10 ? lost : amps(11))).says).toBe('unload');
    expect(run(22, (i) => (i === 10 ? amps(10) : amps(11))).says).toBe('ok');
    expect(run(21, () => amps(11)).says).toBe('ok');
    expect(run(200, () => amps(10)).says).toBe('ok');
  });
  it('the time of overload counts only where more than the rated current is meant', () => {
    const s = { ...SET, overloadS: 0.5, overS: 60 };
    expect(
      follow(
        every(60, () => amps(11)),
        s,
      ).says,
    ).toBe('ok');
    expect(
      follow(
        every(60, () => amps(11)),
        { ...s, loadFactor: 1.01 },
      ).says,
    ).toBe('unload');
  });
  it('speed and torque are compared over about a second: slower is no pull-out, what is older is forgotten', () => {
    const falling = (perS: number, n = 80) =>
      follow(
        every(n, (i) => ({ rpm: 1000 - perS * i * 0.05 * 10, torqueNm: 100 - perS * 2 * i * 0.05 })),
        {
          ...SET,
          pullTorquePercent: 1,
        },
      );
    expect(falling(1.2).says).toBe('unload');
    expect(falling(0.7).says).toBe('ok');
    const { past } = falling(0.1);
    expect(past.length).toBeLessThanOrEqual(8);
    expect(past.length).toBeGreaterThanOrEqual(5);
    expect((past[1]?.t ?? 0) - (past[0]?.t ?? 0)).toBeGreaterThanOrEqual(0.19);
  });
  it('samples without speed or torque are not remembered and pull nothing out', () => {
    const f = (i: number, more: Partial<LoadFrame>) => frame(i * 0.05, more);
    const steady = Array.from({ length: 25 }, (_, i) => f(i, {}));
    const none = [f(25, { rpm: undefined, torqueNm: 1 }), f(26, { rpm: 1, torqueNm: undefined })];
    const at = follow([...steady, ...none]);
    expect(at.says).toBe('ok');
    expect(at.past.every((p) => p.rpm === 1450 && p.nm === 36)).toBe(true);
  });
});
