import { describe, expect, it } from 'vitest';
import { seeded } from '../balance/stand.ts';
import { MOST_SWING_ROWS, readSwingLog, swingOfLog } from './swingLog.ts';

/** One turn: `dips` sharp dips of a depth, with noise. */
const turn = (dips: number, depth: number, noise = 0, samples = 1000, shift = 0) => {
  const random = seeded(9);
  return Array.from({ length: samples }, (_, i) => {
    const at = (((i / samples) * dips + shift) % 1) - 0.5;
    return 10 - depth * Math.exp(-((at / 0.12) ** 2)) + noise * (random() - 0.5);
  });
};

describe('the swing from a logged turn', () => {
  it.each([2, 4, 6, 8])('%d dips, whatever the noise and wherever the log begins', (dips) => {
    for (const shift of [0, 0.3, 0.5, 0.77])
      for (const noise of [0, 0.05]) {
        const found = swingOfLog(turn(dips, 0.6, noise, 1200, shift));
        expect([found.dips, shift, noise]).toEqual([dips, shift, noise]);
        expect(found.maxA).toBeCloseTo(10, 1);
        expect(found.minA).toBeCloseTo(9.4, 1);
        expect(found.samples).toBe(1200);
      }
  });
  it('one slow swing is one dip; a level current has none', () => {
    expect(swingOfLog(Array.from({ length: 200 }, (_, i) => 10 + Math.cos((2 * Math.PI * i) / 200))).dips).toBe(1);
    expect(swingOfLog(Array.from({ length: 50 }, () => 4.2))).toEqual({ maxA: 4.2, minA: 4.2, dips: 0, samples: 50 });
  });
  it('a single spike of noise is smoothed in a long log, and is none of the motor in a short one', () => {
    const long = turn(4, 0.6);
    long[500] = 14;
    expect(swingOfLog(long).maxA).toBeLessThan(11);
  });
});

describe('the log as a file', () => {
  const lines = (n: number, of: (i: number) => string) => Array.from({ length: n }, (_, i) => of(i)).join('\n');
  it('the last number of each line, headings passed over, both decimal signs', () => {
    expect(readSwingLog(`t;I\ns;A\n${lines(20, (i) => `${i};5,1`)}`)).toEqual({
      amps: Array.from({ length: 20 }, () => 5.1),
    });
    expect(readSwingLog(lines(20, (i) => `${i},5.25`)).amps[3]).toBe(5.25);
    expect(readSwingLog(lines(20, (i) => `${i}\t4`)).amps).toHaveLength(20);
    expect(readSwingLog(`${lines(20, () => '4.5')}\r\n\r\n`)).toEqual({ amps: Array.from({ length: 20 }, () => 4.5) });
  });
  it.each([
    [lines(19, () => '4'), /19 currents are too few for one turn: at least 20/],
    [`${lines(20, () => '4')}\nx;y`, /Line 21, "x;y", holds no current/],
    [`${lines(19, () => '4')}\n0`, /Current 20 is 0/],
    [`${lines(19, () => '4')}\n-2`, /Current 20 is -2/],
    ['', /0 currents/],
    [lines(MOST_SWING_ROWS + 1, () => '4'), /At most 20000 lines/],
  ])('what cannot be a turn is refused in words', (csv, says) => {
    expect(readSwingLog(csv).problem).toMatch(says);
  });
  it('the most and the fewest lines are read', () => {
    expect(readSwingLog(lines(MOST_SWING_ROWS, () => '4')).problem).toBeUndefined();
    expect(readSwingLog(lines(20, () => '4')).problem).toBeUndefined();
  });
});
