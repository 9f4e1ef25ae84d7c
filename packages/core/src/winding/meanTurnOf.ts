import type { z } from 'zod';
import type { meanTurnInputSchema } from './copper.ts';
import { formOfList, spanOf } from './coilList.ts';
import { conductorOf, formCoilOf } from './formCoilOf.ts';
import type { WindingRecord } from './record.ts';

/** What a record says for its mean turn, beside what was weighed. */
export function meanTurnInputOf(record: WindingRecord): Partial<z.input<typeof meanTurnInputSchema>> {
  const strands = record.strands ?? [];
  const { turns } = record;
  const form = formCoilOf(record);
  const tooth = record.kind === 'tooth-coil';
  return {
    wireGrade: record.wireGrade === '1' ? 1 : 2,
    material: record.material ?? 'copper',
    strands: strands.length > 0 ? [...strands] : undefined,
    areaM2:
      record.kind === 'form-wound' || record.kind === 'bar-rotor' ? conductorOf(record).areaM2 || undefined : undefined,
    formCoilM: form?.meanTurnM,
    form: formOfRecord(record),
    coreLengthM: record.coreLengthM,
    boreM: record.boreM,
    slotDepthM: record.slotDepthM,
    slots: record.slots,
    ...spansOf(record),
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

/** Each coil with its own span, weighted by its turns where they differ. */
function spansOf(record: WindingRecord): Pick<z.input<typeof meanTurnInputSchema>, 'spansSlots' | 'spanWeights'> {
  const { coilList, slots, turns } = record;
  if (record.kind === 'bar-rotor')
    return slots === undefined || record.poles === undefined
      ? {}
      : { spansSlots: [record.farPitchSlots ?? slots / record.poles] };
  const spans =
    coilList && slots !== undefined
      ? coilList.map((pair) => spanOf(pair, slots))
      : record.spansSlots && [...record.spansSlots];
  return {
    spansSlots: spans,
    spanWeights: turns && turns.length > 1 && turns.length === spans?.length ? [...turns] : undefined,
  };
}

/** The shape of the ends: mixed layers and single-phase groups are concentric, a list says it itself. */
function formOfRecord(record: WindingRecord): 'lap' | 'concentric' {
  if (record.kind === 'single-phase' || record.layers === 'mixed') return 'concentric';
  if (record.coilList && record.slots !== undefined) return formOfList(record.coilList, record.slots);
  return record.form ?? 'lap';
}
