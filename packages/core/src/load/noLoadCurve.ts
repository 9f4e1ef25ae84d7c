import { z } from 'zod';
import { defineCalculation, refuse, type Calculation } from '../calculation.ts';
import { num, type Readings, type TestKind } from '../evaluate/testKind.ts';
import { limit, quoteLimit } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { celsius, need, quantity, text } from '../process/fieldKinds.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { judgedTogether, notBelow, outOfCalibration, type Judged } from '../verdict.ts';
import { FEWEST_POINTS, FRICTION_UP_TO, separateLosses } from './lossSeparation.ts';
import { listOf, numbers, sameLengths } from './typedLists.ts';

export const noLoadPoints = z
  .array(
    z.strictObject({
      volts: z.number().positive().max(1e6),
      amps: z.number().positive().max(1e6),
      watts: z.number().min(0).max(1e9),
    }),
  )
  .min(1)
  .max(60);

/** Calculation `evaluate.noLoadCurve`. */
export const noLoadCurve = defineCalculation({
  id: 'evaluate.noLoadCurve',
  version: 1,
  title: 'No-load curve: friction and windage parted from core loss',
  sources: ['IEEE 112 and IEC 60034-2-1 (from memory)', 'correlation: common practice'],
  input: z.strictObject({
    points: noLoadPoints,
    /** resistance lead to lead at the temperature of the run */
    lineOhm: z.number().positive().max(1e6),
    ratedV: z.number().positive().max(1e6).optional(),
    calibrationExpired: z.boolean().default(false),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
    /** losses without the winding's own, at each point, W */
    constantW: z.array(z.number()),
    frictionW: z.number().optional(),
    coreW: z.number().optional(),
    /** per volt squared, W/V² */
    slope: z.number().optional(),
    correlation: z.number().optional(),
    /** numbers of the points that the line is laid through, from 1 */
    fitted: z.array(z.int()).optional(),
  }),
  example: {
    ratedV: 400,
    lineOhm: 0.99,
    points: [
      { volts: 400, amps: 7.2, watts: 312 },
      { volts: 240, amps: 3.3, watts: 145 },
      { volts: 200, amps: 2.7, watts: 121 },
      { volts: 160, amps: 2.1, watts: 101 },
    ],
  },
  compute: (x, note) => {
    const constantW = x.points.map((p) => p.watts - 1.5 * p.amps ** 2 * x.lineOhm);
    x.points.forEach((p, i) =>
      note?.({
        name: `Friction and core loss at ${formatNumber(p.volts)} V`,
        symbol: 'P_k',
        formula: 'P₀ − 1.5 I₀² R',
        numbers: `${p.watts} − 1.5 · ${p.amps}² · ${x.lineOhm}`,
        value: constantW[i] ?? 0,
        unit: 'W',
        source: 'IEEE 112 (from memory)',
      }),
    );
    const cannot = (reason: string) => ({ verdict: 'cannot judge' as const, reason, constantW });
    if (x.ratedV === undefined) return cannot('The rated voltage decides which points friction is read from.');
    const found = separateLosses(x.points, x.lineOhm, x.ratedV);
    if (!found)
      return cannot(
        `Friction needs at least ${FEWEST_POINTS} voltages up to ${FRICTION_UP_TO} of the rated ${formatNumber(x.ratedV)} V where the current still falls.`,
      );
    const coreW = found.coreAt(x.ratedV);
    note?.({
      name: 'Friction and windage',
      symbol: 'P_fw',
      formula: 'P_k at U = 0, on the line over U²',
      numbers: `points ${found.fitted.map((i) => i + 1).join(', ')}`,
      value: found.frictionW,
      unit: 'W',
      source: 'IEEE 112 (from memory)',
    });
    const least = limit('load.frictionFit', x.limits);
    const [shown] = formatAgainst(found.fit.r, least);
    const parts: Judged[] = [];
    if (!notBelow(found.fit.r, least))
      parts.push({
        verdict: 'cannot judge',
        reason: `The points do not lie on a line: correlation ${shown}, at least ${quoteLimit('load.frictionFit', x.limits)} is wanted. Take lower voltages, let the bearings run in.`,
      });
    else if (found.frictionW < 0)
      parts.push({
        verdict: 'cannot judge',
        reason: `Friction comes out below zero (${formatNumber(found.frictionW, 3)} W): a reading is off.`,
      });
    else
      parts.push({
        verdict: 'pass',
        reason: `Friction and windage ${formatNumber(found.frictionW, 4)} W${coreW === undefined ? '' : `, core loss at ${formatNumber(x.ratedV)} V ${formatNumber(coreW, 4)} W`} (correlation ${shown}).`,
      });
    if (coreW === undefined)
      parts.push({
        verdict: 'attention',
        reason: `The curve does not reach ${formatNumber(x.ratedV)} V: no core loss is told.`,
      });
    return {
      ...judgedTogether([...parts, ...outOfCalibration(x.calibrationExpired)]),
      constantW,
      frictionW: found.frictionW,
      ...(coreW === undefined ? {} : { coreW }),
      slope: found.fit.slope,
      correlation: found.fit.r,
      fitted: found.fitted.map((i) => i + 1),
    };
  },
});

/** Lists of a no-load curve as points; refused where they are not of one length. */
export function pointsOf(v: Readings): { volts: number; amps: number; watts: number }[] {
  const [volts, amps, watts] = [numbers(v, 'volts'), numbers(v, 'amps'), numbers(v, 'watts')];
  if (volts.length !== amps.length || volts.length !== watts.length)
    refuse('points', 'Each voltage has its current and its power.');
  return volts.map((u, i) => ({ volts: u, amps: amps[i] ?? 0, watts: watts[i] ?? 0 }));
}

/** No-load curve in the test matrix. */
export const noLoadCurveTest: TestKind = {
  id: 'noLoadCurve',
  title: 'No-load curve, losses',
  stages: { AA: 'optional', FI: 'optional' },
  calculation: noLoadCurve as unknown as Calculation,
  for: ({ machine }) => machine === 'three-phase' || machine === 'slip-ring',
  needsWholeMotor: true,
  fields: [
    listOf('volts', 'Voltages', 'voltage', 'V', 'from 110 % down to 30 % of the rated'),
    listOf('amps', 'Current at each', 'current', 'A', 'mean of the lines'),
    listOf('watts', 'Power at each', 'power', 'W', '310 W, 145 W'),
    quantity('lineOhm', 'Resistance lead to lead', 'resistance', 'Ω', { ...need, hint: 'right after the run' }),
    celsius('windingC', 'Winding temperature'),
    text('instrument', 'Instrument', need),
  ],
  lacks: (v) => sameLengths(v, ['volts', 'amps', 'watts'], 'Each voltage has its current and its power'),
  due: ({ nameplate }) => {
    const rated = Math.max(0, ...(nameplate.voltagesV ?? []));
    return {
      says: [
        rated > 0
          ? `Run until the bearings are steady, then from ${formatNumber(1.1 * rated)} V down to ${formatNumber(0.3 * rated)} V: four points about ${formatNumber(rated)} V, four up to ${formatNumber(FRICTION_UP_TO * rated)} V; stop where the current turns up.`
          : 'Run until the bearings are steady, then from 110 % of the rated voltage down to 30 %.',
      ],
    };
  },
  input: (v, c) => ({
    points: pointsOf(v),
    lineOhm: num(v, 'lineOhm'),
    ratedV: c.nameplate.voltagesV ? Math.max(...c.nameplate.voltagesV) : undefined,
  }),
  derived: [
    { name: 'frictionW', title: 'Friction and windage', unit: 'W' },
    { name: 'coreW', title: 'Core loss at rated voltage', unit: 'W' },
  ],
  caution: 'Rotating: guard on, key secured. First start at reduced voltage.',
};
