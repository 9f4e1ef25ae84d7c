import { describe, expect, it } from 'vitest';
import { sayDistance } from './day.ts';

describe('how far a day lies from today', () => {
  it.each([
    ['2026-03-10', 'today'],
    ['2026-03-11', 'tomorrow'],
    ['2026-03-09', 'yesterday'],
    ['2026-03-12', 'in 2 days'],
    ['2026-05-08', 'in 59 days'],
    ['2026-05-09', 'in 2 months'],
    ['2026-03-01', '9 days ago'],
    ['2025-03-10', '12 months ago'],
  ])('%s is %s', (day, said) => {
    expect(sayDistance(day, '2026-03-10')).toBe(said);
  });
  it('summer time has no part in it', () => {
    expect(sayDistance('2026-03-30', '2026-03-28')).toBe('in 2 days');
  });
});
