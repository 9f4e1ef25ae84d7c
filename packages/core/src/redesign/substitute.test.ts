import { describe, expect, it } from 'vitest';
import { worked } from '../../../../scripts/testing/worked.ts';
import { runCalculation } from '../calculation.ts';
import { awgDiameterM } from '../wire/gauge.ts';
import { allMixes, substitutes, wireSubstitute } from './substitute.ts';

/** docs/derivations.md 12. */
describe('wire substitution', () => {
  const awg = (n: number) => ({ bareM: awgDiameterM(n), label: `AWG ${n}` });
  it('1 × AWG 14 from gauge sizes', () => {
    const mixes = allMixes([17, 18, 19, 20, 21].map(awg), 4, 2);
    const found = substitutes(mixes, (Math.PI * awgDiameterM(14) ** 2) / 4, 0.01).map(
      (m) => `${m.strands.map((s) => `${s.count} × ${s.label}`).join(' + ')} (${(100 * m.error).toFixed(2)} %)`,
    );
    expect(found).toContain('2 × AWG 17 (-0.25 %)');
    expect(found).toContain('4 × AWG 20 (-0.50 %)');
    expect(found).toContain('2 × AWG 20 + 1 × AWG 17 (-0.38 %)');
  });
  it('1.1349 mm²: five mixes of up to two sizes within 1 %', () => {
    const sizesMm = [0.6, 0.63, 0.67, 0.71, 0.75, 0.8, 0.9, 0.95, 1, 1.06, 1.12];
    const { found } = worked(wireSubstitute, { targetMm2: 1.1349, sizesMm });
    const two = found.filter((f) => f.sizes <= 2);
    expect(two).toHaveLength(5);
    expect(two.slice(0, 4).map((f) => [f.say, f.errorPercent.toFixed(2)])).toEqual([
      ['1x0.67 + 1x1', '0.27'],
      ['4x0.6', '-0.35'],
      ['1x0.8 + 1x0.9', '0.35'],
      ['2x0.63 + 1x0.8', '-0.78'],
    ]);
  });
  it('2.5 mm²: three mixes', () => {
    const { found } = worked(wireSubstitute, {
      targetMm2: 2.5,
      sizesMm: [0.8, 0.85, 0.9, 0.95, 1, 1.06, 1.12],
    });
    const two = found.filter((f) => f.sizes <= 2);
    expect(two.map((f) => [f.say, f.errorPercent.toFixed(2)])).toEqual([
      ['3x0.8 + 1x1.12', '-0.27'],
      ['3x0.85 + 1x1', '-0.49'],
      ['1x0.85 + 3x0.9', '-0.96'],
    ]);
  });
  it('equals trying everything; nothing wider than the opening', () => {
    const sizes = [0.5, 0.6, 0.71, 0.8].map((d) => ({ bareM: d / 1000, label: String(d) }));
    const mixes = allMixes(sizes, 4, 2);
    let plain = 0;
    for (let a = 0; a <= 4; a++)
      for (let b = 0; a + b <= 4; b++)
        for (let c = 0; a + b + c <= 4; c++)
          for (let d = 0; a + b + c + d <= 4; d++) {
            const used = [a, b, c, d].map((n, i) => (n > 0 ? i : -1)).filter((i) => i >= 0);
            if (used.length === 0 || used.length > 3) continue;
            const [lo, hi] = [
              sizes[used[0] as number] as (typeof sizes)[number],
              sizes[used[used.length - 1] as number] as (typeof sizes)[number],
            ];
            if (hi.bareM <= 1.6 * lo.bareM) plain += 1;
          }
    expect(mixes).toHaveLength(plain);
    expect(allMixes(sizes, 4, 2, 0.00065).every((m) => m.strands.every((s) => s.bareM < 0.0007))).toBe(true);
    expect(() => runCalculation(wireSubstitute, { sizesMm: [1] })).toThrow(/Give the area wanted/);
  });
});
