import { type Circuit, type Connection } from '../winding/connection.ts';
import { leadMark } from '../winding/leadMarks.ts';
import type { Layout, Phase } from '../winding/layoutTypes.ts';
import type { Drawing, Role, Shape } from './shapes.ts';

const ROLE: Readonly<Record<Phase, Role>> = { A: 'phaseA', B: 'phaseB', C: 'phaseC' };
const COIL = 46;
const GAP = 34;
const ROW = 46;
const LEFT = 74;
const TOP = 40;

/**
 * The connection as a diagram of circuits: a row for each circuit from its lead, groups in the order they are joined,
 * each with the end at which the current enters and leaves. A group turned round is drawn with its finish to the left.
 */
export function connectionSchematic(
  layout: Layout,
  connection: Connection,
  options: { marks?: 'T' | 'U'; letters?: readonly string[] } = {},
): Drawing {
  const marks = options.marks ?? 'T';
  const letters = options.letters ?? ['A', 'B', 'C'];
  const mark = (name: string) =>
    name.startsWith('Y') ? name.replace('Y', 'star ').trim() : leadMark(name, marks, layout.kind);
  const most = Math.max(1, ...connection.circuits.map((c) => c.steps.length));
  const perLine = Math.min(most, 10);
  const width = Math.max(360, LEFT + perLine * (COIL + GAP) + 84);
  const shapes: Shape[] = [];
  let y = TOP;
  let phase: Phase | undefined;
  for (const circuit of connection.circuits) {
    if (circuit.phase !== phase) {
      phase = circuit.phase;
      const index = layout.phases.indexOf(phase);
      y += index > 0 ? 14 : 0;
      shapes.push({
        kind: 'text',
        x: 8,
        y: y - 16,
        text:
          layout.kind === 'single-phase' ? (index === 0 ? 'main' : 'auxiliary') : `phase ${letters[index] ?? phase}`,
        size: 12,
        bold: true,
        anchor: 'start',
        role: 'text',
      });
      y += 8;
    }
    y = row(shapes, circuit, y, perLine, mark, width);
  }
  ['S start, F finish, seen from the connection end;', 'a group with F to the left is turned round'].forEach(
    (text, i) => shapes.push({ kind: 'text', x: 8, y: y + 4 + 15 * i, text, size: 11, anchor: 'start', role: 'label' }),
  );
  return { title: 'Connection, circuit by circuit', width, height: y + 30, shapes };
}

function row(
  shapes: Shape[],
  circuit: Circuit,
  top: number,
  perLine: number,
  mark: (name: string) => string,
  width: number,
): number {
  const role = ROLE[circuit.phase];
  let y = top;
  shapes.push({
    kind: 'text',
    x: LEFT - 22,
    y: y + 5,
    text: mark(circuit.from),
    size: 13,
    bold: true,
    anchor: 'end',
    role: 'text',
    of: [circuit.from.startsWith('Y') ? 'star' : `lead:${circuit.from}`, `phase:${circuit.phase}`],
  });
  shapes.push({ kind: 'line', x1: LEFT - 18, y1: y, x2: LEFT, y2: y, role, weight: 1 });
  circuit.steps.forEach((step, i) => {
    const at = i % perLine;
    if (i > 0 && at === 0) {
      // the circuit goes on in the next line
      const next = y + ROW;
      shapes.push({
        kind: 'path',
        d: `M${LEFT + perLine * (COIL + GAP) - GAP} ${y}h12V${y + ROW / 2}H${LEFT - 12}V${next}H${LEFT}`,
        role,
        weight: 0.8,
      });
      y = next;
    }
    const x = LEFT + at * (COIL + GAP);
    const of = [`group:${step.group}`, `phase:${circuit.phase}`];
    const loops = Array.from({ length: 4 }, () => `a${COIL / 8} 8 0 0 1 ${COIL / 4} 0`).join('');
    shapes.push({ kind: 'path', d: `M${x} ${y}${loops}`, role, weight: 1.4, of });
    shapes.push({
      kind: 'text',
      x: x + COIL / 2,
      y: y - 19,
      text: String(step.group),
      size: 13,
      bold: true,
      anchor: 'middle',
      role: 'text',
      of,
    });
    shapes.push({
      kind: 'text',
      x: x + 2,
      y: y + 14,
      text: step.enter.slice(-1),
      size: 11,
      anchor: 'start',
      role: 'label',
      of,
    });
    shapes.push({
      kind: 'text',
      x: x + COIL - 2,
      y: y + 14,
      text: step.leave.slice(-1),
      size: 11,
      anchor: 'end',
      role: 'label',
      of,
    });
    const after = circuit.steps[i + 1];
    if (after && (i + 1) % perLine !== 0)
      shapes.push({
        kind: 'line',
        x1: x + COIL,
        y1: y,
        x2: x + COIL + GAP,
        y2: y,
        role,
        weight: 1,
        of: [`jumper:${step.leave}-${after.enter}`, `phase:${circuit.phase}`],
      });
    if (!after) {
      shapes.push({ kind: 'line', x1: x + COIL, y1: y, x2: x + COIL + 18, y2: y, role, weight: 1 });
      shapes.push({
        kind: 'text',
        x: Math.min(x + COIL + 22, width - 60),
        y: y + 5,
        text: mark(circuit.to),
        size: 13,
        bold: true,
        anchor: 'start',
        role: 'text',
        of: [circuit.to.startsWith('Y') ? 'star' : `lead:${circuit.to}`, `phase:${circuit.phase}`],
      });
    }
  });
  return y + ROW;
}
