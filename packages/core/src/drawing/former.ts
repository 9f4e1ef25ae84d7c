import { formatQuantity } from '../quantity/format.ts';
import { LEAST_CORNER_M, type FormerHead } from '../winding/former.ts';
import type { Drawing, Shape } from './shapes.ts';

/** One head drawn to scale: the mean turn, and inside it the head that carries the first wire. */
export function formerDrawing(head: FormerHead, options: { width?: number; unit?: 'mm' | 'in' } = {}): Drawing {
  const width = options.width ?? 460;
  const unit = options.unit ?? 'mm';
  const say = (m: number) => formatQuantity(m, 'length', unit, 4);
  const total = head.straightM + 2 * head.endM;
  const scale = Math.min((width - 130) / total, 190 / Math.max(head.chordM, 0.01));
  const cx = width / 2;
  const cy = 60 + (head.chordM * scale) / 2;
  const half = (head.straightM / 2) * scale;
  const outline = (inset: number): string => {
    const h = (head.chordM / 2 - inset) * scale;
    if (head.shape === 'rounded')
      return `M${cx - half} ${cy - h}H${cx + half}A${h} ${h} 0 0 1 ${cx + half} ${cy + h}H${cx - half}A${h} ${h} 0 0 1 ${cx - half} ${cy - h}Z`;
    const end = Math.max(0, head.endM - inset) * scale;
    return `M${cx - half} ${cy - h}H${cx + half}L${cx + half + end} ${cy}L${cx + half} ${cy + h}H${cx - half}L${cx - half - end} ${cy}Z`;
  };
  const bottom = cy + (head.chordM / 2) * scale;
  const shapes: Shape[] = [
    { kind: 'path', d: outline(-head.buildM / 2), role: 'faint', weight: 1 },
    { kind: 'path', d: outline(0), role: 'measured', weight: 1.6 },
    { kind: 'path', d: outline(head.buildM / 2), role: 'frame', weight: 1.6, fill: 'paper' },
  ];
  const dimension = (x1: number, y1: number, x2: number, y2: number, text: string, at: [number, number]) => {
    shapes.push({ kind: 'line', x1, y1, x2, y2, role: 'frame', weight: 0.8 });
    for (const [x, y] of [
      [x1, y1],
      [x2, y2],
    ] as const)
      shapes.push({ kind: 'circle', x, y, r: 2, role: 'frame', fill: 'solid' });
    shapes.push({ kind: 'text', x: at[0], y: at[1], text, size: 12, anchor: 'middle', role: 'text' });
  };
  dimension(cx - half, 40, cx + half, 40, `straight ${say(head.straightM)}`, [cx, 32]);
  dimension(
    cx - half + 14,
    cy - (head.chordM / 2 - head.buildM / 2) * scale,
    cx - half + 14,
    cy + (head.chordM / 2 - head.buildM / 2) * scale,
    '',
    [cx, cy],
  );
  shapes.push({
    kind: 'text',
    x: cx,
    y: cy - 4,
    text: `inside width ${say(head.insideWidthM)}`,
    size: 12,
    anchor: 'middle',
    role: 'text',
  });
  shapes.push({
    kind: 'text',
    x: cx,
    y: cy + 12,
    text: `inside perimeter ${say(head.insidePerimeterM)}`,
    size: 12,
    bold: true,
    anchor: 'middle',
    role: 'text',
  });
  dimension(
    cx - half - head.endM * scale,
    bottom + 18,
    cx + half + head.endM * scale,
    bottom + 18,
    `mean turn from nose to nose ${say(total)}`,
    [cx, bottom + 34],
  );
  shapes.push({
    kind: 'text',
    x: cx,
    y: bottom + 52,
    text:
      head.shape === 'diamond'
        ? `slants ${say(head.slantM)} each at ${head.slantDeg.toFixed(1)}°, corners R ${say(LEAST_CORNER_M)} or more, bundle ${say(head.buildM)}`
        : `half-round ends R ${say(head.chordM / 2 - head.buildM / 2)} inside, bundle ${say(head.buildM)}`,
    size: 12,
    anchor: 'middle',
    role: 'text',
  });
  return {
    title: `Coil ${head.coil}: 1-${head.spanSlots + 1}, ${head.turns} turns`,
    width,
    height: bottom + 62,
    shapes,
  };
}
