import { z } from 'zod';

/** Wires of one size in hand. */
export const strandSchema = z.strictObject({
  count: z.int().min(1).max(40).describe('wires of this size in hand'),
  bareM: z.number().positive().max(0.02).describe('bare diameter, m'),
  label: z.string().max(24).default('').describe('the size as the shop says it, for example "AWG 18"'),
});
export type Strand = z.infer<typeof strandSchema>;

/** Number of wires in hand. */
export function wiresInHand(strands: readonly Strand[]): number {
  return strands.reduce((n, s) => n + s.count, 0);
}

/** Bare cross-section of all wires in hand, m². Areas are added; diameters never are. */
export function conductorAreaM2(strands: readonly Strand[]): number {
  return strands.reduce((a, s) => a + s.count * (Math.PI / 4) * s.bareM ** 2, 0);
}
