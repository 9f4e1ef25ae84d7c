import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';
import { CONDUCTORS, ENAMEL_DENSITY_KG_M3, type ConductorMaterial } from '../winding/copper.ts';
import { insulatedDiameterM, type WireGrade } from './insulatedDiameter.ts';
import { roundAreaM2 } from './strands.ts';

/** Mass of a metre of wire, kg/m: π/4·d²·ρ + π/4·(D² − d²)·ρ_enamel. Without an overall diameter, bare. */
export function massPerMetreKg(bareM: number, overallM = bareM, material: ConductorMaterial = 'copper'): number {
  return (
    roundAreaM2(bareM) * CONDUCTORS[material].densityKgM3 +
    (roundAreaM2(overallM) - roundAreaM2(bareM)) * ENAMEL_DENSITY_KG_M3
  );
}

/** Metres of wire in a kilogram. */
export const metresPerKg = (bareM: number, overallM = bareM, material: ConductorMaterial = 'copper'): number =>
  1 / massPerMetreKg(bareM, overallM, material);

/** Spools to bring: one for each wire in hand at least, so that no joint comes inside a coil. */
export function spoolsToBring(wires: number, orderKg: number, netKgPerSpool: number): number {
  return Math.max(wires, Math.ceil(orderKg / netKgPerSpool - 1e-9));
}

/** Net masses wire is wound in, kg (common practice). */
export const SPOOL_SIZES_KG = [5, 10, 15, 25, 45] as const;

/** Calculation `wire.spool`: what a spool still holds. */
export const wireSpool = defineCalculation({
  id: 'wire.spool',
  version: 1,
  title: 'Wire on a spool: metres per kilogram, metres left, spools to bring',
  sources: ['IEC 60028 copper density', 'enamel 1.4 g/cm³ and spool masses: common practice'],
  input: z.strictObject({
    bareM: z.number().positive().max(0.02),
    overallM: z.number().positive().max(0.025).optional().describe('left out = from the table of the grade'),
    grade: z.union([z.literal(1), z.literal(2)]).default(2),
    material: z.enum(['copper', 'aluminium']).default('copper'),
    grossKg: z.number().positive().max(1000).optional(),
    tareKg: z.number().min(0).max(200).default(0),
    orderKg: z.number().positive().max(5000).optional(),
    netKgPerSpool: z.number().positive().max(300).default(5),
    wiresInHand: z.int().min(1).max(40).default(1),
  }),
  output: z.object({
    gramsPerMetre: z.number(),
    metresPerKg: z.number(),
    metresLeft: z.number().optional(),
    spools: z.number().optional(),
  }),
  example: { bareM: 0.001, grossKg: 7.4, tareKg: 0.4, orderKg: 4.1, wiresInHand: 3 },
  compute: (x, note) => {
    const overall = x.overallM ?? insulatedDiameterM(x.bareM, x.grade as WireGrade);
    const perMetre = massPerMetreKg(x.bareM, overall, x.material);
    note?.({
      name: 'Metres in a kilogram',
      symbol: '1/m′',
      formula: '1 / (π/4·d²·ρ + π/4·(D² − d²)·ρ_enamel)',
      numbers: `d ${(x.bareM * 1000).toFixed(4)} mm, D ${(overall * 1000).toFixed(4)} mm`,
      value: 1 / perMetre,
      unit: 'm/kg',
      source: 'geometry; IEC 60028',
    });
    return {
      gramsPerMetre: perMetre * 1000,
      metresPerKg: 1 / perMetre,
      metresLeft: x.grossKg === undefined ? undefined : Math.max(0, x.grossKg - x.tareKg) / perMetre,
      spools: x.orderKg === undefined ? undefined : spoolsToBring(x.wiresInHand, x.orderKg, x.netKgPerSpool),
    };
  },
});
