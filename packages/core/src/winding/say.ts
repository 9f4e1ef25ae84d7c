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

/** Coils from slot to slot, as they are numbered on the core. */
export const sayPairs = (pairs: readonly (readonly [number, number])[]): string =>
  pairs.map(([go, back]) => `${go}-${back}`).join(', ');

/** The coils of a record as they are read off the core: spans from slot 1, coils of a list, full and half ones. */
export function sayCoils(record: {
  readonly spansSlots?: readonly number[] | undefined;
  readonly coilList?: readonly (readonly [number, number])[] | undefined;
  readonly sideKinds?: readonly string[] | undefined;
}): string | undefined {
  const { spansSlots: spans, coilList, sideKinds } = record;
  if (coilList) return sayPairs(coilList);
  if (!spans || !sideKinds) return saySpans(spans && [...spans]);
  const outer = Math.max(...spans);
  return spans.map((y, i) => `${1 + (outer - y) / 2}-${1 + (outer + y) / 2} ${sideKinds[i] ?? ''}`.trim()).join(', ');
}
