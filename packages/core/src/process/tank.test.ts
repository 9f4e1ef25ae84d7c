import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { lotsAfter, lotsWithin, orderAgain } from '../stock/lots.ts';
import { judgeTankTest, tankBlocks, tankLimitDay, type TankSetUp, type TankTested } from './tank.ts';

const tank: TankSetUp = {
  reference: 25,
  least: 20,
  most: 40,
  perK: 0.035,
  coldest: 15,
  warmest: 30,
  everyDays: 14,
  unit: 's',
};
const judge = (viscosity: number, temperature = 25, more: object = {}) =>
  judgeTankTest(tank, { viscosity, temperature, clean: true, ...more });

describe('a shelf test of resin', () => {
  it.each([
    [40, 25, {}, 'pass'],
    [40.01, 25, {}, 'fail'],
    [20, 25, {}, 'pass'],
    [19.99, 25, {}, 'attention'],
    [30, 15, {}, 'pass'],
    [30, 14.9, {}, 'attention'],
    [25, 30, {}, 'pass'],
    [25, 30.1, {}, 'attention'],
    [30, 25, { clean: false }, 'fail'],
    [30, 25, { disc: false }, 'fail'],
    [30, 25, { disc: true }, 'pass'],
  ] as const)('%f at %f °C %o: %s', (v, t, more, verdict) => expect(judge(v, t, more).verdict).toBe(verdict));
  it('is brought to the reference temperature (C50)', () =>
    expect(
      judgeTankTest({ ...tank, perK: 0.035 }, { viscosity: 38, temperature: 18, clean: true }).atReference,
    ).toBeCloseTo(29.74, 2));
  it('a tank without a lower bound has none; one without a change per K takes the usual one', () => {
    expect(judgeTankTest({ ...tank, least: undefined }, { viscosity: 1, temperature: 25, clean: true }).verdict).toBe(
      'pass',
    );
    const { atReference } = judgeTankTest(
      { ...tank, perK: undefined },
      { viscosity: 30, temperature: 26, clean: true },
    );
    expect(atReference).toBeCloseTo(30 * Math.exp(0.04), 9);
  });
});

describe('whether a tank may be used', () => {
  const lot = { lot: 'L1', expires: '2026-06-30', quarantined: false };
  const tested = (day: string, verdict: TankTested['verdict'] = 'pass'): TankTested => ({
    day,
    verdict,
    reason: 'x',
    atReference: 30,
  });
  it.each([
    ['tested on the day', [tested('2026-06-30')], lot, 0],
    ['tested as long ago as it may', [tested('2026-06-16')], lot, 0],
    ['a day longer', [tested('2026-06-15')], lot, 1],
    ['looked at, not failed', [tested('2026-06-30', 'attention')], lot, 0],
    ['failed', [tested('2026-06-30', 'fail')], lot, 1],
    ['failed once, good again', [tested('2026-06-20', 'fail'), tested('2026-06-29')], lot, 0],
    ['never tested', [], lot, 1],
    ['ran out the day before', [tested('2026-06-30')], { ...lot, expires: '2026-06-29' }, 1],
    ['does not run out', [tested('2026-06-30')], { ...lot, expires: null }, 0],
    ['quarantined', [tested('2026-06-30')], { ...lot, quarantined: true }, 1],
    ['empty', [tested('2026-06-30')], undefined, 1],
    ['everything', [tested('2026-01-01', 'fail')], { ...lot, expires: '2026-01-02', quarantined: true }, 4],
  ] as const)('%s', (_, tests, of, n) => expect(tankBlocks(tank, tests, of, '2026-06-30')).toHaveLength(n));
  it('the day of the limit follows the trend (C55)', () => {
    const at = (n: number) => new Date(Date.parse('2026-01-01') + n * 86_400_000).toISOString().slice(0, 10);
    const tests = [
      [0, 620],
      [30, 668],
      [60, 719],
      [90, 776],
    ].map(([d, v]) => ({ ...tested(at(d ?? 0)), atReference: v ?? 0 }));
    expect(tankLimitDay(tests, 1000)).toBe(at(192));
    expect(tankLimitDay(tests.slice(0, 1), 1000)).toBeUndefined();
    expect(tankLimitDay([tested('2026-01-01'), tested('2026-01-01')], 1000)).toBeUndefined();
    expect(
      tankLimitDay(
        [...tests].reverse().map((t, i) => ({ ...t, day: at(30 * i) })),
        1000,
      ),
    ).toBeUndefined();
  });
});

describe('lots that went into one another', () => {
  const edges = [
    { lot: 'C', parent: 'A' },
    { lot: 'C', parent: 'B' },
    { lot: 'E', parent: 'C' },
    { lot: 'E', parent: 'D' },
    { lot: 'F', parent: 'D' },
  ];
  it('are traced both ways', () => {
    expect(lotsWithin('E', edges).sort()).toEqual(['A', 'B', 'C', 'D']);
    expect(lotsAfter('A', edges).sort()).toEqual(['C', 'E']);
    expect(lotsWithin('A', edges)).toEqual([]);
    expect(lotsAfter('E', edges)).toEqual([]);
  });
  it('what is in one is after the other, whatever was mixed', () =>
    fc.assert(
      fc.property(
        fc.array(fc.record({ lot: fc.constantFrom(...'abcdef'), parent: fc.constantFrom(...'abcdef') }), {
          maxLength: 20,
        }),
        fc.constantFrom(...'abcdef'),
        fc.constantFrom(...'abcdef'),
        (list, x, y) => {
          fc.pre(x !== y);
          expect(lotsWithin(x, list).includes(y)).toBe(lotsAfter(y, list).includes(x));
        },
      ),
    ));
});

describe('when to order again', () => {
  it('from use day by day; days without use count as none', () => {
    const is = orderAgain([10, 4, 10], 6, { days: 9, sdDays: 2, z: 1.645 });
    expect(is.meanPerDay).toBe(4);
    expect(is.sdPerDay).toBeCloseTo(Math.sqrt((36 + 0 + 36 + 3 * 16) / 5), 9);
    expect(is.point).toBeCloseTo(4 * 9 + 1.645 * Math.sqrt(9 * 24 + 16 * 4), 9);
    expect(orderAgain([], 30, { days: 9, sdDays: 2, z: 1.645 })).toMatchObject({ meanPerDay: 0, point: 0 });
  });
});
