import { describe, expect, it } from 'vitest';
import { stressBars } from './orderOfStress.ts';
import { PLAIN } from './tests.ts';

const test = (kind: string, verdict = 'pass', more: object = {}) => ({
  id: `${kind}-${verdict}`,
  stage: 'VC',
  kind,
  verdict,
  supersedes: null as string | null,
  ...more,
});
const sound = ['windingResistance', 'insulationResistance', 'surge'].map((k) => test(k));
const bars = (kind: string, tests: ReturnType<typeof test>[], stage: 'VC' | 'AC' | 'FI' = 'VC') =>
  stressBars(kind, stage, tests, 'whole motor', PLAIN).map((b) => b.kind);

describe('order of stress', () => {
  it('high potential waits for every lower test of its stage to have passed', () => {
    expect(bars('highPotential', sound)).toEqual([]);
    expect(bars('highPotential', [])).toEqual(['windingResistance', 'insulationResistance', 'surge']);
    expect(bars('highPotential', sound.slice(0, 2))).toEqual(['surge']);
    expect(bars('highPotential', [...sound.slice(0, 2), test('surge', 'cannot judge')])).toEqual(['surge']);
    expect(bars('highPotential', [...sound.slice(0, 2), test('surge', 'attention')])).toEqual([]);
    // at the last stage surge is not wanted, but one that failed bars
    expect(
      bars(
        'highPotential',
        sound.slice(0, 2).map((t) => ({ ...t, stage: 'FI' })),
        'FI',
      ),
    ).toEqual([]);
    expect(
      bars(
        'highPotential',
        [...sound.slice(0, 2), test('surge', 'fail')].map((t) => ({ ...t, stage: 'FI' })),
        'FI',
      ),
    ).toEqual(['surge']);
  });

  it('surge is barred by what failed below, not by what was not done', () => {
    expect(bars('surge', [])).toEqual([]);
    expect(bars('surge', [test('insulationResistance', 'fail')])).toEqual(['insulationResistance']);
    expect(bars('surge', [test('windingResistance', 'fail')])).toEqual(['windingResistance']);
    expect(bars('surge', [test('insulationResistance', 'cannot judge')])).toEqual([]);
    expect(bars('surge', [test('highPotential', 'fail')])).toEqual([]);
  });

  it('insulation that allows no high voltage bars, whatever its verdict', () => {
    const wet = test('insulationResistance', 'cannot judge', {
      result: { values: { mayTestHighVoltage: false, minimumMegohm: 5 } },
    });
    const dry = test('insulationResistance', 'cannot judge', { result: { values: { mayTestHighVoltage: true } } });
    // a reading that was held against nothing, for want of a nameplate
    expect(bars('surge', [{ ...wet, result: { values: { mayTestHighVoltage: false } } }] as never)).toEqual([]);
    expect(bars('surge', [wet])).toEqual(['insulationResistance']);
    expect(bars('surge', [dry])).toEqual([]);
    expect(stressBars('surge', 'VC', [wet], 'whole motor', PLAIN)[0]?.says).toMatch(/allows no high voltage/);
  });

  it('the newest reading counts, at its own stage; one that was corrected does not', () => {
    const failed = test('insulationResistance', 'fail', { id: 'a' });
    expect(bars('surge', [failed, test('insulationResistance', 'pass', { id: 'b' })])).toEqual([]);
    expect(bars('surge', [failed, test('insulationResistance', 'pass', { id: 'b', supersedes: 'a' })])).toEqual([]);
    expect(bars('surge', [test('insulationResistance', 'pass', { id: 'b' }), failed])).toEqual([
      'insulationResistance',
    ]);
    expect(bars('surge', [{ ...failed, stage: 'AC' }])).toEqual([]);
  });

  it('tests that strain nothing are never barred', () => {
    for (const kind of ['windingResistance', 'polarity', 'noLoadRun', 'growler'])
      expect(bars(kind, [test('insulationResistance', 'fail')])).toEqual([]);
    expect(bars('insulationResistance', [test('windingResistance', 'fail')])).toEqual([]);
    expect(bars('steppedVoltage', [])).toEqual(['windingResistance', 'insulationResistance', 'surge']);
  });
});
