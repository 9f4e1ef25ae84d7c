/** What a no-load current is compared with. */
export type ExpectedFrom = 'this winding and its gap' | 'as found' | 'the middle of the usual band';

const STAR_FOR_DELTA = 'star instead of delta';
const SERIES_FOR_PARALLEL = 'series instead of parallel';
const DELTA_FOR_STAR = 'delta instead of star';
const PARALLEL_FOR_SERIES = 'parallel instead of series';

/**
 * Names of a no-load current far off, likeliest first; none where the ratio to the expected current says nothing. The linear ratio
 * names first, saturation moves it, so near the borders both names are printed. Source: derived (docs/derivations.md).
 */
export function noLoadNames(ratio: number): string[] {
  if (ratio > 3.5) return [PARALLEL_FOR_SERIES, DELTA_FOR_STAR];
  if (ratio >= 2.5) return [DELTA_FOR_STAR, PARALLEL_FOR_SERIES];
  if (ratio > 0.4 || ratio < 0.15) return [];
  if (ratio > 0.33) return [STAR_FOR_DELTA];
  return ratio >= 0.27 ? [STAR_FOR_DELTA, SERIES_FOR_PARALLEL] : [SERIES_FOR_PARALLEL, STAR_FOR_DELTA];
}

/** Above this ratio the run is not repeated at full voltage. */
const STOP_RATIO = 2.5;

/** The sentence about a current that is far off. */
export function sayNoLoadNames(ratio: number, from: ExpectedFrom): string {
  const names = noLoadNames(ratio);
  const likely = from === 'this winding and its gap' ? '' : ' (likely)';
  if (names.length === 0)
    return ratio < 1
      ? ' Low: look at the connection first, then too many turns.'
      : ' High: too few turns, wrong connection, overvoltage or a large gap.';
  const stop = ratio >= STOP_RATIO ? ' Stop; do not repeat at full voltage.' : '';
  return ` ${names[0]?.replace(/^./, (c) => c.toUpperCase())}${likely}${names[1] ? `, or ${names[1]}` : ''}.${stop} The line resistance decides: 3 times the plan is star for delta, a third delta for star, 4 times series for two circuits, a quarter the reverse.`;
}
