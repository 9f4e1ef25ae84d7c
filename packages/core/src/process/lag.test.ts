import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { draws } from '../../../../scripts/testing/draws.ts';
import { cureLeft } from './countdown.ts';
import { cureRate, resinSchema } from './cure.ts';
import {
  fitLag,
  LAG_READINGS,
  lagOfMassesMin,
  lagOfMassMin,
  lagOfTwoMin,
  minutesTo,
  temperatureAfter,
  temperatureOnRamp,
  type LagReading,
} from './lag.ts';

/** docs/derivations.md 27; process check values C36 to C39, C49. */
describe('a part in an oven as one lump', () => {
  it('C36: 80 kg steel and 12 kg copper at 13.5 W/K lag 51.14 min and reach 130 °C in air of 140 after 127.07 min', () => {
    const lag = lagOfMassesMin(
      [
        { kg: 80, of: 'steel' },
        { kg: 12, of: 'copper' },
      ],
      13.5,
    );
    expect(lag).toBeCloseTo(51.14, 1);
    expect(minutesTo(20, 140, 130, lag)).toBeCloseTo(127.07, 1);
  });
  it('aluminium takes nearly twice the heat of steel', () =>
    expect(lagOfMassesMin([{ kg: 3, of: 'aluminium' }], 1)).toBeCloseTo(45, 9));
  it('C37: air at 2 K/min from 20 to 140 °C, then held: 70.12 °C at 60 min, 118.95 °C at 120 min', () => {
    const atHold = temperatureOnRamp(20, 2, 50, 60);
    expect(atHold).toBeCloseTo(70.12, 1);
    expect(temperatureAfter(atHold, 140, 50, 60)).toBeCloseTo(118.95, 1);
  });
  it('C38: 80 and 110 °C in air of 140, 35 min apart: 50.49 min; from 92 to 250 kg 70.46 min', () => {
    const lag = lagOfTwoMin(140, 80, 110, 35) ?? 0;
    expect(lag).toBeCloseTo(50.49, 1);
    expect(lagOfMassMin(lag, 92, 250)).toBeCloseTo(70.46, 1);
  });
  it('C39: from 360 °C in 25 °C with six hours of lag: 120 °C after 7.56 h, 55.83 K/h at the start', () => {
    expect((minutesTo(360, 25, 120, 360) ?? 0) / 60).toBeCloseTo(7.56, 2);
    expect((360 - temperatureAfter(360, 25, 360, 0.01)) * 6000).toBeCloseTo(55.83, 2);
  });
  it.each([
    ['heating, past it already', 100, 140, 90, 0],
    ['heating, at it', 100, 140, 100, 0],
    ['heating, the air itself', 100, 140, 140, undefined],
    ['heating, beyond the air', 100, 140, 150, undefined],
    ['cooling, past it already', 100, 25, 110, 0],
    ['cooling, the air itself', 100, 25, 25, undefined],
    ['as warm as the air, there', 60, 60, 60, 0],
    ['as warm as the air, elsewhere', 60, 60, 61, undefined],
  ])('%s', (_, part, air, target, wanted) => expect(minutesTo(part, air, target, 50)).toBe(wanted));
  it.each([
    ['they go away from the air', 140, 110, 80, 35],
    ['they stand', 140, 110, 110, 35],
    ['the second is the air', 140, 110, 140, 35],
    ['no time between', 140, 80, 110, 0],
  ])('no lag of two readings where %s', (_, air, a, b, apart) => expect(lagOfTwoMin(air, a, b, apart)).toBeUndefined());
});

const heated = (lag: number, air: (t: number) => number, n: number, every: number, from = 20): LagReading[] => {
  const out: LagReading[] = [{ t: 0, partC: from, airC: air(0) }];
  let c = from;
  // a hundred small steps between readings: not the formula that is tested
  for (let i = 1; i < n; i++) {
    for (let k = 0; k < 100; k++) c += ((air((i - 1 + (k + 0.5) / 100) * every) - c) * every) / 100 / lag;
    out.push({ t: i * every, partC: c, airC: air(i * every) });
  }
  return out;
};
describe('lag fitted on a trace', () => {
  it.each([
    ['still air', 50, () => 140],
    ['air on a ramp', 90, (t: number) => 20 + 1.5 * t],
    ['a light part', 6, () => 160],
    ['a heavy part, air coming up', 400, (t: number) => Math.min(150, 30 + 3 * t)],
  ])('%s', (_, lag, air) => expect(fitLag(heated(lag, air, 24, 5))?.lagMin).toBeCloseTo(lag, lag > 100 ? 0 : 1));
  it('none before five readings, from five on', () => {
    const all = heated(50, () => 140, 8, 10);
    expect(fitLag(all.slice(0, LAG_READINGS - 1))).toBeUndefined();
    expect(fitLag(all.slice(0, LAG_READINGS))?.lagMin).toBeCloseTo(50, 0);
  });
  it('none where the part does not follow: r² below 0.98', () => {
    const wild = heated(50, () => 140, 12, 10).map((r, i) => ({ ...r, partC: r.partC + (i % 2 === 0 ? 14 : -14) }));
    expect(fitLag(wild)).toBeUndefined();
    const near = heated(50, () => 140, 12, 10).map((r, i) => ({ ...r, partC: r.partC + (i % 2 === 0 ? 2 : -2) }));
    expect(fitLag(near)?.r2).toBeGreaterThan(0.98);
  });
  it('none of a part that stands', () => expect(fitLag(heated(50, () => 20, 10, 5))).toBeUndefined());
});

const resin = (more: object) => resinSchema.parse({ name: 'r', ratedC: 135, ratedH: 6, ...more });
describe('time left of a cure', () => {
  it('C49: D 0.42, part 128 °C, air 138 °C, lag 50: simple 339.2 min, forecast 198.4 min', () => {
    const left = cureLeft(resin({ floorC: null }), 155, { degree: 0.42, partC: 128, airC: 138, lag: { lagMin: 50 } });
    expect(left.simpleMin).toBeCloseTo(339.2, 0);
    expect(Math.abs((left.forecastMin ?? 0) - 198.4)).toBeLessThan(0.5);
  });
  it('below the floor nothing is said by the simple rule; the forecast goes on from where the part will be', () => {
    const cold = cureLeft(resin({}), 155, { degree: 0, partC: 60, airC: 138, lag: { lagMin: 50 } });
    expect(cold.simpleMin).toBeUndefined();
    expect(cold.forecastMin).toBeGreaterThan(360);
    expect(cureLeft(resin({}), 155, { degree: 0, partC: 60 })).toEqual({
      simpleMin: undefined,
      forecastMin: undefined,
      why: 'Not curing yet: the part is below its floor.',
    });
  });
  it.each([1, 1.4])('a degree of %d leaves nothing', (degree) =>
    expect(cureLeft(resin({}), 155, { degree, partC: 20, airC: 20, lag: { lagMin: 50 } })).toEqual({
      simpleMin: 0,
      forecastMin: 0,
      why: '',
    }),
  );
  it('air too cold to finish in three days gets no figure', () => {
    const never = cureLeft(resin({}), 155, { degree: 0.2, partC: 90, airC: 100, lag: { lagMin: 50 } });
    expect(never.forecastMin).toBeUndefined();
    expect(never.why).toMatch(/within three days/);
  });
  it('the forecast, followed in small steps, ends at a degree of one', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 0.99, noNaN: true }),
        fc.double({ min: 20, max: 150, noNaN: true }),
        fc.double({ min: 130, max: 150, noNaN: true }),
        fc.double({ min: 5, max: 200, noNaN: true }),
        (degree, partC, airC, lagMin) => {
          const of = resin({});
          const { forecastMin } = cureLeft(of, 155, { degree, partC, airC, lag: { lagMin } });
          expect(forecastMin).toBeGreaterThanOrEqual(0);
          let d = degree;
          const steps = 20000;
          const h = (forecastMin ?? 0) / steps;
          for (let i = 0; i < steps; i++)
            d += (cureRate(temperatureAfter(partC, airC, lagMin, (i + 0.5) * h), 135, of.rate, 120, 155) * h) / 360;
          expect(d).toBeCloseTo(1, 2);
        },
      ),
      { numRuns: draws(40) },
    );
  });
});
