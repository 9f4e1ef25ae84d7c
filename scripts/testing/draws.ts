/** How many times as many cases `npm run test:long` draws. */
const MORE = process.env['NORTHER_LONG'] === 'yes' ? 10 : 1;

/** Cases of a property test: as many as `npm test` has time for, ten times as many in the long run. */
export const draws = (n: number): number => n * MORE;
