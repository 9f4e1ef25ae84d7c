/** What a shape stands for; the renderer gives it colour, width and pattern for screen or paper. */
export type Role =
  | 'frame'
  | 'faint'
  | 'text'
  | 'label'
  | 'phaseA'
  | 'phaseB'
  | 'phaseC'
  | 'star'
  | 'accent'
  | 'limit'
  | 'measured'
  | 'air'
  | 'good'
  | 'bad';

interface Common {
  role: Role;
  /** what the shape belongs to, for highlighting: "slot:5", "coil:3", "group:2" */
  of?: readonly string[];
  /** relative line width, 1 = ordinary */
  weight?: number;
}

/** Plain shapes; one list renders on screen, as SVG file, on paper and in the PDF. */
export type Shape = Common &
  (
    | { kind: 'line'; x1: number; y1: number; x2: number; y2: number }
    | { kind: 'path'; d: string; fill?: 'tint' | 'solid' | 'paper' }
    | { kind: 'circle'; x: number; y: number; r: number; fill?: 'tint' | 'solid' | 'paper' }
    | {
        kind: 'text';
        x: number;
        y: number;
        text: string;
        size: number;
        anchor: 'start' | 'middle' | 'end';
        bold?: true;
      }
  );

export interface Drawing {
  title: string;
  width: number;
  height: number;
  shapes: Shape[];
}

/** Ink of a role on white paper, with the pattern that tells the phases apart without colour. */
export const PAPER_INK: Readonly<Record<Role, { colour: string; dash?: string; width: number }>> = {
  frame: { colour: '#333333', width: 1 },
  faint: { colour: '#9a9a9a', width: 0.6 },
  text: { colour: '#111111', width: 0.5 },
  label: { colour: '#444444', width: 0.5 },
  phaseA: { colour: '#000000', width: 1.6 },
  phaseB: { colour: '#000000', dash: '6 3', width: 1.6 },
  phaseC: { colour: '#000000', dash: '1.5 2.5', width: 1.8 },
  star: { colour: '#000000', width: 1.2 },
  accent: { colour: '#000000', width: 1.4 },
  limit: { colour: '#555555', dash: '8 3 2 3', width: 1 },
  measured: { colour: '#000000', width: 1.4 },
  air: { colour: '#777777', dash: '3 3', width: 1 },
  good: { colour: '#222222', width: 1.2 },
  bad: { colour: '#000000', width: 2 },
};

const TINT: Readonly<Partial<Record<Role, string>>> = {
  phaseA: '#d9d9d9',
  phaseB: '#f2f2f2',
  phaseC: '#bdbdbd',
  bad: '#a6a6a6',
};
const escape = (s: string) =>
  s.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');
const n = (x: number) => String(Math.round(x * 100) / 100);

/** A drawing as a black-and-white SVG file for paper. */
export function drawingToSvg(drawing: Drawing, font = 'Roboto'): string {
  const body = drawing.shapes.map((s) => {
    const ink = PAPER_INK[s.role];
    const width = n(ink.width * (s.weight ?? 1));
    const dash = ink.dash ? ` stroke-dasharray="${ink.dash}"` : '';
    const stroke = `stroke="${ink.colour}" stroke-width="${width}"${dash}`;
    switch (s.kind) {
      case 'line':
        return `<line x1="${n(s.x1)}" y1="${n(s.y1)}" x2="${n(s.x2)}" y2="${n(s.y2)}" ${stroke}/>`;
      case 'path':
        return `<path d="${s.d}" fill="${fillOf(s.fill, s.role, ink.colour)}" ${stroke}/>`;
      case 'circle':
        return `<circle cx="${n(s.x)}" cy="${n(s.y)}" r="${n(s.r)}" fill="${fillOf(s.fill, s.role, ink.colour)}" ${stroke}/>`;
      case 'text':
        return `<text x="${n(s.x)}" y="${n(s.y + s.size * 0.35)}" font-family="${font}" font-size="${n(s.size)}" text-anchor="${s.anchor}"${s.bold ? ' font-weight="bold"' : ''} fill="${ink.colour}">${escape(s.text)}</text>`;
    }
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${n(drawing.width)} ${n(drawing.height)}" width="${n(drawing.width)}" height="${n(drawing.height)}"><title>${escape(drawing.title)}</title>${body.join('')}</svg>`;
}

function fillOf(fill: 'tint' | 'solid' | 'paper' | undefined, role: Role, colour: string): string {
  if (fill === 'tint') return TINT[role] ?? '#eeeeee';
  if (fill === 'solid') return colour;
  return fill === 'paper' ? '#ffffff' : 'none';
}

/** Point on a circle; angle in degrees clockwise from the top. */
export function around(cx: number, cy: number, r: number, deg: number): [number, number] {
  const a = ((deg - 90) * Math.PI) / 180;
  return [cx + r * Math.cos(a), cy + r * Math.sin(a)];
}

/** Path of an arc clockwise from one angle to another (degrees from the top). */
export function arcPath(cx: number, cy: number, r: number, fromDeg: number, toDeg: number): string {
  const sweep = (((toDeg - fromDeg) % 360) + 360) % 360;
  const [x1, y1] = around(cx, cy, r, fromDeg);
  const [x2, y2] = around(cx, cy, r, toDeg);
  return `M${n(x1)} ${n(y1)}A${n(r)} ${n(r)} 0 ${sweep > 180 ? 1 : 0} 1 ${n(x2)} ${n(y2)}`;
}

/** Path of a ring sector, for slots and groups. */
export function sectorPath(
  cx: number,
  cy: number,
  inner: number,
  outer: number,
  fromDeg: number,
  toDeg: number,
): string {
  const large = toDeg - fromDeg > 180 ? 1 : 0;
  const [a, b] = around(cx, cy, outer, fromDeg);
  const [c, d] = around(cx, cy, outer, toDeg);
  const [e, f] = around(cx, cy, inner, toDeg);
  const [g, h] = around(cx, cy, inner, fromDeg);
  return `M${n(a)} ${n(b)}A${n(outer)} ${n(outer)} 0 ${large} 1 ${n(c)} ${n(d)}L${n(e)} ${n(f)}A${n(inner)} ${n(inner)} 0 ${large} 0 ${n(g)} ${n(h)}Z`;
}

/** Axis ticks at 1, 2 or 5 times a power of ten. */
export function niceTicks(low: number, high: number, about: number): number[] {
  const span = high - low;
  if (!(span > 0)) return [low];
  const raw = span / about;
  const power = 10 ** Math.floor(Math.log10(raw));
  const step = ([1, 2, 5, 10].find((m) => m * power >= raw) ?? 10) * power;
  const out: number[] = [];
  for (let v = Math.ceil(low / step) * step; v <= high + step * 1e-9; v += step)
    out.push(Math.abs(v) < step * 1e-9 ? 0 : v);
  return out;
}
