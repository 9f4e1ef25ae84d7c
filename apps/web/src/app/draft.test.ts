import { describe, expect, it } from 'vitest';
import { mergedDraft, readKept, typedText } from './draft.ts';

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

describe('two tabs on one draft', () => {
  const seen = { slots: '36', poles: '4' };
  it.each([
    ['each typed another field', { slots: '48', poles: '4' }, { slots: '36', poles: '6' }, { slots: '48', poles: '6' }],
    [
      'both typed the same field: what is typed here stays',
      { slots: '48', poles: '4' },
      { slots: '54', poles: '4' },
      { slots: '48', poles: '4' },
    ],
    ['a field more there', seen, { ...seen, span: '1-9' }, { ...seen, span: '1-9' }],
    ['a field more here', { ...seen, span: '1-9' }, seen, { ...seen, span: '1-9' }],
    ['cleared here', { slots: '36' }, seen, { slots: '36' }],
    ['cleared there', seen, { slots: '36' }, { slots: '36' }],
    ['nothing typed', seen, seen, seen],
  ])('%s', (_, mine, theirs, both) => expect(mergedDraft(mine, seen, theirs)).toEqual(both));
});
