import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { draws } from '../../../../scripts/testing/draws.ts';
import {
  BLOCK_SAMPLES,
  CHUNK_SAMPLES,
  chunksOf,
  joined,
  samplesOf,
  shownOfOverview,
  shownOfSamples,
  type Samples,
} from './samples.ts';

/** Samples of a random walk; some values lost. */
const walk = (n: number, channels: number, lost = 0, seed = 1): Samples => {
  let s = seed;
  const random = () => (s = (s * 16807) % 2147483647) / 2147483647;
  const values = Array.from({ length: channels }, () => {
    let v = 20;
    return Float64Array.from({ length: n }, () => ((v += random() - 0.5), random() < lost ? NaN : v));
  });
  return { x: Float64Array.from({ length: n }, (_, i) => i * 0.5), values };
};
const unpacked = (samples: Samples) =>
  joined(
    chunksOf(samples).map((c) => samplesOf(c.packed, c.count, samples.values.length)),
    samples.values.length,
  );

describe('a trace in chunks', () => {
  it('comes out as it went in, lost values too', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 9000 }), fc.integer({ min: 1, max: 4 }), fc.nat(), (n, channels, seed) => {
        const samples = walk(n, channels, 0.1, seed + 1);
        expect(unpacked(samples)).toEqual(samples);
      }),
      { numRuns: draws(20) },
    );
  });
  it.each([
    [1, 1, 1],
    [CHUNK_SAMPLES, 1, 64],
    [CHUNK_SAMPLES + 1, 2, 65],
  ])('%i samples make %i chunks and %i blocks', (n, chunks, blocks) => {
    const made = chunksOf(walk(n, 3), 100);
    expect(made.length).toBe(chunks);
    expect(made.reduce((s, c) => s + c.overview.length / (2 + 4 * 3), 0)).toBe(blocks);
    expect(made[0]?.first).toBe(100);
    expect(made.at(-1)).toMatchObject({ to: (n - 1) * 0.5 });
    expect(made.reduce((s, c) => s + c.count, 0)).toBe(n);
  });
  it('a block holds its first, last, least and largest, without what was lost', () => {
    const x = Float64Array.from({ length: 66 }, (_, i) => i);
    const v = Float64Array.from(x, (i) => (i === 0 ? NaN : i === 10 ? -5 : i === 20 ? 500 : i));
    const [chunk] = chunksOf({ x, values: [v] });
    expect(Array.from(chunk?.overview ?? [])).toEqual([0, 63, 1, 63, -5, 500, 64, 65, 64, 65, 64, 65]);
    const [empty] = chunksOf({ x: x.subarray(0, 2), values: [Float64Array.of(NaN, NaN)] });
    expect(Array.from(empty?.overview ?? [])).toEqual([0, 1, NaN, NaN, NaN, NaN]);
  });
});

describe('what a drawing gets', () => {
  it('every sample where they are few, with one before and after the window', () => {
    const shown = shownOfSamples(walk(100, 1), 10, 12, 50);
    expect(shown.exact).toBe(true);
    expect(shown.x).toEqual([9.5, 10, 10.5, 11, 11.5, 12, 12.5]);
    expect(shownOfSamples(walk(100, 1), -5, 500, 50).x.length).toBe(100);
    expect(shownOfSamples(walk(101, 1), -5, 500, 50).exact).toBe(false);
    expect(shownOfSamples(walk(100, 1), 60, 70, 50).x.length).toBe(1);
  });
  it('a lost value is null, never a number', () => {
    const shown = shownOfSamples(walk(50, 2, 0.5), 0, 50, 100);
    expect(shown.values.flat()).toContain(null);
    expect(JSON.stringify(shown)).not.toContain('NaN');
  });
  it('peaks survive at every resolution; it never shows what was not there, and is not longer than asked', () => {
    fc.assert(
      fc.property(fc.integer({ min: 300, max: 20_000 }), fc.integer({ min: 3, max: 80 }), fc.nat(), (n, most, seed) => {
        const samples = walk(n, 2, 0.02, seed + 1);
        const chunks = chunksOf(samples);
        const far = shownOfOverview(
          chunks.map((c) => c.overview),
          2,
          -Infinity,
          Infinity,
          most,
        );
        expect(far.x.length).toBeLessThanOrEqual(2 * most);
        samples.values.forEach((v, c) => {
          const known = Array.from(v).filter((y) => !Number.isNaN(y));
          const drawn = (far.values[c] ?? []).filter((y) => y !== null);
          expect(Math.max(...drawn)).toBe(Math.max(...known));
          expect(Math.min(...drawn)).toBe(Math.min(...known));
          for (const y of drawn) expect(known).toContain(y);
        });
        expect([...far.x].sort((a, b) => a - b)).toEqual(far.x);
      }),
      { numRuns: draws(15) },
    );
  });
  it('the least comes before the largest where the line rises', () => {
    const up = walk(BLOCK_SAMPLES * 4, 1);
    up.values[0]?.forEach((_, i, v) => (v[i] = i));
    const shown = shownOfOverview(
      chunksOf(up).map((c) => c.overview),
      1,
      -Infinity,
      Infinity,
      4,
    );
    expect(shown.values[0]).toEqual([0, 63, 64, 127, 128, 191, 192, 255]);
    up.values[0]?.forEach((_, i, v) => (v[i] = -i));
    const down = shownOfOverview(
      chunksOf(up).map((c) => c.overview),
      1,
      -Infinity,
      Infinity,
      2,
    );
    expect(down.values[0]).toEqual([-0, -127, -128, -255]);
  });
  it('only blocks that touch the window', () => {
    const overview = chunksOf(walk(640, 1)).map((c) => c.overview);
    // a block is 32 wide in x
    expect(shownOfOverview(overview, 1, 33, 40, 100).x).toEqual([32, 63.5]);
    expect(shownOfOverview(overview, 1, 31.5, 32, 100).x).toEqual([0, 31.5, 32, 63.5]);
    expect(shownOfOverview(overview, 1, 400, 500, 100)).toEqual({ x: [], values: [[]], exact: false });
  });
});
