import { describe, expect, it } from 'vitest';
import { bearingSteady, courseOf, powerSteady, type CourseReading } from './bearingCourse.ts';
import { judgeBearings } from './bearings.ts';
import { noLoadRun, noLoadRunTest } from './noLoadRun.ts';
import { runningLacks } from './running.ts';
import { noLoadSingleTest } from './noLoadSingle.ts';
import { runCalculation } from '../calculation.ts';
import type { Readings } from './testKind.ts';

const at = (...pairs: readonly (readonly [number, number])[]): CourseReading[] =>
  pairs.map(([minutes, value]) => ({ minutes, value }));

describe('course of a run', () => {
  it.each([
    ['readings a window apart', at([0, 40], [10, 48], [20, 50]), 10, 2],
    ['the line between two readings where none lies there', at([0, 40], [20, 50], [25, 51]), 10, 51 - 47.5],
    ['exactly as long as the window', at([0, 40], [10, 43]), 10, 3],
    ['shorter than the window', at([0, 40], [9.9, 43]), 10, undefined],
    ['one reading', at([30, 43]), 10, undefined],
    ['falling', at([0, 60], [10, 55]), 10, -5],
  ] as const)('%s', (_, readings, windowMin, moved) => {
    const found = courseOf(readings, windowMin);
    expect(found?.last).toBe(readings.at(-1)?.value);
    if (moved === undefined) expect(found?.moved).toBeUndefined();
    else expect(found?.moved).toBeCloseTo(moved, 9);
  });
  it('names the peak it has fallen from, only where it has', () => {
    expect(courseOf(at([0, 30], [10, 62], [20, 55]), 10)?.fallenFrom).toBe(62);
    expect(courseOf(at([0, 30], [10, 62], [20, 62]), 10)?.fallenFrom).toBeUndefined();
    expect(courseOf([], 10)).toBeUndefined();
  });
});

describe('bearings followed until they are steady (tests.md 7: drift under 1 K in 10 min, common practice)', () => {
  it.each([
    [48, 48.99, 'pass'],
    [48, 49, 'cannot judge'],
    [48, 50.1, 'cannot judge'],
    [49, 48.01, 'pass'],
    [49, 48, 'cannot judge'],
  ] as const)('%s then %s °C: %s', (then, last, verdict) => {
    expect(bearingSteady('Drive-end', at([0, 30], [20, then], [30, last]), {})[0]?.verdict).toBe(verdict);
  });
  it('says which way it moves, from what peak, and what is wanted', () => {
    const say = (...r: [number, number][]) => bearingSteady('Drive-end', at(...r), {})[0]?.reason;
    expect(say([0, 30], [10, 44], [20, 47])).toBe(
      'Drive-end bearing still rises: 3 K in 10 min (common practice); run on until under 1 K (common practice).',
    );
    expect(say([0, 30], [10, 62], [20, 56])).toBe(
      'Drive-end bearing still falls (its peak was 62 °C): 6 K in 10 min (common practice); run on until under 1 K (common practice).',
    );
    expect(say([0, 62], [20, 50], [30, 49.5])).toBe(
      'Drive-end bearing steady (its peak was 62 °C): it moved by 0.5 K in 10 min (common practice), under 1 K (common practice).',
    );
    expect(say([0, 44])).toBe(
      'Drive-end bearing was followed for less than 10 min (common practice): run on until it moves by less than 1 K (common practice).',
    );
  });
  it('follows the shop’s limits', () => {
    const run = at([0, 44], [20, 46]);
    expect(bearingSteady('x', run, { 'noLoad.bearingDriftK': 1.5 })[0]?.verdict).toBe('pass');
    expect(bearingSteady('x', run, { 'noLoad.bearingDriftMin': 5 })[0]?.verdict).toBe('pass');
    expect(bearingSteady('x', run, {})[0]?.verdict).toBe('cannot judge');
    expect(bearingSteady('x', [], {})).toEqual([]);
  });
  it.each([
    [500, 485.1, 'pass'],
    [500, 485, 'cannot judge'],
    [480, 494.9, 'cannot judge'],
    [490, 500, 'pass'],
  ] as const)(
    'power %s then %s W half an hour later: %s (IEEE 112, from memory: under 3 %%)',
    (then, last, verdict) => {
      expect(powerSteady(at([0, then], [30, last]), {})[0]?.verdict).toBe(verdict);
    },
  );
  it('a power of nothing tells nothing', () => {
    expect(powerSteady(at([0, 0], [30, 0]), {})[0]?.verdict).toBe('cannot judge');
    expect(powerSteady(at([0, 480], [29, 480]), {})[0]?.verdict).toBe('cannot judge');
    expect(powerSteady(at([0, 480], [29, 480]), { 'noLoad.powerDriftMin': 20 })[0]?.verdict).toBe('pass');
    expect(powerSteady(at([0, 480], [30, 500]), { 'noLoad.powerDriftPercent': 5 })[0]?.verdict).toBe('pass');
  });
});

describe('bearings of a run with its course', () => {
  const course = [
    { minutes: 0, driveC: 30, otherC: 30 },
    { minutes: 20, driveC: 58, otherC: 45 },
    { minutes: 30, driveC: 58.4, otherC: 45.2 },
  ];
  it('judges the last reading of each, beside whether it is steady', () => {
    const judged = judgeBearings({ course, ambientC: 24, bearingDriveC: 20, limits: {} });
    expect(judged.map((j) => j.verdict)).toEqual(['pass', 'pass', 'pass', 'pass']);
    expect(judged[0]?.reason).toBe('Drive-end bearing 58.4 °C, 34.4 K above the air.');
  });
  it('grease that peaks and falls is judged after the peak, the peak against what none may pass', () => {
    const peaked = (peak: number) => [
      { minutes: 0, driveC: 30 },
      { minutes: 20, driveC: peak },
      { minutes: 50, driveC: 52 },
      { minutes: 60, driveC: 51.6 },
    ];
    const verdicts = (peak: number) =>
      judgeBearings({ course: peaked(peak), ambientC: 24, limits: {} }).map((j) => j.verdict);
    expect(verdicts(80)).toEqual(['pass', 'pass']);
    expect(verdicts(90)).toEqual(['pass', 'pass']);
    expect(verdicts(90.1)).toEqual(['fail', 'pass']);
    expect(judgeBearings({ course: peaked(80), ambientC: 24, limits: {} })[0]?.reason).toBe(
      'Drive-end bearing 51.6 °C, up to 80 °C, 27.6 K above the air.',
    );
  });
  it.each([
    [85, 'pass'],
    [85.1, 'attention'],
    [95, 'attention'],
    [95.1, 'fail'],
  ] as const)('the metal of a sleeve bearing at %s °C: %s, whatever the air', (bearingDriveC, verdict) => {
    expect(
      judgeBearings({ bearingKind: 'sleeve', bearingDriveC, ambientC: 20, limits: {} }).map((j) => j.verdict),
    ).toEqual([verdict]);
  });
  it('follows the shop’s limits of a sleeve', () => {
    const sleeve = { bearingKind: 'sleeve', bearingDriveC: 90 } as const;
    expect(judgeBearings({ ...sleeve, limits: { 'noLoad.sleeveAttentionC': 90 } })[0]?.verdict).toBe('pass');
    expect(judgeBearings({ ...sleeve, limits: { 'noLoad.sleeveMaxC': 89 } })[0]?.verdict).toBe('fail');
  });
  it('a run that is not steady cannot be judged; too hot is too hot all the same', () => {
    const run = (last: number, power = 905) =>
      runCalculation(noLoadRun, {
        ...noLoadRun.example,
        ambientC: 20,
        course: [
          { minutes: 0, driveC: 30 },
          { minutes: 30, driveC: last - 3 },
          { minutes: 40, driveC: last },
        ],
        powerCourse: [
          { minutes: 0, value: 900 },
          { minutes: 40, value: power },
        ],
      }).values;
    expect(run(50).verdict).toBe('cannot judge');
    expect(run(50).reason).toMatch(/^Drive-end bearing still rises/);
    expect(run(75).verdict).toBe('fail');
    expect(run(50, 960).reason).toMatch(/The power still rises: [\d.]+ % in 30 min/);
  });
});

describe('what the course of a run lacks', () => {
  const WORDS = ['Bearings followed at', 'Power followed at'];
  it.each<[Readings, string | undefined]>([
    [{}, undefined],
    [{ runMinutes: [0, 10], runDrive: [30, 40] }, undefined],
    [{ runMinutes: [0, 10], runOther: [30, 40], powerMinutes: [0], runPower: [900] }, undefined],
    [{ runMinutes: [0, 10], runDrive: [3] }, `${WORDS[0]}: each time has its reading: there are 2 and 1.`],
    [{ powerMinutes: [0, 10], runPower: [3] }, `${WORDS[1]}: each time has its reading: there are 2 and 1.`],
    [{ runDrive: [30, 40] }, `${WORDS[0]}: the minutes of the readings are wanted.`],
    [{ runOther: [30] }, `${WORDS[0]}: the minutes of the readings are wanted.`],
    [{ runPower: [30] }, `${WORDS[1]}: the minutes of the readings are wanted.`],
    [{ runMinutes: [0, 10] }, `${WORDS[0]}: what was read at those times is wanted.`],
    [{ powerMinutes: [0, 10] }, `${WORDS[1]}: what was read at those times is wanted.`],
    [{ runMinutes: [0, 20, 10], runDrive: [1, 2, 3] }, `${WORDS[0]}: 10 min stands after 20 min; the times go up.`],
    [{ powerMinutes: [0, 0] }, `${WORDS[1]}: 0 min stands after 0 min; the times go up.`],
  ])('%o', (v, message) => {
    expect(runningLacks(v)?.message).toBe(message);
  });
  it('is asked of each run', () => {
    expect([noLoadRunTest.lacks, noLoadSingleTest.lacks]).toEqual([runningLacks, runningLacks]);
  });
  it('the lists become the course', () => {
    const context = { nameplate: {}, limits: {}, tests: [] } as never;
    expect(
      noLoadRunTest.input?.(
        { runMinutes: [0, 10], runDrive: [30, 40], powerMinutes: [5], runPower: [880], bearingKind: 'sleeve' } as never,
        context,
      ),
    ).toMatchObject({
      bearingKind: 'sleeve',
      course: [
        { minutes: 0, driveC: 30, otherC: undefined },
        { minutes: 10, driveC: 40, otherC: undefined },
      ],
      powerCourse: [{ minutes: 5, value: 880 }],
    });
  });
});
