import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { balanceOnePlane, onPositions, splitBetween } from './onePlane.ts';
import { balancePermissible, bearingShares } from './tolerance.ts';

/** A rotor that answers with 0.02 per g·mm, 40° late; 200 g·mm at 0° in it, 159.15 g·mm allowed. */
const rotor = {
  grade: 2.5,
  massKg: 20,
  serviceSpeedRpm: 3000,
  correctionRadiusMm: 50,
  planeWidthMm: 40,
  bearingSpanMm: 400,
  asFound: { size: 4, angleDeg: 40 },
  trial: { unbalanceGMm: 200, angleDeg: 90 },
  // 0.02 · (200∠0° + 200∠90°) turned by 40°
  withTrial: { size: 4 * Math.SQRT2, angleDeg: 85 },
};
const run = (more: object = {}) => worked(balanceOnePlane, { ...rotor, ...more }, 0);
const left = (gMm: number) => ({ after: { size: 0.02 * gMm, angleDeg: 130 } });
const PER = 159.1549430918953;

describe('one plane, worked by hand', () => {
  it('influence, initial unbalance, correction opposite to it, its mass', () => {
    const x = run();
    expect(x.influencePerGMm?.size).toBeCloseTo(0.02, 12);
    expect(x.influencePerGMm?.angleDeg).toBeCloseTo(40, 9);
    expect(x.initialUnbalanceGMm).toBeCloseTo(200, 9);
    expect(x.correction?.unbalanceGMm).toBeCloseTo(200, 9);
    expect(x.correction?.angleDeg).toBeCloseTo(180, 9);
    expect(x.correction?.massG).toBeCloseTo(4, 9);
    expect(x.correction?.method).toBe('add');
    expect(x.placed).toEqual([
      { angleDeg: expect.closeTo(180, 9), unbalanceGMm: expect.closeTo(200, 9), massG: expect.closeTo(4, 9) },
    ]);
    expect(x.permissibleGMm).toBeCloseTo(PER, 9);
    expect([x.residualGMm, x.residualAngleDeg, x.reductionPercent]).toEqual([undefined, undefined, undefined]);
  });
  it('taken away on the heavy side; the angle stays within the turn', () => {
    expect(run({ method: 'remove' }).correction?.angleDeg).toBeCloseTo(0, 9);
    expect(run({ method: 'remove' }).correction?.method).toBe('remove');
    const turned = { asFound: { size: 4, angleDeg: 240 }, withTrial: { size: 4 * Math.SQRT2, angleDeg: 285 } };
    // 200∠200° stands in it, 200∠290° is tried: added at 20°, taken away at 200°
    const trial = { unbalanceGMm: 200, angleDeg: 290 };
    expect(run({ ...turned, trial }).correction?.angleDeg).toBeCloseTo(20, 9);
    expect(run({ ...turned, trial, method: 'remove' }).correction?.angleDeg).toBeCloseTo(200, 9);
  });
  it('with the trial left in, what is left of it is corrected', () => {
    const x = run({ trialStaysIn: true });
    expect(x.correction?.unbalanceGMm).toBeCloseTo(200 * Math.SQRT2, 9);
    expect(x.correction?.angleDeg).toBeCloseTo(225, 9);
    expect(x.initialUnbalanceGMm).toBeCloseTo(200, 9);
  });
  it('residual, where it stands, and by how much it fell', () => {
    const x = run(left(50));
    expect(x.residualGMm).toBeCloseTo(50, 9);
    expect(x.residualAngleDeg).toBeCloseTo(90, 9);
    expect(x.reductionPercent).toBeCloseTo(75, 9);
    expect(run(left(300)).reductionPercent).toBeCloseTo(-50, 9);
  });
  it('on the places of the rotor', () => {
    const at = (positions: number, firstPositionDeg = 0) => run({ positions, firstPositionDeg }).placed;
    expect(at(4)).toEqual([
      { angleDeg: expect.closeTo(180, 6), unbalanceGMm: expect.closeTo(200, 6), massG: expect.closeTo(4, 6) },
    ]);
    // between 120° and 240°: each takes 200 / (2 cos 60°)
    expect(at(3).map((p) => [Math.round(p.angleDeg), p.unbalanceGMm.toFixed(6), p.massG.toFixed(6)])).toEqual([
      [120, '200.000000', '4.000000'],
      [240, '200.000000', '4.000000'],
    ]);
    expect(at(5, 10).map((p) => Math.round(p.angleDeg))).toEqual([154, 226]);
    const two = run({ positions: 2, ...left(10) });
    expect([two.placed, two.verdict]).toEqual([[], 'cannot judge']);
    expect(two.reason).toContain('With 2 places not every direction can be reached; at least 3 are needed.');
    expect(run({ positions: 3, ...left(10) }).verdict).toBe('pass');
    expect(() => run({ positions: 361 })).toThrow();
    expect(() => run({ positions: -1 })).toThrow();
    expect(run({ positions: 360 }).placed).toHaveLength(1);
  });
});

describe('one plane, each rule just inside, at and just outside', () => {
  it.each([
    [{ ...left(PER - 0.01) }, 'pass', /^Residual 159\.1\d* g·mm; at most 159\.2? ?/],
    [{ ...left(PER) }, 'pass', /at most/],
    [{ ...left(PER + 0.01) }, 'fail', /is above .*Correct again\./],
    [{ ...left(PER - 20), scatterGMm: 20 }, 'pass', /at most/],
    [{ ...left(PER - 19.9), scatterGMm: 20 }, 'attention', /within the scatter of 20 g·mm round the limit/],
    [{ ...left(PER + 20), scatterGMm: 20 }, 'attention', /within the scatter/],
    [{ ...left(PER + 20.1), scatterGMm: 20 }, 'fail', /above/],
    // the body of the rotor over the bearing span: below 0.2
    [{ ...left(10), planeWidthMm: 79.9 }, 'pass', /at most/],
    [
      { ...left(10), planeWidthMm: 80 },
      'cannot judge',
      /^The rotor is too long for one plane: .* is 0\.2, below 0\.2 /,
    ],
    [{ ...left(10), planeWidthMm: 80, limits: { 'balance.discWidthShare': 0.3 } }, 'pass', /at most/],
    [{ ...left(10), planeWidthMm: undefined }, 'cannot judge', /bearing span decide .*; enter both/],
    [{ ...left(10), bearingSpanMm: undefined }, 'cannot judge', /enter both/],
    [{ ...left(10), massKg: undefined }, 'cannot judge', /^Rotor mass and highest service speed/],
    [{ ...left(10), serviceSpeedRpm: undefined }, 'cannot judge', /^Rotor mass and highest service speed/],
    // found fine: no correction; otherwise the residual decides
    [{ grade: 200 / (PER / 2.5) }, 'pass', /^Found 200 g·mm; at most 200 g·mm.*no correction is needed\.$/],
    [{ grade: 199.9 / (PER / 2.5) }, 'cannot judge', /spin again and enter the reading/],
    [{ grade: 220 / (PER / 2.5), scatterGMm: 20 }, 'pass', /no correction/],
    [{ grade: 219 / (PER / 2.5), scatterGMm: 20 }, 'cannot judge', /spin again/],
    [{ massKg: undefined, grade: 100 }, 'cannot judge', /^Rotor mass .* Make the correction|^Rotor mass/],
  ] as const)('%j: %s', (more, verdict, reason) => {
    const x = run(more);
    expect([x.verdict, x.reason]).toEqual([verdict, expect.stringMatching(reason)]);
  });

  /** a trial that answers with this size and angle where 10∠0° was found */
  const answer = (size: number, angleDeg: number, more: object = {}) =>
    run({ asFound: { size: 10, angleDeg: 0 }, withTrial: { size, angleDeg }, ...more });
  const weak = /The trial altered the amplitude by .* % and the phase by .*°; 25 % or 30° is wanted/;
  it.each([
    [12.49, 0, true],
    [12.5, 0, false],
    [12.51, 0, false],
    [7.51, 0, true],
    [7.5, 0, false],
    [10, 29.9, true],
    [10, 30, false],
    [10, 330.1, true],
    [10, 330, false],
    [12, 29, true],
    [12, 31, false],
    [13, 29, false],
  ])('a trial that makes 10∠0° into %d∠%d° is too weak: %s', (size, angleDeg, isWeak) => {
    expect(weak.test(answer(size, angleDeg).reason)).toBe(isWeak);
  });
  it('the phase is compared round the turn', () => {
    const at = (a: number, b: number) =>
      weak.test(run({ asFound: { size: 10, angleDeg: a }, withTrial: { size: 10, angleDeg: b } }).reason);
    expect([at(350, 19), at(350, 20), at(19, 350), at(20, 350), at(-10, 19), at(700, 9)]).toEqual([
      true,
      false,
      true,
      false,
      true,
      true,
    ]);
  });
  it('the wished change is the shop’s', () => {
    expect(weak.test(answer(12, 0, { limits: { 'balance.trialMinPercent': 20 } }).reason)).toBe(false);
    expect(weak.test(answer(10, 25, { limits: { 'balance.trialMinDeg': 25 } }).reason)).toBe(false);
  });
  it('what decides is said first, what is worse than passed after it, what passed not at all', () => {
    const weakly = answer(12, 0, { trial: { unbalanceGMm: 100, angleDeg: 0 }, after: { size: 0.1, angleDeg: 0 } });
    expect(weakly.verdict).toBe('attention');
    expect(weakly.reason).toMatch(/^The trial altered [^.]*\.?.*Use a larger trial\.$/);
    expect(weakly.reason).not.toMatch(/at most/);
    const both = answer(12, 0, { trial: { unbalanceGMm: 100, angleDeg: 0 }, after: { size: 9, angleDeg: 0 } });
    expect(both.verdict).toBe('fail');
    expect(both.reason).toMatch(/^Residual .*Correct again\. The trial altered/);
  });
  it('a trial that changed nothing tells nothing but the tolerance', () => {
    const nothing = { withTrial: rotor.asFound };
    expect(run(nothing)).toEqual({
      permissibleGMm: expect.closeTo(PER, 9),
      placed: [],
      verdict: 'cannot judge',
      reason: 'The trial mass changed nothing: take a larger one, or check that it is fixed and the pick-up works.',
    });
    expect(run({ ...nothing, massKg: undefined })).not.toHaveProperty('permissibleGMm');
    expect(run({ withTrial: { size: 4.001, angleDeg: 40 } }).influencePerGMm).toBeDefined();
    // small numbers are no small change: the unit of the reading is anyone's
    const small = (v: { size: number; angleDeg: number }) => ({ ...v, size: v.size / 1000 });
    expect(run({ asFound: small(rotor.asFound), withTrial: small(rotor.withTrial) }).initialUnbalanceGMm).toBeCloseTo(
      200,
      6,
    );
  });
});

describe('splitting and sharing', () => {
  it('a vector over two directions', () => {
    const [first, second] = splitBetween(100, 30, 0, 90);
    expect(first).toBeCloseTo(100 * Math.cos(Math.PI / 6), 9);
    expect(second).toBeCloseTo(50, 9);
    // obtuse, and not counted from nought
    const [left, right] = splitBetween(100, 100, 70, 190);
    expect(left).toBeCloseTo(100 / Math.sin((120 * Math.PI) / 180), 9);
    expect(right).toBeCloseTo((100 * 0.5) / Math.sin((120 * Math.PI) / 180), 9);
  });
  it('one place when it lies on one, two neighbours otherwise, none below three', () => {
    expect(onPositions(100, 10, 2, 0)).toBeUndefined();
    expect(onPositions(100, 120, 3, 0)?.map((p) => p.angleDeg)).toEqual([120]);
    expect(onPositions(100, 370, 36, 0)?.map((p) => p.angleDeg)).toEqual([10]);
    expect(onPositions(100, -10, 36, 0)?.map((p) => p.angleDeg)).toEqual([350]);
    expect(onPositions(100, 355, 36, 0)?.map((p) => p.angleDeg)).toEqual([350, 0]);
    expect(onPositions(100, 45, 4, 0)?.map((p) => p.unbalanceGMm.toFixed(4))).toEqual(['70.7107', '70.7107']);
  });
  it.each([
    // bearings at 100 and 500, mass at 220: the nearer bearing takes 0.7 exactly
    [100, 500, 220, 70, 30, false],
    [100, 500, 219, 70, 30, true],
    [100, 500, 300, 50, 50, false],
    [500, 100, 220, 30, 70, false],
    [100, 500, 380, 30, 70, false],
    [100, 500, 381, 30, 70, true],
    // on a bearing it still stands between them
    [100, 500, 100, 70, 30, true],
    [100, 500, 500, 30, 70, true],
    // overhung: up to 1.3, down to 0.3
    [100, 500, 620, 30, 130, false],
    [100, 500, 619, 30, 129.75, true],
    [100, 500, 621, 30.25, 130, true],
    [100, 500, 40, 115, 30, true],
    [100, 500, -40, 130, 35, true],
  ])('bearings at %d and %d, centre of mass at %d: %d and %d of 100', (a, b, c, shareA, shareB, clamped) => {
    const x = bearingShares(100, a, b, c);
    expect([x.a, x.b]).toEqual([expect.closeTo(shareA, 9), expect.closeTo(shareB, 9)]);
    expect(x.clamped).toBe(clamped);
  });
  it('the calculation gives every unit, and shares only where all places are known', () => {
    const x = worked(
      balancePermissible,
      { grade: 6.3, massKg: 80, serviceSpeedRpm: 1500, bearingAMm: 100, bearingBMm: 500, centreOfMassMm: 250 },
      3,
    );
    // 9549.3 · 6.3 · 80 / 1500
    expect(x.permissibleGMm).toBeCloseTo(3208.56, 1);
    expect(x.specificUm).toBeCloseTo(40.107, 2);
    expect(x.permissibleOzIn).toBeCloseTo(4.4558, 3);
    expect(x.shareAGMm).toBeCloseTo((3208.56 * 250) / 400, 1);
    expect(x.shareBGMm).toBeCloseTo((3208.56 * 150) / 400, 1);
    expect(x.clamped).toBe(false);
    const whole = { grade: 6.3, massKg: 80, serviceSpeedRpm: 1500 };
    const places = { bearingAMm: 100, bearingBMm: 500, centreOfMassMm: 250 };
    for (const missing of Object.keys(places)) {
      const some = worked(balancePermissible, { ...whole, ...places, [missing]: undefined });
      expect([some.shareAGMm, some.clamped, some.permissibleGMm]).toEqual([undefined, undefined, x.permissibleGMm]);
    }
    expect(() => worked(balancePermissible, { ...whole, ...places, bearingBMm: 100 })).toThrow(/different places/);
  });
});
