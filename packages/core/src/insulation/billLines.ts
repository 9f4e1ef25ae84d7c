import { insulatedDiameterM } from '../wire/insulatedDiameter.ts';
import { massPerMetreKg, metresPerKg, spoolsToBring } from '../wire/spools.ts';
import { conductorAreaM2, wiresInHand, type Strand, roundAreaM2 } from '../wire/strands.ts';
import type { BillFigures, BillInput } from './bill.ts';
import type { MaterialUse, ShopMaterial } from './materials.ts';
import { nestOnRoll, nestOnSheet } from './nesting.ts';

export interface BillLine {
  use: MaterialUse | 'winding wire' | 'strip';
  material: string;
  classC: number | undefined;
  /** pieces to cut, waste in; 0 for what is measured by length or mass */
  pieces: number;
  lengthM?: number;
  widthM?: number;
  boreM?: number;
  areaMm2?: number;
  bareM?: number;
  /** what is drawn from stock */
  quantity: number;
  unit: 'kg' | 'm' | 'sheets' | 'pieces';
  /** how the pieces lie */
  nesting: string;
  metres?: number;
  metresPerSpool?: number;
  spools?: number;
  cost?: number;
}

/** Wire of every size in the hand: kg by its share of the area, metres, spools. */
export function wireLines(
  lines: BillLine[],
  input: BillInput,
  strands: readonly Strand[],
  grade: 1 | 2,
  bill: BillFigures,
  spoolKg: number,
  classOf: (bareM: number, grade: 1 | 2, material: 'copper' | 'aluminium') => number | undefined,
): void {
  const area = conductorAreaM2(strands);
  for (const s of strands) {
    const share = (s.count * roundAreaM2(s.bareM)) / area;
    const kg = bill.orderKg * share;
    const overall = insulatedDiameterM(s.bareM, grade);
    lines.push({
      use: 'winding wire',
      material: `${s.label ?? (s.bareM * 1000).toFixed(3)} grade ${grade} ${input.material}`,
      classC: classOf(s.bareM, grade, input.material),
      pieces: 0,
      bareM: s.bareM,
      quantity: kg,
      unit: 'kg',
      nesting: `${s.count} of ${wiresInHand(strands)} in hand`,
      metres: kg / massPerMetreKg(s.bareM, overall, input.material),
      metresPerSpool: spoolKg * metresPerKg(s.bareM, overall, input.material),
      spools: spoolsToBring(s.count, kg, spoolKg),
    });
  }
}

/** A cut of pieces from a sheet or a roll, or a sentence in `warnings` when they do not fit. */
export function cutLine(
  use: MaterialUse,
  material: ShopMaterial | undefined,
  pieces: number,
  lengthM: number,
  widthM: number,
  warnings: string[],
): BillLine {
  const line: BillLine = {
    use,
    material: material?.name ?? 'none chosen',
    classC: material?.classC ?? undefined,
    pieces,
    lengthM,
    widthM,
    quantity: pieces,
    unit: 'pieces',
    nesting: '',
  };
  const mm = (x: number) => (x * 1000).toFixed(0);
  if (material?.supply.kind === 'sheet') {
    const nest = nestOnSheet(pieces, { lengthM, widthM }, material.supply);
    if (!nest) {
      warnings.push(`${use}: a piece of ${mm(lengthM)} × ${mm(widthM)} mm does not fit a sheet of ${material.name}.`);
      return line;
    }
    return {
      ...line,
      quantity: nest.sheets,
      unit: 'sheets',
      nesting: `${nest.perSheet} a sheet (${nest.columns} × ${nest.rows}${nest.along ? ', length along the sheet' : ', length across the sheet'})`,
    };
  }
  if (material?.supply.kind === 'roll') {
    const [acrossM, alongM] = material.supply.slot === 'across' ? [lengthM, widthM] : [widthM, lengthM];
    const nest = nestOnRoll(pieces, { acrossM, alongM }, material.supply.widthM);
    if (!nest) {
      warnings.push(`${use}: a piece of ${mm(lengthM)} × ${mm(widthM)} mm is wider than the roll of ${material.name}.`);
      return line;
    }
    return {
      ...line,
      quantity: nest.lengthM,
      unit: 'm',
      nesting: `${nest.across} across the roll, ${nest.rows} rows`,
    };
  }
  return line;
}
