/** How many times as many cases `npm run test:long` draws; `npm run mutate` repeats every test so often that few must do. */
const FEW = process.env['NORTHER_DRAWS'] === 'few';
const MORE = process.env['NORTHER_LONG'] === 'yes' ? 10 : FEW ? 0.05 : 1;

/** Cases of a property test: as many as `npm test` has time for, ten times as many in the long run. */
export const draws = (n: number): number => Math.max(2, Math.round(n * MORE));

/** Cases of an enumeration: all of them, and under `npm run mutate` one in so many. */
export const some = <T>(list: readonly T[], oneIn: number): readonly T[] =>
  FEW ? list.filter((_, i) => i % oneIn === 0) : list;
