import { describe, expect, it } from 'vitest';
import { parsePieces, sayPieces } from './pieces.ts';

const ranges = (text: string, most = 20) => {
  const read = parsePieces(text, most);
  if ('problem' in read) throw new Error(read.problem);
  return sayPieces(read.ranges);
};
const problem = (text: string, most = 20) => {
  const read = parsePieces(text, most);
  return 'problem' in read ? read.problem : 'none';
};

describe('pieces as one writes them down', () => {
  it.each([
    ['1', '1'],
    ['20', '20'],
    ['1-20', '1-20'],
    ['all', '1-20'],
    [' ALL ', '1-20'],
    ['1-4, 7', '1-4, 7'],
    ['7 1-4', '1-4, 7'],
    ['7; 1–4', '1-4, 7'],
    ['1 - 4, 7', '1-4, 7'],
    ['1-4, 5', '1-5'],
    ['1-4, 6', '1-4, 6'],
    ['3-9, 1-4, 4', '1-9'],
    ['5, 5', '5'],
  ])('%s is %s', (text, said) => {
    expect(ranges(text)).toBe(said);
  });
  it.each([
    ['', /type which/],
    ['0', /no piece 0; they are numbered 1 to 20/],
    ['21', /no piece 21; they are numbered 1 to 20/],
    ['18-21', /no piece 21/],
    ['4-1', /runs backwards; type 1-4/],
    ['one', /"one" is no piece/],
    ['1.5', /"1.5" is no piece/],
    ['-3', /is no piece/],
    [Array.from({ length: 201 }, () => '1').join(','), /at most 200 ranges/],
  ])('%s is refused', (text, why) => {
    expect(problem(text)).toMatch(why);
  });
  it('none is there before the pieces are numbered', () => {
    expect(problem('all', 0)).toMatch(/none is numbered yet/);
    expect(ranges('all', 1)).toBe('1');
  });
});
