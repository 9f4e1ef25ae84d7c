import { type Bar, type BarWave, jumperOf, type WavePhase } from '../winding/barWave.ts';
import type { Drawing, Role, Shape } from './shapes.ts';

const LEFT = 70;
const TOP_ROW = 96;
const BOTTOM_ROW = 176;
const FAR = 34;
const RING = 238;
const WIDEST = 1160;
const ROLES: Readonly<Record<string, Role>> = { A: 'phaseA', B: 'phaseB', C: 'phaseC' };

/** One phase of a bar wave unrolled: far end above, ring end below, top bars over bottom bars, each joint from bar to bar. */
export function barWaveDrawing(
  wave: BarWave,
  own: WavePhase,
  rings: readonly [string, string, string] = ['K', 'L', 'M'],
): Drawing {
  const step = Math.min(30, (WIDEST - LEFT - 40) / wave.slots);
  const right = LEFT + wave.slots * step;
  const x = (b: Bar) => LEFT + (b.slot - 0.5) * step + (b.layer === 'top' ? -step * 0.16 : step * 0.16);
  const role = ROLES[own.phase] ?? 'accent';
  const of = [`phase:${own.phase}`];
  const shapes: Shape[] = [
    label(8, TOP_ROW, 'top'),
    label(8, BOTTOM_ROW, 'bottom'),
    label(8, FAR - 10, 'far end'),
    label(8, RING + 10, 'ring end'),
  ];
  for (let s = 1; s <= wave.slots; s++) {
    const mid = LEFT + (s - 0.5) * step;
    if (wave.slots <= 48 || s % 2 === 1)
      shapes.push({
        kind: 'text',
        role: 'label',
        x: mid,
        y: (TOP_ROW + BOTTOM_ROW) / 2,
        text: String(s),
        size: 9,
        anchor: 'middle',
      });
  }
  const piece = (x1: number, y1: number, x2: number, y2: number): Shape[] => {
    const [low, high] = [LEFT - 16, right + 16];
    if ((x1 < low && x2 < low) || (x1 > high && x2 > high)) return [];
    const at = (edge: number) => y1 + ((y2 - y1) * (edge - x1)) / (x2 - x1);
    const cut = (x0: number, y0: number): readonly [number, number] =>
      x0 < low ? [low, at(low)] : x0 > high ? [high, at(high)] : [x0, y0];
    const [[xa, ya], [xb, yb]] = [cut(x1, y1), cut(x2, y2)];
    return [{ kind: 'path', role, of, d: `M${r(xa)} ${r(ya)}L${r(xb)} ${r(yb)}` }];
  };
  /** a joint by the shorter way round; what runs over an edge of the paper goes on from the other */
  const line = (a: readonly [number, number], b: readonly [number, number], at: number) => {
    const span = right - LEFT;
    const apart = b[0] - a[0];
    const end = Math.abs(apart) <= span / 2 ? b[0] : apart > 0 ? b[0] - span : b[0] + span;
    const middle = (a[0] + end) / 2;
    for (const shift of end === b[0] ? [0] : [0, apart > 0 ? span : -span])
      shapes.push(...piece(a[0] + shift, a[1], middle + shift, at), ...piece(middle + shift, at, end + shift, b[1]));
  };
  const halves = [own.first.flat(), own.second.flat()];
  for (const bars of halves)
    bars.forEach((bar, i) => {
      const rowY = bar.layer === 'top' ? TOP_ROW : BOTTOM_ROW;
      shapes.push({ kind: 'line', role, of, x1: x(bar), y1: rowY - 26, x2: x(bar), y2: rowY + 26, weight: 1.4 });
      const next = bars[i + 1];
      if (!next) return;
      const nextY = next.layer === 'top' ? TOP_ROW : BOTTOM_ROW;
      // every second joint lies at the far end
      if (i % 2 === 0) line([x(bar), rowY - 26], [x(next), nextY - 26], FAR);
      else line([x(bar), rowY + 26], [x(next), nextY + 26], RING);
    });
  const jumper = jumperOf(own);
  const begin = own.first[0]?.[0];
  const end = own.second.at(-1)?.at(-1);
  const named = (bar: Bar | undefined, text: string) => {
    if (!bar) return;
    const rowY = bar.layer === 'top' ? TOP_ROW : BOTTOM_ROW;
    shapes.push(
      { kind: 'line', role, of, x1: x(bar), y1: rowY + 26, x2: x(bar), y2: RING + 22 },
      { kind: 'text', role: 'text', of, x: x(bar), y: RING + 32, text, size: 11, anchor: 'middle', bold: true },
    );
  };
  const ring = rings['ABC'.indexOf(own.phase)] ?? own.phase;
  named(begin, `ring ${ring}`);
  named(end, 'star');
  if (wave.parallel) {
    named(jumper?.[0], 'star');
    named(jumper?.[1], `ring ${ring}`);
  } else if (jumper) {
    const y = (bar: Bar) => (bar.layer === 'top' ? TOP_ROW : BOTTOM_ROW) + 26;
    shapes.push(
      {
        kind: 'path',
        role: 'accent',
        of,
        d: `M${r(x(jumper[0]))} ${y(jumper[0])}V${RING + 44}H${r(x(jumper[1]))}V${y(jumper[1])}`,
        weight: 1.6,
      },
      {
        kind: 'text',
        role: 'text',
        of,
        x: (x(jumper[0]) + x(jumper[1])) / 2,
        y: RING + 54,
        text: `jumper ${jumper[0].slot}b–${jumper[1].slot}b`,
        size: 11,
        anchor: 'middle',
      },
    );
  }
  return { title: `Bar wave, phase ${own.phase}`, width: right + 40, height: RING + 68, shapes };
}

const r = (v: number) => Math.round(v * 10) / 10;
const label = (x: number, y: number, text: string): Shape => ({
  kind: 'text',
  role: 'label',
  x,
  y,
  text,
  size: 11,
  anchor: 'start',
});
