import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { hottestSpot, readSpots, saySpots } from './coreMap.ts';

describe('hot spots on the core unrolled', () => {
  it('are said hottest first and read back as they were', () => {
    const spots = [
      { slot: 3, along: 0.25, k: 4 },
      { slot: 30, along: 1, k: 12.5 },
    ];
    expect(saySpots(spots)).toBe('slot 30 at 100 %: 12.5 K; slot 3 at 25 %: 4 K');
    expect(readSpots(saySpots(spots))).toEqual([spots[1], spots[0]]);
    expect(hottestSpot(spots)).toBe(12.5);
    expect(hottestSpot([])).toBeUndefined();
  });
  it('what is none is passed over', () => {
    for (const text of ['', 'a burr at the tooth', 'slot 3 at 140 %: 4 K', 'slot x at 3 %: 4 K'])
      expect(readSpots(text)).toEqual([]);
    expect(readSpots('dressed; slot 7 at 5 %: 3,5 K')).toEqual([{ slot: 7, along: 0.05, k: 3.5 }]);
  });
  it('go through the record unchanged', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            slot: fc.integer({ min: 1, max: 144 }),
            along: fc.integer({ min: 0, max: 100 }).map((x) => x / 100),
            k: fc.integer({ min: 0, max: 400 }).map((x) => x / 10),
          }),
          { maxLength: 20 },
        ),
        (spots) => {
          const key = (s: { slot: number; along: number; k: number }) => JSON.stringify(s);
          expect(readSpots(saySpots(spots)).map(key).sort()).toEqual(spots.map(key).sort());
        },
      ),
    ));
});
