import { describe, expect, it } from 'vitest';
import { airAt, endMin, lagMin, ovenLogger, type OvenRun } from './ovenLogger.ts';

const run: OvenRun = {
  parts: [
    { name: 'small', massKg: 20 },
    { name: 'large', massKg: 160 },
  ],
  ambientC: 20,
  rampKMin: 3,
  holdC: 150,
  holdMin: 240,
  seed: 7,
};
const read = (n: number, more: Partial<OvenRun> = {}, step = 60) => {
  const out: number[][] = [];
  for (const { values } of ovenLogger({ ...run, ...more }, step)) if (out.push(values) >= n) break;
  return out;
};

describe('a simulated oven logger', () => {
  it('is the same for a seed, another for another', () => {
    expect(read(50)).toEqual(read(50));
    expect(read(50, { seed: 8 })).not.toEqual(read(50));
  });
  it('parts follow the ramp r·(t − τ(1 − e^(−t/τ))) (docs/derivations.md 14)', () => {
    for (const [k, part] of run.parts.entries()) {
      const tau = lagMin(part.massKg);
      const t = 40;
      const expected = 20 + 3 * (t - tau * (1 - Math.exp(-t / tau)));
      expect(Math.abs((read(41)[40]?.[k + 1] ?? 0) - expected)).toBeLessThan(0.4);
    }
  });
  it('a heavy part lags twice as long as one of an eighth of its mass', () => {
    expect(lagMin(160) / lagMin(20)).toBeCloseTo(2, 12);
    const [small, large] = read(60)[59]?.slice(1) ?? [];
    expect(small).toBeGreaterThan((large ?? 0) + 20);
  });
  it('the step does not change what is read', () => {
    const coarse = read(61, {}, 60)[60] ?? [];
    const fine = read(721, {}, 5)[720] ?? [];
    coarse.forEach((c, i) => expect(Math.abs(c - (fine[i] ?? 0))).toBeLessThan(1.5));
  });
  it('air: ramp, hold, off', () => {
    expect([airAt(run, -5), airAt(run, 0), airAt(run, 10), airAt(run, 43.3), airAt(run, 100)]).toEqual([
      20,
      20,
      50,
      expect.closeTo(149.9, 6),
      150,
    ]);
    const off = 130 / 3 + 240;
    expect(airAt(run, off - 0.01)).toBe(150);
    expect(airAt(run, off + 90)).toBeCloseTo(20 + 130 / Math.E, 6);
    expect(airAt(run, endMin(run))).toBeCloseTo(60, 6);
  });
  it('reads in tenths and stays within the noise of a thermocouple', () => {
    for (const [air] of read(200).slice(60)) {
      expect(Math.abs((air ?? 0) - 150)).toBeLessThanOrEqual(0.65);
      expect(Math.round((air ?? 0) * 10)).toBeCloseTo((air ?? 0) * 10, 9);
    }
  });
});
