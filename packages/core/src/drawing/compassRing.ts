import type { Layout, Phase } from '../winding/layoutTypes.ts';
import type { Drawing, Shape } from './shapes.ts';
import { slotRing } from './slotRing.ts';

/** What the compass showed at the centre of a group, by the group's number. */
export type CompassMarks = ReadonlyMap<number, 'N' | 'S'>;

/**
 * The slot ring with one phase fed: the pole that the compass showed at each of its groups stands beside the number; groups of the
 * other phases step back; those that do not fit are marked.
 */
export function compassRing(
  layout: Layout,
  phase: Phase,
  marks: CompassMarks,
  options: { wrong?: readonly number[]; size?: number; letters?: readonly [string, string, string] } = {},
): Drawing {
  const { wrong = [], ...drawn } = options;
  const ring = slotRing({ slots: layout.slots, layout, touch: true, ...drawn });
  const groupOf = (shape: Shape): number | undefined => {
    const [first] = shape.of ?? [];
    return first?.startsWith('group:') ? Number(first.slice('group:'.length)) : undefined;
  };
  const shapes = ring.shapes.map((shape): Shape => {
    const number = groupOf(shape);
    if (number === undefined) return shape;
    const group = layout.groups.find((g) => g.number === number);
    if (group?.phase !== phase) return { ...shape, role: shape.kind === 'text' ? 'label' : 'faint' };
    const bad = wrong.includes(number);
    if (shape.kind === 'text') {
      const pole = marks.get(number);
      return { ...shape, text: `${number} ${pole ?? '?'}${bad ? ' !' : ''}`, bold: true, size: 13 };
    }
    return bad ? { ...shape, role: 'bad' } : shape;
  });
  return { ...ring, title: `Compass round the bore, phase ${phase}: ${marks.size} read`, shapes };
}
