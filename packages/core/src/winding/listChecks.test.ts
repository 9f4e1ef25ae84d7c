import { describe, expect, it } from 'vitest';
import { checkAlone } from '../../../../scripts/testing/recordChecks.ts';
import { COIL_LIST_CHECKS, spansOfList } from './coilListChecks.ts';

const { said } = checkAlone(COIL_LIST_CHECKS);

describe('coils of a list', () => {
  const told = (list: [number, number][]) =>
    spansOfList(list, 36, 9).map((f) => `${f.severity} ${f.fields.join(',')}: ${f.message}`);
  it('up to a pole pair nothing is said', () =>
    expect(
      told([
        [1, 9],
        [2, 20],
        [30, 12],
      ]),
    ).toEqual([]));
  it('a longer one was read the wrong way round: both spans are told, of the first only', () =>
    expect(
      told([
        [1, 9],
        [10, 2],
        [11, 3],
      ]),
    ).toEqual([
      'W coilList: The coil 10-2 spans 28 slots, more than a pole pair (18): were go and return exchanged? 2-10 spans 8.',
    ]));
});

describe('turns of mixed layers', () => {
  const of = (sideKinds: string[] | undefined, turns: number[] | undefined, layers = 'mixed') =>
    said('mixed-turns', { record: { layers, sideKinds, turns } });
  it.each([
    ['twice', ['full', 'half'], [40, 20], 0],
    ['odd, rounded down', ['full', 'half'], [41, 20], 0],
    ['odd, rounded up', ['full', 'half'], [41, 21], 0],
    ['two off', ['full', 'half'], [42, 20], 1],
    ['two less', ['full', 'half'], [38, 20], 1],
    ['halves unlike', ['full', 'half', 'half'], [40, 20, 21], 1],
    ['fulls unlike', ['full', 'full', 'half'], [40, 41, 20], 1],
    ['fulls alike', ['full', 'full', 'half'], [40, 40, 20], 0],
    ['halves only', ['half', 'half'], [20, 20], 0],
    ['halves only, unlike', ['half', 'half'], [20, 23], 1],
    ['fulls only', ['full', 'full'], [40, 40], 0],
    ['not as many turns as coils', ['full', 'half'], [42], 0],
  ])('%s', (_, kinds, turns, n) => expect(of(kinds, turns)).toHaveLength(n));
  it('says turns and kinds as recorded', () =>
    expect(of(['full', 'half'], [42, 20])).toEqual([
      'W turns,sideKinds: Turns 42, 20 of full, half coils: full coils have twice the turns of half ones, all halves alike (an odd full coil: halves rounded the same way).',
    ]));
  it('is asked of mixed layers that are known', () => {
    expect(of(['full', 'half'], [42, 20], 'double')).toEqual([]);
    expect(of(undefined, [42, 20])).toEqual([]);
    expect(of(['full', 'half'], undefined)).toEqual([]);
  });
});
