import { formatNumber, niceTicks } from '@norther/core';

export interface PaperCurve {
  title: string;
  /** units */
  x: string;
  y: string;
  lines: {
    name: string;
    dash?: boolean;
    /** points alone, without a line */
    marks?: boolean;
    points: readonly (readonly [number, number])[];
  }[];
}

const [WIDTH, HEIGHT] = [380, 250];
const EDGE = { left: 46, right: 10, top: 22, bottom: 44 } as const;
const escape = (s: string): string => s.replaceAll('&', '&amp;').replaceAll('<', '&lt;');
const n = (v: number): string => String(Math.round(v * 10) / 10);

/** A chart in black and white for paper: lines told apart by their pattern. */
export function chartSvg(curve: PaperCurve): string {
  const all = curve.lines.flatMap((l) => l.points);
  const range = (of: (p: readonly [number, number]) => number): [number, number] => {
    const v = all.map(of);
    const [low, high] = [Math.min(...v), Math.max(...v)];
    const air = (high - low) * 0.08 || Math.abs(high) * 0.1 || 1;
    return [low - air, high + air];
  };
  const [x0, x1] = range((p) => p[0]);
  const [y0, y1] = range((p) => p[1]);
  const x = (v: number) => EDGE.left + ((v - x0) / (x1 - x0)) * (WIDTH - EDGE.left - EDGE.right);
  const y = (v: number) => HEIGHT - EDGE.bottom - ((v - y0) / (y1 - y0)) * (HEIGHT - EDGE.top - EDGE.bottom);
  const text = (at: readonly [number, number], said: string, anchor = 'middle', more = '') =>
    `<text x="${n(at[0])}" y="${n(at[1])}" font-family="Roboto" font-size="10" text-anchor="${anchor}" ${more}>${escape(said)}</text>`;
  const ticks = (from: number, to: number) => niceTicks(from, to, 5).filter((t) => t >= from && t <= to);
  const foot = HEIGHT - EDGE.bottom;
  const parts = [
    text([EDGE.left, 12], curve.title, 'start', 'font-weight="bold"'),
    ...ticks(y0, y1).flatMap((t) => [
      `<line x1="${EDGE.left}" y1="${n(y(t))}" x2="${WIDTH - EDGE.right}" y2="${n(y(t))}" stroke="#bbbbbb" stroke-width="0.5"/>`,
      text([EDGE.left - 4, y(t) + 3], `${formatNumber(t, 3)}`, 'end'),
    ]),
    ...ticks(x0, x1).map((t) => text([x(t), foot + 12], formatNumber(t, 3))),
    text([WIDTH - EDGE.right, foot + 24], curve.x, 'end'),
    text([EDGE.left - 4, EDGE.top - 2], curve.y, 'end'),
    `<path d="M${EDGE.left} ${EDGE.top}V${foot}H${WIDTH - EDGE.right}" fill="none" stroke="#333333"/>`,
  ];
  curve.lines.forEach((l, i) => {
    const at = l.points.map(([a, b]) => [x(a), y(b)] as const);
    const dash = l.dash ? ' stroke-dasharray="5 3"' : '';
    if (!l.marks)
      parts.push(
        `<polyline points="${at.map(([a, b]) => `${n(a)},${n(b)}`).join(' ')}" fill="none" stroke="#000000" stroke-width="1.2"${dash}/>`,
      );
    for (const [a, b] of l.dash && !l.marks ? [] : at)
      parts.push(`<circle cx="${n(a)}" cy="${n(b)}" r="2.2" fill="#ffffff" stroke="#000000"/>`);
    const [kx, ky] = [EDGE.left + i * 150, HEIGHT - 8];
    parts.push(
      l.marks
        ? `<circle cx="${kx + 8}" cy="${ky - 3}" r="2.2" fill="#ffffff" stroke="#000000"/>`
        : `<line x1="${kx}" y1="${ky - 3}" x2="${kx + 18}" y2="${ky - 3}" stroke="#000000" stroke-width="1.2"${dash}/>`,
      text([kx + 22, ky], l.name, 'start'),
    );
  });
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${WIDTH} ${HEIGHT}" width="${WIDTH}" height="${HEIGHT}">${parts.join('')}</svg>`;
}
