import type { Nameplate } from '../../packages/core/src/machine/nameplate.ts';
import { checkRecord } from '../../packages/core/src/winding/checks.ts';
import type { Check, Context, Finding } from '../../packages/core/src/winding/checkTypes.ts';
import { type WindingRecord, windingRecordSchema } from '../../packages/core/src/winding/record.ts';

const line = ({ severity, fields, message }: Finding): string => `${severity} ${fields.join(',')}: ${message}`;

/** 36/4 double-layer lap, 12 groups of 3, wye of two circuits. */
export const LAP = {
  slots: 36,
  poles: 4,
  layers: 'double',
  form: 'lap',
  spansSlots: [8],
  turns: [20],
  turnsSecondCount: [20],
  strands: [{ count: 2, bareM: 0.001, label: '' }],
  connection: 'wye',
  circuits: 2,
  leads: '3',
} as const;

/** That record with other fields; `undefined` takes a field away. */
export const lapRecord = (more: object = {}): WindingRecord =>
  windingRecordSchema.parse(
    Object.fromEntries(Object.entries({ ...LAP, ...more }).filter(([, value]) => value !== undefined)),
  );

/** What one check says of that record among all others: severity, fields and sentence of each finding. */
export const saidOfRecord = (name: string, more: object = {}, nameplate: Nameplate = {}, limits = {}): string[] =>
  checkRecord(lapRecord(more), nameplate, limits)
    .filter((finding) => finding.check === name)
    .map(line);

export interface Parts {
  record?: object;
  nameplate?: object;
  figures?: object;
  limits?: object;
  layout?: object;
}

/** One check by itself on figures given outright, whatever record would give them: what it says, and the severities alone. */
export function checkAlone(checks: Readonly<Record<string, { run: Check }>>) {
  const said = (name: string, parts: Parts): string[] =>
    [
      checks[name]?.run({
        record: { kind: 'three-phase', ...parts.record },
        nameplate: { ...parts.nameplate },
        figures: { ...parts.figures },
        layout: parts.layout,
        layoutProblem: undefined,
        limits: parts.limits ?? {},
      } as unknown as Context) ?? [],
    ]
      .flat()
      .map(line);
  return {
    said,
    severities: (name: string, parts: Parts) =>
      said(name, parts)
        .map((one) => one[0])
        .join(''),
  };
}
