import { describe, expect, it } from 'vitest';
import { runCalculation } from '../calculation.ts';
import { toothPathDrawing } from '../drawing/toothPath.ts';
import { windingRecordSchema } from './record.ts';
import { layoutOfRecord } from './recordLayout.ts';
import { sayRun, toothPath, windingToothPath, type ToothPath } from './toothPath.ts';
import type { Phase } from './layoutTypes.ts';

const layout = (slots: number, poles: number, layers: 'double' | 'single' = 'double') => {
  const made = layoutOfRecord(
    windingRecordSchema.parse({ kind: 'tooth-coil', slots, poles, layers, turns: [10] }),
  ).layout;
  if (!made) throw new Error('no layout');
  return made;
};
const path = (slots: number, poles: number, circuits: number, more: object = {}): ToothPath =>
  toothPath(layout(slots, poles), { circuits, connection: 'wye', leads: '3', ...more });
const said = (p: ToothPath) => p.runs.map((r) => `${r.phase} ${sayRun(r)}`).join('; ');
const jumps = (p: ToothPath) => p.runs[0]?.steps.slice(1).map((s) => s.jump);

describe('winding path of tooth coils (winding reference 8.7)', () => {
  it.each([
    [12, 10, 1, 'A 12− 1+ 6+ 7−; B 8− 9+ 2+ 3−; C 4− 5+ 10+ 11−', [1, 4, 1]],
    [12, 10, 2, 'A 12− 1+; A 6+ 7−; B 2+ 3−; B 8− 9+; C 4− 5+; C 10+ 11−', [1]],
    [9, 6, 1, 'A 1+ 4+ 7+; B 2+ 5+ 8+; C 3+ 6+ 9+', [2, 2]],
    [12, 8, 1, 'A 1+ 4+ 7+ 10+; B 2+ 5+ 8+ 11+; C 3+ 6+ 9+ 12+', [2, 2, 2]],
    [12, 8, 2, 'A 1+ 4+; A 7+ 10+; B 2+ 5+; B 8+ 11+; C 3+ 6+; C 9+ 12+', [2]],
  ])('check 115: %i/%i in %i circuits: %s', (slots, poles, circuits, wanted, jumped) => {
    expect(said(path(slots, poles, circuits))).toBe(wanted);
    expect(jumps(path(slots, poles, circuits))).toEqual(jumped);
  });
  it('check 116: 12/10 begins in slots 1, 9, 5 and ends in 7, 3, 11', () => {
    const { runs } = path(12, 10, 1);
    expect(runs.map((r) => r.startSlot)).toEqual([1, 9, 5]);
    expect(runs.map((r) => r.finishSlot)).toEqual([7, 3, 11]);
  });
  it('check 117: 9/6 cannot be in two circuits, in one or three it can', () => {
    expect(() => path(9, 6, 2)).toThrow(/possible: 1, 3/);
    expect(path(9, 6, 3).runs).toHaveLength(9);
    expect(path(12, 10, 1).possible).toEqual([1, 2]);
    expect(path(12, 8, 1).possible).toEqual([1, 2, 4]);
  });
  it('B laid from its star end: 3 CCW, 2 CW, 9 CW, 8 CCW', () => {
    const turned = path(12, 10, 1, { fromFinish: ['B'] as Phase[] }).runs[1];
    expect(turned && sayRun(turned)).toBe('3+ 2− 9− 8+');
    expect([turned?.from, turned?.to]).toEqual(['star', '2']);
    expect([turned?.startSlot, turned?.finishSlot]).toEqual([3, 9]);
  });
  it('terminals: star hook, one uncut wire in delta, six leads', () => {
    const ends = (more: object) => path(12, 10, 1, more).runs.map((r) => `${r.from}–${r.to}`);
    expect(ends({})).toEqual(['1–star', '2–star', '3–star']);
    expect(ends({ connection: 'delta' })).toEqual(['1–2', '2–3', '3–1']);
    expect(ends({ leads: '6' })).toEqual(['1–4', '2–5', '3–6']);
  });
  it.each([
    [12, 10],
    [9, 8],
    [18, 16],
    [24, 22],
    [36, 30],
  ])('%i/%i: every tooth once, each sense as laid out, whatever the number of circuits', (slots, poles) => {
    const made = layout(slots, poles);
    for (const circuits of path(slots, poles, 1).possible) {
      const steps = path(slots, poles, circuits).runs.flatMap((r) => r.steps);
      expect(steps.map((s) => s.tooth).sort((a, b) => a - b)).toEqual(Array.from({ length: slots }, (_, i) => i + 1));
      for (const s of steps) expect(s.sign).toBe(made.coils.find((c) => c.goSlot === s.tooth)?.sign);
    }
  });
  it('every second tooth has a path as well', () => {
    expect(toothPath(layout(12, 10, 'single'), { circuits: 1, connection: 'wye', leads: '3' }).runs).toHaveLength(3);
  });
  it('is asked for by calculation, with the field at fault', () => {
    const record = { kind: 'tooth-coil', slots: 9, poles: 6, layers: 'double', turns: [10], circuits: 2 };
    expect(() => runCalculation(windingToothPath, { record })).toThrow(/circuits: 3 coils/);
    expect(() => runCalculation(windingToothPath, { record: { ...record, kind: 'three-phase' } })).toThrow(
      /record\.kind/,
    );
  });
  it('is drawn with every tooth, its sense and where each wire begins and ends', () => {
    const drawing = toothPathDrawing(path(12, 10, 1), 12);
    const texts = drawing.shapes.flatMap((s) => (s.kind === 'text' ? [s.text] : []));
    expect(texts.filter((t) => t === '↺')).toHaveLength(6);
    expect(texts.filter((t) => t === '↻')).toHaveLength(6);
    expect(texts).toEqual(expect.arrayContaining(['start 1', 'finish 7', 'A: 1 → star', '12']));
    for (const s of drawing.shapes)
      if (s.kind === 'circle') expect(s.x > 0 && s.x < drawing.width && s.y < drawing.height).toBe(true);
  });
});
