import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { runCalculation } from '../calculation.ts';
import { awgDiameterM } from '../wire/gauge.ts';
import type { WindingRecord } from '../winding/record.ts';
import { redesign, redesignWishSchema, windingRedesign, type Candidate, type RedesignWish } from './redesign.ts';
import { allMixes, substitutes, wireSubstitute } from './substitute.ts';

const M1: WindingRecord = {
  slots: 36,
  poles: 4,
  layers: 'double',
  form: 'lap',
  spansSlots: [8],
  turns: [34],
  strands: [{ count: 2, bareM: 0.00085, label: '0.85' }],
  wireGrade: '2',
  circuits: 2,
  connection: 'delta',
  leads: '3',
  boreM: 0.15,
  coreLengthM: 0.14,
  toothWidthM: 0.007,
  backIronM: 0.025,
  slotDepthM: 0.024,
  slotAreaM2: 185e-6,
  slotNetAreaM2: 158e-6,
};
const plate = { outputW: 11000, voltagesV: [400], currentsA: [22], frequencyHz: 50, speedRpm: 1455 };
const stock = [0.5, 0.56, 0.6, 0.63, 0.67, 0.71, 0.75, 0.8, 0.85, 0.9, 0.95, 1, 1.06, 1.12].map((d) => ({
  bareM: d / 1000,
  label: String(d),
  massKg: 40,
  pricePerKg: 14,
}));
const wish = (x: Partial<RedesignWish>): RedesignWish => redesignWishSchema.parse(x);
const search = (x: Partial<RedesignWish>, record = M1) => redesign(record, plate, wish(x), stock, { many: 200 });

/** Winding reference 9.1, table M1 →, ids 73 to 76 (derived there). */
describe('exact turns of a changed winding', () => {
  it.each([
    ['1 circuit', { circuits: 1, connection: 'delta', spanSlots: 8 }, 17, 17, 0],
    ['4 circuits', { circuits: 4, connection: 'delta', spanSlots: 8 }, 68, 68, 0],
    ['wye, 2 circuits', { circuits: 2, connection: 'wye', spanSlots: 8 }, 19.63, 20, -1.85],
    ['wye, 4 circuits', { circuits: 4, connection: 'wye', spanSlots: 8 }, 39.26, 39, 0.67],
    [
      '460 V 60 Hz',
      { lineVoltageV: 460, frequencyHz: 60, circuits: 2, connection: 'delta', spanSlots: 8 },
      32.58,
      33,
      -1.3,
    ],
    ['span 1-8', { circuits: 2, connection: 'delta', spanSlots: 7 }, 35.63, 36, -1.0],
    ['6 poles, 1-6', { poles: 6, circuits: 2, connection: 'delta', spanSlots: 5 }, 51.67, 52, -0.6],
  ] as [string, Partial<RedesignWish>, number, number, number][])('%s', (_, x, exact, turns, flux) => {
    const hit = search({ ...x, mostWires: 8, mostSizes: 2 }).candidates.find((c) => c.turns === turns);
    expect(hit, JSON.stringify(search(x).refusals)).toBeDefined();
    expect(hit?.exactTurns).toBeCloseTo(exact, 2);
    expect(hit?.fluxErrorPercent).toBeCloseTo(flux, 1);
  });
  it('M1 → wye: 19.630 exact, 20 turns −1.85 %; → 6 poles 51.667 (ids 73–75)', () => {
    const wye = search({ circuits: 2, connection: 'wye', spanSlots: 8 }).candidates.find(
      (c) => c.turns === 20,
    ) as Candidate;
    expect(wye.exactTurns).toBeCloseTo(19.63, 3);
    expect(wye.fluxErrorPercent).toBeCloseTo(-1.85, 2);
    expect(wye.airGapT).toBeCloseTo(0.873, 3);
    expect(wye.backIronT).toBeCloseTo(1.378, 3);
    const six = search({ poles: 6, circuits: 2, connection: 'delta', spanSlots: 5 }).candidates.find(
      (c) => c.turns === 52,
    ) as Candidate;
    expect(six.exactTurns).toBeCloseTo(51.667, 2);
    expect(six.backIronT).toBeCloseTo(0.93, 2);
  });
  it('2 poles are refused: the back iron would carry 2.81 T (id 76)', () => {
    const two = search({ poles: 2, connection: 'delta', circuits: 2 });
    expect(two.candidates).toEqual([]);
    expect(two.refusals.join(' ')).toMatch(/2\.81 T, above 2\.1 T/);
  });
});

describe('the search', () => {
  it('as found comes back as one of the best', () => {
    const top = search({ circuits: 2, connection: 'delta' }).candidates.slice(0, 10);
    expect(top.some((c) => c.turns === 34 && c.spanSlots === 8)).toBe(true);
    const same = top.find(
      (c) => c.turns === 34 && c.spanSlots === 8 && c.strands.length === 1 && c.strands[0]?.bareM === 0.00085,
    );
    expect(same?.lossChangePercent ?? 0).toBeCloseTo(0, 6);
  });
  const wishes = fc.record({
    lineVoltageV: fc.constantFrom(undefined, 380, 440, 460, 500),
    frequencyHz: fc.constantFrom(undefined, 60),
    poles: fc.constantFrom(undefined, 4, 6),
    connection: fc.constantFrom(undefined, 'wye' as const, 'delta' as const),
    circuits: fc.constantFrom(undefined, 1, 2),
    powerRatio: fc.constantFrom(1, 0.9, 1.1),
    mostWires: fc.constantFrom(3, 4),
  });
  it('its best ten equal those of looking at everything, and no candidate breaks a limit it claims to keep', () => {
    fc.assert(
      fc.property(wishes, (x) => {
        const clean = Object.fromEntries(Object.entries(x).filter(([, v]) => v !== undefined));
        const fast = redesign(M1, plate, wish(clean), stock, { many: 10 });
        const slow = redesign(M1, plate, wish(clean), stock, { many: 10, plain: true });
        expect(fast.candidates).toEqual(slow.candidates);
        expect(fast.kept).toBe(slow.kept);
        for (const c of fast.candidates) {
          expect(Math.abs(c.fluxErrorPercent)).toBeLessThanOrEqual(5);
          expect(c.fill ?? 0).toBeLessThanOrEqual(0.88);
          expect(c.airGapT).toBeLessThanOrEqual(1.3);
          expect(c.toothT ?? 0).toBeLessThanOrEqual(2.2);
          expect(c.backIronT ?? 0).toBeLessThanOrEqual(2.1);
          expect(c.strands.reduce((n, s) => n + s.count, 0)).toBeLessThanOrEqual(x.mostWires);
          expect(c.strands.length).toBeLessThanOrEqual(2);
          for (const s of c.strands) expect(stock.some((w) => w.bareM === s.bareM)).toBe(true);
        }
        expect(fast.candidates.length + fast.refusals.length).toBeGreaterThan(0);
      }),
      { numRuns: 40 },
    );
  });
  it('circuits that do not work and a record with holes are refused with a sentence', () => {
    expect(search({ circuits: 3 }).refusals.join(' ')).toMatch(/3 circuits would not be equal/);
    expect(() => runCalculation(windingRedesign, { record: { slots: 36, poles: 4 }, nameplate: {}, stock })).toThrow(
      /complete: spansSlots/,
    );
  });
  it('warns of tight stock', () => {
    const poor = redesign(
      M1,
      plate,
      wish({ circuits: 2, connection: 'delta' }),
      stock.map((s) => ({ ...s, massKg: 0.5 })),
      {},
    );
    expect(poor.candidates.every((c) => !c.enoughInStock && c.warnings.join().includes('stock'))).toBe(true);
  });
});

/** Winding reference 12.3. */
describe('wire substitution', () => {
  const awg = (n: number) => ({ bareM: awgDiameterM(n), label: `AWG ${n}` });
  it('1 × AWG 14 from gauge sizes', () => {
    const mixes = allMixes([17, 18, 19, 20, 21].map(awg), 4, 2);
    const found = substitutes(mixes, (Math.PI * awgDiameterM(14) ** 2) / 4, 0.01).map(
      (m) => `${m.strands.map((s) => `${s.count} × ${s.label}`).join(' + ')} (${(100 * m.error).toFixed(2)} %)`,
    );
    expect(found).toContain('2 × AWG 17 (-0.25 %)');
    expect(found).toContain('4 × AWG 20 (-0.50 %)');
    expect(found).toContain('2 × AWG 20 + 1 × AWG 17 (-0.38 %)');
  });
  it('1.1349 mm²: five mixes of up to two sizes within 1 %', () => {
    const sizesMm = [0.6, 0.63, 0.67, 0.71, 0.75, 0.8, 0.9, 0.95, 1, 1.06, 1.12];
    const { found } = runCalculation(wireSubstitute, { targetMm2: 1.1349, sizesMm }).values;
    const two = found.filter((f) => f.sizes <= 2);
    expect(two).toHaveLength(5);
    expect(two.slice(0, 4).map((f) => [f.say, f.errorPercent.toFixed(2)])).toEqual([
      ['1x0.67 + 1x1', '0.27'],
      ['4x0.6', '-0.35'],
      ['1x0.8 + 1x0.9', '0.35'],
      ['2x0.63 + 1x0.8', '-0.78'],
    ]);
  });
  it('2.5 mm²: three mixes', () => {
    const { found } = runCalculation(wireSubstitute, {
      targetMm2: 2.5,
      sizesMm: [0.8, 0.85, 0.9, 0.95, 1, 1.06, 1.12],
    }).values;
    const two = found.filter((f) => f.sizes <= 2);
    expect(two.map((f) => [f.say, f.errorPercent.toFixed(2)])).toEqual([
      ['3x0.8 + 1x1.12', '-0.27'],
      ['3x0.85 + 1x1', '-0.49'],
      ['1x0.85 + 3x0.9', '-0.96'],
    ]);
  });
  it('equals trying everything; nothing wider than the opening', () => {
    const sizes = [0.5, 0.6, 0.71, 0.8].map((d) => ({ bareM: d / 1000, label: String(d) }));
    const mixes = allMixes(sizes, 4, 2);
    let plain = 0;
    for (let a = 0; a <= 4; a++)
      for (let b = 0; a + b <= 4; b++)
        for (let c = 0; a + b + c <= 4; c++)
          for (let d = 0; a + b + c + d <= 4; d++) {
            const used = [a, b, c, d].map((n, i) => (n > 0 ? i : -1)).filter((i) => i >= 0);
            if (used.length === 0 || used.length > 3) continue;
            const [lo, hi] = [
              sizes[used[0] as number] as (typeof sizes)[number],
              sizes[used[used.length - 1] as number] as (typeof sizes)[number],
            ];
            if (hi.bareM <= 1.6 * lo.bareM) plain += 1;
          }
    expect(mixes).toHaveLength(plain);
    expect(allMixes(sizes, 4, 2, 0.00065).every((m) => m.strands.every((s) => s.bareM < 0.0007))).toBe(true);
    expect(() => runCalculation(wireSubstitute, { sizesMm: [1] })).toThrow(/Give the area wanted/);
  });
});
