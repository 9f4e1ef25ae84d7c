import type { Connection } from '../winding/connection.ts';
import type { LinkRow } from '../winding/leadMarks.ts';
import type { Drawing, Shape } from './shapes.ts';

/** Leads as they stand on the board, row by row: the last row of six and twelve is shifted, so that upright bars make a delta. */
const ROWS: Readonly<Record<number, readonly (readonly number[])[]>> = {
  6: [
    [1, 2, 3],
    [6, 4, 5],
  ],
  9: [
    [1, 2, 3],
    [4, 5, 6],
    [7, 8, 9],
  ],
  12: [
    [1, 2, 3],
    [4, 5, 6],
    [7, 8, 9],
    [12, 10, 11],
  ],
};
const STEP_X = 62;
const STEP_Y = 54;
const LEFT = 34;
const TOP = 58;
const RADIUS = 11;
const TITLE = 11;
const ACROSS = 2;
/** How far a bar that passes another lead bows aside: beyond the lead's edge. */
const BOW = 46;
const PHASES = ['phaseA', 'phaseB', 'phaseC'] as const;

/**
 * The terminal board for every use: which leads are joined by bars, and where the lines come on. Nothing where the motor has no
 * leads to link.
 * @param mark how a lead is marked in the shop's school
 */
export function terminalBoard(made: Connection, mark: (lead: string) => string): Drawing | undefined {
  const leads = made.nodes.filter((n) => n.kind === 'lead').map((n) => n.name);
  const rows = ROWS[leads.length];
  if (!rows || made.links.length === 0) return undefined;
  const at = new Map<string, readonly [number, number]>(
    rows.flatMap((row, y) =>
      row.map((lead, x) => [`T${lead}`, [LEFT + x * STEP_X, TOP + y * STEP_Y] as const] as const),
    ),
  );
  if (!leads.every((l) => at.has(l))) return undefined;
  const width = LEFT * 2 + 2 * STEP_X;
  const height = TOP + (rows.length - 1) * STEP_Y + 30;
  const across = Math.min(made.links.length, ACROSS);
  const shapes = made.links.flatMap((use, i) =>
    board(use, at, mark, { width, height }).map((s) =>
      shifted(s, (i % across) * width, Math.floor(i / across) * height),
    ),
  );
  return {
    title: `Terminal board, ${leads.length} leads`,
    width: width * across,
    height: height * Math.ceil(made.links.length / across),
    shapes,
  };
}

type At = ReadonlyMap<string, readonly [number, number]>;

function board(use: LinkRow, at: At, mark: (lead: string) => string, size: { width: number; height: number }): Shape[] {
  const shapes: Shape[] = [
    { kind: 'path', d: box(4, 26, size.width - 8, size.height - 32), role: 'frame', fill: 'paper' },
    ...words(use.use).map((line, i): Shape => ({
      kind: 'text',
      x: 6,
      y: 10 + i * 12,
      size: TITLE,
      anchor: 'start',
      role: 'text',
      text: line,
      bold: true,
    })),
  ];
  const place = (lead: string) => at.get(lead) ?? [0, 0];
  for (const joined of [...use.links, ...use.lines])
    shapes.push(...bars(joined.split('-'), place).map((d): Shape => ({ kind: 'path', d, role: 'star', weight: 3 })));
  for (const [lead, [x, y]] of at)
    shapes.push(
      { kind: 'circle', x, y, r: RADIUS, role: 'frame', fill: 'paper', of: [`lead:${lead}`] },
      {
        kind: 'text',
        x,
        y,
        size: 11,
        anchor: 'middle',
        role: 'text',
        text: mark(lead),
        bold: true,
        of: [`lead:${lead}`],
      },
    );
  use.lines.forEach((line, i) => {
    const [x, y] = place(line.split('-')[0] ?? '');
    shapes.push(
      { kind: 'line', x1: x, y1: y - RADIUS, x2: x, y2: y - RADIUS - 8, role: PHASES[i] ?? 'phaseA', weight: 1.4 },
      {
        kind: 'text',
        x: x + 5,
        y: y - RADIUS - 2,
        size: 10,
        anchor: 'start',
        role: 'label',
        text: `L${i + 1}`,
      },
    );
  });
  return shapes;
}

/** Bars over the shortest way that joins the leads; one that would lie over another lead bows round it. */
function bars(leads: readonly string[], place: (lead: string) => readonly [number, number]): string[] {
  const at = leads.map(place);
  const joined = at.slice(0, 1);
  const left = at.slice(1);
  const out: string[] = [];
  while (left.length > 0) {
    const ways = joined.flatMap((from) =>
      left.map((to) => ({ from, to, far: Math.hypot(to[0] - from[0], to[1] - from[1]) })),
    );
    const way = ways.reduce((a, b) => (b.far < a.far ? b : a));
    joined.push(way.to);
    left.splice(left.indexOf(way.to), 1);
    out.push(bar(way.from, way.to));
  }
  return out;
}

function bar([x1, y1]: readonly [number, number], [x2, y2]: readonly [number, number]): string {
  if (Math.abs(x2 - x1) <= STEP_X && Math.abs(y2 - y1) <= STEP_Y) return `M${x1} ${y1}L${x2} ${y2}`;
  const aside = x1 === x2 ? [BOW, 0] : y1 === y2 ? [0, BOW] : [0, 0];
  return `M${x1} ${y1}Q${(x1 + x2) / 2 + (aside[0] ?? 0)} ${(y1 + y2) / 2 + (aside[1] ?? 0)} ${x2} ${y2}`;
}

const box = (x: number, y: number, w: number, h: number): string => `M${x} ${y}h${w}v${h}h${-w}Z`;

/** A use in lines of a board's width. */
function words(text: string): string[] {
  const lines = [''];
  for (const word of text.split(' ')) {
    const last = lines.at(-1) ?? '';
    if (last.length + word.length > 30 && lines.length < 2) lines.push(word);
    else lines[lines.length - 1] = last === '' ? word : `${last} ${word}`;
  }
  return lines;
}

function shifted(s: Shape, dx: number, dy: number): Shape {
  if (s.kind === 'line') return { ...s, x1: s.x1 + dx, x2: s.x2 + dx, y1: s.y1 + dy, y2: s.y2 + dy };
  if (s.kind === 'path')
    return {
      ...s,
      d: s.d.replaceAll(
        /([MLQ ])(-?[\d.]+) (-?[\d.]+)/g,
        (_, c: string, x: string, y: string) => `${c}${Number(x) + dx} ${Number(y) + dy}`,
      ),
    };
  return { ...s, x: s.x + dx, y: s.y + dy };
}
