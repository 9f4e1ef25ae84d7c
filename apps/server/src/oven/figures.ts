import { formatNumber, type LiveNow, type Typed } from '@norther/core';
import type { LoadAll, PartRow } from './ovenRepository.ts';

const c = (x: number): string => `${formatNumber(x, 4)} °C`;
const h = (min: number): string => `${formatNumber(min / 60, 3)} h`;

/** What the log of a load answers in the records of the operations, as a person would type it: so far. */
export function figuresNow(all: LoadAll, part: PartRow, now: LiveNow): Record<string, Typed> {
  const read = now.parts.filter((p) => p.c !== undefined);
  if (read.length === 0) return {};
  return figuresOf(all, part, {
    hottestC: Math.max(...read.map((p) => p.hottest)),
    atC: Math.min(...read.map((p) => p.c ?? Infinity)),
    minutes: Math.min(...now.parts.map((p) => p.totalMin)),
  });
}

export function figuresOf(
  all: LoadAll,
  part: Pick<PartRow, 'corePlate'>,
  of: {
    hottestC: number;
    atC: number;
    minutes: number;
    coolingKH?: number | undefined;
    atOpeningC?: number | undefined;
  },
): Record<string, Typed> {
  const oven = `${all.chamber.name}, load ${all.load.number}`;
  switch (all.load.use) {
    case 'bake':
      return { CUR: { oven } };
    case 'dry':
      return {
        PRE: { part: c(of.atC), hours: h(of.minutes) },
        ODR: { part: c(of.atC), hours: h(of.minutes) },
        WSH: { dry: c(of.hottestC), hours: h(of.minutes) },
      };
    case 'burn-off':
      return {
        BRN: {
          ...(part.corePlate ? { corePlate: part.corePlate } : {}),
          partMax: c(of.hottestC),
          hoursAbove: h(of.minutes),
          load: oven,
        },
        ...(of.coolingKH === undefined || of.atOpeningC === undefined
          ? {}
          : { COL: { atOpening: c(of.atOpeningC), rate: `${formatNumber(of.coolingKH, 3)} K` } }),
      };
  }
}
