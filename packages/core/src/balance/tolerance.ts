import { z } from 'zod';
import { defineCalculation, refuse } from '../calculation.ts';

/**
 * Permissible residual unbalance of the whole rotor: U_per = 1000 G m / ω (G mm/s, m kg, ω rad/s).
 * Source: ISO 21940-11.
 * @returns g·mm
 * @example permissibleUnbalanceGMm(2.5, 20, 3000) // 159.155
 */
export function permissibleUnbalanceGMm(grade: number, massKg: number, speedRpm: number): number {
  return (1000 * grade * massKg) / ((2 * Math.PI * speedRpm) / 60);
}

/** Shares of the tolerance for the bearing planes, with the clamps of ISO 21940-11 (from memory). */
export function bearingShares(
  uPer: number,
  xA: number,
  xB: number,
  xC: number,
): { a: number; b: number; clamped: boolean } {
  const span = xB - xA;
  const a = (uPer * Math.abs(xB - xC)) / Math.abs(span);
  const b = (uPer * Math.abs(xC - xA)) / Math.abs(span);
  const inboard = (xC - xA) * (xC - xB) <= 0;
  const top = (inboard ? 0.7 : 1.3) * uPer;
  const bottom = 0.3 * uPer;
  const clamp = (u: number) => Math.min(top, Math.max(bottom, u));
  return { a: clamp(a), b: clamp(b), clamped: clamp(a) !== a || clamp(b) !== b };
}

/** Calculation `balance.permissible`. */
export const balancePermissible = defineCalculation({
  id: 'balance.permissible',
  version: 1,
  title: 'Permissible residual unbalance by grade, mass and service speed, shared to the bearings',
  sources: ['ISO 21940-11 (sharing and clamps from memory)'],
  input: z.strictObject({
    grade: z.number().positive().max(4000).describe('balance grade G, mm/s'),
    massKg: z.number().positive(),
    serviceSpeedRpm: z.number().positive().describe('highest service speed, not the balancing speed'),
    bearingAMm: z.number().optional(),
    bearingBMm: z.number().optional(),
    centreOfMassMm: z.number().optional(),
  }),
  output: z.object({
    specificUm: z.number(),
    permissibleGMm: z.number(),
    permissibleOzIn: z.number(),
    shareAGMm: z.number().optional(),
    shareBGMm: z.number().optional(),
    clamped: z.boolean().optional(),
  }),
  example: { grade: 2.5, massKg: 20, serviceSpeedRpm: 3000, bearingAMm: 0, bearingBMm: 500, centreOfMassMm: 300 },
  compute: (x, note) => {
    const permissibleGMm = permissibleUnbalanceGMm(x.grade, x.massKg, x.serviceSpeedRpm);
    note?.({
      name: 'Permissible specific unbalance',
      symbol: 'e_per',
      formula: '9549.3 G / n',
      numbers: `9549.3 · ${x.grade} / ${x.serviceSpeedRpm}`,
      value: permissibleGMm / x.massKg,
      unit: 'µm',
      source: 'ISO 21940-11',
    });
    note?.({
      name: 'Permissible residual unbalance',
      symbol: 'U_per',
      formula: 'e_per · m',
      numbers: `${(permissibleGMm / x.massKg).toFixed(4)} · ${x.massKg}`,
      value: permissibleGMm,
      unit: 'g·mm',
      source: 'ISO 21940-11',
    });
    const base = { specificUm: permissibleGMm / x.massKg, permissibleGMm, permissibleOzIn: permissibleGMm / 720.0778 };
    if (x.bearingAMm === undefined || x.bearingBMm === undefined || x.centreOfMassMm === undefined) return base;
    if (x.bearingAMm === x.bearingBMm) refuse('bearingBMm', 'The two bearings must stand at different places.');
    const shares = bearingShares(permissibleGMm, x.bearingAMm, x.bearingBMm, x.centreOfMassMm);
    note?.({
      name: 'Share of bearing A',
      symbol: 'U_A',
      formula: 'U_per |x_B − x_C| / L, kept between 0.3 and 0.7 (overhung 1.3) U_per',
      numbers: `${permissibleGMm.toFixed(2)} · ${Math.abs(x.bearingBMm - x.centreOfMassMm)} / ${Math.abs(x.bearingBMm - x.bearingAMm)}${shares.clamped ? ', kept within the bounds' : ''}`,
      value: shares.a,
      unit: 'g·mm',
      source: 'ISO 21940-11 (from memory)',
    });
    return { ...base, shareAGMm: shares.a, shareBGMm: shares.b, clamped: shares.clamped };
  },
});
