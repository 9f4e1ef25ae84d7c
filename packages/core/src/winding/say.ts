/**
 * Spans of the coils of a group as slots of the stator, outermost first: coils one inside the other lie nested, so 8, 6, 4 are 1-9,
 * 2-8, 3-7; equal coils all read 1-9. Where the spans are no nest (lap coils of unlike spans) each is counted from slot 1.
 * @example saySpans([8, 6, 4]) // '1-9, 2-8, 3-7'
 */
export function saySpans(spans: readonly number[] | undefined): string | undefined {
  if (!spans || spans.length === 0) return undefined;
  const outer = Math.max(...spans);
  const nested = spans.length > 1 && new Set(spans).size === spans.length && spans.every((y) => (outer - y) % 2 === 0);
  return spans
    .map((y) => {
      const first = nested ? 1 + (outer - y) / 2 : 1;
      return `${first}-${first + y}`;
    })
    .join(', ');
}

/** @example sayCircuits(1) // '1 circuit' */
export const sayCircuits = (n: number | string | undefined): string =>
  `${n ?? '?'} ${n === 1 ? 'circuit' : 'circuits'}`;
