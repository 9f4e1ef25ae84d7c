import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';
import { assumedRoundEnd, chordM, DEFAULT_END_TURN, endsOf } from './endTurn.ts';
import { DEFAULT_TOOTH_COIL, toothCoil, WOUND_SHARE, type ToothCoil } from './toothCoil.ts';
import { insulatedDiameterM, type WireGrade } from '../wire/insulatedDiameter.ts';
import { strandSchema } from '../wire/strandSchema.ts';
import { conductorAreaM2, type Strand } from '../wire/strands.ts';

/** Conductor materials: density, resistivity at 20 °C, temperature constant. */
export const CONDUCTORS = {
  /** IEC 60028 annealed copper: 8.89 g/cm³, 1/58 Ω·mm²/m; constant 235 of IEC 60034-1 */
  copper: { densityKgM3: 8890, resistivityOhmM: 1e-6 / 58, temperatureConstantC: 235 },
  /** 62 % IACS aluminium; constant 225 (IEC 60034-1, IEEE 112) */
  aluminium: { densityKgM3: 2700, resistivityOhmM: 0.0278e-6, temperatureConstantC: 225 },
} as const;
export type ConductorMaterial = keyof typeof CONDUCTORS;

/** Enamel density, kg/m³ (common practice). */
export const ENAMEL_DENSITY_KG_M3 = 1400;

/** Factor that brings a resistance from one temperature to another: (k + to)/(k + from). */
export function temperatureFactor(fromC: number, toC: number, constantC: number): number {
  return (constantC + toC) / (constantC + fromC);
}

/** Lead to lead, from the resistance of one phase: two in series, or one beside the two others. */
export const leadToLeadOhm = (phaseOhm: number, connection: 'wye' | 'delta'): number =>
  connection === 'wye' ? 2 * phaseOhm : (2 / 3) * phaseOhm;

/** Enamel mass as a share of bare copper mass, by geometry of the insulated wire. */
export function enamelShare(strands: readonly Strand[], grade: WireGrade, densityKgM3: number): number {
  let bare = 0;
  let enamel = 0;
  for (const s of strands) {
    const over = insulatedDiameterM(s.bareM, grade);
    bare += s.count * s.bareM ** 2 * densityKgM3;
    enamel += s.count * (over ** 2 - s.bareM ** 2) * ENAMEL_DENSITY_KG_M3;
  }
  return bare > 0 ? enamel / bare : 0;
}

/** Mean turn of a concentric coil with half-round ends: 2(L + 2x) + π τ_c. */
export const concentricMeanTurnM = (coreLengthM: number, straightM: number, tauM: number): number =>
  2 * (coreLengthM + assumedRoundEnd(tauM, straightM).lengthM);

/** Mean turn from the bare metal weighed: m / (ρ A Σ turns), Σ over all coils of the winding. */
export function meanTurnFromMassM(massKg: number, areaM2: number, totalTurns: number, densityKgM3: number): number {
  return massKg / (densityKgM3 * areaM2 * totalTurns);
}

export const meanTurnInputSchema = z.strictObject({
  copperKg: z.number().positive().optional().describe('conductor removed, kg'),
  copperState: z.enum(['burned clean', 'with enamel']).default('burned clean'),
  wireGrade: z.union([z.literal(1), z.literal(2)]).default(2),
  material: z.enum(['copper', 'aluminium']).default('copper'),
  strands: z.array(strandSchema).optional(),
  areaM2: z.number().positive().optional().describe('conductor of a turn where it is no round wire'),
  formCoilM: z.number().positive().optional().describe('mean turn of a coil of strip, from its own geometry'),
  totalTurns: z.number().positive().optional().describe('turns of all coils added up'),
  sampleCoilM: z.number().positive().optional().describe('mean turn measured on a sample coil, m'),
  form: z.enum(['lap', 'concentric']).default('lap'),
  coreLengthM: z.number().positive().optional(),
  boreM: z.number().positive().optional(),
  slotDepthM: z.number().positive().optional(),
  slots: z.int().optional(),
  spansSlots: z.array(z.number().positive()).optional().describe('span of each coil of a group, slots'),
  spanWeights: z.array(z.number().positive()).optional().describe('turns of those coils'),
  straightM: z.number().min(0).default(DEFAULT_END_TURN.straightM),
  slantDeg: z.number().min(10).max(60).default(DEFAULT_END_TURN.slantDeg),
  noseM: z.number().min(0).default(DEFAULT_END_TURN.noseM),
  extensionConnectionEndM: z
    .number()
    .positive()
    .optional()
    .describe('projection of the outermost coil beyond the core'),
  extensionOppositeEndM: z.number().positive().optional(),
  toothCoil: z
    .strictObject({
      everyTooth: z.boolean(),
      turns: z.number().positive(),
      toothWidthM: z.number().positive(),
      sideM: z.number().min(0).optional(),
      endM: z.number().min(0).optional(),
      cornerM: z.number().min(0).optional(),
      heightM: z.number().positive().optional(),
      gapM: z.number().min(0).optional(),
    })
    .optional()
    .describe('a coil round a tooth: what it is wound on'),
});
type MeanTurnInput = z.output<typeof meanTurnInputSchema>;

/** The coil round a tooth of this winding, or undefined while a size is missing. */
export function toothCoilOf(x: MeanTurnInput): ToothCoil | undefined {
  const { coreLengthM, boreM, slotDepthM, slots, strands, toothCoil: t } = x;
  if (!t || !strands?.length || coreLengthM === undefined || boreM === undefined) return undefined;
  if (slotDepthM === undefined || slots === undefined) return undefined;
  const projections = [x.extensionConnectionEndM, x.extensionOppositeEndM].filter((p) => p !== undefined);
  return toothCoil({
    ...DEFAULT_TOOTH_COIL,
    boreM,
    slotDepthM,
    slots,
    coreLengthM,
    strands,
    grade: x.wireGrade,
    heightM: WOUND_SHARE * slotDepthM,
    ...definedOf(t),
    ...(projections.length === 0 ? {} : { projectionM: projections.reduce((a, b) => a + b, 0) / projections.length }),
  });
}

const definedOf = <T extends object>(o: T): { [K in keyof T]: Exclude<T[K], undefined> } =>
  Object.fromEntries(Object.entries(o).filter(([, v]) => v !== undefined)) as never;

/** Where a mean turn comes from, most trusted first. */
export const MEAN_TURN_FROM = ['weighed copper', 'sample coil', 'measured projection', 'geometry', 'nothing'] as const;

/** Mean turn by geometry, from the measured projections where there are any, or undefined while a dimension is missing. */
export function geometricMeanTurn(x: MeanTurnInput): { metres: number; measured: boolean } | undefined {
  const { coreLengthM, boreM, slotDepthM, slots, spansSlots } = x;
  if (x.formCoilM !== undefined) return { metres: x.formCoilM, measured: false };
  if (x.toothCoil) {
    const made = toothCoilOf(x);
    const projected = x.extensionConnectionEndM ?? x.extensionOppositeEndM;
    return made && { metres: made.meanTurnM, measured: projected !== undefined && !made.projectionTooShort };
  }
  if (coreLengthM === undefined || boreM === undefined || slotDepthM === undefined || slots === undefined)
    return undefined;
  if (!spansSlots || spansSlots.length === 0) return undefined;
  const taus = spansSlots.map((y) => chordM(boreM, slotDepthM, y, slots));
  const outerTauM = Math.max(...taus);
  const projectionsM = [x.extensionConnectionEndM, x.extensionOppositeEndM];
  let sum = 0;
  let weight = 0;
  let measured = false;
  taus.forEach((tauM, i) => {
    const w = x.spanWeights?.[i] ?? 1;
    const made = endsOf({ form: x.form, tauM, outerTauM, projectionsM, allowances: x });
    sum += w * (2 * coreLengthM + made.ends[0].lengthM + made.ends[1].lengthM);
    weight += w;
    measured ||= made.measured;
  });
  return { metres: sum / weight, measured };
}

/** Calculation `winding.meanTurn`: weighed copper first, else a sample coil, else measured projections, else assumed geometry. */
export const windingMeanTurn = defineCalculation({
  id: 'winding.meanTurn',
  version: 2,
  title: 'Mean turn length: from weighed copper, else a sample coil, else measured projections, else assumed geometry',
  sources: ['coil geometry (derived)', 'IEC 60028 copper density', 'end-turn allowances: common practice'],
  input: meanTurnInputSchema,
  output: z.object({
    metres: z.number().optional(),
    from: z.enum(MEAN_TURN_FROM),
    geometryM: z.number().optional(),
  }),
  example: {
    strands: [{ count: 2, bareM: 0.0008 }],
    copperKg: 5,
    totalTurns: 900,
    form: 'lap',
    coreLengthM: 0.14,
    boreM: 0.15,
    slotDepthM: 0.024,
    slots: 36,
    spansSlots: [8],
  },
  compute: (x, note) => {
    const geometric = geometricMeanTurn(x);
    const geometryM = geometric?.metres;
    const area = x.areaM2 ?? (x.strands ? conductorAreaM2(x.strands) : 0);
    if (x.copperKg !== undefined && area > 0 && x.totalTurns !== undefined) {
      const conductor = CONDUCTORS[x.material];
      const share =
        x.copperState === 'with enamel' ? enamelShare(x.strands ?? [], x.wireGrade, conductor.densityKgM3) : 0;
      const bare = x.copperKg / (1 + share);
      const metres = meanTurnFromMassM(bare, area, x.totalTurns, conductor.densityKgM3);
      note?.({
        name: 'Mean turn from the metal weighed',
        symbol: 'MLT',
        formula: 'm / (ρ_m A Σ turns)',
        numbers: `${bare.toFixed(3)} kg / (${conductor.densityKgM3} · ${(area * 1e6).toFixed(4)} mm² · ${x.totalTurns})`,
        value: metres * 1000,
        unit: 'mm',
        source: 'derived; density IEC 60028',
      });
      return { metres, from: 'weighed copper' as const, geometryM };
    }
    if (x.sampleCoilM !== undefined) return { metres: x.sampleCoilM, from: 'sample coil' as const, geometryM };
    if (geometric) {
      const from = geometric.measured ? ('measured projection' as const) : ('geometry' as const);
      note?.({
        name: geometric.measured ? 'Mean turn from the measured projections' : 'Mean turn by geometry',
        symbol: 'MLT',
        formula: x.toothCoil
          ? '2(L + 2t_e + b_e) + 2(b_t + 2t_s + b) − (8 − 2π)(r + (b + b_e)/4)'
          : x.form === 'lap'
            ? '2L + Σ ends (2x + τ_c/cos φ + n_l), τ_c = π(D + h_s) y/S'
            : '2L + Σ ends (2x + half circle or half ellipse on τ_c)',
        numbers: `L ${x.coreLengthM} m, ${geometric.measured ? `X ${x.extensionConnectionEndM ?? '–'} and ${x.extensionOppositeEndM ?? '–'} m` : `x ${x.straightM} m, φ ${x.slantDeg}°`}, spans ${x.spansSlots?.join(', ') ?? '–'}`,
        value: geometric.metres * 1000,
        unit: 'mm',
        source: geometric.measured
          ? 'derived from what was measured'
          : 'coil geometry; end-turn allowances common practice',
      });
      return { metres: geometryM, from, geometryM };
    }
    return { metres: undefined, from: 'nothing' as const, geometryM };
  },
});
