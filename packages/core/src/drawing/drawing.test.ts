import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { connect, possibleCircuits } from '../winding/connection.ts';
import { layoutOf, type LayoutInput } from '../winding/layout.ts';
import { connectionRing } from './connectionRing.ts';
import { polarPlot } from './polarPlot.ts';
import { around, drawingToSvg, niceTicks, type Drawing, type Shape } from './shapes.ts';
import { slotRing } from './slotRing.ts';
import { tracePlot } from './tracePlot.ts';

const lap = (slots: number, poles: number, spanSlots: number): LayoutInput => ({
  slots,
  poles,
  layers: 2,
  form: 'lap',
  poleGroups: 'every-pole',
  spanSlots,
  turns: [1],
});

/** Every coordinate that a shape names, for checking that nothing leaves the paper. */
function pointsOf(shape: Shape): [number, number][] {
  switch (shape.kind) {
    case 'line':
      return [
        [shape.x1, shape.y1],
        [shape.x2, shape.y2],
      ];
    case 'circle':
      return [
        [shape.x - shape.r, shape.y - shape.r],
        [shape.x + shape.r, shape.y + shape.r],
      ];
    case 'text': {
      const width = shape.text.length * shape.size * 0.55;
      const left = shape.anchor === 'start' ? shape.x : shape.anchor === 'end' ? shape.x - width : shape.x - width / 2;
      return [
        [left, shape.y - shape.size / 2],
        [left + width, shape.y + shape.size / 2],
      ];
    }
    case 'path':
      return [...shape.d.matchAll(/[ML](-?[\d.]+) (-?[\d.]+)/g)].map((m) => [Number(m[1]), Number(m[2])]);
  }
}

function expectSound(drawing: Drawing): void {
  for (const shape of drawing.shapes) {
    for (const [x, y] of pointsOf(shape)) {
      expect(Number.isFinite(x) && Number.isFinite(y)).toBe(true);
      expect(x, JSON.stringify(shape)).toBeGreaterThanOrEqual(-1);
      expect(x, JSON.stringify(shape)).toBeLessThanOrEqual(drawing.width + 1);
      expect(y, JSON.stringify(shape)).toBeGreaterThanOrEqual(-1);
      expect(y, JSON.stringify(shape)).toBeLessThanOrEqual(drawing.height + 1);
    }
    if (shape.kind === 'text') {
      expect(shape.size).toBeGreaterThanOrEqual(11);
      expect(shape.text).not.toMatch(/NaN|undefined/);
    }
  }
}

describe('slot ring', () => {
  it.each([
    [12, 2, 5],
    [24, 4, 5],
    [36, 4, 8],
    [48, 8, 5],
    [54, 6, 7],
    [60, 4, 12],
    [72, 6, 10],
    [96, 8, 10],
    [144, 12, 10],
    [27, 6, 4],
  ])(
    '%d slots %d poles: every slot side drawn, nothing leaves the picture, no text under 11 px',
    (slots, poles, span) => {
      const layout = layoutOf(lap(slots, poles, span));
      const drawing = slotRing({ slots, layout, size: 440 });
      expectSound(drawing);
      const sides = drawing.shapes.filter(
        (s) =>
          s.kind === 'path' &&
          s.of?.some((o) => o.startsWith('slot:')) &&
          s.of.some((o) => o.startsWith('coil:')) &&
          s.fill === 'tint',
      );
      expect(sides).toHaveLength(2 * slots);
      for (const group of layout.groups)
        expect(drawing.shapes.some((s) => s.of?.includes(`group:${group.number}`))).toBe(true);
    },
  );
  it('grows while only the slots are known', () => {
    const drawing = slotRing({ slots: 30, size: 440 });
    expectSound(drawing);
    expect(drawing.shapes.filter((s) => s.kind === 'path')).toHaveLength(30);
  });
  it('tells the phases apart by letter, also where slots are too narrow for one', () => {
    const wide = slotRing({ slots: 24, layout: layoutOf(lap(24, 4, 5)), size: 440, letters: ['U', 'V', 'W'] });
    expect(wide.shapes.some((s) => s.kind === 'text' && s.text === 'W−')).toBe(true);
    const narrow = slotRing({ slots: 144, layout: layoutOf(lap(144, 12, 10)), size: 440, letters: ['U', 'V', 'W'] });
    expect(narrow.shapes.some((s) => s.kind === 'text' && /^[UVW]\d+[+−]$/.test(s.text))).toBe(true);
  });
});

describe('connection ring', () => {
  const machines = [
    [24, 2, 11],
    [36, 4, 8],
    [36, 6, 5],
    [48, 8, 5],
    [60, 10, 5],
    [72, 12, 5],
  ] as const;
  it.each(machines)(
    '%d slots %d poles: every circuit count, style and connection is drawn whole',
    (slots, poles, span) => {
      const layout = layoutOf(lap(slots, poles, span));
      for (const { circuits, jumpers } of possibleCircuits(layout)) {
        for (const jumper of jumpers) {
          for (const connection of ['wye', 'delta'] as const) {
            for (const leads of [3, 6] as const) {
              const made = connect(layout, { connection, circuits, jumper, leads });
              const drawing = connectionRing(layout, made, { size: 440 });
              expectSound(drawing);
              for (const j of made.jumpers) {
                expect(
                  drawing.shapes.filter((s) =>
                    s.of?.some((o) => o === `jumper:${j.from}-${j.to}` || o === `jumper:${j.to}-${j.from}`),
                  ),
                ).toHaveLength(3);
              }
              const ends = made.nodes.filter((n) => n.kind === 'lead').flatMap((n) => n.ends);
              expect(
                drawing.shapes.filter((s) => s.kind === 'line' && s.of?.some((o) => o.startsWith('lead:'))),
              ).toHaveLength(ends.length);
            }
          }
        }
      }
    },
  );
  it('no two jumpers share a piece of line', () => {
    const layout = layoutOf(lap(48, 8, 5));
    const made = connect(layout, { connection: 'wye', circuits: 1, jumper: 'skip-pole', leads: 3 });
    const drawing = connectionRing(layout, made, { size: 440 });
    const arcs = drawing.shapes.flatMap((s) => {
      if (s.kind !== 'path' || !s.of?.[0]?.startsWith('jumper:')) return [];
      const m = /^M(-?[\d.]+) (-?[\d.]+)A([\d.]+) [\d.]+ 0 \d 1 (-?[\d.]+) (-?[\d.]+)$/.exec(s.d);
      if (!m) return [];
      const angle = (x: number, y: number) => ((Math.atan2(y - 220, x - 220) * 180) / Math.PI + 360) % 360;
      const from = angle(Number(m[1]), Number(m[2]));
      return [{ r: Number(m[3]), from, sweep: (angle(Number(m[4]), Number(m[5])) - from + 360) % 360 }];
    });
    expect(arcs).toHaveLength(made.jumpers.length);
    arcs.forEach((a, i) =>
      arcs.slice(i + 1).forEach((b) => {
        if (Math.abs(a.r - b.r) > 0.5) return;
        expect((b.from - a.from + 360) % 360).toBeGreaterThan(a.sweep);
        expect((a.from - b.from + 360) % 360).toBeGreaterThan(b.sweep);
      }),
    );
  });
});

describe('polar plot', () => {
  it('draws vectors and limit to one scale, 0° on top, clockwise', () => {
    const drawing = polarPlot({
      title: 't',
      unit: 'g·mm',
      limit: 50,
      vectors: [{ label: 'a', size: 100, angleDeg: 90, role: 'accent' }],
    });
    expectSound(drawing);
    const line = drawing.shapes.find((s) => s.kind === 'line' && s.of?.includes('vector:a'));
    const ring = drawing.shapes.find((s) => s.kind === 'circle' && s.role === 'limit');
    if (line?.kind !== 'line' || ring?.kind !== 'circle') throw new Error('missing shapes');
    expect(line.y2).toBeCloseTo(line.y1, 6);
    expect((line.x2 - line.x1) / ring.r).toBeCloseTo(2, 6);
  });
  it('angles run clockwise from the top', () => {
    const [x, y] = around(0, 0, 10, 0);
    expect([x, y].map((v) => Math.round(v))).toEqual([0, -10]);
    expect(around(0, 0, 10, 90).map((v) => Math.round(v))).toEqual([10, 0]);
  });
});

describe('trace plot', () => {
  const line = {
    label: 'part',
    role: 'measured' as const,
    points: [0, 10, 20, 100, 110].map((t) => ({ t, v: 100 + t / 10 })),
  };
  it('breaks the line at a gap', () => {
    const drawing = tracePlot({
      title: 't',
      lines: [line],
      limits: [{ label: 'rated', value: 135, role: 'good' }],
      maxGapMin: 30,
      unit: '°C',
    });
    expectSound(drawing);
    const path = drawing.shapes.find((s) => s.kind === 'path' && s.of?.includes('channel:part'));
    expect(path?.kind === 'path' ? path.d.match(/M/g)?.length : 0).toBe(2);
  });
  it('shows °F where the shop reads it', () => {
    const drawing = tracePlot({
      title: 't',
      lines: [line],
      limits: [{ label: 'rated', value: 135, role: 'good' }],
      maxGapMin: 30,
      unit: '°F',
    });
    expect(drawing.shapes.some((s) => s.kind === 'text' && s.text === 'rated 275 °F')).toBe(true);
  });
});

describe('drawings as files', () => {
  it('escapes what people typed', () => {
    const svg = drawingToSvg({
      title: '<script>',
      width: 10,
      height: 10,
      shapes: [{ kind: 'text', x: 1, y: 1, text: 'a & <b>', size: 12, anchor: 'start', role: 'text' }],
    });
    expect(svg).toContain('a &amp; &lt;b&gt;');
    expect(svg).not.toContain('<script>');
  });
  it('gives each phase a pattern of its own on paper', () => {
    const svg = drawingToSvg(slotRing({ slots: 24, layout: layoutOf(lap(24, 4, 5)) }));
    expect(new Set([...svg.matchAll(/stroke-dasharray="([^"]+)"/g)].map((m) => m[1])).size).toBe(2);
  });
  it('ticks are round, rising and inside the axis', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -1e4, max: 1e4, noNaN: true }),
        fc.double({ min: 0.01, max: 1e4, noNaN: true }),
        (low, span) => {
          const ticks = niceTicks(low, low + span, 5);
          expect(ticks.length).toBeGreaterThan(0);
          expect(ticks.length).toBeLessThanOrEqual(8);
          ticks.forEach((t, i) => {
            expect(t).toBeGreaterThanOrEqual(low - span * 1e-6);
            expect(t).toBeLessThanOrEqual(low + span * (1 + 1e-6));
            if (i > 0) expect(t).toBeGreaterThan(ticks[i - 1] as number);
          });
        },
      ),
    );
  });
});
