import { describe, expect, it } from 'vitest';
import { beforeOf, figureOf, notReplaced, pastOf, type EarlierTest } from './before.ts';

const test = (id: string, kind: string, stage: string, more: Partial<EarlierTest> = {}): EarlierTest => ({
  id,
  kind,
  stage,
  verdict: 'pass',
  supersedes: null,
  ...more,
});
const phases = (id: string, stage: string, phasesOhm: unknown, more: Partial<EarlierTest> = {}) =>
  test(id, 'windingResistance', stage, { result: { values: { phasesOhm } }, ...more });
const insulation = (id: string, verdict: string, more: Partial<EarlierTest> = {}) =>
  test(id, 'insulationResistance', 'VC', { verdict, ...more });
const full = (id: string, stage: string, more: Partial<EarlierTest> = {}) => test(id, 'highPotential', stage, more);

describe('what the tests before say to one that is to be done', () => {
  it('phases of the resistance: the newest of this stage and part that nothing replaced', () => {
    const of = (tests: EarlierTest[], part: 'stator' | 'wound-rotor' = 'stator') =>
      beforeOf(tests, 'VC', part).phasesOhm;
    expect(of([phases('a', 'VC', [1, 2, 3]), phases('b', 'VC', [4, 5, 6])])).toEqual([4, 5, 6]);
    expect(of([phases('a', 'VC', [1, 2, 3]), phases('b', 'AC', [4, 5, 6])])).toEqual([1, 2, 3]);
    expect(of([phases('a', 'VC', [1, 2, 3]), phases('b', 'VC', [4, 5, 6], { supersedes: 'a' })])).toEqual([4, 5, 6]);
    expect(of([phases('a', 'VC', [1, 2, 3], { part: 'wound-rotor' })])).toBeUndefined();
    expect(of([phases('a', 'VC', [1, 2, 3], { part: 'wound-rotor' })], 'wound-rotor')).toEqual([1, 2, 3]);
    // one that names no part is of the part that is asked for
    expect(of([phases('a', 'VC', [1, 2, 3], { part: null })], 'wound-rotor')).toEqual([1, 2, 3]);
  });
  it.each([
    [[1, 2]],
    [[1, 2, 3, 4]],
    [[1, 2, 0]],
    [[1, 2, -3]],
    [[1, 2, Infinity]],
    [[1, 2, '3']],
    ['1 2 3'],
    [undefined],
  ])('phases that are none: %o', (given) =>
    expect(beforeOf([phases('a', 'VC', given)], 'VC', 'stator')).toEqual({ fullTests: 0 }),
  );
  it.each([
    ['pass', 'sound'],
    ['attention', 'sound'],
    ['fail', 'low'],
    ['cannot judge', undefined],
  ])('insulation that is "%s" is %s', (verdict, said) => {
    expect(beforeOf([insulation('a', verdict)], 'VC', 'stator').insulation).toBe(said);
    expect(beforeOf([insulation('a', verdict)], 'AA', 'stator').insulation).toBeUndefined();
    expect(beforeOf([insulation('z', 'pass'), insulation('a', verdict)], 'VC', 'stator').insulation).toBe(said);
  });
  it('full-value tests: what said so itself, else one after the cure that a person stated as passed', () => {
    const count = (...tests: EarlierTest[]) => beforeOf(tests, 'FI', 'stator').fullTests;
    expect(count(full('a', 'VC'))).toBe(1);
    expect(count(full('a', 'VC', { verdict: 'attention' }))).toBe(0);
    expect(count(full('a', 'FI'))).toBe(0);
    expect(count(full('a', 'FI', { result: { values: { fullValue: true } } }))).toBe(1);
    expect(count(full('a', 'VC', { result: { values: { fullValue: false } } }))).toBe(0);
    // before the resin it is no new winding's full test
    expect(count(full('a', 'AC', { result: { values: { fullValue: true } } }))).toBe(0);
    expect(count(full('a', 'IN', { result: { values: { fullValue: true } } }))).toBe(0);
    expect(count(full('a', 'VC'), full('b', 'VC', { supersedes: 'a', verdict: 'fail' }))).toBe(0);
    expect(count(full('a', 'VC'), full('b', 'FI', { result: { values: { fullValue: true } } }))).toBe(2);
    expect(count(test('a', 'surge', 'VC'))).toBe(0);
  });
  it('what a correction replaced stands no longer', () => {
    const [a, b, c] = [test('a', 'x', 'VC'), test('b', 'x', 'VC', { supersedes: 'a' }), test('c', 'x', 'VC')];
    expect(notReplaced([a, b, c]).map((t) => t.id)).toEqual(['b', 'c']);
  });
});

describe('figures of before', () => {
  const read = (r40Megohm: unknown) => ({ values: { r40Megohm } });
  it('the first figure that the calculation of a test derives', () => {
    expect(figureOf('insulationResistance', read(850))).toBe(850);
    expect(figureOf('insulationResistance', read('850'))).toBeUndefined();
    expect(figureOf('insulationResistance', read(Infinity))).toBeUndefined();
    expect(figureOf('insulationResistance', { values: {} })).toBeUndefined();
    expect(figureOf('insulationResistance', {})).toBeUndefined();
    expect(figureOf('insulationResistance', null)).toBeUndefined();
    // stated by a person, and none at all
    expect(figureOf('growler', read(850))).toBeUndefined();
    expect(figureOf('nothing', read(850))).toBeUndefined();
  });
  it('earlier visits first, the oldest first, then this one; what has no figure or was replaced is left out', () => {
    const visit = (number: string, figure: number | null) => ({
      number,
      part: 'stator',
      stage: 'FI',
      kind: 'insulationResistance',
      figure,
      values: { testV: 500 },
    });
    const own = (id: string, figure: number | undefined, more: Partial<EarlierTest> = {}) =>
      test(id, 'insulationResistance', 'VC', { result: read(figure), ...more });
    const past = pastOf(
      [
        own('a', 10),
        own('b', 11, { supersedes: 'a', part: 'wound-rotor', values: { testV: 1000 } }),
        own('c', undefined),
      ],
      [visit('visit c', 3), visit('visit b', null), visit('visit a', 1)],
      'stator',
    );
    const common = { kind: 'insulationResistance' };
    expect(past).toEqual([
      { ...common, part: 'stator', stage: 'FI', figure: 1, values: { testV: 500 }, visit: 'visit a' },
      { ...common, part: 'stator', stage: 'FI', figure: 3, values: { testV: 500 }, visit: 'visit c' },
      { ...common, part: 'wound-rotor', stage: 'VC', figure: 11, values: { testV: 1000 } },
    ]);
    expect(pastOf([own('a', 10)], [], 'wound-rotor')).toEqual([
      { ...common, part: 'wound-rotor', stage: 'VC', figure: 10, values: {} },
    ]);
  });
});
