import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  alignedArea,
  clippedSamples,
  crossingsOf,
  errorArea,
  figuresOf,
  noiseOf,
  peakOf,
  pulseToPulse,
  ringFrequencyHz,
} from './wave.ts';
import { circuitHz, surgeWave, withShort } from './simulatedWave.ts';

/** The worked example of the reference: 180 Ω, 12 mH, 0.1 µF, 60 samples at 10 µs. */
const CIRCUIT = { ohm: 180, henry: 12e-3, farad: 0.1e-6 };
const SHORT = { turnsShare: 0.05, couplingSquared: 0.36, loopOhm: 0.4 };
const wave = (c = CIRCUIT, v = 1500) => surgeWave(c, v, 10e-6, 60);
const plain = (v: number[], dtS = 1) => ({ v, dtS });

describe('area, crossings and ring frequency', () => {
  it('C24: the short example, and it is not symmetric', () => {
    const a = plain([100, 60, -20, -50, -10]);
    const b = plain([100, 56, -26, -47, -8]);
    expect(errorArea(a, b)?.percent).toBeCloseTo(6.25, 12);
    expect(errorArea(b, a)?.percent).toBeCloseTo(6.33, 2);
    expect(errorArea(a, b)).toMatchObject({ samples: 5, dtS: 1 });
    expect(errorArea(plain([0, 0]), b)).toBeUndefined();
  });

  it('C26, C27, C25: healthy and shorted', () => {
    const shorted = withShort(CIRCUIT, SHORT);
    expect(shorted.henry * 1e3).toBeCloseTo(8.43956, 5);
    expect(shorted.ohm).toBeCloseTo(227.47, 2);
    expect(ringFrequencyHz(wave())).toBeCloseTo(4436.82, 1);
    expect(circuitHz(CIRCUIT)).toBeCloseTo(4436.6, 1);
    expect(ringFrequencyHz(wave(shorted))).toBeCloseTo(5042.1, 1);
    expect(errorArea(wave(), wave(shorted))?.percent).toBeCloseTo(39.2841, 3);
    expect(errorArea(wave(shorted), wave())?.percent).toBeCloseTo(61.28, 2);
  });

  it('C63, C64: across the cure, plain and aligned', () => {
    const after = wave({ ...CIRCUIT, ohm: 190, henry: 12.8e-3 });
    const said = alignedArea(wave(), after);
    expect(said?.shiftPercent).toBeCloseTo(-3.36, 2);
    expect(said?.plainPercent).toBeCloseTo(11.309, 2);
    expect(said?.alignedPercent).toBeCloseTo(2.352, 2);
    expect(said?.samples).toBe(58);
  });

  it('a crossing on a sample counts once, a touch is none', () => {
    expect(crossingsOf(plain([2, 0, -2, 0, 0, 3]))).toEqual([1, 3]);
    expect(crossingsOf(plain([2, 0, 2, -2]))).toEqual([2.5]);
    expect(crossingsOf(plain([0, 0, 1, -1]))).toEqual([2.5]);
    expect(crossingsOf(plain([3, -1]))).toEqual([0.75]);
    expect(crossingsOf(plain([]))).toEqual([]);
  });

  it('three crossings tell a frequency, two do not', () => {
    expect(ringFrequencyHz(plain([1, -1, 1]))).toBeUndefined();
    expect(ringFrequencyHz(plain([1, -1, 1, -1], 0.5))).toBeCloseTo(1, 12);
  });

  it('noise in a quiet tail rings nothing', () => {
    let state = 7;
    const random = () => (state = (state * 48271) % 2147483647) / 2147483647 - 0.5;
    const long = surgeWave(CIRCUIT, 1500, 0.5e-6, 20_000);
    const noisy = { ...long, v: Array.from(long.v as Float64Array, (x) => x + 12 * random()) };
    expect(noiseOf(long.v)).toBeLessThan(0.01);
    expect(noiseOf(noisy.v)).toBeCloseTo(12 / Math.sqrt(12), 0);
    expect(Math.abs((ringFrequencyHz(noisy) ?? 0) / circuitHz(CIRCUIT) - 1)).toBeLessThan(0.01);
    // eight bits over ±2 kV
    const coarse = { ...long, v: Array.from(long.v as Float64Array, (x) => Math.round(x / 16) * 16) };
    expect(noiseOf(coarse.v)).toBe(8);
    expect(Math.abs((ringFrequencyHz(coarse) ?? 0) / circuitHz(CIRCUIT) - 1)).toBeLessThan(0.01);
  });

  it('unlike steps are brought together over what both reach', () => {
    const fine = surgeWave(CIRCUIT, 1500, 1e-6, 400);
    const coarse = surgeWave(CIRCUIT, 1500, 4e-6, 60);
    const said = errorArea(fine, coarse);
    expect(said?.samples).toBe(237);
    expect(said?.percent).toBeLessThan(0.5);
    expect(errorArea(coarse, fine)?.samples).toBe(60);
  });

  it('peak, second swing, dead and clipped records', () => {
    expect(peakOf([1, -4, 3])).toBe(4);
    expect(figuresOf(wave()).swing).toBeCloseTo(Math.exp((-7500 * Math.PI) / (2 * Math.PI * circuitHz(CIRCUIT))), 1);
    expect(figuresOf(plain([1, 2, 3]))).toEqual({ hz: undefined, peakV: 3, swing: 0 });
    expect(figuresOf(plain([0, 0]))).toEqual({ hz: undefined, peakV: 0, swing: 0 });
    expect(figuresOf(plain([4, -2, -1])).swing).toBe(0.5);
    expect(figuresOf(plain([4, -1, 1, -1, 1])).hz).toBe(ringFrequencyHz(plain([4, -1, 1, -1, 1])));
    expect(clippedSamples([1, 5, 5, 5, 2])).toBe(3);
    expect(clippedSamples([5, -5, 5])).toBe(3);
    expect(clippedSamples([0, 0])).toBe(0);
    expect(clippedSamples(wave().v)).toBe(1);
  });

  it('a short of no resistance leaves L(1 − k²), one of much resistance nothing', () => {
    expect(withShort(CIRCUIT, { ...SHORT, loopOhm: 0 }).henry).toBeCloseTo(12e-3 * 0.64, 12);
    expect(withShort(CIRCUIT, { ...SHORT, loopOhm: 1e9 }).henry).toBeCloseTo(12e-3, 9);
  });

  it('a wave that does not ring falls without a crossing, at the border too', () => {
    const border = 2 * Math.sqrt(CIRCUIT.henry / CIRCUIT.farad);
    for (const ohm of [border, 1.5 * border, 40 * border]) {
      const v = surgeWave({ ...CIRCUIT, ohm }, 1000, 1e-6, 500);
      expect(crossingsOf(v)).toEqual([]);
      expect(v.v[0]).toBeCloseTo(1000, 9);
      for (let i = 1; i < 500; i++) expect((v.v[i] as number) < (v.v[i - 1] as number)).toBe(true);
    }
    expect(circuitHz({ ...CIRCUIT, ohm: border })).toBe(0);
  });

  it('scaling the voltage or the time of both changes no normalised figure', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 40, max: 300, noNaN: true }),
        fc.double({ min: 0.8, max: 1.2, noNaN: true }),
        fc.double({ min: 0.2, max: 5, noNaN: true }),
        fc.double({ min: 0.2, max: 5, noNaN: true }),
        (ohm, more, volts, time) => {
          const of = (c: typeof CIRCUIT, k: number, dt: number) => surgeWave(c, 1000 * k, dt, 120);
          const other = { ...CIRCUIT, ohm, henry: CIRCUIT.henry * more };
          const [a, b] = [of(CIRCUIT, 1, 5e-6), of(other, 1, 5e-6)];
          const scaled = (w: ReturnType<typeof of>) => ({
            v: Array.from(w.v as Float64Array, (x) => x * volts),
            dtS: w.dtS * time,
            appliedV: w.appliedV * volts,
          });
          const [c, d] = [scaled(a), scaled(b)];
          expect(errorArea(c, d)?.percent).toBeCloseTo(errorArea(a, b)?.percent ?? NaN, 9);
          expect(pulseToPulse(c, b)?.percent).toBeCloseTo(pulseToPulse({ ...a, dtS: c.dtS }, b)?.percent ?? NaN, 9);
          const [fa, fb, fc_, fd] = [a, b, c, d].map(ringFrequencyHz) as [number, number, number, number];
          expect(fd / fc_).toBeCloseTo(fb / fa, 9);
          expect(alignedArea(c, d)?.alignedPercent).toBeCloseTo(alignedArea(a, b)?.alignedPercent ?? NaN, 9);
        },
      ),
    );
  });

  it('normalised, a rising voltage on a linear winding shows nothing; plain it shows the step', () => {
    const [low, high] = [wave(CIRCUIT, 1000), wave(CIRCUIT, 1250)];
    expect(pulseToPulse(low, high)?.percent).toBeCloseTo(0, 12);
    expect(errorArea(low, high)?.percent).toBeCloseTo(25, 12);
  });
});
