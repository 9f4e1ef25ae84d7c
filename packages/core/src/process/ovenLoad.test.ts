import { describe, expect, it } from 'vitest';
import { runCalculation } from '../calculation.ts';
import { processBurnOff } from './burnOff.ts';
import { cureLeft } from './countdown.ts';
import { cureRate, resinSchema } from './cure.ts';
import type { PartNow } from './liveCure.ts';
import {
  burnNow,
  fahrenheitLikely,
  mostC,
  sayUse,
  targetOf,
  whyNotIn,
  whyNotSo,
  type Chamber,
  type OvenPartAsked,
  type PlannedLoad,
} from './ovenLoad.ts';

const oven: Chamber = {
  name: 'Oven 1',
  uses: ['bake', 'dry'],
  doorWidthMm: 1100,
  doorHeightMm: 900,
  mostKg: 800,
  highestC: 200,
};
const load: PlannedLoad = { use: 'bake', resin: 'polyester', setPointC: 150, items: [{ job: 'A', massKg: 500 }] };
const part: OvenPartAsked = {
  job: 'B',
  use: 'bake',
  resin: 'polyester',
  massKg: 300,
  widthMm: 1100,
  heightMm: 900,
};
const fields = (of: Partial<OvenPartAsked>, into: Partial<PlannedLoad> = {}) =>
  whyNotIn(oven, { ...load, ...into }, { ...part, ...of }).map((f) => f.field);

describe('what may go into an oven', () => {
  it.each([
    ['as heavy as it takes and as large as the door', {}, []],
    ['heavier by a gram', { massKg: 300.001 }, ['mass']],
    ['weight not said', { massKg: undefined }, ['mass']],
    ['weight of nothing', { massKg: 0 }, ['mass']],
    ['too wide', { widthMm: 1101 }, ['width']],
    ['width not said', { widthMm: undefined }, ['width']],
    ['too high', { heightMm: 900.5 }, ['height']],
    ['no height', { heightMm: 0 }, ['height']],
    ['another resin', { resin: 'epoxy' }, ['job']],
    ['a resin that nobody said', { resin: undefined }, []],
    ['in it already', { job: 'A' }, ['job']],
    ['to dry', { use: 'dry' as const }, ['job']],
    ['to burn off', { use: 'burn-off' as const }, ['job']],
    ['all of it', { job: 'A', massKg: 301, widthMm: 2000, heightMm: 2000 }, ['job', 'mass', 'width', 'height']],
  ])('%s', (_, of, expected) => expect(fields(of)).toEqual(expected));
  it('burn-off and bake never share an oven, said so either way', () => {
    expect(whyNotIn(oven, load, { ...part, use: 'burn-off' })[0]?.says).toMatch(/never share/);
    expect(whyNotIn(oven, { ...load, use: 'burn-off' }, part)[0]?.says).toMatch(/never share/);
    expect(whyNotIn(oven, load, { ...part, use: 'dry' })[0]?.says).not.toMatch(/never share/);
  });
  it('what dries has no resin to differ by', () =>
    expect(fields({ use: 'dry', resin: 'epoxy' }, { use: 'dry', resin: undefined })).toEqual([]));
});

describe('what a chamber may be set to', () => {
  const so = (of: Partial<PlannedLoad>, more?: { ratedC: number }) =>
    whyNotSo(oven, { use: 'bake', resin: 'polyester', setPointC: 150, ...of }, more).map((f) => f.field);
  it.each([
    [{}, []],
    [{ use: 'dry' as const, resin: undefined }, []],
    [{ use: 'burn-off' as const, resin: undefined }, ['use']],
    [{ resin: undefined }, ['resin']],
    [{ setPointC: 200 }, []],
    [{ setPointC: 201 }, ['setPoint']],
    [{ setPointC: 275 }, ['setPoint', 'setPoint']],
  ])('%o: %o', (of, expected) => expect(so(of)).toEqual(expected));
  it('air as hot as the resin is rated will do, cooler never brings the part there', () => {
    expect(so({ setPointC: 145 }, { ratedC: 145 })).toEqual([]);
    expect(so({ setPointC: 144 }, { ratedC: 145 })).toEqual(['setPoint']);
  });
  it('offers °F where a figure is likely one', () => {
    expect(fahrenheitLikely({ use: 'bake', setPointC: 220 })).toBeUndefined();
    expect(fahrenheitLikely({ use: 'bake', setPointC: 275 })).toBeCloseTo(135, 9);
    expect(fahrenheitLikely({ use: 'burn-off', setPointC: 400 })).toBeUndefined();
    expect(fahrenheitLikely({ use: 'burn-off', setPointC: 680 })).toBeCloseTo(360, 9);
  });
});

describe('what a load is to come to', () => {
  const resin = resinSchema.parse({ name: 'polyester', ratedC: 145, ratedH: 5 });
  it('a bake: its resin', () => expect(targetOf('bake', resin, 160, {})).toBe(resin));
  it('a burn-off: minutes at burning temperature, each as good as another', () => {
    const target = targetOf('burn-off', undefined, 355, { 'route.burnOffMin': 180 });
    expect(target).toMatchObject({ ratedC: 345, ratedH: 3 });
    for (const [c, f] of [
      [344.9, 0],
      [345, 1],
      [358, 1],
    ] as const)
      expect(cureRate(c, target.ratedC, target.rate, target.floorC ?? null, 360)).toBeCloseTo(f, 6);
    expect(cureLeft(target, 360, { degree: 0.5, partC: 350 }).simpleMin).toBeCloseTo(90, 4);
  });
  it('a drying: the part warmed through for so long', () =>
    expect(targetOf('dry', undefined, 110, { 'route.preheatMin': 120 })).toMatchObject({
      ratedC: 90,
      ratedH: 2,
      maxC: 130,
    }));
  it('the highest a part may come to follows the core plate, or the resin', () => {
    const target = targetOf('burn-off', undefined, 355, {});
    expect([mostC('burn-off', target, 'inorganic', {}), mostC('burn-off', target, 'organic', {})]).toEqual([400, 360]);
    expect([mostC('burn-off', target, 'unknown', {}), mostC('burn-off', target, undefined, {})]).toEqual([360, 360]);
    expect(mostC('bake', resin, undefined, {})).toBe(165);
    expect(mostC('dry', targetOf('dry', undefined, 120, {}), undefined, {})).toBe(140);
  });
  it.each(['bake', 'dry', 'burn-off'] as const)('has a verb: %s', (use) => expect(sayUse(use)).toMatch(/^[a-z ]+$/));
});

describe('typed readings in a burn-off', () => {
  it('bridge what the logger lost, within the limit; without them it is a gap', () => {
    const timesMin = [0, 10, 20, 30, 75, 120, 130, 140];
    const run = (typedAtMin: number[]) =>
      runCalculation(processBurnOff, {
        timesMin,
        channels: [{ name: 'teeth', role: 'part', valuesC: [350, 350, 350, 350, 350, 350, 350, 350] }],
        corePlate: 'organic',
        maxGapMin: 15,
        typedAtMin,
      }).values;
    expect(run([]).flags).toContain('log_gap');
    expect(run([]).burningMin).toBe(50);
    expect(run([75]).flags).not.toContain('log_gap');
    expect(run([75]).burningMin).toBe(140);
  });
});

describe('how a burn-off goes on', () => {
  const part = (c: number | undefined, rateKH?: number): PartNow => ({
    name: 'teeth',
    c,
    degree: 0,
    hottest: c ?? 0,
    heldMin: 0,
    totalMin: 0,
    rateKH,
    lag: undefined,
  });
  it.each([
    ['nothing read', undefined, 0, 'heating', undefined],
    ['on its way', 344.9, 0.2, 'heating', undefined],
    ['at temperature', 345, 0.2, 'burning', undefined],
    ['long enough, still hot', 350, 1, 'burning', 345],
    ['falling', 240, 1, 'cooling', 180],
    ['not burned, and cold', 100, 0.5, 'heating', undefined],
    ['at the limit', 120, 1, 'may be opened', undefined],
    ['just above it', 120.1, 1, 'cooling', 0.15],
  ] as const)('%s', (_, c, degree, state, openMin) => {
    const is = burnNow([part(c, -40)], degree, {});
    expect(is.state).toBe(state);
    if (openMin === undefined) expect(is.openMin).toBeUndefined();
    else expect(is.openMin).toBeCloseTo(openMin, 6);
  });
  it('the hottest of several decides; what does not fall has no time', () => {
    expect(burnNow([part(90, -20), part(180, -30)], 1, {}).openMin).toBeCloseTo(120, 9);
    expect(burnNow([part(180, 2)], 1, {}).openMin).toBeUndefined();
    expect(burnNow([part(180)], 1, {}).openMin).toBeUndefined();
  });
  it.each([
    [300, -60, false],
    [300, -60.1, true],
    [200, -80, true],
    [199.9, -80, false],
    [300, 80, false],
  ])('at %f °C and %f K/h: alarm %s', (c, rate, alarm) =>
    expect(burnNow([part(c, rate)], 1, {}).alarm !== undefined).toBe(alarm),
  );
});
