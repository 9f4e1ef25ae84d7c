import { formatNumber } from '../quantity/format.ts';
import { limit, quoteLimit } from '../limits/limits.ts';
import { notBelow } from '../verdict.ts';
import { bestPlaces } from '../surge/turned.ts';
import { judgeSurge, type SurgeJudged, type SurgeQuestion } from './surgeJudged.ts';

/**
 * A comparison with the rotor in place that was turned by hand while every wave was taken several times at one reduced voltage: each
 * wave at its own best place. What stays apart at every place is the winding; the steps of rising voltage are judged as ever.
 * Source: common practice.
 */
export function judgeTurned(q: SurgeQuestion): SurgeJudged {
  const best = bestPlaces(q.waves);
  if (!best) {
    const judged = judgeSurge(q);
    return {
      ...judged,
      verdict: judged.verdict === 'fail' ? judged.verdict : 'cannot judge',
      reason: `The rotor was not turned: take every wave at several places of the rotor, at one voltage. ${judged.reason}`,
    };
  }
  const reachedV = Math.min(...q.waves.map((w) => Math.max(...w.pulses.map((p) => p.appliedV))));
  const wasRaised = best.rising.every((w) => w.pulses.length > 0);
  const rising = wasRaised ? judgeSurge({ ...q, waves: best.rising, requiredV: undefined }) : undefined;
  const told = `Rotor turned to ${best.places} places at ${formatNumber(best.appliedV)} V; a wave drifts by up to ${formatNumber(best.driftPercent, 3)} %, each is taken at its best place.`;
  // what gives way from pulse to pulse is no effect of a rotor that stands still meanwhile
  if (rising?.breakdown) return { ...rising, reason: `${told} ${rising.reason}` };
  const judged = judgeSurge({
    ...q,
    waves: best.waves,
    rotor: 'out',
    rotorSays: 'in, best places',
    requiredV: undefined,
  });
  const stays = judged.verdict === 'fail' ? ' It stays at every place: it is not the rotor.' : '';
  const reason = `${told} ${judged.reason}${stays}`;
  const least = q.requiredV === undefined ? 0 : (limit('surge.reachedPercent', q.limits) / 100) * q.requiredV;
  if (judged.verdict === 'fail' || notBelow(reachedV, least))
    return { ...judged, reason, reachedV, requiredV: q.requiredV };
  return {
    ...judged,
    verdict: 'cannot judge',
    reason: `${reason} Reached ${formatNumber(reachedV)} V, ${quoteLimit('surge.reachedPercent', q.limits)} of ${formatNumber(q.requiredV ?? 0)} V are needed: not proved.`,
    reachedV,
    requiredV: q.requiredV,
  };
}
