import { z } from 'zod';
import { defineCalculation, refuse } from '../calculation.ts';
import { formatNumber } from '../quantity/format.ts';

/** Calculation `process.trickle`: resin that slots and ends of a winding take, from what is not copper, liner or wedge. */
export const processTrickle = defineCalculation({
  id: 'process.trickle',
  version: 1,
  title: 'Trickle resin: mass from the void of slots and ends',
  sources: ['void = slot less wire over its enamel, liner and wedge (geometry)', 'filling: common practice'],
  input: z.strictObject({
    slots: z.number().int().min(1).max(400),
    coreM: z.number().positive().max(5),
    slotAreaM2: z.number().positive().max(0.1),
    wires: z.number().int().min(1).max(20000).describe('wires in a slot'),
    overallM: z.number().positive().max(0.02).describe('wire over its enamel, m'),
    linerWidthM: z.number().min(0).max(1).default(0),
    linerM: z.number().min(0).max(0.01).default(0).describe('thickness'),
    otherM2: z.number().min(0).max(0.1).default(0).describe('wedge, separator'),
    endSectionM2: z.number().min(0).max(1).describe('section of an end of the winding, m²'),
    endDiameterM: z.number().positive().max(10).describe('mean diameter of the ends'),
    endWireShare: z.number().min(0).max(0.95).describe('share of wire in the ends'),
    densityKgM3: z.number().min(500).max(3000).default(1100),
    fillSlots: z.number().min(0).max(1).default(0.9),
    fillEnds: z.number().min(0).max(1).default(0.7),
    loss: z.number().min(0).max(0.9).default(0.05).describe('what evaporates and drips'),
  }),
  output: z.object({ slotVoidM2: z.number(), slotsKg: z.number(), endsKg: z.number(), kg: z.number() }),
  example: {
    slots: 36,
    coreM: 0.11,
    slotAreaM2: 84e-6,
    wires: 52,
    overallM: 0.83e-3,
    linerWidthM: 0.037,
    linerM: 0.25e-3,
    otherM2: 7e-6,
    endSectionM2: 380e-6,
    endDiameterM: 0.118,
    endWireShare: 0.58,
  },
  compute: (input, note) => {
    const wire = (input.wires * Math.PI * input.overallM ** 2) / 4;
    const slotVoidM2 = input.slotAreaM2 - wire - input.linerWidthM * input.linerM - input.otherM2;
    if (slotVoidM2 <= 0)
      refuse(
        'slotAreaM2',
        'Wire over its enamel, liner and wedge take more than the slot has: no room for resin is left. Look at area, wires and diameter.',
      );
    const slotsM3 = input.slots * input.coreM * slotVoidM2 * input.fillSlots;
    const endsM3 = 2 * input.endSectionM2 * Math.PI * input.endDiameterM * (1 - input.endWireShare) * input.fillEnds;
    const of = (m3: number) => (input.densityKgM3 * m3) / (1 - input.loss);
    note?.({
      name: 'Void of a slot',
      symbol: 'A_v',
      formula: 'A − z · π · D²/4 − W · t − other',
      numbers: `${formatNumber(1e6 * input.slotAreaM2, 6)} − ${input.wires} · π · ${formatNumber(1e3 * input.overallM, 5)}² / 4 − ${formatNumber(1e3 * input.linerWidthM, 5)} · ${formatNumber(1e3 * input.linerM, 5)} − ${formatNumber(1e6 * input.otherM2, 5)}`,
      value: 1e6 * slotVoidM2,
      unit: 'mm²',
      source: 'geometry',
    });
    return { slotVoidM2, slotsKg: of(slotsM3), endsKg: of(endsM3), kg: of(slotsM3 + endsM3) };
  },
});
