import { describe, expect, it } from 'vitest';
import { afterWorking, lastWorking, workingBetween } from './shopHours.ts';

const at = (iso: string): number => Date.parse(iso);
const said = (ms: number): string => new Date(ms).toISOString().slice(0, 16);

describe('hours of the demo shop', () => {
  it.each([
    ['2026-11-27T10:00Z', '2026-11-27T10:00'],
    ['2026-11-27T06:59Z', '2026-11-26T16:30'],
    ['2026-11-27T07:00Z', '2026-11-27T07:00'],
    ['2026-11-27T23:00Z', '2026-11-27T16:30'],
    ['2026-11-29T12:00Z', '2026-11-27T16:30'],
    ['2026-11-30T05:00Z', '2026-11-27T16:30'],
    ['2027-01-01T03:00Z', '2026-12-31T16:30'],
  ])('the last working moment at %s is %s', (now, is) => expect(said(lastWorking(at(now)))).toBe(is));
  it('nights and weekends are no working time', () => {
    expect(workingBetween(at('2026-11-27T16:00Z'), at('2026-11-30T07:30Z'))).toBe(60 * 60_000);
    expect(said(afterWorking(at('2026-11-27T16:00Z'), 60 * 60_000))).toBe('2026-11-30T07:30');
    expect(said(afterWorking(at('2026-11-28T12:00Z'), 0))).toBe('2026-11-30T07:00');
  });
  it('a moment is found again after its working time', () => {
    const from = at('2026-12-28T08:17Z');
    for (let h = 0; h < 100; h += 3.7) expect(workingBetween(from, afterWorking(from, h * 3_600_000))).toBeCloseTo(h * 3_600_000, 3);
  });
});
