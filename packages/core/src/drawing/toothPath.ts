import type { ToothPath, ToothRun } from '../winding/toothPath.ts';
import type { Drawing, Role, Shape } from './shapes.ts';

const LEFT = 96;
const TOP = 64;
const ROW = 46;
const BOX = 20;
const WIDEST = 1100;
const ROLES: Readonly<Record<string, Role>> = { A: 'phaseA', B: 'phaseB', C: 'phaseC' };

/** Teeth unrolled, connection end up, and the wire of every circuit from tooth to tooth: sense, jumps and terminals. */
export function toothPathDrawing(
  path: ToothPath,
  slots: number,
  letters: readonly [string, string, string] = ['A', 'B', 'C'],
): Drawing {
  const step = Math.min(60, (WIDEST - LEFT - 80) / slots);
  const shapes: Shape[] = [];
  const xOf = (tooth: number) => LEFT + (tooth - 0.5) * step;
  for (let i = 1; i <= slots; i++) {
    shapes.push({
      kind: 'text',
      role: 'label',
      x: xOf(i),
      y: TOP - 34,
      text: String(i),
      size: 11,
      anchor: 'middle',
      of: [`tooth:${i}`],
    });
    const half = Math.min(BOX, step * 0.55) / 2;
    shapes.push({
      kind: 'path',
      role: 'frame',
      d: `M${xOf(i) - half} ${TOP - 24}h${2 * half}v12h${-2 * half}Z`,
      fill: 'paper',
      of: [`tooth:${i}`],
    });
  }
  shapes.push({ kind: 'text', role: 'label', x: 8, y: TOP - 34, text: 'Tooth', size: 11, anchor: 'start' });
  path.runs.forEach((run, row) =>
    shapes.push(
      ...runShapes(run, letters['ABC'.indexOf(run.phase)] ?? run.phase, TOP + 14 + row * ROW, xOf, step, slots),
    ),
  );
  return {
    title: 'Winding path, seen from the bore, connection end up',
    width: LEFT + slots * step + 80,
    height: TOP + 10 + path.runs.length * ROW,
    shapes,
  };
}

function runShapes(
  run: ToothRun,
  name: string,
  y: number,
  xOf: (tooth: number) => number,
  step: number,
  slots: number,
): Shape[] {
  const role = ROLES[run.phase] ?? 'accent';
  const of = [`phase:${run.phase}`];
  const radius = Math.min(14, step * 0.42);
  const shapes: Shape[] = [
    {
      kind: 'text',
      role: 'text',
      x: 8,
      y,
      text: `${name}${run.circuit > 1 ? ` ${run.circuit}` : ''}: ${run.from} → ${run.to}`,
      size: 11,
      anchor: 'start',
      bold: true,
    },
  ];
  const slotX = (slot: number, beside: number) => {
    // slot s lies left of tooth s; the one that closes the ring is drawn where its tooth is
    const x = xOf(slot) - step / 2;
    return Math.abs(x - xOf(beside)) > step ? xOf(beside) + step / 2 : x;
  };
  run.steps.forEach((s, i) => {
    const x = xOf(s.tooth);
    const before = run.steps[i - 1];
    if (before) {
      const a = slotX(before.leaveSlot, before.tooth);
      const b = slotX(s.enterSlot, s.tooth);
      const wraps = Math.abs(b - a) > (slots * step) / 2;
      if (wraps)
        shapes.push(
          { kind: 'path', role, of, d: `M${a} ${y - 14}H${a < b ? LEFT - 14 : LEFT + slots * step + 14}` },
          { kind: 'path', role, of, d: `M${a < b ? LEFT + slots * step + 14 : LEFT - 14} ${y - 14}H${b}` },
        );
      else if (Math.abs(a - b) > 0.1) shapes.push({ kind: 'path', role, of, d: `M${a} ${y - 14}H${b}` });
    }
    shapes.push({ kind: 'circle', role, of, x, y, r: radius, fill: 'tint' });
    shapes.push({
      kind: 'text',
      role: 'text',
      of,
      x,
      y,
      text: s.sign > 0 ? '↺' : '↻',
      size: radius * 1.3,
      anchor: 'middle',
      bold: true,
    });
    if (i === 0)
      shapes.push({
        kind: 'text',
        role: 'label',
        x: slotX(s.enterSlot, s.tooth),
        y: y + radius + 8,
        text: `start ${s.enterSlot}`,
        size: 9,
        anchor: 'middle',
      });
    if (i === run.steps.length - 1)
      shapes.push({
        kind: 'text',
        role: 'label',
        x: slotX(s.leaveSlot, s.tooth),
        y: y + radius + 8,
        text: `finish ${s.leaveSlot}`,
        size: 9,
        anchor: 'middle',
      });
  });
  return shapes;
}
