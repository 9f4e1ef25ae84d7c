import { describe, expect, it } from 'vitest';
import { loadedPoints, loadReadings, saidOfPoints } from './loadReadings.ts';
import type { LoadPoint } from './steady.ts';
import { numbers, sameLengths } from './typedLists.ts';

const point = (torqueNm: number, more: Partial<LoadPoint> = {}): LoadPoint => ({
  t: torqueNm,
  volts: 400 + torqueNm / 10,
  amps: 1 + torqueNm / 10,
  watts: 200 * torqueNm,
  torqueNm,
  rpm: 1500 - torqueNm,
  samples: 100,
  ...more,
});

describe('a load sheet from the points of a run', () => {
  it('the highest load first; without load none', () => {
    expect(loadedPoints([point(10), point(0), point(30), point(-1), point(20)]).map((p) => p.torqueNm)).toEqual([
      30, 20, 10,
    ]);
    expect(loadReadings([point(0)])).toEqual({});
  });
  it('every column in that order, the mean of voltage and frequency', () => {
    const of = (hz: number, windingC: number) => ({ hz, windingC });
    expect(loadReadings([point(10, of(50, 60)), point(30, of(50.2, 70))])).toEqual({
      torques: '30; 10',
      amps: '4; 2',
      watts: '6000; 2000',
      speeds: '1470; 1490',
      volts: '402',
      windingsC: '70; 60',
      frequency: '50.1',
    });
  });
  it('temperatures only where each point has one; a frequency where any has', () => {
    const found = loadReadings([point(10, { windingC: 60 }), point(30, { hz: 50 })]);
    expect(found).not.toHaveProperty('windingsC');
    expect(found['frequency']).toBe('50');
    expect(loadReadings([point(10)])).not.toHaveProperty('frequency');
  });
});

describe('what one should know of the points', () => {
  const hz = { hz: 50 };
  const said = (points: LoadPoint[], plate: object = {}) => saidOfPoints(points, plate).join(' ');
  it('nothing of no load', () => {
    expect(saidOfPoints([], {})).toEqual([]);
    expect(saidOfPoints([point(0)], { hz: 50 })).toEqual([]);
  });
  it.each([
    [[10, 20, 30], true],
    [[30, 20, 10], false],
    // one of two steps up is not most of them
    [[20, 30, 10], false],
    [[10, 20], false],
    [[10, 20, 30, 5], false],
    [[10, 20, 30, 40, 5], true],
    // those without load do not count
    [[0, 30, 20], false],
    [[20, 20, 20], false],
  ])('points taken as %j: from the lowest up %s', (torques, is) => {
    expect(said(torques.map((t) => point(t, hz))).includes('from the lowest load up')).toBe(is);
  });
  it('a missing frequency is told; one of any point is enough', () => {
    expect(said([point(10)])).toContain('No frequency was read');
    expect(said([point(10), point(5, hz)])).not.toContain('No frequency');
  });
  it('more out than in, at the point where it is', () => {
    // 30 N m at 1470 r/min: 4618 W
    expect(said([point(30, { ...hz, watts: 4619 })])).toBe('');
    expect(said([point(30, { ...hz, watts: 4618 })])).toMatch(/^At 30 N m more comes out/);
    expect(said([point(30, { ...hz, watts: (30 * 1470 * Math.PI) / 30 })])).toMatch(/^At 30 N m/);
  });
});

describe('typed lists', () => {
  it('figures of a list; none of what is no list', () => {
    expect(numbers({ a: [1, 2] } as never, 'a')).toEqual([1, 2]);
    expect(numbers({ a: 1, b: 'x', c: [1, 'x'] } as never, 'a')).toEqual([]);
    expect(numbers({ a: 1, b: 'x', c: [1, 'x'] } as never, 'c')).toEqual([]);
    expect(numbers({}, 'a')).toEqual([]);
  });
  it('lists of one length; those left out do not count', () => {
    const v = { a: [1, 2], c: [1], d: [3, 4] } as never;
    expect(sameLengths(v, ['a', 'd'], 'Each')).toBeUndefined();
    expect(sameLengths(v, ['a', 'b', 'd'], 'Each')).toBeUndefined();
    expect(sameLengths(v, ['b', 'a', 'c'], 'Each')).toEqual({ field: 'c', message: 'Each: there are 2 and 1.' });
    expect(sameLengths(v, ['b'], 'Each')).toBeUndefined();
  });
});
