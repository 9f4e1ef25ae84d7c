import { fromBase } from '../quantity/units.ts';
import { niceTicks, type Drawing, type Role, type Shape } from './shapes.ts';

export interface TraceLine {
  label: string;
  role: Role;
  points: readonly { t: number; v: number }[];
}

/** Temperatures over time with horizontal limits; a step longer than `maxGapMin` breaks the line. */
export function tracePlot(input: {
  title: string;
  lines: readonly TraceLine[];
  limits: readonly { label: string; value: number; role: Role }[];
  maxGapMin: number;
  unit: '°C' | '°F';
  course?: readonly { timeMin: number; degree: number }[];
  width?: number;
  height?: number;
}): Drawing {
  const width = input.width ?? 820;
  const height = input.height ?? 340;
  const left = 52;
  const right = width - (input.course ? 56 : 16);
  const top = 16;
  const bottom = height - 40;
  const show = (c: number) => fromBase(c, 'temperature', input.unit);
  const values = [
    ...input.lines.flatMap((l) => l.points.map((p) => show(p.v))),
    ...input.limits.map((l) => show(l.value)),
  ];
  const times = input.lines.flatMap((l) => l.points.map((p) => p.t));
  const tMax = Math.max(1, ...times);
  const low = Math.min(show(20), ...values);
  const high = Math.max(low + 10, ...values) * 1.04;
  const x = (t: number) => left + ((right - left) * t) / tMax;
  const y = (v: number) => bottom - ((bottom - top) * (v - low)) / (high - low);
  const shapes: Shape[] = [];
  for (const tick of niceTicks(low, high, 6)) {
    shapes.push({ kind: 'line', x1: left, y1: y(tick), x2: right, y2: y(tick), role: 'faint', weight: 0.6 });
    shapes.push({
      kind: 'text',
      x: left - 6,
      y: y(tick),
      size: 11,
      anchor: 'end',
      role: 'label',
      text: `${Math.round(tick)}`,
    });
  }
  const hourStep = tMax > 2400 ? 360 : tMax > 900 ? 120 : tMax > 240 ? 60 : 30;
  for (let t = 0; t <= tMax; t += hourStep) {
    shapes.push({ kind: 'line', x1: x(t), y1: bottom, x2: x(t), y2: bottom + 5, role: 'frame' });
    shapes.push({
      kind: 'text',
      x: x(t),
      y: bottom + 15,
      size: 11,
      anchor: 'middle',
      role: 'label',
      text: hourStep >= 60 ? `${t / 60} h` : `${t} min`,
    });
  }
  shapes.push({ kind: 'line', x1: left, y1: bottom, x2: right, y2: bottom, role: 'frame' });
  shapes.push({ kind: 'line', x1: left, y1: top, x2: left, y2: bottom, role: 'frame' });
  shapes.push({ kind: 'text', x: left - 6, y: top - 6, size: 11, anchor: 'end', role: 'label', text: input.unit });
  for (const l of input.limits) {
    const at = y(show(l.value));
    shapes.push({ kind: 'line', x1: left, y1: at, x2: right, y2: at, role: l.role });
    shapes.push({
      kind: 'text',
      x: left + 8,
      y: at - 8,
      size: 11,
      anchor: 'start',
      role: 'label',
      text: `${l.label} ${Math.round(show(l.value))} ${input.unit}`,
    });
  }
  // the legend stands under the plot, each name beside a piece of its own line
  let at = left;
  for (const line of [
    ...input.lines.map((l) => ({ label: l.label, role: l.role })),
    ...(input.course ? [{ label: 'degree of cure (right)', role: 'accent' as const }] : []),
  ]) {
    shapes.push({ kind: 'line', x1: at, y1: height - 8, x2: at + 26, y2: height - 8, role: line.role, weight: 1.2 });
    shapes.push({
      kind: 'text',
      x: at + 32,
      y: height - 8,
      size: 11,
      anchor: 'start',
      role: 'label',
      text: line.label,
    });
    at += 32 + line.label.length * 6.2 + 24;
  }
  const path = (points: readonly { t: number; v: number }[], yOf: (v: number) => number) =>
    points
      .map((p, i) => {
        const before = points[i - 1];
        const start = !before || p.t - before.t > input.maxGapMin;
        return `${start ? 'M' : 'L'}${Math.round(x(p.t) * 10) / 10} ${Math.round(yOf(p.v) * 10) / 10}`;
      })
      .join('');
  for (const line of input.lines) {
    if (line.points.length === 0) continue;
    shapes.push({
      kind: 'path',
      d: path(line.points, (v) => y(show(v))),
      role: line.role,
      of: [`channel:${line.label}`],
      weight: 1.2,
    });
  }
  if (input.course && input.course.length > 1) {
    const most = Math.max(1.2, ...input.course.map((p) => p.degree));
    const yD = (d: number) => bottom - ((bottom - top) * d) / most;
    shapes.push({
      kind: 'path',
      d: path(
        input.course.map((p) => ({ t: p.timeMin, v: p.degree })),
        yD,
      ),
      role: 'accent',
      weight: 1.2,
      of: ['course'],
    });
    for (const d of niceTicks(0, most, 4)) {
      shapes.push({
        kind: 'text',
        x: right + 6,
        y: yD(d),
        size: 11,
        anchor: 'start',
        role: 'label',
        text: `${Number(d.toPrecision(3))}`,
      });
    }
    shapes.push({ kind: 'line', x1: right, y1: yD(1), x2: right + 5, y2: yD(1), role: 'accent', weight: 1.5 });
    shapes.push({ kind: 'text', x: right + 6, y: top - 6, size: 11, anchor: 'start', role: 'label', text: 'cure' });
  }
  shapes.push({
    kind: 'text',
    x: right,
    y: height - 8,
    size: 11,
    anchor: 'end',
    role: 'label',
    text: 'time from the first row',
  });
  return { title: input.title, width, height, shapes };
}
