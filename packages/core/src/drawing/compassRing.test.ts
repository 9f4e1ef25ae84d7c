import { describe, expect, it } from 'vitest';
import { layoutOf } from '../winding/layout.ts';
import { compassRing } from './compassRing.ts';

const layout = layoutOf({
  slots: 36,
  poles: 4,
  layers: 2,
  form: 'lap',
  poleGroups: 'every-pole',
  spanSlots: 8,
  turns: [1],
  kind: 'three-phase',
});
const own = layout.groups.filter((g) => g.phase === 'B').map((g) => g.number);
const texts = (drawing: ReturnType<typeof compassRing>) =>
  drawing.shapes.flatMap((s) =>
    s.kind === 'text' && s.of?.[0]?.startsWith('group:') ? [[s.of[0], s.text, s.role] as const] : [],
  );

describe('the compass on the slot ring', () => {
  it('each group of the fed phase with its pole, or a question; the others step back', () => {
    const drawing = compassRing(
      layout,
      'B',
      new Map([
        [own[0] ?? 0, 'N'],
        [own[1] ?? 0, 'S'],
      ]),
    );
    const found = texts(drawing);
    expect(found.filter(([, , role]) => role === 'text').map(([of, text]) => `${of} ${text}`)).toEqual([
      `group:${own[0]} ${own[0]} N`,
      `group:${own[1]} ${own[1]} S`,
      `group:${own[2]} ${own[2]} ?`,
      `group:${own[3]} ${own[3]} ?`,
    ]);
    expect(found.filter(([, , role]) => role === 'label')).toHaveLength(8);
    expect(drawing.title).toMatch(/phase B: 2 read/);
  });
  it('a group that does not fit is marked by sign and line', () => {
    const drawing = compassRing(layout, 'B', new Map(own.map((n) => [n, 'N'])), { wrong: [own[2] ?? 0] });
    expect(
      texts(drawing)
        .filter(([, text]) => text.endsWith('!'))
        .map(([of]) => of),
    ).toEqual([`group:${own[2]}`]);
    const bad = drawing.shapes.filter((s) => s.role === 'bad');
    expect(bad.length).toBeGreaterThan(0);
    expect(bad.every((s) => s.of?.[0] === `group:${own[2]}`)).toBe(true);
  });
});
