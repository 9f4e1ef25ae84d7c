import { z } from 'zod';
import { defineCalculation, type Calculation } from '../calculation.ts';
import { limit, quoteLimit } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { choice, need, quantity, text } from '../process/fieldKinds.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { judgedTogether, judgeUpTo, notAbove, outOfCalibration } from '../verdict.ts';
import { num, type TestKind } from './testKind.ts';
import { unbalancePercent } from './windingResistance.ts';

const NAMES = ['U', 'V', 'W'] as const;
const three = z.tuple([z.number().positive().max(1e6), z.number().positive().max(1e6), z.number().positive().max(1e6)]);

/** Calculation `evaluate.phaseBalance`. */
export const phaseBalance = defineCalculation({
  id: 'evaluate.phaseBalance',
  version: 1,
  title: 'Phase balance at reduced voltage: impedance of each phase',
  sources: ['Z = V/I divides the unbalance of the supply out', 'limits: common practice'],
  input: z.strictObject({
    /** volts and amperes of each phase */
    volts: three,
    amps: three,
    calibrationExpired: z.boolean().default(false),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
    impedancesOhm: z.tuple([z.number(), z.number(), z.number()]),
    offPercent: z.number(),
  }),
  example: { volts: [61, 60.5, 61.2], amps: [8.1, 8.2, 8.05] },
  compute: (x, note) => {
    const z3 = x.volts.map((u, i) => u / (x.amps[i] ?? 1)) as [number, number, number];
    const off = unbalancePercent(z3);
    const mean = (z3[0] + z3[1] + z3[2]) / 3;
    z3.forEach((z, i) =>
      note?.({
        name: `Impedance of ${NAMES[i]}`,
        symbol: 'Z',
        formula: 'U/I',
        numbers: `${x.volts[i]} / ${x.amps[i]}`,
        value: z,
        unit: 'Ω',
        source: 'Ohm',
      }),
    );
    const [p, f] = ['balance.impedancePassPercent', 'balance.impedanceFailPercent'] as const;
    const verdict = judgeUpTo(off, limit(p, x.limits), limit(f, x.limits));
    const id = notAbove(off, limit(p, x.limits)) || verdict === 'attention' ? p : f;
    const [shown] = formatAgainst(off, limit(id, x.limits));
    const at = z3.reduce((best, z, i) => (Math.abs(z - mean) > Math.abs((z3[best] ?? 0) - mean) ? i : best), 0);
    const said = {
      verdict,
      reason: `Impedances ${z3.map((z) => formatNumber(z)).join(', ')} Ω: ${NAMES[at]} is ${shown} % off the mean, ${verdict === 'pass' ? 'within' : 'above'} ${quoteLimit(id, x.limits)}.${verdict === 'pass' ? '' : ' Check the connection as made, then polarity and turns of that phase.'}`,
    };
    return { ...judgedTogether([said, ...outOfCalibration(x.calibrationExpired)]), impedancesOhm: z3, offPercent: off };
  },
});

/** Phase balance in the test matrix. */
export const phaseBalanceTest: TestKind = {
  id: 'phaseBalance',
  title: 'Phase balance, reduced voltage',
  stages: { AC: 'optional', VC: 'optional', AA: 'optional', FI: 'optional' },
  calculation: phaseBalance as unknown as Calculation,
  for: ({ machine }) => machine !== 'single-phase',
  fields: [
    ...NAMES.map((n) => quantity(`volts${n}`, `Volts, ${n}`, 'voltage', 'V', need)),
    ...NAMES.map((n) => quantity(`amps${n}`, `Amperes, ${n}`, 'current', 'A', need)),
    choice('bore', 'Bore', ['empty', 'dummy rotor', 'own rotor']),
    text('instrument', 'Instrument', need),
  ],
  lacks: (v) => {
    const zero = NAMES.flatMap((n) => [`volts${n}`, `amps${n}`]).find((n) => num(v, n) === 0);
    return zero === undefined
      ? undefined
      : { field: zero, message: 'Zero volts or amperes: that phase is open or not fed. Look before going on.' };
  },
  due: ({ nameplate }) => {
    const rated = Math.max(0, ...(nameplate.voltagesV ?? []));
    return {
      says: [
        rated > 0
          ? `${formatNumber(0.1 * rated)} to ${formatNumber(0.25 * rated)} V (10 to 25 % of ${formatNumber(rated)} V; common practice).`
          : '10 to 25 % of the rated voltage (common practice).',
        'An empty bore draws much: seconds only.',
      ],
    };
  },
  input: (v) => ({
    volts: NAMES.map((n) => num(v, `volts${n}`)),
    amps: NAMES.map((n) => num(v, `amps${n}`)),
  }),
  derived: [{ name: 'offPercent', title: 'Impedance off the mean', unit: '%' }],
  caution:
    'Reduced voltage, high current with an empty bore: seconds only, watch the winding temperature. Local codes and licensed practice decide.',
};
