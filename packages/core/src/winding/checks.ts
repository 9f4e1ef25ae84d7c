import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';
import type { ShopLimits } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { nameplateSchema, type Nameplate } from '../machine/nameplate.ts';
import type { Checks, Context, Finding, Severity } from './checkTypes.ts';
import { CONNECTION_CHECKS } from './connectionChecks.ts';
import { END_TURN_CHECKS } from './endTurnChecks.ts';
import { FORM_COIL_CHECKS } from './formCoilChecks.ts';
import { JOINT_CHECKS } from './jointChecks.ts';
import { KIND_CHECKS } from './kindChecks.ts';
import { proposeChanges } from './proposals.ts';
import { COIL_LIST_CHECKS } from './coilListChecks.ts';
import { COUNTING_CHECKS } from './countingChecks.ts';
import { windingFigures } from './figures.ts';
import { layoutOfRecord } from './recordLayout.ts';
import { MAGNITUDE_CHECKS } from './magnitudeChecks.ts';
import { windingRecordSchema, type WindingRecord } from './record.ts';

/** The checks of an as-found record, all in one catalogue. */
export const RECORD_CHECKS: Checks = {
  ...COUNTING_CHECKS,
  ...COIL_LIST_CHECKS,
  ...CONNECTION_CHECKS,
  ...MAGNITUDE_CHECKS,
  ...END_TURN_CHECKS,
  ...FORM_COIL_CHECKS,
  ...JOINT_CHECKS,
  ...KIND_CHECKS,
};

export const checksInputSchema = z.strictObject({
  record: windingRecordSchema,
  nameplate: nameplateSchema,
  limits: shopLimitsSchema.default({}),
});

/** Every check on a record, and the single change that would mend several errors. What is missing is silent. */
export function checkRecord(record: WindingRecord, nameplate: Nameplate, limits: ShopLimits = {}): Finding[] {
  const found = runChecks(record, nameplate, limits);
  return [...found, ...proposeChanges(record, found, (changed) => runChecks(changed, nameplate, limits))];
}

function runChecks(record: WindingRecord, nameplate: Nameplate, limits: ShopLimits): Finding[] {
  const laid = layoutOfRecord(record);
  const figures = windingFigures.compute(windingFigures.input.parse({ record, nameplate }));
  const said = record.layers === 'mixed' ? record.sideKinds : (record.spansSlots ?? record.coilList);
  const complete = record.slots !== undefined && record.poles !== undefined && said !== undefined;
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

const ALWAYS: readonly (keyof WindingRecord)[] = [
  'slots',
  'poles',
  'spansSlots',
  'turns',
  'turnsSecondCount',
  'strands',
];
const PLACE: readonly (keyof WindingRecord)[] = ['boreM', 'coreLengthM', 'leadExit', 'connectionSide'];

/** Fields without which a record of its kind cannot be verified. */
export function neededToVerify(record: WindingRecord): readonly (keyof WindingRecord)[] {
  if (record.kind === 'single-phase') {
    const aux: (keyof WindingRecord)[] =
      record.auxSpansSlots || record.auxKind ? ['auxSpansSlots', 'auxTurns', 'auxStrands', 'auxKind'] : [];
    return [...ALWAYS, ...aux, ...PLACE];
  }
  if (record.kind === 'two-speed') return [...ALWAYS, 'form', 'circuits', 'duty', ...PLACE];
  if (record.kind === 'bar-rotor')
    return ['slots', 'poles', 'barsPerSlot', 'barWidthM', 'barHeightM', 'connection', 'circuits', 'coreLengthM'];
  if (record.kind === 'form-wound')
    return [
      ...ALWAYS.filter((f) => f !== 'strands'),
      'stripThicknessM',
      'stripWidthM',
      'groundWallM',
      'slotWidthM',
      'slotDepthM',
      'connection',
      'circuits',
      'leads',
      ...PLACE,
    ];
  if (record.kind === 'tooth-coil')
    return [...ALWAYS.filter((f) => f !== 'spansSlots'), 'layers', 'connection', 'circuits', 'leads', ...PLACE];
  if (record.coilList)
    return [...ALWAYS.filter((f) => f !== 'spansSlots'), 'coilList', 'connection', 'circuits', 'leads', ...PLACE];
  if (record.layers === 'mixed') return [...ALWAYS, 'layers', 'sideKinds', 'connection', 'circuits', 'leads', ...PLACE];
  const link = record.leads === '6 part-winding' ? [] : (['connection'] as const);
  return [...ALWAYS, 'layers', 'form', ...link, 'circuits', 'leads', ...PLACE];
}

/** Calculation `winding.checks`. */
export const windingChecks = defineCalculation({
  id: 'winding.checks',
  version: 1,
  title: 'Checks of an as-found winding record, and the change that would mend several errors',
  sources: ['counting rules (derived)', 'ranges: common practice, the shop may set its own'],
  input: checksInputSchema,
  output: z.object({
    findings: z.array(
      z.object({
        check: z.string(),
        severity: z.enum(['E', 'W', 'I']),
        message: z.string(),
        fields: z.array(z.string()),
        proposal: z.object({ say: z.string(), changes: z.record(z.string(), z.string()) }).optional(),
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
    const missing = neededToVerify(record).filter((name) => record[name] === undefined);
    return {
      findings,
      missing,
      verifiable: missing.length === 0 && findings.every((x) => x.severity !== 'E'),
    };
  },
});
