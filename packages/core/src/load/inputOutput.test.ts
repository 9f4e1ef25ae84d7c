import { describe, expect, it } from 'vitest';
import { inputOutput } from './inputOutput.ts';

const at = (x: object) => inputOutput.compute(inputOutput.input.parse({ ...inputOutput.example, ...x }), undefined);
/** A point of an output and a share, at 1400 r/min. */
const point = (outW: number, share: number) => ({
  watts: outW / share,
  torqueNm: (outW * 30) / (Math.PI * 1400),
  rpm: 1400,
});

describe('output over input', () => {
  it('tests.md 9.1 and 9.3: 49.459 N m at 1458.5 r/min of 8494.6 W are 88.93 %', () => {
    const found = at({ points: [{ watts: 8494.6, torqueNm: 49.459, rpm: 1458.5 }], outputW: undefined });
    expect(100 * (found.shares[0]?.efficiency ?? 0)).toBeCloseTo(88.93, 2);
    expect(found.verdict).toBe('cannot judge');
  });
  it('lies on the line between the points beside the rated output, whatever their order', () => {
    const points = [point(1000, 0.8), point(500, 0.7)];
    expect(at({ points, outputW: 750 }).efficiencyPercent).toBeCloseTo(75, 9);
    expect(at({ points: [...points].reverse(), outputW: 750 }).efficiencyPercent).toBeCloseTo(75, 9);
  });
  it.each([
    [1000, 'pass'],
    [1000.1, 'attention'],
  ] as const)('rated %s W: %s', (outputW, verdict) => {
    expect(at({ points: [point(500, 0.8), point(1200, 0.8)], outputW, declaredEfficiency: undefined }).verdict).toBe(
      verdict,
    );
  });
  it('the shop sets up to where it tells', () => {
    const points = [point(500, 0.8), point(3000, 0.8)];
    expect(
      at({ points, outputW: 2000, declaredEfficiency: undefined, limits: { 'load.inputOutputKW': 2 } }).verdict,
    ).toBe('pass');
  });
  it('IEC 60034-1 (from memory): −15 % of what is lost, against what is declared', () => {
    // declared 0.80: down to 0.80 − 0.03
    const of = (share: number) =>
      at({ points: [point(500, share), point(900, share)], declaredEfficiency: 0.8 }).verdict;
    expect([of(0.8), of(0.7701), of(0.7699)]).toEqual(['pass', 'pass', 'fail']);
  });
  it('more out than in, or points on one side only, are not judged', () => {
    expect(at({ points: [point(500, 1), point(900, 0.8)] }).reason).toMatch(/more comes out than goes in/);
    expect(at({ points: [point(800, 0.8), point(900, 0.8)] }).reason).toMatch(/on both sides/);
    expect(at({ points: [point(500, 0.8), point(700, 0.8)] }).reason).toMatch(/on both sides/);
  });
});
