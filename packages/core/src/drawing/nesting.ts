import { nestOnRoll, nestOnSheet } from '../insulation/nesting.ts';
import type { ShopMaterial } from '../insulation/materials.ts';
import type { BillLine } from '../insulation/billLines.ts';
import { formatNumber } from '../quantity/format.ts';
import type { Drawing, Shape } from './shapes.ts';

const WIDTH = 520;
const LABEL = 12;
const say = (m: number) => formatNumber(m * 1000, m < 0.1 ? 3 : 4);

/** How the pieces of one line lie on the sheet or roll, to scale; the piece drawn first is marked. Undefined when nothing is nested. */
export function nestingDrawing(line: BillLine, material: ShopMaterial | undefined): Drawing | undefined {
  if (!material || line.lengthM === undefined || line.widthM === undefined || line.pieces === 0) return undefined;
  const piece = { lengthM: line.lengthM, widthM: line.widthM };
  const supply = material.supply;
  if (supply.kind === 'sheet') {
    const nest = nestOnSheet(line.pieces, piece, supply);
    if (!nest) return undefined;
    const [w, h] = nest.along ? [piece.lengthM, piece.widthM] : [piece.widthM, piece.lengthM];
    return plan(
      `one sheet of ${material.name}, ${say(supply.lengthM)} × ${say(supply.widthM)} mm`,
      supply.lengthM,
      supply.widthM,
      w,
      h,
      nest.columns,
      nest.rows,
      Math.min(line.pieces, nest.perSheet),
    );
  }
  if (supply.kind === 'roll') {
    const across = supply.slot === 'across';
    const nest = nestOnRoll(
      line.pieces,
      { acrossM: across ? piece.lengthM : piece.widthM, alongM: across ? piece.widthM : piece.lengthM },
      supply.widthM,
    );
    if (!nest) return undefined;
    const [w, h] = across ? [piece.widthM, piece.lengthM] : [piece.lengthM, piece.widthM];
    return plan(
      `${formatNumber(nest.lengthM, 3)} m of a roll of ${material.name}, ${say(supply.widthM)} mm wide`,
      nest.lengthM,
      supply.widthM,
      w,
      h,
      nest.rows,
      nest.across,
      line.pieces,
    );
  }
  return undefined;
}

/** Pieces column by column on a rectangle of length × width, m. */
function plan(
  title: string,
  lengthM: number,
  widthM: number,
  w: number,
  h: number,
  columns: number,
  rows: number,
  pieces: number,
): Drawing {
  const scale = Math.min((WIDTH - 20) / lengthM, 260 / widthM);
  const shapes: Shape[] = [
    {
      kind: 'path',
      d: `M10 10H${10 + lengthM * scale}V${10 + widthM * scale}H10Z`,
      role: 'frame',
      weight: 1.4,
      fill: 'paper',
    },
  ];
  let left = pieces;
  for (let c = 0; c < columns; c++)
    for (let r = 0; r < rows && left > 0; r++, left--) {
      const x = 10 + c * w * scale;
      const y = 10 + r * h * scale;
      shapes.push({
        kind: 'path',
        d: `M${x.toFixed(1)} ${y.toFixed(1)}h${(w * scale).toFixed(1)}v${(h * scale).toFixed(1)}h${(-w * scale).toFixed(1)}Z`,
        role: c === 0 && r === 0 ? 'accent' : 'faint',
        ...(c === 0 && r === 0 ? { weight: 2 } : {}),
      });
    }
  const bottom = 10 + widthM * scale;
  shapes.push({
    kind: 'text',
    x: 10,
    y: bottom + 16,
    text: `piece ${say(w)} × ${say(h)} mm`,
    size: LABEL,
    anchor: 'start',
    role: 'text',
  });
  return { title, width: Math.max(260, 20 + lengthM * scale), height: bottom + 24, shapes };
}
