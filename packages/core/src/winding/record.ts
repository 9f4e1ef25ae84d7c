import { saySpans } from './say.ts';
import { z } from 'zod';
import { strandSchema } from '../wire/strandSchema.ts';
import { WINDING_TYPES } from './layoutTypes.ts';
import { DUTIES } from './twoSpeed.ts';
import { fromBase } from '../quantity/units.ts';
import { readForm, type FieldSpec, type FormReading, type ReadingDefaults, type Typed } from '../quantity/fields.ts';

/** How many leads come out, and what for. */
export const LEAD_COUNTS = ['3', '6', '6 part-winding', '9', '12'] as const;
export const AUXILIARY_KINDS = ['split phase', 'capacitor start', 'capacitor run'] as const;

const positive = z.number().positive().optional();
const count = z.int().min(0).optional();

/** A winding record in core units. Everything may still be missing: checks speak only of what is there. */
export const windingRecordSchema = z.strictObject({
  kind: z.enum(WINDING_TYPES).optional(),
  slots: z.int().min(6).max(144).optional(),
  poles: z.int().min(2).max(48).multipleOf(2).optional(),
  layers: z.enum(['double', 'single']).optional(),
  form: z.enum(['lap', 'concentric']).optional(),
  poleGroups: z.enum(['every-pole', 'consequent']).optional(),
  coilCount: count,
  groupCount: count,
  grouping: z.array(z.int().min(0)).optional().describe('coils per group, in order round the bore'),
  spansSlots: z.array(z.int().min(1)).optional().describe('span of each coil of a group in slots, outermost first'),
  turns: z.array(z.int().min(1).max(2000)).optional(),
  turnsSecondCount: z.array(z.int().min(1).max(2000)).optional(),
  strands: z.array(strandSchema).max(3).optional(),
  wireGrade: z.enum(['1', '2']).optional(),
  material: z.enum(['copper', 'aluminium']).optional(),
  connection: z.enum(['wye', 'delta']).optional(),
  circuits: z.int().min(1).max(48).optional(),
  leads: z.enum(LEAD_COUNTS).optional(),
  duty: z.enum(DUTIES).optional().describe('two-speed: how torque and power go with speed'),
  auxSpansSlots: z
    .array(z.int().min(1))
    .optional()
    .describe('single-phase: auxiliary coils of a pole, outermost first'),
  auxTurns: z.array(z.int().min(1).max(2000)).optional(),
  auxStrands: z.array(strandSchema).max(3).optional(),
  auxKind: z.enum(AUXILIARY_KINDS).optional(),
  auxShiftSlots: z.number().positive().max(72).optional(),
  capacitorF: positive,
  auxCapacitorV: positive.describe('capacitor voltage rating'),
  jumper: z.enum(['adjacent-pole', 'skip-pole']).optional(),
  leadOneGroup: z.int().min(1).max(144).optional(),
  endsPerLead: count,
  wireTipsPerLead: count,
  starPoints: count,
  endsPerStar: count,
  boreM: positive,
  coreLengthM: positive,
  ductCount: count,
  ductWidthM: positive,
  coreOuterM: positive,
  backIronM: positive,
  toothWidthM: positive,
  slotDepthM: positive,
  slotOpeningM: positive,
  slotAreaM2: positive,
  slotNetAreaM2: positive,
  airGapM: positive,
  rotorBars: count,
  skewSlots: z.number().min(0).max(4).optional(),
  extensionConnectionEndM: positive,
  extensionOppositeEndM: positive,
  overhangOuterM: positive,
  overhangInnerM: positive,
  leadExit: z.string().max(40).optional(),
  connectionSide: z.enum(['drive end', 'opposite end']).optional(),
  leadSize: z.string().max(60).optional(),
  leadMarks: z.string().max(120).optional(),
  linerM: positive,
  separatorM: positive,
  wedge: z.string().max(80).optional(),
  phasePaper: z.string().max(80).optional(),
  copperKg: positive,
  copperState: z.enum(['burned clean', 'with enamel']).optional(),
  sampleCoilM: positive.describe('mean turn length of a sample coil, m'),
  resistanceOhm: positive.describe('line to line, before stripping'),
  resistanceTemperatureC: z.number().min(-40).max(200).optional(),
  startedFrom: z.string().max(200).optional().describe('archive record this one was started from'),
  remarks: z.string().max(2000).optional(),
});
export type WindingRecord = z.infer<typeof windingRecordSchema>;

const length = (min?: number) => ({ kind: 'quantity', dimension: 'length', unit: 'mm', above: min ?? 0 }) as const;
const options = (...values: string[]) =>
  ({ kind: 'choice', options: values.map((v) => ({ value: v, label: v })) }) as const;

/** The fields of the as-found sheet, in the order they are taken at the bench. Labels and hints are the bench's words. */
export const WINDING_FIELDS: readonly FieldSpec[] = [
  {
    name: 'kind',
    label: 'Kind of winding',
    read: {
      kind: 'choice',
      assumed: 'three-phase',
      options: [
        { value: 'three-phase', label: 'three-phase' },
        { value: 'two-speed', label: 'two speeds, one winding 2:1' },
        { value: 'single-phase', label: 'single-phase, main and auxiliary' },
      ],
    },
  },
  { name: 'slots', label: 'Slots', read: { kind: 'count', min: 6, max: 144 } },
  { name: 'poles', label: 'Poles', read: { kind: 'count', min: 2, max: 48, even: true } },
  {
    name: 'layers',
    label: 'Layers',
    read: {
      kind: 'choice',
      options: [
        { value: 'double', label: 'two coil sides in a slot' },
        { value: 'single', label: 'one coil side in a slot' },
      ],
    },
  },
  {
    name: 'form',
    label: 'Coils',
    read: {
      kind: 'choice',
      options: [
        { value: 'lap', label: 'lap (all alike)' },
        { value: 'concentric', label: 'concentric' },
      ],
    },
  },
  {
    name: 'poleGroups',
    label: 'Groups',
    read: {
      kind: 'choice',
      options: [
        { value: 'every-pole', label: 'a group for every pole' },
        { value: 'consequent', label: 'a group for every second pole' },
      ],
    },
  },
  { name: 'coilCount', label: 'Coils in all', read: { kind: 'count', min: 1, max: 288 } },
  { name: 'groupCount', label: 'Groups in all', read: { kind: 'count', min: 1, max: 288 } },
  { name: 'grouping', label: 'Coils per group', read: { kind: 'counts' }, hint: 'round the bore: 3-3-3 or 12x3' },
  {
    name: 'spansSlots',
    label: 'Span',
    read: { kind: 'spans' },
    hint: 'as counted, from 1: 1‑9; concentric: 1‑12, 2‑11, 3‑10',
  },
  {
    name: 'turns',
    label: 'Turns per coil',
    read: { kind: 'counts' },
    hint: 'one number, or every coil of a group, outermost first',
  },
  {
    name: 'turnsSecondCount',
    label: 'Turns, second count',
    read: { kind: 'counts' },
    hint: 'another coil, counted afresh',
  },
  { name: 'strands', label: 'Wires in hand', read: { kind: 'wires' }, hint: '2x18+1x17 or 2x0.85' },
  {
    name: 'wireGrade',
    label: 'Enamel',
    read: {
      kind: 'choice',
      options: [
        { value: '1', label: 'grade 1 / single' },
        { value: '2', label: 'grade 2 / heavy' },
      ],
    },
  },
  {
    name: 'auxSpansSlots',
    label: 'Auxiliary, spans',
    read: { kind: 'spans' },
    hint: 'coils of a pole, outermost first: 1-9, 2-8',
  },
  {
    name: 'auxTurns',
    label: 'Auxiliary, turns',
    read: { kind: 'counts' },
    hint: 'one number, or every coil of a pole',
  },
  { name: 'auxStrands', label: 'Auxiliary, wires in hand', read: { kind: 'wires' } },
  { name: 'auxKind', label: 'Auxiliary works as', read: options(...AUXILIARY_KINDS) },
  {
    name: 'auxShiftSlots',
    label: 'Axis shift, slots',
    read: { kind: 'quantity', dimension: 'number', unit: '', above: 0, max: 72 },
    hint: 'main to auxiliary; blank = half a pole',
  },
  {
    name: 'capacitorF',
    label: 'Capacitor',
    read: { kind: 'quantity', dimension: 'capacitance', unit: 'µF', above: 0 },
  },
  {
    name: 'auxCapacitorV',
    label: 'Capacitor rated',
    read: { kind: 'quantity', dimension: 'voltage', unit: 'V', above: 0 },
  },
  { name: 'material', label: 'Conductor', read: options('copper', 'aluminium') },
  {
    name: 'connection',
    label: 'Connection',
    read: {
      kind: 'choice',
      options: [
        { value: 'wye', label: 'wye (star)' },
        { value: 'delta', label: 'delta' },
      ],
    },
  },
  {
    name: 'circuits',
    label: 'Circuits',
    read: { kind: 'count', min: 1, max: 48 },
    hint: 'parallel paths in each phase; 9 or 12 leads, two speeds: in each half',
  },
  { name: 'leads', label: 'Leads out', read: options(...LEAD_COUNTS) },
  { name: 'duty', label: 'Two speeds for', read: options(...DUTIES) },
  {
    name: 'jumper',
    label: 'Jumpers',
    read: {
      kind: 'choice',
      options: [
        { value: 'adjacent-pole', label: 'short, 1-4 (next pole)' },
        { value: 'skip-pole', label: 'long, 1-7 (next but one)' },
      ],
    },
  },
  { name: 'leadOneGroup', label: 'Group of lead 1', read: { kind: 'count', min: 1, max: 144 } },
  { name: 'endsPerLead', label: 'Group ends per lead', read: { kind: 'count', min: 1, max: 96 } },
  { name: 'wireTipsPerLead', label: 'Wire tips per lead', read: { kind: 'count', min: 1, max: 960 } },
  { name: 'starPoints', label: 'Star points inside', read: { kind: 'count', min: 0, max: 48 } },
  { name: 'endsPerStar', label: 'Ends in each star', read: { kind: 'count', min: 0, max: 144 } },
  { name: 'boreM', label: 'Bore', read: length() },
  { name: 'coreLengthM', label: 'Core length', read: length() },
  { name: 'ductCount', label: 'Ducts', read: { kind: 'count', min: 0, max: 20 } },
  { name: 'ductWidthM', label: 'Duct width', read: length() },
  { name: 'coreOuterM', label: 'Core outside', read: length() },
  { name: 'backIronM', label: 'Back iron', read: length(), hint: 'behind the slot' },
  { name: 'toothWidthM', label: 'Tooth, narrowest', read: length() },
  { name: 'slotDepthM', label: 'Slot depth', read: length() },
  { name: 'slotOpeningM', label: 'Slot opening', read: length() },
  {
    name: 'slotAreaM2',
    label: 'Slot area, gross',
    read: { kind: 'quantity', dimension: 'area', unit: 'mm²', above: 0 },
  },
  {
    name: 'slotNetAreaM2',
    label: 'Slot area, net',
    read: { kind: 'quantity', dimension: 'area', unit: 'mm²', above: 0 },
    hint: 'less liner, separator, wedge',
  },
  { name: 'airGapM', label: 'Air gap', read: length() },
  { name: 'rotorBars', label: 'Rotor bars', read: { kind: 'count', min: 0, max: 200 } },
  {
    name: 'skewSlots',
    label: 'Skew, slots',
    read: { kind: 'quantity', dimension: 'number', unit: '', min: 0, max: 4 },
  },
  { name: 'extensionConnectionEndM', label: 'End turns, lead end', read: length(), hint: 'beyond the core' },
  { name: 'extensionOppositeEndM', label: 'End turns, other end', read: length() },
  { name: 'overhangOuterM', label: 'End turns outside Ø', read: length() },
  { name: 'overhangInnerM', label: 'End turns inside Ø', read: length() },
  { name: 'leadExit', label: 'Leads come out at', read: { kind: 'text' }, hint: 'clock, seen from the lead end' },
  { name: 'connectionSide', label: 'Lead end is at', read: options('drive end', 'opposite end') },
  { name: 'leadSize', label: 'Lead cable', read: { kind: 'text' } },
  { name: 'leadMarks', label: 'Lead marks', read: { kind: 'text' } },
  { name: 'linerM', label: 'Slot liner', read: length() },
  { name: 'separatorM', label: 'Separator', read: length() },
  { name: 'wedge', label: 'Wedge', read: { kind: 'text' } },
  { name: 'phasePaper', label: 'Phase paper', read: { kind: 'text' } },
  {
    name: 'copperKg',
    label: 'Copper removed',
    read: { kind: 'quantity', dimension: 'mass', unit: 'kg', above: 0 },
    hint: 'cut-off end and stripped part together',
  },
  { name: 'copperState', label: 'Weighed', read: options('burned clean', 'with enamel') },
  { name: 'sampleCoilM', label: 'Mean turn of a sample coil', read: length() },
  {
    name: 'resistanceOhm',
    label: 'Resistance, lead to lead',
    read: { kind: 'quantity', dimension: 'resistance', unit: 'Ω', above: 0 },
    hint: 'before stripping',
  },
  {
    name: 'resistanceTemperatureC',
    label: 'at winding temperature',
    read: { kind: 'quantity', dimension: 'temperature', unit: '°C', min: -40, max: 200 },
  },
  { name: 'startedFrom', label: 'Started from', read: { kind: 'text' } },
  { name: 'remarks', label: 'Remarks', read: { kind: 'text', long: true } },
];

/** Base area unit is m², typed bare in mm²; everything else is read by its field. */
export function readWindingRecord(typed: Typed, defaults: ReadingDefaults): FormReading & { record: WindingRecord } {
  const reading = readForm(WINDING_FIELDS, typed, defaults);
  const parsed = windingRecordSchema.safeParse(reading.values);
  if (parsed.success) return { ...reading, record: parsed.data };
  // a field that reads well but does not fit the record is named, and the rest is kept
  const unfit = new Set(parsed.error.issues.map((issue) => String(issue.path[0] ?? '')));
  for (const issue of parsed.error.issues) {
    const field = String(issue.path[0] ?? '');
    const label = WINDING_FIELDS.find((f) => f.name === field)?.label ?? field;
    reading.problems.push({ field, label, message: `${label}: ${issue.message}.` });
  }
  const kept = Object.fromEntries(Object.entries(reading.values).filter(([name]) => !unfit.has(name)));
  return { ...reading, record: windingRecordSchema.parse(kept) };
}

/**
 * A record as it would be typed, every unit written out: for taking over a file. Reading it back gives the same record.
 * @returns typed text by field name
 */
export function typedOfRecord(record: WindingRecord): Record<string, string> {
  const out: Record<string, string> = {};
  for (const { name, read } of WINDING_FIELDS) {
    const value = record[name as keyof WindingRecord];
    if (value === undefined) continue;
    switch (read.kind) {
      case 'quantity':
        out[name] = `${plainNumber(fromBase(value as number, read.dimension, read.unit))} ${read.unit}`.trim();
        break;
      case 'counts':
        out[name] = (value as number[]).join(', ');
        break;
      case 'spans':
        out[name] = saySpans(value as number[]) ?? '';
        break;
      case 'wires':
        out[name] = (value as WindingRecord['strands'] & object)
          .map((s) => `${s.count}x${plainNumber(s.bareM * 1000)} mm`)
          .join(' + ');
        break;
      default:
        out[name] = String(value);
    }
  }
  return out;
}

/** Twelve figures, never an exponent, no trailing noise. */
const plainNumber = (x: number): string => String(Number(x.toPrecision(12)));
