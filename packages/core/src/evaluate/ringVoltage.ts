import { z } from 'zod';
import { defineCalculation, type Calculation } from '../calculation.ts';
import { limit, type ShopLimits } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { choice, need, quantity, text } from '../process/fieldKinds.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { judgedTogether, judgeUpTo, notAbove, notBelow, outOfCalibration, type Judged } from '../verdict.ts';
import { windingRotorVoltage } from '../winding/parts.ts';
import { ratingOf } from '../winding/recordLayout.ts';
import { isNear } from './resistanceRatio.ts';
import { num, type JudgingContext, type TestKind } from './testKind.ts';
import { unbalancePercent } from './windingResistance.ts';

/** Stator voltage of the test, per cent of rated: below it the ring voltages say little, above it no one goes. */
const APPLIED_PERCENT = [15, 100] as const;
/** A pair below this share of the largest is dead. */
const DEAD_SHARE = 0.05;

/** What three ring voltages K–L, L–M, M–K show beside their size; rings in wye. Source: derived (docs/derivations.md, slip rings). */
export function ringPattern(kl: number, lm: number, mk: number, limits?: ShopLimits): string | undefined {
  const near = limit('resistance.ratioNearPercent', limits) / 100;
  const largest = Math.max(kl, lm, mk);
  const dead = [kl, lm, mk].map((u) => u < DEAD_SHARE * largest);
  if (dead.filter(Boolean).length === 2) {
    const ring = !dead[0] ? 'M' : !dead[1] ? 'K' : 'L';
    return `Two pairs dead: the phase of ring ${ring} is open.`;
  }
  const [a, b, c] = [kl, lm, mk].map((u) => u / largest) as [number, number, number];
  const low = (u: number) => isNear(u, 1 / Math.sqrt(3), near);
  const ring = low(a) && low(c) ? 'K' : low(a) && low(b) ? 'L' : low(b) && low(c) ? 'M' : undefined;
  return ring === undefined ? undefined : `Two pairs at 0.577 of the third: the rotor phase at ring ${ring} is turned.`;
}

const volts = z.number().min(0).optional();

/** Calculation `evaluate.ringVoltage`. */
export const ringVoltage = defineCalculation({
  id: 'evaluate.ringVoltage',
  version: 1,
  title: 'Slip-ring rotor at rest: ring voltages, their balance, against nameplate or design',
  sources: ['turns ratio at standstill (Say)', 'patterns derived', 'limits: common practice'],
  input: z.strictObject({
    klV: volts,
    lmV: volts,
    mkV: volts,
    appliedV: z.number().positive().optional(),
    supplyV: z.tuple([z.number().positive(), z.number().positive(), z.number().positive()]).optional(),
    ratedV: z.number().positive().optional(),
    plateV: z.number().positive().optional(),
    designV: z.number().positive().optional().describe('from the two windings, where the plate does not say'),
    calibrationExpired: z.boolean().default(false),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
    unbalancePercent: z.number().optional(),
    atRatedV: z.number().optional(),
    offPercent: z.number().optional(),
  }),
  example: { klV: 63.9, lmV: 63.4, mkV: 64.1, appliedV: 160, ratedV: 400, plateV: 160 },
  compute: (x, note) => {
    const cannot = (reason: string) => ({ verdict: 'cannot judge' as const, reason });
    const { klV: kl, lmV: lm, mkV: mk } = x;
    if (kl === undefined || lm === undefined || mk === undefined)
      return cannot('All three ring pairs are needed: K–L, L–M, M–K.');
    const supply = x.supplyV;
    const applied = x.appliedV ?? (supply ? (supply[0] + supply[1] + supply[2]) / 3 : undefined);
    if (applied === undefined) return cannot('The voltage on the stator is needed.');
    if (kl + lm + mk === 0)
      return {
        verdict: 'fail' as const,
        reason: 'No ring pair shows a voltage: stator not excited, or two rotor phases open.',
      };
    const most = limit('rings.supplyPercent', x.limits);
    if (supply && !notAbove(unbalancePercent(supply), most))
      return cannot(
        `The supply is ${formatNumber(unbalancePercent(supply), 3)} % unbalanced, more than ${most} %: ring voltages cannot be judged.`,
      );
    const parts: Judged[] = [];
    const unbalance = unbalancePercent([kl, lm, mk]);
    note?.({
      name: 'Ring voltages, largest deviation from the mean',
      symbol: '',
      formula: '100 max|U − mean| / mean',
      numbers: `${kl}, ${lm}, ${mk}`,
      value: unbalance,
      unit: '%',
      source: 'definition',
    });
    const passAt = limit('rings.unbalancePassPercent', x.limits);
    const failAt = limit('rings.unbalanceFailPercent', x.limits);
    const verdict = judgeUpTo(unbalance, passAt, failAt);
    const [shown, bound] = formatAgainst(unbalance, verdict === 'pass' ? passAt : failAt);
    const pattern = ringPattern(kl, lm, mk, x.limits);
    parts.push({
      verdict,
      reason: `Ring voltages ${shown} % off their mean, ${verdict === 'fail' ? 'above' : 'at most'} ${bound} % (common practice).${pattern ? ` ${pattern}` : verdict === 'pass' ? '' : ' Turn the rotor by a tooth and repeat before it is condemned.'}`,
    });
    const values: { atRatedV?: number; offPercent?: number } = {};
    if (x.ratedV !== undefined) {
      const share = (100 * applied) / x.ratedV;
      const [low, high] = APPLIED_PERCENT;
      if (!notBelow(share, low) || !notAbove(share, high))
        return cannot(
          `The stator had ${formatNumber(share, 3)} % of its rated voltage; ${low} to ${high} % is wanted for this test.`,
        );
      const atRated = (((kl + lm + mk) / 3) * x.ratedV) / applied;
      values.atRatedV = atRated;
      note?.({
        name: 'Ring voltage at rated stator voltage',
        symbol: 'U₂₀',
        formula: 'mean · U_rated / U_applied',
        numbers: `${((kl + lm + mk) / 3).toFixed(3)} · ${x.ratedV} / ${applied}`,
        value: atRated,
        unit: 'V',
        source: 'turns ratio',
      });
      const wanted = x.plateV ?? x.designV;
      if (wanted === undefined || pattern !== undefined)
        parts.push({
          verdict: wanted === undefined ? 'cannot judge' : 'pass',
          reason: `${formatNumber(atRated, 4)} V at rated stator voltage${wanted === undefined ? '; neither plate nor windings say what it should be' : ''}.`,
        });
      else {
        const off = 100 * (atRated / wanted - 1);
        values.offPercent = off;
        const p = limit('rings.voltsPassPercent', x.limits);
        const f = limit('rings.voltsFailPercent', x.limits);
        const judged = judgeUpTo(Math.abs(off), p, f);
        parts.push({
          verdict: judged,
          reason: `${formatNumber(atRated, 4)} V at rated stator voltage against ${formatNumber(wanted, 4)} V ${x.plateV === undefined ? 'by the two windings' : 'on the plate'}: ${formatNumber(off, 3)} %, ${judged === 'fail' ? 'above' : 'within'} ${judged === 'pass' ? p : f} % (common practice).`,
        });
      }
    }
    parts.push(...outOfCalibration(x.calibrationExpired));
    return { ...judgedTogether(parts), unbalancePercent: unbalance, ...values };
  },
});

/** Ring voltage by the two windings (winding.rotorVoltage); undefined while one of them is not whole. */
function designVolts(c: JudgingContext): number | undefined {
  if (!c.record || !c.rotor) return undefined;
  try {
    return windingRotorVoltage.compute(
      windingRotorVoltage.input.parse({ stator: c.record, rotor: c.rotor, nameplate: c.nameplate }),
    ).openCircuitV;
  } catch {
    return undefined;
  }
}

/** Ring voltages in the test matrix. */
export const ringVoltageTest: TestKind = {
  id: 'ringVoltage',
  title: 'Ring voltages at rest',
  calculation: ringVoltage as unknown as Calculation,
  derived: [
    { name: 'atRatedV', title: 'Ring voltage at rated stator voltage', unit: 'V' },
    { name: 'unbalancePercent', title: 'Ring voltages off their mean', unit: '%' },
  ],
  caution:
    'Rings and starter leads carry the standstill voltage, at full stator voltage up to some kV: guard them, meter rated for it, rotor locked, start low. Local codes and licensed practice decide.',
  stages: { IN: 'optional', AA: 'required', FI: 'optional' },
  for: ({ machine }) => machine === 'slip-ring',
  needsWholeMotor: true,
  fields: [
    quantity('applied', 'On the stator', 'voltage', 'V', need),
    quantity('kl', 'Rings K–L', 'voltage', 'V', need),
    quantity('lm', 'Rings L–M', 'voltage', 'V', need),
    quantity('mk', 'Rings M–K', 'voltage', 'V', need),
    quantity('u12', 'Supply 1–2', 'voltage', 'V', { hint: 'all three: the supply is judged too' }),
    quantity('u23', 'Supply 2–3', 'voltage', 'V'),
    quantity('u31', 'Supply 3–1', 'voltage', 'V'),
    choice('open', 'Rotor circuit', ['brushes lifted', 'starter open'], need),
    text('instrument', 'Instrument', need),
  ],
  input: (v, c) => {
    const supply = [num(v, 'u12'), num(v, 'u23'), num(v, 'u31')];
    return {
      klV: num(v, 'kl'),
      lmV: num(v, 'lm'),
      mkV: num(v, 'mk'),
      appliedV: num(v, 'applied'),
      supplyV: supply.includes(undefined) ? undefined : supply,
      ratedV: ratingOf(c.nameplate, c.record ?? { kind: 'three-phase' }).voltageV,
      plateV: c.nameplate.rotorVoltageV,
      designV: designVolts(c),
    };
  },
};
