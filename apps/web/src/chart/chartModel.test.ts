import { describe, expect, it } from 'vitest';
import {
  heightOf,
  moved,
  nearest,
  placesOf,
  stepped,
  ticksApart,
  wholeWindow,
  zoomed,
  type ChartSeries,
} from './chartModel.ts';

const series = (points: [number, number][]): ChartSeries => ({
  key: 'a',
  label: 'a',
  shape: 'line',
  look: 'main',
  points: points.map(([x, y]) => ({ x, y })),
});

describe('the window of a chart', () => {
  it('holds everything with a little air; nothing and one point too', () => {
    expect(
      wholeWindow([
        series([
          [0, 1],
          [100, 2],
        ]),
      ]),
    ).toEqual([-3, 103]);
    expect(wholeWindow([])).toEqual([0, 1]);
    const [a, b] = wholeWindow([series([[5, 1]])]);
    expect(a).toBeLessThan(5);
    expect(b).toBeGreaterThan(5);
  });
  it('is as high as what is shown in it, with its limits; a gap is no height', () => {
    const s = series([
      [0, 0],
      [5, NaN],
      [10, 10],
      [20, 500],
    ]);
    expect(heightOf([s], [], [0, 10])).toEqual([-0.8, 10.8]);
    expect(heightOf([s], [{ label: 'l', value: 100, role: 'bad' }], [0, 10])).toEqual([-8, 108]);
    const [low, high] = heightOf([series([[0, 7]])], [], [0, 1]);
    expect(low < 7 && high > 7).toBe(true);
  });
  it('zooms about a place, stays inside the whole and does not become nothing', () => {
    expect(zoomed([0, 100], [0, 100], 0.5, 25)).toEqual([12.5, 62.5]);
    expect(zoomed([0, 50], [0, 100], 4, 0)).toEqual([0, 100]);
    expect(zoomed([80, 100], [0, 100], 2, 100)).toEqual([60, 100]);
    const [a, b] = zoomed([50, 50.1], [0, 100], 0.001, 50);
    expect(b - a).toBeCloseTo(0.1, 9);
  });
  it('moves by its share and stops at the ends', () => {
    expect(moved([10, 20], [0, 100], 0.5)).toEqual([15, 25]);
    expect(moved([10, 20], [0, 100], -5)).toEqual([0, 10]);
    expect(moved([85, 95], [0, 100], 5)).toEqual([90, 100]);
  });
});

describe('the cursor of a chart', () => {
  const places = placesOf([
    series([
      [0, 1],
      [10, 1],
    ]),
    series([
      [5, 1],
      [10, 2],
    ]),
  ]);
  it('steps over every place where something stands', () => {
    expect(places).toEqual([0, 5, 10]);
    expect([stepped(places, undefined, 1), stepped(places, undefined, -1)]).toEqual([0, 10]);
    expect([stepped(places, 0, 1), stepped(places, 5, 1), stepped(places, 10, 1)]).toEqual([5, 10, 10]);
    expect([stepped(places, 10, -1), stepped(places, 7, -1), stepped(places, 0, -1)]).toEqual([5, 5, 0]);
    expect(stepped([], 3, 1)).toBeUndefined();
  });
  it('says the nearest point', () => {
    const { points } = series([
      [0, 1],
      [10, 2],
      [30, 3],
    ]);
    expect([nearest(points, 4)?.y, nearest(points, 6)?.y, nearest(points, 99)?.y, nearest([], 1)]).toEqual([
      1,
      2,
      3,
      undefined,
    ]);
  });
});

describe('what stands beside the ticks', () => {
  const say = (v: number, digits = 3) => `${Number(v.toPrecision(digits))} Ω`;
  it('keeps its figures where they tell the ticks apart, and takes more where they do not', () => {
    expect(ticksApart([1, 1.5, 2], say)).toEqual(['1 Ω', '1.5 Ω', '2 Ω']);
    expect(ticksApart([2.04, 2.041, 2.042], say)).toEqual(['2.04 Ω', '2.041 Ω', '2.042 Ω']);
    expect(ticksApart([2.0401, 2.04015], say)).toEqual(['2.0401 Ω', '2.0402 Ω']);
    // a saying without figures stays as it is
    expect(ticksApart([1, 2], () => 'x')).toEqual(['x', 'x']);
    expect(ticksApart([], say)).toEqual([]);
  });
});
