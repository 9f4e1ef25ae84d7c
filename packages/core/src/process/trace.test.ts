import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { cureRate, processCure, PROCESS_VERDICTS } from './cure.ts';
import { defaultMaxGapMin, readTraceCsv, stuckChannel, timeAbove } from './trace.ts';

describe('time above a temperature', () => {
  it('interpolates the crossings, counts a sample on the line, breaks runs at gaps', () => {
    const points = [0, 10, 20, 30, 40].map((t, i) => ({ t, c: [100, 120, 120, 110, 100][i] as number }));
    expect(timeAbove(points, 110, 15)).toEqual({ totalMin: 25, longestMin: 25 });
    const gap = [
      { t: 0, c: 120 },
      { t: 10, c: 120 },
      { t: 60, c: 120 },
      { t: 70, c: 120 },
    ];
    expect(timeAbove(gap, 110, 15)).toEqual({ totalMin: 20, longestMin: 10 });
    expect(timeAbove(gap, 110, 60)).toEqual({ totalMin: 70, longestMin: 70 });
    expect(timeAbove([], 110, 60)).toEqual({ totalMin: 0, longestMin: 0 });
  });
  it('takes three median steps as a gap', () => {
    expect(defaultMaxGapMin([0, 5, 10, 15, 90])).toBe(15);
    expect(defaultMaxGapMin([0])).toBe(0);
  });
});

describe('a sensor that stands still', () => {
  const t = Array.from({ length: 13 }, (_, i) => i * 10);
  const trace = (a: number[], b: number[]) => ({
    timesMin: t,
    channels: [
      { name: 'a', valuesC: a },
      { name: 'b', valuesC: b },
    ],
  });
  const flat = t.map(() => 135);
  it('is confirmed when another moves, only suspect when all is flat', () => {
    expect(
      stuckChannel(
        trace(
          flat,
          t.map((m) => 20 + m),
        ),
        0,
      ).state,
    ).toBe('confirmed');
    expect(stuckChannel(trace(flat, flat), 0).state).toBe('suspect');
    expect(
      stuckChannel(
        trace(
          t.map((m) => 20 + m),
          flat,
        ),
        0,
      ).state,
    ).toBe('no');
  });
});

describe('logs as loggers write them', () => {
  it.each([
    ['tabs', 'min\tpart\n0\t20\n10\t30\n', [20, 30]],
    ['quoted cells', '"min","part"\n"0","20.5"\n"10","30.5"\n', [20.5, 30.5]],
    ['no header', '0;20,5\n10;30,5\n', [20.5, 30.5]],
    ['a byte-order mark and Windows line ends', '\uFEFFmin;part\r\n0;20\r\n10;30\r\n', [20, 30]],
    ['dates with clock', 'time;part\n2026-11-20 23:55;20\n2026-11-21 00:05;30\n', [20, 30]],
    ['units in the cells', 'min;part\n0 min;20 °C\n10 min;30 °C\n', [20, 30]],
  ])('%s', (_, csv, values) => {
    const r = readTraceCsv(csv);
    expect(r.badRows).toEqual([]);
    expect(r.trace.timesMin).toEqual([0, 10]);
    expect(r.trace.channels[0]?.valuesC).toEqual(values);
  });
  it('an explicit unit wins over the header', () => {
    expect(readTraceCsv('min;part °F\n0;20\n10;30\n', { unit: '°C' }).trace.channels[0]?.valuesC).toEqual([20, 30]);
  });
  it('an empty file holds nothing', () => {
    expect(readTraceCsv('').trace.timesMin).toEqual([]);
  });
});

describe('verdicts of a cure', () => {
  const run = (valuesC: (number | null)[], resin: object = {}, more: object = {}) =>
    worked(processCure, {
      timesMin: valuesC.map((_, i) => i * 60),
      channels: [{ name: 'part', role: 'part', valuesC }],
      resin: { name: 'r', ratedC: 135, ratedH: 2, ...resin },
      maxGapMin: 90,
      ...more,
    });
  it('cured, under-cured, over-baked, over-temperature, undetermined stand in one table', () => {
    expect(run([20, 135, 136, 136, 60])).toMatchObject({ processVerdict: 'cured', verdict: 'pass' });
    expect(run([20, 100, 105, 100, 60])).toMatchObject({ processVerdict: 'under_cured', verdict: 'fail' });
    expect(run([20, ...Array<number>(8).fill(135), 60])).toMatchObject({
      processVerdict: 'over_baked',
      verdict: 'attention',
    });
    expect(run([20, 156, 140, 60])).toMatchObject({ processVerdict: 'over_temperature', verdict: 'attention' });
    expect(run([null, 140, null, null])).toMatchObject({ processVerdict: 'undetermined', verdict: 'cannot judge' });
    expect(Object.keys(PROCESS_VERDICTS)).toHaveLength(5);
  });
  it('the highest temperature is met by equality', () => {
    expect(run([20, 155, 130, 60]).processVerdict).not.toBe('over_temperature');
    expect(run([20, 155.01, 130, 60]).processVerdict).toBe('over_temperature');
  });
  it('a long cool bake that never came near the rated temperature needs a name', () => {
    const x = run([20, ...Array<number>(9).fill(128), 60]);
    expect(x.processVerdict).toBe('cured');
    expect(x.verdict).toBe('attention');
    expect(x.reason).toMatch(/never came within 5 K/);
  });
  it('the hold-only school counts minutes at the rated temperature', () => {
    const values = [20, 145, 145, 60];
    expect(run(values).processVerdict).toBe('cured');
    expect(run(values, {}, { school: 'hold only' }).processVerdict).toBe('under_cured');
  });
  it('a ceiling too near the rated temperature is an input error', () => {
    expect(() => run([20, 30], { maxC: 138 })).toThrow(/at least 5 K above/);
  });
  it('no credit below the floor, none beyond the ceiling', () => {
    const law = { law: 'doubling', doublingK: 10 } as const;
    expect(cureRate(119.9, 135, law, 120, 155)).toBe(0);
    expect(cureRate(120, 135, law, 120, 155)).toBeCloseTo(2 ** -1.5, 9);
    expect(cureRate(170, 135, law, 120, 155)).toBe(cureRate(155, 135, law, 120, 155));
  });
});
