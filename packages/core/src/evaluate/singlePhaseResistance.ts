import { z } from 'zod';
import { defineCalculation, type Calculation } from '../calculation.ts';
import { limit, type ShopLimits } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { celsius, choice, need, orOpen, quantity, text } from '../process/fieldKinds.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { judgedTogether, judgeUpTo, notAbove, outOfCalibration, type Judged } from '../verdict.ts';
import { CONDUCTORS, temperatureFactor } from '../winding/copper.ts';
import { EARTH, num, type Readings, type TestKind } from './testKind.ts';
import { againstPlan } from './windingResistance.ts';

/** Three leads read pair by pair, sorted out: which lead is common, which winding is main. */
export interface SortedLeads {
  /** per cent, (largest − sum of the others) / sum */
  sumPercent: number;
  fits: boolean;
  common: 1 | 2 | 3;
  mainOhm: number;
  auxOhm: number;
  mainLead: 1 | 2 | 3;
}

/**
 * Sorts the three leads of main and auxiliary: the largest reading is the two in series, so the lead it does not touch is common.
 * Of the others the plan says which is main, without a plan the smaller. Source: derived (docs/derivations.md, single-phase).
 */
export function sortLeads(
  r: { r12: number; r13: number; r23: number },
  by: { planMainOhm?: number | undefined; planAuxOhm?: number | undefined; digitOhm: number; limits?: ShopLimits },
): SortedLeads {
  const pairs = [
    { ohm: r.r12, common: 3, leads: [1, 2] },
    { ohm: r.r13, common: 2, leads: [1, 3] },
    { ohm: r.r23, common: 1, leads: [2, 3] },
  ] as const;
  const series = pairs.reduce((a, b) => (b.ohm > a.ohm ? b : a));
  const [x, y] = pairs.filter((p) => p !== series).sort((a, b) => a.ohm - b.ohm) as unknown as [
    (typeof pairs)[number],
    (typeof pairs)[number],
  ];
  const sum = x.ohm + y.ohm;
  const sumPercent = (100 * (series.ohm - sum)) / sum;
  const most = limit('single.sumPercent', by.limits);
  const fits = notAbove(Math.abs(sumPercent), most) || notAbove(Math.abs(series.ohm - sum), by.digitOhm);
  const largerIsMain = by.planMainOhm !== undefined && by.planAuxOhm !== undefined && by.planMainOhm > by.planAuxOhm;
  const [main, aux] = largerIsMain ? [y, x] : [x, y];
  const mainLead = main.leads.find((lead) => lead !== series.common) ?? 1;
  return { sumPercent, fits, common: series.common, mainOhm: main.ohm, auxOhm: aux.ohm, mainLead };
}

/** Two halves of a main winding for two voltages: per cent each lies off their mean, both voltages' resistance. */
export function mainHalves(aOhm: number, bOhm: number) {
  const seriesOhm = aOhm + bOhm;
  return {
    deviationPercent: (100 * Math.abs(aOhm - bOhm)) / seriesOhm,
    parallelOhm: (aOhm * bOhm) / seriesOhm,
    seriesOhm,
  };
}

const ohm = z.number().min(0).optional();

/** Calculation `evaluate.singlePhaseResistance`. */
export const singlePhaseResistance = defineCalculation({
  id: 'evaluate.singlePhaseResistance',
  version: 1,
  title: 'Single-phase motor: main and auxiliary sorted out and each against the plan',
  sources: ['three-lead rule derived', 'IEC 60034-1 (k = 235), IEEE (234.5)', 'limits: common practice'],
  input: z.strictObject({
    r12Ohm: ohm.describe('leads 1–2 of three'),
    r13Ohm: ohm,
    r23Ohm: ohm,
    leadNames: z.array(z.string().max(20)).length(3).optional(),
    mainOhm: ohm.describe('main read alone'),
    auxOhm: ohm.describe('auxiliary read alone'),
    half1Ohm: ohm.describe('main half T1–T2'),
    half2Ohm: ohm.describe('main half T3–T4'),
    tapsOhm: z.array(z.number().positive()).max(6).optional().describe('common to each speed lead, high speed first'),
    open: z.array(z.string()).default([]).describe('readings over the range of the instrument'),
    behindSwitch: z.boolean().optional().describe('read behind switch and capacitor'),
    windingC: z.number().min(-40).max(250).optional(),
    resolutionOhm: z.number().min(0).optional(),
    circuits: z
      .union([z.literal(1), z.literal(2)])
      .default(1)
      .describe('halves of the plan: 1 series, 2 parallel'),
    plannedMain20Ohm: z.number().positive().optional(),
    plannedAux20Ohm: z.number().positive().optional(),
    meanTurnEstimated: z.boolean().default(false),
    newWinding: z.boolean().default(false),
    material: z.enum(['copper', 'aluminium']).default('copper'),
    constantC: z.union([z.literal(235), z.literal(234.5), z.literal(225)]).default(235),
    calibrationExpired: z.boolean().default(false),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
    sumPercent: z.number().optional(),
    commonLead: z.number().optional(),
    mainOhm: z.number().optional(),
    auxOhm: z.number().optional(),
    main20Ohm: z.number().optional(),
    aux20Ohm: z.number().optional(),
    halvesPercent: z.number().optional(),
    parallelOhm: z.number().optional(),
    seriesOhm: z.number().optional(),
  }),
  example: { r12Ohm: 3.05, r13Ohm: 8.42, r23Ohm: 11.46, windingC: 20, leadNames: ['red', 'blue', 'white'] },
  compute: (x, note) => {
    const cannot = (reason: string) => ({ verdict: 'cannot judge' as const, reason });
    if (x.open.length > 0)
      return {
        verdict: 'fail' as const,
        reason: `Open: ${x.open.join(', ')}. An open auxiliary may be its switch or capacitor: read behind them; else find the open joint.`,
      };
    if (x.behindSwitch === false) return cannot('Switch or capacitor lie in the path: read the windings behind them.');
    const parts: Judged[] = [];
    const values: {
      sumPercent?: number;
      commonLead?: number;
      halvesPercent?: number;
      parallelOhm?: number;
      seriesOhm?: number;
    } = {};
    let main = x.mainOhm;
    let aux = x.auxOhm;
    const three = [x.r12Ohm, x.r13Ohm, x.r23Ohm];
    const [r12, r13, r23] = three;
    if (r12 !== undefined && r13 !== undefined && r23 !== undefined) {
      if (!(r12 > 0 && r13 > 0 && r23 > 0)) return cannot('Every reading must be above zero.');
      const sorted = sortLeads(
        { r12, r13, r23 },
        {
          planMainOhm: x.plannedMain20Ohm,
          planAuxOhm: x.plannedAux20Ohm,
          digitOhm: x.resolutionOhm ?? 0,
          limits: x.limits,
        },
      );
      const name = (lead: number) => x.leadNames?.[lead - 1] ?? `lead ${lead}`;
      values.sumPercent = sorted.sumPercent;
      note?.({
        name: 'Largest reading against the sum of the two others',
        symbol: '',
        formula: '100 (R_max − (R_a + R_b)) / (R_a + R_b)',
        numbers: three.join(', '),
        value: sorted.sumPercent,
        unit: '%',
        source: 'derived',
      });
      if (sorted.fits) {
        values.commonLead = sorted.common;
        main = sorted.mainOhm;
        aux = sorted.auxOhm;
        parts.push({
          verdict: 'pass',
          reason: `Largest reading ${formatNumber(sorted.sumPercent, 2)} % off the sum of the others: ${name(sorted.common)} is common, ${name(sorted.mainLead)} the main's (${formatNumber(main, 4)} Ω), auxiliary ${formatNumber(aux, 4)} Ω.`,
        });
      } else
        parts.push({
          verdict: 'fail',
          reason: `The largest reading is ${formatNumber(sorted.sumPercent, 3)} % off the sum of the two others, more than ${limit('single.sumPercent', x.limits)} % (common practice): joined wrongly, or leads mixed up.`,
        });
    } else if (three.some((r) => r !== undefined)) return cannot('Of three leads all three pairs are needed.');
    if (x.half1Ohm !== undefined && x.half2Ohm !== undefined) {
      if (!(x.half1Ohm > 0 && x.half2Ohm > 0)) return cannot('Both halves of the main must read above zero.');
      const halves = mainHalves(x.half1Ohm, x.half2Ohm);
      const passAt = limit('single.halvesPassPercent', x.limits);
      const failAt = limit('single.halvesFailPercent', x.limits);
      const verdict = judgeUpTo(halves.deviationPercent, passAt, failAt);
      const [shown, bound] = formatAgainst(halves.deviationPercent, verdict === 'pass' ? passAt : failAt);
      values.halvesPercent = halves.deviationPercent;
      values.parallelOhm = halves.parallelOhm;
      values.seriesOhm = halves.seriesOhm;
      main = x.circuits === 2 ? halves.parallelOhm : halves.seriesOhm;
      parts.push({
        verdict,
        reason: `Main halves ${shown} % apart, ${verdict === 'fail' ? 'above' : 'at most'} ${bound} % (common practice); in parallel ${formatNumber(halves.parallelOhm, 4)} Ω, in series ${formatNumber(halves.seriesOhm, 4)} Ω.`,
      });
    } else if (x.half1Ohm !== undefined || x.half2Ohm !== undefined)
      return cannot('Both halves of the main are needed: T1–T2 and T3–T4.');
    if (x.tapsOhm && x.tapsOhm.length > 1) {
      const taps = x.tapsOhm;
      const rising = taps.every((r, i) => i === 0 || r > (taps[i - 1] as number));
      parts.push({
        verdict: rising ? 'pass' : 'fail',
        reason: rising
          ? `Speed taps rise from high to low speed: ${taps.map((r) => formatNumber(r, 4)).join(', ')} Ω.`
          : `Speed taps ${taps.map((r) => formatNumber(r, 4)).join(', ')} Ω do not rise from high to low speed: speed leads mixed up.`,
      });
    }
    if (parts.length === 0 && main === undefined && aux === undefined)
      return cannot('Enter the three pairs of leads, or main and auxiliary each, or the halves of the main.');
    if (main !== undefined && !(main > 0)) return cannot('The main must read above zero.');
    if (aux !== undefined && !(aux > 0)) return cannot('The auxiliary must read above zero.');
    if (x.windingC === undefined)
      return cannot('The winding temperature is needed: copper changes by 0.4 % for each kelvin.');
    const k = x.material === 'aluminium' ? CONDUCTORS.aluminium.temperatureConstantC : x.constantC;
    const factor = temperatureFactor(x.windingC, 20, k);
    const each = (title: string, read: number | undefined, planned: number | undefined): void => {
      if (read === undefined) return;
      const at20 = read * factor;
      if (planned === undefined) return;
      const told = `${title} ${formatNumber(at20, 4)} Ω at 20 °C against ${formatNumber(planned, 4)} Ω ${x.newWinding ? 'planned' : 'by the record'}`;
      const off = 100 * Math.abs(at20 / planned - 1);
      if (x.newWinding)
        parts.push(
          againstPlan({ told, off, ratio: at20 / planned, meanTurnEstimated: x.meanTurnEstimated, limits: x.limits }),
        );
      else parts.push({ verdict: 'pass', reason: `${told}: ${formatNumber(off, 3)} % off.` });
    };
    each('Main', main, x.plannedMain20Ohm);
    each('Auxiliary', aux, x.plannedAux20Ohm);
    if (x.newWinding && aux === undefined && x.plannedAux20Ohm !== undefined)
      parts.push({ verdict: 'cannot judge', reason: 'The auxiliary was not read.' });
    if (x.newWinding && main === undefined && x.plannedMain20Ohm !== undefined)
      parts.push({ verdict: 'cannot judge', reason: 'The main was not read.' });
    if (parts.length === 0) parts.push({ verdict: 'pass', reason: 'Recorded; there is no plan to compare with.' });
    parts.push(...outOfCalibration(x.calibrationExpired));
    return {
      ...judgedTogether(parts),
      ...values,
      ...(main === undefined ? {} : { mainOhm: main, main20Ohm: main * factor }),
      ...(aux === undefined ? {} : { auxOhm: aux, aux20Ohm: aux * factor }),
    };
  },
});

const OHMS = { r12: '1–2', r13: '1–3', r23: '2–3', main: 'main', aux: 'auxiliary', half1: 'T1–T2', half2: 'T3–T4' };
const OHM_FIELDS = Object.keys(OHMS) as (keyof typeof OHMS)[];

const lacks = (v: Readings) => {
  const has = (name: string) => v[name] !== undefined;
  if (has('r12') || has('r13') || has('r23')) {
    const missing = (['r12', 'r13', 'r23'] as const).find((n) => !has(n));
    return missing ? { field: missing, message: `Leads ${OHMS[missing]} are needed too.` } : undefined;
  }
  if (has('half1') !== has('half2'))
    return { field: has('half1') ? 'half2' : 'half1', message: 'Both halves of the main are needed.' };
  return OHM_FIELDS.some(has)
    ? undefined
    : {
        field: 'r12',
        message: 'Read the three pairs of leads, or main and auxiliary each, or the halves of the main.',
      };
};

/** Resistance of main and auxiliary in the test matrix. */
export const singlePhaseResistanceTest: TestKind = {
  id: 'singlePhaseResistance',
  title: 'Resistance of main and auxiliary',
  calculation: singlePhaseResistance as unknown as Calculation,
  derived: [
    { name: 'main20Ohm', title: 'Main at 20 °C', unit: 'Ω' },
    { name: 'aux20Ohm', title: 'Auxiliary at 20 °C', unit: 'Ω' },
    { name: 'sumPercent', title: 'Largest pair off the sum', unit: '%' },
  ],
  caution: `${EARTH} Discharge the capacitor first.`,
  stages: { IN: 'required', BS: 'optional', AC: 'required', VC: 'required', AA: 'optional', FI: 'required' },
  for: ({ machine }) => machine === 'single-phase',
  lacks,
  fields: [
    orOpen('r12', 'Leads 1–2', { hint: 'three leads: each pair' }),
    orOpen('r13', 'Leads 1–3'),
    orOpen('r23', 'Leads 2–3'),
    text('leadNames', 'Leads 1, 2, 3 are', { hint: 'red, blue, white' }),
    orOpen('main', 'Main alone', { hint: 'four leads or more' }),
    orOpen('aux', 'Auxiliary alone', { hint: 'behind switch and capacitor' }),
    orOpen('half1', 'Main half T1–T2', { hint: 'two voltages' }),
    orOpen('half2', 'Main half T3–T4'),
    {
      name: 'taps',
      label: 'Speed taps',
      read: { kind: 'quantities', dimension: 'resistance', unit: 'Ω' },
      hint: 'common to each, high speed first: 9.1/12.4/15',
    },
    choice('behind', 'Read behind switch and capacitor', ['yes', 'no']),
    celsius('windingC', 'Winding temperature', need),
    quantity('resolution', 'One digit is', 'resistance', 'Ω'),
    text('instrument', 'Instrument', need),
  ],
  input: (v, c) => {
    const names = typeof v['leadNames'] === 'string' ? v['leadNames'].split(/[,;/]\s*/).map((n) => n.trim()) : [];
    return {
      ...Object.fromEntries(OHM_FIELDS.map((n) => [`${n}Ohm`, num(v, n)])),
      open: OHM_FIELDS.filter((n) => v[`${n}OverRange`] === true).map((n) => OHMS[n]),
      leadNames: names.length === 3 && names.every((n) => n.length > 0 && n.length <= 20) ? names : undefined,
      tapsOhm: Array.isArray(v['taps']) ? v['taps'] : undefined,
      behindSwitch: v['behind'] === undefined ? undefined : v['behind'] === 'yes',
      windingC: num(v, 'windingC'),
      resolutionOhm: num(v, 'resolution'),
      circuits: c.record?.circuits === 2 ? 2 : 1,
      plannedMain20Ohm: c.figures?.phaseResistance20Ohm,
      plannedAux20Ohm: c.figures?.auxResistance20Ohm,
      meanTurnEstimated: c.figures?.meanTurnFrom === 'geometry',
      newWinding: c.newWinding,
      material: c.record?.material ?? 'copper',
    };
  },
};
