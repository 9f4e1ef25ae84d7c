import { z } from 'zod';
import { defineCalculation, refuse } from '../calculation.ts';
import { insulatedDiameterM } from './insulatedDiameter.ts';
import { parseWires } from './parseWires.ts';
import { conductorAreaM2, wiresInHand } from './strands.ts';
import { CIRCULAR_MIL_M2 } from '../quantity/units.ts';

/** Calculation `wire.size`: what a bench notation of wires in hand means. */
export const wireSize = defineCalculation({
  id: 'wire.size',
  version: 1,
  title: 'Wires in hand: diameters, insulated diameters, area',
  sources: ['ASTM B258 (gauge)', 'IEC 60317-0-1 overall diameters (from memory)', 'legacy gauge table from memory'],
  input: z.strictObject({
    wires: z.string().min(1).max(120).describe('as at the bench: 2x18+1x17, 2x0.85'),
    system: z.enum(['metric', 'awg', 'swg']).default('metric').describe('what a bare size means'),
    grade: z.union([z.literal(1), z.literal(2)]).default(2),
  }),
  output: z.object({
    strands: z.array(z.object({ count: z.number(), label: z.string(), bareM: z.number(), overallM: z.number() })),
    wiresInHand: z.number(),
    areaM2: z.number(),
    circularMils: z.number(),
  }),
  example: { wires: '2x18+1x17', system: 'awg' },
  compute: ({ wires, system, grade }, note) => {
    const read = parseWires(wires, system);
    if (!read.ok) return refuse('wires', read.message);
    const areaM2 = conductorAreaM2(read.value);
    note?.({
      name: 'Bare area of all wires in hand',
      symbol: 'A',
      formula: 'Σ n π d²/4',
      numbers: read.value.map((s) => `${s.count} · π/4 · ${(s.bareM * 1000).toFixed(4)}²`).join(' + '),
      value: areaM2 * 1e6,
      unit: 'mm²',
      source: 'definition',
    });
    return {
      strands: read.value.map((s) => ({
        count: s.count,
        label: s.label,
        bareM: s.bareM,
        overallM: insulatedDiameterM(s.bareM, grade),
      })),
      wiresInHand: wiresInHand(read.value),
      areaM2,
      circularMils: areaM2 / CIRCULAR_MIL_M2,
    };
  },
});
