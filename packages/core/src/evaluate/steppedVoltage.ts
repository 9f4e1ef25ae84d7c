import { z } from 'zod';
import { defineCalculation, refuse, type Calculation } from '../calculation.ts';
import { limit } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { choice, need, quantity, text, yes } from '../process/fieldKinds.ts';
import type { FieldSpec } from '../quantity/fields.ts';
import { formatNumber } from '../quantity/format.ts';
import { combineVerdicts, notAbove, notBelow, outOfCalibration, type Judged } from '../verdict.ts';
import { HIGH_VOLTAGE, num, type TestKind } from './testKind.ts';
import { DC_FACTOR } from './withstand.ts';

/** A maintenance test in service: 125 to 150 % of the line voltage, as direct voltage. Source: IEEE 95 (from memory). */
const SERVICE_PERCENT = [125, 150] as const;
export const serviceDcV = (lineV: number): [number, number] => [
  (SERVICE_PERCENT[0] / 100) * lineV * DC_FACTOR,
  (SERVICE_PERCENT[1] / 100) * lineV * DC_FACTOR,
];
export const USUAL_STEPS = 10;
/** Each step is held a minute; discharged and earthed for four times the time of charging. */
const STEP_MIN = 1;
const DISCHARGE_FACTOR = 4;

const ENDS = ['all steps held', 'current rose while the voltage was held', 'collapse'] as const;

const step = z.strictObject({ volts: z.number().positive().max(1e6), amps: z.number().min(0).max(10) });

/** Calculation `evaluate.steppedVoltage`. */
export const steppedVoltage = defineCalculation({
  id: 'evaluate.steppedVoltage',
  version: 1,
  title: 'Stepped direct voltage: leakage curve and its knee',
  sources: ['IEEE 95 (from memory)', 'knee: common practice'],
  input: z.strictObject({
    /** voltage and current at the end of each step, rising */
    steps: z.array(step).min(1).max(60),
    ended: z.enum(ENDS).default('all steps held'),
    requiredV: z.number().positive().max(1e6).optional(),
    calibrationExpired: z.boolean().default(false),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
    /** rise of current per volt of each step, A/V */
    slopes: z.array(z.number()),
    /** number of the step at which the curve bends, from 1, and its voltage */
    knee: z.object({ step: z.int(), volts: z.number(), factor: z.number().optional() }).optional(),
    dischargeMin: z.number(),
  }),
  example: {
    steps: [
      { volts: 1000, amps: 0.4e-6 },
      { volts: 2000, amps: 0.8e-6 },
      { volts: 3000, amps: 1.3e-6 },
      { volts: 4000, amps: 3.1e-6 },
    ],
  },
  compute: (x, note) => {
    x.steps.forEach((s, i) => {
      if (i > 0 && s.volts <= (x.steps[i - 1]?.volts ?? 0))
        refuse(`steps.${i}.volts`, 'The voltage must rise from step to step.');
    });
    const slopes = x.steps.map((s, i) => {
      const before = x.steps[i - 1] ?? { volts: 0, amps: 0 };
      return (s.amps - before.amps) / (s.volts - before.volts);
    });
    slopes.forEach((s, i) =>
      note?.({
        name: `Rise of current per volt, step ${i + 1}`,
        symbol: 'ΔI/ΔU',
        formula: '(I_k − I_{k−1}) / (U_k − U_{k−1})',
        numbers: `to ${formatNumber(x.steps[i]?.volts ?? 0)} V`,
        value: s * 1e6,
        unit: 'µA/V',
        source: 'common practice',
      }),
    );
    const most = limit('hipot.kneeFactor', x.limits);
    // where the current fell, what it had leaked per volt until then is compared with
    const usual = (i: number): number => {
      const own = slopes[i] ?? 0;
      const { volts, amps } = x.steps[i] ?? { volts: 1, amps: 0 };
      return own > 0 ? own : amps / volts;
    };
    const at = slopes.findIndex((s, i) => i > 0 && !notAbove(s, most * usual(i - 1)));
    const knee =
      at > 0
        ? { step: at + 1, volts: x.steps[at]?.volts ?? 0, factor: ratio(slopes[at] ?? 0, usual(at - 1)) }
        : undefined;
    const top = x.steps.at(-1)?.volts ?? 0;
    const dischargeMin = DISCHARGE_FACTOR * STEP_MIN * x.steps.length;
    const parts: Judged[] = [];
    if (x.ended === 'collapse')
      parts.push({ verdict: 'fail', reason: `The voltage collapsed after ${formatNumber(top)} V: breakdown.` });
    else if (knee)
      parts.push({
        verdict: 'attention',
        reason: `From ${formatNumber(knee.volts)} V the current rises ${knee.factor === undefined ? 'where it did not before' : `${formatNumber(knee.factor, 3)} times as steeply as in the step before`}, more than ${most} times (common practice): stop there, discharge, dry and clean before going on.`,
      });
    else if (x.ended === 'current rose while the voltage was held')
      parts.push({
        verdict: 'attention',
        reason: `The current rose while ${formatNumber(top)} V was held: stop there, discharge, dry and clean before going on.`,
      });
    else
      parts.push({
        verdict: 'pass',
        reason: `${x.steps.length} steps to ${formatNumber(top)} V, ${formatNumber((x.steps.at(-1)?.amps ?? 0) * 1e6, 3)} µA: the curve stays straight.`,
      });
    if (parts[0]?.verdict === 'pass' && x.requiredV !== undefined) {
      const percent = limit('hipot.reachedPercent', x.limits);
      if (!notBelow(top, (percent / 100) * x.requiredV))
        parts.push({
          verdict: 'cannot judge',
          reason: `Only ${formatNumber(top)} V of ${formatNumber(x.requiredV)} V: not proved.`,
        });
    }
    parts.push(...outOfCalibration(x.calibrationExpired));
    return {
      verdict: combineVerdicts(parts.map((p) => p.verdict)),
      reason: `${parts.map((p) => p.reason).join(' ')} Earth for at least ${dischargeMin} min.`,
      slopes,
      ...(knee
        ? {
            knee: { step: knee.step, volts: knee.volts, ...(knee.factor === undefined ? {} : { factor: knee.factor }) },
          }
        : {}),
      dischargeMin,
    };
  },
});

const ratio = (a: number, b: number): number | undefined => (b > 0 ? a / b : undefined);

const list = (
  name: string,
  label: string,
  dimension: 'voltage' | 'current',
  unit: string,
  hint: string,
): FieldSpec => ({
  name,
  label,
  read: { kind: 'quantities', dimension, unit },
  required: true,
  hint,
});

/** Stepped direct voltage in the test matrix. */
export const steppedVoltageTest: TestKind = {
  id: 'steppedVoltage',
  title: 'Stepped DC voltage',
  stages: { IN: 'optional', VC: 'optional', FI: 'optional' },
  calculation: steppedVoltage as unknown as Calculation,
  fields: [
    list('volts', 'Voltages of the steps', 'voltage', 'V', '1000, 2000, 3000'),
    list('amps', 'Current at the end of each', 'current', 'µA', '0.4, 0.8, 1.3'),
    choice('ended', 'Ended', [...ENDS], need),
    quantity('wanted', 'Up to', 'voltage', 'V', { hint: 'voltage that was wanted' }),
    yes('discharged', 'Discharged and earthed'),
    text('instrument', 'Instrument', need),
  ],
  lacks: (v) => {
    const [volts, amps] = [v['volts'], v['amps']];
    if (Array.isArray(volts) && Array.isArray(amps) && volts.length !== amps.length)
      return {
        field: 'amps',
        message: `There are ${volts.length} voltages and ${amps.length} currents; each step has both.`,
      };
    return v['discharged'] === true ? undefined : { field: 'discharged', message: NOT_DISCHARGED };
  },
  input: (v) => ({
    steps: (v['volts'] as number[]).map((volts, i) => ({ volts, amps: (v['amps'] as number[])[i] })),
    ended: v['ended'],
    requiredV: num(v, 'wanted'),
  }),
  due: ({ nameplate, newWinding }) => {
    const lineV = Math.max(0, ...(nameplate.voltagesV ?? []));
    if (lineV === 0) return { says: ['The nameplate names no voltage.'] };
    const [low, high] = serviceDcV(lineV);
    return {
      says: [
        `${USUAL_STEPS} equal steps of a minute, up to ${formatNumber(low)} to ${formatNumber(high)} V DC in service (125 to 150 % of ${formatNumber(lineV)} V, times ${DC_FACTOR}; IEEE 95, from memory).`,
        `Stop where the current bends or rises by itself. Lower slowly, discharge through a resistor, then earth for at least ${DISCHARGE_FACTOR} times the charging time.`,
      ],
      typed: newWinding ? {} : { wanted: formatNumber(low) },
    };
  },
  caution: HIGH_VOLTAGE,
};

/** Nothing goes on before a person says so. */
export const NOT_DISCHARGED =
  'Discharge and earth the winding first, at least four times as long as it was charged; confirm it here, then record.';
