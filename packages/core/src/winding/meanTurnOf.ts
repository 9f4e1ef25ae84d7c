import type { z } from 'zod';
import type { meanTurnInputSchema } from './copper.ts';
import type { WindingRecord } from './record.ts';

/** What a record says for its mean turn, beside what was weighed. */
export function meanTurnInputOf(record: WindingRecord): Partial<z.input<typeof meanTurnInputSchema>> {
  const strands = record.strands ?? [];
  const { turns } = record;
  const tooth = record.kind === 'tooth-coil';
  return {
    wireGrade: record.wireGrade === '1' ? 1 : 2,
    material: record.material ?? 'copper',
    strands: strands.length > 0 ? [...strands] : undefined,
    form: record.kind === 'single-phase' ? 'concentric' : (record.form ?? 'lap'),
    coreLengthM: record.coreLengthM,
    boreM: record.boreM,
    slotDepthM: record.slotDepthM,
    slots: record.slots,
    spansSlots: record.spansSlots && [...record.spansSlots],
    spanWeights: turns && turns.length === record.spansSlots?.length ? [...turns] : undefined,
    extensionConnectionEndM: record.extensionConnectionEndM,
    extensionOppositeEndM: record.extensionOppositeEndM,
    ...(tooth && turns?.[0] !== undefined && record.toothWidthM !== undefined
      ? {
          toothCoil: {
            everyTooth: record.layers !== 'single',
            turns: turns.reduce((a, b) => a + b, 0) / turns.length,
            toothWidthM: record.toothWidthM,
            sideM: record.toothInsulationSideM,
            endM: record.toothInsulationEndM,
            cornerM: record.bobbinRadiusM,
            heightM: record.windingHeightM,
            gapM: record.coilGapM,
          },
        }
      : {}),
  };
}
