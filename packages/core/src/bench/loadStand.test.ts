import { describe, expect, it } from 'vitest';
import { LOAD_ORDER as ORDER, loadRunOf as run } from '../../../../scripts/testing/onDynamometer.ts';
import type { LoadFrame } from '../load/loadFrames.ts';
import { LoadStand } from './loadStand.ts';

describe('the simulated dynamometer', () => {
  const last = (frames: LoadFrame[]) => frames.at(-1) as LoadFrame;
  it('reads near the plate at rated load; the load comes off at once when it is told', () => {
    const f = last(run([[1, 30]]));
    expect(f.rpm).toBeGreaterThan(1440);
    expect(f.rpm).toBeLessThan(1480);
    expect((f.lineA[0] ?? 0) / ORDER.ratedA).toBeGreaterThan(0.85);
    expect((f.lineA[0] ?? 0) / ORDER.ratedA).toBeLessThan(1.15);
    const stand = new LoadStand(ORDER);
    stand.set(ORDER.ratedNm);
    for (let i = 0; i < 400; i++) stand.advance(0.05);
    stand.unload();
    stand.advance(0.05);
    expect(Math.abs(stand.read()[8] ?? 9)).toBeLessThan(0.1);
    stand.stop();
    stand.advance(0.05);
    expect([stand.runs, stand.read()[9]]).toEqual([false, 0]);
  });
  it('never puts on more than the dynamometer takes, and holds what is on', () => {
    const stand = new LoadStand({ ...ORDER, mostNm: 10 });
    stand.set(99);
    for (let i = 0; i < 400; i++) stand.advance(0.05);
    expect(stand.read()[8]).toBeCloseTo(10, 1);
    const other = new LoadStand(ORDER);
    other.set(ORDER.ratedNm);
    for (let i = 0; i < 40; i++) other.advance(0.05);
    other.hold();
    const held = other.read()[8] ?? 0;
    for (let i = 0; i < 100; i++) other.advance(0.05);
    expect((other.read()[8] ?? 0) / held).toBeCloseTo(1, 1);
  });
  it('its faults are seen: unbalance, vibration, a torque zero that runs away, a winding that gets hot', () => {
    const sound = last(run([[0.5, 20]]));
    const spread = (v: readonly (number | undefined)[]) =>
      Math.max(...v.map((n) => n ?? 0)) / Math.min(...v.map((n) => n ?? 0)) - 1;
    const unbalanced = last(run([[0.5, 20]], (s) => s.show('supply unbalanced')));
    expect(spread(unbalanced.lineV)).toBeGreaterThan(0.02);
    expect(spread(unbalanced.lineA)).toBeGreaterThan(4 * spread(sound.lineA));
    expect(last(run([[0.5, 20]], (s) => s.show('misaligned'))).vibrationMmS).toBeGreaterThan(
      3 * (sound.vibrationMmS ?? 0),
    );
    const drifts = last(run([[0, 40]], (s) => s.show('torque zero drifts')));
    expect(drifts.torqueNm).toBeGreaterThan(0.4);
    const hours = (fault?: 'overheats') => {
      const stand = new LoadStand(ORDER);
      stand.show(fault);
      stand.set(ORDER.ratedNm);
      for (let i = 0; i < 3000; i++) stand.advance(0.1, 60);
      return stand.read()[10] ?? 0;
    };
    expect(hours()).toBeGreaterThan(85);
    expect(hours()).toBeLessThan(115);
    expect(hours('overheats')).toBeGreaterThan(140);
  });
  it('a brake that runs away holds nothing back, but its load comes off', () => {
    const stand = new LoadStand(ORDER);
    stand.set(10);
    for (let i = 0; i < 100; i++) stand.advance(0.05);
    stand.show('load runs away');
    for (let i = 0; i < 20; i++) {
      stand.advance(0.05);
      stand.hold();
    }
    expect(stand.torqueNm).toBeGreaterThan(1.02 * ORDER.ratedNm);
    stand.unload();
    for (let i = 0; i < 20; i++) stand.advance(0.05);
    expect(stand.torqueNm).toBe(0);
  });
  it('beyond its breakdown torque it pulls out: the speed falls, never below rest, and it comes back without load', () => {
    const stand = new LoadStand({ ...ORDER, mostNm: 9 * ORDER.ratedNm });
    stand.set(9 * ORDER.ratedNm);
    for (let i = 0; i < 4000; i++) stand.advance(0.05);
    expect(stand.read()[9]).toBeLessThan(400);
    expect(stand.read()[9]).toBeGreaterThanOrEqual(0);
    stand.unload();
    stand.advance(0.05);
    expect(stand.read()[9]).toBeGreaterThan(1490);
  });
});
