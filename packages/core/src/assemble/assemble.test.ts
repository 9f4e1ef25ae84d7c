import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { assemblyFigures, assemblyTest, shaftRunOutMm } from './assemblyFigures.ts';
import { coupling } from './coupling.ts';
import { FINAL_ITEMS, finalList } from './finalList.ts';

const couple = (x: object) => coupling.compute(coupling.input.parse({ ...coupling.example, ...x }), undefined);
/** Dials of a motor that lies `low` and to the `right`, its axis falling to the back by `slope` and going right by `turn`; a bar that sags. */
const dials = (low: number, right: number, slope: number, turn: number, sag = 0, d = 100) => ({
  rim: { top: 0, bottom: 2 * low + sag, right: low + right + sag / 2, left: low - right + sag / 2 },
  face: { top: 0, bottom: slope * d, right: (turn * d) / 2, left: (-turn * d) / 2 },
  sagMm: sag,
  faceDiameterMm: d,
});

describe('coupling by rim and face', () => {
  it('worked by hand: rim −0.26 at the bottom, bar −0.06, face 0.05 over 120 mm, feet at 180 and 420 mm', () => {
    // offset half of −0.20: −0.10; angle 0.05/120; front −0.10 + 0.075, back −0.10 + 0.175
    const { vertical, words, reason } = couple({});
    expect(reason).toContain('Under the back feet 0.08 mm more.');
    expect(vertical?.offsetMm).toBeCloseTo(-0.1, 12);
    expect(vertical?.frontMm).toBeCloseTo(-0.025, 12);
    expect(vertical?.backMm).toBeCloseTo(0.075, 12);
    expect(words.slice(0, 2)).toEqual(['From under the front feet 0.03 mm away.', 'Under the back feet 0.08 mm more.']);
  });
  it('any place of the motor comes back from its dials, whatever the bar sags', () => {
    const small = fc.double({ min: -1, max: 1, noNaN: true });
    const tilt = fc.double({ min: -0.002, max: 0.002, noNaN: true });
    fc.assert(
      fc.property(
        small,
        small,
        tilt,
        tilt,
        fc.double({ min: -0.3, max: 0, noNaN: true }),
        (low, right, slope, turn, sag) => {
          const found = couple({ ...dials(low, right, slope, turn, sag), frontMm: 150, backMm: 400 });
          expect(found.vertical?.frontMm).toBeCloseTo(low + 150 * slope, 9);
          expect(found.vertical?.backMm).toBeCloseTo(low + 400 * slope, 9);
          expect(found.horizontal?.backMm).toBeCloseTo(right + 400 * turn, 9);
        },
      ),
    );
  });
  it.each([
    [1470, 0.05, 'pass'],
    [1470, 0.0501, 'attention'],
    [1470, 0.1, 'attention'],
    [1470, 0.1001, 'fail'],
    [1800, 0.05, 'pass'],
    [2950, 0.03, 'pass'],
    [2950, 0.0301, 'attention'],
    [2950, 0.0601, 'fail'],
  ] as const)('at %s r/min an offset of %s mm: %s', (rpm, low, verdict) => {
    expect(couple({ ...dials(low, 0, 0, 0), rpm }).verdict).toBe(verdict);
  });
  it.each([
    [0.0005, 'pass'],
    [0.000501, 'attention'],
    [0.0008, 'attention'],
    [0.000801, 'fail'],
  ] as const)('a slope of %s: %s', (slope, verdict) => {
    expect(couple(dials(0, 0, slope, 0)).verdict).toBe(verdict);
  });
  it('readings that do not close, or feet that cannot be, are not judged', () => {
    const { rim, ...rest } = dials(0.02, 0, 0, 0);
    expect(couple({ ...rest, rim: { ...rim, left: rim.left + 0.05 } }).verdict).toBe('pass');
    expect(couple({ ...rest, rim: { ...rim, left: rim.left + 0.051 } }).reason).toMatch(/do not close/);
    expect(couple({ frontMm: 420 }).reason).toMatch(/back feet lie further/);
    expect(couple({ calibrationExpired: true }).verdict).not.toBe('pass');
  });
  it('words: nothing for less than two hundredths, left and right named', () => {
    expect(couple({ ...dials(0.019, -0.04, 0, 0) }).words).toEqual([
      'Under the front feet nothing.',
      'Under the back feet nothing.',
      'The front feet 0.04 mm to the right.',
      'The back feet 0.04 mm to the right.',
    ]);
  });
});

const assemble = (x: object) => assemblyFigures.compute(assemblyFigures.input.parse(x), undefined);

describe('assembly figures', () => {
  it.each([
    [{ heatedC: 110 }, 'pass'],
    [{ heatedC: 110.1 }, 'fail'],
    [{ endFloatMm: 0.05 }, 'pass'],
    [{ endFloatMm: 0.049 }, 'attention'],
    [{ endFloatMm: 0.5 }, 'pass'],
    [{ endFloatMm: 0.51 }, 'attention'],
    [{ softFootMm: 0.05 }, 'pass'],
    [{ softFootMm: 0.051 }, 'attention'],
    [{ softFootMm: 0.1 }, 'attention'],
    [{ softFootMm: 0.101 }, 'fail'],
    [{ gapDriveMm: [0.45, 0.55, 0.5, 0.5] }, 'pass'],
    [{ gapDriveMm: [0.449, 0.551, 0.5, 0.5] }, 'fail'],
    [{ gapOtherMm: [0.449, 0.551, 0.5, 0.5] }, 'fail'],
    [{ rotorRunOutMm: 0.02 }, 'cannot judge'],
    [{ rotorRunOutMm: 0.025, gapDriveMm: [0.5, 0.5, 0.5, 0.5] }, 'pass'],
    [{ rotorRunOutMm: 0.0251, gapDriveMm: [0.5, 0.5, 0.5, 0.5] }, 'fail'],
    [{ shaftMm: 42.002, shaftLowMm: 42.002, shaftHighMm: 42.018 }, 'pass'],
    [{ shaftMm: 42.019, shaftLowMm: 42.002, shaftHighMm: 42.018 }, 'fail'],
    [{ shaftMm: 42.001, shaftLowMm: 42.002, shaftHighMm: 42.018 }, 'fail'],
    [{ shaftRunOutMm: 0.05, shaftMm: 42 }, 'pass'],
    [{ shaftRunOutMm: 0.051, shaftMm: 42 }, 'fail'],
    [{ shaftRunOutMm: 0.01 }, 'cannot judge'],
    [{ torqueNm: 45, torqueWantedNm: 50 }, 'pass'],
    [{ torqueNm: 44.9, torqueWantedNm: 50 }, 'fail'],
    [{ brakePercent: 85 }, 'pass'],
    [{ brakePercent: 85.1 }, 'fail'],
    [{ rotation: 'yes' }, 'pass'],
    [{ rotation: 'no' }, 'fail'],
    [{ blower: 'no' }, 'fail'],
    [{ encoder: 'no' }, 'fail'],
    [{ encoder: 'not fitted' }, 'cannot judge'],
    [{ noiseDb: 72 }, 'cannot judge'],
    [{ noiseDb: 72, noiseMostDb: 72 }, 'pass'],
    [{ noiseDb: 72.1, noiseMostDb: 72 }, 'fail'],
    [{}, 'cannot judge'],
    [{ rotation: 'yes', calibrationExpired: true }, 'attention'],
  ])('%j: %s', (x, verdict) => {
    expect(assemble(x).verdict).toBe(verdict);
  });
  it('the shop’s own limits count', () => {
    expect(assemble({ heatedC: 120, limits: { 'assembly.bearingHeatC': 120 } }).verdict).toBe('pass');
  });
  it('run-out of a shaft by its diameter: IEC 60072-1, from memory', () => {
    expect([9, 10, 10.1, 18, 28, 30, 38, 50, 65, 80, 110, 120, 130].map(shaftRunOutMm)).toEqual([
      0.03, 0.03, 0.035, 0.035, 0.04, 0.04, 0.05, 0.05, 0.06, 0.06, 0.07, 0.07, 0.08,
    ]);
  });
  it('three gaps of four are sent back with the missing one', () => {
    const typed = { gapD1: 0.0004, gapD2: 0.0004, gapD4: 0.0004 };
    expect(assemblyTest.lacks?.(typed, { waves: false })).toMatchObject({ field: 'gapD3' });
    expect(assemblyTest.lacks?.({ ...typed, gapD3: 0.0004 }, { waves: false })).toBeUndefined();
  });
  it('mean gap and what is furthest off it are told', () => {
    const found = assemble({ gapDriveMm: [0.5, 0.5, 0.5, 0.5], gapOtherMm: [0.38, 0.42, 0.4, 0.4] });
    expect(found.gapMeanMm).toBeCloseTo(0.45, 12);
    expect(found.gapOffPercent).toBeCloseTo(5, 9);
  });
});

describe('final quality list', () => {
  const list = (no: string[], by = 'Odd') =>
    finalList.compute(
      finalList.input.parse({ items: FINAL_ITEMS.map((i) => ({ ...i, is: no.includes(i.id) ? 'no' : 'yes' })), by }),
      undefined,
    );
  it('one no is not yet; else it is signed', () => {
    expect(list(['paint'])).toEqual({ verdict: 'fail', reason: 'Not yet: Paint whole, plate readable.' });
    expect(list([]).reason).toBe('10 of 10 looked at and right, the rest not fitted; signed Odd.');
    expect(finalList.compute(finalList.input.parse({ items: [] }), undefined).verdict).toBe('cannot judge');
  });
});
