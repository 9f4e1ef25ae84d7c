import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';
import { limit } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { combineVerdicts, notAbove, type Judged, type Verdict } from '../verdict.ts';
import { CONDUCTORS, temperatureFactor } from '../winding/copper.ts';
import type { Calculation } from '../calculation.ts';
import { celsius, need, quantity, text } from '../process/fieldKinds.ts';
import { EARTH, num, type TestKind } from './testKind.ts';

/** Largest deviation from the mean, per cent of the mean. (max − min)/mean is a different number and never used. */
export function unbalancePercent(values: readonly number[]): number {
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  return (100 * Math.max(...values.map((v) => Math.abs(v - mean)))) / mean;
}

/** Phase resistances of a wye from the three line readings R_ab, R_bc, R_ca. */
export function wyePhases(ab: number, bc: number, ca: number): [number, number, number] {
  return [(ab + ca - bc) / 2, (ab + bc - ca) / 2, (bc + ca - ab) / 2];
}

/** Branch resistances r_ab, r_bc, r_ca of a delta from the three line readings; undefined when inconsistent. */
export function deltaPhases(ab: number, bc: number, ca: number): [number, number, number] | undefined {
  const [a, b, c] = wyePhases(ab, bc, ca);
  if (a <= 0 || b <= 0 || c <= 0) return undefined;
  const q = a * b + b * c + c * a;
  return [q / c, q / a, q / b];
}

/** Calculation `evaluate.windingResistance`. */
export const windingResistance = defineCalculation({
  id: 'evaluate.windingResistance',
  version: 1,
  title: 'Winding resistance: corrected, phases solved, unbalance, against the plan',
  sources: ['IEC 60034-1 (k = 235), IEEE (234.5)', 'phase solution derived', 'limits: common practice'],
  input: z.strictObject({
    abOhm: z.number().optional(),
    bcOhm: z.number().optional(),
    caOhm: z.number().optional(),
    windingC: z.number().min(-40).max(250).optional(),
    ambientC: z.number().min(-60).max(100).optional(),
    connection: z.enum(['wye', 'delta']).optional(),
    material: z.enum(['copper', 'aluminium', 'mixed']).default('copper'),
    constantC: z.union([z.literal(235), z.literal(234.5), z.literal(225)]).default(235),
    referenceC: z.number().default(20),
    windingKind: z.enum(['random-wound', 'form-wound']).default('random-wound'),
    resolutionOhm: z.number().min(0).optional().describe('one digit of the instrument'),
    planned20Ohm: z.number().positive().optional().describe('predicted lead to lead at 20 °C'),
    meanTurnEstimated: z.boolean().default(false).describe('mean turn length from geometry only'),
    newWinding: z.boolean().default(false),
    strandsInHand: z.int().min(1).optional(),
    calibrationExpired: z.boolean().default(false),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
    meanOhm: z.number().optional(),
    correctedOhm: z.array(z.number()).optional(),
    correctedMeanOhm: z.number().optional(),
    unbalancePercent: z.number().optional(),
    phasesOhm: z.array(z.number()).optional(),
    phaseUnbalancePercent: z.number().optional(),
    againstPlanPercent: z.number().optional(),
  }),
  example: { abOhm: 1.012, bcOhm: 1.034, caOhm: 1.021, windingC: 18.5, connection: 'wye' },
  compute: (x, note) => {
    const { abOhm: ab, bcOhm: bc, caOhm: ca } = x;
    const cannot = (reason: string) => ({ verdict: 'cannot judge' as const, reason });
    if (ab === undefined || bc === undefined || ca === undefined)
      return cannot('All three lead-to-lead readings are needed.');
    if (!(ab > 0 && bc > 0 && ca > 0))
      return cannot('Every reading must be above zero; an open circuit is entered as a stated test.');
    if (x.windingC === undefined)
      return cannot('The winding temperature is needed: copper changes by 0.4 % for each kelvin.');
    const k = x.material === 'aluminium' ? CONDUCTORS.aluminium.temperatureConstantC : x.constantC;
    const factor = temperatureFactor(x.windingC, x.referenceC, k);
    const corrected = [ab * factor, bc * factor, ca * factor];
    const mean = (ab + bc + ca) / 3;
    const unbalance = unbalancePercent([ab, bc, ca]);
    note?.({
      name: `Factor to ${x.referenceC} °C`,
      symbol: '',
      formula: '(k + t_ref)/(k + t)',
      numbers: `(${k} + ${x.referenceC})/(${k} + ${x.windingC})`,
      value: factor,
      unit: '',
      source: k === 235 ? 'IEC 60034-1' : k === 234.5 ? 'IEEE 112' : 'IEC 60034-1, aluminium',
    });
    note?.({
      name: 'Unbalance, lead to lead',
      symbol: '',
      formula: '100 max|R − mean| / mean',
      numbers: `${ab}, ${bc}, ${ca}; mean ${mean.toPrecision(6)}`,
      value: unbalance,
      unit: '%',
      source: 'definition',
    });
    const parts: Judged[] = [];
    const form = x.windingKind === 'form-wound';
    const passAt = limit(form ? 'resistance.formPassPercent' : 'resistance.randomPassPercent', x.limits);
    const failAt = limit(form ? 'resistance.formFailPercent' : 'resistance.randomFailPercent', x.limits);
    if (x.resolutionOhm !== undefined && (100 * x.resolutionOhm) / mean > passAt / 2) {
      parts.push({
        verdict: 'cannot judge',
        reason: `One digit of the instrument is ${formatNumber((100 * x.resolutionOhm) / mean, 2)} % of the reading; at most half the limit of ${passAt} % is needed to judge the unbalance. Use a finer range.`,
      });
    }
    const phases =
      x.connection === 'wye' ? wyePhases(ab, bc, ca) : x.connection === 'delta' ? deltaPhases(ab, bc, ca) : undefined;
    if (x.connection && (!phases || phases.some((p) => p <= 0))) {
      return {
        ...cannot(
          'The three readings cannot come from one winding: one is larger than the other two together allow. Repeat them.',
        ),
        meanOhm: mean,
        correctedOhm: corrected,
      };
    }
    const phaseUnbalance = phases ? unbalancePercent(phases) : undefined;
    if (phases) {
      note?.({
        name: 'Phases',
        symbol: '',
        formula:
          x.connection === 'wye'
            ? 'R_a = (R_ab + R_ca − R_bc)/2 …'
            : 'through the equivalent wye: r_ab = (ab + bc + ca)/c …',
        numbers: phases.map((p) => p.toPrecision(5)).join(', '),
        value: phaseUnbalance ?? 0,
        unit: '% unbalance',
        source: 'derived',
      });
    }
    const which =
      phases && phaseUnbalance !== undefined
        ? ` Phases ${phases.map((p) => formatNumber(p, 4)).join(', ')} Ω, unbalance ${formatNumber(phaseUnbalance, 3)} %.`
        : '';
    const [u1, l1] = formatAgainst(unbalance, unbalance <= passAt ? passAt : failAt);
    const verdict: Verdict = notAbove(unbalance, passAt) ? 'pass' : notAbove(unbalance, failAt) ? 'attention' : 'fail';
    parts.push({
      verdict,
      reason: `Unbalance lead to lead ${u1} %, ${verdict === 'fail' ? 'above' : 'at most'} ${l1} % (${x.windingKind}, common practice).${which}`,
    });
    let against: number | undefined;
    const correctedMean = mean * factor;
    if (x.planned20Ohm !== undefined) {
      const at20 = mean * temperatureFactor(x.windingC, 20, k);
      against = (100 * (at20 - x.planned20Ohm)) / x.planned20Ohm;
      note?.({
        name: 'Against the plan at 20 °C',
        symbol: '',
        formula: '100 (R − R_plan)/R_plan',
        numbers: `100 · (${at20.toPrecision(5)} − ${x.planned20Ohm.toPrecision(5)}) / ${x.planned20Ohm.toPrecision(5)}`,
        value: against,
        unit: '%',
        source: 'derived',
      });
      const p = limit('resistance.planPassPercent', x.limits);
      const f = limit('resistance.planFailPercent', x.limits);
      const off = Math.abs(against);
      if (x.newWinding) {
        const hard: Verdict = notAbove(off, p)
          ? 'pass'
          : notAbove(off, f) || x.meanTurnEstimated
            ? 'attention'
            : 'fail';
        const [a, b] = formatAgainst(off, off <= p ? p : f);
        parts.push({
          verdict: hard,
          reason: `${formatNumber(at20, 4)} Ω at 20 °C against ${formatNumber(x.planned20Ohm, 4)} Ω planned: ${a} % off, ${off <= (hard === 'pass' ? p : f) ? 'within' : 'above'} ${b} % (common practice).${clue(at20 / x.planned20Ohm, x.strandsInHand)}${x.meanTurnEstimated && off > p ? ' The mean turn was only estimated.' : ''}`,
        });
      }
    }
    if (x.material === 'mixed')
      parts.push({ verdict: 'attention', reason: 'Mixed metals have no single temperature constant.' });
    if (x.ambientC !== undefined && !notAbove(Math.abs(x.windingC - x.ambientC), limit('wr.coldAirK', x.limits))) {
      parts.push({
        verdict: 'attention',
        reason: `Winding ${formatNumber(x.windingC)} °C, air ${formatNumber(x.ambientC)} °C: more than ${limit('wr.coldAirK', x.limits)} K apart is not a cold reading.`,
      });
    }
    if (x.calibrationExpired) parts.push({ verdict: 'attention', reason: 'The instrument is out of calibration.' });
    const all = combineVerdicts(parts.map((p) => p.verdict));
    return {
      verdict: all,
      reason: [...parts.filter((p) => p.verdict === all), ...parts.filter((p) => p.verdict !== all)]
        .map((p) => p.reason)
        .join(' '),
      meanOhm: mean,
      correctedOhm: corrected,
      correctedMeanOhm: correctedMean,
      unbalancePercent: unbalance,
      ...(phases ? { phasesOhm: [...phases] } : {}),
      ...(phaseUnbalance === undefined ? {} : { phaseUnbalancePercent: phaseUnbalance }),
      ...(against === undefined ? {} : { againstPlanPercent: against }),
    };
  },
});

/** What a tell-tale ratio of measured to planned resistance points to. */
function clue(ratio: number, strands: number | undefined): string {
  const near = (x: number) => Math.abs(ratio / x - 1) < 0.04;
  if (near(4) || near(0.25)) return ' A factor of four: twice or half the circuits.';
  if (near(3) || near(1 / 3)) return ' A factor of three: wye taken for delta, or the reverse.';
  if (strands !== undefined && strands > 1 && near(strands / (strands - 1)))
    return ` One of ${strands} strands missing or broken?`;
  return '';
}

/** Winding resistance in the test matrix. */
export const windingResistanceTest: TestKind = {
  id: 'windingResistance',
  title: 'Winding resistance',
  calculation: windingResistance as unknown as Calculation,
  derived: [
    { name: 'correctedMeanOhm', title: 'Mean at 20 °C', unit: 'Ω' },
    { name: 'unbalancePercent', title: 'Unbalance lead to lead', unit: '%' },
    { name: 'againstPlanPercent', title: 'Off the plan', unit: '%' },
  ],
  caution: EARTH,
  stages: { IN: 'required', BS: 'optional', AC: 'required', VC: 'required', AA: 'optional', FI: 'required' },
  fields: [
    quantity('ab', 'T1–T2', 'resistance', 'Ω', need),
    quantity('bc', 'T2–T3', 'resistance', 'Ω', need),
    quantity('ca', 'T3–T1', 'resistance', 'Ω', need),
    celsius('windingC', 'Winding temperature', need),
    celsius('ambientC', 'Air temperature'),
    quantity('resolution', 'One digit is', 'resistance', 'Ω'),
    text('instrument', 'Instrument', need),
  ],
  input: (v, c) => ({
    abOhm: num(v, 'ab'),
    bcOhm: num(v, 'bc'),
    caOhm: num(v, 'ca'),
    windingC: num(v, 'windingC'),
    ambientC: num(v, 'ambientC'),
    resolutionOhm: num(v, 'resolution'),
    connection: c.record?.leads === '6' ? undefined : c.record?.connection,
    material: c.record?.material ?? 'copper',
    planned20Ohm: c.newWinding ? c.figures?.lineResistance20Ohm : undefined,
    meanTurnEstimated: c.figures?.meanTurnFrom === 'geometry',
    newWinding: c.newWinding,
    strandsInHand: c.figures?.wiresInHand,
  }),
};
