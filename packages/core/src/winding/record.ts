import { z } from 'zod';
import { strandSchema } from '../wire/strandSchema.ts';
import { SIDE_KINDS } from './mixedLayers.ts';
import { DUTIES } from './twoSpeed.ts';

/** How many leads come out, and what for. */
export const LEAD_COUNTS = ['3', '6', '6 part-winding', '9', '12'] as const;
export const AUXILIARY_KINDS = ['split phase', 'capacitor start', 'capacitor run', 'capacitor start and run'] as const;

const positive = z.number().positive().optional();
const count = z.int().min(0).optional();
const turns = z.array(z.int().min(1).max(2000)).optional();

/** What every winding lies in, is made of and leaves behind as evidence. */
const common = {
  slots: z.int().min(6).max(144).optional(),
  poles: z.int().min(2).max(48).multipleOf(2).optional(),
  material: z.enum(['copper', 'aluminium']).optional(),
  circuits: z.int().min(1).max(48).optional(),
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
  copperKg: positive,
  copperState: z.enum(['burned clean', 'with enamel']).optional(),
  resistanceOhm: positive.describe('line to line, before stripping'),
  resistanceTemperatureC: z.number().min(-40).max(200).optional(),
  startedFrom: z.string().max(200).optional().describe('archive record this one was started from'),
  remarks: z.string().max(2000).optional(),
};

/** Coils of round wire. */
const coils = {
  layers: z.enum(['double', 'single', 'mixed']).optional(),
  coilCount: count,
  groupCount: count,
  grouping: z.array(z.int().min(0)).optional().describe('coils per group, in order round the bore'),
  turns,
  turnsSecondCount: turns,
  strands: z.array(strandSchema).max(3).optional(),
  wireGrade: z.enum(['1', '2']).optional(),
  phasePaper: z.string().max(80).optional(),
  sampleCoilM: positive.describe('mean turn length of a sample coil, m'),
};

/** How coils span the slots and stand in groups. */
const spanned = {
  form: z.enum(['lap', 'concentric']).optional(),
  poleGroups: z.enum(['every-pole', 'consequent']).optional(),
  spansSlots: z.array(z.int().min(1)).optional().describe('span of each coil of a group in slots, outermost first'),
  coilList: z
    .array(z.tuple([z.int().min(1).max(144), z.int().min(1).max(144)]))
    .min(1)
    .max(72)
    .optional()
    .describe('single layer: coils from slot to slot in the order wound, one repeat or all of them'),
  sideKinds: z
    .array(z.enum(SIDE_KINDS))
    .max(24)
    .optional()
    .describe('mixed layers: full or half sides, coil by coil of a group, outermost first'),
};

/** How the groups are joined and brought out. */
const joined = {
  connection: z.enum(['wye', 'delta']).optional(),
  leads: z.enum(LEAD_COUNTS).optional(),
  jumper: z.enum(['adjacent-pole', 'skip-pole']).optional(),
  leadOneGroup: z.int().min(1).max(144).optional(),
  endsPerLead: count,
  wireTipsPerLead: count,
  starPoints: count,
  endsPerStar: count,
};

const auxiliary = {
  auxSpansSlots: z.array(z.int().min(1)).optional().describe('auxiliary coils of a pole, outermost first'),
  auxTurns: turns,
  auxStrands: z.array(strandSchema).max(3).optional(),
  auxKind: z.enum(AUXILIARY_KINDS).optional(),
  auxShiftSlots: z.number().positive().max(72).optional(),
  capacitorF: positive,
  startCapacitorF: positive.describe('second capacitor, for the start only'),
  auxCapacitorV: positive.describe('capacitor voltage rating'),
};

/** What a record holds, by the kind of its winding. A record that names no kind is of a three-phase winding. */
export const RECORDS = {
  'three-phase': z.strictObject({
    kind: z.literal('three-phase').optional().default('three-phase'),
    ...common,
    ...coils,
    ...spanned,
    ...joined,
  }),
  'two-speed': z.strictObject({
    kind: z.literal('two-speed'),
    ...common,
    ...coils,
    ...spanned,
    ...joined,
    duty: z.enum(DUTIES).optional().describe('how torque and power go with speed'),
  }),
  'single-phase': z.strictObject({
    kind: z.literal('single-phase'),
    ...common,
    ...coils,
    ...spanned,
    ...joined,
    ...auxiliary,
  }),
  /** a coil round each tooth, or round every second one */
  'tooth-coil': z.strictObject({
    kind: z.literal('tooth-coil'),
    ...common,
    ...coils,
    ...joined,
    toothInsulationSideM: positive.describe('between tooth and coil, at a side'),
    toothInsulationEndM: positive,
    bobbinRadiusM: positive.describe('corner radius of the bobbin'),
    windingHeightM: positive.describe('height of the coil along the tooth'),
    coilGapM: positive.describe('between two coils in a slot'),
  }),
  /** diamond coils of strip in open slots */
  'form-wound': z.strictObject({
    kind: z.literal('form-wound'),
    ...common,
    coilCount: count,
    groupCount: count,
    grouping: coils.grouping,
    turns,
    turnsSecondCount: turns,
    spansSlots: spanned.spansSlots,
    sampleCoilM: positive,
    phasePaper: z.string().max(80).optional(),
    ...joined,
    stripThicknessM: positive.describe('bare strip, radially'),
    stripWidthM: positive.describe('bare strip, across the slot'),
    stripCornerM: positive,
    stripsWide: z.int().min(1).max(8).optional(),
    stripsHigh: z.int().min(1).max(8).optional(),
    strandBuildM: positive.describe('insulation of a strip, both sides together'),
    turnTapeM: positive.describe('turn tape, one side'),
    groundWallM: positive.describe('ground wall, one side'),
    slotWidthM: positive,
    bottomStripM: positive,
    topStripM: positive,
    wedgeDepthM: positive,
    coilStraightM: positive.describe('straight part leaving the core, each end'),
    knucklePinM: positive,
    coilGapM: positive.describe('between two coils in the end turns'),
  }),
  /** slip-ring rotor, bars joined into waves */
  'bar-rotor': z.strictObject({
    kind: z.literal('bar-rotor'),
    ...common,
    ...joined,
    barsPerSlot: z.int().min(2).max(8).multipleOf(2).optional(),
    barWidthM: positive,
    barHeightM: positive,
    farPitchSlots: z.int().min(1).max(72).optional().describe('slots from top bar to bottom bar at the far end'),
  }),
} as const;
export type RecordKind = keyof typeof RECORDS;
export const RECORD_KINDS = Object.keys(RECORDS) as [RecordKind, ...RecordKind[]];

const union = z.discriminatedUnion('kind', [
  RECORDS['three-phase'],
  RECORDS['two-speed'],
  RECORDS['single-phase'],
  RECORDS['tooth-coil'],
  RECORDS['form-wound'],
  RECORDS['bar-rotor'],
]);

type OneOf = z.output<typeof union>;
type AnyField = OneOf extends infer R ? (R extends unknown ? keyof R : never) : never;
/** A member of the union that says of the others' fields that it has none: they can be asked for without asking the kind first. */
type Whole<R> = R extends unknown ? R & { readonly [F in Exclude<AnyField, keyof R>]?: undefined } : never;
export type WindingRecord = Whole<OneOf>;
/** A winding record in core units. Everything may still be missing: checks speak only of what is there. */
export const windingRecordSchema = union as unknown as z.ZodType<WindingRecord, z.input<typeof union>>;
export type ThreePhaseRecord = Extract<WindingRecord, { kind: 'three-phase' }>;
/** A three-phase record of these fields. */
export const threePhaseRecord = (fields: Omit<ThreePhaseRecord, 'kind'>): ThreePhaseRecord => ({
  ...fields,
  kind: 'three-phase',
});

/** The fields of one kind, by name. */
export const fieldsOfKind = (kind: RecordKind): ReadonlySet<string> => new Set(Object.keys(RECORDS[kind].shape));

/** Three phases of one speed: connected in wye or delta, as it stands. */
export const isPlainThreePhase = (record: Pick<WindingRecord, 'kind'>): boolean =>
  record.kind === 'three-phase' ||
  record.kind === 'tooth-coil' ||
  record.kind === 'form-wound' ||
  record.kind === 'bar-rotor';

/** Coils or bars of strip: unbalance and insulation are judged as form-wound. */
export const isFormWound = (record: Pick<WindingRecord, 'kind'> | undefined): boolean =>
  record?.kind === 'bar-rotor' || record?.kind === 'form-wound';

/**
 * A record kept before records had kinds with fields of their own: it gets its kind, and what belongs to another kind is left out
 * (what was typed stands with it as it was).
 */
export function recordOfBefore(flat: Readonly<Record<string, unknown>>): WindingRecord {
  const kind = RECORD_KINDS.find((k) => k === flat['kind']) ?? 'three-phase';
  const fields = fieldsOfKind(kind);
  return windingRecordSchema.parse({
    ...Object.fromEntries(Object.entries(flat).filter(([name]) => fields.has(name))),
    kind,
  });
}
