import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';
import { insulatedDiameterM, type WireGrade } from './insulatedDiameter.ts';
import { strandSchema } from './strandSchema.ts';
import { conductorAreaM2, wiresInHand, type Strand } from './strands.ts';

/** Hexagonal packing of equal circles in the measure Σ d_o² / area: 2/√3. */
export const HEXAGONAL_LIMIT = 2 / Math.sqrt(3);

export interface SlotFill {
  wires: number;
  copper: number | undefined;
  insulatedSquare: number | undefined;
  insulatedRound: number | undefined;
}

/** Σ n d_o² of the wires in hand, m²: what the squares round the insulated wires take. */
export const insulatedSquaresM2 = (strands: readonly Strand[], grade: WireGrade): number =>
  strands.reduce((a, s) => a + s.count * insulatedDiameterM(s.bareM, grade) ** 2, 0);

/**
 * Fill of one slot in all three measures.
 * @param sides each winding with a side in the slot: its wires in hand, its turns there, all layers together
 * @param grossM2 whole slot; netM2 less liner, separator and wedge
 */
export function slotFill(
  sides: readonly { strands: readonly Strand[]; turnsInSlot: number }[],
  grade: WireGrade,
  grossM2: number | undefined,
  netM2: number | undefined,
): SlotFill {
  const sum = (of: (strands: readonly Strand[]) => number) =>
    sides.reduce((a, side) => a + of(side.strands) * side.turnsInSlot, 0);
  const squares = sum((strands) => insulatedSquaresM2(strands, grade));
  return {
    wires: sum(wiresInHand),
    copper: grossM2 === undefined ? undefined : sum(conductorAreaM2) / grossM2,
    insulatedSquare: netM2 === undefined ? undefined : squares / netM2,
    insulatedRound: netM2 === undefined ? undefined : ((Math.PI / 4) * squares) / netM2,
  };
}

/** Calculation `wire.fill`. */
export const wireFill = defineCalculation({
  id: 'wire.fill',
  version: 1,
  title: 'Slot fill in all three measures, by name',
  sources: ['definitions', 'usual ranges: common practice'],
  input: z.strictObject({
    strands: z.array(strandSchema).min(1).max(3),
    turnsInSlot: z.number().positive().max(5000).describe('turns of all coil sides in a slot'),
    grade: z.union([z.literal(1), z.literal(2)]).default(2),
    grossM2: z.number().positive().max(0.01).optional(),
    netM2: z.number().positive().max(0.01).optional(),
  }),
  output: z.object({
    wires: z.number(),
    copper: z.number().optional(),
    insulatedSquare: z.number().optional(),
    insulatedRound: z.number().optional(),
  }),
  example: { strands: [{ count: 2, bareM: 0.00085 }], turnsInSlot: 68, grossM2: 185e-6, netM2: 158e-6 },
  compute: (x, note) => {
    const fill = slotFill(
      [{ strands: x.strands, turnsInSlot: x.turnsInSlot }],
      x.grade as WireGrade,
      x.grossM2,
      x.netM2,
    );
    const say = (name: string, symbol: string, formula: string, value: number | undefined) =>
      value === undefined
        ? undefined
        : note?.({ name, symbol, formula, numbers: `${fill.wires} wires`, value, unit: '', source: 'definition' });
    say('Copper fill', 'f_cu', 'Σ n·π·d²/4 / gross slot area', fill.copper);
    say('Insulated-square fill', 'f_sq', 'Σ n·d_o² / net slot area', fill.insulatedSquare);
    say('Insulated-round fill', 'f_ro', 'Σ n·π·d_o²/4 / net slot area', fill.insulatedRound);
    return fill;
  },
});
