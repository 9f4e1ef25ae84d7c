import { describe, expect, it } from 'vitest';
import { QUIET, setUp } from '../../../../scripts/testing/standBench.ts';
import { sizeOf } from '../winding/complex.ts';
import { toleranceOf } from './setUp.ts';
import { simulatedFault, simulatedRotor, simulatedRun, spinOrder, type SpinOrder } from './simulatedRotor.ts';
import { seeded } from './stand.ts';

const order = (more: object = {}, masses: SpinOrder['masses'] = []) =>
  spinOrder(setUp(more), { job: 'j', rotor: 'r', masses });

describe('the invented rotor', () => {
  it('weighs and lies as it was said, and carries three to eight times the share of a bearing', () => {
    const of = order();
    const is = setUp();
    expect(of.shareGMm).toBe(Math.max(...toleranceOf(is).sharesGMm));
    const { rotor, hidden } = simulatedRotor(of);
    expect(rotor).toMatchObject({
      massKg: is.massKg,
      bearingAMm: is.bearingAMm,
      bearingBMm: is.bearingBMm,
      centreMm: is.centreMm,
    });
    expect(hidden.map((h) => h.xMm)).toEqual(is.planes.map((p) => p.xMm));
    for (const h of hidden) {
      expect(h.gMm / of.shareGMm).toBeGreaterThanOrEqual(3);
      expect(h.gMm / of.shareGMm).toBeLessThanOrEqual(8);
      expect(h.angleDeg).toBeGreaterThanOrEqual(0);
      expect(h.angleDeg).toBeLessThanOrEqual(360);
      expect(Number.isInteger(h.angleDeg)).toBe(true);
    }
    expect(
      new Set(Array.from({ length: 30 }, (_, i) => simulatedRotor({ ...of, rotor: `n${i}` }).hidden[0]?.angleDeg)).size,
    ).toBeGreaterThan(20);
  });
  it('turns at about half of its resonance, a little damped', () => {
    const of = order();
    const { rotor } = simulatedRotor(of);
    const w = (2 * Math.PI * of.rpm) / 60;
    for (const [i, k] of rotor.stiffness.entries()) {
      const own = Math.sqrt(k / (of.massKg / 2));
      expect(own / w).toBeGreaterThanOrEqual(2.1 * Math.sqrt(0.95));
      expect(own / w).toBeLessThanOrEqual(2.1 * Math.sqrt(1.05));
      // share of the critical damping of half the mass on that spring
      expect((rotor.damping[i] ?? 0) / (2 * Math.sqrt((k * of.massKg) / 2))).toBeCloseTo(0.03, 9);
    }
    const span = (of.bearingBMm - of.bearingAMm) / 1000;
    expect(rotor.inertiaKgM2).toBeCloseTo(of.massKg * (0.3 * span) ** 2, 12);
  });
});

describe('faults of the simulated stand', () => {
  const of = { shareGMm: 100, planesMm: [80, 320], centreMm: 200 };
  it('each does its own', () => {
    expect(simulatedFault('bar comes loose', of)).toEqual({ jumping: { gMm: 500, xMm: 80 } });
    expect(simulatedFault('bar comes loose', { ...of, planesMm: [] })).toEqual({ jumping: { gMm: 500, xMm: 200 } });
    expect(simulatedFault('shaft bends', of).bentMm?.map(sizeOf)).toEqual([
      expect.closeTo(0.03, 9),
      expect.closeTo(0.022, 9),
    ]);
    expect(simulatedFault('angle sense turns', of)).toEqual({ mirrored: true });
    expect(simulatedFault('near resonance', of)).toEqual({ drift: 0.03 });
    expect(simulatedFault('sound again', of)).toEqual({});
    expect(simulatedFault(undefined, of)).toEqual({});
  });
});

describe('a stand that separates', () => {
  const separates = { readings: 'unbalance per plane' };
  const at = 0.5;
  const still = () => at;
  it('without scatter reads what sits in each plane', () => {
    const of = order(separates, [{ xMm: 80, gMm: 40, angleDeg: 0 }]);
    const { hidden } = simulatedRotor(of);
    const read = simulatedRun(of, undefined, still, QUIET);
    const bare = simulatedRun({ ...of, masses: [] }, undefined, still, QUIET);
    expect(bare.map(sizeOf)).toEqual(hidden.map((h) => expect.closeTo(h.gMm, 6) as number));
    expect((read[0]?.re ?? 0) - (bare[0]?.re ?? 0)).toBeCloseTo(40, 6);
    expect(read[1]).toEqual(bare[1]);
  });
  it('one plane reads all of it together', () => {
    const base = order({ ...separates, planes: [{ xMm: 80, radiusMm: 60 }], bodyMm: 40 });
    const read = simulatedRun(base, undefined, still, QUIET);
    expect(read).toHaveLength(1);
    expect(sizeOf(read[0] as never)).toBeCloseTo(simulatedRotor(base).hidden[0]?.gMm ?? 0, 6);
  });
  it('scatter is of gain, phase and a little of the share; mirrored turns the angle; a loose bar jumps', () => {
    const of = order(separates);
    const bare = simulatedRun(of, undefined, still, QUIET);
    const noise = { ...QUIET, gain: 0.02, phaseDeg: 2 };
    const high = simulatedRun(of, undefined, () => 1, noise);
    // gain half of two per cent up, angle one degree on, and 0.0025 of the share to either side
    const [z] = bare;
    const turn = Math.PI / 180;
    const size = sizeOf(z as never) * 1.01;
    const angle = Math.atan2(z?.im ?? 0, z?.re ?? 0) + turn;
    expect(high[0]?.re).toBeCloseTo(size * Math.cos(angle) + 0.0025 * of.shareGMm, 6);
    expect(high[0]?.im).toBeCloseTo(size * Math.sin(angle) + 0.0025 * of.shareGMm, 6);
    const turned = simulatedRun(of, 'angle sense turns', still, QUIET);
    expect(turned[0]).toEqual({ re: bare[0]?.re, im: -(bare[0]?.im ?? 0) });
    const random = seeded(3);
    const jumped = Array.from({ length: 12 }, () => simulatedRun(of, 'bar comes loose', random, QUIET)[0]);
    const off = jumped.map((x) => Math.hypot((x?.re ?? 0) - (z?.re ?? 0), (x?.im ?? 0) - (z?.im ?? 0)));
    for (const o of off) expect(Math.abs(o - 5 * of.shareGMm)).toBeLessThan(0.01 * of.shareGMm);
    expect(new Set(jumped.map((x) => Math.round(x?.re ?? 0))).size).toBeGreaterThan(8);
  });
});
