import { describe, expect, it } from 'vitest';
import { connect, type ConnectionChoice } from '../winding/connection.ts';
import { layoutOf } from '../winding/layout.ts';
import { leadMark } from '../winding/leadMarks.ts';
import { drawingToSvg } from './shapes.ts';
import { terminalBoard } from './terminalBoard.ts';

const layout = layoutOf({
  slots: 36,
  poles: 4,
  layers: 2,
  form: 'lap',
  poleGroups: 'every-pole',
  spanSlots: 8,
  turns: [10],
});
const made = (leads: ConnectionChoice['leads'], connection: 'wye' | 'delta') =>
  connect(layout, { connection, leads, circuits: 2, jumper: 'adjacent-pole' } as ConnectionChoice);
const board = (leads: ConnectionChoice['leads'], connection: 'wye' | 'delta' = 'wye') =>
  terminalBoard(made(leads, connection), (lead) => leadMark(lead, 'U', layout.kind));

describe('terminal board', () => {
  it.each([
    [6, 'delta', 2],
    [9, 'wye', 4],
    [9, 'delta', 2],
    [12, 'delta', 4],
  ] as const)('%i leads, %s: a board for each of %i uses, inside the paper', (leads, connection, uses) => {
    const drawing = board(leads, connection);
    if (!drawing) throw new Error('not drawn');
    expect(made(leads, connection).links).toHaveLength(uses);
    const circles = drawing.shapes.filter((s) => s.kind === 'circle');
    expect(circles).toHaveLength(leads * uses);
    for (const s of drawing.shapes) {
      const [x, y] = s.kind === 'line' ? [s.x2, s.y2] : s.kind === 'path' ? [1, 1] : [s.x, s.y];
      expect(x).toBeGreaterThan(0);
      expect(x).toBeLessThan(drawing.width);
      expect(y).toBeGreaterThan(0);
      expect(y).toBeLessThan(drawing.height);
    }
    // every use brings three lines on
    expect(drawing.shapes.filter((s) => s.kind === 'text' && /^L[123]$/.test(s.text))).toHaveLength(3 * uses);
    expect(drawingToSvg(drawing)).toMatch(/^<svg /);
    expect(drawingToSvg(drawing)).not.toMatch(/NaN|undefined/);
  });
  it('the bars join the leads of the link table, one fewer than they are', () => {
    const drawing = board(6, 'delta');
    const bars = (drawing?.shapes ?? []).filter((s) => s.kind === 'path' && s.role === 'star');
    // wye: one bar over three leads; delta: three bars of two leads
    expect(bars).toHaveLength(2 + 3);
    const upright = bars.filter((s) => s.kind === 'path' && /^M(\S+) \S+L\1 /.test(s.d));
    expect(upright).toHaveLength(3);
  });
  it('leads are marked in the shop’s school', () => {
    const marks = (board(6)?.shapes ?? []).flatMap((s) => (s.kind === 'text' && s.bold ? [s.text] : []));
    expect(marks).toEqual(expect.arrayContaining(['U1', 'V1', 'W1', 'U2', 'V2', 'W2']));
    // under U1 stands W2: an upright bar is a side of the delta
    const at = (mark: string) => (board(6)?.shapes ?? []).find((s) => s.kind === 'text' && s.text === mark);
    expect(at('U1')).toMatchObject({ x: (at('W2') as { x: number }).x });
  });
  it('three leads have nothing to link', () => {
    expect(board(3)).toBeUndefined();
  });
});
