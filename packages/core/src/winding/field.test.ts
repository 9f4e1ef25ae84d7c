import fc from 'fast-check';
import { draws } from '../../../../scripts/testing/draws.ts';
import { describe, expect, it } from 'vitest';
import type { LayoutInput } from './layoutTypes.ts';
import { layoutOf } from './layout.ts';
import { windingFactors } from './factors.ts';
import {
  differentialLeakage,
  magnetIndicators,
  mmfWaves,
  rotorSlotRules,
  slotAmpereTurns,
  stepWave,
} from './spectrum.ts';

const lap = (slots: number, poles: number, oneToN: number, more: Partial<LayoutInput> = {}): LayoutInput => ({
  slots,
  poles,
  layers: 2,
  form: 'lap',
  poleGroups: 'every-pole',
  spanSlots: oneToN - 1,
  turns: [1],
  ...more,
});

/** docs/derivations.md 6: derived by series and polygon. */
const LEAKAGE: [number, number, number, number, 1 | 2][] = [
  [12, 4, 4, 9.662, 2],
  [24, 4, 7, 2.844, 2],
  [24, 4, 6, 2.354, 2],
  [36, 4, 10, 1.406, 2],
  [36, 4, 9, 1.149, 2],
  [36, 4, 8, 1.109, 2],
  [48, 4, 13, 0.89, 2],
  [48, 4, 11, 0.624, 2],
  [72, 6, 11, 0.624, 2],
  [27, 6, 5, 4.559, 2],
  [54, 8, 7, 3.299, 2],
  [9, 6, 2, 46.216, 2],
  [12, 8, 2, 46.216, 2],
  [9, 8, 2, 118.21, 2],
  [12, 10, 2, 96.835, 2],
  [12, 10, 2, 267.299, 1],
  [12, 14, 2, 285.796, 2],
  [24, 22, 2, 129.986, 2],
];
describe('differential leakage against the table', () => {
  it.each(LEAKAGE)('%d slots %d poles 1-%d: %d %%, %d layers', (slots, poles, n, percent, layers) => {
    const { sigma, distortion } = differentialLeakage(layoutOf(lap(slots, poles, n, { layers })));
    expect(100 * sigma).toBeCloseTo(percent, 2);
    expect(distortion).toBeCloseTo(Math.sqrt(sigma), 12);
  });
});

/** docs/derivations.md 6: F_n/F_p in per cent, + with and − against the working wave. */
const SPECTRA: [number, number, number, 1 | 2, string][] = [
  [12, 4, 4, 2, '2:100+ 10:20- 14:14.29+ 22:9.09- 26:7.69+ 34:5.88- 38:5.26+'],
  [36, 4, 10, 2, '2:100+ 10:4.53- 14:2.64+ 22:1.68- 26:1.74+ 34:5.88- 38:5.26+'],
  [36, 4, 9, 2, '2:100+ 10:2.96- 14:0.92+ 22:0.58- 26:1.14+ 34:5.88- 38:5.26+'],
  [36, 4, 8, 2, '2:100+ 10:0.84- 14:2.15+ 22:1.37- 26:0.32+ 34:5.88- 38:5.26+'],
  [27, 6, 5, 2, '3:100+ 6:3.21- 12:3.70+ 15:2.96- 21:0.92+ 24:12.50- 30:10.00+'],
  [12, 10, 2, 2, '1:35.90- 5:100+ 7:71.43- 11:3.26+ 13:2.76- 17:29.41+ 19:26.32-'],
  [12, 10, 2, 1, '1:133.97- 5:100+ 7:71.43- 11:12.18+ 13:10.31- 17:29.41+ 19:26.32-'],
  [9, 8, 2, 2, '1:25.67+ 2:29.59- 4:100+ 5:80.00- 7:8.45+ 8:3.21- 10:2.57+ 11:5.38- 13:30.77+ 14:28.57-'],
];
describe('waves and their direction against the table', () => {
  it.each(SPECTRA)('%d slots %d poles 1-%d, %d layers', (slots, poles, n, layers, text) => {
    const wanted = text.split(' ').map((w) => {
      const [order, size] = w.split(':') as [string, string];
      return {
        order: Number(order),
        percent: Number(size.slice(0, -1)),
        direction: size.endsWith('+') ? 'with' : 'against',
      };
    });
    const found = mmfWaves(layoutOf(lap(slots, poles, n, { layers })), Math.max(...wanted.map((w) => w.order)));
    expect(found.map((w) => [w.order, w.direction])).toEqual(wanted.map((w) => [w.order, w.direction]));
    found.forEach((w, i) => expect(w.percent).toBeCloseTo(wanted[i]?.percent ?? 0, 2));
  });
});

describe('step wave', () => {
  it('12 slots 4 poles 1-4 at i_A = 1, i_B = i_C = −1/2 (docs/derivations.md 6)', () => {
    const wave = stepWave(layoutOf(lap(12, 4, 4)), 0);
    [1, 2, 1, -1, -2, -1, 1, 2, 1, -1, -2, -1].forEach((x, i) => expect(wave[i]).toBeCloseTo(x, 12));
  });
  const feasible = fc
    .record({
      slots: fc.integer({ min: 6, max: 72 }),
      pairs: fc.integer({ min: 1, max: 12 }),
      span: fc.integer({ min: 1, max: 20 }),
      deg: fc.integer({ min: 0, max: 359 }),
    })
    .map((x) => ({ ...x, poles: 2 * x.pairs }))
    .filter(({ slots, pairs, poles, span }) => {
      const g = (a: number, b: number): number => (b === 0 ? a : g(b, a % b));
      return (
        slots % (3 * g(slots, pairs)) === 0 &&
        span < slots &&
        slots >= poles / 2 &&
        Math.abs(Math.sin((Math.PI / 2) * ((span * poles) / slots))) > 0.2
      );
    });
  it('balanced currents leave no ampere-turns over, and the series of the step wave is its spectrum', () => {
    fc.assert(
      fc.property(feasible, ({ slots, poles, span, deg }) => {
        const layout = layoutOf(lap(slots, poles, span + 1));
        const j = slotAmpereTurns(layout);
        for (const part of [j.re, j.im]) expect(part.reduce((a, b) => a + b, 0)).toBeCloseTo(0, 9);
        // mean square of the steps = sum over all orders; the polygon closes the slow series exactly
        const steps = [0, 90].map((d) => stepWave(layout, deg + d));
        const square = steps.reduce((sum, w) => sum + w.reduce((a, b) => a + b * b, 0) / slots, 0);
        const waves = mmfWaves(layout, 40 * slots);
        const size = waves.reduce((a, w) => a + w.percent ** 2, 0) / 100 ** 2;
        const { sigma } = differentialLeakage(layout);
        expect(1 + sigma).toBeGreaterThan(size * (1 - 1e-9));
        expect(size / (1 + sigma)).toBeGreaterThan(0.97);
        // of the two instants together each order gives the square of its own size: so much over the working wave's
        const p = poles / 2;
        const [re, im] = [Math.cos, Math.sin].map((f) =>
          [...(steps[0] ?? [])].reduce((sum, w, i) => sum + w * f((2 * Math.PI * p * i) / slots), 0),
        ) as [number, number];
        const working =
          ((2 * Math.hypot(re, im)) / slots) * (Math.sin((Math.PI * p) / slots) / ((Math.PI * p) / slots));
        expect(square / (working ** 2 * (1 + sigma))).toBeCloseTo(1, 9);
      }),
      { numRuns: draws(60) },
    );
  });
  it('each order of the spectrum follows from the winding factors: F_n ∝ k_w(n)/n', () => {
    fc.assert(
      fc.property(feasible, ({ slots, poles, span }) => {
        const layout = layoutOf(lap(slots, poles, span + 1));
        const factors = windingFactors(layout, 13);
        for (const wave of mmfWaves(layout, (13 * poles) / 2)) {
          if (!Number.isInteger(wave.electrical)) continue;
          const k = factors[wave.electrical - 1]?.size ?? 0;
          expect(wave.percent).toBeCloseTo((100 * k) / wave.electrical / (factors[0]?.size ?? 1), 6);
        }
      }),
      { numRuns: draws(60) },
    );
  });
  it('the Fourier series of the drawn steps is the spectrum, order by order', () => {
    fc.assert(
      fc.property(feasible, ({ slots, poles, span }) => {
        const layout = layoutOf(lap(slots, poles, span + 1));
        const [now, later] = [stepWave(layout, 0), stepWave(layout, 90)];
        // steps one slot pitch wide: c_n = (sin x / x) times the sampled sum, x = π n / S
        const size = (n: number, direction: 1 | -1): number => {
          let re = 0;
          let im = 0;
          for (let s = 0; s < slots; s++) {
            const a = (direction * 2 * Math.PI * n * (s + 0.5)) / slots;
            // the wave a quarter period later is the imaginary part of the phasor, turned back
            const [x, y] = [now[s] ?? 0, -(later[s] ?? 0)];
            re += x * Math.cos(a) - y * Math.sin(a);
            im += x * Math.sin(a) + y * Math.cos(a);
          }
          const half = (Math.PI * n) / slots;
          return (Math.abs(Math.sin(half) / half) * Math.hypot(re, im)) / slots;
        };
        const p = poles / 2;
        const with_ = size(p, 1) >= size(p, -1) ? 1 : -1;
        const base = size(p, with_);
        const waves = mmfWaves(layout, 2 * slots);
        for (const w of waves)
          expect((100 * size(w.order, w.direction === 'with' ? with_ : (-with_ as 1 | -1))) / base).toBeCloseTo(
            w.percent,
            6,
          );
      }),
      { numRuns: draws(25) },
    );
  });
  it('a single-phase winding alone makes standing waves', () => {
    const layout = layoutOf({
      kind: 'single-phase',
      slots: 24,
      poles: 4,
      layers: 2,
      form: 'concentric',
      poleGroups: 'every-pole',
      spansSlots: [5, 3],
      turns: [30, 20],
    });
    expect(mmfWaves(layout, 14).every((w) => w.direction === 'standing')).toBe(true);
  });
});

describe('indicators', () => {
  it.each([
    [12, 10, 60, 2],
    [9, 8, 72, 1],
    [12, 8, 24, 4],
    [36, 4, 36, 4],
  ])('cogging and radial balance of %d/%d (docs/derivations.md 6)', (S, P, cogging, radial) => {
    expect(magnetIndicators(S, P)).toEqual({ coggingPeriods: cogging, radialOrder: radial });
  });
  it('36 slots 4 poles: bars to avoid between 26 and 46 (docs/derivations.md 6)', () => {
    const avoid = Array.from({ length: 21 }, (_, i) => 26 + i).filter(
      (bars) => rotorSlotRules(36, bars, 4, 1).length > 0,
    );
    expect(avoid).toEqual([28, 30, 31, 32, 33, 34, 35, 36, 37, 38, 39, 40, 41, 42, 44]);
  });
  it('two poles with odd bars, and many unskewed bars', () => {
    expect(rotorSlotRules(24, 19, 2, 1).map((r) => r.rule)).toContain('odd');
    expect(rotorSlotRules(24, 46, 2).map((r) => r.rule)).toContain('crawling');
  });
});
