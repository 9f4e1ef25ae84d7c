import { describe, expect, it } from 'vitest';
import { fitLimitsMm, HOUSING_FITS, JOURNAL_FITS, judgeFit, sizeHasFit } from './bearingFits.ts';

const micron = (fit: Parameters<typeof fitLimitsMm>[0], mm: number) =>
  fitLimitsMm(fit, mm)?.map((n) => Math.round((n - mm) * 1000));

describe('fits of bearing seats (ISO 286-2, from memory)', () => {
  it.each([
    ['k5', 45, [2, 13]],
    ['k5', 60, [2, 15]],
    ['m5', 110, [13, 28]],
    ['k6', 140, [3, 28]],
    ['m6', 200, [17, 46]],
    ['j5', 25, [-4, 5]],
    ['H6', 100, [0, 22]],
    ['H7', 110, [0, 35]],
    ['J7', 90, [-13, 22]],
    // a border belongs to the smaller row
    ['k5', 50, [2, 13]],
    ['k5', 50.001, [2, 15]],
    ['H6', 18, [0, 11]],
    ['H6', 10.001, [0, 11]],
    ['H6', 400, [0, 36]],
  ] as const)('%s at %s mm: %j µm', (fit, mm, wanted) => {
    expect(micron(fit, mm)).toEqual(wanted);
  });
  // ISO 286-1 (from memory): i = 0.45 ∛D + 0.001 D over the geometric mean of the range; IT5 7 i, IT6 10 i, IT7 16 i; rounded
  it('each band is as wide as its grade of tolerance', () => {
    const edges = [10, 18, 30, 50, 80, 120, 180, 250, 315, 400];
    for (const fit of [...JOURNAL_FITS, ...HOUSING_FITS])
      for (let row = 1; row < edges.length; row++) {
        const [from, to] = [edges[row - 1] ?? 0, edges[row] ?? 0];
        const mean = Math.sqrt(from * to);
        const factor = { 5: 7, 6: 10, 7: 16 }[Number(fit[1])] ?? NaN;
        const [low, high] = micron(fit, to) ?? [];
        const i = 0.45 * Math.cbrt(mean) + 0.001 * mean;
        expect(Math.abs((high ?? 0) - (low ?? 0) - factor * i), `${fit} up to ${to} mm`).toBeLessThanOrEqual(1.6);
      }
  });
  it('none outside the sizes that are kept', () => {
    expect([10, 10.01, 400, 400.01].map(sizeHasFit)).toEqual([false, true, true, false]);
    expect([fitLimitsMm('k5', 10), fitLimitsMm('k5', 400.1)]).toEqual([undefined, undefined]);
  });
});

describe('a seat against its fit', () => {
  const journal = { end: 'drive', of: 'journal', fit: 'k5', nominalMm: 45 } as const;
  const housing = { end: 'other', of: 'housing', fit: 'H6', nominalMm: 100 } as const;
  it.each([
    [{ ...journal, measuredMm: 45.002 }, 'pass', /^Drive-end journal 45\.002 mm; 45\.002 to 45\.013 mm is k5 \(ISO/],
    [{ ...journal, measuredMm: 45.013 }, 'pass', /memory\)\.$/],
    [{ ...journal, measuredMm: 45.0019 }, 'fail', /too loose, the ring creeps\.$/],
    [{ ...journal, measuredMm: 45.0131 }, 'fail', /too tight, the bearing loses its play\.$/],
    [{ ...housing, measuredMm: 100 }, 'pass', /^Other-end housing/],
    [{ ...housing, measuredMm: 100.022 }, 'pass', /H6/],
    [{ ...housing, measuredMm: 100.0221 }, 'fail', /too loose/],
    [{ ...housing, measuredMm: 99.9999 }, 'fail', /too tight/],
    [{ ...housing, nominalMm: 5, measuredMm: 5 }, 'cannot judge', /over 10 up to 400 mm, not for 5 mm/],
  ] as const)('%o: %s', (x, verdict, reason) => {
    const judged = judgeFit(x, {});
    expect(judged.verdict).toBe(verdict);
    expect(judged.reason).toMatch(reason);
  });
  it('the shop may allow more', () => {
    const worn = { ...journal, measuredMm: 45 };
    expect(judgeFit(worn, {}).verdict).toBe('fail');
    // 11 µm wide, 33 µm: 11 µm more on either side
    const judged = judgeFit(worn, { 'assembly.fitPercent': 300 });
    expect(judged.verdict).toBe('pass');
    expect(judged.reason).toContain('44.991 to 45.024 mm is k5 at the shop’s 300 % of its width (ISO');
    expect(judgeFit({ ...journal, measuredMm: 45.0239 }, { 'assembly.fitPercent': 300 }).verdict).toBe('pass');
    expect(judgeFit({ ...journal, measuredMm: 45.0241 }, { 'assembly.fitPercent': 300 }).verdict).toBe('fail');
    expect(judgeFit({ ...journal, measuredMm: 44.9909 }, { 'assembly.fitPercent': 300 }).verdict).toBe('fail');
  });
});
