import { gcd } from '../winding/integers.ts';
import type { Layout } from '../winding/layoutTypes.ts';
import { around, type Drawing, type Shape } from './shapes.ts';
import { PHASE_ROLE } from './slotRing.ts';

/**
 * Star of slots: the phasor of every slot at its electrical angle, in the pattern of the phase whose coil starts there
 * (an arrow towards the centre for a negative coil side), and the sum of each phase inside. Slots that fall on the same
 * spoke stand behind each other.
 */
export function phasorStar(layout: Layout, options: { size?: number; letters?: readonly string[] } = {}): Drawing {
  const size = options.size ?? 420;
  const c = size / 2;
  const S = layout.slots;
  const p = layout.poles / 2;
  const t = gcd(S, p);
  const letters = options.letters ?? ['A', 'B', 'C'];
  const shapes: Shape[] = [];
  const spokes = S / t;
  const ring = size * 0.3;
  shapes.push({ kind: 'circle', x: c, y: c, r: ring, role: 'faint' });
  const behind = new Map<number, number>();
  const shown = Math.min(spokes <= 48 ? t : 1, Math.floor((size / 2 - ring - 14) / 15) + 1);
  for (let slot = 1; slot <= S; slot++) {
    const spoke = ((slot - 1) * (p / t)) % spokes;
    const deg = (360 * spoke) / spokes;
    const row = behind.get(spoke) ?? 0;
    behind.set(spoke, row + 1);
    const side =
      layout.sides.find((s) => s.slot === slot && s.side === 'go') ?? layout.sides.find((s) => s.slot === slot);
    const of = [`slot:${slot}`, ...(side ? [`coil:${side.coil}`, `phase:${side.phase}`] : [])];
    if (row === 0) {
      const [x, y] = around(c, c, ring, deg);
      shapes.push({
        kind: 'line',
        x1: c,
        y1: c,
        x2: x,
        y2: y,
        role: side ? PHASE_ROLE[side.phase] : 'faint',
        of,
        weight: side?.sign === -1 ? 0.6 : 1.1,
      });
      const [dx, dy] = around(c, c, side?.sign === -1 ? ring * 0.86 : ring, deg);
      if (side)
        shapes.push({
          kind: 'circle',
          x: dx,
          y: dy,
          r: 3,
          role: PHASE_ROLE[side.phase],
          fill: side.sign === 1 ? 'solid' : 'paper',
          of,
          weight: 0.7,
        });
    }
    if (row < shown && (spokes <= 72 || spoke % 2 === 0)) {
      const [x, y] = around(c, c, ring + 12 + row * 15, deg);
      shapes.push({ kind: 'text', x, y, size: 11, anchor: 'middle', role: 'label', text: String(slot), of });
    }
  }
  const { balance } = layout;
  const start = layout.kind === 'single-phase' ? undefined : balance.phases[0];
  if (start)
    for (const [i, phase] of balance.phases.entries()) {
      const axis = axisOf(layout);
      const [x, y] = around(c, c, ring * 0.66 * phase.size, axis + phase.angleDeg);
      const of = [`phase:${phase.phase}`];
      shapes.push({ kind: 'line', x1: c, y1: c, x2: x, y2: y, role: PHASE_ROLE[phase.phase], weight: 2.4, of });
      const [lx, ly] = around(c, c, ring * 0.66 * phase.size + 14, axis + phase.angleDeg + 6);
      shapes.push({
        kind: 'text',
        x: lx,
        y: ly,
        size: 14,
        anchor: 'middle',
        role: 'text',
        bold: true,
        text: letters[i] ?? phase.phase,
        of,
      });
    }
  shapes.push({
    kind: 'text',
    x: 4,
    y: size - 8,
    size: 11,
    anchor: 'start',
    role: 'label',
    text: `${spokes} spokes of ${t} ${t === 1 ? 'slot' : 'slots'}, ${Math.round((360_00 * t) / S) / 100}° apart${shown < t ? `; first ${shown === 1 ? 'slot' : shown} of each shown` : ''}`,
  });
  return { title: `Star of slots, ${S} slots, ${layout.poles} poles`, width: size, height: size, shapes };
}

/** Electrical angle of the sum of phase A, degrees clockwise from the first slot's spoke. */
function axisOf(layout: Layout): number {
  let x = 0;
  let y = 0;
  for (const coil of layout.coils) {
    if (coil.phase !== 'A') continue;
    for (const [slot, sign] of [
      [coil.goSlot, 1],
      [coil.returnSlot, -1],
    ] as const) {
      const a = ((slot - 1) * Math.PI * layout.poles) / layout.slots;
      x += sign * coil.sign * coil.turns * Math.cos(a);
      y += sign * coil.sign * coil.turns * Math.sin(a);
    }
  }
  return (Math.atan2(y, x) * 180) / Math.PI;
}
