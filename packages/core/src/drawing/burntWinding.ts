import type { CoilMark, PhotographPin } from '../diagnose/failureMap.ts';
import type { Layout } from '../winding/layoutTypes.ts';
import { developedFrame, developedWinding } from './developed.ts';
import type { Drawing, Shape } from './shapes.ts';
import { slotRing } from './slotRing.ts';

const coilOf = (shape: Shape): number | undefined => {
  const name = shape.of?.find((o) => o.startsWith('coil:'));
  return name === undefined ? undefined : Number(name.slice('coil:'.length));
};
/** Line of a damaged coil: 1 discoloured thin, 3 destroyed thick. */
const weightOf = (damage: number): number => 0.6 + 0.7 * damage;

/** The slot ring with the damage of each coil on both its sides: a number instead of the letter, and a line that thickens with it. */
export function burntRing(
  layout: Layout,
  marks: readonly CoilMark[],
  options: { size?: number; letters?: readonly [string, string, string]; touch?: boolean } = {},
): Drawing {
  const ring = slotRing({ slots: layout.slots, layout, ...options });
  const damage = new Map(marks.map((m) => [m.coil, m.damage]));
  const shapes = ring.shapes.flatMap((shape): Shape[] => {
    const at = shape.of?.some((o) => o.startsWith('slot:')) ? (damage.get(coilOf(shape) ?? 0) ?? 0) : 0;
    if (at === 0) return [shape];
    if (shape.kind === 'text') return [{ ...shape, text: String(at), bold: true }];
    if (shape.kind !== 'path' || shape.fill !== 'tint') return [shape];
    // discoloured keeps its colour under the line; burnt is filled
    return at === 1
      ? [shape, { ...withoutFill(shape), role: 'bad', weight: weightOf(at) }]
      : [{ ...shape, role: 'bad', weight: weightOf(at) }];
  });
  return { ...ring, title: `${ring.title}; ${marks.length} damaged coils`, shapes };
}

function withoutFill(shape: Extract<Shape, { kind: 'path' }>): Extract<Shape, { kind: 'path' }> {
  const { fill: _fill, ...line } = shape;
  return line;
}

/** The winding unrolled with its damaged coils over the others, and numbered pins where photographs were taken. */
export function burntDeveloped(
  layout: Layout,
  marks: readonly CoilMark[],
  pins: readonly PhotographPin[] = [],
  options: { width?: number; letters?: readonly string[] } = {},
): Drawing {
  const plain = developedWinding(layout, options);
  const { left, pitch, top, bottom } = developedFrame(layout, options.width);
  const damage = new Map(marks.map((m) => [m.coil, m.damage]));
  const over = plain.shapes.flatMap((shape): Shape[] => {
    const at = shape.kind === 'path' && !shape.fill ? (damage.get(coilOf(shape) ?? 0) ?? 0) : 0;
    return at === 0 ? [] : [{ ...shape, role: 'bad', weight: weightOf(at) }];
  });
  const pinned = pins.flatMap((p, i): Shape[] => {
    const x = left + (p.slot - 0.5) * pitch;
    const y = bottom - p.along * (bottom - top);
    return [
      { kind: 'circle', x, y, r: 9, fill: 'paper', role: 'accent', of: [`pin:${i + 1}`] },
      {
        kind: 'text',
        x,
        y,
        size: 11,
        anchor: 'middle',
        bold: true,
        role: 'text',
        text: String(i + 1),
        of: [`pin:${i + 1}`],
      },
    ];
  });
  return {
    ...plain,
    title: `${plain.title}; ${marks.length} damaged coils, ${pins.length} places pinned`,
    shapes: [...plain.shapes, ...over, ...pinned],
  };
}
