import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';
import type { ShopLimits } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { nameplateSchema, type Nameplate } from '../machine/nameplate.ts';
import type { Checks, Context, Finding, Severity } from './checkTypes.ts';
import { CONNECTION_CHECKS } from './connectionChecks.ts';
import { COUNTING_CHECKS } from './countingChecks.ts';
import { layoutOfRecord, windingFigures } from './figures.ts';
import { MAGNITUDE_CHECKS } from './magnitudeChecks.ts';
import { windingRecordSchema, type WindingRecord } from './record.ts';

/** The checks of an as-found three-phase record, all in one catalogue. */
export const RECORD_CHECKS: Checks = { ...COUNTING_CHECKS, ...CONNECTION_CHECKS, ...MAGNITUDE_CHECKS };

export const checksInputSchema = z.strictObject({
  record: windingRecordSchema,
  nameplate: nameplateSchema,
  limits: shopLimitsSchema.default({}),
});

/** Runs every check on a record; what is missing is silent. */
export function checkRecord(record: WindingRecord, nameplate: Nameplate, limits: ShopLimits = {}): Finding[] {
  const laid = layoutOfRecord(record);
  const figures = windingFigures.compute(windingFigures.input.parse({ record, nameplate }));
  const complete = record.slots !== undefined && record.poles !== undefined && record.spansSlots !== undefined;
  const context: Context = {
    record,
    nameplate,
    limits,
    figures,
    layout: laid.layout,
    layoutProblem: laid.layout === undefined && complete ? laid.why : undefined,
  };
  const found = Object.values(RECORD_CHECKS).flatMap((check) => check.run(context) ?? []);
  const weight: Record<Severity, number> = { E: 0, W: 1, I: 2 };
  return found.sort((a, b) => weight[a.severity] - weight[b.severity]);
}

/** Fields without which a record cannot be verified. */
export const NEEDED_TO_VERIFY: readonly (keyof WindingRecord)[] = [
  'slots',
  'poles',
  'layers',
  'form',
  'spansSlots',
  'turns',
  'turnsSecondCount',
  'strands',
  'connection',
  'circuits',
  'leads',
  'boreM',
  'coreLengthM',
  'leadExit',
  'connectionSide',
];

/** Calculation `winding.checks`. */
export const windingChecks = defineCalculation({
  id: 'winding.checks',
  version: 1,
  title: 'Checks of an as-found winding record',
  sources: ['counting rules (derived)', 'ranges: common practice, the shop may set its own'],
  input: checksInputSchema,
  output: z.object({
    findings: z.array(
      z.object({
        check: z.string(),
        severity: z.enum(['E', 'W', 'I']),
        message: z.string(),
        fields: z.array(z.string()),
      }),
    ),
    missing: z.array(z.string()),
    verifiable: z.boolean(),
  }),
  example: {
    record: { slots: 36, poles: 4, layers: 'double', coilCount: 36, groupCount: 6, spansSlots: [9], form: 'lap' },
    nameplate: { speedRpm: 1455, frequencyHz: 50 },
  },
  compute: ({ record, nameplate, limits }) => {
    const findings = checkRecord(record, nameplate, limits);
    const missing = NEEDED_TO_VERIFY.filter((name) => record[name] === undefined);
    return {
      findings,
      missing: [...missing],
      verifiable: missing.length === 0 && findings.every((x) => x.severity !== 'E'),
    };
  },
});
