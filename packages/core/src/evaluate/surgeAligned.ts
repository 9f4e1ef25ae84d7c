import { limit, quoteLimit } from '../limits/limits.ts';
import type { ShopLimits } from '../limits/limits.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { sameVoltage, type WaveRecord } from '../surge/levels.ts';
import { alignedArea, type Aligned } from '../surge/wave.ts';
import { combineVerdicts, notAbove, notBelow, type Judged } from '../verdict.ts';

/** A wave beside an earlier one of the same winding: area once the frequencies are aligned, and the shift itself. */
export function judgeAligned(found: Aligned, acrossCure: boolean, limits: ShopLimits): Judged {
  const id = acrossCure ? 'surge.cureAreaPercent' : 'surge.earlierAreaPercent';
  const most = limit(id, limits);
  const [area] = formatAgainst(found.alignedPercent, most);
  const within = notAbove(found.alignedPercent, most);
  const [fall, rise] = [limit('surge.cureFallPercent', limits), limit('surge.cureRisePercent', limits)];
  const inBand = notBelow(found.shiftPercent, -fall) && notAbove(found.shiftPercent, rise);
  const shift = formatNumber(found.shiftPercent, 3);
  const parts: Judged[] = [
    {
      verdict: within ? 'pass' : 'attention',
      reason: `Area ${area} % once the frequencies are aligned, ${within ? 'within' : 'above'} ${quoteLimit(id, limits)}${acrossCure ? ', across the cure' : ''} (${formatNumber(found.plainPercent, 3)} % as the waves stand).`,
    },
    {
      verdict: inBand ? 'pass' : 'attention',
      reason: inBand
        ? `Ring frequency ${shift} %, between −${fall} and +${rise} % (common practice).`
        : `Ring frequency ${shift} %, outside −${fall} to +${rise} % (common practice)${found.shiftPercent > 0 ? ': a rise means turns lost' : ''}.`,
    },
  ];
  return { verdict: combineVerdicts(parts.map((p) => p.verdict)), reason: parts.map((p) => p.reason).join(' ') };
}

/** One wave against its earlier self. */
export interface AgainstEarlier extends Aligned, Judged {
  wave: string;
  appliedV: number;
}

/** Each wave against the earlier one of its name, at the highest voltage that both were taken at. */
export function againstEarlier(
  now: readonly WaveRecord[],
  earlier: readonly WaveRecord[],
  acrossCure: boolean,
  limits: ShopLimits,
): AgainstEarlier[] {
  return now.flatMap((wave): AgainstEarlier[] => {
    const before = earlier.find((w) => w.name === wave.name);
    if (!before) return [];
    const falling = [...wave.pulses].sort((a, b) => b.appliedV - a.appliedV);
    for (const pulse of falling) {
      const own = before.pulses.findLast((p) => sameVoltage(p.appliedV, pulse.appliedV));
      const found = own && alignedArea(own, pulse);
      if (found)
        return [{ wave: wave.name, appliedV: pulse.appliedV, ...found, ...judgeAligned(found, acrossCure, limits) }];
    }
    return [];
  });
}
