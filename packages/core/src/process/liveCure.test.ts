import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { draws } from '../../../../scripts/testing/draws.ts';
import { processCure, resinSchema } from './cure.ts';
import { cureNow, cureNowOf, followCure, liveBegun, type LiveSetUp } from './liveCure.ts';

const resin = resinSchema.parse({ name: 'r', ratedC: 130, ratedH: 4 });
const setUp = (more: Partial<LiveSetUp> = {}): LiveSetUp => ({
  channels: [
    { name: 'winding', role: 'part' },
    { name: 'core', role: 'part' },
    { name: 'air', role: 'oven air' },
  ],
  resin,
  maxC: 150,
  maxGapMin: 20,
  overBakeDegree: 3,
  school: 'equivalent time',
  holdToleranceK: 0,
  ...more,
});
type Row = readonly [number, ...(number | null)[]];
const followed = (rows: readonly Row[], of = setUp()) => {
  const state = liveBegun(of);
  for (const [t, ...values] of rows) followCure(state, of, t, values);
  return state;
};
const now = (rows: readonly Row[], of = setUp(), at?: number) => cureNow(followed(rows, of), of, at);
/** Two parts that follow the air, by small steps. */
const bake = (
  minutes: number,
  o: { air?: (t: number) => number; every?: number; lags?: [number, number] } = {},
): Row[] => {
  const { air = (t) => Math.min(140, 25 + 4 * t), every = 5, lags = [30, 55] } = o;
  const c = [25, 25];
  const out: Row[] = [[0, 25, 25, air(0)]];
  for (let t = 1; t <= minutes; t++) {
    lags.forEach((lag, i) => (c[i] = (c[i] ?? 0) + (air(t - 0.5) - (c[i] ?? 0)) / lag));
    if (t % every === 0) out.push([t, c[0] ?? 0, c[1] ?? 0, air(t)]);
  }
  return out;
};

const temperature = fc.double({ min: 20, max: 160, noNaN: true });
const rows = fc
  .array(
    fc.record({
      step: fc.constantFrom(5, 5, 5, 5, 10, 60),
      a: fc.oneof(
        { weight: 6, arbitrary: temperature },
        { weight: 1, arbitrary: fc.constant(null) },
        { weight: 2, arbitrary: fc.constant(131) },
      ),
      b: fc.oneof({ weight: 8, arbitrary: temperature }, { weight: 1, arbitrary: fc.constant(null) }),
      air: temperature,
    }),
    { minLength: 2, maxLength: 60 },
  )
  .map((list) => {
    let t = 0;
    return list.map(({ step, a, b, air }): Row => [(t += step), a, b, air]);
  });

describe('a load followed while it runs', () => {
  it('says the same as the judgement of the whole log afterwards, in both schools', () =>
    fc.assert(
      fc.property(
        rows,
        fc.constantFrom('equivalent time', 'hold only'),
        fc.func(fc.boolean()),
        (list, school, byHand) => {
          const of = setUp({ school, typedGapMin: 45 });
          const typed = list.map(([t]) => byHand(t));
          const state = liveBegun(of);
          list.forEach(([t, ...values], i) => followCure(state, of, t, values, typed[i]));
          const live = cureNow(state, of);
          const after = processCure.compute({
            timesMin: list.map(([t]) => t),
            channels: of.channels.map((c, i) => ({ ...c, valuesC: list.map((r) => r[i + 1] ?? null) })),
            resin,
            maxC: 150,
            maxGapMin: 20,
            overBakeDegree: 3,
            aboveRatedK: 20,
            school,
            holdToleranceK: 0,
            typedAtMin: list.flatMap(([t], i) => (typed[i] ? [t] : [])),
            typedGapMin: 45,
          } as never);
          expect(live.verdict).toBe(after.processVerdict);
          expect(live.schools).toEqual(after.schools);
          after.channels
            .filter((c) => c.role === 'part')
            .forEach((c, i) => {
              expect(live.parts[i]?.degree).toBeCloseTo(c.degree ?? 0, 9);
              expect(live.parts[i]?.heldMin).toBeCloseTo(c.longestAtRatedMin ?? 0, 9);
              expect(live.parts[i]?.totalMin).toBeCloseTo(c.minutesAtRated ?? 0, 9);
            });
        },
      ),
      { numRuns: draws(300) },
    ));
  it('typed readings may lie further apart than those of the logger, up to the limit', () => {
    const of = setUp({ typedGapMin: 45 });
    const held = (step: number, typed: [boolean, boolean]) => {
      const state = liveBegun(of);
      followCure(state, of, 0, [130, 130, 140], typed[0]);
      followCure(state, of, step, [130, 130, 140], typed[1]);
      return cureNow(state, of).parts[0]?.heldMin;
    };
    expect(held(20, [false, false])).toBe(20);
    expect(held(20.1, [false, false])).toBe(0);
    expect(held(45, [false, true])).toBe(45);
    expect(held(45, [true, false])).toBe(45);
    expect(held(45.1, [true, true])).toBe(0);
  });
  it('each part of a load is judged on the channels that are its own', () => {
    const of = setUp();
    const state = followed(bake(400, { lags: [20, 300], air: (t) => Math.min(140, 25 + 4 * t) + (t % 20) / 10 }), of);
    const [quick, slow] = [cureNowOf(state, of, [0]), cureNowOf(state, of, [1])];
    expect(quick.verdict).toBe('cured');
    expect(slow.verdict).toBe('under_cured');
    expect(quick.parts.map((p) => p.name)).toEqual(['winding']);
    expect(cureNowOf(state, of, []).alarms.map((a) => a.code)).toContain('air_only');
  });
  it('cure never falls', () =>
    fc.assert(
      fc.property(rows, (list) => {
        const of = setUp();
        const state = liveBegun(of);
        let before = [0, 0];
        for (const [t, ...values] of list) {
          followCure(state, of, t, values);
          const is = state.parts.map((p) => p.degree);
          is.forEach((d, i) => expect(d).toBeGreaterThanOrEqual(before[i] ?? 0));
          before = is;
        }
      }),
      { numRuns: draws(100) },
    ));
  it('more heat is never less cure', () =>
    fc.assert(
      fc.property(rows, fc.double({ min: 0, max: 30, noNaN: true }), (list, more) => {
        const warmer = list.map(([t, a, b, air]): Row => [
          t,
          a === null ? null : (a ?? 0) + more,
          b === null ? null : (b ?? 0) + more,
          air ?? 0,
        ]);
        now(list).parts.forEach((p, i) =>
          expect(now(warmer).parts[i]?.degree ?? 0).toBeGreaterThanOrEqual(p.degree - 1e-12),
        );
      }),
      { numRuns: draws(100) },
    ));
  it('a gap is never credited: up to the longest step allowed it counts, beyond it does not', () => {
    const over = (gap: number) =>
      now([
        [0, 130, 130, 140],
        [gap, 130, 130, 140],
      ]);
    expect(over(20).parts[0]?.degree).toBeCloseTo(20 / 240, 12);
    expect(over(20.1).parts[0]?.degree).toBe(0);
  });
  it('what is kept does not grow, and is plain data', () => {
    const size = (minutes: number) => JSON.stringify(followed(bake(minutes, { every: 1 }))).length;
    expect(size(3000)).toBeLessThan(1.5 * size(200));
    const of = setUp();
    const state = followed(bake(200), of);
    const again = JSON.parse(JSON.stringify(state)) as typeof state;
    for (const p of again.parts) expect(p.degree).toBe(state.parts[again.parts.indexOf(p)]?.degree);
  });
  it('a clock that goes back is left out and counted', () => {
    const state = followed([
      [10, 130, 130, 140],
      [5, 20, 20, 20],
      [10, 20, 20, 20],
      [15, 130, 130, 140],
    ]);
    expect(state).toMatchObject({ late: 2, rows: 2, t: 15 });
    expect(state.parts[0]?.degree).toBeCloseTo(5 / 240, 12);
  });
});

describe('what is shown of it', () => {
  it('the slowest part is named, and both figures of what is left, forecast from the fitted lag', () => {
    const is = now(bake(100));
    expect(is.coldest?.name).toBe('core');
    expect(Math.abs((is.coldest?.lag?.lagMin ?? 0) - 55)).toBeLessThan(1);
    expect(is.left.forecastMin).toBeGreaterThan(100);
    // the rest of the same bake tells how far off it was
    let t = 100;
    while (now(bake(t)).verdict !== 'cured') t += 5;
    expect(Math.abs(t - 100 - (is.left.forecastMin ?? 0))).toBeLessThan(8);
  });
  it('no forecast before five readings', () => {
    expect(now(bake(15)).coldest?.lag).toBeUndefined();
    expect(now(bake(15)).left).toMatchObject({ simpleMin: undefined, forecastMin: undefined });
    expect(now([]).left.why).toBe('No part is read yet.');
  });
  it('silence freezes the figure and says so', () => {
    const list = bake(100);
    expect(now(list, setUp(), 119).left.forecastMin).toBeDefined();
    const silent = now(list, setUp(), 121);
    expect(silent.left).toEqual({
      simpleMin: undefined,
      forecastMin: undefined,
      why: 'Nothing comes: the figure stands still.',
    });
    expect(silent.alarms.map((a) => a.code)).toEqual(['gap']);
    expect(silent.alarms[0]?.says).toMatch(/for 21 min/);
  });
  it('too hot to touch until 45 °C, with the time by its lag', () => {
    const is = now(bake(200));
    expect(is.hotC).toBeGreaterThan(130);
    // the slower part decides: from 138 °C to 45 °C in 25 °C with a lag of 55 min
    expect(is.touchMin).toBeGreaterThan(55 * Math.log((is.coldest?.c ?? 0) - 25) - 55 * Math.log(20) - 3);
    expect(
      now([
        [0, 45, 30, 25],
        [5, 45, 30, 25],
      ]).hotC,
    ).toBeUndefined();
  });
});

describe('alarms', () => {
  const codes = (list: readonly Row[], of = setUp(), at?: number) => now(list, of, at).alarms.map((a) => a.code);
  it('none in a sound bake', () => {
    for (let t = 10; t <= 400; t += 10) expect(codes(bake(t), setUp(), t)).toEqual([]);
  });
  it.each([
    [150, []],
    [150.1, ['over_temperature']],
  ])('a part at %d °C', (c, wanted) => expect(codes([...bake(100), [105, c, 120, 140]])).toEqual(wanted));
  it('air only', () =>
    expect(
      codes(
        bake(50),
        setUp({
          channels: [
            { name: 'a', role: 'oven air' },
            { name: 'b', role: 'not used' },
            { name: 'c', role: 'oven air' },
          ],
        }),
      ),
    ).toEqual(['air_only']));
  it.each([
    ['29 min still', 29, []],
    ['30 min still', 30, ['stuck']],
  ])('a sensor %s while the others move', (_, minutes, wanted) => {
    const list = bake(60, { every: 1 }).map((r): Row =>
      r[0] > 60 - minutes - 0.5 ? [r[0], 61.2, r[2] ?? 0, r[3] ?? 0] : r,
    );
    expect(codes(list)).toEqual(wanted);
  });
  it('a hold that is flat everywhere is none', () =>
    expect(codes(Array.from({ length: 60 }, (_, i): Row => [i, 131, 131, 132]))).toEqual([]));
  it('a sensor that fell off: it falls while the air stays hot', () => {
    const list = bake(150);
    expect(codes([...list, [155, 90, 128, 140]])).toEqual(['fell_off']);
  });
  it('a door that opens: the air falls at once, and the falling parts are no fault of their own', () => {
    const list = bake(150);
    expect(codes([...list, [155, 124, 122, 127]])).toEqual(['door_opened']);
    expect(codes([...list, [155, 133, 127, 128.1]])).toEqual([]);
  });
  it('too slow to heat: after four hours cooler than it must be, and hardly rising', () => {
    const cool = { air: () => 110 };
    expect(codes(bake(235, cool))).toEqual([]);
    expect(codes(bake(260, cool))).toEqual(['too_slow']);
  });
});
