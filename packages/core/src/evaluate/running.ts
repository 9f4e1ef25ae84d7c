import { z } from 'zod';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { listOf, numbers, sameLengths } from '../load/typedLists.ts';
import { celsius, choice, need, quantity, text } from '../process/fieldKinds.ts';
import type { FieldSpec } from '../quantity/fields.ts';
import { formatNumber } from '../quantity/format.ts';
import { outOfCalibration, type Judged } from '../verdict.ts';
import { powerSteady } from './bearingCourse.ts';
import { BEARING_KINDS, judgeBearings } from './bearings.ts';
import { num, type JudgingContext, type Readings, type TestKind } from './testKind.ts';
import { judgeVibration, shaftHeightOf } from './vibration.ts';

/** What every no-load run is judged with beside its volts and amperes. */
export const RUNNING_SHAPE = {
  minutes: z.number().min(0).optional(),
  vibrationMmS: z.number().min(0).optional(),
  shaftHeightMm: z.number().positive().optional(),
  mounting: z.enum(['free', 'rigid']).optional().describe('left out: judged as rigid'),
  vibrationGrade: z.enum(['A', 'B']).optional().describe('A unless the order says B'),
  ambientC: z.number().optional(),
  bearingDriveC: z.number().optional(),
  bearingOtherC: z.number().optional(),
  bearingKind: z.enum(BEARING_KINDS).optional().describe('left out: judged as rolling'),
  course: z
    .array(
      z.strictObject({
        minutes: z.number().min(0).max(1e5),
        driveC: z.number().optional(),
        otherC: z.number().optional(),
      }),
    )
    .max(200)
    .default([])
    .describe('bearings over the run, the earliest first'),
  powerCourse: z
    .array(z.strictObject({ minutes: z.number().min(0).max(1e5), value: z.number().min(0).describe('W') }))
    .max(200)
    .default([])
    .describe('power over the run, the earliest first'),
  calibrationExpired: z.boolean().default(false),
  limits: shopLimitsSchema.default({}),
};
type Running = z.output<z.ZodObject<typeof RUNNING_SHAPE>>;

/** Vibration, bearings and the instrument's calibration of a run. */
export const judgeRunning = (x: Running): Judged[] => [
  ...(x.vibrationMmS === undefined
    ? []
    : [
        judgeVibration({
          mmS: x.vibrationMmS,
          heightMm: x.shaftHeightMm,
          mounting: x.mounting,
          grade: x.vibrationGrade,
          limits: x.limits,
        }),
      ]),
  ...judgeBearings(x),
  ...powerSteady(x.powerCourse, x.limits),
  ...outOfCalibration(x.calibrationExpired),
];

/** Fields that every kind of no-load run has. */
export const RUNNING_FIELDS: readonly FieldSpec[] = [
  quantity('minutes', 'Run for', 'time', 'min'),
  quantity('vibration', 'Vibration, worst', 'velocity', 'mm/s'),
  choice('mounting', 'Mounted for the run', ['free', 'rigid']),
  choice('vibrationGrade', 'Vibration grade', ['A', 'B']),
  celsius('ambientC', 'Air temperature'),
  celsius('bearingDrive', 'Drive-end bearing'),
  celsius('bearingOther', 'Opposite-end bearing'),
  choice('bearingKind', 'Bearings', BEARING_KINDS, { hint: 'blank: rolling' }),
  listOf('runMinutes', 'Bearings followed at', 'time', 'min', '0, 10, 20, 30', false),
  listOf('runDrive', 'Drive-end bearing at each', 'temperature', '°C', '31, 44, 48, 48.6', false),
  listOf('runOther', 'Opposite-end bearing at each', 'temperature', '°C', '', false),
  listOf('powerMinutes', 'Power followed at', 'time', 'min', '0, 30, 60', false),
  listOf('runPower', 'Power at each', 'power', 'kW', '', false),
  text('instrument', 'Instrument', need),
];

/** What those fields give to the judgement. */
export const runningInput = (v: Readings, c: JudgingContext) => ({
  minutes: num(v, 'minutes'),
  vibrationMmS: num(v, 'vibration'),
  shaftHeightMm: shaftHeightOf(c.nameplate.frame),
  mounting: v['mounting'],
  vibrationGrade: v['vibrationGrade'],
  ambientC: num(v, 'ambientC'),
  bearingDriveC: num(v, 'bearingDrive'),
  bearingOtherC: num(v, 'bearingOther'),
  bearingKind: v['bearingKind'],
  course: numbers(v, 'runMinutes').map((minutes, i) => ({
    minutes,
    driveC: numbers(v, 'runDrive')[i],
    otherC: numbers(v, 'runOther')[i],
  })),
  powerCourse: numbers(v, 'powerMinutes').map((minutes, i) => ({ minutes, value: numbers(v, 'runPower')[i] })),
});

/** What the course of a run lacks: a time for each reading, in the order they were read. */
export const runningLacks: NonNullable<TestKind['lacks']> = (v) =>
  courseLacks(v, 'runMinutes', ['runDrive', 'runOther'], 'Bearings followed at') ??
  courseLacks(v, 'powerMinutes', ['runPower'], 'Power followed at');

function courseLacks(
  v: Readings,
  times: string,
  lists: readonly string[],
  label: string,
): { field: string; message: string } | undefined {
  const minutes = numbers(v, times);
  const late = minutes.findIndex((m, i) => i > 0 && m <= (minutes[i - 1] ?? m));
  if (late > 0)
    return {
      field: times,
      message: `${label}: ${formatNumber(minutes[late] ?? 0)} min stands after ${formatNumber(minutes[late - 1] ?? 0)} min; the times go up.`,
    };
  const read = lists.some((name) => numbers(v, name).length > 0);
  if (minutes.length === 0)
    return read ? { field: times, message: `${label}: the minutes of the readings are wanted.` } : undefined;
  return read
    ? sameLengths(v, [times, ...lists], `${label}: each time has its reading`)
    : { field: lists[0] ?? times, message: `${label}: what was read at those times is wanted.` };
}
