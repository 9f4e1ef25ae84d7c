import { z } from 'zod';
import { defineCalculation, refuse } from '../calculation.ts';
import { formatNumber } from '../quantity/format.ts';

/** kg per litre of what stands in the tank (from memory: handbook densities). */
export const SOLID_KG_L = { steel: 7.65, 'cast iron': 7.2, copper: 8.89, aluminium: 2.7 } as const;
export const SOLIDS = Object.keys(SOLID_KG_L) as [keyof typeof SOLID_KG_L, ...(keyof typeof SOLID_KG_L)[]];

/** Calculation `process.resinToHold`: resin that covers a part in its tank. The bore fills too: only solid volume is taken off. */
export const processResinToHold = defineCalculation({
  id: 'process.resinToHold',
  version: 1,
  title: 'Resin to hold ready for a tank, and the room to take it back',
  sources: ['volume of the tank less what is solid in it (geometry)'],
  input: z.strictObject({
    tankM: z.number().positive().max(10).describe('inner diameter of the tank, m'),
    standM: z.number().min(0).max(5).default(0),
    partM: z.number().positive().max(10).describe('height of the part'),
    coverM: z.number().min(0).max(2).default(0.1),
    solids: z
      .array(z.strictObject({ of: z.enum(SOLIDS), kg: z.number().positive().max(1e6) }))
      .max(10)
      .default([]),
    fixtureL: z.number().min(0).max(1e5).default(0).describe('litres of stand and fixture'),
    storedL: z.number().min(0).max(1e6).optional().describe('resin in its tank'),
    storageL: z.number().min(0).max(1e6).optional().describe('what its tank holds'),
  }),
  output: z.object({
    levelM: z.number(),
    litre: z.number(),
    missingL: z.number().optional(),
    says: z.string(),
  }),
  example: {
    tankM: 0.9,
    standM: 0.06,
    partM: 0.52,
    solids: [
      { of: 'steel', kg: 210 },
      { of: 'copper', kg: 34 },
    ],
    storedL: 400,
    storageL: 600,
  },
  compute: (input, note) => {
    const levelM = input.standM + input.partM + input.coverM;
    const tankL = (1000 * Math.PI * input.tankM ** 2 * levelM) / 4;
    const solidL = input.solids.reduce((sum, s) => sum + s.kg / SOLID_KG_L[s.of], input.fixtureL);
    const litre = tankL - solidL;
    if (litre <= 0)
      refuse('solids', 'What stands in the tank is larger than the tank up to the level: look at masses and heights.');
    if (input.storedL !== undefined && input.storageL !== undefined && input.storedL > input.storageL)
      refuse('storedL', 'There is more resin stored than its tank holds.');
    note?.({
      name: 'Resin',
      symbol: 'V',
      formula: 'π/4 · D² · (stand + part + cover) − Σ m/ρ',
      numbers: `π / 4 · ${formatNumber(10 * input.tankM, 6)}² · ${formatNumber(10 * levelM, 6)} − ${formatNumber(solidL, 6)}`,
      value: litre,
      unit: 'l',
      source: 'geometry',
    });
    const missingL = input.storedL === undefined ? undefined : Math.max(0, litre - input.storedL);
    return {
      levelM,
      litre,
      ...(missingL === undefined ? {} : { missingL }),
      says: `${formatNumber(litre, 4)} l up to ${formatNumber(1000 * levelM)} mm.${
        missingL === undefined
          ? ''
          : missingL > 0
            ? ` ${formatNumber(missingL)} l more are needed than are stored.`
            : ' Enough is stored; it all goes back to where it came from.'
      }`,
    };
  },
});
