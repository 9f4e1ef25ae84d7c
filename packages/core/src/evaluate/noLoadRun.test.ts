import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { judgeBearings } from './bearings.ts';
import {
  deratingFactor,
  negativeSequencePercent,
  noLoadHighTest,
  noLoadLowTest,
  noLoadRun,
  noLoadRunTest,
  usualNoLoadShare,
} from './noLoadRun.ts';
import { currentAt } from './ratedAt.ts';

type Three = [number, number, number];
const plate = { ratedV: 400, ratedA: 20, ratedW: 7500, poles: 4 };
const run = (more: object = {}) => worked(noLoadRun, { voltsV: [400, 400, 400], ampsA: [7, 7, 7], ...plate, ...more });
/** three readings with this unbalance per cent: mean 100, one off by it */
const uneven = (mean: number, percent: number): Three => [
  mean * (1 + percent / 100),
  mean * (1 - percent / 200),
  mean * (1 - percent / 200),
];

describe('no-load run: each rule just inside, at and just outside', () => {
  it.each([
    // unbalance of currents, no share of the supply
    [{ ampsA: uneven(7, 10) }, 'pass', /Current unbalance 10 %, at most 10 % \(common practice\), at 0 % voltage/],
    [{ ampsA: uneven(7, 10.1) }, 'attention', /Current unbalance 10\.1 %, up to 20 %/],
    [{ ampsA: uneven(7, 20) }, 'attention', /Current unbalance 20 %, up to 20 %/],
    [{ ampsA: uneven(7, 20.1) }, 'fail', /Current unbalance 20\.1 %, above 20 %/],
    [{ ampsA: uneven(7, 12), limits: { 'noLoad.currentPassPercent': 12 } }, 'pass', /at most 12 %/],
    [{ ampsA: uneven(7, 12), limits: { 'noLoad.currentFailPercent': 11 } }, 'fail', /above 11 %/],
    // what the supply explains: 1.5 · u · 6 · 20 / 7 per cent
    [
      { voltsV: uneven(400, 0.5), ampsA: uneven(7, 12.8) },
      'cannot judge',
      /supply's 0\.5 % alone could make 12\.9 %: run with the leads rotated/,
    ],
    [{ voltsV: uneven(400, 0.5), ampsA: uneven(7, 12.9) }, 'attention', /up to 20 %/],
    [{ voltsV: uneven(400, 0.5), ampsA: uneven(7, 12.8), ratedA: undefined }, 'attention', /up to 20 %/],
    [{ voltsV: uneven(400, 0.5), ampsA: uneven(7, 12.8), lockedRotorRatio: 5 }, 'attention', /up to 20 %/],
    [{ voltsV: uneven(400, 0.5), ampsA: uneven(7, 9) }, 'pass', /at 0\.5 % voltage unbalance/],
    // unbalance of voltages
    [{ voltsV: uneven(400, 1) }, 'pass', /at most 10 %/],
    [{ voltsV: uneven(400, 1.01) }, 'attention', /Voltage unbalance 1\.01 %: derate to 0\.99/],
    [{ voltsV: uneven(400, 3) }, 'attention', /Voltage unbalance 3 %: derate to 0\.88/],
    [{ voltsV: uneven(400, 5) }, 'attention', /derate to 0\.75/],
    [{ voltsV: uneven(400, 5.01) }, 'cannot judge', /is above 5 % \(NEMA MG 1\): stop, mend the supply first/],
    [{ voltsV: uneven(400, 2), limits: { 'noLoad.voltageStopPercent': 1.9 } }, 'cannot judge', /above 1\.9 %/],
    [{ voltsV: uneven(400, 2), limits: { 'noLoad.voltageAttentionPercent': 2 } }, 'pass', /at most/],
    // readings that are none
    [{ voltsV: undefined }, 'cannot judge', /^Three line voltages and three currents are needed\.$/],
    [{ ampsA: undefined }, 'cannot judge', /^Three line voltages and three currents are needed\.$/],
    [{ voltsV: [400, 400, 0] }, 'cannot judge', /^Voltages and currents must be above zero/],
    [{ ampsA: [7, 7, 0] }, 'cannot judge', /^Voltages and currents must be above zero/],
    [{ ampsA: [0, 0, 0] }, 'cannot judge', /^Voltages and currents must be above zero/],
    [{ voltsV: [400, 100, 100] }, 'cannot judge', /^The three voltages form no triangle/],
    // how large the current is
    [{ ampsA: [5, 5, 5] }, 'pass', /Mean current 5 A, 0\.25 of rated; 0\.25 to 0\.45 is usual for 4 poles/],
    [{ ampsA: [4.99, 4.99, 4.99] }, 'attention', /Low: look at the connection first/],
    [{ ampsA: [9, 9, 9] }, 'pass', /0\.45 of rated/],
    [{ ampsA: [9.01, 9.01, 9.01] }, 'attention', /High: too few turns/],
    [{ ampsA: [4, 4, 4], poles: undefined }, 'pass', /^Current unbalance[^;]*$/],
    [{ ampsA: [4, 4, 4], ratedA: undefined }, 'pass', /^Current unbalance[^;]*$/],
    [{ ampsA: [4, 4, 4], ratedA: undefined, expectedA: 4 }, 'pass', /Mean current 4 A; 4 A expected from this winding/],
    [{ ampsA: [15, 15, 15], ratedW: 999 }, 'pass', /0\.25 to 0\.85 is usual/],
    [{ ampsA: [15, 15, 15], ratedW: 1000 }, 'attention', /0\.25 to 0\.45 is usual/],
    // the voltage it ran at
    [{ voltsV: [380, 380, 380] }, 'pass', /0\.35 of rated/],
    [{ voltsV: [379, 379, 379] }, 'cannot judge', /Run at 379 V; within 5 % of 400 V is needed/],
    [{ voltsV: [420, 420, 420] }, 'pass', /0\.35 of rated/],
    [{ voltsV: [421, 421, 421] }, 'cannot judge', /Run at 421 V/],
    [{ voltsV: [300, 300, 300], ratedV: undefined }, 'pass', /0\.35 of rated/],
    [{ voltsV: [300, 300, 300], ratedA: undefined }, 'pass', /at most/],
    [{ voltsV: [430, 430, 430], limits: { 'noLoad.voltageOffPercent': 8 } }, 'pass', /0\.35 of rated/],
    // what was found at intake
    [{ ampsA: [3, 3, 3], asFoundA: 9 }, 'attention', /Star instead of delta \(likely\)/],
    [{ ampsA: [3, 3, 3], asFoundA: 5 }, 'attention', /Low: look at the connection first/],
    [{ calibrationExpired: true }, 'attention', /out of calibration/],
    [{ vibrationMmS: 1.3, shaftHeightMm: 100 }, 'pass', /Vibration 1\.3 mm\/s/],
    [{ vibrationMmS: 1.4, shaftHeightMm: 100 }, 'attention', /Vibration 1\.4 mm\/s/],
    [{ vibrationMmS: 1.4, shaftHeightMm: 100, mounting: 'free' }, 'pass', /free mounting/],
    [{ vibrationMmS: 1, shaftHeightMm: 160, vibrationGrade: 'B' }, 'fail', /grade B/],
    [{ bearingOtherC: 66, ambientC: 25 }, 'attention', /Opposite-end bearing 66 °C, 41 K above the air/],
  ] as const)('%j: %s', (more, verdict, reason) => {
    const x = run(more);
    expect([x.verdict, x.reason]).toEqual([verdict, expect.stringMatching(reason)]);
  });
  it('figures by hand', () => {
    const x = run({ voltsV: [400, 396, 404], ampsA: [6, 7, 8] });
    expect(x.voltageUnbalancePercent).toBeCloseTo(1, 9);
    expect(x.currentUnbalancePercent).toBeCloseTo(100 / 7, 9);
    expect(x.explainableBySupplyPercent).toBeCloseTo((1.5 * 1 * 6 * 20) / 7, 9);
    expect(x.currentShare).toBeCloseTo(0.35, 9);
    expect(x.derating).toBeUndefined();
    expect(run({ voltsV: uneven(400, 2) }).derating).toBeCloseTo(0.95, 9);
    expect(run({ ratedA: undefined })).not.toHaveProperty('explainableBySupplyPercent');
    const own = run({ expectedA: 8 });
    expect([own.expectedA, own.toExpected]).toEqual([8, expect.closeTo(0.875, 9)]);
    // the middle of 0.25 and 0.45 of 20 A is 7 A
    expect(run().toExpected).toBeCloseTo(1, 9);
    expect(run({ asFoundA: 14 }).toExpected).toBeCloseTo(0.5, 9);
    expect(run({ voltsV: [400, 100, 100] }).voltageUnbalancePercent).toBeCloseTo(100, 9);
    expect(run({ voltsV: uneven(400, 6) }).voltageUnbalancePercent).toBeCloseTo(6, 9);
  });
  it('the band round its own current is the shop’s', () => {
    const of = (amps: number, limits: object = {}) => run({ ampsA: [amps, amps, amps], expectedA: 8, limits }).verdict;
    expect([of(10), of(10.1), of(6), of(5.9)]).toEqual(['pass', 'attention', 'pass', 'attention']);
    expect(of(8.9, { 'noLoad.expectedBandPercent': 10 })).toBe('attention');
  });
});

describe('the parts of a no-load run', () => {
  it('negative sequence from three magnitudes (IEC, derived)', () => {
    // one line 4 short of 400: about two thirds of the deviation of 1 % each way
    expect(negativeSequencePercent(400, 396, 404)).toBeCloseTo(1.1549, 3);
    expect(negativeSequencePercent(400, 400, 400)).toBeCloseTo(0, 6);
    // a flat triangle is all negative sequence; beyond it there is none
    expect(negativeSequencePercent(200, 100, 100)).toBeCloseTo(100, 4);
    expect(negativeSequencePercent(201, 100, 100)).toBeUndefined();
  });
  it.each([
    [0, 1],
    [1, 1],
    [1.5, 0.975],
    [2, 0.95],
    [2.5, 0.915],
    [3, 0.88],
    [4, 0.82],
    [4.5, 0.785],
    [5, 0.75],
    [5.01, undefined],
  ])('derating at %d %%: %s', (percent, factor) => {
    const got = deratingFactor(percent);
    if (factor === undefined) expect(got).toBeUndefined();
    else expect(got).toBeCloseTo(factor, 9);
  });
  it.each([
    [2, 7500, [0.2, 0.35]],
    [4, 7500, [0.25, 0.45]],
    [6, 7500, [0.3, 0.5]],
    [8, 7500, [0.35, 0.6]],
    [10, 7500, [0.4, 0.7]],
    [2, 999, [0.2, 0.85]],
    [2, 1000, [0.2, 0.35]],
  ] as const)('usual share with %d poles, %d W: %j', (poles, watts, share) =>
    expect(usualNoLoadShare(poles, watts)).toEqual(share),
  );
  it.each([
    [65, 25, 'pass', 40],
    [65.1, 25, 'attention', 40.1],
    [75, 25, 'attention', 50],
    [75.1, 25, 'fail', 50.1],
    [90, 60, 'pass', 30],
    [90.1, 60, 'fail', 30.1],
    [90, undefined, 'pass', undefined],
    [90.1, undefined, 'fail', undefined],
  ] as const)('a bearing at %d °C in air of %s °C: %s', (bearingDriveC, ambientC, verdict, rise) => {
    const [judged, ...more] = judgeBearings({ bearingDriveC, ambientC, limits: {} });
    expect(more).toEqual([]);
    expect(judged?.verdict).toBe(verdict);
    expect(judged?.reason).toBe(
      `Drive-end bearing ${bearingDriveC} °C${rise === undefined ? '' : `, ${rise} K above the air`}.`,
    );
  });
  it('both bearings, each for itself, by the shop’s limits', () => {
    const x = { bearingDriveC: 70, bearingOtherC: 60, ambientC: 25 };
    expect(judgeBearings({ ...x, limits: {} }).map((j) => j.verdict)).toEqual(['attention', 'pass']);
    expect(judgeBearings({ ...x, limits: { 'noLoad.bearingRisePassK': 45 } })[0]?.verdict).toBe('pass');
    expect(judgeBearings({ ...x, limits: { 'noLoad.bearingRiseAttentionK': 44 } })[0]?.verdict).toBe('fail');
    expect(judgeBearings({ ...x, limits: { 'noLoad.bearingMaxC': 59 } }).map((j) => j.verdict)).toEqual([
      'fail',
      'fail',
    ]);
    expect(judgeBearings({ limits: {} })).toEqual([]);
  });
  it('currents of a two-speed plate: the low speed stands first', () => {
    expect(currentAt([9, 14], 'low')).toBe(9);
    expect(currentAt([9, 14], 'high')).toBe(14);
    expect(currentAt([9], 'high')).toBe(9);
    expect(currentAt([9, 14], 'only')).toBe(9);
    expect(currentAt(undefined, 'high')).toBeUndefined();
  });
});

describe('no-load runs at the bench', () => {
  const context = (more: object) =>
    ({
      nameplate: { voltagesV: [400], currentsA: [9, 14], outputW: 5500, poles: 8, frequencyHz: 50, frame: '160M' },
      record: undefined,
      figures: undefined,
      machine: 'three-phase',
      limits: {},
      ...more,
    }) as never;
  const read = { u12: 400, u23: 401, u31: 399, i1: 5, i2: 6, i3: 7, power: 400, vibration: 1, minutes: 30 };
  it('hands over readings and what the plate says of the speed', () => {
    const input = noLoadRunTest.input?.(
      { ...read, mounting: 'free', vibrationGrade: 'B', ambientC: 20, bearingDrive: 50, bearingOther: 51 },
      context({}),
    );
    expect(input).toEqual({
      voltsV: [400, 401, 399],
      ampsA: [5, 6, 7],
      powerW: 400,
      minutes: 30,
      vibrationMmS: 1,
      shaftHeightMm: 160,
      mounting: 'free',
      vibrationGrade: 'B',
      ambientC: 20,
      bearingDriveC: 50,
      bearingOtherC: 51,
      bearingKind: undefined,
      course: [],
      powerCourse: [],
      ratedV: 400,
      ratedA: expect.any(Number),
      ratedW: 5500,
      poles: 8,
      expectedA: undefined,
    });
    expect(noLoadLowTest.input?.(read, context({}))).toMatchObject({ ratedA: 9, poles: 8 });
    expect(noLoadHighTest.input?.(read, context({}))).toMatchObject({ ratedA: 14, poles: 4 });
    for (const missing of ['u12', 'u23', 'u31'])
      expect(
        noLoadRunTest.input?.({ ...read, [missing]: undefined } as never, context({}))?.['voltsV'],
      ).toBeUndefined();
    for (const missing of ['i1', 'i2', 'i3'])
      expect(noLoadRunTest.input?.({ ...read, [missing]: undefined } as never, context({}))?.['ampsA']).toBeUndefined();
  });
  it('a magnet machine has neither a usual share nor a magnetizing current', () => {
    const input = noLoadRunTest.input?.(read, context({ machine: 'permanent magnet' }));
    expect(input).not.toHaveProperty('poles');
    expect(input).not.toHaveProperty('expectedA');
  });
  it.each([
    ['three-phase', [true, false, false]],
    ['permanent magnet', [true, false, false]],
    ['slip-ring', [true, false, false]],
    ['two-speed', [false, true, true]],
    ['single-phase', [false, false, false]],
  ] as const)('%s: which runs there are', (machine, wanted) => {
    expect(
      [noLoadRunTest, noLoadLowTest, noLoadHighTest].map((t) =>
        t.for?.({ machine: machine as never, record: undefined }),
      ),
    ).toEqual(wanted);
  });
});
