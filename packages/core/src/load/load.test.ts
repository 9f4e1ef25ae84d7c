import { describe, expect, it } from 'vitest';
import { printed } from '../../../../scripts/testing/printed.ts';
import { worked } from '../../../../scripts/testing/worked.ts';
import { atOutput, efficiencyBy, innerVoltage, type EfficiencyQuestion } from './efficiency.ts';
import { separateLosses } from './lossSeparation.ts';
import { loadTest } from './loadTest.ts';
import { noLoadCurve } from './noLoadCurve.ts';

// the worked example of the test reference, 9.3: 7.5 kW, 400 V, 50 Hz, four poles (invented there, reckoned independently)
const NO_LOAD = [
  [440, 8.853, 385.3],
  [400, 7.231, 312.8],
  [380, 6.56, 283.2],
  [360, 5.961, 256.8],
  [240, 3.321, 145.3],
  [200, 2.667, 120.9],
  [160, 2.081, 101.5],
  [120, 1.557, 86.7],
].map(([volts = 0, amps = 0, watts = 0]) => ({ volts, amps, watts }));
const LOAD = [
  [17.927, 10684.6, 61.7, 1446.2, 82],
  [16.651, 9800.2, 56.77, 1451.2, 81],
  [14.821, 8494.6, 49.31, 1458.5, 79.5],
  [12.026, 6368.7, 36.92, 1470, 76],
  [9.652, 4301.4, 24.58, 1480.5, 73],
  [7.934, 2286.6, 12.2, 1490.4, 71],
].map(([amps = 0, watts = 0, torqueNm = 0, rpm = 0, windingC = 0]) => ({
  volts: 400,
  frequencyHz: 50,
  amps,
  watts,
  torqueNm,
  rpm,
  windingC,
}));
const QUESTION: EfficiencyQuestion = {
  poles: 4,
  ratedV: 400,
  coldOhm: 0.92,
  coldC: 25,
  riseK: 53,
  coolantC: 26.5,
  noLoad: NO_LOAD,
  noLoadC: 45,
  load: LOAD,
  dynamometer: {
    coupled: { watts: 410.2, amps: 7.237, rpm: 1499.3, torqueNm: 0.47, windingC: 45 },
    free: { watts: 312.8, amps: 7.231, windingC: 45 },
  },
};
describe('losses of the no-load curve', () => {
  const found = separateLosses(NO_LOAD, (0.92 * (234.5 + 45)) / (234.5 + 25), 400);
  it('C35, C36: friction 67.88 W, core loss at 400 V 167.20 W, every point', () => {
    printed(found?.frictionW, '67.8806');
    printed(found?.coreAt(400), '167.202');
    expect(found?.constantW.map((w) => w.toFixed(2))).toEqual([
      '268.81',
      '235.08',
      '219.24',
      '203.98',
      '128.91',
      '110.33',
      '95.06',
      '83.10',
    ]);
    expect(found?.fitted).toEqual([4, 5, 6, 7]);
    expect(found?.fit.slope).toBeCloseTo(0.00106012, 8);
    printed(found?.fit.r, '0.999997');
  });
  it('points above 0.6 of the rated voltage are bent by saturation, below the turn of the current the slip has grown', () => {
    const at = (volts: number, amps: number) => ({ volts, amps, watts: 80 + 0.001 * volts ** 2 + 1.5 * amps ** 2 });
    const of = (points: ReturnType<typeof at>[]) => separateLosses(points, 1, 400)?.fitted;
    expect(of([at(400, 7), at(241, 4), at(240, 3.9), at(200, 3), at(160, 2)])).toEqual([2, 3, 4]);
    expect(of([at(400, 7), at(240, 3.9), at(200, 3), at(160, 2), at(120, 2.1), at(100, 2.5)])).toEqual([1, 2, 3]);
    expect(of([at(400, 7), at(240, 3.9), at(200, 3)])).toBeUndefined();
    // in any order
    expect(of([at(160, 2), at(400, 7), at(200, 3), at(240, 3.9)])).toEqual([0, 2, 3]);
    const exact = separateLosses([at(400, 7), at(240, 3.9), at(200, 3), at(160, 2)], 1, 400);
    expect(exact?.frictionW).toBeCloseTo(80, 9);
    expect(exact?.coreAt(400)).toBeCloseTo(160, 9);
    expect(exact?.coreAt(320)).toBeCloseTo((160 + 57.6) / 2, 9);
    expect(exact?.coreAt(401)).toBeUndefined();
    expect(exact?.coreAt(159)).toBeUndefined();
  });
  it('the calculation judges the line, and friction below zero', () => {
    const points = (watts: (u: number) => number) =>
      [400, 240, 200, 160, 120].map((volts) => ({ volts, amps: volts / 60, watts: watts(volts) }));
    const run = (x: object) => worked(noLoadCurve, { lineOhm: 0.9907, ratedV: 400, points: NO_LOAD, ...x });
    expect(run({})).toMatchObject({
      verdict: 'pass',
      reason: 'Friction and windage 67.88 W, core loss at 400 V 167.2 W (correlation 1).',
      fitted: [5, 6, 7, 8],
    });
    expect(run({ points: points((u) => 0.004 * u ** 2 - 40 + 1.5 * (u / 60) ** 2) })).toMatchObject({
      verdict: 'cannot judge',
      reason: expect.stringMatching(/below zero/),
    });
    const loose = points((u) => 200 + 0.002 * u ** 2 + (u === 200 ? 60 : 0));
    expect(run({ points: loose })).toMatchObject({
      verdict: 'cannot judge',
      reason: expect.stringMatching(/correlation 0\.\d+, at least 0\.99/),
    });
    expect(run({ points: loose, limits: { 'load.frictionFit': 0.3 } })).toMatchObject({ verdict: 'pass' });
    expect(run({ ratedV: undefined })).toMatchObject({ verdict: 'cannot judge' });
    expect(run({ points: NO_LOAD.slice(0, 5) })['reason']).toMatch(/at least 3 voltages up to 0\.6/);
    expect(run({ points: NO_LOAD.slice(3) })).toMatchObject({
      verdict: 'attention',
      reason: expect.stringMatching(/does not reach 400 V/),
    });
    expect(run({ calibrationExpired: true })['verdict']).toBe('attention');
  });
});

describe('efficiency by parted losses', () => {
  const b = efficiencyBy('B', QUESTION);
  const iec = efficiencyBy('2-1-1B', QUESTION);
  it('C37 to C40: method B, correction, line of stray losses, efficiency at 7500 W', () => {
    printed(b?.torqueCorrectionNm, '0.149044');
    printed(b?.stray.slope, '0.0473461');
    printed(b?.stray.intercept, '1.511');
    printed(b?.stray.r, '0.999483');
    printed(100 * (atOutput(b?.rows ?? [], 7500, (r) => r.efficiency) ?? NaN), '89.0113');
    expect(b?.unsatisfactory).toBeUndefined();
  });
  // every printed row of 9.3
  it.each<[keyof NonNullable<typeof b>['rows'][number], number, string[]]>([
    ['torqueNm', 1, ['61.849', '56.919', '49.459', '37.069', '24.729', '12.349']],
    ['slip', 1, ['0.03587', '0.03253', '0.02767', '0.02000', '0.01300', '0.00640']],
    ['statorW', 1, ['540.92', '465.18', '366.80', '238.81', '152.34', '102.27']],
    ['rotorW', 1, ['357.82', '298.26', '220.24', '119.25', '51.76', '12.91']],
    ['outW', 1, ['9366.77', '8649.95', '7554.07', '5706.34', '3833.93', '1927.37']],
    ['apparentW', 1, ['1317.83', '1150.25', '940.53', '662.36', '467.47', '359.23']],
    ['strayW', 1, ['181.11', '153.39', '115.82', '65.06', '28.95', '7.22']],
    ['statorCorrectedW', 1, ['534.08', '460.76', '365.05', '240.34', '154.82', '104.61']],
    ['rotorCorrectedW', 1, ['353.54', '295.57', '219.24', '119.99', '52.57', '13.19']],
    ['lossW', 1, ['1303.82', '1144.80', '935.18', '660.48', '471.43', '360.10']],
    ['outCorrectedW', 1, ['9380.78', '8655.40', '7559.42', '5708.22', '3829.97', '1926.50']],
    ['efficiency', 100, ['87.80', '88.32', '88.99', '89.63', '89.04', '84.25']],
    ['powerFactor', 1, ['0.8603', '0.8495', '0.8273', '0.7644', '0.6432', '0.4160']],
  ])('method B, %s', (name, scale, want) => {
    b?.rows.forEach((row, i) => printed(scale * Number(row[name]), want[i] ?? ''));
  });
  it('raw stray losses of 9.3 within a hundredth of a watt', () => {
    const want = [184.01, 151.73, 118.41, 69.22, 28.28, 8.97];
    b?.rows.forEach((row, i) => expect(Math.abs(row.rawStrayW - (want[i] ?? 0))).toBeLessThan(0.006));
  });
  it('C41 and 9.4: method 2-1-1B', () => {
    printed(100 * (atOutput(iec?.rows ?? [], 7500, (r) => r.efficiency) ?? NaN), '89.0721');
    printed(iec?.stray.slope, '0.0510154');
    printed(iec?.stray.r, '0.99944');
    const at100 = iec?.rows[2];
    printed(at100?.innerV, '388.27');
    printed(at100?.coreW, '157.92');
    printed(at100?.frictionW, '63.28');
    printed(at100?.rawStrayW, '132.16');
    printed(iec?.losses.frictionW, '67.88');
  });
  it('a sensor on the shaft needs no correction; plain output over input at 100 % is 88.93 %', () => {
    const { dynamometer, ...bare } = QUESTION;
    expect(dynamometer).toBeDefined();
    expect(efficiencyBy('B', bare)?.torqueCorrectionNm).toBe(0);
    printed((100 * (b?.rows[2]?.outW ?? 0)) / 8494.6, '88.93');
  });
  it('one bad torque is left out of the line, its row stays; two make it unsatisfactory', () => {
    const bad = (at: number[], nm: number) => ({
      ...QUESTION,
      load: LOAD.map((p, i) => (at.includes(i) ? { ...p, torqueNm: p.torqueNm + nm } : p)),
    });
    for (const method of ['B', '2-1-1B'] as const) {
      const one = efficiencyBy(method, bad([3], 1.5));
      expect(one?.rows.map((r) => r.dropped)).toEqual([false, false, false, true, false, false]);
      expect(one?.unsatisfactory).toBeUndefined();
      expect(one?.stray.r).toBeGreaterThan(0.999);
      expect(efficiencyBy(method, bad([1, 3], 1.5))?.unsatisfactory).toMatch(/correlation of .* is wanted/);
    }
    // a torque that reads too little throughout, more so at high load: the losses seem to fall
    const falling = { ...QUESTION, load: LOAD.map((p) => ({ ...p, torqueNm: p.torqueNm * 1.05 })) };
    expect(efficiencyBy('B', falling)?.unsatisfactory).toBeDefined();
  });
  it('the order of the points changes nothing; a point outside the curve of core losses gives none', () => {
    const turned = efficiencyBy('B', { ...QUESTION, load: LOAD.toReversed(), noLoad: NO_LOAD.toReversed() });
    expect(turned?.stray.slope).toBeCloseTo(b?.stray.slope ?? NaN, 12);
    expect(atOutput(turned?.rows ?? [], 7500, (r) => r.efficiency)).toBeCloseTo(
      atOutput(b?.rows ?? [], 7500, (r) => r.efficiency) ?? NaN,
      12,
    );
    expect(atOutput(b?.rows ?? [], 9381, (r) => r.efficiency)).toBeUndefined();
    expect(atOutput(b?.rows ?? [], 1926, (r) => r.efficiency)).toBeUndefined();
    expect(efficiencyBy('B', { ...QUESTION, noLoad: NO_LOAD.slice(2) })).toBeUndefined();
    expect(innerVoltage(400, 1e-9, 0, 1)).toBeCloseTo(400, 6);
  });
  it('the calculation judges against the plate, by the method that is asked for', () => {
    const run = (x: object) => worked(loadTest, { ...QUESTION, outputW: 7500, ...x });
    expect(run({})).toMatchObject({
      verdict: 'pass',
      efficiencyPercent: expect.closeTo(89.0721, 3),
      reason: expect.stringMatching(
        /^Efficiency 89\.07 %, power factor 0\.8\d+ at 7\.5 kW \(method 2-1-1B, correlation 0\.9994\)\.$/,
      ),
      methods: [{ method: 'B' }, { method: '2-1-1B' }],
    });
    expect(run({ method: 'B' })['efficiencyPercent']).toBeCloseTo(89.0113, 3);
    // 0.9 declared: accepted down to 0.885; 0.91: to 0.8965
    expect(run({ declaredEfficiency: 0.9 })).toMatchObject({
      verdict: 'pass',
      reason: expect.stringMatching(/below declared, inside tolerance\.$/),
    });
    expect(run({ declaredEfficiency: 0.91 })).toMatchObject({
      verdict: 'fail',
      reason: expect.stringMatching(/^Declared efficiency 91 %, accepted down to 89\.65 % .*: 89\.07 % is below/),
    });
    expect(run({ declaredEfficiency: 0.88 })['reason']).not.toMatch(/inside tolerance/);
    expect(run({ outputW: 9500 })).toMatchObject({
      verdict: 'cannot judge',
      reason: expect.stringMatching(/do not reach/),
    });
    expect(run({ outputW: undefined })['verdict']).toBe('cannot judge');
    expect(run({ load: LOAD.slice(0, 2) })).toMatchObject({
      verdict: 'cannot judge',
      reason: expect.stringMatching(/^2 points under load; at least three/),
    });
    expect(run({ poles: undefined })['verdict']).toBe('cannot judge');
    expect(run({ noLoad: NO_LOAD.slice(2) })).toMatchObject({ verdict: 'cannot judge', methods: [] });
    const bad = LOAD.map((p, i) => (i === 3 ? { ...p, torqueNm: 38.42 } : p));
    expect(run({ load: bad })['reason']).toMatch(
      / Point 4 \(38\.6 N m\) is left out of the line: it lies furthest from it\.$/,
    );
    const worse = LOAD.map((p, i) => (i === 3 || i === 1 ? { ...p, torqueNm: p.torqueNm + 1.5 } : p));
    expect(run({ load: worse })).toMatchObject({
      verdict: 'cannot judge',
      reason: expect.stringMatching(/Find the instrument error/),
    });
  });
});
