import { around, niceTicks, type Drawing, type Role, type Shape } from './shapes.ts';

export interface PolarVector {
  label: string;
  size: number;
  angleDeg: number;
  role: Role;
}

/**
 * Polar plot of balance vectors: angle 0 (the reference mark) at the top, growing clockwise; rings at round values; the
 * tolerance as its own ring when it is given in the same unit.
 */
export function polarPlot(input: {
  vectors: readonly PolarVector[];
  unit: string;
  limit?: number | undefined;
  title: string;
  size?: number;
  positions?: readonly number[];
}): Drawing {
  const size = input.size ?? 440;
  const c = size / 2;
  const radius = size * 0.385;
  const largest = Math.max(...input.vectors.map((v) => v.size), input.limit ?? 0, 1e-9) * 1.05;
  const shapes: Shape[] = [];
  for (const tick of niceTicks(0, largest, 4)) {
    if (tick === 0 || tick > largest) continue;
    const r = (tick / largest) * radius;
    shapes.push({ kind: 'circle', x: c, y: c, r, role: 'faint' });
    shapes.push({
      kind: 'text',
      x: c + 4,
      y: c - r - 7,
      size: 11,
      anchor: 'start',
      role: 'label',
      text: `${Number(tick.toPrecision(6))}`,
    });
  }
  shapes.push({ kind: 'circle', x: c, y: c, r: radius, role: 'frame' });
  for (let deg = 0; deg < 360; deg += 30) {
    const [x1, y1] = around(c, c, radius, deg);
    const [x2, y2] = around(c, c, radius + (deg % 90 === 0 ? 8 : 5), deg);
    const [tx, ty] = around(c, c, radius + 20, deg);
    shapes.push({ kind: 'line', x1, y1, x2, y2, role: 'frame' });
    shapes.push({ kind: 'text', x: tx, y: ty, size: 12, anchor: 'middle', role: 'label', text: `${deg}°` });
  }
  for (const deg of input.positions ?? []) {
    const [x, y] = around(c, c, radius, deg);
    shapes.push({ kind: 'circle', x, y, r: 4, role: 'frame', fill: 'paper' });
  }
  if (input.limit !== undefined) {
    shapes.push({ kind: 'circle', x: c, y: c, r: (input.limit / largest) * radius, role: 'limit' });
  }
  for (const v of input.vectors) {
    const r = (v.size / largest) * radius;
    const [x, y] = around(c, c, r, v.angleDeg);
    shapes.push({ kind: 'line', x1: c, y1: c, x2: x, y2: y, role: v.role, weight: 1.4, of: [`vector:${v.label}`] });
    shapes.push({ kind: 'circle', x, y, r: 4, role: v.role, fill: 'solid', of: [`vector:${v.label}`] });
    const [tx, ty] = around(c, c, Math.min(r + 14, radius - 6), v.angleDeg);
    shapes.push({
      kind: 'text',
      x: tx,
      y: ty,
      size: 12,
      anchor: tx >= c ? 'start' : 'end',
      role: 'text',
      text: v.label,
      bold: true,
    });
  }
  shapes.push({ kind: 'text', x: size - 6, y: size - 10, size: 12, anchor: 'end', role: 'label', text: input.unit });
  return { title: input.title, width: size, height: size, shapes };
}
