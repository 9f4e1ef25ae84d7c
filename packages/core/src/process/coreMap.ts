/** A hot spot of a core test, on the core unrolled: at which slot, how far along the core from the connection end (0 to 1), K over the core round it. */
export interface HotSpot {
  slot: number;
  along: number;
  k: number;
}

/** As it stands in the record of the step. @example saySpots([{ slot: 12, along: 0.4, k: 8 }]) // 'slot 12 at 40 %: 8 K' */
export const saySpots = (spots: readonly HotSpot[]): string =>
  [...spots]
    .sort((a, b) => b.k - a.k)
    .map((s) => `slot ${s.slot} at ${Math.round(100 * s.along)} %: ${Number(s.k.toFixed(1))} K`)
    .join('; ');

/** The spots that a record names; what is not one of them is passed over. */
export function readSpots(text: string): HotSpot[] {
  return text.split(';').flatMap((part): HotSpot[] => {
    const is = /slot (\d{1,4}) at (\d{1,3}) ?%: (\d{1,3}(?:[.,]\d+)?) ?K/i.exec(part);
    if (!is) return [];
    const along = Number(is[2]) / 100;
    return along > 1 ? [] : [{ slot: Number(is[1]), along, k: Number(is[3]?.replace(',', '.')) }];
  });
}

/** The hottest of them, K; undefined where there is none. */
export const hottestSpot = (spots: readonly HotSpot[]): number | undefined =>
  spots.length === 0 ? undefined : Math.max(...spots.map((s) => s.k));
