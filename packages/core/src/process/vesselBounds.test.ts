import { describe, expect, it } from 'vitest';
import { VESSEL as setUp } from '../../../../scripts/testing/vessel.ts';
import { vesselNow, type PlantSample, type VesselCourse, type VesselStage } from './vesselCycle.ts';

const UP_TO = ['load', 'warm', 'vacuum', 'admit', 'soak', 'pressurise', 'hold', 'release'] as const;
/** Every stage up to this one, ten minutes each; the last began at 10 · n. */
const stages = (last: (typeof UP_TO)[number]): { stage: VesselStage; t: number }[] =>
  UP_TO.slice(0, UP_TO.indexOf(last) + 1).map((stage, i) => ({ stage, t: 10 * i }));
const began = (last: (typeof UP_TO)[number]): number => 10 * UP_TO.indexOf(last);
const now = (last: (typeof UP_TO)[number], nowMin: number, samples: PlantSample[], more: Partial<VesselCourse> = {}) =>
  vesselNow({
    setUp,
    partTopMm: 640,
    stages: stages(last),
    leakT: undefined,
    samples,
    nowMin,
    resinPassed: true,
    today: '2026-11-28',
    ...more,
  });
const one = (t: number, values: PlantSample['values']): PlantSample[] => [{ t, values }];

describe('a cycle, each rule just inside, at and just outside', () => {
  it('vacuum is held from the reading at its set point on, and begins anew when it is lost', () => {
    const at = (...mbar: number[]) =>
      now(
        'vacuum',
        30,
        mbar.map((abs_mbar, i) => ({ t: 24 + 2 * i, values: { abs_mbar } })),
      ).signals.vacuum_held_min;
    expect(at(5, 4, 5, 5)).toBe(6);
    expect(at(5.1, 5, 4, 4)).toBe(4);
    expect(at(4, 4, 5.1, 5)).toBe(0);
    expect(at(4, 4, 4, 5.1)).toBeUndefined();
    // not read for more than three minutes: nobody knows
    expect(now('vacuum', 27, one(24, { abs_mbar: 4 })).signals.vacuum_held_min).toBe(3);
    expect(now('vacuum', 27.1, one(24, { abs_mbar: 4 })).signals.vacuum_held_min).toBeUndefined();
  });
  it('the lowest vacuum counts from its stage on; a highest pressure only where one was read', () => {
    const sink = [
      { t: 19, values: { abs_mbar: 1 } },
      { t: 20, values: { abs_mbar: 3 } },
      { t: 21, values: { abs_mbar: 4 } },
    ];
    expect(now('vacuum', 22, sink).lowestMbar).toBe(3);
    expect(now('warm', 19.5, sink.slice(0, 1)).lowestMbar).toBeUndefined();
    expect(now('vacuum', 22, sink).highestBar).toBeUndefined();
    expect(now('warm', 12, one(11, { gauge_bar: -0.4 })).highestBar).toBe(-0.4);
  });
  const leak = (nowMin: number, ...rows: [t: number, mbar: number][]) =>
    now(
      'vacuum',
      nowMin,
      rows.map(([t, abs_mbar]) => ({ t, values: { abs_mbar } })),
      { leakT: 22 },
    ).leak;
  it.each([
    [2, true],
    [2.01, false],
    [0, true],
    [-1, true],
  ])('a rise of %d mbar in five minutes passes: %s', (rise, passed) => {
    const is = leak(27, [22, 4], [27, 4 + rise]);
    expect(is).toMatchObject({ passed });
    expect((is as { riseMbar: number }).riseMbar).toBeCloseTo(rise, 9);
  });
  it('it runs until five minutes are over; what was read before or after is none of it', () => {
    expect(leak(26.9, [22, 4], [26, 4])).toBe('runs');
    expect(leak(27, [22, 4], [27, 4])).not.toBe('runs');
    expect(leak(28, [21.9, 1], [22, 4], [27, 5], [27.1, 60])).toEqual({ riseMbar: 1, passed: true });
    expect(now('vacuum', 28, []).leak).toBeUndefined();
  });
  it.each([
    [[22, 26], true],
    [[22, 25.9], false],
    [[23, 27], true],
    [[23.1, 27], false],
    [[22], false],
    [[], false],
  ])('readings at %s min are enough: %s', (times, enough) => {
    const is = leak(28, ...times.map((t): [number, number] => [t, 4]));
    expect(is !== undefined).toBe(enough);
  });
  it('whether it passed is not known while it runs, nor without it', () => {
    const passed = (nowMin: number, leakT?: number) =>
      now(
        'vacuum',
        nowMin,
        [
          { t: 22, values: { abs_mbar: 4 } },
          { t: 27, values: { abs_mbar: 4 } },
        ],
        { leakT },
      ).signals.leak_test_passed;
    expect([passed(28), passed(24, 22), passed(28, 22)]).toEqual([undefined, undefined, true]);
  });
  it.each([
    ['soak', 700, 0],
    ['soak', 699.9, 1],
    ['pressurise', 699, 1],
    ['hold', 699, 1],
    ['admit', 699, 0],
    ['release', 0, 0],
  ] as const)('resin at %s, %d mm: %d alarms of an uncovered part', (stage, level_mm, n) => {
    const t = began(stage) + 1;
    const values = { level_mm, gauge_bar: 4, abs_mbar: 5 };
    expect(now(stage, t, one(t, values)).alarms.filter((a) => /covered/.test(a))).toHaveLength(n);
    // 640 mm of the part and 60 mm over it
    if (n > 0) expect(now(stage, t, one(t, values)).alarms[0]).toMatch(/700 mm are wanted/);
  });
  it('a level that is not read is an alarm of its own', () =>
    expect(now('hold', 61, one(61, { gauge_bar: 4 })).alarms[0]).toMatch(/not read/));
  it.each([
    [240, 0],
    [240.1, 1],
  ])('held for %d min: %d alarms', (held, n) => {
    const t = 60 + held;
    expect(now('hold', t, one(t, { level_mm: 700, gauge_bar: 4 })).alarms).toHaveLength(n);
    // it is the hold that is long, not what comes after it
    expect(now('release', t, one(t, { gauge_bar: 4 })).alarms).toEqual([]);
  });
  it.each([
    ['hold', 3.8, 0],
    ['hold', 3.79, 1],
    ['hold', 5, 0],
    ['pressurise', 1, 0],
  ] as const)('at %s, %d bar: %d alarms', (stage, gauge_bar, n) => {
    const t = began(stage) + 1;
    expect(now(stage, t, one(t, { level_mm: 700, gauge_bar })).alarms).toHaveLength(n);
  });
  it.each([
    ['admit', 2, 0],
    ['admit', 1.99, 1],
    ['soak', 1.99, 1],
    ['vacuum', 1, 0],
    ['hold', 1, 0],
  ] as const)('at %s, %d mbar: %d alarms of the monomer', (stage, abs_mbar, n) => {
    const t = began(stage) + 1;
    const is = now(stage, t, one(t, { level_mm: 700, gauge_bar: 4, abs_mbar }));
    expect(is.alarms.filter((a) => /monomer/.test(a))).toHaveLength(n);
    expect(now(stage, t, one(t, { level_mm: 700, gauge_bar: 4 })).alarms).toEqual([]);
  });
  it('minutes of the stage, of the hold; no lamp where nothing stands before the next stage', () => {
    expect(now('hold', 75, []).stageMin).toBe(15);
    expect(now('hold', 75, []).heldMin).toBe(15);
    expect(now('release', 99, []).heldMin).toBe(10);
    expect(now('admit', 35, []).heldMin).toBeUndefined();
    expect(now('load', 5, []).lamps).toEqual([]);
    expect(now('admit', 35, []).signals.soak_min).toBeUndefined();
    expect(now('soak', 45, []).signals.soak_min).toBe(5);
  });
  it('the capacitance begins with the last reading in vacuum; before the vacuum, and nothing, are not readings', () => {
    const nF = (...of: [t: number, nF: number][]) =>
      now(
        'soak',
        45,
        of.map(([t, capacitance_nF]) => ({ t, values: { capacitance_nF } })),
      ).plateau;
    expect(nF([15, 30], [19.9, 30])).toBeUndefined();
    expect(nF([29, 40])).toBeUndefined();
    expect(nF([29, 0], [31, 44])?.risePercent).toBe(0);
    const from40 = nF([20, 39], [29, 40], [30, 44], [32, 44], [34, 44], [36, 44]);
    expect(from40?.risePercent).toBeCloseTo(10, 6);
  });
});
