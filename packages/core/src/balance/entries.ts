import { z } from 'zod';
import type { Complex } from '../winding/complex.ts';
import { asLead } from './influence.ts';
import type { Planes, Vector } from './planes.ts';
import { unbalanceFactor, type BalanceSetUp } from './setUp.ts';

const reading = z.strictObject({ size: z.number().min(0).max(1e7), angleDeg: z.number().min(-360).max(720) });
/** Where a reading came from, when a stand sent it: kept by the server, never typed. */
const sentSchema = z.strictObject({
  trace: z.uuid(),
  instrument: z.string(),
  simulated: z.boolean(),
  outOfDate: z.boolean(),
});
export type SentBy = z.output<typeof sentSchema>;
const massSchema = z.strictObject({
  plane: z.int().min(1).max(2),
  angleDeg: z.number().min(-360).max(720),
  /** added; material that was taken away counts below zero */
  massG: z.number().min(-1e6).max(1e6),
  radiusMm: z.number().positive().max(1e5),
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
    sent: sentSchema.optional(),
  }),
  z.strictObject({
    kind: z.literal('trial'),
    plane: z.int().min(1).max(2),
    gMm: z.number().min(1e-6).max(1e9),
    angleDeg: z.number().min(-360).max(720),
    readings: z.array(reading).min(1).max(2),
    rpm: z.number().positive().optional(),
    staysIn: z.boolean().default(false),
    sent: sentSchema.optional(),
  }),
  z.strictObject({ kind: z.literal('correction'), masses: z.array(massSchema).min(1).max(24) }),
  /** a test mass moved round one plane: plane 1 is read at bearing A, plane 2 at bearing B; it comes out afterwards */
  z.strictObject({
    kind: z.literal('moved'),
    plane: z.int().min(1).max(2),
    testGMm: z.number().min(1e-6).max(1e9),
    positions: z
      .array(z.strictObject({ angleDeg: z.number().min(-360).max(720), amplitude: z.number().min(0).max(1e7) }))
      .min(6)
      .max(24),
    /** the first position read once more at the end */
    again: z.number().min(0).max(1e7).optional(),
  }),
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
  s.readings === 'unbalance per plane'
    ? // the stand counts with the masses; its unit is the session's
      of.map((r) => asLead(r.size * unbalanceFactor(s.unbalanceUnit), r.angleDeg, 'lead'))
    : of.map((r) => asLead(r.size, r.angleDeg, s.phase));
