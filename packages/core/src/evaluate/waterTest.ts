import { z } from 'zod';
import { defineCalculation, type Calculation } from '../calculation.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { choice, need, notes, quantity, text, yes } from '../process/fieldKinds.ts';
import type { FieldSpec } from '../quantity/fields.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { judgedTogether, notAbove, notBelow, outOfCalibration, type Judged } from '../verdict.ts';
import { HIGH_VOLTAGE, num, type TestKind } from './testKind.ts';

const SOURCE = 'NEMA MG 1 20.18 (from memory)';
const IMMERSED_MIN = 30;
const READ_AFTER_MIN = 10;
const TENSION = 31;
const HOLD_S = 60;
const WAYS = ['immersed', 'sprayed'] as const;

/** What a sealed winding must keep under water. */
export const waterLimits = (lineV: number): { megohm: number; testV: number } => ({
  megohm: 5 * (lineV / 1000) + 5,
  testV: 1.15 * lineV,
});

/** Calculation `evaluate.waterTest`. */
export const waterTest = defineCalculation({
  id: 'evaluate.waterTest',
  version: 1,
  title: 'Water test of a sealed winding: insulation resistance and high potential under water',
  sources: [SOURCE],
  input: z.strictObject({
    lineV: z.number().positive().max(1e6),
    /** sold as a sealed system; others are not tested so */
    sealed: z.boolean().default(true),
    way: z.enum(WAYS).default('immersed'),
    immersedMin: z.number().min(0).max(1e5).optional(),
    /** surface tension of the water, dyn/cm */
    tension: z.number().positive().max(100).optional(),
    megohm: z.number().min(0).max(1e9).optional(),
    overRange: z.boolean().default(false),
    underRange: z.boolean().default(false),
    testV: z.number().positive().max(1e6).optional(),
    heldS: z.number().min(0).max(1e5).optional(),
    brokeDown: z.boolean().default(false),
    calibrationExpired: z.boolean().default(false),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
    minimumMegohm: z.number(),
    testV: z.number(),
  }),
  example: { lineV: 460, immersedMin: 30, tension: 30, megohm: 62, testV: 530, heldS: 60 },
  compute: (x) => {
    const need = waterLimits(x.lineV);
    const end = { minimumMegohm: need.megohm, testV: need.testV };
    if (!x.sealed)
      return {
        verdict: 'cannot judge' as const,
        reason: 'Only a winding sold as a sealed system is put under water.',
        ...end,
      };
    const parts: Judged[] = [];
    const missing = (what: string) => parts.push({ verdict: 'cannot judge', reason: `${what} is missing.` });
    if (x.megohm === undefined) missing('Insulation resistance under water');
    else {
      const [shown, bound] = formatAgainst(x.megohm, need.megohm);
      const met = notBelow(x.megohm, need.megohm);
      parts.push(
        x.overRange && !met
          ? {
              verdict: 'cannot judge',
              reason: `Above ${shown} MΩ: the instrument's range ends below the minimum of ${bound} MΩ.`,
            }
          : {
              verdict: met && !x.underRange ? 'pass' : 'fail',
              reason: `${x.underRange ? 'Below ' : x.overRange ? 'Above ' : ''}${shown} MΩ ${x.way}, minimum ${bound} MΩ (5 · kV + 5, ${SOURCE}).`,
            },
      );
    }
    if (x.brokeDown) parts.push({ verdict: 'fail', reason: 'Breakdown under water.' });
    else if (x.testV === undefined || x.heldS === undefined) missing('Voltage and time under water');
    else {
      const [shown, bound] = formatAgainst(x.testV, need.testV);
      const met = notBelow(x.testV, need.testV) && notBelow(x.heldS, HOLD_S);
      parts.push({
        verdict: met ? 'pass' : 'cannot judge',
        reason: `${shown} V AC for ${formatNumber(x.heldS)} s; ${bound} V for ${HOLD_S} s wanted (1.15 · U, ${SOURCE})${met ? '.' : ': not proved.'}`,
      });
    }
    if (x.way === 'immersed') {
      if (x.immersedMin === undefined) missing('The time under water');
      else if (!notBelow(x.immersedMin, IMMERSED_MIN))
        parts.push({
          verdict: 'cannot judge',
          reason: `Under water for ${formatNumber(x.immersedMin)} min, at least ${IMMERSED_MIN} min are wanted.`,
        });
      if (x.tension !== undefined && !notAbove(x.tension, TENSION))
        parts.push({
          verdict: 'cannot judge',
          reason: `Surface tension ${formatNumber(x.tension)} dyn/cm, at most ${TENSION} are wanted: add wetting agent.`,
        });
    } else parts.push({ verdict: 'attention', reason: 'Sprayed, not immersed: for sizes that cannot be dipped.' });
    parts.push(...outOfCalibration(x.calibrationExpired));
    const judged = judgedTogether(parts);
    return { ...judged, reason: `${judged.reason} Rinse, dry, measure insulation resistance again.`, ...end };
  },
});

const megohm: FieldSpec = {
  name: 'megohm',
  label: 'Insulation resistance under water',
  required: true,
  read: { kind: 'quantity', dimension: 'insulation', unit: 'MΩ', min: 0, overRange: true, underRange: true },
  hint: `500 V DC, after ${READ_AFTER_MIN} min`,
};

/** Water test in the test matrix: for windings sold as sealed. */
export const waterTestKind: TestKind = {
  id: 'waterTest',
  title: 'Water test, sealed winding',
  stages: { VC: 'optional' },
  calculation: waterTest as unknown as Calculation,
  for: ({ record }) => record?.kind === 'form-wound',
  fields: [
    yes('sealed', 'Sold as a sealed system'),
    choice('way', 'Way', [...WAYS], need),
    quantity('immersed', 'Under water for', 'time', 'min'),
    quantity('tension', 'Surface tension', 'number', '', { hint: 'dyn/cm, at most 31' }),
    megohm,
    quantity('testV', 'AC under water', 'voltage', 'V'),
    quantity('seconds', 'Held for', 'time', 's'),
    choice('ended', 'Ended', ['held', 'breakdown'], need),
    text('instrument', 'Instrument', need),
    notes('finding', 'What was seen'),
  ],
  due: ({ nameplate }) => {
    const lineV = Math.max(0, ...(nameplate.voltagesV ?? []));
    const w = waterLimits(lineV);
    return lineV > 0
      ? {
          says: [
            `${IMMERSED_MIN} min in water of at most ${TENSION} dyn/cm; 500 V DC for ${READ_AFTER_MIN} min, at least ${formatNumber(w.megohm)} MΩ; then ${formatNumber(w.testV)} V AC for ${HOLD_S} s while immersed (${SOURCE}).`,
          ],
          typed: { testV: formatNumber(w.testV), seconds: String(HOLD_S) },
        }
      : { says: ['The nameplate names no voltage.'] };
  },
  input: (v, c) => {
    const lineV = Math.max(0, ...(c.nameplate.voltagesV ?? []));
    const seconds = num(v, 'seconds');
    return lineV === 0
      ? undefined
      : {
          lineV,
          sealed: v['sealed'],
          way: v['way'],
          immersedMin: num(v, 'immersed'),
          tension: num(v, 'tension'),
          megohm: num(v, 'megohm'),
          overRange: v['megohmOverRange'] === true,
          underRange: v['megohmUnderRange'] === true,
          testV: num(v, 'testV'),
          heldS: seconds === undefined ? undefined : seconds * 60,
          brokeDown: v['ended'] === 'breakdown',
        };
  },
  derived: [{ name: 'minimumMegohm', title: 'Minimum under water', unit: 'MΩ' }],
  caution: `${HIGH_VOLTAGE} Water and high voltage: nobody near the bath.`,
};
