import { saySpans } from '../winding/say.ts';
import type { Layout, Phase } from '../winding/layoutTypes.ts';
import { around, sectorPath, type Drawing, type Role, type Shape } from './shapes.ts';

export const PHASE_ROLE: Readonly<Record<Phase, Role>> = { A: 'phaseA', B: 'phaseB', C: 'phaseC' };

/**
 * The slot ring seen from the connection end: every slot with the phase and sign of its coil sides, the first coil drawn
 * through the bore, group arcs outside. Works without a layout too (empty slots), so that it grows while typing.
 */
export function slotRing(input: {
  slots: number;
  layout?: Layout | undefined;
  size?: number;
  letters?: readonly [string, string, string];
  /** a field round the arc and number of each group, wide enough for a finger */
  touch?: boolean;
}): Drawing {
  const size = input.size ?? 560;
  const c = size / 2;
  const S = input.slots;
  const pitch = 360 / S;
  const outer = size * 0.372;
  const deep = size * 0.105;
  const inner = outer - deep;
  const letterSize = 11;
  const shapes: Shape[] = [];
  shapes.push({ kind: 'circle', x: c, y: c, r: outer + size * 0.012, role: 'faint' });
  const letterOf = (phase: Phase) =>
    (input.layout?.kind === 'single-phase' ? ['M', 'Z', ''] : (input.letters ?? ['A', 'B', 'C']))[
      phase === 'A' ? 0 : phase === 'B' ? 1 : 2
    ];
  const room = ((2 * Math.PI * (inner + deep / 2)) / S) * 0.8;
  const showLetters = room >= 13.5;
  for (let slot = 1; slot <= S; slot++) {
    const mid = (slot - 1) * pitch;
    const from = mid - pitch * 0.36;
    const to = mid + pitch * 0.36;
    const sides = input.layout?.sides.filter((s) => s.slot === slot) ?? [];
    if (sides.length === 0) {
      shapes.push({ kind: 'path', d: sectorPath(c, c, inner, outer, from, to), role: 'faint', of: [`slot:${slot}`] });
    }
    for (const [i, side] of sides.entries()) {
      // the side nearest the bore comes first
      const r1 = inner + (deep * i) / sides.length;
      const r2 = inner + (deep * (i + 1)) / sides.length;
      const of = [`slot:${slot}`, `coil:${side.coil}`, `phase:${side.phase}`];
      shapes.push({
        kind: 'path',
        d: sectorPath(c, c, r1, r2, from, to),
        fill: 'tint',
        role: PHASE_ROLE[side.phase],
        weight: 0.7,
        of,
      });
      if (showLetters) {
        const [x, y] = around(c, c, (r1 + r2) / 2, mid);
        const letter = letterOf(side.phase);
        shapes.push({
          kind: 'text',
          x,
          y,
          size: Math.max(letterSize, Math.min(15, room * 0.62)),
          anchor: 'middle',
          role: 'text',
          of,
          text: `${letter}${side.sign === 1 ? '+' : '−'}`,
        });
      }
    }
    const every = S <= 54 ? 1 : S <= 96 ? 2 : 4;
    if ((slot - 1) % every === 0) {
      const [x, y] = around(c, c, outer + size * 0.035, mid);
      shapes.push({
        kind: 'text',
        x,
        y,
        size: 11,
        anchor: 'middle',
        role: 'label',
        text: String(slot),
        of: [`slot:${slot}`],
      });
    }
  }
  const layout = input.layout;
  if (layout) {
    for (const group of layout.groups) {
      const goes = group.coils.map((n) => layout.coils[n - 1]?.goSlot ?? 1);
      const first = goes[0] ?? 1;
      const apart =
        layout.from === 'coil list'
          ? ((goes.at(-1) ?? first) - first + layout.slots) % layout.slots
          : (goes.length - 1) * (layout.layers === 1 && layout.form === 'lap' ? 2 : 1);
      const spanDeg = apart * pitch;
      const from = (first - 1) * pitch - pitch * 0.3;
      const to = (first - 1) * pitch + spanDeg + pitch * 0.3;
      const r = outer + size * (layout.kind === 'single-phase' && group.phase === 'B' ? 0.092 : 0.062);
      const of = [`group:${group.number}`, `phase:${group.phase}`, ...group.coils.map((n) => `coil:${n}`)];
      if (input.touch)
        shapes.push({
          kind: 'path',
          d: sectorPath(c, c, r - size * 0.008, r + size * 0.045, from, to),
          fill: 'paper',
          role: 'faint',
          of,
          weight: 0.5,
        });
      shapes.push({
        kind: 'path',
        d: sectorPath(c, c, r, r + size * 0.008, from, to),
        fill: 'solid',
        role: PHASE_ROLE[group.phase],
        of,
        weight: 0.3,
      });
      const every = layout.groups.length <= 36 ? 1 : 2;
      if ((group.number - 1) % every === 0) {
        const [x, y] = around(c, c, r + size * 0.03, (from + to) / 2);
        shapes.push({
          kind: 'text',
          x,
          y,
          size: 11,
          anchor: 'middle',
          role: 'text',
          of,
          text: `${showLetters ? '' : letterOf(group.phase)}${group.number}${group.sign === 1 ? '+' : '−'}`,
        });
      }
    }
    const groupOne = layout.groups.find((g) => g.phase === 'A' && g.sign === 1) ?? layout.groups[0];
    for (const number of groupOne?.coils ?? []) {
      const coil = layout.coils[number - 1];
      if (!coil) continue;
      const [x1, y1] = around(c, c, inner - 4, (coil.goSlot - 1) * pitch);
      const [x2, y2] = around(c, c, inner - 4, (coil.returnSlot - 1) * pitch);
      const [mx, my] = around(c, c, inner * 0.45, (coil.goSlot - 1 + coil.spanSlots / 2) * pitch);
      const r = (v: number) => Math.round(v * 100) / 100;
      shapes.push({
        kind: 'path',
        d: `M${r(x1)} ${r(y1)}Q${r(mx)} ${r(my)} ${r(x2)} ${r(y2)}`,
        role: PHASE_ROLE[coil.phase],
        of: [`coil:${number}`, `slot:${coil.goSlot}`, `slot:${coil.returnSlot}`],
        weight: 1.1,
      });
    }
    const first = groupOne ? layout.coils[(groupOne.coils[0] ?? 1) - 1] : undefined;
    shapes.push({
      kind: 'text',
      x: 4,
      y: 12,
      size: 14,
      anchor: 'start',
      role: 'text',
      bold: true,
      text: `${S} slots, ${layout.poles} poles`,
    });
    if (first) {
      const said =
        layout.form === 'lap' && layout.kind !== 'single-phase'
          ? `1-${first.spanSlots + 1}`
          : saySpans(groupOne?.coils.map((n) => layout.coils[n - 1]?.spanSlots ?? 0));
      shapes.push({
        kind: 'text',
        x: 4,
        y: 30,
        size: 12,
        anchor: 'start',
        role: 'label',
        text: `group ${groupOne?.number}: ${said}`,
      });
    }
  } else {
    shapes.push({ kind: 'text', x: c, y: c, size: 22, anchor: 'middle', role: 'text', bold: true, text: `${S}` });
    shapes.push({ kind: 'text', x: c, y: c + 20, size: 12, anchor: 'middle', role: 'label', text: 'slots' });
  }
  return { title: `Slot ring, ${S} slots, seen from the connection end`, width: size, height: size, shapes };
}
