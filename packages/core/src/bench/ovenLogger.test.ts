import { describe, expect, it } from 'vitest';
import { resinSchema } from '../process/cure.ts';
import { cureNow, followCure, liveBegun, type LiveSetUp } from '../process/liveCure.ts';
import { airAt, endMin, lagMin, ovenLogger, type OvenFaultAt, type OvenRun } from './ovenLogger.ts';

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

describe('faults of a simulated oven, as a load that is followed sees them', () => {
  const resin = resinSchema.parse({ name: 'r', ratedC: 145, ratedH: 4 });
  const setUp: LiveSetUp = {
    channels: [
      { name: 'air', role: 'oven air' },
      { name: 'small', role: 'part' },
      { name: 'large', role: 'part' },
    ],
    resin,
    maxC: 165,
    maxGapMin: 15,
    overBakeDegree: 3,
    school: 'equivalent time',
    holdToleranceK: 0,
  };
  /** every alarm that the run raises */
  const alarms = (minutes: number, faults: OvenFaultAt[]) => {
    const state = liveBegun(setUp);
    const seen = new Set<string>();
    for (const { s, values } of ovenLogger({ ...run, faults, holdMin: 600 }, 60)) {
      followCure(state, setUp, s / 60, values);
      cureNow(state, setUp).alarms.forEach((a) => seen.add(a.code));
      if (s / 60 >= minutes) break;
    }
    return [...seen];
  };
  it('a sound run raises none', () => expect(alarms(400, [])).toEqual([]));
  it.each([
    ['probe falls', 60, 'fell_off'],
    ['probe sticks', 60, 'stuck'],
    ['door opens', 200, 'door_opened'],
    ['burner out', 200, 'door_opened'],
  ] as const)('%s at minute %i: %s', (what, fromMin, code) => expect(alarms(400, [{ what, fromMin }])).toContain(code));
  it('a stuck probe is that of the part named, and no other', () => {
    const stuck = (part: number) =>
      read(120, { faults: [{ what: 'probe sticks', fromMin: 50, part }] }).map((v) => v[1 + part]);
    expect(new Set(stuck(0).slice(50)).size).toBe(1);
    expect(new Set(stuck(1).slice(50)).size).toBe(1);
    expect(new Set(read(120).map((v) => v[1])).size).toBeGreaterThan(40);
  });
  it('the air falls while the door is open and comes back', () => {
    const of = { ...run, faults: [{ what: 'door opens' as const, fromMin: 100 }] };
    expect(airAt(of, 99.9)).toBe(150);
    expect(airAt(of, 104)).toBeLessThan(90);
    expect(airAt(of, 180)).toBeGreaterThan(149);
  });
  it('a dead burner lets the oven cool for good', () => {
    const of = { ...run, faults: [{ what: 'burner out' as const, fromMin: 100 }] };
    expect(airAt(of, 100)).toBe(150);
    expect(airAt(of, 190)).toBeCloseTo(20 + 130 * Math.exp(-1), 6);
    expect(airAt({ ...of, coolsMin: 360 }, 190)).toBeCloseTo(20 + 130 * Math.exp(-0.25), 6);
  });
});
