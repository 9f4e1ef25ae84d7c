import { type Connection } from '../winding/connection.ts';
import { leadMark } from '../winding/leadMarks.ts';
import type { Layout, Phase } from '../winding/layoutTypes.ts';
import { PHASE_ROLE } from './slotRing.ts';
import { arcPath, around, sectorPath, type Drawing, type Shape } from './shapes.ts';

interface Span {
  phase: Phase;
  fromDeg: number;
  sweep: number;
  from: string;
  to: string;
}

/** What stands in the centre: how the three leads are joined, how many leads come out, or that none does yet. */
function centreText(leads: number, drawnStar: boolean, anyStar: boolean): string {
  if (leads === 0) return 'not joined yet';
  if (leads === 3) return drawnStar ? 'Y' : 'Δ';
  const said = leads === 1 ? '1 lead' : `${leads} leads`;
  return anyStar ? `${said}, Y` : said;
}

/**
 * Connection drawn round the bore, seen from the connection end: groups as arcs with their start and finish, jumpers as
 * arcs inside on rings of their own so that no two share a line, leads outside, the star as the innermost ring.
 */
export function connectionRing(
  layout: Layout,
  connection: Connection,
  options: { size?: number; marks?: 'T' | 'U' } = {},
): Drawing {
  const size = options.size ?? 600;
  const c = size / 2;
  const marks = options.marks ?? 'T';
  const S = layout.slots;
  const pitch = 360 / S;
  const ring = size * 0.335;
  const thick = size * 0.035;
  const shapes: Shape[] = [];
  const ends = new Map<string, { deg: number; phase: Phase; sign: 1 | -1 }>();
  const stepDeg = 360 / Math.max(1, layout.groups.length);
  const firstSlot = (g: (typeof layout.groups)[number]) => layout.coils[(g.coils[0] ?? 1) - 1]?.goSlot ?? 1;
  // a single-phase winding numbers its auxiliary after the main: round the bore they alternate
  const inOrder =
    layout.kind === 'single-phase' ? [...layout.groups].sort((a, b) => firstSlot(a) - firstSlot(b)) : layout.groups;
  inOrder.forEach((group, index) => {
    const first = layout.coils[(group.coils[0] ?? 1) - 1];
    // evenly spread so that small groups keep room for their marks; order round the bore is that of the slots
    const mid = first ? ((inOrder[0] ? firstSlot(inOrder[0]) : 1) - 1) * pitch + index * stepDeg : index * stepDeg;
    const from = mid - stepDeg * 0.34;
    const to = mid + stepDeg * 0.34;
    const role = PHASE_ROLE[group.phase];
    const of = [`group:${group.number}`, `phase:${group.phase}`];
    shapes.push({ kind: 'path', d: sectorPath(c, c, ring, ring + thick, from, to), role, fill: 'tint', of });
    const [x, y] = around(c, c, ring + thick / 2, mid);
    const small = layout.groups.length > 24 ? 11 : 13;
    shapes.push({
      kind: 'text',
      x,
      y,
      size: small,
      anchor: 'middle',
      role: 'text',
      text: `${group.number}`,
      of,
      bold: true,
    });
    const sDeg = mid - stepDeg * 0.24;
    const fDeg = mid + stepDeg * 0.24;
    ends.set(`${group.number}S`, { deg: sDeg, phase: group.phase, sign: group.sign });
    ends.set(`${group.number}F`, { deg: fDeg, phase: group.phase, sign: group.sign });
    if (layout.groups.length <= 24) {
      const [sx, sy] = around(c, c, ring + thick + size * 0.022, mid - stepDeg * 0.37);
      const [fx, fy] = around(c, c, ring + thick + size * 0.022, mid + stepDeg * 0.37);
      shapes.push({ kind: 'text', x: sx, y: sy, size: 11, anchor: 'middle', role: 'label', text: 'S', of });
      shapes.push({ kind: 'text', x: fx, y: fy, size: 11, anchor: 'middle', role: 'label', text: 'F', of });
    }
  });
  const spans: Span[] = connection.jumpers.flatMap((j) => {
    const a = ends.get(j.from);
    const b = ends.get(j.to);
    if (!a || !b) return [];
    const forward = (((b.deg - a.deg) % 360) + 360) % 360;
    return [
      forward <= 180
        ? { phase: j.phase, fromDeg: a.deg, sweep: forward, from: j.from, to: j.to }
        : { phase: j.phase, fromDeg: b.deg, sweep: 360 - forward, from: j.from, to: j.to },
    ];
  });
  const tracks: Span[][] = [];
  const clash = (a: Span, b: Span) => {
    const gap = (x: Span, y: Span) => (((y.fromDeg - x.fromDeg) % 360) + 360) % 360 < x.sweep + 3;
    return gap(a, b) || gap(b, a);
  };
  for (const span of [...spans].sort((a, b) => a.sweep - b.sweep || a.fromDeg - b.fromDeg)) {
    const track = tracks.find((t) => t.every((other) => !clash(span, other)));
    if (track) track.push(span);
    else tracks.push([span]);
  }
  const stars = connection.nodes.filter((node) => node.kind === 'star');
  const star = stars[0];
  const innermost = star ? size * 0.09 : size * 0.06;
  const step = Math.min(size * 0.028, (ring - size * 0.03 - innermost) / Math.max(1, tracks.length + stars.length));
  tracks.forEach((track, i) => {
    const r = ring - size * 0.03 - i * step;
    for (const span of track) {
      const role = PHASE_ROLE[span.phase];
      const of = [
        `jumper:${span.from}-${span.to}`,
        `phase:${span.phase}`,
        `group:${Number.parseInt(span.from, 10)}`,
        `group:${Number.parseInt(span.to, 10)}`,
      ];
      for (const deg of [span.fromDeg, span.fromDeg + span.sweep]) {
        const [x1, y1] = around(c, c, ring, deg);
        const [x2, y2] = around(c, c, r, deg);
        shapes.push({ kind: 'line', x1, y1, x2, y2, role, of });
      }
      shapes.push({ kind: 'path', d: arcPath(c, c, r, span.fromDeg, span.fromDeg + span.sweep), role, of });
    }
  });
  stars.forEach((one, i) => {
    const r = ring - size * 0.03 - tracks.length * step - step * (i + 0.5);
    shapes.push({ kind: 'circle', x: c, y: c, r, role: 'star', of: ['star'] });
    for (const name of one.ends) {
      const end = ends.get(name);
      if (!end) continue;
      const [x1, y1] = around(c, c, ring, end.deg);
      const [x2, y2] = around(c, c, r, end.deg);
      shapes.push({ kind: 'line', x1, y1, x2, y2, role: PHASE_ROLE[end.phase], of: ['star', `phase:${end.phase}`] });
      shapes.push({ kind: 'circle', x: x2, y: y2, r: 3, role: 'star', fill: 'solid', of: ['star'] });
    }
  });
  const leadsOut = connection.nodes.filter((node) => node.kind === 'lead').length;
  shapes.push({
    kind: 'text',
    x: c,
    y: c,
    size: 14,
    anchor: 'middle',
    role: 'text',
    text: centreText(leadsOut, star !== undefined, stars.length > 0),
    bold: true,
  });
  for (const node of connection.nodes) {
    if (node.kind !== 'lead') continue;
    for (const name of node.ends) {
      const end = ends.get(name);
      if (!end) continue;
      const [x1, y1] = around(c, c, ring + thick, end.deg);
      const [x2, y2] = around(c, c, ring + thick + size * 0.062, end.deg);
      const [tx, ty] = around(c, c, ring + thick + size * 0.087, end.deg);
      const role = PHASE_ROLE[end.phase];
      shapes.push({ kind: 'line', x1, y1, x2, y2, role, weight: 1.2, of: [`lead:${node.name}`] });
      shapes.push({
        kind: 'text',
        x: tx,
        y: ty,
        size: 13,
        anchor: 'middle',
        role: 'text',
        bold: true,
        text: leadMark(node.name, marks, layout.kind),
        of: [`lead:${node.name}`],
      });
    }
  }
  return {
    title: `Connection, ${connection.circuitsPerPhase}-circuit ${connection.connection}, seen from the connection end`,
    width: size,
    height: size,
    shapes,
  };
}

const JOINT_MARK = /^(jumper:|lead:|star$)/;

/**
 * The same drawing as the joints stand at the bench: lines of joints that are made are drawn heavy with a dot where they
 * end, those still to make thin.
 * @param made marks of the joints made: "jumper:1F-4F" in either order of its ends, "lead:T1", "star"
 */
export function asTicked(drawing: Drawing, made: ReadonlySet<string>, count: { made: number; all: number }): Drawing {
  const either = new Set(made);
  for (const mark of made) {
    const [a, b] = mark.startsWith('jumper:') ? mark.slice(7).split('-') : [];
    if (a !== undefined && b !== undefined) either.add(`jumper:${b}-${a}`);
  }
  const shapes = drawing.shapes.flatMap((shape): Shape[] => {
    const mark = shape.of?.find((of) => JOINT_MARK.test(of));
    if (mark === undefined || shape.kind === 'text') return [shape];
    const done = either.has(mark);
    const drawn: Shape = { ...shape, weight: done ? 2 : 0.6 };
    if (!done || shape.kind !== 'line' || !mark.startsWith('jumper:')) return [drawn];
    return [
      drawn,
      { kind: 'circle', x: shape.x1, y: shape.y1, r: 3.5, role: 'accent', fill: 'solid', of: shape.of ?? [] },
    ];
  });
  return { ...drawing, title: `${drawing.title}; ${count.made} of ${count.all} joints made, drawn heavy`, shapes };
}
