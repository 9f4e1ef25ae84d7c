import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { formatNumber } from '../quantity/format.ts';
import { sameVoltage } from '../surge/levels.ts';
import { alignedArea } from '../surge/wave.ts';
import { perUnitV, sampleCoilV, surgeVoltage } from '../surge/voltage.ts';
import { judgeAligned } from './surgeAligned.ts';

/** Calculation `evaluate.surgeVoltage`. */
export const surgeVoltageCalculation = defineCalculation({
  id: 'evaluate.surgeVoltage',
  version: 1,
  title: 'Surge comparison: crest of the test voltage',
  sources: ['IEEE 522 (from memory)', 'IEC 60034-15, sample coils (from memory)', '2 E + 1000 V: common practice'],
  input: z.strictObject({
    lineV: z.number().positive().max(1e6),
    winding: z.enum(['random-wound', 'form-wound']).default('random-wound'),
    state: z.enum(['new', 'before resin', 'service']).default('new'),
    riseUs: z.number().positive().max(100).optional(),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({
    crestV: z.number(),
    formula: z.string(),
    source: z.string(),
    perUnitV: z.number(),
    sampleCoil: z.object({ impulseV: z.number(), steepFrontV: z.number() }).optional(),
  }),
  example: { lineV: 4160, winding: 'form-wound', state: 'new' },
  compute: (x, note) => {
    const required = surgeVoltage(x, x.limits);
    note?.({
      name: 'Crest',
      symbol: 'Û',
      formula: required.formula,
      numbers: `U = ${formatNumber(x.lineV)} V`,
      value: required.crestV,
      unit: 'V',
      source: required.source,
    });
    return {
      ...required,
      perUnitV: perUnitV(x.lineV),
      ...(x.winding === 'form-wound' ? { sampleCoil: sampleCoilV(x.lineV) } : {}),
    };
  },
});

const record = z.strictObject({
  appliedV: z.number().min(1).max(1e6),
  dtUs: z.number().min(1e-6).max(1e6),
  v: z.array(z.number().min(-1e7).max(1e7)).min(5).max(20_000),
});

/** Calculation `evaluate.surgeAgainstEarlier`. */
export const surgeAgainstEarlier = defineCalculation({
  id: 'evaluate.surgeAgainstEarlier',
  version: 1,
  title: 'A wave against an earlier one of the same winding, frequencies aligned',
  sources: ['alignment: derived (docs/derivations.md 43)', 'limits: common practice'],
  heavy: true,
  input: z.strictObject({
    earlier: record,
    later: record,
    /** resin and cure lie between the two */
    acrossCure: z.boolean().default(false),
    /** same capacitor of the tester, same state of the rotor */
    alikeTaken: z.boolean().default(true),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
    shiftPercent: z.number().optional(),
    plainPercent: z.number().optional(),
    alignedPercent: z.number().optional(),
    samples: z.number().optional(),
  }),
  example: {
    earlier: { appliedV: 100, dtUs: 10, v: [100, 20, -60, -40, 20, 40, 5, -25, -10, 8, 10] },
    later: { appliedV: 100, dtUs: 10, v: [100, 24, -56, -43, 14, 40, 10, -22, -13, 5, 10] },
  },
  compute: (x) => {
    const of = (r: z.output<typeof record>) => ({ v: r.v, dtS: r.dtUs * 1e-6, appliedV: r.appliedV });
    const cannot = (reason: string) => ({ verdict: 'cannot judge' as const, reason });
    if (!x.alikeTaken)
      return cannot('Another capacitor or another state of the rotor: the two waves cannot be compared.');
    if (!sameVoltage(x.earlier.appliedV, x.later.appliedV))
      return cannot(
        `Taken at ${formatNumber(x.earlier.appliedV)} and ${formatNumber(x.later.appliedV)} V: compare at one voltage.`,
      );
    const found = alignedArea(of(x.earlier), of(x.later));
    if (!found) return cannot('One of the waves does not ring: there is no frequency to align by.');
    return { ...judgeAligned(found, x.acrossCure, x.limits), ...found };
  },
});
