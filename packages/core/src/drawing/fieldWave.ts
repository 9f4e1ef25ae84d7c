import type { Layout } from '../winding/layoutTypes.ts';
import { mmfWaves, toothMmf, type Wave } from '../winding/spectrum.ts';
import { niceTicks, type Drawing, type Shape } from './shapes.ts';

const r = (v: number) => Math.round(v * 100) / 100;

/** What does not change while the wave turns: made once for an animation. */
export interface FieldWaveBase {
  layout: Layout;
  re: Float64Array;
  im: Float64Array;
  largest: number;
  /** working wave: size and angle at the first tooth */
  working: { re: number; im: number };
  /** +1 when it turns with rising slot numbers */
  spin: 1 | -1;
}

export function fieldWaveBase(layout: Layout): FieldWaveBase {
  const { re, im } = toothMmf(layout);
  let largest = 0;
  for (let s = 0; s < layout.slots; s++) largest = Math.max(largest, Math.hypot(re[s] as number, im[s] as number));
  // complex size of the working wave: the step wave's own Fourier part of order P/2, in the direction it turns
  const p = layout.poles / 2;
  const part = (direction: 1 | -1) => {
    let x = 0;
    let y = 0;
    for (let s = 0; s < layout.slots; s++) {
      const a = (direction * 2 * Math.PI * p * (s + 0.5)) / layout.slots;
      x += (re[s] as number) * Math.cos(a) - (im[s] as number) * Math.sin(a);
      y += (re[s] as number) * Math.sin(a) + (im[s] as number) * Math.cos(a);
    }
    // a tooth is a step one slot pitch wide: its part of order p is sin(x)/x of the sampled one
    const half = (Math.PI * p) / layout.slots;
    const k = Math.sin(half) / half / layout.slots;
    return { re: x * k, im: y * k };
  };
  const forward = part(1);
  const backward = part(-1);
  const spin = Math.hypot(forward.re, forward.im) >= Math.hypot(backward.re, backward.im) ? 1 : -1;
  return { layout, re, im, largest, working: spin === 1 ? forward : backward, spin };
}

/**
 * The air gap MMF round the bore at one instant, as steps over the teeth with the working wave through them.
 * @param phaseDeg instant of the period, 0…360
 */
export function fieldWave(
  base: FieldWaveBase,
  phaseDeg: number,
  options: { width?: number; height?: number } = {},
): Drawing {
  const { layout } = base;
  const S = layout.slots;
  const width = options.width ?? 640;
  const height = options.height ?? 220;
  const [left, right, top, bottom] = [34, width - 8, 10, height - 26];
  const mid = (top + bottom) / 2;
  const scale = base.largest > 0 ? (bottom - top) / 2 / (base.largest * 1.05) : 0;
  const x = (slot: number) => left + ((right - left) * slot) / S;
  const shapes: Shape[] = [];
  shapes.push({ kind: 'line', x1: left, y1: mid, x2: right, y2: mid, role: 'faint' });
  shapes.push({ kind: 'line', x1: left, y1: top, x2: left, y2: bottom, role: 'frame', weight: 0.6 });
  for (const tick of niceTicks(-base.largest, base.largest, 4)) {
    shapes.push({
      kind: 'text',
      x: left - 4,
      y: mid - tick * scale,
      size: 11,
      anchor: 'end',
      role: 'label',
      text: String(tick),
    });
    shapes.push({
      kind: 'line',
      x1: left,
      y1: mid - tick * scale,
      x2: right,
      y2: mid - tick * scale,
      role: 'faint',
      weight: 0.5,
    });
  }
  const c = Math.cos((phaseDeg * Math.PI) / 180);
  const d = Math.sin((phaseDeg * Math.PI) / 180);
  const step: string[] = [];
  for (let s = 0; s < S; s++) {
    const value = (base.re[s] as number) * c - (base.im[s] as number) * d;
    const y = r(mid - value * scale);
    // tooth s lies between slots s+1 and s+2 of the numbering, i.e. centred half a pitch on
    step.push(`${s === 0 ? 'M' : 'L'}${r(x(s))} ${y}H${r(x(s + 1))}`);
  }
  shapes.push({ kind: 'path', d: step.join(''), role: 'accent', weight: 1.3 });
  const p = layout.poles / 2;
  const { spin } = base;
  const points: string[] = [];
  const many = Math.max(120, 12 * layout.poles);
  for (let i = 0; i <= many; i++) {
    const a = (-spin * 2 * Math.PI * p * i) / many;
    const wx = base.working.re * Math.cos(a) - base.working.im * Math.sin(a);
    const wy = base.working.re * Math.sin(a) + base.working.im * Math.cos(a);
    const value = wx * c - wy * d;
    points.push(`${i === 0 ? 'M' : 'L'}${r(left + ((right - left) * i) / many)} ${r(mid - value * scale)}`);
  }
  shapes.push({ kind: 'path', d: points.join(''), role: 'limit', weight: 1.1 });
  const every = Math.max(1, Math.ceil(S / 24));
  for (let s = 0; s < S; s += every)
    shapes.push({
      kind: 'text',
      x: x(s),
      y: bottom + 12,
      size: 11,
      anchor: 'middle',
      role: 'label',
      text: String(s + 1),
      of: [`slot:${s + 1}`],
    });
  return { title: `Air gap MMF at ${Math.round(phaseDeg)}° of the period`, width, height, shapes };
}

/** Harmonics worth a bar: the largest beside the working wave, in rising order. */
export function barsOf(layout: Layout, many = 12): Wave[] {
  const all = mmfWaves(layout, 3 * layout.slots).filter((w) => w.order !== layout.poles / 2);
  return [...all]
    .sort((a, b) => b.percent - a.percent)
    .slice(0, many)
    .sort((a, b) => a.order - b.order);
}

/** Bars of the largest waves beside the working wave: order, per cent, direction by arrow and pattern. */
export function harmonicBars(layout: Layout, options: { width?: number; height?: number } = {}): Drawing {
  const width = options.width ?? 640;
  const height = options.height ?? 200;
  const bars = barsOf(layout);
  const [left, right, top, bottom] = [34, width - 8, 36, height - 34];
  const largest = Math.max(1, ...bars.map((b) => b.percent));
  const shapes: Shape[] = [];
  const y = (percent: number) => bottom - ((bottom - top) * percent) / largest;
  for (const tick of niceTicks(0, largest, 4)) {
    shapes.push({ kind: 'line', x1: left, y1: y(tick), x2: right, y2: y(tick), role: 'faint', weight: 0.5 });
    shapes.push({ kind: 'text', x: left - 4, y: y(tick), size: 11, anchor: 'end', role: 'label', text: String(tick) });
  }
  const room = (right - left) / Math.max(1, bars.length);
  bars.forEach((bar, i) => {
    const mid = left + room * (i + 0.5);
    const half = Math.min(16, room * 0.3);
    shapes.push({
      kind: 'path',
      d: `M${r(mid - half)} ${bottom}V${r(y(bar.percent))}H${r(mid + half)}V${bottom}Z`,
      role: bar.direction === 'against' ? 'phaseB' : bar.direction === 'with' ? 'phaseA' : 'phaseC',
      fill: 'tint',
      weight: 0.8,
    });
    shapes.push({
      kind: 'text',
      x: mid,
      y: y(bar.percent) - 8,
      size: 11,
      anchor: 'middle',
      role: 'text',
      text: bar.percent >= 10 ? bar.percent.toFixed(0) : bar.percent.toFixed(1),
    });
    const sign = bar.direction === 'with' ? '→' : bar.direction === 'against' ? '←' : '↔';
    const electrical = Number.isInteger(bar.electrical) ? `ν ${bar.electrical}` : `n ${bar.order}`;
    shapes.push({ kind: 'text', x: mid, y: bottom + 10, size: 11, anchor: 'middle', role: 'text', text: electrical });
    shapes.push({ kind: 'text', x: mid, y: bottom + 24, size: 12, anchor: 'middle', role: 'text', text: sign });
  });
  shapes.push({
    kind: 'text',
    x: left,
    y: 9,
    size: 11,
    anchor: 'start',
    role: 'label',
    text: 'waves beside the working wave, % of it; → with it, ← against it; ν per pole pair, n per turn',
  });
  return { title: 'Harmonics of the air gap MMF', width, height, shapes };
}
