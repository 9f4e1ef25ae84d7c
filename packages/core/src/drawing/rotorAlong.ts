import type { BalanceSetUp } from '../balance/setUp.ts';
import type { Drawing, Shape } from './shapes.ts';

const WIDE = 640;
const HIGH = 190;
const EDGE = 46;
const MID = 88;
const TALL = 46;

/**
 * A rotor along its shaft, to scale as it was typed: bearings, planes, centre of mass, both ends named. Bearing A stands at the left,
 * whichever way the datum counts.
 */
export function rotorAlong(setUp: BalanceSetUp): Drawing {
  const { bearingAMm: a, bearingBMm: b, centreMm, planes, bodyMm } = setUp;
  const body: [number, number] | undefined =
    bodyMm === undefined
      ? planes.length > 1
        ? [planes[0]?.xMm ?? 0, planes[1]?.xMm ?? 0]
        : undefined
      : [centreMm - bodyMm / 2, centreMm + bodyMm / 2];
  const all = [a, b, centreMm, ...planes.map((p) => p.xMm), ...(body ?? [])];
  const [low, high] = [Math.min(...all), Math.max(...all)];
  const scale = (WIDE - 2 * EDGE) / Math.max(1, high - low);
  const x = (mm: number): number => (b >= a ? EDGE + (mm - low) * scale : WIDE - EDGE - (mm - low) * scale);
  const most = Math.max(...planes.map((p) => p.radiusMm));
  const r = (mm: number): number => Math.min(TALL, Math.max(10, (mm / most) * TALL));
  const say = (mm: number): string => String(Math.round(mm * 10) / 10);
  const text = (at: number, y: number, words: string, more: object = {}): Shape => ({
    kind: 'text',
    role: 'text',
    x: at,
    y,
    text: words,
    size: 13,
    anchor: 'middle',
    ...more,
  });
  const shapes: Shape[] = [
    { kind: 'line', role: 'frame', weight: 4, x1: EDGE - 26, y1: MID, x2: WIDE - EDGE + 26, y2: MID },
  ];
  if (body) {
    const [from, to] = [Math.min(x(body[0]), x(body[1])), Math.max(x(body[0]), x(body[1]))];
    shapes.push({
      kind: 'path',
      role: 'frame',
      fill: 'paper',
      d: `M${from} ${MID - 34}H${to}V${MID + 34}H${from}Z`,
    });
  }
  for (const [at, name] of [
    [a, 'A'],
    [b, 'B'],
  ] as const)
    shapes.push(
      { kind: 'path', role: 'frame', fill: 'paper', weight: 1.5, d: `M${x(at)} ${MID + 5}l-11 22h22z` },
      text(x(at), MID + 62, name, { bold: true }),
      text(x(at), MID + 79, say(at), { role: 'label', size: 12 }),
    );
  planes.forEach((p, i) => {
    shapes.push(
      {
        kind: 'line',
        role: 'accent',
        weight: 2.6,
        x1: x(p.xMm),
        y1: MID - r(p.radiusMm),
        x2: x(p.xMm),
        y2: MID + r(p.radiusMm),
      },
      text(x(p.xMm), MID - r(p.radiusMm) - 22, `plane ${i + 1}`, { bold: true }),
      text(x(p.xMm), MID - r(p.radiusMm) - 7, say(p.xMm), { role: 'label', size: 12 }),
    );
  });
  shapes.push(
    { kind: 'circle', role: 'frame', fill: 'paper', weight: 1.6, x: x(centreMm), y: MID, r: 6 },
    { kind: 'line', role: 'frame', x1: x(centreMm), y1: MID - 6, x2: x(centreMm), y2: MID + 6 },
    { kind: 'line', role: 'frame', x1: x(centreMm) - 6, y1: MID, x2: x(centreMm) + 6, y2: MID },
  );
  const end = (name: 'A' | 'B') => (setUp.driveEnd === name ? 'drive end' : 'other end');
  shapes.push(
    text(6, HIGH - 6, end('A'), { role: 'label', size: 12, anchor: 'start' }),
    text(WIDE - 6, HIGH - 6, end('B'), { role: 'label', size: 12, anchor: 'end' }),
  );
  return { title: 'Rotor, bearings and planes to scale', width: WIDE, height: HIGH, shapes };
}
