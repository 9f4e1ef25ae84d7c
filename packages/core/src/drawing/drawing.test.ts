import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { connect, possibleCircuits } from '../winding/connection.ts';
import type { LayoutInput } from '../winding/layoutTypes.ts';
import { layoutOf } from '../winding/layout.ts';
import { connectionRing } from './connectionRing.ts';
import { developedWinding } from './developed.ts';
import { barsOf, fieldWave, fieldWaveBase, harmonicBars } from './fieldWave.ts';
import { phasorStar } from './phasorStar.ts';
import { slotSection } from './slotSection.ts';
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

describe('drawings of any winding', () => {
  const many: LayoutInput[] = [
    lap(12, 10, 1),
    lap(27, 6, 4),
    lap(36, 4, 8),
    lap(72, 6, 10),
    lap(144, 12, 10),
    lap(9, 8, 1),
    { ...lap(36, 4, 8), layers: 1, form: 'concentric', poleGroups: 'consequent', spanSlots: undefined },
    { ...lap(24, 4, 5), layers: 1 },
    { ...lap(36, 8, 5), kind: 'two-speed' },
    {
      ...lap(24, 4, 5),
      kind: 'single-phase',
      form: 'concentric',
      spansSlots: [6, 4, 2],
      turns: [20, 34, 20],
      auxiliary: { spansSlots: [6, 4], turns: [18, 30] },
    },
  ];
  it.each(many.map((m) => [`${m.kind ?? 'three-phase'} ${m.slots}/${m.poles}`, m] as const))(
    '%s: every drawing stays on its paper and knows its coils',
    (_, input) => {
      const layout = layoutOf(input);
      const developed = developedWinding(layout);
      const drawings = [
        slotRing({ slots: layout.slots, layout }),
        developed,
        phasorStar(layout),
        fieldWave(fieldWaveBase(layout), 40),
        harmonicBars(layout),
      ];
      for (const d of drawings) {
        expectSound(d);
        expect(drawingToSvg(d)).toMatch(/^<svg /);
      }
      for (const coil of layout.coils)
        expect(developed.shapes.some((s) => s.kind === 'path' && s.of?.includes(`coil:${coil.number}`))).toBe(true);
      for (const group of layout.groups)
        for (const end of ['S', 'F'])
          expect(developed.shapes.some((s) => s.kind === 'text' && s.text === `${group.number}${end}`)).toBe(true);
      const star = phasorStar(layout);
      for (let slot = 1; slot <= layout.slots; slot++)
        expect(developed.shapes.some((s) => s.of?.includes(`slot:${slot}`))).toBe(true);
      expect(star.shapes.length).toBeGreaterThan(0);
    },
  );
  it('72 slots unrolled stay wide enough for a finger and within a full-width screen', () => {
    const d = developedWinding(layoutOf(lap(72, 6, 10)));
    expect(d.width).toBeLessThanOrEqual(1240);
    expect(developedWinding(layoutOf(lap(144, 12, 10))).width).toBeGreaterThanOrEqual(144 * 15);
  });
  it('the wave drawn turns with the slots: half a period later it is its own mirror image', () => {
    const layout = layoutOf(lap(36, 4, 8));
    const base = fieldWaveBase(layout);
    const steps = (deg: number) => fieldWave(base, deg).shapes.find((s) => s.role === 'accent') as { d: string };
    const ys = (d: string) => [...d.matchAll(/[ML][\d.]+ ([\d.]+)/g)].map((m) => Number(m[1]));
    const a = ys(steps(30).d);
    const b = ys(steps(210).d);
    const mid = (10 + 220 - 26) / 2;
    a.forEach((y, i) => expect(y + (b[i] ?? 0)).toBeCloseTo(2 * mid, 1));
    expect(ys(steps(390).d)).toEqual(a);
  });
  it('the working wave lies through the steps: their largest difference is what the harmonics leave', () => {
    const layout = layoutOf(lap(36, 4, 8));
    const { re, im, working } = fieldWaveBase(layout);
    let top = 0;
    for (let s = 0; s < 36; s++) top = Math.max(top, Math.hypot(re[s] ?? 0, im[s] ?? 0));
    expect(Math.hypot(working.re, working.im)).toBeGreaterThan(0.85 * top);
    expect(Math.hypot(working.re, working.im)).toBeLessThan(1.15 * top);
  });
  it('bars are the largest waves in rising order', () => {
    const bars = barsOf(layoutOf(lap(12, 10, 1)), 4);
    expect(bars.map((b) => b.order)).toEqual([1, 7, 17, 19]);
  });
  const record = {
    kind: 'three-phase' as const,
    slots: 36,
    poles: 4,
    turns: [34],
    strands: [{ count: 2, bareM: 0.00085, label: '' }],
    boreM: 0.15,
    slotDepthM: 0.024,
    slotOpeningM: 0.003,
    slotAreaM2: 185e-6,
    slotNetAreaM2: 158e-6,
  };
  it('the slot shows every wire to scale while they fit, and says how many do not', () => {
    const layout = layoutOf({ ...lap(36, 4, 8), turns: [34] });
    const made = slotSection(record, layout);
    expect(made.drawing).toBeDefined();
    if (!made.drawing) return;
    expectSound(made.drawing);
    expect(made.drawing.shapes.filter((s) => s.kind === 'circle').length + made.left).toBe(136);
    expect(made.left).toBeLessThan(8);
    const crowded = slotSection({ ...record, turns: [80] }, layoutOf({ ...lap(36, 4, 8), turns: [80] }));
    expect(crowded.drawing && crowded.left).toBeGreaterThan(50);
    const none = slotSection({ kind: 'three-phase', slots: 36 }, undefined);
    expect(none.drawing).toBeUndefined();
  });
});
