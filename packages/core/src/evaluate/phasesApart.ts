import type { z } from 'zod';
import { limit, quoteLimit, type ShopLimits } from '../limits/limits.ts';
import { formatNumber } from '../quantity/format.ts';
import { notBelow, type Judged } from '../verdict.ts';
import type { insulationReading } from './insulationCorrection.ts';

type Reading = z.output<typeof insulationReading>;
/** One phase alone, the others earthed, reads about so many times the whole winding. Source: IEEE 43-2013 (from memory). */
const ONE_OF_THREE = 2;
const NAMES = ['A', 'B', 'C'] as const;

/**
 * Phases read one by one, the others earthed: each must reach the minimum of the whole winding once divided by two, and none should
 * read far less than the best. @param factor to 40 °C
 */
export function phasesApart(x: {
  phases: readonly (Reading | undefined)[];
  factor: number;
  minimumMegohm: number;
  limits: ShopLimits;
}): Judged & { wholeMegohm: (number | null)[] } {
  const read = x.phases.map((p) => p && { ...p, whole: (x.factor * p.megohm) / ONE_OF_THREE });
  const name = (i: number) => `phase ${NAMES[i] ?? ''}`;
  const wholeMegohm = read.map((p) => (p && !p.overRange && !p.underRange ? p.whole : null));
  const parts: Judged[] = [];
  read.forEach((p, i) => {
    if (!p) return;
    const says = `${name(i)} alone ${p.underRange ? 'below ' : p.overRange ? 'above ' : ''}${formatNumber(p.megohm)} MΩ, ${formatNumber(p.whole)} MΩ of a whole winding at 40 °C`;
    if (p.underRange || (!p.overRange && !notBelow(p.whole, x.minimumMegohm)))
      parts.push({ verdict: 'fail', reason: `${says}: below ${formatNumber(x.minimumMegohm)} MΩ, look there.` });
    else if (p.overRange && !notBelow(p.whole, x.minimumMegohm))
      parts.push({ verdict: 'cannot judge', reason: `${says}: the range of the instrument ends below the minimum.` });
  });
  const sized = wholeMegohm.flatMap((v, i) => (v === null ? [] : [{ v, i }]));
  const best = Math.max(...sized.map((s) => s.v));
  const least = limit('ir.phasesApartPercent', x.limits);
  const low = sized.filter((s) => !notBelow(s.v, best * (1 - least / 100)));
  if (parts.length === 0 && low.length > 0)
    parts.push({
      verdict: 'attention',
      reason: `${low.map((s) => name(s.i)).join(', ')} more than ${quoteLimit('ir.phasesApartPercent', x.limits)} below the best phase (${sized.map((s) => `${NAMES[s.i]} ${formatNumber(s.v)}`).join(', ')} MΩ): wet or hurt there first.`,
    });
  const [first] = parts;
  return {
    verdict: first ? (parts.find((p) => p.verdict === 'fail') ?? first).verdict : 'pass',
    reason: parts.map((p) => p.reason).join(' '),
    wholeMegohm,
  };
}
