import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { assemblyFigures, assemblyTest, shaftRunOutMm } from './assemblyFigures.ts';
import { coupling, couplingTest } from './coupling.ts';
import { FINAL_ITEMS, finalList, finalListTest } from './finalList.ts';

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
    expect(couple({ frontMm: 420 })).toMatchObject({
      reason: expect.stringMatching(/back feet lie further/),
      words: [],
    });
    expect(couple({ calibrationExpired: true }).verdict).not.toBe('pass');
  });
  it('what the bar reads at the bottom is taken off, zeros that are not at the top too', () => {
    const { rim, face, ...rest } = dials(0.02, 0.03, 0.0004, -0.0002, -0.08);
    const moved = (d: typeof rim, by: number) =>
      Object.fromEntries(Object.entries(d).map(([k, v]) => [k, v + by])) as typeof rim;
    const found = couple({ ...rest, rim: moved(rim, 0.4), face: moved(face, -0.3) });
    expect(found.vertical?.offsetMm).toBeCloseTo(0.02, 9);
    expect(found.vertical?.angle).toBeCloseTo(0.04, 9);
    expect(found.horizontal?.angle).toBeCloseTo(-0.02, 9);
  });
  it('shows what each foot is corrected by', () => {
    const steps: { name: string; numbers: string; value: number }[] = [];
    coupling.compute(coupling.input.parse(coupling.example), (s) => steps.push(s as never));
    expect(steps.map((s) => s.name)).toEqual([
      'Correction upright, front feet',
      'Correction upright, back feet',
      'Correction sideways, front feet',
      'Correction sideways, back feet',
    ]);
    expect(steps[1]).toMatchObject({ numbers: '-0.1 + 0.000417 · 420', value: expect.closeTo(0.075, 9) });
    expect(steps[0]?.numbers).toMatch(/· 180$/);
  });
  it('quotes the figure that decides, finer above the speed that the shop names', () => {
    expect(couple({ ...dials(0.04, 0, 0, 0), rpm: 1470 }).reason).toContain('Offset 0.04 mm, at most 0.05 mm');
    expect(couple({ ...dials(0.07, 0, 0, 0), rpm: 1470 }).reason).toContain('Offset 0.07 mm, at most 0.1 mm');
    expect(couple({ ...dials(0.04, 0, 0, 0), rpm: undefined }).verdict).toBe('pass');
    expect(couple({ ...dials(0.04, 0, 0, 0), rpm: 1800 }).verdict).toBe('pass');
    expect(couple({ ...dials(0.04, 0, 0, 0), rpm: 1801 }).verdict).toBe('attention');
    expect(couple({ ...dials(0.04, 0, 0, 0), rpm: 1801, limits: { 'coupling.fastRpm': 2000 } }).verdict).toBe('pass');
  });
  it('the form hands over millimetres and the speed of the plate', () => {
    const metres = { rimtop: 0, rimright: -0.00013, rimbottom: -0.00026, rimleft: -0.00013, facetop: 0 };
    const read = { ...metres, faceDiameter: 0.12, front: 0.18, back: 0.42 };
    const input = couplingTest.input?.(read, { nameplate: { speedRpm: 1470 } } as never) as Record<string, unknown>;
    expect(input).toMatchObject({ faceDiameterMm: 120, frontMm: 180, backMm: 420, rpm: 1470, sagMm: undefined });
    expect((input['rim'] as { bottom: number }).bottom).toBeCloseTo(-0.26, 12);
    expect(couplingTest.due?.({} as never)?.says[0]).toMatch(/^Isolated, locked and proved dead/);
    expect(couplingTest.needsWholeMotor).toBe(true);
    expect(couplingTest.for?.({} as never)).toBe(true);
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

it('two hundredths are moved, the way is named, the shop may want more', () => {
  const { words } = couple(dials(0.02, 0.02, 0, 0));
  expect(words).toEqual([
    'Under the front feet 0.02 mm more.',
    'Under the back feet 0.02 mm more.',
    'The front feet 0.02 mm to the left.',
    'The back feet 0.02 mm to the left.',
  ]);
  expect(couple({ ...dials(0.02, 0.019, 0, 0), limits: { 'coupling.noShimMm': 0.03 } }).words).toEqual([
    'Under the front feet nothing.',
    'Under the back feet nothing.',
    'The front feet stay where they are sideways.',
    'The back feet stay where they are sideways.',
  ]);
  expect(couple({ ...dials(-0.02, 0, 0, 0) }).words[0]).toBe('From under the front feet 0.02 mm away.');
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
  it('says what was measured of what was wanted, one thing for each', () => {
    const reason = (x: object) => assemble(x).reason;
    expect(reason({ torqueNm: 45, torqueWantedNm: 50 })).toBe(
      'Bolts at 45 N m of 50 wanted, within 10 % (common practice).',
    );
    expect(reason({ heatedC: 105 })).toBe('Bearing heated to 105 °C, at most 110 °C (common practice).');
    expect(reason({ softFootMm: 0.03 })).toMatch(/^Soft foot 0.03 mm, good up to 0.05 mm/);
    expect(reason({ noiseDb: 72, noiseMostDb: 74 })).toBe('Noise 72 dB(A), at most 74 dB(A) as ordered.');
    expect(reason({ rotation: 'yes', blower: 'no' })).toBe('Not: blower turns its right way. It turns as ordered.');
    expect(reason({ shaftMm: 42, shaftLowMm: 41.99, shaftHighMm: 42.01, shaftRunOutMm: 0.02 })).toBe(
      'Shaft 42 mm, 41.99 to 42.01 mm wanted. Run-out of the shaft 0.02 mm, at most 0.05 mm (IEC 60072-1, from memory).',
    );
    expect(reason({ shaftRunOutMm: 0.02 })).toMatch(/^The run-out of the shaft is judged by its diameter/);
    expect(reason({ rotorRunOutMm: 0.02 })).toMatch(/^The run-out of the rotor is judged against the air gap/);
  });
  it.each([
    [{ torqueNm: 45 }],
    [{ torqueWantedNm: 45 }],
    [{ shaftMm: 42 }],
    [{ shaftMm: 42, shaftLowMm: 41 }],
    [{ shaftMm: 42, shaftHighMm: 43 }],
    [{ shaftLowMm: 41, shaftHighMm: 43 }],
  ])('half of a pair judges nothing: %o', (x) => {
    expect(assemble(x)).toEqual({ verdict: 'cannot judge', reason: 'Nothing was measured.' });
  });
  it('seats of bearings are judged with the rest; half a seat is sent back', () => {
    const seats = { journalD: 0.045008, journalDNominal: 0.045, housingO: 0.100025, housingONominal: 0.1 };
    expect(assemblyTest.lacks?.(seats, { waves: false })).toBeUndefined();
    const input = assemblyTest.input?.({ ...seats, journalFit: 'm5' }, {} as never) as { fits: object[] };
    expect(input.fits).toMatchObject([
      {
        end: 'drive',
        of: 'journal',
        fit: 'm5',
        nominalMm: expect.closeTo(45, 9),
        measuredMm: expect.closeTo(45.008, 9),
      },
      { end: 'other', of: 'housing', fit: 'H6', nominalMm: 100 },
    ]);
    const { verdict, reason } = assemble(input);
    expect(verdict).toBe('fail');
    expect(reason).toMatch(/^Drive-end journal 45.008 mm; 45.009 to 45.020 mm is m5.*Other-end housing/);
    expect(assemblyTest.lacks?.({ journalO: 0.045 }, { waves: false })).toMatchObject({
      field: 'journalONominal',
      message: 'Other end, journal: the size of the bearing there is wanted too.',
    });
    expect(assemblyTest.lacks?.({ housingDNominal: 0.5 }, { waves: false })?.field).toBe('housingDNominal');
  });
  it('the gap has a mean only where it was measured, with its working', () => {
    const steps: { name: string; numbers: string }[] = [];
    const of = (x: object) => assemblyFigures.compute(assemblyFigures.input.parse(x), (s) => steps.push(s as never));
    expect(of({ heatedC: 90 }).gapMeanMm).toBeUndefined();
    expect(steps).toEqual([]);
    of({ gapDriveMm: [0.5, 0.5, 0.5, 0.5] });
    expect(steps).toMatchObject([{ name: 'Mean air gap', numbers: '0.5, 0.5, 0.5, 0.5' }]);
  });
  it('the first gap that is missing is named, gaps are handed over in millimetres', () => {
    const typed = { gapO2: 0.0004, gapO3: 0.0004, gapO4: 0.0004 };
    expect(assemblyTest.lacks?.(typed, { waves: false })?.field).toBe('gapO1');
    const input = assemblyTest.input?.({ ...typed, gapO1: 0.0005, endFloat: 0.0002 }, {} as never);
    expect(input).toMatchObject({ gapOtherMm: [0.5, 0.4, 0.4, 0.4], endFloatMm: 0.2, gapDriveMm: undefined });
    expect(assemblyTest.needsWholeMotor).toBe(true);
  });
  it('the shop’s own limits count', () => {
    expect(assemble({ torqueNm: 43, torqueWantedNm: 50, limits: { 'assembly.torquePercent': 15 } }).verdict).toBe(
      'pass',
    );
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
  it('what is not fitted is left out; without a name nobody has signed', () => {
    const of = (x: object) => finalList.compute(finalList.input.parse(x), undefined);
    const items = [
      { id: 'paint', title: 'Paint whole', is: 'yes' },
      { id: 'key', title: 'Key', is: 'not fitted' },
    ];
    expect(of({ items, by: 'Odd' }).reason).toBe('1 of 2 looked at and right, the rest not fitted; signed Odd.');
    expect(of({ items: [{ id: 'key', title: 'Key', is: 'not fitted' }], by: 'Odd' }).verdict).toBe('cannot judge');
  });
  it('the form hands over what was said of each thing, and who signs', () => {
    const context = { nameplate: {} } as never;
    const read = Object.fromEntries(FINAL_ITEMS.map((i) => [i.id, 'yes']));
    expect(finalListTest.input?.({ ...read, instrument: 'Odd' }, context)).toMatchObject({
      items: FINAL_ITEMS.map((i) => ({ id: i.id, is: 'yes' })),
      by: 'Odd',
    });
    expect((finalListTest.input?.(read, context) as { by?: string }).by).not.toBe('Odd');
  });
});
