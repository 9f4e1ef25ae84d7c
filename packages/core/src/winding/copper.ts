import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';
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

export interface DiamondTurn {
  coreLengthM: number;
  boreM: number;
  slotDepthM: number;
  slots: number;
  spanSlots: number;
  /** straight part leaving the core at each end, m */
  straightM: number;
  /** slanted part to the circumference, degrees */
  slantDeg: number;
  /** nose loop, m */
  noseM: number;
}

/** Straight part, slant and nose taken when nobody measured them (common practice). */
export const DEFAULT_END_TURN = { straightM: 0.012, slantDeg: 35, noseM: 0.02 } as const;

/** Mean turn of a diamond (lap) coil: 2(L + 2x) + 2(τ_c/cos φ + n_l), τ_c = π(D + h_s) y/S. */
export function diamondMeanTurnM(g: DiamondTurn): number {
  const chord = (Math.PI * (g.boreM + g.slotDepthM) * g.spanSlots) / g.slots;
  return 2 * (g.coreLengthM + 2 * g.straightM) + 2 * (chord / Math.cos((g.slantDeg * Math.PI) / 180) + g.noseM);
}

/** Mean turn of a concentric coil with half-round ends: 2(L + 2x) + π τ_c. */
export function concentricMeanTurnM(coreLengthM: number, straightM: number, chordM: number): number {
  return 2 * (coreLengthM + 2 * straightM) + Math.PI * chordM;
}

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
});

/** Mean turn by geometry only, or undefined while a dimension is missing. */
export function geometricMeanTurnM(x: z.output<typeof meanTurnInputSchema>): number | undefined {
  const { coreLengthM, boreM, slotDepthM, slots, spansSlots } = x;
  if (coreLengthM === undefined || boreM === undefined || slotDepthM === undefined || slots === undefined)
    return undefined;
  if (!spansSlots || spansSlots.length === 0) return undefined;
  let sum = 0;
  let weight = 0;
  spansSlots.forEach((spanSlots, i) => {
    const w = x.spanWeights?.[i] ?? 1;
    const one =
      x.form === 'lap'
        ? diamondMeanTurnM({
            coreLengthM,
            boreM,
            slotDepthM,
            slots,
            spanSlots,
            straightM: x.straightM,
            slantDeg: x.slantDeg,
            noseM: x.noseM,
          })
        : concentricMeanTurnM(coreLengthM, x.straightM, (Math.PI * (boreM + slotDepthM) * spanSlots) / slots);
    sum += w * one;
    weight += w;
  });
  return sum / weight;
}

/** Calculation `winding.meanTurn`: weighed copper first, else a sample coil, else geometry. */
export const windingMeanTurn = defineCalculation({
  id: 'winding.meanTurn',
  version: 1,
  title: 'Mean turn length: from weighed copper, else a sample coil, else geometry',
  sources: ['coil geometry (derived)', 'IEC 60028 copper density', 'end-turn allowances: common practice'],
  input: meanTurnInputSchema,
  output: z.object({
    metres: z.number().optional(),
    from: z.enum(['weighed copper', 'sample coil', 'geometry', 'nothing']),
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
    const geometryM = geometricMeanTurnM(x);
    const area = x.strands ? conductorAreaM2(x.strands) : 0;
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
    if (geometryM !== undefined) {
      note?.({
        name: 'Mean turn by geometry',
        symbol: 'MLT',
        formula: x.form === 'lap' ? '2(L + 2x) + 2(τ_c/cos φ + n_l), τ_c = π(D + h_s) y/S' : '2(L + 2x) + π τ_c',
        numbers: `L ${x.coreLengthM} m, x ${x.straightM} m, φ ${x.slantDeg}°, spans ${x.spansSlots?.join(', ')}`,
        value: geometryM * 1000,
        unit: 'mm',
        source: 'coil geometry; end-turn allowances common practice',
      });
      return { metres: geometryM, from: 'geometry' as const, geometryM };
    }
    return { metres: undefined, from: 'nothing' as const, geometryM };
  },
});
