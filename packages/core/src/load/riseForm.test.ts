import { describe, expect, it } from 'vitest';
import { temperatureRise, temperatureRiseTest } from './riseTest.ts';

const readings = [25, 50, 75, 100, 125, 150].map((seconds) => ({ seconds, ohm: 0.6 + 0.2 * Math.exp(-seconds / 600) }));
const run = (x: object = {}) => {
  const steps: { name: string; formula: string; numbers: string }[] = [];
  const values = temperatureRise.compute(
    temperatureRise.input.parse({
      coldOhm: 0.62,
      coldC: 21,
      coolantC: 24,
      ratedKW: 11,
      thermalClass: 'F',
      readings,
      ...x,
    }),
    (s) => steps.push(s as never),
  );
  return { ...values, steps };
};

describe('a temperature rise told whole', () => {
  it('drawn back: rise, each reading, time constant, fit, hottest, life, with its working', () => {
    const found = run();
    expect(found.how).toBe('extrapolated');
    expect(found.rises).toHaveLength(6);
    expect(found.rises?.[0]?.seconds).toBe(25);
    expect(found.rises?.[0]?.riseK).toBeCloseTo(((readings[0]?.ohm ?? 0) / 0.62) * (235 + 21) - 235 - 24, 9);
    expect(found.timeConstantS).toBeGreaterThan(100);
    expect(found.r2).toBeGreaterThan(0.9);
    expect(found.hottestC).toBeCloseTo((found.riseK ?? 0) + 24, 9);
    expect(found.lifeH).toBeGreaterThan(1000);
    expect(found.steps[0]).toMatchObject({ formula: 'exp of the line of ln Δθ at t = 0' });
    expect(found.steps[0]?.numbers).toMatch(/^6 readings, k = 235/);
    expect(found.reason).toMatch(/drawn back to the switch, time constant/);
  });
  it('one reading in time: no time constant, no fit', () => {
    const found = run({ readings: readings.slice(0, 1) });
    expect(found.how).toBe('first reading in time');
    expect(found).not.toHaveProperty('timeConstantS');
    expect(found).not.toHaveProperty('r2');
    expect(found.steps[0]).toMatchObject({ formula: '(R₂/R₁)(k + t₁) − k − t_a' });
    expect(found.steps[0]?.numbers).toMatch(/^1 reading, /);
    expect(found.reason).toContain('(first reading in time)');
  });
  it('without a class no limit and no life; without output nothing is judged; why there is no rise is said', () => {
    const open = run({ thermalClass: undefined });
    expect(open.verdict).toBe('cannot judge');
    expect(open).not.toHaveProperty('limitK');
    expect(open).not.toHaveProperty('lifeH');
    expect(run({ ratedKW: undefined })).toMatchObject({ verdict: 'cannot judge', how: 'none' });
    const late = run({ readings: [{ seconds: 500, ohm: 0.7 }] });
    expect(late.reason).toMatch(/^No rise: the first reading came after 500 s/);
    expect(run({ thermalClass: 'N' }).reason).toMatch(/names no limit for class N/);
  });
  it('the height is named from above 1000 m', () => {
    expect(run({ altitudeM: 1000 }).reason).not.toContain('m high');
    expect(run({ altitudeM: 1001 }).reason).toContain('1001 m high');
  });
});

describe('the form of a temperature rise', () => {
  const read = { coldOhm: 0.62, coldC: 21, coolantC: 24, seconds: [25, 50], ohms: [0.78, 0.77], thermalClass: 'F' };
  it('hands over readings, plate and conductor', () => {
    const of = (context: object) => temperatureRiseTest.input?.(read, context as never);
    expect(of({ nameplate: { outputW: 11_000, ambientC: 50 }, record: { material: 'aluminium' } })).toMatchObject({
      readings: [
        { seconds: 25, ohm: 0.78 },
        { seconds: 50, ohm: 0.77 },
      ],
      ratedKW: 11,
      k: 225,
      ratedCoolantC: 50,
    });
    expect(of({ nameplate: {} })).toMatchObject({ ratedKW: undefined, k: undefined });
    expect(of({ nameplate: {}, record: { material: 'copper' } })).toMatchObject({ k: undefined });
  });
  it('takes the class of the plate as a beginning', () => {
    const due = (nameplate: object) => temperatureRiseTest.due?.({ nameplate } as never);
    expect(due({ insulationClass: 'H' })).toMatchObject({ typed: { thermalClass: 'H' } });
    expect(due({ insulationClass: 'H' })?.says.join(' ')).toContain('Plate: class H');
    expect(due({})).not.toHaveProperty('typed');
    expect(due({})?.says).toHaveLength(2);
  });
});
