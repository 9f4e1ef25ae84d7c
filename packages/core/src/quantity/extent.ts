/**
 * Largest of any number of values; `Math.max(...values)` overflows the stack above about 100,000.
 * @example largestOf([2, 7, 1]) // 7
 */
export function largestOf(values: Iterable<number>, atLeast = Number.NEGATIVE_INFINITY): number {
  let largest = atLeast;
  for (const v of values) if (v > largest) largest = v;
  return largest;
}

/** Smallest of any number of values. @example smallestOf([2, 7, 1]) // 1 */
export function smallestOf(values: Iterable<number>, atMost = Number.POSITIVE_INFINITY): number {
  let smallest = atMost;
  for (const v of values) if (v < smallest) smallest = v;
  return smallest;
}

/** Middle value; of an even number of values the mean of the two in the middle. 0 of none. @example median([1, 9, 3, 5]) // 4 */
export function median(values: readonly number[]): number {
  const sorted = Float64Array.from(values).sort();
  const half = Math.floor(sorted.length / 2);
  const upper = sorted[half] ?? 0;
  return sorted.length % 2 === 1 ? upper : ((sorted[half - 1] ?? upper) + upper) / 2;
}
