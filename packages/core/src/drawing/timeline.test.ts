import { describe, expect, it } from 'vitest';
import { drawingToSvg } from './shapes.ts';
import { timeline, type TimelineBar } from './timeline.ts';

const DAY = 86_400_000;
const bar = (title: string, from: number, to: number, more: Partial<TimelineBar> = {}): TimelineBar => ({
  title,
  rail: 'trunk',
  from: from * DAY,
  to: to * DAY,
  ...more,
});
const draw = (bars: TimelineBar[], days = 10) =>
  timeline(
    { from: 0, to: days * DAY, bars, marks: [{ at: DAY, what: 'test', says: 'Surge', verdict: 'fail' }] },
    (ms) => `d${ms / DAY}`,
  );
const boxes = (d: ReturnType<typeof draw>) => d.shapes.flatMap((s) => (s.kind === 'path' ? [s] : []));

describe('a visit drawn', () => {
  it('has a bar for each operation, in the time it took', () => {
    const [a, b] = boxes(draw([bar('Wind', 0, 5), bar('Bake', 5, 10)]));
    expect(a?.d).toMatch(/^M118 /);
    expect(a?.d).toContain('H531');
    expect(b?.d).toMatch(/^M531 .*H944/);
  });
  it('bars that overlap stand under each other, those that follow in one row', () => {
    const top = (s: { d: string }) => Number(/ ([\d.]+)H/.exec(s.d)?.[1]);
    const [a, b, c] = boxes(draw([bar('A', 0, 4), bar('B', 2, 6), bar('C', 4, 8)]));
    expect(top(b as never)).toBeGreaterThan(top(a as never));
    expect(top(c as never)).toBe(top(a as never));
  });
  it('a failed one says so without colour; an overridden one too; short ones are seen', () => {
    const d = draw([bar('Bake', 0, 5, { verdict: 'fail', override: true }), bar('Look', 6, 6.001)]);
    expect(d.shapes).toContainEqual(expect.objectContaining({ kind: 'text', text: '×◊Bake, 120 h' }));
    const [, look] = boxes(d);
    const [, from, to] = /^M([\d.]+) [\d.]+H([\d.]+)/.exec(look?.d ?? '') ?? [];
    expect(Number(to) - Number(from)).toBeCloseTo(3, 6);
  });
  it('the last day is not cut off at the edge', () => {
    const days = draw([], 10).shapes.flatMap((s) => (s.kind === 'text' && /^d\d/.test(s.text) ? [s] : []));
    expect(days.map((d) => d.anchor)).toEqual(['start', ...Array<string>(9).fill('middle'), 'end']);
  });
  it('hours stand beside the title where there is room, else in what is said of it', () => {
    const texts = draw([bar('Wind', 0, 5), bar('Bake the winding', 5, 6.2)]).shapes.flatMap((s) =>
      s.kind === 'text' ? [s.text] : [],
    );
    expect(texts).toContain('Wind, 120 h');
    expect(texts).toContain('Bake the winding');
    expect(boxes(draw([bar('Look', 6, 6.125)]))[0]?.of).toEqual(['Look, 3 h']);
  });
  it('holds have a row of their own', () => {
    const d = timeline(
      { from: 0, to: DAY, bars: [], marks: [{ at: DAY / 2, what: 'hold', says: 'Surge', verdict: 'fail' }] },
      () => '',
    );
    expect(d.shapes).toContainEqual(expect.objectContaining({ kind: 'text', text: 'holds' }));
    expect(d.shapes).toContainEqual(expect.objectContaining({ kind: 'circle', of: ['Surge'], fill: 'solid' }));
  });
  it('days stand along the foot, at most about ten', () => {
    const said = (days: number) =>
      draw([], days).shapes.flatMap((s) => (s.kind === 'text' && s.text.startsWith('d') ? [s.text] : []));
    expect(said(5)).toEqual(['d0', 'd1', 'd2', 'd3', 'd4', 'd5']);
    expect(said(60).length).toBeLessThanOrEqual(11);
  });
  it('what happened outside is drawn at the border; nothing is no number', () => {
    const svg = drawingToSvg(draw([bar('Early', -3, -1), bar('Late', 20, 30)], 0));
    expect(svg).not.toMatch(/NaN|undefined|Infinity/);
  });
});
