import { z } from 'zod';

export const PHASES = ['A', 'B', 'C'] as const;
export type Phase = (typeof PHASES)[number];
export type Sign = 1 | -1;
/** Belts round an electrical turn by sixths: phase and sign. */
export const BELTS_60: readonly (readonly [Phase, Sign])[] = [
  ['A', 1],
  ['C', -1],
  ['B', 1],
  ['A', -1],
  ['C', 1],
  ['B', -1],
];

export const WINDING_TYPES = ['three-phase', 'two-speed', 'single-phase'] as const;
export type WindingType = (typeof WINDING_TYPES)[number];

export const layoutInputSchema = z.strictObject({
  slots: z.int().min(6).max(144),
  poles: z.int().min(2).max(48).multipleOf(2).describe('number of poles, never pairs'),
  layers: z.union([z.literal(1), z.literal(2)]).describe('coil sides per slot'),
  form: z.enum(['lap', 'concentric']),
  poleGroups: z
    .enum(['every-pole', 'consequent'])
    .default('every-pole')
    .describe('consequent: one group per phase and pole pair (also half-coiled single layer)'),
  spanSlots: z
    .int()
    .min(1)
    .optional()
    .describe(
      'coil span in slots ("1-9" is 8); concentric: mean span of a group; may be left out where the form fixes it',
    ),
  turns: z
    .array(z.number().positive())
    .min(1)
    .default([1])
    .describe('turns per coil: one value, one per coil of a group (outermost first), or one per coil of the winding'),
  kind: z
    .enum(WINDING_TYPES)
    .default('three-phase')
    .describe('two-speed: one winding for 2:1, poles are those of the low speed; single-phase: main and auxiliary'),
  grouping: z
    .array(z.int().min(1))
    .optional()
    .describe('coils per group round the bore as found, when it is not the regular sequence'),
  spansSlots: z.array(z.int().min(1)).optional().describe('single-phase: span of each main coil, outermost first'),
  coilList: z
    .array(z.tuple([z.int().min(1).max(144), z.int().min(1).max(144)]))
    .min(1)
    .max(72)
    .optional()
    .describe('single layer: coils from slot to slot as read off, one repeat or all of them'),
  sideKinds: z
    .array(z.enum(['full', 'half']))
    .max(24)
    .optional()
    .describe('mixed layers: which coils of a group fill their slots and which half of them, outermost first'),
  auxiliary: z
    .strictObject({
      spansSlots: z.array(z.int().min(1)).min(1),
      turns: z.array(z.number().positive()).min(1),
      shiftSlots: z
        .number()
        .positive()
        .optional()
        .describe('axis of the auxiliary from the main axis, slots; else half a pole pitch'),
    })
    .optional()
    .describe('single-phase: the auxiliary (start) winding'),
});
export type LayoutInput = Omit<z.output<typeof layoutInputSchema>, 'kind'> & { kind?: WindingType };

export interface Coil {
  number: number;
  group: number;
  /** 1 = first coil of its group (concentric: outermost) */
  position: number;
  phase: Phase;
  /** +1: current enters at the go side when the phase current is positive */
  sign: Sign;
  goSlot: number;
  returnSlot: number;
  spanSlots: number;
  turns: number;
}

export interface Group {
  /** number of the belt that the group stands for; empty belts keep their numbers */
  number: number;
  phase: Phase;
  sign: Sign;
  coils: number[];
}

export interface SlotSide {
  slot: number;
  layer: 'single' | 'top' | 'bottom';
  coil: number;
  side: 'go' | 'return';
  phase: Phase;
  sign: Sign;
}

export interface Balance {
  balanced: boolean;
  /** per phase: phasor size relative to the largest, and angle from phase A in degrees */
  phases: { phase: Phase; coils: number; turns: number; size: number; angleDeg: number }[];
  /** negative-sequence part in per cent of the positive-sequence part */
  negativeSequencePercent: number;
}

export interface Layout {
  kind: WindingType;
  /** the phases that are wound; single-phase: A is the main winding, B the auxiliary */
  phases: readonly Phase[];
  slots: number;
  poles: number;
  layers: 1 | 2;
  form: 'lap' | 'concentric';
  poleGroups: 'every-pole' | 'consequent';
  spanSlots: number;
  slotsPerPolePerPhase: { numerator: number; denominator: number };
  polePitchSlots: number;
  slotAngleDeg: number;
  repeats: number;
  coils: Coil[];
  groups: Group[];
  sides: SlotSide[];
  /** laid from a list of coils, or of full and half coils: what fixes its form is the list */
  from?: 'coil list' | 'mixed layers';
  /** circuits per phase whose circuit phasors can be equal, by section 4.3 */
  circuitLimit: number;
  circuits: number[];
  balance: Balance;
}

/** A coil put into its slots, before coils and groups are numbered. */
export interface PlacedCoil {
  group: number;
  phase: Phase;
  sign: Sign;
  go: number;
  back: number;
  /** turns where the placing itself gives them */
  turns?: number;
}
