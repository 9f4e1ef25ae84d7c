import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { processStrippedCopper } from './strippedCopper.ts';

const RECORD = processStrippedCopper.example.record as Record<string, unknown>;
const stripped = (kg: number, more: object = {}, record: object = {}) =>
  worked(processStrippedCopper, { record: { ...RECORD, ...record }, nameplate: {}, strippedKg: kg, ...more });
const KG = stripped(1).computedKg ?? 0;

describe('stripped copper against the record', () => {
  it('computed by hand: 36 coils of 11 turns of two 0.8 mm, mean turn of the record', () => {
    const area = 2 * (Math.PI / 4) * 0.8e-3 ** 2;
    const metres = KG / (8890 * area * 36 * 11);
    expect(metres).toBeGreaterThan(0.5);
    expect(metres).toBeLessThan(0.9);
  });
  it.each([
    [4.99, 'pass', /the record comes to/],
    [5, 'pass', /the record comes to/],
    [5.01, 'pass', /Count again/],
    [10, 'pass', /Count again/],
    [10.01, 'attention', /more/],
    [20, 'attention', /more/],
    [20.01, 'fail', /more/],
    [-4.99, 'pass', /the record comes to/],
    [-10.01, 'attention', /less/],
    [-20.01, 'fail', /less/],
  ])('%d %% off', (percent, verdict, reason) => {
    const judged = stripped(KG * (1 + percent / 100));
    expect(judged.offPercent).toBeCloseTo(percent, 9);
    expect(judged.verdict).toBe(verdict);
    expect(judged.reason).toMatch(reason);
  });
  it('the cut-off end counts with it', () =>
    expect(stripped(KG * 0.8, { cutOffKg: KG * 0.2 }).offPercent).toBeCloseTo(0, 9));
  it('enamel is taken off', () => {
    const judged = stripped(KG, { state: 'with enamel' });
    expect(judged.weighedKg).toBeLessThan(KG);
    expect(judged.weighedKg).toBeGreaterThan(KG * 0.95);
  });
  it.each([
    ['a turn too few in the record', { turns: [12] }, 'turns', 'turns 12 instead of 11'],
    ['a turn too many', { turns: [10] }, 'turns', 'turns 10 instead of 11'],
    ['a wire missed', { strands: [{ bareM: 0.8e-3, count: 3 }] }, 'strands', '3 wires in hand instead of 2'],
    ['a wire too many', { strands: [{ bareM: 0.8e-3, count: 1 }] }, 'strands', '1 wires in hand instead of 2'],
    ['measured over the enamel', { strands: [{ bareM: 0.75e-3, count: 2 }] }, 'wire size', 'wire 0.75 instead of 0.8'],
  ])('%s: that is the first suspect, or as near as it', (_, truth, count, say) => {
    const judged = stripped(stripped(1, {}, truth).computedKg ?? 0);
    const named = judged.suspects.find((s) => s.say === say);
    expect(named?.count).toBe(count);
    expect(named?.offPercent).toBeCloseTo(0, 6);
    expect(Math.abs(judged.suspects[0]?.offPercent ?? 9)).toBeLessThanOrEqual(Math.abs(named?.offPercent ?? 0) + 1e-9);
    expect(judged.reason).toContain(`Most likely ${judged.suspects[0]?.say}`);
  });
  it('a span two off is named among them', () => {
    const judged = stripped(stripped(1, {}, { spansSlots: [6] }).computedKg ?? 0);
    expect(judged.suspects.map((s) => s.say)).toContain('span 1-7 instead of 1-9');
  });
  it('suspects come nearest first, at most five, none farther than 2.5 %', () => {
    const judged = stripped(KG * 1.1);
    const off = judged.suspects.map((s) => Math.abs(s.offPercent));
    expect([...off].sort((a, b) => a - b)).toEqual(off);
    expect(off.length).toBeLessThanOrEqual(5);
    for (const o of off) expect(o).toBeLessThanOrEqual(2.5);
  });
  it('where nothing fits, it says so', () => {
    const judged = stripped(KG * 3.7);
    expect(judged.suspects).toEqual([]);
    expect(judged.reason).toMatch(/No single count explains it/);
  });
  it('the mass in the record itself does not make the figure it is held against', () =>
    expect(stripped(KG * 1.3, {}, { copperKg: KG * 1.3 }).offPercent).toBeCloseTo(30, 9));
  it('a record that says too little: cannot judge, and what is wanting', () =>
    expect(stripped(4, {}, { turns: undefined })).toMatchObject({
      verdict: 'cannot judge',
      reason: expect.stringMatching(/wants turns, wire, span/) as string,
    }));
});
