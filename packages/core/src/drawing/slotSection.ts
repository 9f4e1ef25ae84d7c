import { insulatedDiameterM } from '../wire/insulatedDiameter.ts';
import { fullestSlot } from '../winding/recordLayout.ts';
import type { Layout } from '../winding/layoutTypes.ts';
import type { WindingRecord } from '../winding/record.ts';
import type { Drawing, Role, Shape } from './shapes.ts';

export interface SlotSection {
  drawing: Drawing;
  /** wires that found no place in the drawing; 0 when all lie inside */
  left: number;
}

const r = (v: number) => Math.round(v * 100) / 100;

/**
 * One slot with liner, wires to scale, separator and wedge. Wires are laid row by row from the slot bottom, as round
 * wires settle; a slot that is drawn full is not proof that it can be wound.
 * @returns undefined with the reason when sizes are missing
 */
export function slotSection(
  record: WindingRecord,
  layout: Layout | undefined,
  options: { width?: number; height?: number } = {},
): SlotSection | { drawing?: undefined; why: string } {
  const { slotDepthM: depth, strands } = record;
  const area = record.slotAreaM2 ?? (record.slotNetAreaM2 === undefined ? undefined : record.slotNetAreaM2 * 1.15);
  if (depth === undefined || area === undefined) return { why: 'The slot is drawn when its depth and area are known.' };
  const width = options.width ?? 300;
  const height = options.height ?? 420;
  const mean = area / depth;
  const pitchAt = (h: number) =>
    record.boreM !== undefined && record.slots !== undefined
      ? (Math.PI * (record.boreM + 2 * h)) / record.slots
      : undefined;
  // parallel teeth: the slot widens by what the pitch widens; the mean width keeps the area
  const growth = (() => {
    const a = pitchAt(0);
    const b = pitchAt(depth);
    return a !== undefined && b !== undefined ? Math.min(b - a, mean * 0.9) : 0;
  })();
  const wide = (h: number) => mean + growth * (h / depth - 0.5);
  const opening = Math.min(record.slotOpeningM ?? mean * 0.4, wide(0));
  const lip = Math.min(0.0012, depth * 0.06);
  const scale = Math.min((height - 60) / depth, (width - 90) / Math.max(wide(depth), wide(0)));
  const cx = width / 2 - 20;
  const bottomY = 24 + depth * scale;
  // h = 0 at the bore (drawn below), depth at the slot bottom (above)
  const y = (h: number) => bottomY - h * scale;
  const shapes: Shape[] = [];
  const outline = `M${r(cx - (opening / 2) * scale)} ${r(y(0))}V${r(y(lip))}L${r(cx - (wide(lip * 2) / 2) * scale)} ${r(y(lip * 2))}L${r(cx - (wide(depth) / 2) * scale)} ${r(y(depth))}H${r(cx + (wide(depth) / 2) * scale)}L${r(cx + (wide(lip * 2) / 2) * scale)} ${r(y(lip * 2))}L${r(cx + (opening / 2) * scale)} ${r(y(lip))}V${r(y(0))}`;
  shapes.push({ kind: 'path', d: outline, role: 'frame', weight: 1.4, fill: 'paper' });
  const liner = record.linerM ?? 0.00025;
  const wedge = 0.0015;
  const from = lip * 2 + wedge;
  const half = (h: number) => wide(h) / 2 - liner;
  shapes.push({
    kind: 'path',
    d: `M${r(cx - half(from) * scale)} ${r(y(from))}L${r(cx - half(depth - liner) * scale)} ${r(y(depth - liner))}H${r(cx + half(depth - liner) * scale)}L${r(cx + half(from) * scale)} ${r(y(from))}`,
    role: 'good',
    weight: 1,
  });
  shapes.push({
    kind: 'path',
    d: `M${r(cx - (wide(lip * 2) / 2 - liner) * scale)} ${r(y(lip * 2))}H${r(cx + (wide(lip * 2) / 2 - liner) * scale)}V${r(y(from))}H${r(cx - (wide(lip * 2) / 2 - liner) * scale)}Z`,
    role: 'frame',
    fill: 'paper',
    weight: 1.4,
  });
  const note = (text: string, h: number) => {
    shapes.push({
      kind: 'line',
      x1: cx + (wide(h) / 2) * scale,
      y1: y(h),
      x2: width - 62,
      y2: y(h),
      role: 'faint',
      weight: 0.6,
    });
    shapes.push({ kind: 'text', x: width - 60, y: y(h), size: 11, anchor: 'start', role: 'label', text });
  };
  note('wedge', lip * 2 + wedge / 2);
  note('liner', depth - liner);
  const grade = record.wireGrade === '1' ? 1 : 2;
  const turns = layout ? fullestSlot(layout) : { main: 0, aux: 0 };
  const layers =
    layout?.layers === 2 && layout.kind !== 'single-phase'
      ? ([
          ['phaseA', turns.main / 2, strands],
          ['phaseC', turns.main / 2, strands],
        ] as const)
      : turns.aux > 0
        ? ([
            ['phaseA', turns.main, strands],
            ['phaseB', turns.aux, record.auxStrands],
          ] as const)
        : ([['phaseA', turns.main, strands]] as const);
  let h = depth - liner;
  let left = 0;
  layers.forEach(([role, count, wires], index) => {
    const sizes = (wires ?? [])
      .flatMap((s) => new Array<number>(Math.round(s.count * count)).fill(insulatedDiameterM(s.bareM, grade)))
      .sort((a, b) => b - a);
    let at = 0;
    let row = 0;
    while (at < sizes.length) {
      const d = sizes[at] as number;
      if (h - d < from) break;
      const room = 2 * half(h - d / 2);
      const fits = Math.max(1, Math.floor(room / d));
      const offset = row % 2 === 1 && fits > 1 && room - fits * d < d / 2 ? d / 2 : 0;
      const here = Math.min(fits - (offset > 0 ? 1 : 0) || 1, sizes.length - at);
      for (let i = 0; i < here; i++) {
        const wx = cx + (-((here - 1) * d) / 2 + i * d) * scale;
        const own = sizes[at + i] as number;
        shapes.push({
          kind: 'circle',
          x: r(wx),
          y: r(y(h - d / 2)),
          r: r((own / 2) * scale),
          role: role as Role,
          fill: 'tint',
          weight: 0.5,
        });
      }
      at += here;
      // rows settle into each other where they are staggered
      h -= d * (Math.sqrt(3) / 2 + (1 - Math.sqrt(3) / 2) * (here < 3 ? 1 : 0));
      row += 1;
    }
    left += sizes.length - at;
    if (index === 0 && layers.length === 2) {
      const sep = record.separatorM ?? 0.00025;
      h -= sep;
      shapes.push({
        kind: 'line',
        x1: cx - half(h) * scale,
        y1: y(h + sep / 2),
        x2: cx + half(h) * scale,
        y2: y(h + sep / 2),
        role: 'good',
        weight: 1.6,
      });
      note('separator', h + sep / 2);
    }
  });
  const mm = (v: number) => Math.round(v * 10_000) / 10;
  shapes.push({
    kind: 'text',
    x: 4,
    y: 10,
    size: 12,
    anchor: 'start',
    role: 'text',
    bold: true,
    text: left > 0 ? `${left} wires find no place` : 'all wires drawn to scale',
  });
  shapes.push({
    kind: 'text',
    x: 4,
    y: height - 10,
    size: 11,
    anchor: 'start',
    role: 'label',
    text: `${mm(depth)} mm deep, ${mm(mean)} mm wide, opening ${mm(opening)}; bore below`,
  });
  return { drawing: { title: 'Slot section', width, height, shapes }, left };
}
