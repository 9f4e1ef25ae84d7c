import { describe, expect, it } from 'vitest';
import { EXAMPLE_RECORD } from '../winding/exampleRecord.ts';
import { surgeWave } from '../surge/simulatedWave.ts';
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
  const wave = (name: string, henry: number) => ({
    name,
    pulses: [
      { appliedV: 1900, dtUs: 10, v: Array.from(surgeWave({ ohm: 180, henry, farad: 1e-7 }, 1900, 1e-5, 60).v) },
    ],
  });
  const comparison = (id: string, henry: number, more: object = {}) =>
    swing(id, 0, {
      kind: 'surge',
      calculation: 'evaluate.surge',
      stage: 'IN',
      part: 'stator',
      values: { instrument: 'x' },
      verdict: 'pass',
      fromTraces: true,
      waves: [wave('UV', 12e-3), wave('VW', henry), wave('WU', 12e-3)],
      ...more,
    });
  it('a surge comparison is judged from its waves where they are brought', () => {
    // VW differs by some 6 % of area from both
    const tests = [comparison('a', 12.25e-3)];
    const now = (limits: Record<string, number>) =>
      otherwise([motor(tests)], limits).otherwise.map((o) => [o.id, o.now]);
    expect(now({})).toEqual([]);
    expect(now({ 'surge.randomAreaPercent': 1 })).toEqual([['a', 'fail']]);
    expect(otherwise([motor(tests)], {}).judged).toBe(1);
  });
  it('and against the waves before it, of the same winding, that stand', () => {
    const altered = [
      comparison('a', 12e-3),
      comparison('b', 12e-3, { waves: ['UV', 'VW', 'WU'].map((n) => wave(n, 9e-3)) }),
    ];
    const told = (tests: ReturnType<typeof comparison>[]) =>
      otherwise([motor(tests)], {}).otherwise.map((o) => [o.id, o.now]);
    expect(told(altered)).toEqual([['b', 'attention']]);
    // the first was replaced, or is of another winding: nothing to be set against
    expect(told([...altered, comparison('c', 12e-3, { supersedes: 'a' })]).map(([id]) => id)).not.toContain('a');
    expect(told([altered[0] as never, { ...(altered[1] as object), stage: 'VC' } as never])).toEqual([]);
  });
  it('what one is judged with is of its own part, and of before', () => {
    const resistance = (id: string, part: 'stator' | 'wound-rotor', phasesOhm: number[]) =>
      swing(id, 0, {
        kind: 'windingResistance',
        part,
        stage: 'IN',
        calculation: null,
        result: { values: { phasesOhm } },
      });
    const odd = ['UV', 'VW', 'WU'].map((n) => wave(n, n === 'VW' ? 12e-3 : 9.4e-3));
    const surge = comparison('s', 0, { waves: odd, values: { instrument: 'x', mode: 'lead to lead' } });
    const windings = { stator: { found: { record: { ...EXAMPLE_RECORD, connection: 'wye' } }, plan: null } };
    const says = (tests: ReturnType<typeof comparison>[]) =>
      otherwise([motor(tests, { windings })], {}).otherwise.find((o) => o.id === 's')?.nowReason;
    const unknown = /the phase resistances are not known/;
    expect(says([surge])).toMatch(unknown);
    expect(says([resistance('r', 'stator', [1, 1, 1]), surge])).not.toMatch(unknown);
    expect(says([resistance('r', 'wound-rotor', [1, 1, 1]), surge])).toMatch(unknown);
    expect(says([surge, resistance('r', 'stator', [1, 1, 1])])).toMatch(unknown);
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
