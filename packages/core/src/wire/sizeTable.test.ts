import { describe, expect, it } from 'vitest';
import { runCalculation } from '../calculation.ts';
import { awgDiameterM, swgDiameterM } from './gauge.ts';
import { nearestSize, sizeTable } from './sizeTable.ts';
import { HEXAGONAL_LIMIT, slotFill, wireFill } from './slotFill.ts';

/** docs/derivations.md 12, check values 93 to 104 (ASTM B258 formula; derived there). */
describe('wire sizes: check values', () => {
  it.each([
    [10, 2.5882],
    [14, 1.6277],
    [18, 1.0237],
    [24, 0.5106],
    [17.5, 1.0848],
  ])('AWG %d is %d mm', (n, mm) => expect(awgDiameterM(n) * 1000).toBeCloseTo(mm, 3));
  it('AWG 4/0 is 11.684 mm, SWG 20 0.9144 mm', () => {
    expect(awgDiameterM(-3) * 1000).toBeCloseTo(11.684, 3);
    expect((swgDiameterM('20') ?? 0) * 1000).toBeCloseTo(0.9144, 4);
  });
  it('AWG 18: 0.8230 mm², 1624 cmil; 0.85 mm: 0.5675 mm²', () => {
    const row = sizeTable('awg').find((r) => r.label === 'AWG 18');
    expect((row?.areaM2 ?? 0) * 1e6).toBeCloseTo(0.823, 3);
    expect(row?.circularMils).toBeCloseTo(1624, 0);
    expect((sizeTable('metric').find((r) => r.label === '0.85')?.areaM2 ?? 0) * 1e6).toBeCloseTo(0.5675, 4);
  });
  it('three numbers halve the area nearly, six halve the diameter nearly (ASTM B258)', () => {
    expect((awgDiameterM(21) / awgDiameterM(18)) ** 2).toBeCloseTo(0.4987, 4);
    expect(awgDiameterM(24) / awgDiameterM(18)).toBeCloseTo(0.4987, 3);
  });
  it('every table is in order, each size is its own nearest', () => {
    for (const system of ['metric', 'awg', 'swg'] as const) {
      const rows = sizeTable(system);
      expect(rows.length).toBeGreaterThan(30);
      const d = rows.map((r) => r.bareM);
      expect(d).toEqual([...d].sort((a, b) => (system === 'metric' ? a - b : b - a)));
      for (const r of rows) {
        expect(nearestSize(r.bareM, system)?.row.label).toBe(r.label);
        expect(r.overallM[1]).toBeGreaterThan(r.overallM[0]);
        expect(r.overallM[0]).toBeGreaterThan(r.bareM);
      }
    }
    expect(nearestSize(awgDiameterM(18), 'metric')?.row.label).toBe('1.00');
  });
  it('fill of M1 in all three measures; the hexagonal limit', () => {
    const m1 = slotFill([{ strands: [{ count: 2, bareM: 0.00085, label: '' }], turnsInSlot: 68 }], 2, 185e-6, 158e-6);
    expect(m1.wires).toBe(136);
    expect(m1.copper).toBeCloseTo(0.417, 3);
    expect(m1.insulatedSquare).toBeCloseTo(0.759, 2);
    expect(m1.insulatedRound).toBeCloseTo((m1.insulatedSquare ?? 0) * (Math.PI / 4), 9);
    expect(HEXAGONAL_LIMIT).toBeCloseTo(1.1547, 4);
    const said = runCalculation(wireFill, wireFill.example);
    expect(said.working.map((w) => w.name)).toEqual(['Copper fill', 'Insulated-square fill', 'Insulated-round fill']);
    expect(slotFill([], 1, undefined, undefined).copper).toBeUndefined();
  });
});
