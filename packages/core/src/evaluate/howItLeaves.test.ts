import { describe, expect, it } from 'vitest';
import type { Verdict } from '../verdict.ts';
import { howItLeaves, newestOf } from './howItLeaves.ts';

const read = (kind: string, stage: string, verdict: Verdict, n = 0) => ({ kind, stage, verdict, n });
const leaves = (tests: ReturnType<typeof read>[], came = 'whole motor') => howItLeaves(tests, came).verdict;

describe('how a motor leaves', () => {
  it('not tested, or only as it came: no verdict yet', () => {
    expect(howItLeaves([], 'whole motor')).toEqual({ verdict: 'none', because: [] });
    expect(leaves([read('surge', 'IN', 'fail')])).toBe('none');
    expect(leaves([read('surge', 'VC', 'pass')])).toBe('none');
  });
  it('a part alone is told by its tests after resin, not by those of an assembled motor', () => {
    expect(leaves([read('surge', 'VC', 'pass')], 'stator')).toBe('pass');
    expect(leaves([read('surge', 'AA', 'pass')], 'stator')).toBe('none');
  });
  it('of each test the final one, else the one of the assembled motor, the newest of each', () => {
    const [old, late, final] = [
      read('run', 'AA', 'fail', 1),
      read('run', 'AA', 'pass', 2),
      read('run', 'FI', 'attention', 3),
    ];
    expect(newestOf([old, late], 'run', ['FI', 'AA'])).toBe(late);
    expect(newestOf([final, old, late], 'run', ['FI', 'AA'])).toBe(final);
    expect(newestOf([old], 'surge', ['FI', 'AA'])).toBeUndefined();
    expect(leaves([old, late])).toBe('pass');
    expect(leaves([final, late])).toBe('attention');
  });
  it('the worst of all decides, and is named; a pass names nothing', () => {
    const tests = [
      read('a', 'FI', 'pass'),
      read('b', 'FI', 'fail'),
      read('c', 'AA', 'fail'),
      read('d', 'FI', 'attention'),
    ];
    expect(howItLeaves(tests, 'whole motor')).toEqual({ verdict: 'fail', because: [tests[1], tests[2]] });
    expect(howItLeaves(tests.slice(0, 1), 'whole motor')).toEqual({ verdict: 'pass', because: [] });
  });
});
