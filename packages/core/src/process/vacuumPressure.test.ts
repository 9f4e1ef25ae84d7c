import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { CalculationInputError } from '../calculation.ts';
import { runCalculation } from '../calculation.ts';
import { draws } from '../../../../scripts/testing/draws.ts';
import { worked } from '../../../../scripts/testing/worked.ts';
import { followPlateau, plateauBegun, plateauSettingsSchema, processCapacitance } from './capacitance.ts';
import {
  INTERLOCK_CODES,
  lampsOf,
  PLANT_ACT_IDS,
  PLANT_ACTS,
  plantSignalsSchema,
  processInterlocks,
  type PlantAct,
  type PlantSignals,
} from './interlocks.ts';

/** Series CAP of the process reference: minutes and nF. */
const CAP =
  '0,41.20 5,42.10 10,43.95 15,45.30 20,46.25 25,49.90 30,47.55 35,47.95 40,48.28 45,48.50 50,48.66 55,48.75 60,48.84 65,48.88 70,48.91 75,48.92 80,48.94'
    .split(' ')
    .map((p) => p.split(',').map(Number) as [number, number]);
const plateau = (points: readonly (readonly [number, number])[], settings: object = {}) =>
  worked(processCapacitance, {
    samples: points.map(([min, nF]) => ({ min, nF })),
    settings: plateauSettingsSchema.parse(settings),
  });

describe('filling by capacitance', () => {
  it('C53: series CAP stands at 75 min, risen by 18.71 %', () => {
    const end = plateau(CAP);
    expect(end).toMatchObject({ state: 'plateau', stopMin: 75 });
    expect(end.risePercent).toBeCloseTo(18.71, 2);
  });
  it('one wild reading is not believed (25 min), three in a row are', () => {
    expect(plateau(CAP.slice(0, 8)).state).toBe('not_yet');
    const fell = CAP.map(([t, c]) => [t, t >= 60 ? c * 0.97 : c] as const);
    expect(plateau(fell)).toMatchObject({ state: 'signal_fault', stopMin: 65 });
  });
  it.each([
    [0.9801, 'not_yet'],
    [0.9799, 'signal_fault'],
  ])('a fall to %d of the highest', (share, state) =>
    expect(
      plateau(
        [0, 1, 2, 3, 4, 5].map((t) => [t, t < 3 ? 50 : 50 * share] as const),
        { windowMin: 60 },
      ).state,
    ).toBe(state),
  );
  it('no end before the hold that is asked for', () => {
    expect(plateau(CAP, { minHoldMin: 80 })).toMatchObject({ state: 'plateau', stopMin: 80 });
    expect(plateau(CAP, { minHoldMin: 81 }).state).toBe('not_yet');
  });
  const flatAt = (rise: number) =>
    [...Array(20).keys()].map((i) => [5 * i, i < 2 ? 40 : 40 * (1 + rise / 100)] as const);
  it.each([
    [2.99, 'flat_no_rise'],
    [3.01, 'plateau'],
    [0, 'flat_no_rise'],
  ])('flat after a rise of %d %%', (rise, state) => expect(plateau(flatAt(rise)).state).toBe(state));
  const sloping = (percentMin: number) =>
    [...Array(30).keys()].map((i) => [i, i === 0 ? 30 : 40 * (1 + (percentMin * (i - 15)) / 100)] as const);
  it.each([
    [0.049, 'plateau'],
    [0.051, 'not_yet'],
  ])('a slope of %d %% a minute', (slope, state) => expect(plateau(sloping(slope)).state).toBe(state));
  it('not before the window is full, nor with two samples in it', () => {
    expect(
      plateau(
        [
          [0, 30],
          [4, 40],
          [8, 40],
          [9.9, 40],
        ],
        { inARow: 1 },
      ).slopePercentMin,
    ).toBeUndefined();
    expect(
      plateau(
        [
          [0, 30],
          [4, 40],
          [8, 40],
          [10, 40],
        ],
        { inARow: 1 },
      ).slopePercentMin,
    ).toBeDefined();
    expect(
      plateau(
        [
          [0, 30],
          [9, 40],
          [20, 40],
        ],
        { inARow: 1 },
      ).slopePercentMin,
    ).toBeUndefined();
  });
  it('once decided it stays so, whatever comes', () => {
    const settings = plateauSettingsSchema.parse({});
    const decided = CAP.reduce((f, [t, c]) => followPlateau(f, t, c, settings), plateauBegun());
    expect(followPlateau(decided, 85, 1, settings)).toBe(decided);
  });
  it('what is kept does not grow with the series', () => {
    const settings = plateauSettingsSchema.parse({ minRisePercent: 400 });
    let followed = plateauBegun();
    for (let i = 0; i < 3000; i++) followed = followPlateau(followed, i, 40 + (i % 7) / 100, settings);
    expect(followed.window.length).toBeLessThanOrEqual(11);
    expect(followed.raw).toHaveLength(2);
  });
  it('time that goes back is refused by the sample', () => {
    try {
      runCalculation(processCapacitance, {
        samples: [
          { min: 5, nF: 3 },
          { min: 5, nF: 4 },
        ],
      });
      expect.unreachable();
    } catch (error) {
      expect((error as CalculationInputError).field).toBe('samples.1.min');
    }
  });
});

/** Everything as it should be, for every act at once where acts do not contradict each other. */
const GOOD: PlantSignals = {
  gauge_bar: 0,
  abs_mbar: 4,
  level_mm: 960,
  part_top_mm: 900,
  cover_mm: 50,
  part_C: 50,
  resin_C: 30,
  part_min_C: 40,
  part_max_C: 60,
  resin_min_C: 20,
  resin_max_C: 35,
  resin_min_mbar: 2,
  vacuum_set_mbar: 5,
  vacuum_held_min: 45,
  vacuum_hold_min: 45,
  soak_min: 20,
  soak_set_min: 20,
  pressure_min: 70,
  min_hold_min: 60,
  max_hold_min: 240,
  transfer_max_bar: 0.5,
  resin_in_tank_litre: 500,
  storage_free_litre: 600,
  lid_locked: true,
  vent_open: false,
  pump_on: false,
  pressure_valve_open: false,
  resin_valve_open: false,
  vacuum_valve_open: false,
  leak_test_passed: true,
  resin_test_in_date: true,
  relief_in_date: true,
  plateau: true,
};
const goodFor = (act: PlantAct): PlantSignals =>
  act === 'open_lid' ? { ...GOOD, level_mm: 0, vent_open: true } : GOOD;
const missing = (act: PlantAct, signals: PlantSignals) => worked(processInterlocks, { act, signals }).missing;

describe('interlocks of the plant', () => {
  it('C56: pressurise with a level of 940 over 900 + 50 and no word of the relief valve', () =>
    expect([...missing('pressurise', { ...GOOD, level_mm: 940, relief_in_date: undefined })].sort()).toEqual([
      'COVERED',
      'RELIEF_IN_DATE',
    ]));
  it.each(PLANT_ACT_IDS)('%s: nothing missing when all is as it should be', (act) => {
    expect(missing(act, goodFor(act))).toEqual([]);
    expect(worked(processInterlocks, { act, signals: goodFor(act) }).says).toMatch(/last word/);
  });
  it.each(PLANT_ACT_IDS)('%s: with no signals at all every lamp is dark', (act) =>
    expect(missing(act, {})).toEqual([...PLANT_ACTS[act]]),
  );
  it('letting pressure off in an emergency is no act that asks for anything', () =>
    expect(PLANT_ACT_IDS.some((a) => /emergency/.test(a))).toBe(false));
  it('a signal that is lost never opens an interlock', () => {
    const names = Object.keys(plantSignalsSchema.shape) as (keyof PlantSignals)[];
    const signals = fc.record(
      Object.fromEntries(
        names.map((n) => [
          n,
          typeof GOOD[n] === 'boolean' ? fc.boolean() : fc.double({ min: -10, max: 1000, noNaN: true }),
        ]),
      ),
    ) as fc.Arbitrary<PlantSignals>;
    fc.assert(
      fc.property(
        fc.constantFrom(...PLANT_ACT_IDS),
        signals,
        fc.subarray(names),
        fc.boolean(),
        (act, all, lost, isNull) => {
          const without = Object.fromEntries(
            Object.entries(all).flatMap(([k, v]) =>
              lost.includes(k as keyof PlantSignals) ? (isNull ? [[k, null]] : []) : [[k, v]],
            ),
          ) as PlantSignals;
          const before = lampsOf(act, all);
          lampsOf(act, without).forEach((l, i) => expect(l.holds && !before[i]?.holds).toBe(false));
        },
      ),
      { numRuns: draws(300) },
    );
  });
  it.each([
    ['P_ATM', 'open_lid', { gauge_bar: 0.02 }, { gauge_bar: 0.021 }],
    ['P_ATM', 'open_lid', { gauge_bar: -0.02 }, { gauge_bar: -0.021 }],
    ['LEVEL_ZERO', 'open_lid', { level_mm: 0 }, { level_mm: 0.1 }],
    ['VENT_OPEN', 'open_lid', {}, { vent_open: false }],
    ['PUMP_OFF', 'open_lid', {}, { pump_on: true }],
    ['PRESS_VALVE_SHUT', 'open_lid', {}, { pressure_valve_open: true }],
    ['RESIN_VALVE_SHUT', 'open_lid', {}, { resin_valve_open: true }],
    ['LID_LOCKED', 'pull_vacuum', {}, { lid_locked: false }],
    ['VENT_SHUT', 'pull_vacuum', {}, { vent_open: true }],
    ['PART_IN_RANGE', 'pull_vacuum', { part_C: 40 }, { part_C: 39.9 }],
    ['PART_IN_RANGE', 'pull_vacuum', { part_C: 60 }, { part_C: 60.1 }],
    ['VAC_REACHED', 'admit_resin', { abs_mbar: 5 }, { abs_mbar: 5.1 }],
    ['VAC_HELD', 'admit_resin', { vacuum_held_min: 45 }, { vacuum_held_min: 44.9 }],
    ['RESIN_IN_RANGE', 'admit_resin', { resin_C: 20 }, { resin_C: 19.9 }],
    ['RESIN_IN_RANGE', 'admit_resin', { resin_C: 35 }, { resin_C: 35.1 }],
    ['RESIN_PASSED', 'admit_resin', {}, { resin_test_in_date: false }],
    ['LEAK_OK', 'admit_resin', {}, { leak_test_passed: false }],
    ['ABOVE_MONOMER', 'admit_resin', { abs_mbar: 2 }, { abs_mbar: 1.9 }],
    ['VAC_VALVE_SHUT', 'pressurise', {}, { vacuum_valve_open: true }],
    ['COVERED', 'pressurise', { level_mm: 950 }, { level_mm: 949.9 }],
    ['SOAKED', 'pressurise', { soak_min: 20 }, { soak_min: 19.9 }],
    ['RELIEF_IN_DATE', 'pressurise', {}, { relief_in_date: false }],
    ['MIN_HOLD', 'release_pressure', { pressure_min: 60 }, { pressure_min: 59.9 }],
    [
      'PLATEAU_OR_MAX',
      'release_pressure',
      { plateau: false, pressure_min: 240 },
      { plateau: false, pressure_min: 239.9 },
    ],
    ['GAUGE_LOW', 'return_resin', { gauge_bar: 0.5 }, { gauge_bar: 0.51 }],
    ['TANK_ROOM', 'return_resin', { storage_free_litre: 500 }, { storage_free_litre: 499.9 }],
  ] as const)('%s of %s: holds at the bound, not beyond', (code, act, at, beyond) => {
    expect(missing(act, { ...goodFor(act), ...at })).not.toContain(code);
    expect(missing(act, { ...goodFor(act), ...beyond })).toEqual([code]);
  });
  it('every rule is asked for by an act', () =>
    expect(new Set(Object.values(PLANT_ACTS).flat())).toEqual(new Set(INTERLOCK_CODES)));
});
