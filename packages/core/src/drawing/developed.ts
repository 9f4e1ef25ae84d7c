import type { Layout } from '../winding/layoutTypes.ts';
import type { Drawing, Shape } from './shapes.ts';
import { PHASE_ROLE } from './slotRing.ts';

const r = (v: number) => Math.round(v * 100) / 100;

/** Slots are never drawn closer than this, so that a finger finds one: the drawing grows and is scrolled instead. */
export const LEAST_SLOT_PITCH = 15;

const MARGIN = 14;
const SLOT_LENGTH = 96;

/** Where the core lies on the unrolled drawing: slot s is centred at left + (s - 0.5) pitch, its connection end is at `bottom`. */
export function developedFrame(
  layout: Layout,
  width = 1180,
): { left: number; pitch: number; top: number; bottom: number } {
  const pitch = Math.max(LEAST_SLOT_PITCH, (width - 2 * MARGIN) / layout.slots);
  const top = 20 + endHeightOf(layout, pitch);
  return { left: MARGIN, pitch, top, bottom: top + SLOT_LENGTH };
}
const longestOf = (layout: Layout): number => Math.max(...layout.coils.map((c) => c.spanSlots));
const endHeightOf = (layout: Layout, pitch: number): number =>
  Math.min(92, 22 + longestOf(layout) * Math.min(pitch, 14) * 0.6);

/** The place of the core that a point of the drawing stands for; a point over an end is at that end. */
export function developedPlace(
  layout: Layout,
  at: { x: number; y: number },
  width?: number,
): { slot: number; along: number } {
  const { left, pitch, top, bottom } = developedFrame(layout, width);
  const slot = Math.min(layout.slots, Math.max(1, Math.ceil((at.x - left) / pitch)));
  return { slot, along: Math.min(1, Math.max(0, (bottom - at.y) / (bottom - top))) };
}

/**
 * The winding unrolled, seen from the bore with the connection end below: every coil with both ends, arrows for the
 * current, start and finish of every group. Coils that pass slot S leave at the right and come in at the left.
 */
export function developedWinding(
  layout: Layout,
  options: { width?: number; letters?: readonly string[] } = {},
): Drawing {
  const S = layout.slots;
  const { left, pitch, top, bottom } = developedFrame(layout, options.width);
  const right = left + S * pitch;
  const longest = longestOf(layout);
  const endHeight = endHeightOf(layout, pitch);
  const lead = bottom + endHeight + 18;
  const height = lead + 22;
  const shapes: Shape[] = [];
  const letters = options.letters ?? ['A', 'B', 'C'];
  const shift = layout.layers === 2 ? Math.min(14, pitch * 0.2) : 0;
  const x = (slot: number, layer: 'top' | 'bottom') => left + (slot - 0.5) * pitch + (layer === 'top' ? -shift : shift);
  for (let s = 1; s <= S; s++) {
    const mid = left + (s - 0.5) * pitch;
    shapes.push({
      kind: 'path',
      d: `M${r(mid - pitch * 0.42)} ${top}H${r(mid + pitch * 0.42)}V${bottom}H${r(mid - pitch * 0.42)}Z`,
      role: 'faint',
      of: [`slot:${s}`],
      weight: 0.5,
      fill: 'paper',
    });
  }
  /** a polyline that runs on past the last slot, cut into the pieces that lie on the paper */
  const pieces = (points: readonly [number, number][]): string => {
    const out: string[] = [];
    for (const offset of [0, -S * pitch]) {
      let pen = false;
      for (let i = 0; i + 1 < points.length; i++) {
        let [x1, y1] = points[i] as [number, number];
        let [x2, y2] = points[i + 1] as [number, number];
        x1 += offset;
        x2 += offset;
        const [low, high] = [Math.min(x1, x2), Math.max(x1, x2)];
        if (high < left || low > right) {
          pen = false;
          continue;
        }
        const at = (edge: number) => y1 + ((y2 - y1) * (edge - x1)) / (x2 - x1);
        const [a1, b1] = [x1, y1];
        if (x1 !== x2) {
          const cutA = x1 < left ? left : x1 > right ? right : undefined;
          const cutB = x2 < left ? left : x2 > right ? right : undefined;
          const ya = cutA === undefined ? b1 : at(cutA);
          const yb = cutB === undefined ? y2 : at(cutB);
          if (cutA !== undefined) pen = false;
          x1 = cutA ?? a1;
          y1 = ya;
          x2 = cutB ?? x2;
          y2 = yb;
        }
        if (!pen) out.push(`M${r(x1)} ${r(y1)}`);
        out.push(`L${r(x2)} ${r(y2)}`);
        pen = true;
      }
    }
    return out.join('');
  };
  const rise = (span: number) => Math.max(12, (endHeight * span) / longest);
  const concentric = layout.form === 'concentric';
  for (const group of layout.groups) {
    const coils = group.coils.flatMap((n) => layout.coils[n - 1] ?? []);
    coils.forEach((coil, i) => {
      const role = PHASE_ROLE[coil.phase];
      const of = [
        `coil:${coil.number}`,
        `group:${coil.group}`,
        `phase:${coil.phase}`,
        `slot:${coil.goSlot}`,
        `slot:${coil.returnSlot}`,
      ];
      const goX = x(coil.goSlot, 'top');
      const backX = x(coil.goSlot + coil.spanSlots, 'bottom');
      const up = rise(coil.spanSlots);
      const over: [number, number][] = concentric
        ? [
            [goX, bottom],
            [goX, top - up],
            [backX, top - up],
            [backX, bottom],
          ]
        : [
            [goX, bottom],
            [goX, top],
            [(goX + backX) / 2, top - up],
            [backX, top],
            [backX, bottom],
          ];
      shapes.push({ kind: 'path', d: pieces(over), role, of, weight: 0.9 });
      const next = coils[i + 1];
      if (next) {
        // the return side of this coil goes on to the go side of the next
        const nextX = x(next.goSlot < coil.goSlot ? next.goSlot + S : next.goSlot, 'top');
        const down = Math.max(10, rise(coil.spanSlots) * 0.82);
        const under: [number, number][] = concentric
          ? [
              [backX, bottom],
              [backX, bottom + down],
              [nextX, bottom + down],
              [nextX, bottom],
            ]
          : [
              [backX, bottom],
              [(nextX + backX) / 2, bottom + down],
              [nextX, bottom],
            ];
        const ordered = nextX < backX ? under.slice().reverse() : under;
        shapes.push({ kind: 'path', d: pieces(ordered), role, of: [...of, `coil:${next.number}`], weight: 0.9 });
      }
      const arrow = (slot: number, layer: 'top' | 'bottom', sign: number) => {
        const ax = x(((slot - 1) % S) + 1, layer);
        const ay = top + SLOT_LENGTH * (layer === 'top' ? 0.3 : 0.52);
        const d = sign > 0 ? 4 : -4;
        shapes.push({
          kind: 'path',
          d: `M${r(ax - 2.6)} ${r(ay + d)}L${r(ax)} ${r(ay - d)}L${r(ax + 2.6)} ${r(ay + d)}Z`,
          role,
          fill: 'solid',
          of,
          weight: 0.3,
        });
      };
      arrow(coil.goSlot, 'top', coil.sign);
      arrow(coil.returnSlot, 'bottom', -coil.sign);
    });
    const first = coils[0];
    const last = coils[coils.length - 1];
    if (!first || !last) continue;
    const role = PHASE_ROLE[group.phase];
    const of = [`group:${group.number}`, `phase:${group.phase}`];
    const sx = x(first.goSlot, 'top');
    const fx = x(last.returnSlot, 'bottom');
    const small = layout.groups.length * 2 * 24 > S * pitch;
    for (const [ex, mark, y2] of [
      [sx, `${group.number}S`, lead - 8],
      [fx, `${group.number}F`, small ? lead + 5 : lead - 8],
    ] as const) {
      shapes.push({ kind: 'line', x1: ex, y1: bottom, x2: ex, y2: y2 - 8, role, of, weight: 0.9 });
      shapes.push({ kind: 'text', x: ex, y: y2, size: 11, anchor: 'middle', role: 'text', text: mark, of });
    }
  }
  // slot numbers last, on a band of paper, so that no line runs through them
  shapes.push({
    kind: 'path',
    d: `M${left} ${bottom - 17}H${r(right)}V${bottom - 2}H${left}Z`,
    role: 'faint',
    fill: 'paper',
    weight: 0.01,
  });
  for (let s = 1; s <= S; s++) {
    const mid = left + (s - 0.5) * pitch;
    const every = pitch >= 15 ? 1 : 2;
    if ((s - 1) % every === 0)
      shapes.push({
        kind: 'text',
        x: mid,
        y: bottom - 9,
        size: 11,
        anchor: 'middle',
        role: 'label',
        text: String(s),
        of: [`slot:${s}`],
      });
  }
  layout.phases.forEach((phase, i) => {
    const lx = left + i * 120;
    shapes.push({ kind: 'line', x1: lx, y1: 8, x2: lx + 34, y2: 8, role: PHASE_ROLE[phase], weight: 1.2 });
    shapes.push({
      kind: 'text',
      x: lx + 40,
      y: 8,
      size: 12,
      anchor: 'start',
      role: 'text',
      bold: true,
      text: layout.kind === 'single-phase' ? (i === 0 ? 'main' : 'auxiliary') : (letters[i] ?? phase),
    });
  });
  shapes.push({
    kind: 'text',
    x: right,
    y: 8,
    size: 11,
    anchor: 'end',
    role: 'label',
    text: `${S} slots, ${layout.poles} poles, seen from the bore, connection end below`,
  });
  return {
    title: `Developed winding, ${S} slots, ${layout.poles} poles`,
    width: right + MARGIN,
    height,
    shapes,
  };
}
