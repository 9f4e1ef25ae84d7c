import fc from 'fast-check';
import { draws } from '../../../../scripts/testing/draws.ts';
import { describe, expect, it } from 'vitest';
import { runCalculation } from '../calculation.ts';
import { formerDrawing } from '../drawing/former.ts';
import { nestingDrawing } from '../drawing/nesting.ts';
import { connectionSchematic } from '../drawing/schematic.ts';
import type { Drawing } from '../drawing/shapes.ts';
import { USUAL_MATERIALS } from '../insulation/materials.ts';
import { connectionOfRecord } from './connectionOfRecord.ts';
import { formerSheet, windingFormer } from './former.ts';
import { EXAMPLE_RECORD } from './exampleRecord.ts';
import type { WindingRecord } from './record.ts';

const M1: WindingRecord = EXAMPLE_RECORD;

/** Every number of a drawing lies on it, and none is missing. */
function sound(d: Drawing): void {
  const numbers = d.shapes.flatMap((s) =>
    s.kind === 'line'
      ? [s.x1, s.x2, s.y1, s.y2]
      : s.kind === 'path'
        ? [...s.d.matchAll(/-?\d+\.?\d*(?:e-?\d+)?/g)].map((m) => Number(m[0]))
        : [s.x, s.y],
  );
  expect(numbers.length).toBeGreaterThan(0);
  for (const n of numbers) expect(Number.isFinite(n)).toBe(true);
  expect(JSON.stringify(d)).not.toMatch(/NaN|Infinity|null/);
  for (const s of d.shapes)
    if (s.kind === 'text') {
      expect(s.size).toBeGreaterThanOrEqual(11);
      expect(s.x).toBeGreaterThanOrEqual(0);
      expect(s.x).toBeLessThanOrEqual(d.width);
      expect(s.y).toBeLessThanOrEqual(d.height);
    }
}

describe('coil former', () => {
  it('of M1 by geometry gives back the slant and mean turn it was worked out with (docs/derivations.md 11)', () => {
    const { heads, meanTurnM } = formerSheet(M1, {});
    expect(meanTurnM * 1000).toBeCloseTo(664.6, 1);
    const [head] = heads;
    expect(heads).toHaveLength(1);
    expect(head?.slantDeg).toBeCloseTo(35, 6);
    expect((head?.chordM ?? 0) * 1000).toBeCloseTo(121.5, 1);
    // parallel curve: mean turn = inside + π·b
    expect((head?.insidePerimeterM ?? 0) + Math.PI * (head?.buildM ?? 0)).toBeCloseTo(meanTurnM, 12);
  });
  it('of concentric coils: half circles, and the mean by turns is the mean turn measured', () => {
    const record = {
      ...M1,
      form: 'concentric' as const,
      spansSlots: [10, 8, 6],
      turns: [12, 30, 34],
      sampleCoilM: 0.72,
    };
    const { heads, headsMeanTurnM } = formerSheet(record, {});
    expect(heads.map((h) => h.spanSlots)).toEqual([10, 8, 6]);
    expect(headsMeanTurnM).toBeCloseTo(0.72, 9);
    const turns = heads.reduce((n, h) => n + h.turns, 0);
    expect(heads.reduce((n, h) => n + h.turns * h.meanTurnM, 0) / turns).toBeCloseTo(0.72, 9);
    // docs/derivations.md 11: 2(L + 2x) + π·chord
    for (const h of heads) expect(h.meanTurnM).toBeCloseTo(2 * h.straightM + Math.PI * h.chordM, 9);
  });
  it('a mean turn that cannot bridge the span is refused, a missing size is named', () => {
    expect(() => formerSheet({ ...M1, sampleCoilM: 0.5 }, {})).toThrow(/must bridge/);
    const { slotDepthM: _, ...without } = M1;
    expect(() => runCalculation(windingFormer, { record: without })).toThrow(/slotDepthM/);
    expect(() => formerSheet({ ...M1, form: 'concentric', spansSlots: [10, 8, 6], sampleCoilM: 0.4 }, {})).toThrow(
      /shorter than rounded ends/,
    );
  });
  it('every head lies on its sheet, with its sizes', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 6, max: 10 }),
        fc.integer({ min: 5, max: 60 }),
        fc.boolean(),
        (span, turns, inch) => {
          for (const head of formerSheet({ ...M1, spansSlots: [span], turns: [turns] }, {}).heads) {
            expect(head.insidePerimeterM).toBeLessThan(head.meanTurnM);
            const d = formerDrawing(head, { unit: inch ? 'in' : 'mm' });
            sound(d);
            expect(d.shapes.some((s) => s.kind === 'text' && s.text.includes(inch ? ' in' : ' mm'))).toBe(true);
          }
        },
      ),
      { numRuns: draws(40) },
    );
  });
});

describe('schematic', () => {
  it('shows every group once, in its circuit, with the end at which it is entered', () => {
    for (const change of [
      {},
      { circuits: 4 },
      { circuits: 1, connection: 'wye' as const, leads: '9' as const },
      { jumper: 'skip-pole' as const },
      { slots: 96, poles: 16, spansSlots: [5], circuits: 1, connection: 'wye' as const },
    ]) {
      const made = connectionOfRecord({ ...M1, ...change });
      if (!made.connection) throw new Error(made.why);
      const d = connectionSchematic(made.layout, made.connection, { marks: 'U' });
      sound(d);
      const groups = d.shapes.flatMap((s) =>
        s.kind === 'text' && s.size === 13 && /^\d+$/.test(s.text) ? [Number(s.text)] : [],
      );
      expect([...groups].sort((a, b) => a - b)).toEqual(made.layout.groups.map((g) => g.number));
      const ends = d.shapes.flatMap((s) => (s.kind === 'text' && /^[SF]$/.test(s.text) ? [s.text] : []));
      expect(ends.filter((e) => e === 'S')).toHaveLength(made.layout.groups.length);
    }
  });
});

describe('pieces on sheet and roll, drawn', () => {
  const line = {
    use: 'slot liner' as const,
    material: '',
    classC: 155,
    pieces: 40,
    lengthM: 0.18,
    widthM: 0.05,
    quantity: 1,
    unit: 'sheets' as const,
    nesting: 'x',
  };
  it('shows as many pieces as are cut from it', () => {
    for (const m of USUAL_MATERIALS.filter((x) => x.use.includes('slot liner'))) {
      const d = nestingDrawing(line, m);
      if (!d) throw new Error(m.name);
      sound(d);
      const pieces = d.shapes.filter((s) => s.kind === 'path').length - 1;
      expect(pieces).toBe(Math.min(40, m.supply.kind === 'sheet' ? 60 : 40));
    }
  });
  it('nothing is drawn of what is not cut or does not fit', () => {
    expect(nestingDrawing(line, undefined)).toBeUndefined();
    expect(nestingDrawing({ ...line, lengthM: 3 }, USUAL_MATERIALS[0])).toBeUndefined();
    expect(nestingDrawing({ ...line, pieces: 0 }, USUAL_MATERIALS[0])).toBeUndefined();
    expect(
      nestingDrawing(
        line,
        USUAL_MATERIALS.find((m) => m.supply.kind === 'length'),
      ),
    ).toBeUndefined();
  });
});
