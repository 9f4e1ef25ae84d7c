/** How many times as many cases `npm run test:long` draws; `npm run mutate` repeats every test so often that few must do. */
const MORE = process.env['NORTHER_LONG'] === 'yes' ? 10 : process.env['NORTHER_DRAWS'] === 'few' ? 0.05 : 1;

/** Cases of a property test: as many as `npm test` has time for, ten times as many in the long run. */
export const draws = (n: number): number => Math.max(2, Math.round(n * MORE));
