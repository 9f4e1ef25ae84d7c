import { limit } from '../limits/limits.ts';
import type { Nameplate } from '../machine/nameplate.ts';
import { readForm, type Typed } from '../quantity/fields.ts';
import { connectionOfRecord } from '../winding/connectionOfRecord.ts';
import { ratingOf } from '../winding/recordLayout.ts';
import type { WindingRecord } from '../winding/record.ts';
import { BILL_FIELDS, FIELD_OF_USE } from './billFields.ts';
import type { BillLine } from './billLines.ts';
import { brazeMassKg } from './ends.ts';
import { FORM_BILL_USUAL, formBill } from './formBill.ts';
import { LEAD_SHARES, leadSize } from './leadSize.ts';
import type { BillUse, ShopMaterial } from './materials.ts';
import { billOfRecord, judgedClass, leadUse, usualMaterial, type BillShop, type StockBill } from './planBill.ts';
import { classTemperatureC } from './thermalClass.ts';

export type StockBillResult =
  { bill: StockBill; problems: [] } | { bill?: undefined; problems: { field: string; message: string }[] };

/** Joints of strip lap so far, and are so far apart, m (common practice). */
const LAP_M = 0.02;
const GAP_M = 0.00015;

/** What coils of strip take from the store: strip, tapes, pieces of the slot, leads, braze. Source: formBill; common practice. */
export function stripBillOfRecord(
  record: WindingRecord,
  nameplate: Nameplate,
  typed: Typed,
  shop: BillShop,
): StockBillResult {
  const { materials, defaults, limits = {} } = shop;
  const reading = readForm(BILL_FIELDS, typed, defaults);
  if (reading.problems.length > 0)
    return { problems: reading.problems.map((p) => ({ field: p.field, message: p.message })) };
  const v = reading.values as Record<string, number | string | undefined>;
  const num = (name: string, otherwise: number): number => (v[name] as number | undefined) ?? otherwise;
  const wantedC = classTemperatureC(nameplate.insulationClass);
  const chosen = (use: BillUse): ShopMaterial | undefined => {
    const name = v[FIELD_OF_USE[use]] as string | undefined;
    const able = materials.filter((m) => m.use.includes(use));
    return name ? able.find((m) => m.name === name) : usualMaterial(able, wantedC);
  };
  const made = formBill(record, {
    spareCoils: num('spareCoils', FORM_BILL_USUAL.spareCoils),
    wasteShare: num('wireWaste', 100 * FORM_BILL_USUAL.wasteShare) / 100,
    turnTapeWidthM: num('turnTapeWidth', FORM_BILL_USUAL.turnTapeWidthM),
    turnTapeThicknessM: chosen('turn tape')?.thicknessM ?? FORM_BILL_USUAL.turnTapeThicknessM,
    wallTapeWidthM: num('wallTapeWidth', FORM_BILL_USUAL.wallTapeWidthM),
    wallTapeThicknessM: chosen('ground-wall tape')?.thicknessM ?? FORM_BILL_USUAL.wallTapeThicknessM,
  });
  const drawn = connectionOfRecord(record);
  if (!made || !drawn.connection)
    return {
      problems: [
        {
          field: 'record',
          message: made
            ? `The bill needs the record's connection: ${drawn.connection ? '' : drawn.why}`
            : 'The bill needs strip, wall, turns, slot, bore, core length and span of the coils.',
        },
      ],
    };
  const { connection } = drawn;
  const warnings: string[] = [];
  const lines: BillLine[] = made.lines.map(({ use, what, quantity, unit, of, lengthM, widthM }): BillLine => {
    const m = use === 'strip' ? undefined : chosen(use);
    const isPiece = unit === 'pcs';
    return {
      use,
      material: use === 'strip' ? `${what}, ${record.material ?? 'copper'}` : (m?.name ?? 'none chosen'),
      classC: m?.classC ?? undefined,
      pieces: isPiece ? quantity : 0,
      ...(lengthM === undefined ? {} : { lengthM }),
      ...(widthM === undefined ? {} : { widthM }),
      quantity: isPiece && m?.supply.kind === 'length' ? quantity * (lengthM ?? 0) : quantity,
      unit: isPiece ? (m?.supply.kind === 'length' ? 'm' : 'pieces') : unit,
      nesting: use === 'strip' ? of : `${what}; ${of}`,
    };
  });
  const { currentA } = ratingOf(nameplate, record);
  const lead =
    currentA === undefined
      ? undefined
      : leadSize(currentA * Math.max(...LEAD_SHARES[leadUse(record)]), limit('winding.leadDensity', limits));
  const leads = connection.nodes.filter((n) => n.kind === 'lead').length * (lead?.cables ?? 1);
  const cable = chosen('lead cable');
  lines.push({
    use: 'lead cable',
    material: cable?.name ?? 'none chosen',
    classC: cable?.classC ?? undefined,
    pieces: leads,
    lengthM: num('leadLength', 0.6),
    quantity: leads * num('leadLength', 0.6),
    unit: 'm',
    nesting: '',
    ...(lead ? { areaMm2: lead.sizeMm2 } : {}),
  });
  const braze = chosen('braze metal');
  const joints = connection.jumpers.length + connection.nodes.length;
  if (braze)
    lines.push({
      use: 'braze metal',
      material: braze.name,
      classC: braze.classC ?? undefined,
      pieces: 0,
      // coils of a group are joined turn to turn as well
      quantity: brazeMassKg({
        joints: joints + made.coils - drawn.layout.groups.length,
        lapM: LAP_M,
        widthM: record.stripWidthM ?? 0,
        gapM: GAP_M,
        densityKgM3: braze.densityKgM3 ?? 8400,
      }),
      unit: 'kg',
      nesting: `${joints} joints between groups, leads and stars, ${made.coils - drawn.layout.groups.length} inside groups`,
    });
  for (const line of lines) {
    const price = materials.find((m) => m.name === line.material)?.price;
    if (price !== undefined) line.cost = price * line.quantity;
  }
  const varnish = chosen('varnish');
  const members = [
    ...new Map(
      lines.filter((l) => l.use !== 'strip' && l.use !== 'braze metal').map((l) => [`${l.use} ${l.material}`, l]),
    ).values(),
  ].map((l) => ({ name: l.material === 'none chosen' ? l.use : l.material, classC: l.classC }));
  const { system, wanted } = judgedClass(
    [...members, { name: varnish?.name ?? 'varnish', classC: varnish?.classC ?? undefined }],
    nameplate,
    v,
    warnings,
  );
  for (const use of new Set(lines.filter((l) => l.material === 'none chosen').map((l) => l.use)))
    warnings.push(`No shop material is chosen for: ${use}.`);
  return { bill: { lines, system, wantedClassC: wanted, warnings, lead }, problems: [] };
}

/** The bill of whatever is wound: round wire, or coils of strip. Bars are kept or ordered by drawing. */
export function stockBillOfRecord(
  record: WindingRecord,
  nameplate: Nameplate,
  typed: Typed,
  shop: BillShop,
): StockBillResult {
  if (record.kind === 'form-wound') return stripBillOfRecord(record, nameplate, typed, shop);
  if (record.kind === 'bar-rotor')
    return {
      problems: [
        { field: 'kind', message: 'Bars are used again or ordered by drawing; there is no bill of wire for them.' },
      ],
    };
  return billOfRecord(record, nameplate, typed, shop);
}
