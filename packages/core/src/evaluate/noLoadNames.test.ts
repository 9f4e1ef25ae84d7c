import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { carterFactor, ironFactor, magnetizingCurrent } from '../machine/noLoadCurrent.ts';
import { noLoadNames, sayNoLoadNames } from './noLoadNames.ts';
import { noLoadRun } from './noLoadRun.ts';

/** The worked machine M1 of the winding reference, section 7. */
const M1 = {
  airGapT: 0.889,
  toothT: 1.751,
  gapM: 0.0004,
  boreM: 0.15,
  slots: 36,
  openingM: 0.0026,
  poles: 4,
  seriesTurns: 204,
  windingFactor: 0.9452,
};

describe('expected no-load current (winding reference 7.2)', () => {
  it('M1 with a gap of 0.4 and openings of 2.6 mm: k_C 1.1265, k_s 1.434, 3.51 A a phase, 6.08 A line', () => {
    const made = magnetizingCurrent(M1);
    expect(made?.carter).toBeCloseTo(1.1265, 3);
    expect(made?.iron).toBeCloseTo(1.434, 2);
    expect(made?.phaseA).toBeCloseTo(3.51, 2);
    expect((made?.phaseA ?? 0) * Math.sqrt(3)).toBeCloseTo(6.08, 1);
  });
  it.each([
    [1.2, 1.2],
    [1.5, 1.2],
    [1.6, 1.275],
    [1.7, 1.35],
    [1.85, 1.6],
    [1.95, 2],
  ])('iron at %d T: %d', (tesla, factor) => expect(ironFactor(tesla)).toBeCloseTo(factor, 9));
  it('above 1.95 T there is no figure', () => {
    expect(ironFactor(1.951)).toBeUndefined();
    expect(magnetizingCurrent({ ...M1, toothT: 1.96 })).toBeUndefined();
  });
  it('slots without an opening leave the gap as it is', () => expect(carterFactor(0.013, 0, 0.0004)).toBe(1));
});

describe('a no-load current far off is named (tests reference 7.3)', () => {
  const star = 'star instead of delta';
  const series = 'series instead of parallel';
  const delta = 'delta instead of star';
  const parallel = 'parallel instead of series';
  it('C77 2.05 A of 6.3 A: star instead of delta', () => expect(noLoadNames(2.05 / 6.3)[0]).toBe(star));
  it.each([
    [0.149, []],
    [0.15, [series, star]],
    [0.269, [series, star]],
    [0.27, [star, series]],
    [0.33, [star, series]],
    [0.331, [star]],
    [0.4, [star]],
    [0.401, []],
    [2.49, []],
    [2.5, [delta, parallel]],
    [3.5, [delta, parallel]],
    [3.501, [parallel, delta]],
  ])('ratio %d: %j', (ratio, names) => expect(noLoadNames(ratio)).toEqual(names));

  it('from 2.5 times on: stop', () => {
    expect(sayNoLoadNames(2.5, 'as found')).toMatch(
      /^ Delta instead of star \(likely\), or parallel.*Stop; do not repeat/,
    );
    expect(sayNoLoadNames(2.499, 'as found')).toBe(
      ' High: too few turns, wrong connection, overvoltage or a large gap.',
    );
    expect(sayNoLoadNames(0.4, 'this winding and its gap')).toMatch(/^ Star instead of delta\. The line resistance/);
    expect(sayNoLoadNames(0.9, 'as found')).toMatch(/^ Low:/);
  });
  const run = (amps: number, more: object = {}) =>
    worked(noLoadRun, {
      voltsV: [400, 400, 400],
      ampsA: [amps, amps, amps],
      ratedV: 400,
      ratedA: 22,
      ratedW: 11000,
      poles: 4,
      ...more,
    });
  it('against this winding and its gap the band is 25 %, met by equality', () => {
    const of = (share: number) => run(6.08 * share, { expectedA: 6.08 }).verdict;
    expect([of(1.25), of(1.251), of(0.75), of(0.749)]).toEqual(['pass', 'attention', 'pass', 'attention']);
  });
  it('its own winding is believed before the usual share', () => {
    const judged = run(4, { expectedA: 4.2 });
    expect(judged.verdict).toBe('pass');
    expect(judged.toExpected).toBeCloseTo(0.952, 3);
  });
  it('without a gap the middle of the usual band is taken and the name is only likely', () => {
    expect(run(2.6).reason).toMatch(/Star instead of delta \(likely\).*3 times the plan is star for delta/);
    expect(run(2.6, { expectedA: 7.7 }).reason).toMatch(/Star instead of delta, or|Star instead of delta\./);
    expect(run(2.6, { asFoundA: 7.7 }).reason).toMatch(/\(likely\)/);
  });
  it('far too much: stop, do not repeat at full voltage', () => {
    expect(run(20, { expectedA: 6.08 }).reason).toMatch(/Delta instead of star, or parallel.*Stop; do not repeat/);
    expect(run(10.5, { expectedA: 6.08 }).reason).not.toMatch(/Stop/);
  });
  it.each([
    [0.25, 'pass'],
    [0.249, 'attention'],
    [0.45, 'pass'],
    [0.451, 'attention'],
  ] as const)('share %d of rated, 4 poles: %s', (share, verdict) => expect(run(22 * share).verdict).toBe(verdict));
});
