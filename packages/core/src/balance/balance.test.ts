import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { toBase } from '../quantity/units.ts';
import { balanceOnePlane, onPositions, splitBetween } from './onePlane.ts';
import { balancePermissible, bearingShares, permissibleUnbalanceGMm } from './tolerance.ts';

const example = {
  grade: 2.5,
  massKg: 20,
  serviceSpeedRpm: 3000,
  correctionRadiusMm: 60,
  planeWidthMm: 40,
  bearingSpanMm: 400,
  asFound: { size: 6.2, angleDeg: 35 },
  trial: { unbalanceGMm: 300, angleDeg: 60 },
  withTrial: { size: 8.1, angleDeg: 95 },
};
const run = (more: object = {}) => worked(balanceOnePlane, { ...example, ...more });
const relative = (got: number, wanted: number, tolerance: number) =>
  expect(Math.abs(got / wanted - 1)).toBeLessThanOrEqual(tolerance);

describe('balancing (ISO 21940, influence coefficients)', () => {
  it('B01 1 oz·in', () => relative(toBase(1, 'unbalance', 'oz·in'), 720.0779, 1e-6));
  it('B02 B03 tolerance (ISO 21940-11)', () => {
    relative(permissibleUnbalanceGMm(2.5, 20, 3000), 159.1549, 1e-6);
    relative(permissibleUnbalanceGMm(2.5, 20, 3000) / 20, 7.95775, 1e-5);
  });
  it('B04 in ounce-inch', () =>
    relative(permissibleUnbalanceGMm(2.5, 100 * 0.45359237, 1800) / 720.0779, 0.835459, 1e-5));
  it('B05 B06 shares with clamps', () => {
    relative(bearingShares(159.1549, 0, 500, 300).b, 95.493, 1e-5);
    expect(bearingShares(100, 0, 400, 60)).toEqual({ a: 70, b: 30, clamped: true });
    expect(bearingShares(100, 0, 300, -80).b).toBe(30);
    expect(
      worked(balancePermissible, {
        grade: 2.5,
        massKg: 20,
        serviceSpeedRpm: 3000,
        bearingAMm: 0,
        bearingBMm: 500,
        centreOfMassMm: 300,
      }).shareBGMm,
    ).toBeCloseTo(95.493, 2);
  });
  it('B08 B09 one plane', () => {
    const c = run().correction;
    relative(c?.unbalanceGMm ?? 0, 253.5133, 1e-5);
    expect(c?.angleDeg).toBeCloseTo(132.96, 2);
  });
  it('B10 trial left in', () => {
    const c = run({ trialStaysIn: true }).correction;
    expect(c?.angleDeg).toBeCloseTo(192.96, 2);
    relative(c?.unbalanceGMm ?? 0, 331.2, 1e-4);
  });
  it('B17 split', () => {
    relative(splitBetween(120, 200, 180, 216)[1], 69.8255, 1e-5);
    expect(onPositions(120, 200, 10, 0)?.map((p) => p.angleDeg)).toEqual([180, 216]);
  });
});

describe('verdicts of one plane', () => {
  const after = (gmm: number) => ({ after: { size: 0.0244555 * gmm, angleDeg: 10 } });
  it('pass at the limit, fail above, attention within the scatter', () => {
    expect(run(after(150)).verdict).toBe('pass');
    expect(run(after(170)).verdict).toBe('fail');
    expect(run({ ...after(150), scatterGMm: 20 }).verdict).toBe('attention');
  });
  it('a rotor too long for one plane cannot be judged, and says why', () => {
    const x = run({ ...after(10), planeWidthMm: 160 });
    expect(x.verdict).toBe('cannot judge');
    expect(x.reason).toMatch(/too long for one plane/);
  });
  it('missing mass, geometry or residual cannot be judged', () => {
    expect(run().verdict).toBe('cannot judge');
    expect(run({ ...after(10), massKg: undefined }).verdict).toBe('cannot judge');
    expect(run({ ...after(10), bearingSpanMm: undefined }).verdict).toBe('cannot judge');
  });
  it('a trial without effect is refused', () => {
    expect(run({ withTrial: example.asFound }).verdict).toBe('cannot judge');
  });
  it('removing material is opposite to adding', () => {
    const add = run().correction?.angleDeg ?? 0;
    const remove = run({ method: 'remove' }).correction?.angleDeg ?? 0;
    expect(Math.abs(Math.abs(add - remove) - 180)).toBeLessThan(1e-9);
  });
  it('finds the unbalance of a linear rotor exactly, whatever it is', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 50, max: 800, noNaN: true }),
        fc.double({ min: 0, max: 359, noNaN: true }),
        fc.double({ min: 0.005, max: 0.1, noNaN: true }),
        fc.double({ min: 0, max: 359, noNaN: true }),
        (u, at, gain, lag) => {
          const respond = (list: [number, number][]) => {
            const rad = Math.PI / 180;
            const re = list.reduce((s, [m, a]) => s + m * Math.cos((a + lag) * rad), 0) * gain;
            const im = list.reduce((s, [m, a]) => s + m * Math.sin((a + lag) * rad), 0) * gain;
            return { size: Math.hypot(re, im), angleDeg: (Math.atan2(im, re) / rad + 360) % 360 };
          };
          const c = run({
            asFound: respond([[u, at]]),
            withTrial: respond([
              [u, at],
              [300, 60],
            ]),
          }).correction;
          expect(c?.unbalanceGMm).toBeCloseTo(u, 6);
          expect(Math.abs((((((c?.angleDeg ?? 0) - at) % 360) + 540) % 360) - 180)).toBeCloseTo(180, 4);
        },
      ),
    );
  });
  it('parts on two positions add up to the vector', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 1, max: 500, noNaN: true }),
        fc.double({ min: 0, max: 359.9, noNaN: true }),
        fc.integer({ min: 3, max: 36 }),
        (u, at, n) => {
          const rad = Math.PI / 180;
          const parts = onPositions(u, at, n, 7) ?? [];
          expect(parts.every((p) => p.unbalanceGMm >= 0)).toBe(true);
          expect(parts.reduce((s, p) => s + p.unbalanceGMm * Math.cos(p.angleDeg * rad), 0)).toBeCloseTo(
            u * Math.cos(at * rad),
            6,
          );
          expect(parts.reduce((s, p) => s + p.unbalanceGMm * Math.sin(p.angleDeg * rad), 0)).toBeCloseTo(
            u * Math.sin(at * rad),
            6,
          );
        },
      ),
    );
  });
});
