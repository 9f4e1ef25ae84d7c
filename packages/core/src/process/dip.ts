import { z } from 'zod';
import { defineCalculation, refuse } from '../calculation.ts';
import { formatNumber } from '../quantity/format.ts';

/** Seconds of a flow cup at the reference temperature: t · e^(b (T − T_ref)) (common practice, b fitted for each resin). */
export const cupAtReference = (seconds: number, resinC: number, referenceC: number, perK: number): number =>
  seconds * Math.exp(perK * (resinC - referenceC));

/** Thinner to add to go from a share of solids to a lower one, kg: m (s₀/s₁ − 1). */
export const thinnerKg = (kg: number, solids: number, wanted: number): number => kg * (solids / wanted - 1);

/** What a coat left, kg: wet = drained − before, cured = after cure − before, retention = cured/wet. */
export interface PickUp {
  wetKg: number;
  curedKg?: number;
  curedPercent?: number;
  retention?: number;
}
export function pickUpOf(beforeKg: number, drainedKg: number, curedKg?: number): PickUp {
  const wetKg = drainedKg - beforeKg;
  if (curedKg === undefined) return { wetKg };
  const cured = curedKg - beforeKg;
  return {
    wetKg,
    curedKg: cured,
    curedPercent: (100 * cured) / beforeKg,
    ...(wetKg > 0 ? { retention: cured / wetKg } : {}),
  };
}

/** Cured over wet may lie this far from the solids before somebody looks (common practice). */
const RETENTION_APART = 0.1;

/** Calculation `process.dip`: the resin of a dip at its reference temperature, the thinner it wants, and what a coat left. */
export const processDip = defineCalculation({
  id: 'process.dip',
  version: 1,
  title: 'Dip: flow cup at the reference temperature, thinner to add, pick-up and retention of a coat',
  sources: ['viscosity by an exponential of the temperature: common practice', 'balance of masses'],
  input: z.strictObject({
    cupS: z.number().positive().max(3600).optional().describe('flow cup, s'),
    resinC: z.number().min(-10).max(90).optional(),
    referenceC: z.number().min(0).max(60).default(25),
    perK: z.number().min(0).max(0.2).default(0.035).describe('change of the cup, per K: 0.03 to 0.05'),
    cupFromS: z.number().positive().optional().describe('band of the data sheet at the reference temperature, s'),
    cupToS: z.number().positive().optional(),
    bathKg: z.number().positive().max(1e5).optional(),
    solids: z.number().positive().max(1).optional().describe('share of solids now'),
    solidsWanted: z.number().positive().max(1).optional(),
    beforeKg: z.number().positive().max(1e5).optional(),
    drainedKg: z.number().positive().max(1e5).optional(),
    curedKg: z.number().positive().max(1e5).optional(),
  }),
  output: z.object({
    atReferenceS: z.number().optional(),
    inBand: z.boolean().optional(),
    thinnerKg: z.number().optional(),
    wetKg: z.number().optional(),
    curedKg: z.number().optional(),
    curedPercent: z.number().optional(),
    retention: z.number().optional(),
    says: z.array(z.string()),
  }),
  example: { cupS: 31, resinC: 21, cupFromS: 24, cupToS: 30, bathKg: 120, solids: 0.52, solidsWanted: 0.5 },
  compute: (input, note) => {
    const says: string[] = [];
    const out: { atReferenceS?: number; inBand?: boolean; thinnerKg?: number } & Partial<PickUp> = {};
    if (input.cupS !== undefined) {
      if (input.resinC === undefined)
        refuse('resinC', 'A flow cup says nothing without the temperature of the resin: state it.');
      const at = cupAtReference(input.cupS, input.resinC, input.referenceC, input.perK);
      out.atReferenceS = at;
      note?.({
        name: `Flow cup at ${formatNumber(input.referenceC)} °C`,
        symbol: 't_ref',
        formula: 't · e^(b · (T − T_ref))',
        numbers: `${formatNumber(input.cupS, 5)} · 2.718281828 ^ (${formatNumber(input.perK, 4)} · (${formatNumber(input.resinC, 5)} − ${formatNumber(input.referenceC, 5)}))`,
        value: at,
        unit: 's',
        source: 'common practice',
      });
      if (input.cupFromS !== undefined && input.cupToS !== undefined) {
        if (input.cupFromS > input.cupToS) refuse('cupToS', 'The band of the flow cup ends below its beginning.');
        out.inBand = at >= input.cupFromS && at <= input.cupToS;
        says.push(
          out.inBand
            ? `${formatNumber(at)} s at ${formatNumber(input.referenceC)} °C, inside ${formatNumber(input.cupFromS)} to ${formatNumber(input.cupToS)} s.`
            : at > input.cupToS
              ? `${formatNumber(at)} s at ${formatNumber(input.referenceC)} °C, thicker than ${formatNumber(input.cupToS)} s: thin it, or warm it as its data sheet allows.`
              : `${formatNumber(at)} s at ${formatNumber(input.referenceC)} °C, thinner than ${formatNumber(input.cupFromS)} s: top up with fresh resin.`,
        );
      }
    }
    if (input.bathKg !== undefined && input.solids !== undefined && input.solidsWanted !== undefined) {
      if (input.solidsWanted > input.solids)
        refuse('solidsWanted', 'Thinner only lowers the share of solids: for more solids add resin.');
      out.thinnerKg = thinnerKg(input.bathKg, input.solids, input.solidsWanted);
      says.push(`Add ${formatNumber(out.thinnerKg)} kg of thinner, stir, and read the cup again.`);
    }
    if (input.beforeKg !== undefined && input.drainedKg !== undefined) {
      if (input.drainedKg < input.beforeKg)
        refuse('drainedKg', 'After draining the part weighs less than before the dip: one of the two was misread.');
      if (input.curedKg !== undefined && input.curedKg > input.drainedKg)
        refuse('curedKg', 'After the cure the part weighs more than after draining: one of the two was misread.');
      const left = pickUpOf(input.beforeKg, input.drainedKg, input.curedKg);
      Object.assign(out, left);
      if (left.retention !== undefined && input.solids !== undefined)
        says.push(
          Math.abs(left.retention - input.solids) <= RETENTION_APART
            ? `${formatNumber(100 * left.retention)} % of the wet resin stayed, as its solids of ${formatNumber(100 * input.solids)} % let expect.`
            : left.retention < input.solids
              ? `${formatNumber(100 * left.retention)} % of the wet resin stayed where ${formatNumber(100 * input.solids)} % are solids: it ran out before it gelled, or the bath is thinner than thought.`
              : `${formatNumber(100 * left.retention)} % of the wet resin stayed where ${formatNumber(100 * input.solids)} % are solids: weigh again; solvent may still be in it.`,
        );
    }
    return { ...out, says };
  },
});
