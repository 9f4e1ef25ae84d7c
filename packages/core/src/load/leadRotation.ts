import { z } from 'zod';
import { defineCalculation, type Calculation } from '../calculation.ts';
import { num, type TestKind } from '../evaluate/testKind.ts';
import { limit, quoteLimit } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { need, quantity, text } from '../process/fieldKinds.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { judgedTogether, judgeUpTo, outOfCalibration, type Judged } from '../verdict.ts';
import { lineOfLead, rotateLeads, type LeadAmps } from './rotateLeads.ts';

const three = z.tuple([z.number().positive().max(1e6), z.number().positive().max(1e6), z.number().positive().max(1e6)]);
const LEADS = ['U', 'V', 'W'] as const;
const LINES = ['1', '2', '3'] as const;

/** Calculation `evaluate.leadRotation`. */
export const leadRotation = defineCalculation({
  id: 'evaluate.leadRotation',
  version: 1,
  title: 'Leads rotated over the lines: whether the unbalance is the motor’s or the supply’s',
  sources: ['derived, to first order', 'limits: common practice'],
  input: z.strictObject({
    /** run p: currents of the motor's leads U, V, W; lead t lies on line (t + p) mod 3 */
    runs: z.tuple([three, three, three]),
    calibrationExpired: z.boolean().default(false),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
    meanA: z.number(),
    leadA: z.array(z.number()),
    lineA: z.array(z.number()),
    leadPercent: z.number(),
    linePercent: z.number(),
    follows: z.enum(['balanced', 'supply', 'motor', 'both']),
  }),
  example: {
    runs: [
      [10.7, 9.7, 9.6],
      [9.9, 9.5, 10.6],
      [9.7, 10.5, 9.8],
    ],
  },
  compute: (x) => {
    const found = rotateLeads(x.runs, x.limits);
    const { leadA, lineA, leadPercent, linePercent, follows } = found;
    const worst = (of: LeadAmps) => of.reduce((best, v, i) => (Math.abs(v) > Math.abs(of[best] ?? 0) ? i : best), 0);
    const [pass, fail] = ['noLoad.currentPassPercent', 'noLoad.currentFailPercent'] as const;
    const [shown] = formatAgainst(leadPercent, limit(pass, x.limits));
    const figures = `What stays with the motor's leads: ${shown} % of the mean (lead ${LEADS[worst(leadA)]} most); with the lines: ${formatNumber(linePercent, 3)} % (line ${LINES[worst(lineA)]} most).`;
    const motor: Judged = {
      verdict: judgeUpTo(leadPercent, limit(pass, x.limits), limit(fail, x.limits)),
      reason: '',
    };
    const says: Record<typeof follows, string> = {
      balanced: `Balanced: neither is above ${quoteLimit('load.balancedPercent', x.limits)}.`,
      supply: 'The unbalance follows the supply lines: the motor is not to blame.',
      motor: `The unbalance follows lead ${LEADS[worst(leadA)]} of the motor: its winding or its joints; pass up to ${quoteLimit(pass, x.limits)}.`,
      both: `Part of it follows the supply, part the motor; of the motor's own pass up to ${quoteLimit(pass, x.limits)}.`,
    };
    const parts: Judged[] = found.drifted
      ? [
          {
            verdict: 'cannot judge',
            reason: `The means of the three runs are further apart than ${quoteLimit('load.driftPercent', x.limits)}: the supply drifted, repeat. ${figures}`,
          },
        ]
      : [{ verdict: motor.verdict, reason: `${says[follows]} ${figures}` }];
    return {
      ...judgedTogether([...parts, ...outOfCalibration(x.calibrationExpired)]),
      meanA: found.meanA,
      leadA: [...leadA],
      lineA: [...lineA],
      leadPercent,
      linePercent,
      follows,
    };
  },
});

const RUNS = [0, 1, 2] as const;

/** Leads rotated, in the test matrix: three runs. */
export const leadRotationTest: TestKind = {
  id: 'leadRotation',
  title: 'Leads rotated, three runs',
  stages: { AA: 'optional', FI: 'optional' },
  calculation: leadRotation as unknown as Calculation,
  for: ({ machine }) => machine !== 'single-phase' && machine !== 'permanent magnet',
  needsWholeMotor: true,
  fields: [
    ...RUNS.flatMap((p) =>
      LEADS.map((lead, t) =>
        quantity(`run${p + 1}${lead}`, `Run ${p + 1}: lead ${lead} on line ${lineOfLead(t, p)}`, 'current', 'A', need),
      ),
    ),
    text('instrument', 'Instrument', need),
  ],
  due: () => ({
    says: [
      'Three runs at one voltage; after each every lead goes one line further (U to 2, V to 3, W to 1), which keeps the direction. Isolate, lock and prove dead before a lead is touched.',
    ],
  }),
  input: (v) => ({ runs: RUNS.map((p) => LEADS.map((lead) => num(v, `run${p + 1}${lead}`))) }),
  derived: [
    { name: 'leadPercent', title: 'Unbalance that is the motor’s', unit: '%' },
    { name: 'linePercent', title: 'Unbalance that is the supply’s', unit: '%' },
  ],
  caution:
    'Rotating: guard on. Isolate, lock, prove dead before each exchange of leads. Local codes and licensed practice decide.',
};
