import { EXAMPLE_PLATE, EXAMPLE_RECORD } from '../winding/exampleRecord.ts';
import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { nameplateSchema } from '../machine/nameplate.ts';
import { windingRecordSchema } from '../winding/record.ts';
import { redesign } from './search.ts';
import { redesignWeightsSchema, redesignWishSchema, stockWireSchema } from './wish.ts';

/** Calculation `winding.redesign`. */
export const windingRedesign = defineCalculation({
  id: 'winding.redesign',
  version: 3,
  heavy: true,
  title:
    'Changed rewind: candidates of circuits, connection, span, turns and wire from stock, within the machine’s limits',
  sources: ['flux equation (Say)', 'limits of flux error, density and fill: common practice, the shop’s own'],
  input: z.strictObject({
    record: windingRecordSchema,
    nameplate: nameplateSchema,
    wish: redesignWishSchema.prefault({}),
    stock: z.array(stockWireSchema).min(1).max(60),
    weights: redesignWeightsSchema.prefault({}),
    limits: shopLimitsSchema.default({}),
    many: z.int().min(1).max(200).default(40),
  }),
  output: z.object({
    assumed: z.string(),
    torqueRatio: z.number(),
    candidates: z.array(z.unknown()),
    tried: z.number(),
    kept: z.number(),
    leftOut: z.array(z.object({ why: z.string(), count: z.number() })),
    refusals: z.array(z.string()),
  }),
  example: {
    record: EXAMPLE_RECORD,
    nameplate: EXAMPLE_PLATE,
    wish: { connection: 'wye' },
    stock: [0.6, 0.63, 0.67, 0.71, 0.75, 0.8, 0.85, 0.9, 0.95, 1, 1.06, 1.12].map((d) => ({
      bareM: d / 1000,
      label: String(d),
    })),
  },
  compute: (x, note) => {
    const made = redesign(x.record, x.nameplate, x.wish, x.stock, {
      weights: x.weights,
      limits: x.limits,
      many: x.many,
    });
    const [first] = made.candidates;
    if (first)
      note?.({
        name: 'Turns of the first candidate',
        symbol: 'T₂',
        formula: 'T₁ (E₂/E₁)(f₁/f₂)(k_w1/k_w2)(c₂/c₁)(n_c1/n_c2)(Φ₁/Φ₂)',
        numbers: `exact ${first.exactTurns.toFixed(3)}`,
        value: first.turns,
        unit: '',
        source: 'Say, flux equation',
      });
    return made;
  },
});
