import { limit, quoteLimit } from '../limits/limits.ts';
import type { ShopLimits } from '../limits/limits.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { combineVerdicts, notAbove, notBelow, type Judged } from '../verdict.ts';
import { chargingA, DC_FACTOR, type Withstand } from './withstand.ts';

export const ENDINGS = ['held', 'breakdown', 'trip'] as const;
export type Ending = (typeof ENDINGS)[number];
export const KINDS_OF_VOLTAGE = ['AC', 'DC'] as const;
export type KindOfVoltage = (typeof KINDS_OF_VOLTAGE)[number];

/** Held for a minute, s. Source: IEC 60034-1 (from memory). */
export const HOLD_S = 60;
const PRODUCTION_S = 1;

/** A high-potential test as it was done. */
export interface HighPotentialDone {
  kind: KindOfVoltage;
  required: Withstand;
  /** what the required voltage was worked out for, in words: new, repeat … */
  state: string;
  ended: Ending;
  reachedV: number | undefined;
  heldS: number | undefined;
  rampS: number | undefined;
  currentA: number | undefined;
  tripA: number | undefined;
  farad: number | undefined;
  frequencyHz: number | undefined;
  /** median current of motors of its kind at this voltage */
  usualA: number | undefined;
  /** it held, but something was seen: noise, light, smell */
  seen: boolean;
  limits: ShopLimits;
}

const milliampere = (amps: number): string => `${formatNumber(1000 * amps, 3)} mA`;

/**
 * Judges a high-potential test. Breakdown decides; a trip of the set is one too, unless the set was too low for the charging current.
 * Then voltage and time, then what the current says.
 */
export function judgeHighPotential(x: HighPotentialDone): Judged & { requiredV: number; charging: number | undefined } {
  const { limits, required } = x;
  const isDc = x.kind === 'DC';
  const wanted = isDc ? required.dcV : required.testV;
  const production = productionHolds(x, wanted);
  const needV = production ? (isDc ? DC_FACTOR : 1) * (required.productionV ?? wanted) : wanted;
  const needS = production ? PRODUCTION_S : HOLD_S;
  const charging =
    isDc || x.farad === undefined || x.frequencyHz === undefined
      ? undefined
      : chargingA(x.farad, x.reachedV ?? wanted, x.frequencyHz);
  const rule = `${x.state}: ${required.formula}${isDc ? `, ${DC_FACTOR} times as direct voltage` : ''} (${required.source})`;
  const done = `${x.reachedV === undefined ? 'No voltage' : `${formatNumber(x.reachedV)} V ${x.kind}`}${
    x.heldS === undefined ? '' : ` for ${formatNumber(x.heldS)} s`
  }${x.currentA === undefined ? '' : `, at most ${milliampere(x.currentA)}`}; wanted ${formatNumber(needV)} V for ${needS} s (${rule}).`;
  const out = (verdict: Judged['verdict'], says: string) => ({
    verdict,
    reason: `${done}${says}`,
    requiredV: needV,
    charging,
  });
  if (x.ended === 'breakdown')
    return out(
      'fail',
      ' Breakdown, flash or collapse of the voltage: the insulation to ground is gone. Part the phases, find the place.',
    );
  if (x.ended === 'trip') {
    if (charging !== undefined && x.tripA !== undefined && !notAbove(charging, x.tripA))
      return out(
        'cannot judge',
        ` The set trips at ${milliampere(x.tripA)}, but charging alone takes ${milliampere(charging)}: set it to ${milliampere(limit('hipot.tripFactor', limits) * charging)} at least and repeat.`,
      );
    return out(
      'fail',
      ' The current tripped the set without collapse of the voltage: too much leaks. Clean, dry, measure insulation resistance, find the place.',
    );
  }
  if (x.reachedV === undefined || x.heldS === undefined)
    return out('cannot judge', ' Voltage and time held are needed.');
  const least = (limit('hipot.reachedPercent', limits) / 100) * needV;
  if (!notBelow(x.reachedV, least)) {
    const [reached, needed] = formatAgainst(x.reachedV, least);
    return out(
      'cannot judge',
      ` Reached ${reached} V, less than ${needed} V (${quoteLimit('hipot.reachedPercent', limits)}): not proved.`,
    );
  }
  if (!notBelow(x.heldS, needS)) return out('cannot judge', ` Held for less than ${needS} s: not proved.`);
  const parts: Judged[] = [{ verdict: 'pass', reason: ' Held.' }];
  const most = (limit('hipot.overPercent', limits) / 100) * needV;
  if (!notAbove(x.reachedV, most)) {
    const [reached, bound] = formatAgainst(x.reachedV, most);
    parts.push({
      verdict: 'attention',
      reason: ` ${reached} V is more than ${bound} V (${quoteLimit('hipot.overPercent', limits)}): valid, but overstressed.`,
    });
  }
  if (x.currentA !== undefined && x.usualA !== undefined) {
    const bound = limit('hipot.leakageFactor', limits) * x.usualA;
    if (!notAbove(x.currentA, bound))
      parts.push({
        verdict: 'attention',
        reason: ` ${milliampere(x.currentA)} is more than ${limit('hipot.leakageFactor', limits)} times the ${milliampere(x.usualA)} usual for its kind (common practice).`,
      });
  }
  if (x.seen) parts.push({ verdict: 'attention', reason: ' Something was seen: look again before it goes on.' });
  if (!production && x.rampS !== undefined && !notBelow(x.rampS, limit('hipot.rampS', limits)))
    parts.push({
      verdict: 'attention',
      reason: ` Raised from half to full in ${formatNumber(x.rampS)} s, less than ${quoteLimit('hipot.rampS', limits)}.`,
    });
  return out(combineVerdicts(parts.map((p) => p.verdict)), parts.map((p) => p.reason).join(''));
}

/** One second at 120 % where that may stand for the minute: told by what was held. */
function productionHolds({ required, heldS, reachedV, kind, limits }: HighPotentialDone, wanted: number): boolean {
  if (required.productionV === undefined || heldS === undefined || reachedV === undefined) return false;
  const volts = (kind === 'DC' ? DC_FACTOR : 1) * required.productionV;
  return (
    !notBelow(heldS, HOLD_S) &&
    notBelow(heldS, PRODUCTION_S) &&
    notBelow(reachedV, (limit('hipot.reachedPercent', limits) / 100) * volts) &&
    volts > wanted
  );
}
