import { limit, type ShopLimits } from '../limits/limits.ts';
import { formatNumber } from '../quantity/format.ts';
import { judgeUpTo, notAbove, type Judged } from '../verdict.ts';

/** Bearing temperatures at the end of a run: the rise above the air, and what no bearing may pass. Source: common practice. */
export function judgeBearings(x: {
  bearingDriveC?: number | undefined;
  bearingOtherC?: number | undefined;
  ambientC?: number | undefined;
  limits: ShopLimits;
}): Judged[] {
  const bearings: readonly (readonly [string, number | undefined])[] = [
    ['Drive-end', x.bearingDriveC],
    ['Opposite-end', x.bearingOtherC],
  ];
  return bearings.flatMap(([name, c]): Judged[] => {
    if (c === undefined) return [];
    const rise = x.ambientC === undefined ? undefined : c - x.ambientC;
    const tooHot = !notAbove(c, limit('noLoad.bearingMaxC', x.limits));
    const byRise =
      rise === undefined
        ? 'pass'
        : judgeUpTo(rise, limit('noLoad.bearingRisePassK', x.limits), limit('noLoad.bearingRiseAttentionK', x.limits));
    return [
      {
        verdict: tooHot ? 'fail' : byRise,
        reason: `${name} bearing ${formatNumber(c, 3)} °C${rise === undefined ? '' : `, ${formatNumber(rise, 3)} K above the air`}.`,
      },
    ];
  });
}
