import { describe, expect, it } from 'vitest';
import type { CalculationInputError } from '../calculation.ts';
import { runCalculation } from '../calculation.ts';
import { worked } from '../../../../scripts/testing/worked.ts';
import { backIron, CORE_TEST_T, coreGeometrySchema, processCoreLoss, processCoreSetUp } from './coreTest.ts';

/** Worked example of the test reference, section 5. */
const CORE = { outerM: 0.6, boreM: 0.4, slotDepthM: 0.055, lengthM: 0.45, ducts: 2, ductWidthM: 0.01, stacking: 0.95 };
const core = coreGeometrySchema.parse(CORE);

describe('set-up of a core test', () => {
  it('the worked example: 45 mm, 408.5 mm, 0.0183825 m², 5.377 V a turn, 22 turns, 1.3366 T, 31.7 A, 10 mm²', () => {
    const set = worked(processCoreSetUp, { core: CORE, supplyV: [120] }, 3);
    expect(set.depthM).toBeCloseTo(0.045, 9);
    expect(set.netM).toBeCloseTo(0.4085, 9);
    expect(set.areaM2).toBeCloseTo(0.0183825, 9);
    expect(set.areaM2 / 0.0254 ** 2).toBeCloseTo(28.493, 3);
    expect(set.voltsPerTurn).toBeCloseTo(5.377, 3);
    expect(set.pathM).toBeCloseTo(1.7436, 4);
    expect(set.kg).toBeCloseTo(248.4, 1);
    expect(set.chosen).toMatchObject({ turns: 22, cableMm2: 10, near: true });
    expect(set.chosen?.flux).toBeCloseTo(1.3366, 4);
    expect(set.chosen?.amps).toBeCloseTo(31.7, 1);
    expect((set.chosen?.amps ?? 0) / 4).toBeCloseTo(7.93, 2);
  });
  it('85 kilolines per square inch are 1.3175 T', () => expect(CORE_TEST_T).toBeCloseTo(1.3175, 4));
  it('at 60 Hz a turn takes a fifth more', () => {
    const at = (frequencyHz: number) =>
      worked(processCoreSetUp, { core: CORE, frequencyHz, supplyV: [120] }).voltsPerTurn;
    expect(at(60) / at(50)).toBeCloseTo(1.2, 9);
  });
  it('of taps within 5 % the one with the fewest turns whose cable is handy; none within 5 % says where a tap should be', () => {
    expect(worked(processCoreSetUp, { core: CORE, supplyV: [240, 120] }).chosen?.volts).toBe(120);
    // 27 V: 5 turns, 139 A, 35 mm²; 240 V is the handy one
    expect(worked(processCoreSetUp, { core: CORE, supplyV: [27, 240] }).chosen?.volts).toBe(240);
    // 35 A/4 … 25 mm² is handy still
    expect(worked(processCoreSetUp, { core: CORE, supplyV: [37.6, 240] }).chosen).toMatchObject({
      turns: 7,
      cableMm2: 25,
    });
    expect(worked(processCoreSetUp, { core: CORE, supplyV: [16.1, 27] }).chosen?.volts).toBe(27);
    const none = worked(processCoreSetUp, { core: CORE, supplyV: [8] });
    expect(none.chosen).toBeUndefined();
    expect(none.says).toMatch(/a turn takes 5\.377 V, so use a tap near 5\.377 V/);
  });
  it.each([
    [4.99, true],
    [5, true],
    [5.01, false],
  ])('a voltage %d %% off the target with whole turns', (percent, near) => {
    const perTurn = 4.44 * 50 * CORE_TEST_T * backIron(core).areaM2;
    for (const sign of [1, -1])
      expect(
        worked(processCoreSetUp, { core: CORE, supplyV: [perTurn * (1 + (sign * percent) / 100)] }).supplies[0]?.near,
      ).toBe(near);
  });
  it('a current beyond every listed cable is said', () =>
    expect(
      worked(processCoreSetUp, { core: { ...CORE, outerM: 1.1, boreM: 0.9, slotDepthM: 0.02 }, supplyV: [9.56] }),
    ).toMatchObject({ says: expect.stringMatching(/^1 turn on .*side by side/) as string, supplies: [{ turns: 1 }] }));
  it.each([
    ['slots through the iron', { ...CORE, slotDepthM: 0.1 }, 'core.slotDepthM'],
    ['ducts longer than the core', { ...CORE, ducts: 45 }, 'core.ducts'],
    ['a bore larger than the outside', { ...CORE, boreM: 0.7 }, 'core.slotDepthM'],
  ])('%s is refused', (_, bad, field) => {
    try {
      runCalculation(processCoreSetUp, { core: bad, supplyV: [120] });
      expect.unreachable();
    } catch (error) {
      expect((error as CalculationInputError).field).toBe(field);
    }
  });
});

/** Volts of a search turn for a flux density. */
const voltsFor = (flux: number) => 4.44 * 50 * flux * backIron(core).areaM2;
const loss = (o: { wkg?: number; flux?: number; more?: object } = {}) => {
  const flux = o.flux ?? CORE_TEST_T;
  const kg = backIron(core).kg;
  // so that the loss at the target is `wkg`
  const watts = (o.wkg ?? 4) * kg * (flux / CORE_TEST_T) ** 2;
  return worked(processCoreLoss, { core: CORE, watts, turns: 22, searchVolts: voltsFor(flux), ...o.more }, 2);
};
describe('what was read in a core test', () => {
  it('the worked example: 640 W at 1.3366 T are 2.577 W/kg, 2.503 W/kg at the target', () => {
    const judged = worked(processCoreLoss, { core: CORE, watts: 640, turns: 22, volts: 120 }, 3);
    expect(judged.flux).toBeCloseTo(1.3366, 4);
    expect(judged.lossWKg).toBeCloseTo(2.577, 3);
    expect(judged.lossWKg * 0.45359237).toBeCloseTo(1.169, 3);
    expect(judged.atTargetWKg).toBeCloseTo(2.503, 2);
    expect(judged.verdict).toBe('pass');
  });
  it.each([
    [8.79, 'pass'],
    [8.8, 'pass'],
    [8.81, 'attention'],
    [13.2, 'attention'],
    [13.21, 'fail'],
  ])('%d W/kg at the target', (wkg, verdict) => expect(loss({ wkg }).verdict).toBe(verdict));
  it.each([
    [9.9, 'pass'],
    [10, 'pass'],
    [10.1, 'attention'],
    [15, 'attention'],
    [15.1, 'fail'],
  ])('a hot spot of %d K', (hotSpotK, verdict) => expect(loss({ more: { hotSpotK } }).verdict).toBe(verdict));
  it.each([
    [1.0499, 'pass'],
    [1.0501, 'cannot judge'],
    [0.9501, 'pass'],
    [0.9499, 'cannot judge'],
  ])('at %d times the target', (times, verdict) => {
    const judged = loss({ flux: CORE_TEST_T * times });
    expect(judged.verdict).toBe(verdict);
    expect(judged.atTargetWKg === undefined).toBe(verdict === 'cannot judge');
  });
  it.each([
    [9.9, 'pass'],
    [10, 'pass'],
    [10.1, 'attention'],
    [20, 'attention'],
    [20.1, 'fail'],
    [-8, 'pass'],
  ])('a rise of %d %% on the test before heat', (rise, verdict) => {
    const judged = loss({ wkg: 4 * (1 + rise / 100), more: { before: { lossWKg: 4, flux: CORE_TEST_T } } });
    expect(judged.risePercent).toBeCloseTo(rise, 6);
    expect(judged.verdict).toBe(verdict);
  });
  it('C73: +14 % at densities 2 % apart wants attention, 7 % apart cannot be judged', () => {
    const at = (apart: number) =>
      loss({
        wkg: 4 * 1.14,
        flux: CORE_TEST_T * 1.01,
        more: { before: { lossWKg: 4 * (1.01 / apart) ** 2, flux: (CORE_TEST_T * 1.01) / apart } },
      });
    expect(at(1.02)).toMatchObject({ verdict: 'attention' });
    expect(at(1.02).risePercent).toBeCloseTo(14, 6);
    expect(at(1.07)).toMatchObject({ verdict: 'cannot judge' });
    expect(at(1.07).risePercent).toBeUndefined();
  });
  it('a wattmeter on the search turn reads a loop’s share: times turns over search turns', () => {
    const loop = loss({ wkg: 4 });
    const search = worked(processCoreLoss, {
      core: CORE,
      watts: (loop.lossWKg * loop.kg * 2) / 22,
      turns: 22,
      searchVolts: 2 * voltsFor(CORE_TEST_T),
      searchTurns: 2,
      wattsBySearch: true,
    });
    expect(search.lossWKg).toBeCloseTo(loop.lossWKg, 9);
    expect(search.flux).toBeCloseTo(CORE_TEST_T, 9);
  });
  it('advice follows what is wrong: the spot, the rise, or a core that is high all over', () => {
    expect(loss().advice).toEqual([]);
    expect(loss({ more: { hotSpotK: 12 } }).advice.join()).toMatch(/smeared or bent teeth/);
    expect(loss({ wkg: 5, more: { before: { lossWKg: 4, flux: CORE_TEST_T } } }).advice.join()).toMatch(
      /lower part temperature/,
    );
    expect(loss({ wkg: 10 }).advice.join()).toMatch(/sister core/);
    expect(loss({ wkg: 10, more: { hotSpotK: 12 } }).advice.join()).not.toMatch(/sister core/);
  });
  it('without a voltage it asks for one', () =>
    expect(() => runCalculation(processCoreLoss, { core: CORE, watts: 640, turns: 22 })).toThrow(
      /search turn, or of the loop/,
    ));
});
