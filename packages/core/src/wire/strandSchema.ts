import { z } from 'zod';

/** Wires of one size in hand. */
export const strandSchema = z.strictObject({
  count: z.int().min(1).max(40).describe('wires of this size in hand'),
  bareM: z.number().positive().max(0.02).describe('bare diameter, m'),
  label: z.string().max(24).default('').describe('the size as the shop says it, for example "AWG 18"'),
});
