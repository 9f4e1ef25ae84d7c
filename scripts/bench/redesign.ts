import { EXAMPLE_PLATE, EXAMPLE_RECORD, redesign, redesignSteps, redesignWishSchema } from '@norther/core';
import { redesignByBruteForce } from '../testing/bruteForce.ts';
import type { Figure } from './figure.ts';

const SIZES = [
  0.4, 0.425, 0.45, 0.475, 0.5, 0.53, 0.56, 0.6, 0.63, 0.67, 0.71, 0.75, 0.8, 0.85, 0.9, 0.95, 1, 1.06, 1.12, 1.18,
  1.25, 1.32, 1.4, 1.5, 1.6,
];
const stock = (n: number) => {
  const every = SIZES.length / n;
  return Array.from({ length: n }, (_, i) => SIZES[Math.floor(i * every)] as number).map((d) => ({
    bareM: d / 1000,
    label: String(d),
  }));
};

const timed = (work: () => void, runs: number): number => {
  const times = Array.from({ length: runs }, () => {
    const start = performance.now();
    work();
    return performance.now() - start;
  }).sort((a, b) => a - b);
  return times[Math.floor(runs / 2)] ?? 0;
};

/** The search for a changed rewind: every circuit count, both connections, every span, mixes of up to three sizes. */
export function benchRedesign(): Figure[] {
  const wish = redesignWishSchema.parse({ mostWires: 6, mostSizes: 3 });
  const few = redesignWishSchema.parse({ mostWires: 5, mostSizes: 3 });
  redesign(EXAMPLE_RECORD, EXAMPLE_PLATE, wish, stock(10), { many: 10 });
  const full = timed(() => redesign(EXAMPLE_RECORD, EXAMPLE_PLATE, wish, stock(25), { many: 10 }), 9);
  const first = timed(() => {
    const steps = redesignSteps(EXAMPLE_RECORD, EXAMPLE_PLATE, wish, stock(25), { many: 10 });
    for (let step = steps.next(); !step.done; step = steps.next()) if (step.value.best().length > 0) return;
  }, 9);
  // working out every record takes minutes over the full stock, so the two are compared over a smaller one
  const fast = timed(() => redesign(EXAMPLE_RECORD, EXAMPLE_PLATE, few, stock(6), { many: 10 }), 9);
  let slow: ReturnType<typeof redesignByBruteForce> = [];
  const brute = timed(() => {
    slow = redesignByBruteForce(EXAMPLE_RECORD, EXAMPLE_PLATE, few, stock(6), 10);
  }, 1);
  const best = redesign(EXAMPLE_RECORD, EXAMPLE_PLATE, few, stock(6), { many: 10 }).candidates;
  const same = best.length === 10 && best.every((c, i) => Math.abs(c.score - (slow[i]?.score ?? NaN)) < 1e-9);
  return [
    {
      name: 'redesign search, 25 sizes, up to 6 wires of 3 sizes',
      value: `${full.toFixed(0)} ms, first results after ${first.toFixed(0)} ms (meant: under 300 and 50 ms)`,
      ratio: full / Math.max(1e-9, first),
      must: 'first results no later than the whole',
      holds: first <= full * 1.2,
    },
    {
      name: 'redesign search against working out every record',
      value: `${fast.toFixed(1)} ms against ${brute.toFixed(0)} ms, best ten ${same ? 'equal' : 'DIFFER'}`,
      ratio: brute / fast,
      must: 'at least 20 times as fast, same best ten',
      holds: brute / fast >= 20 && same,
    },
  ];
}
