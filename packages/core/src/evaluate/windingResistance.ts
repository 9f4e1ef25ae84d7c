import { z } from 'zod';
import { sameWay } from './change.ts';
import { defineCalculation } from '../calculation.ts';
import { limit, quoteLimit } from '../limits/limits.ts';
import type { ShopLimits } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { judgedTogether, judgeUpTo, notAbove, outOfCalibration, type Judged } from '../verdict.ts';
import { CONDUCTORS, temperatureFactor } from '../winding/copper.ts';
import type { Calculation } from '../calculation.ts';
import { isFormWound } from '../winding/record.ts';
import { runningConnection } from '../winding/recordLayout.ts';
import { celsius, choice, need, orOpen, quantity, text } from '../process/fieldKinds.ts';
import { expectedReading, isNear, namePattern, nameRatio, READING_KINDS, type ReadingKind } from './resistanceRatio.ts';
import { EARTH, num, type JudgingContext, type Readings, type TestKind } from './testKind.ts';

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

const PAIRS = ['ab', 'bc', 'ca'] as const;
const LEADS = { ab: 'T1–T2', bc: 'T2–T3', ca: 'T3–T1' } as const;
const PHASES = { ab: 'T1–T4', bc: 'T2–T5', ca: 'T3–T6' } as const;

/** What readings over the range of the instrument say. */
function openCircuit(open: readonly (typeof PAIRS)[number][], reading: ReadingKind): Judged {
  const named = (names: Readonly<Record<string, string>>) => open.map((p) => names[p]).join(', ');
  if (reading === 'phase by phase')
    return { verdict: 'fail', reason: `Open: ${named(PHASES)}. Find the open joint before anything else.` };
  if (open.length === 1)
    return {
      verdict: 'cannot judge',
      reason: `${named(LEADS)} reads open but the two other pairs do not: no winding gives that. Read the three again.`,
    };
  if (open.length === 3)
    return { verdict: 'fail', reason: 'All three pairs read open: leads not connected, or more than one phase open.' };
  const whole = PAIRS.find((p) => !open.includes(p));
  const lead = whole === 'ab' ? 'T3' : whole === 'bc' ? 'T1' : 'T2';
  return { verdict: 'fail', reason: `${named(LEADS)} read open: the phase of ${lead} of a wye is open.` };
}

/** Calculation `evaluate.windingResistance`. */
export const windingResistance = defineCalculation({
  id: 'evaluate.windingResistance',
  version: 2,
  title: 'Winding resistance: corrected, phases solved, unbalance, against the plan',
  sources: ['IEC 60034-1 (k = 235), IEEE (234.5)', 'phase solution derived', 'limits: common practice'],
  input: z.strictObject({
    reading: z
      .enum(READING_KINDS)
      .default('lead to lead')
      .describe('pairs T1–T2, T2–T3, T3–T1, or phases T1–T4, T2–T5, T3–T6'),
    abOhm: z.number().optional(),
    bcOhm: z.number().optional(),
    caOhm: z.number().optional(),
    open: z.array(z.enum(PAIRS)).default([]).describe('readings over the range of the instrument'),
    throughBrushes: z.boolean().default(false).describe('slip rings read through their brushes'),
    othersOpen: z.boolean().optional().describe('phase by phase: every other pair of the six leads is open'),
    windingC: z.number().min(-40).max(250).optional(),
    ambientC: z.number().min(-60).max(100).optional(),
    connection: z.enum(['wye', 'delta']).optional(),
    material: z.enum(['copper', 'aluminium', 'mixed']).default('copper'),
    constantC: z.union([z.literal(235), z.literal(234.5), z.literal(225)]).default(235),
    referenceC: z.number().default(20),
    windingKind: z.enum(['random-wound', 'form-wound']).default('random-wound'),
    resolutionOhm: z.number().min(0).optional().describe('one digit of the instrument'),
    planned20Ohm: z.number().positive().optional().describe('predicted at 20 °C, for the kind of reading'),
    plannedBy: z
      .enum(['wye', 'delta'])
      .optional()
      .describe('connection of the plan; that of the reading where left out'),
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
    const { abOhm: ab, bcOhm: bc, caOhm: ca, reading } = x;
    const cannot = (reason: string) => ({ verdict: 'cannot judge' as const, reason });
    const phaseWise = reading === 'phase by phase';
    if (phaseWise && x.othersOpen === false)
      return {
        verdict: 'fail' as const,
        reason:
          'Leads of different phases are joined: the marks are wrong or links were left on. Sort the leads by continuity before anything is read.',
      };
    if (x.throughBrushes) return cannot('Brushes and their contact lie in the path: lift them and read on the rings.');
    if (x.open.length > 0) return openCircuit(x.open, reading);
    if (ab === undefined || bc === undefined || ca === undefined)
      return cannot(`All three readings are needed, ${phaseWise ? 'one of each phase' : 'lead to lead'}.`);
    if (!(ab > 0 && bc > 0 && ca > 0))
      return cannot('Every reading must be above zero; an open pair is typed as above the range, for example >200.');
    if (phaseWise && x.othersOpen === undefined)
      return cannot('Phase by phase, say first whether every other pair of the six leads is open.');
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
      name: `Unbalance, ${phaseWise ? 'over phases' : 'lead to lead'}`,
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
    if (x.resolutionOhm !== undefined && !notAbove((100 * x.resolutionOhm) / mean, passAt / 2)) {
      parts.push({
        verdict: 'cannot judge',
        reason: `One digit of the instrument is ${formatNumber((100 * x.resolutionOhm) / mean, 2)} % of the reading; at most half the limit of ${passAt} % is needed to judge the unbalance. Use a finer range.`,
      });
    }
    const phases = phaseWise
      ? undefined
      : x.connection === 'wye'
        ? wyePhases(ab, bc, ca)
        : x.connection === 'delta'
          ? deltaPhases(ab, bc, ca)
          : undefined;
    if (x.connection && !phaseWise && (!phases || phases.some((p) => p <= 0))) {
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
    const verdict = judgeUpTo(unbalance, passAt, failAt);
    const [u1, l1] = formatAgainst(unbalance, verdict === 'pass' ? passAt : failAt);
    const pattern = notAbove(unbalance, limit('resistance.patternPercent', x.limits))
      ? undefined
      : namePattern([ab, bc, ca], x.limits);
    parts.push({
      verdict,
      reason: `Unbalance ${phaseWise ? 'over phases' : 'lead to lead'} ${u1} %, ${verdict === 'fail' ? 'above' : 'at most'} ${l1} % (${x.windingKind}, common practice).${which}${pattern && !phaseWise ? ` ${pattern}` : ''}`,
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
      const patterned = !notAbove(unbalance, limit('resistance.patternPercent', x.limits));
      const name = patterned
        ? undefined
        : nameRatio(at20 / x.planned20Ohm, {
            reading,
            connection: x.plannedBy ?? x.connection ?? 'wye',
            limits: x.limits,
          });
      const told = `${formatNumber(at20, 4)} Ω at 20 °C against ${formatNumber(x.planned20Ohm, 4)} Ω ${x.newWinding ? 'planned' : 'by the record'}`;
      if (name?.wrong === 'reading')
        parts.push({
          verdict: 'cannot judge',
          reason: `${told}, ratio ${formatNumber(at20 / x.planned20Ohm, 4)}: the readings look like ${name.says}. Change the kind of reading, or read again?`,
        });
      else if (name)
        parts.push({
          verdict: x.newWinding ? 'fail' : 'attention',
          reason: `${told}, ratio ${formatNumber(at20 / x.planned20Ohm, 4)}: ${name.says}.`,
        });
      else if (x.newWinding)
        parts.push(againstPlan({ ...x, told, off: Math.abs(against), ratio: at20 / x.planned20Ohm }));
    }
    if (x.material === 'mixed')
      parts.push({ verdict: 'attention', reason: 'Mixed metals have no single temperature constant.' });
    if (x.ambientC !== undefined && !notAbove(Math.abs(x.windingC - x.ambientC), limit('wr.coldAirK', x.limits))) {
      parts.push({
        verdict: 'attention',
        reason: `Winding ${formatNumber(x.windingC)} °C, air ${formatNumber(x.ambientC)} °C: more than ${limit('wr.coldAirK', x.limits)} K apart is not a cold reading.`,
      });
    }
    parts.push(...outOfCalibration(x.calibrationExpired));
    return {
      ...judgedTogether(parts),
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

/** A new winding against its plan. Source: common practice; an estimated mean turn cannot condemn. */
export function againstPlan(x: {
  told: string;
  /** per cent off the plan, without sign */
  off: number;
  ratio: number;
  meanTurnEstimated: boolean;
  strandsInHand?: number | undefined;
  limits: ShopLimits;
}): Judged {
  const p = limit('resistance.planPassPercent', x.limits);
  const f = limit('resistance.planFailPercent', x.limits);
  const plain = judgeUpTo(x.off, p, f);
  const verdict = plain === 'fail' && x.meanTurnEstimated ? 'attention' : plain;
  const [shown, bound] = formatAgainst(x.off, notAbove(x.off, p) ? p : f);
  const strands = x.strandsInHand ?? 1;
  const missing =
    strands > 1 && isNear(x.ratio, strands / (strands - 1), limit('resistance.ratioNearPercent', x.limits) / 100)
      ? ` One of ${strands} strands missing or broken?`
      : '';
  return {
    verdict,
    reason: `${x.told}: ${shown} % off, ${notAbove(x.off, verdict === 'pass' ? p : f) ? 'within' : 'above'} ${bound} % (common practice).${missing}${x.meanTurnEstimated && verdict !== 'pass' ? ' The mean turn was only estimated.' : ''}`,
  };
}

/** Winding resistance in the test matrix. */
export const windingResistanceTest: TestKind = {
  id: 'windingResistance',
  title: 'Winding resistance',
  calculation: windingResistance as unknown as Calculation,
  alike: sameWay('reading'),
  derived: [
    { name: 'correctedMeanOhm', title: 'Mean at 20 °C', unit: 'Ω' },
    { name: 'unbalancePercent', title: 'Unbalance lead to lead', unit: '%' },
    { name: 'againstPlanPercent', title: 'Off the plan', unit: '%' },
  ],
  caution: EARTH,
  stages: { IN: 'required', BS: 'optional', AC: 'required', VC: 'required', AA: 'optional', FI: 'required' },
  fields: [
    choice('reading', 'Read', [...READING_KINDS], { hint: 'blank: lead to lead' }),
    choice('othersOpen', 'Every other pair is open', ['yes', 'no'], { hint: 'six leads, before phases are read' }),
    orOpen('ab', 'T1–T2', { ...need, hint: 'phase by phase: T1–T4' }),
    orOpen('bc', 'T2–T3', { ...need, hint: 'T2–T5' }),
    orOpen('ca', 'T3–T1', { ...need, hint: 'T3–T6' }),
    celsius('windingC', 'Winding temperature', need),
    celsius('ambientC', 'Air temperature'),
    quantity('resolution', 'One digit is', 'resistance', 'Ω'),
    text('instrument', 'Instrument', need),
  ],
  for: ({ machine }) => machine !== 'single-phase',
  due: (c) => {
    const phase = c.figures?.phaseResistance20Ohm;
    const connection = c.record ? runningConnection(c.record) : undefined;
    if (phase === undefined || !connection)
      return { says: ['The winding is not recorded far enough to tell what it should read.'] };
    const line = expectedReading(phase, 'lead to lead', connection);
    const kind = isFormWound(c.record) ? 'form' : 'random';
    return {
      says: [
        `${formatNumber(line)} Ω lead to lead at 20 °C (${formatNumber(phase)} Ω a phase, ${connection}), worked out from the record.`,
        `Largest deviation from the mean ${quoteLimit(`resistance.${kind}PassPercent`, c.limits)}${c.newWinding ? `; against the plan ${quoteLimit('resistance.planPassPercent', c.limits)}` : ''}. Four wires below 1 Ω; wait until the reading stands.`,
      ],
      short: `≈ ${formatNumber(line, 3)} Ω`,
    };
  },
  hides: ({ record }) => (bringsBothEnds(record?.leads) ? [] : ['reading', 'othersOpen']),
  input: (v, c) => {
    const reading: ReadingKind = v['reading'] === 'phase by phase' ? 'phase by phase' : 'lead to lead';
    return {
      ...readAgainstPlan(v, c, reading),
      othersOpen: v['othersOpen'] === undefined ? undefined : v['othersOpen'] === 'yes',
    };
  },
};

/** Both ends of every phase come out: they can be read one by one. */
const bringsBothEnds = (leads: string | undefined): boolean => leads === '6' || leads === '12';

/** Three readings of a form, those over the range as open, and what its own winding lets them be compared with. */
export function readAgainstPlan(v: Readings, c: JudgingContext, reading: ReadingKind) {
  const phase = c.figures?.phaseResistance20Ohm;
  const connection = c.record ? runningConnection(c.record) : undefined;
  return {
    reading,
    abOhm: num(v, 'ab'),
    bcOhm: num(v, 'bc'),
    caOhm: num(v, 'ca'),
    open: PAIRS.filter((p) => v[`${p}OverRange`] === true),
    windingC: num(v, 'windingC'),
    ambientC: num(v, 'ambientC'),
    resolutionOhm: num(v, 'resolution'),
    connection,
    material: c.record?.material ?? 'copper',
    windingKind: isFormWound(c.record) ? 'form-wound' : 'random-wound',
    planned20Ohm: phase === undefined || !connection ? undefined : expectedReading(phase, reading, connection),
    meanTurnEstimated: c.figures?.meanTurnFrom === 'geometry',
    newWinding: c.newWinding,
    strandsInHand: c.figures?.wiresInHand,
  };
}
