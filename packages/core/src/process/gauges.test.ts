import { describe, expect, it } from 'vitest';
import { gaugeNamed, judgeGauge } from './gauges.ts';
import { judgeRecord } from './judgeRecord.ts';
import { operation, OPERATIONS } from './operations.ts';

const kept = [
  { name: 'Pyrometer 3', calibratedUntil: '2026-11-27' },
  { name: 'Scale 1', calibratedUntil: null },
];

describe('what was measured with', () => {
  it.each([
    ['pyrometer 3', '2026-11-26', undefined],
    ['pyrometer 3', '2026-11-27', undefined],
    [' Pyrometer 3 ', '2026-11-28', 'attention'],
    ['Scale 1', '2036-01-01', undefined],
    ['thermometer', '2036-01-01', undefined],
    ['', '2036-01-01', undefined],
    [undefined, '2036-01-01', undefined],
    [3, '2036-01-01', undefined],
  ])('%s on %s: %s', (name, today, verdict) => expect(judgeGauge(name, kept, today)?.verdict).toBe(verdict));
  it('is found however it is written', () => {
    expect(gaugeNamed(kept, ' PYROMETER 3')).toBe(kept[0]);
    expect(gaugeNamed(kept, 'pyrometer')).toBeUndefined();
    expect(gaugeNamed([{ name: ' Old one ', calibratedUntil: null }], 'old one')?.name).toBe(' Old one ');
  });
  it('is asked where something is measured, nowhere else', () => {
    const asks = (code: string) => operation(code).fields.some((f) => f.name === 'instrument');
    expect(['CT1', 'BRN', 'STR', 'IMPD', 'RJR', 'BOR'].map(asks)).toEqual(Array(6).fill(true));
    expect(['QTE', 'DAT', 'SEP', 'TT1', 'PVT', 'CUR'].map(asks)).toEqual(Array(6).fill(false));
    for (const op of OPERATIONS.values())
      expect(op.fields.filter((f) => f.name === 'instrument').length, op.code).toBeLessThan(2);
  });
  it('counts in the record of a step', () => {
    const of = (instrument: string, today: string) =>
      judgeRecord(
        operation('IMPD'),
        { lot: 'A', part: 50, minutes: 20, bubbles: true, instrument },
        { limits: {}, earlier: {}, person: { name: 'Ada' }, gauges: { kept, today } },
      );
    expect(of('Pyrometer 3', '2026-11-27').verdict).toBe('pass');
    expect(of('Pyrometer 3', '2026-12-01')).toEqual({
      verdict: 'attention',
      reason: expect.stringMatching(/^Pyrometer 3 has been out of calibration since 2026-11-27/) as string,
    });
  });
});
