import { bestSplit, type PlaneToFill } from '@norther/core';
import type { Figure } from './figure.ts';

const STOCK = [1, 2, 3, 5, 7, 10, 14, 20, 28, 40];
const ring = (n: number) => Array.from({ length: n }, (_, i) => ({ angleDeg: (360 * i) / n, radiusMm: 50 }));
const planes = (n: number): PlaneToFill[] =>
  [
    { re: 681, im: 442 },
    { re: -454, im: -273 },
  ].map((wanted) => ({ wanted, places: ring(n), stockG: STOCK }));
const BEARINGS = {
  felt: [
    [0.75, 0.25],
    [0.25, 0.75],
  ],
  allowedGMm: [100, 80],
};

/** Masses of the stock over the places of both planes, up to four a plane. */
export function benchBalance(): Figure[] {
  const best = (n: number): number => {
    let least = Infinity;
    for (let i = 0; i < 9; i++) {
      const start = performance.now();
      bestSplit(planes(n), BEARINGS);
      least = Math.min(least, performance.now() - start);
    }
    return least;
  };
  const [whole, half] = [best(36), best(18)];
  return [
    {
      name: 'masses of a stock of 10 over 36 places in both planes',
      value: `${whole.toFixed(1)} ms (18 places ${half.toFixed(1)} ms)`,
      ratio: whole / half,
      // sums of two masses grow with the square of the places
      must: 'at most 8 times 18 places; meant under 50 ms',
      holds: whole <= 8 * half,
    },
  ];
}
