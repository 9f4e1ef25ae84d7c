import { z } from 'zod';
import type { Complex } from '../winding/complex.ts';
import { asLead } from './influence.ts';
import type { Planes, Vector } from './planes.ts';
import type { BalanceSetUp } from './setUp.ts';

const reading = z.strictObject({ size: z.number().min(0).max(1e7), angleDeg: z.number().min(-360).max(720) });
const massSchema = z.strictObject({
  plane: z.int().min(1).max(2),
  angleDeg: z.number().min(-360).max(720),
  /** added; material that was taken away counts below zero */
  massG: z.number().min(-1e6).max(1e6),
  radiusMm: z.number().positive(),
  place: z.int().min(1).max(360).optional(),
  how: z.string().max(80).default(''),
});
export type FixedMass = z.output<typeof massSchema>;
export const balanceEntrySchema = z.discriminatedUnion('kind', [
  /** bearings A and B, or planes 1 and 2 of a stand that separates them; of one run */
  z.strictObject({
    kind: z.literal('run'),
    readings: z.array(reading).min(1).max(2),
    rpm: z.number().positive().optional(),
    /** the rotor as it was at the last run: how far readings stray */
    repeat: z.boolean().default(false),
  }),
  z.strictObject({
    kind: z.literal('trial'),
    plane: z.int().min(1).max(2),
    gMm: z.number().positive(),
    angleDeg: z.number().min(-360).max(720),
    readings: z.array(reading).min(1).max(2),
    rpm: z.number().positive().optional(),
    staysIn: z.boolean().default(false),
  }),
  z.strictObject({ kind: z.literal('correction'), masses: z.array(massSchema).min(1).max(24) }),
]);
export type BalanceEntry = z.output<typeof balanceEntrySchema>;

export const ZERO: Complex = { re: 0, im: 0 };
export const places = (s: BalanceSetUp): Planes => ({
  bearingAMm: s.bearingAMm,
  bearingBMm: s.bearingBMm,
  centreMm: s.centreMm,
  planesMm: s.planes.map((p) => p.xMm),
});
export const complexReadings = (s: BalanceSetUp, of: readonly Vector[]): Complex[] =>
  of.map((r) => asLead(r.size, r.angleDeg, s.readings === 'unbalance per plane' ? 'lead' : s.phase));
