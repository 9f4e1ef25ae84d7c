import { stripAreaM2, formCoil, formCoilSchema, type FormCoil, type FormCoilInput } from './formCoil.ts';
import type { WindingRecord } from './record.ts';
import { conductorAreaM2, wiresInHand } from '../wire/strands.ts';

/** What a record says of its strip coils; undefined while a size is missing. */
export function formCoilInputOf(record: WindingRecord): FormCoilInput | undefined {
  if (record.kind !== 'form-wound') return undefined;
  const spans = record.spansSlots ?? [];
  const read = formCoilSchema.safeParse(
    Object.fromEntries(
      Object.entries({
        thicknessM: record.stripThicknessM,
        widthM: record.stripWidthM,
        cornerM: record.stripCornerM,
        wide: record.stripsWide,
        high: record.stripsHigh,
        strandBuildM: record.strandBuildM,
        turnTapeM: record.turnTapeM,
        wallM: record.groundWallM,
        turns: record.turns?.[0],
        slotWidthM: record.slotWidthM,
        slotHeightM: record.slotDepthM,
        separatorM: record.separatorM,
        bottomStripM: record.bottomStripM,
        topStripM: record.topStripM,
        wedgeM: record.wedgeDepthM,
        boreM: record.boreM,
        coreLengthM: record.coreLengthM,
        slots: record.slots,
        spanSlots: spans.length === 0 ? undefined : spans.reduce((a, b) => a + b, 0) / spans.length,
        straightM: record.coilStraightM,
        pinM: record.knucklePinM,
        gapM: record.coilGapM,
      }).filter(([, v]) => v !== undefined),
    ),
  );
  return read.success ? read.data : undefined;
}

/** Build-up and mean turn of a record's strip coils; undefined while a size is missing. */
export function formCoilOf(record: WindingRecord): FormCoil | undefined {
  const input = formCoilInputOf(record);
  return input && formCoil(input);
}

/** What carries the current in one turn: round wires in hand, strips of a coil, or a bar. */
export function conductorOf(record: WindingRecord): { areaM2: number; inHand: number } {
  if (record.kind === 'form-wound') {
    const { stripThicknessM: a, stripWidthM: b } = record;
    const count = (record.stripsWide ?? 1) * (record.stripsHigh ?? 1);
    return a === undefined || b === undefined
      ? { areaM2: 0, inHand: 0 }
      : { areaM2: count * stripAreaM2(Math.min(a, b), Math.max(a, b), record.stripCornerM), inHand: count };
  }
  if (record.kind === 'bar-rotor') {
    const { barWidthM: w, barHeightM: h } = record;
    return w === undefined || h === undefined ? { areaM2: 0, inHand: 0 } : { areaM2: w * h, inHand: 1 };
  }
  const strands = record.strands ?? [];
  return { areaM2: conductorAreaM2(strands), inHand: strands.length === 0 ? 0 : wiresInHand(strands) };
}
