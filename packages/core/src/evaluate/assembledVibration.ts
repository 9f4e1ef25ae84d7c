import { z } from 'zod';
import { sameWay } from './change.ts';
import { defineCalculation, type Calculation } from '../calculation.ts';
import { limit, quoteLimit } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { choice, need, notes, quantity, text } from '../process/fieldKinds.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { judgedTogether, notAbove, notBelow, outOfCalibration, type Judged } from '../verdict.ts';
import { num, type TestKind } from './testKind.ts';
import { judgeVibration, shaftHeightOf } from './vibration.ts';

/** Six positions of a motor: both ends, three directions. */
export const VIBRATION_POSITIONS = [
  { id: 'deV', title: 'drive end, vertical' },
  { id: 'deH', title: 'drive end, horizontal' },
  { id: 'deA', title: 'drive end, axial' },
  { id: 'oeV', title: 'other end, vertical' },
  { id: 'oeH', title: 'other end, horizontal' },
  { id: 'oeA', title: 'other end, axial' },
] as const;
/** Peak velocity of NEMA MG 1 part 7, in/s, from each speed up (earlier editions, from memory). */
const NEMA_ROWS = [
  [1200, 0.15],
  [900, 0.12],
  [720, 0.09],
  [600, 0.08],
] as const;
/** What NEMA MG 1 part 7 lets a housing show, mm/s rms of a sine; four fifths of it on a rigid mounting; undefined below 600 r/min. */
export function nemaVibrationMmS(rpm: number, mounting: 'free' | 'rigid'): number | undefined {
  const row = NEMA_ROWS.find(([from]) => notBelow(rpm, from));
  return row && ((row[1] * 25.4) / Math.SQRT2) * (mounting === 'rigid' ? 0.8 : 1);
}
/** Less than this no meter shows. */
const LEAST_MM_S = 1e-6;
const size = z.number().min(0).max(1e6).optional();
const six = z.strictObject({ deV: size, deH: size, deA: size, oeV: size, oeH: size, oeA: size });

/** Calculation `evaluate.assembledVibration`. */
export const assembledVibration = defineCalculation({
  id: 'evaluate.assembledVibration',
  version: 1,
  title: 'Vibration of the assembled motor at six positions, broadband and once per turn, with the power-off check',
  sources: ['IEC 60034-14, older table, from memory', 'NEMA MG 1 part 7, from memory', 'common practice'],
  input: z.strictObject({
    wholeMmS: six.describe('broadband velocity, mm/s rms'),
    turnMmS: six.default({}).describe('once-per-turn velocity, mm/s rms'),
    rpm: z.number().min(0.1).max(1e6).optional(),
    shaftHeightMm: z.number().positive().max(1e5).optional(),
    mounting: z.enum(['free', 'rigid']).optional().describe('left out: judged as rigid'),
    grade: z.enum(['A', 'B']).optional(),
    coupled: z.boolean().optional(),
    standHz: z.number().min(0.001).max(1e6).optional().describe('resonance of the motor on its mounting'),
    twiceLineMmS: size.describe('at twice line frequency, with power'),
    afterOffMmS: size.describe('the same right after power off'),
    calibrationExpired: z.boolean().default(false),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
    worstMmS: z.number().optional(),
    worstTurnMmS: z.number().optional(),
    twiceLineStaysPercent: z.number().optional(),
    cause: z.enum(['turns with the shaft', 'electromagnetic', 'mechanical at twice line', 'other']).optional(),
  }),
  example: {
    wholeMmS: { deV: 0.9, deH: 1.1, deA: 0.5, oeV: 0.8, oeH: 1, oeA: 0.4 },
    turnMmS: { deH: 0.7, oeH: 0.6 },
    rpm: 1480,
    shaftHeightMm: 180,
    mounting: 'free',
    twiceLineMmS: 0.4,
    afterOffMmS: 0.02,
  },
  compute: (x, note) => {
    const read = VIBRATION_POSITIONS.flatMap(({ id, title }) => {
      const mmS = x.wholeMmS[id];
      return mmS === undefined ? [] : [{ id, title, mmS }];
    });
    const [first] = read;
    if (!first)
      return { verdict: 'cannot judge' as const, reason: 'Nothing was read: both ends, vertical, horizontal, axial.' };
    const worst = read.reduce((w, p) => (p.mmS > w.mmS ? p : w), first);
    const turns = VIBRATION_POSITIONS.flatMap(({ id }) => x.turnMmS[id] ?? []);
    const worstTurn = turns.length > 0 ? Math.max(...turns) : undefined;
    const parts: Judged[] = [];
    const main = judgeVibration({
      mmS: worst.mmS,
      heightMm: x.shaftHeightMm,
      mounting: x.mounting,
      grade: x.grade,
      limits: x.limits,
    });
    const nema = x.rpm === undefined ? undefined : nemaVibrationMmS(x.rpm, x.mounting ?? 'rigid');
    const beside = nema === undefined ? '' : ` NEMA MG 1 part 7 allows ${formatNumber(nema, 3)} mm/s rms.`;
    parts.push({ ...main, reason: `${worst.title}: ${main.reason}${beside}` });
    const impossible = VIBRATION_POSITIONS.filter(
      ({ id }) => (x.turnMmS[id] ?? 0) > (x.wholeMmS[id] ?? Infinity) * (1 + 1e-9),
    );
    if (impossible.length > 0)
      parts.push({
        verdict: 'cannot judge',
        reason: `Once per turn is more than the whole at ${impossible.map((p) => p.title).join('; ')}: one of the two was misread.`,
      });
    const missing = VIBRATION_POSITIONS.filter(({ id }) => x.wholeMmS[id] === undefined);
    if (missing.length > 0)
      parts.push({
        // the fan cover may bar the axial place of the other end
        verdict: missing.every((p) => p.id === 'oeA') ? 'attention' : 'cannot judge',
        reason: `Not read: ${missing.map((p) => p.title).join('; ')}.`,
      });
    if (x.coupled === true)
      parts.push({ verdict: 'cannot judge', reason: 'The limits are of a motor that runs uncoupled, at no load.' });
    if (x.standHz !== undefined && x.rpm !== undefined) {
      const share = x.standHz / (x.rpm / 60);
      const [low, high] = [limit('vibration.standLow', x.limits), limit('vibration.standHigh', x.limits)];
      note?.({
        name: 'Resonance of the stand over rotation frequency',
        symbol: '',
        formula: 'f_s / (n / 60)',
        numbers: `${formatNumber(x.standHz, 6)} / (${formatNumber(x.rpm, 6)} / 60)`,
        value: share,
        unit: '',
        source: 'definition',
      });
      if (!notAbove(share, low) && !notBelow(share, high))
        parts.push({
          verdict: 'cannot judge',
          reason: `The mounting resonates at ${formatNumber(x.standHz, 3)} Hz, ${formatAgainst(share, share < 1 ? low : high)[0]} times the rotation frequency: at most ${quoteLimit('vibration.standLow', x.limits)} or at least ${quoteLimit('vibration.standHigh', x.limits)}, or it adds to what is read.`,
        });
    }
    const values: {
      worstMmS: number;
      worstTurnMmS?: number;
      twiceLineStaysPercent?: number;
      cause?: 'turns with the shaft' | 'electromagnetic' | 'mechanical at twice line' | 'other';
    } = { worstMmS: worst.mmS };
    if (worstTurn !== undefined) values.worstTurnMmS = worstTurn;
    const loud = main.verdict !== 'pass';
    const stays =
      x.twiceLineMmS !== undefined && x.twiceLineMmS >= LEAST_MM_S && x.afterOffMmS !== undefined
        ? (100 * x.afterOffMmS) / x.twiceLineMmS
        : undefined;
    if (stays !== undefined) {
      values.twiceLineStaysPercent = stays;
      note?.({
        name: 'Twice line frequency that stays after power off',
        symbol: '',
        formula: '100 v_off / v_on',
        numbers: `100 · ${x.afterOffMmS ?? 0} / ${x.twiceLineMmS ?? 0}`,
        value: stays,
        unit: '%',
        source: 'definition',
      });
    }
    const twice =
      x.twiceLineMmS !== undefined &&
      worst.mmS >= LEAST_MM_S &&
      notBelow((100 * x.twiceLineMmS) / worst.mmS, limit('vibration.twiceLineShare', x.limits));
    if (twice && stays === undefined && loud)
      parts.push({
        verdict: 'attention',
        reason:
          'Much of it is at twice line frequency: switch the power off and read it again at once. What dies at once is electromagnetic.',
      });
    if (twice && stays !== undefined) {
      const dies = notAbove(stays, limit('vibration.diesPercent', x.limits));
      values.cause = dies ? 'electromagnetic' : 'mechanical at twice line';
      parts.push({
        verdict: loud ? 'attention' : 'pass',
        reason: dies
          ? `Twice line frequency dies with the power (${formatNumber(stays, 3)} % stays): electromagnetic. Look at air gap, supply balance, winding symmetry, soft foot; a balance will not better it.`
          : `Twice line frequency stays after power off (${formatNumber(stays, 3)} %): mechanical. Look at looseness, bearings, mounting.`,
      });
    }
    if (loud && values.cause === undefined && worstTurn !== undefined) {
      const share = (100 * worstTurn) / worst.mmS;
      const turning = notBelow(share, limit('vibration.turnShare', x.limits));
      values.cause = turning ? 'turns with the shaft' : 'other';
      parts.push({
        verdict: 'attention',
        reason: turning
          ? `${formatNumber(share, 3)} % of it turns with the shaft: trim it in its own bearings, or balance the rotor again.`
          : `Only ${formatNumber(share, 3)} % of it turns with the shaft: a balance will not better it. Look at bearings, looseness, rotor bars, mounting.`,
      });
    }
    parts.push(...outOfCalibration(x.calibrationExpired));
    return { ...judgedTogether(parts), ...values };
  },
});

/** Vibration of the assembled motor in the test matrix. */
export const assembledVibrationTest: TestKind = {
  id: 'assembledVibration',
  title: 'Vibration, six positions',
  calculation: assembledVibration as unknown as Calculation,
  alike: sameWay('mounting', 'coupled'),
  derived: [
    { name: 'worstMmS', title: 'Vibration, worst position', unit: 'mm/s' },
    { name: 'worstTurnMmS', title: 'Vibration once per turn, worst', unit: 'mm/s' },
  ],
  needsWholeMotor: true,
  caution: 'Rotating: guard on, key secured. Uncoupled, at no load; hands off the shaft while it runs down.',
  stages: { IN: 'optional', AA: 'optional', FI: 'optional' },
  fields: [
    choice('mounting', 'Mounted', ['free', 'rigid'], need),
    choice('grade', 'Vibration grade', ['A', 'B']),
    quantity('speed', 'Speed', 'speed', 'r/min'),
    choice('coupled', 'Runs', ['uncoupled', 'coupled']),
    ...VIBRATION_POSITIONS.map((p) => quantity(p.id, `Whole: ${p.title}`, 'velocity', 'mm/s')),
    ...VIBRATION_POSITIONS.map((p) => quantity(`${p.id}1`, `Once per turn: ${p.title}`, 'velocity', 'mm/s')),
    quantity('twiceLine', 'At twice line frequency', 'velocity', 'mm/s'),
    quantity('afterOff', 'The same right after power off', 'velocity', 'mm/s'),
    quantity('standHz', 'Resonance of the mounting', 'frequency', 'Hz'),
    text('instrument', 'Instrument', need),
    notes('finding', 'What was seen'),
  ],
  lacks: (v) =>
    VIBRATION_POSITIONS.every((p) => num(v, p.id) === undefined)
      ? { field: 'deV', message: 'At least one position is read: both ends, vertical, horizontal, axial.' }
      : undefined,
  input: (v, c) => ({
    wholeMmS: Object.fromEntries(VIBRATION_POSITIONS.map((p) => [p.id, num(v, p.id)])),
    turnMmS: Object.fromEntries(VIBRATION_POSITIONS.map((p) => [p.id, num(v, `${p.id}1`)])),
    rpm: num(v, 'speed') ?? c.nameplate.speedRpm,
    shaftHeightMm: shaftHeightOf(c.nameplate.frame),
    mounting: v['mounting'],
    grade: v['grade'],
    ...(v['coupled'] === undefined ? {} : { coupled: v['coupled'] === 'coupled' }),
    standHz: num(v, 'standHz'),
    twiceLineMmS: num(v, 'twiceLine'),
    afterOffMmS: num(v, 'afterOff'),
  }),
};
