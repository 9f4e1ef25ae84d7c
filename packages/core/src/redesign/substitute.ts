import { z } from 'zod';
import { defineCalculation, refuse } from '../calculation.ts';
import { insulatedDiameterM } from '../wire/insulatedDiameter.ts';
import { conductorAreaM2, type Strand } from '../wire/strands.ts';
import { roundAreaM2 } from '../wire/strands.ts';

export interface WireSize {
  bareM: number;
  label: string;
}
export interface Mix {
  /** rising bare diameter */
  strands: Strand[];
  areaM2: number;
  count: number;
  /** Σ n d_o², for the slot fill */
  squaresM2: number;
}

/** Sizes in one hand stay within this ratio of diameters: about 3 to 4 gauge numbers (common practice). */
export const MOST_RATIO = 1.6;

/**
 * Every mix of up to three sizes and `most` wires in hand, thinnest first, in rising area. Enumerated once for a stock.
 * @param widestM largest insulated diameter that passes the slot opening
 */
export function allMixes(sizes: readonly WireSize[], most: number, grade: 1 | 2, widestM = Infinity): Mix[] {
  const usable = [...new Map(sizes.map((s) => [s.bareM, s])).values()]
    .map((s) => ({ ...s, area: roundAreaM2(s.bareM), over: insulatedDiameterM(s.bareM, grade) }))
    .filter((s) => s.over <= widestM)
    .sort((a, b) => a.bareM - b.bareM);
  const out: Mix[] = [];
  const grow = (from: number, left: number, taken: { at: number; n: number }[]): void => {
    for (let i = from; i < usable.length; i++) {
      const size = usable[i];
      const first = taken[0] ? usable[taken[0].at] : undefined;
      if (!size || (first && size.bareM > MOST_RATIO * first.bareM)) break;
      for (let n = 1; n <= left; n++) {
        const next = [...taken, { at: i, n }];
        let areaM2 = 0;
        let squaresM2 = 0;
        let count = 0;
        const strands = next.map((t) => {
          const s = usable[t.at] as (typeof usable)[number];
          areaM2 += t.n * s.area;
          squaresM2 += t.n * s.over ** 2;
          count += t.n;
          return { count: t.n, bareM: s.bareM, label: s.label };
        });
        out.push({ strands, areaM2, count, squaresM2 });
        if (next.length < 3 && left > n) grow(i + 1, left - n, next);
      }
    }
  };
  grow(0, most, []);
  return out.sort((a, b) => a.areaM2 - b.areaM2);
}

/** First index whose area is not below the wanted one. */
export function firstFrom(mixes: readonly Mix[], areaM2: number): number {
  let low = 0;
  let high = mixes.length;
  while (low < high) {
    const mid = (low + high) >> 1;
    if ((mixes[mid]?.areaM2 ?? Infinity) < areaM2) low = mid + 1;
    else high = mid;
  }
  return low;
}

/** Mixes within a tolerance of an area, best first: error, then fewer sizes, fewer wires, smaller squares. */
export function substitutes(
  mixes: readonly Mix[],
  targetM2: number,
  toleranceShare: number,
): (Mix & { error: number })[] {
  const from = firstFrom(mixes, targetM2 * (1 - toleranceShare) * (1 - 1e-12));
  const out: (Mix & { error: number })[] = [];
  for (let i = from; i < mixes.length; i++) {
    const mix = mixes[i] as Mix;
    if (mix.areaM2 > targetM2 * (1 + toleranceShare) * (1 + 1e-12)) break;
    out.push({ ...mix, error: mix.areaM2 / targetM2 - 1 });
  }
  return out.sort(
    (a, b) =>
      Math.abs(a.error) - Math.abs(b.error) ||
      a.strands.length - b.strands.length ||
      a.count - b.count ||
      a.squaresM2 - b.squaresM2,
  );
}

/** Calculation `wire.substitute`. */
export const wireSubstitute = defineCalculation({
  id: 'wire.substitute',
  version: 1,
  title: 'Wire substitution: mixes of up to three sizes from what is at hand, by area',
  sources: ['areas add, diameters never (derived)', 'ratio of sizes in one hand 1.6: common practice'],
  input: z.strictObject({
    targetMm2: z.number().positive().optional().describe('conductor area wanted; or give wires'),
    wires: z.array(z.strictObject({ count: z.int().min(1).max(40), bareMm: z.number().positive().max(20) })).optional(),
    sizesMm: z.array(z.number().positive().max(20)).min(1).max(60).describe('bare diameters at hand'),
    mostWires: z.int().min(1).max(12).default(4),
    tolerancePercent: z.number().positive().max(20).default(1),
    grade: z.union([z.literal(1), z.literal(2)]).default(2),
    slotOpeningMm: z.number().positive().optional(),
    linerMm: z.number().min(0).default(0.25),
  }),
  output: z.object({
    targetMm2: z.number(),
    found: z.array(
      z.object({
        say: z.string(),
        areaMm2: z.number(),
        errorPercent: z.number(),
        sizes: z.number(),
        wires: z.number(),
        densityChangePercent: z.number(),
        squaresMm2: z.number(),
      }),
    ),
  }),
  example: { wires: [{ count: 1, bareMm: 1.6277 }], sizesMm: [1.1495, 1.0237, 0.9116, 0.8118] },
  compute: (x) => {
    const target =
      x.targetMm2 ??
      (x.wires
        ? conductorAreaM2(x.wires.map((w) => ({ count: w.count, bareM: w.bareMm / 1000, label: '' }))) * 1e6
        : 0);
    if (!(target > 0)) refuse('targetMm2', 'Give the area wanted in mm², or the wires to be replaced.');
    const room = x.slotOpeningMm === undefined ? Infinity : (x.slotOpeningMm - 2 * x.linerMm - 0.3) / 1000;
    const mixes = allMixes(
      x.sizesMm.map((d) => ({ bareM: d / 1000, label: String(d) })),
      x.mostWires,
      x.grade,
      room,
    );
    return {
      targetMm2: target,
      found: substitutes(mixes, target * 1e-6, x.tolerancePercent / 100)
        .slice(0, 60)
        .map((m) => ({
          say: m.strands.map((s) => `${s.count}x${s.label}`).join(' + '),
          areaMm2: m.areaM2 * 1e6,
          errorPercent: 100 * m.error,
          sizes: m.strands.length,
          wires: m.count,
          densityChangePercent: 100 * (1 / (1 + m.error) - 1),
          squaresMm2: m.squaresM2 * 1e6,
        })),
    };
  },
});
