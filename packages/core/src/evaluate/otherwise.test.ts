import { describe, expect, it } from 'vitest';
import { otherwise, type MotorTests } from './otherwise.ts';

type Kept = MotorTests['tests'][number];
const swing = (id: string, maxA: number, more: Partial<Kept> = {}): Kept => ({
  id,
  kind: 'rotorSwing',
  stage: 'VC',
  part: 'stator',
  values: { maxA, minA: 10, instrument: 'x' },
  verdict: 'pass',
  reason: '',
  calculation: 'evaluate.rotorSwing',
  supersedes: null,
  lesser: null,
  fromTraces: false,
  ...more,
});
const motor = (tests: Kept[], more: Partial<MotorTests> = {}): MotorTests => ({
  number: 'motor 1',
  what: 'Winch',
  route: 'ac_random_rewind',
  nameplate: {},
  windings: {},
  tests,
  ...more,
});

describe('what would come out otherwise', () => {
  // 10.25 against 10: a swing of 2.469 %
  it('by other limits, and nothing by the same', () => {
    const kept = motor([swing('a', 10.25), swing('b', 10.1)]);
    expect(otherwise([kept], {})).toEqual({ judged: 2, leftOut: 0, otherwise: [] });
    const out = otherwise([kept], { 'rotor.swingPassPercent': 2 });
    expect(out.otherwise).toEqual([
      expect.objectContaining({
        number: 'motor 1',
        id: 'a',
        title: 'Single-phase rotor test',
        was: 'pass',
        now: 'attention',
      }),
    ]);
    expect(out.otherwise[0]?.nowReason).toMatch(/this shop; published 3/);
    expect(kept.tests[0]?.verdict).toBe('pass');
  });
  it('what was corrected, stated, or is judged from samples is left', () => {
    const tests = [
      swing('a', 10.25),
      swing('b', 10.25, { supersedes: 'a' }),
      swing('c', 10.25, { calculation: null }),
      swing('d', 10.25, { kind: 'surge', calculation: 'evaluate.surge', fromTraces: true }),
      swing('e', 10.25, { kind: 'no longer there' }),
    ];
    const out = otherwise([motor(tests)], { 'rotor.swingPassPercent': 2 });
    expect(out.otherwise.map((o) => o.id)).toEqual(['b']);
    expect([out.judged, out.leftOut]).toEqual([1, 1]);
  });
  it('an instrument out of date and a lesser test stay what they were', () => {
    const tests = [
      swing('a', 10.1, { verdict: 'attention', reason: 'The instrument is out of calibration.' }),
      swing('b', 10.1, { verdict: 'attention', lesser: 'bridge only' }),
    ];
    expect(otherwise([motor(tests)], {}).otherwise).toEqual([]);
    expect(otherwise([motor([swing('a', 10.1, { verdict: 'attention' })])], {}).otherwise[0]?.now).toBe('pass');
  });
  it('values that can no longer be judged are counted, not thrown', () => {
    const bare = swing('a', 10.1, { kind: 'phaseBalance', calculation: 'evaluate.phaseBalance', values: {} });
    expect(otherwise([motor([bare])], {})).toEqual({ judged: 0, leftOut: 1, otherwise: [] });
  });
});
