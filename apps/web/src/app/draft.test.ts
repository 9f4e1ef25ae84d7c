import { describe, expect, it } from 'vitest';
import { readKept, typedText } from './draft.ts';

describe('a draft', () => {
  it('is compared by what was typed, whatever the order and the blanks', () => {
    expect(typedText({ b: '2', a: '1', c: '' })).toBe(typedText({ a: '1', b: '2' }));
    expect(typedText({ a: '1' })).not.toBe(typedText({ a: '1 ' }));
  });
  it('is read as it was kept', () => {
    const kept = { typed: { text: 'why' }, base: '[]' };
    expect(readKept(JSON.stringify(kept))).toEqual(kept);
  });
  it.each([
    [null],
    ['{'],
    ['null'],
    ['7'],
    ['{"typed":null,"base":"[]"}'],
    ['{"typed":{"a":1},"base":"[]"}'],
    ['{"typed":{}}'],
    ['{"right":3,"tried":4}'],
  ])('%s is none', (text) => {
    expect(readKept(text)).toBeUndefined();
  });
});
