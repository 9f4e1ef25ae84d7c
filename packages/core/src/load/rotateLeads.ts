import { limit, type ShopLimits } from '../limits/limits.ts';
import { notAbove, notBelow } from '../verdict.ts';

/** Amperes of one run: of motor leads 1, 2, 3. */
export type LeadAmps = readonly [number, number, number];

export interface LeadRotation {
  meanA: number;
  /** what stays with each lead of the motor, and with each line of the supply, A */
  leadA: LeadAmps;
  lineA: LeadAmps;
  /** the largest of either, % of the mean */
  leadPercent: number;
  linePercent: number;
  follows: 'balanced' | 'supply' | 'motor' | 'both';
  /** the means of the three runs lie further apart than they may: the supply drifted, repeat */
  drifted: boolean;
}

/** The line, from 1, that a lead of the motor lies on in a run, both from 0. */
export const lineOfLead = (lead: number, run: number): number => ((lead + run) % 3) + 1;

/**
 * Three runs, the motor's leads one line further each time (which keeps the direction): what stays with the lead is the motor, what
 * stays with the line is the supply. Source: derived, to first order, for unbalances up to some 15 %.
 * @param runs run p: lead t lies on line (t + p) mod 3
 */
export function rotateLeads(runs: readonly [LeadAmps, LeadAmps, LeadAmps], limits: ShopLimits = {}): LeadRotation {
  const balanced = limit('load.balancedPercent', limits);
  const meanA = runs.flat().reduce((sum, a) => sum + a, 0) / 9;
  const of = (at: (p: number, k: number) => number | undefined): LeadAmps =>
    [0, 1, 2].map((k) => [0, 1, 2].reduce((sum, p) => sum + (at(p, k) ?? 0), 0) / 3 - meanA) as unknown as LeadAmps;
  const leadA = of((p, t) => runs[p]?.[t]);
  const lineA = of((p, l) => runs[p]?.[(l - p + 3) % 3]);
  const percent = (effect: LeadAmps) => (100 * Math.max(...effect.map(Math.abs))) / meanA;
  const [leadPercent, linePercent] = [percent(leadA), percent(lineA)];
  const means = runs.map((r) => (r[0] + r[1] + r[2]) / 3);
  return {
    meanA,
    leadA,
    lineA,
    leadPercent,
    linePercent,
    follows:
      notAbove(leadPercent, balanced) && notAbove(linePercent, balanced)
        ? 'balanced'
        : notBelow(linePercent, 2 * leadPercent)
          ? 'supply'
          : notBelow(leadPercent, 2 * linePercent)
            ? 'motor'
            : 'both',
    drifted: !notAbove((100 * (Math.max(...means) - Math.min(...means))) / meanA, limit('load.driftPercent', limits)),
  };
}
