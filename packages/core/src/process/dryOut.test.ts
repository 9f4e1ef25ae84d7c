import { describe, expect, it } from 'vitest';
import { runCalculation } from '../calculation.ts';
import { askAid, aidsOf } from './aids.ts';
import { processDryOut } from './dryOut.ts';

type Row = [min: number, megohm: number, partC: number];
const ask = (...rows: Row[]) =>
  runCalculation(processDryOut, { readings: rows.map(([min, megohm, partC]) => ({ min, megohm, partC })) }).values;

describe('whether a winding is dry', () => {
  it.each<[string, Row[], string]>([
    [
      'stood two hours, changes by less than 5 %',
      [
        [0, 48, 105],
        [60, 50, 105],
        [90, 51, 105],
        [120, 52, 105],
      ],
      'pass',
    ],
    [
      'a minute less',
      [
        [1, 48, 105],
        [60, 50, 105],
        [90, 51, 105],
        [120, 52, 105],
      ],
      'attention',
    ],
    [
      'changes by 5 %',
      [
        [0, 48, 105],
        [60, 50, 105],
        [90, 51, 105],
        [120, 52.5, 105],
      ],
      'attention',
    ],
    [
      'falls by 5 %',
      [
        [0, 60, 105],
        [60, 52.5, 105],
        [90, 51, 105],
        [120, 50, 105],
      ],
      'attention',
    ],
    [
      '2 K apart is equal',
      [
        [0, 50, 103],
        [60, 50, 103],
        [90, 50, 104],
        [120, 50, 105],
      ],
      'pass',
    ],
    [
      'more is not',
      [
        [0, 50, 102.9],
        [60, 50, 102.9],
        [90, 50, 104],
        [120, 50, 105],
      ],
      'cannot judge',
    ],
    [
      'readings too near each other',
      [
        [0, 50, 105],
        [100, 50, 105],
        [120, 50, 105],
      ],
      'cannot judge',
    ],
    [
      'half an hour apart to the minute',
      [
        [0, 50, 105],
        [90, 50, 105],
        [120, 50, 105],
      ],
      'pass',
    ],
    ['one reading', [[0, 50, 105]], 'cannot judge'],
  ])('%s', (_, rows, verdict) => expect(ask(...rows).verdict).toBe(verdict));
  it('time counts from where the part last stood elsewhere', () =>
    expect(ask([0, 50, 105], [60, 50, 90], [90, 50, 105], [120, 50, 105], [150, 50, 105]).steadyMin).toBe(60));
  it('a time that goes back is refused', () => expect(() => ask([10, 1, 20], [10, 1, 20])).toThrow(/forward in time/));
  it('stands at the steps that dry, and fills their records', () => {
    const [aid] = aidsOf('PRE').filter((a) => a.id === 'dry-out');
    expect(aidsOf('ODR').map((a) => a.id)).toContain('dry-out');
    if (!aid) throw new Error('no aid');
    const context = { nameplate: {}, earlier: {}, limits: {} } as never;
    const values = { minutes: [0, 60, 90, 120], megohm: [48e6, 50e6, 51e6, 52e6], part: [105, 105, 105, 105] };
    expect(askAid(aid, values, context).result).toMatchObject({
      verdict: 'pass',
      fills: { hours: '2 h', steady: 'yes' },
    });
    expect(askAid(aid, { ...values, part: [105] }, context).problem?.field).toBe('part');
    expect(askAid(aid, {}, context).result).toBeUndefined();
  });
});
