import { z } from 'zod';
import { type Calculation, defineCalculation } from '../calculation.ts';
import { limit, quoteLimit } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { choice, count, need, notes, quantity, text } from '../process/fieldKinds.ts';
import { formatAgainst } from '../quantity/format.ts';
import { notAbove, type Verdict } from '../verdict.ts';
import { num, type TestKind } from './testKind.ts';

/** What the swing looks like over one turn of the rotor. */
const PATTERNS = ['a dip at each pole', 'fine ripple of the slots', 'one swing a turn', 'not looked at'] as const;

/** Swing of the current over one turn of the rotor, per cent: 100 (Imax − Imin) / ((Imax + Imin)/2). */
export const swingPercent = (maxA: number, minA: number): number => (200 * (maxA - minA)) / (maxA + minA);

/** Calculation `evaluate.rotorSwing`. */
export const rotorSwing = defineCalculation({
  id: 'evaluate.rotorSwing',
  version: 1,
  title: 'Single-phase rotor test: swing of the current as the cage is turned',
  sources: ['limits and patterns: common practice'],
  input: z.strictObject({
    maxA: z.number().optional(),
    minA: z.number().optional(),
    dips: z.int().min(0).max(1000).optional().describe('dips of the current in one turn'),
    poles: z.int().min(2).optional(),
    pattern: z.enum(PATTERNS).optional(),
    calibrationExpired: z.boolean().default(false),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
    swingPercent: z.number().optional(),
  }),
  example: { maxA: 5.12, minA: 4.86, poles: 4, dips: 4 },
  compute: ({ maxA, minA, dips, poles, pattern, limits, calibrationExpired }, note) => {
    const cannot = (reason: string) => ({ verdict: 'cannot judge' as const, reason });
    if (maxA === undefined || minA === undefined)
      return cannot('The largest and the smallest current over one turn are needed.');
    if (!(maxA > 0) || !(minA > 0)) return cannot('Both currents must be above zero.');
    if (minA > maxA) return cannot('The smallest current is above the largest: exchange them.');
    const swing = swingPercent(maxA, minA);
    note?.({
      name: 'Swing of the current over one turn',
      symbol: 's',
      formula: '100 (Imax − Imin) / ((Imax + Imin)/2)',
      numbers: `100 (${maxA} − ${minA}) / ((${maxA} + ${minA})/2)`,
      value: swing,
      unit: '%',
      source: 'common practice',
    });
    const verdict: Verdict = notAbove(swing, limit('rotor.swingPassPercent', limits))
      ? 'pass'
      : notAbove(swing, limit('rotor.swingFailPercent', limits))
        ? 'attention'
        : 'fail';
    const id = verdict === 'fail' ? 'rotor.swingFailPercent' : 'rotor.swingPassPercent';
    const [shown] = formatAgainst(swing, limit(id, limits));
    const seen =
      poles !== undefined && dips === poles
        ? ` ${dips} dips for ${poles} poles: a bar that is open dips the current as it passes each pole.`
        : pattern === 'a dip at each pole'
          ? ' A dip at each pole is the mark of an open bar.'
          : pattern === 'fine ripple of the slots'
            ? ' Fine, regular ripple is slotting, not a fault.'
            : pattern === 'one swing a turn'
              ? ' One swing a turn is eccentricity: look at gap and run-out.'
              : '';
    const next =
      verdict === 'fail'
        ? ' Repeat on another pair of leads before the rotor is condemned.'
        : verdict === 'pass'
          ? ' Few bars, closed slots or cast porosity hide a fault: this is no proof of health.'
          : '';
    const late = calibrationExpired && verdict === 'pass';
    return {
      verdict: late ? 'attention' : verdict,
      reason: `Swing ${shown} %, ${verdict === 'pass' ? 'at most' : 'above'} ${quoteLimit(id, limits)}.${seen}${next}${calibrationExpired ? ' The instrument is out of calibration.' : ''}`,
      swingPercent: swing,
    };
  },
});

/** Single-phase rotor test in the matrix. */
export const rotorSwingTest: TestKind = {
  id: 'rotorSwing',
  title: 'Single-phase rotor test',
  stages: { IN: 'optional', BS: 'optional', VC: 'optional', AA: 'optional' },
  fields: [
    quantity('maxA', 'Largest current in one turn', 'current', 'A', need),
    quantity('minA', 'Smallest current in one turn', 'current', 'A', need),
    count('dips', 'Dips in one turn'),
    choice('pattern', 'What it looks like', PATTERNS),
    text('instrument', 'Instrument', need),
    notes('finding', 'What was seen'),
  ],
  calculation: rotorSwing as unknown as Calculation,
  input: (values, { nameplate, record }) => ({
    maxA: num(values, 'maxA'),
    minA: num(values, 'minA'),
    dips: num(values, 'dips'),
    pattern: values['pattern'],
    poles: record?.poles ?? nameplate.poles,
  }),
  derived: [{ name: 'swingPercent', title: 'Swing of the current', unit: '%' }],
  needsWholeMotor: true,
  caution:
    'A tenth to a quarter of the voltage on two leads, rotor turned slowly by hand: guard the shaft, keep it short, the winding warms. Local codes and licensed practice decide.',
};
