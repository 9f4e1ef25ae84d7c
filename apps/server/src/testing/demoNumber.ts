import { demoNumber } from '../demo/demoNumbers.ts';

/** Numbers as the demo shop got them; asked once, so that a test that runs over midnight keeps them. */
const begun = new Map<number, string>();

/** The number of the n-th motor of the demo shop: never written into a test, as it holds the year. */
export function demo(nth: number): string {
  let number = begun.get(nth);
  if (number === undefined) begun.set(nth, (number = demoNumber(nth)));
  return number;
}
