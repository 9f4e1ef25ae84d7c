import type { JobSummary } from '@norther/contracts';
import { describe, expect, it } from 'vitest';
import { withMotor } from './floorLists.ts';

const motor = (number: string, takenInAt: string, closedAt: string | null = null, what = '') =>
  ({ number, takenInAt, closedAt, what }) as JobSummary;
const house = { jobs: [motor('1', '2026-01-01'), motor('2', '2026-02-01'), motor('3', '2026-03-01')], total: 3 };
const left = { jobs: [motor('9', '2025-01-01', '2026-03-05'), motor('8', '2025-01-01', '2026-01-05')], total: 700 };
const numbers = (list: { jobs: JobSummary[] }) => list.jobs.map((j) => j.number);

describe('one motor changes on the floor', () => {
  it('stays in its place', () => {
    const next = withMotor(house, motor('2', '2026-02-01', null, 'new title'), false);
    expect(numbers(next)).toEqual(['1', '2', '3']);
    expect([next.jobs[1]?.what, next.total]).toEqual(['new title', 3]);
  });
  it('comes in where its day says', () => {
    expect(numbers(withMotor(house, motor('5', '2026-02-15'), false))).toEqual(['1', '2', '5', '3']);
    expect(numbers(withMotor(house, motor('5', '2026-04-01'), false))).toEqual(['1', '2', '3', '5']);
    expect(withMotor({ jobs: [], total: 0 }, motor('5', '2026-04-01'), false).total).toBe(1);
  });
  it('leaves the house and comes first among those that left', () => {
    const gone = motor('2', '2026-02-01', '2026-04-01');
    expect(withMotor(house, gone, false)).toMatchObject({ total: 2 });
    expect(numbers(withMotor(house, gone, false))).toEqual(['1', '3']);
    expect(numbers(withMotor(left, gone, true))).toEqual(['2', '9', '8']);
    expect(withMotor(left, gone, true).total).toBe(701);
  });
  it('a list it is not of stays the same', () => {
    expect(withMotor(house, motor('7', '2026-02-01', '2026-04-01'), false)).toBe(house);
    expect(withMotor(left, motor('2', '2026-02-01'), true)).toBe(left);
  });
});
