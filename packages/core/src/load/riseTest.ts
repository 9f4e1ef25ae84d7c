import { z } from 'zod';
import { defineCalculation, type Calculation } from '../calculation.ts';
import { num, type TestKind } from '../evaluate/testKind.ts';
import { limit, quoteLimit } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { celsius, choice, need, quantity, text } from '../process/fieldKinds.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { judgedTogether, notAbove, outOfCalibration, type Judged } from '../verdict.ts';
import {
  lifeHours,
  riseAtRest,
  riseByResistance,
  riseLimitK,
  RISE_RULES,
  THERMAL_CLASSES,
  type RiseRule,
  type ThermalClass,
} from './temperatureRise.ts';
import { listOf, numbers, sameLengths } from './typedLists.ts';

const CLASSES = Object.keys(THERMAL_CLASSES) as [ThermalClass, ...ThermalClass[]];

/** Calculation `evaluate.temperatureRise`. */
export const temperatureRise = defineCalculation({
  id: 'evaluate.temperatureRise',
  version: 1,
  title: 'Temperature rise by resistance, drawn back to the switch',
  sources: ['IEC 60034-1, NEMA MG 1, IEEE 112 (from memory)', 'life: common practice, information only'],
  input: z.strictObject({
    coldOhm: z.number().positive().max(1e6),
    coldC: z.number().min(-60).max(200),
    /** at the end of the run */
    coolantC: z.number().min(-60).max(200),
    readings: z
      .array(z.strictObject({ seconds: z.number().min(0).max(1e5), ohm: z.number().positive().max(1e6) }))
      .min(1)
      .max(200),
    /** 234.5 by IEEE, 235 by IEC; aluminium 225 */
    k: z.number().min(200).max(250).default(235),
    ratedKW: z.number().positive().max(1e6).optional(),
    rule: z.enum(RISE_RULES as [RiseRule, ...RiseRule[]]).default('IEC, 600 W to below 5000 kW'),
    /** of the weakest part: wire, resin, lead, sleeve */
    thermalClass: z.enum(CLASSES).optional(),
    altitudeM: z.number().min(0).max(6000).default(0),
    /** coolant that the motor is rated for */
    ratedCoolantC: z.number().min(-60).max(60).default(40),
    /** load at which it was taken, % of the rated one */
    loadPercent: z.number().min(0).max(300).default(100),
    calibrationExpired: z.boolean().default(false),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
    riseK: z.number().optional(),
    limitK: z.number().optional(),
    how: z.string(),
    /** of each reading */
    rises: z.array(z.object({ seconds: z.number(), riseK: z.number() })).optional(),
    timeConstantS: z.number().optional(),
    r2: z.number().optional(),
    hottestC: z.number().optional(),
    lifeH: z.number().optional(),
  }),
  example: {
    coldOhm: 0.62,
    coldC: 21,
    coolantC: 24,
    ratedKW: 11,
    thermalClass: 'F',
    readings: [
      { seconds: 25, ohm: 0.788 },
      { seconds: 50, ohm: 0.783 },
      { seconds: 75, ohm: 0.778 },
      { seconds: 100, ohm: 0.773 },
      { seconds: 125, ohm: 0.768 },
    ],
  },
  compute: (x, note) => {
    if (x.ratedKW === undefined)
      return {
        verdict: 'cannot judge' as const,
        reason: 'The rated output decides how soon after the switch a reading counts.',
        how: 'none',
      };
    const found = riseAtRest(x.readings, { ...x, ratedKW: x.ratedKW });
    if (found.how === 'none')
      return { verdict: 'cannot judge' as const, reason: `No rise: ${found.why ?? ''}.`, how: found.how };
    const { riseK } = found;
    note?.({
      name: 'Rise at the switch',
      symbol: 'Δθ',
      formula: found.how === 'extrapolated' ? 'exp of the line of ln Δθ at t = 0' : '(R₂/R₁)(k + t₁) − k − t_a',
      numbers: `${x.readings.length} reading${x.readings.length === 1 ? '' : 's'}, k = ${x.k}, t₁ = ${x.coldC} °C, t_a = ${x.coolantC} °C`,
      value: riseK,
      unit: 'K',
      source: 'IEC 60034-1, IEEE 112 (from memory)',
    });
    const limitK =
      x.thermalClass === undefined
        ? undefined
        : riseLimitK({ rule: x.rule, thermalClass: x.thermalClass, altitudeM: x.altitudeM, coolantC: x.ratedCoolantC });
    const hottestC = riseK + x.coolantC;
    const end = {
      rises: x.readings.map((r) => ({ seconds: r.seconds, riseK: riseByResistance({ ...x, hotOhm: r.ohm }) })),
      riseK,
      how: found.how,
      hottestC,
      ...(limitK === undefined ? {} : { limitK }),
      ...(found.timeConstantS === undefined ? {} : { timeConstantS: found.timeConstantS }),
      ...(found.r2 === undefined ? {} : { r2: found.r2 }),
      ...(x.thermalClass === undefined ? {} : { lifeH: lifeHours(x.thermalClass, hottestC) }),
    };
    const how =
      found.how === 'extrapolated'
        ? `drawn back to the switch, time constant ${formatNumber((found.timeConstantS ?? 0) / 60, 3)} min`
        : found.how;
    const cannot = (reason: string) => ({ verdict: 'cannot judge' as const, reason, ...end });
    if (x.thermalClass === undefined)
      return cannot(
        `${formatNumber(riseK, 3)} K (${how}). The class of the weakest part decides the limit; choose it.`,
      );
    if (limitK === undefined)
      return cannot(`${formatNumber(riseK, 3)} K (${how}). "${x.rule}" names no limit for class ${x.thermalClass}.`);
    const off = limit('load.offPercent', x.limits);
    if (!notAbove(Math.abs(x.loadPercent - 100), off))
      return cannot(
        `${formatNumber(riseK, 3)} K (${how}) at ${formatNumber(x.loadPercent)} % of the rated load; judged within ${quoteLimit('load.offPercent', x.limits)} of it only.`,
      );
    const [shown, bound] = formatAgainst(riseK, limitK);
    const margin = limit('load.riseMarginK', x.limits);
    const said = `${shown} K (${how}); class ${x.thermalClass} allows ${bound} K (${x.rule}${x.altitudeM > 1000 ? `, ${formatNumber(x.altitudeM)} m high` : ''}; from memory)`;
    const parts: Judged[] = [
      notAbove(riseK, limitK - margin)
        ? { verdict: 'pass', reason: `${said}.` }
        : notAbove(riseK, limitK)
          ? { verdict: 'attention', reason: `${said}: less than ${quoteLimit('load.riseMarginK', x.limits)} are left.` }
          : { verdict: 'fail', reason: `${said}: too hot. Cooling, load, voltage, then the winding data.` },
    ];
    if (found.doubtful)
      parts.push({
        verdict: 'attention',
        reason: `The line back to the switch is loose (${x.readings.length} readings, r² ${formatNumber(found.r2 ?? 0, 3)}): five falling readings and ${quoteLimit('load.riseFit', x.limits)} are wanted.`,
      });
    return { ...judgedTogether([...parts, ...outOfCalibration(x.calibrationExpired)]), ...end };
  },
});

/** Temperature rise in the test matrix. */
export const temperatureRiseTest: TestKind = {
  id: 'temperatureRise',
  title: 'Temperature rise',
  stages: { FI: 'optional' },
  calculation: temperatureRise as unknown as Calculation,
  needsWholeMotor: true,
  fields: [
    quantity('coldOhm', 'Cold resistance lead to lead', 'resistance', 'Ω', need),
    celsius('coldC', 'Winding then', need),
    celsius('coolantC', 'Coolant at the end of the run', need),
    listOf('seconds', 'Seconds since the switch', 'number', '', '30, 60, 90'),
    listOf('ohms', 'Resistance at each', 'resistance', 'Ω', '0.579, 0.575, 0.571'),
    quantity('load', 'Load', 'percent', '%', { hint: 'of the rated one; blank: 100' }),
    quantity('altitude', 'Height above the sea, m', 'number', '', { hint: 'blank: up to 1000' }),
    choice('thermalClass', 'Class of the weakest part', [...CLASSES], { hint: 'wire, resin, leads, sleeves' }),
    choice('rule', 'Limit by', [...RISE_RULES], { hint: `blank: ${RISE_RULES[0] ?? ''}` }),
    text('instrument', 'Instrument', need),
  ],
  lacks: (v) => sameLengths(v, ['seconds', 'ohms'], 'Each moment has its resistance'),
  due: ({ nameplate }) => {
    const insulation = nameplate.insulationClass;
    return {
      says: [
        'At rated load until the winding rises by no more than 1 K in 30 min. Then off; the first reading as soon as it stands, then every 20 to 30 s, at least five.',
        insulation === undefined
          ? 'The class of the weakest part decides the limit.'
          : `Plate: class ${insulation}; a weaker lead, resin or sleeve decides instead.`,
      ],
      ...(insulation === undefined ? {} : { typed: { thermalClass: insulation } }),
    };
  },
  input: (v, { nameplate, record }) => {
    const [seconds, ohms] = [numbers(v, 'seconds'), numbers(v, 'ohms')];
    return {
      coldOhm: num(v, 'coldOhm'),
      coldC: num(v, 'coldC'),
      coolantC: num(v, 'coolantC'),
      readings: seconds.map((s, i) => ({ seconds: s, ohm: ohms[i] })),
      ratedKW: nameplate.outputW === undefined ? undefined : nameplate.outputW / 1000,
      k: record?.material === 'aluminium' ? 225 : undefined,
      rule: v['rule'],
      thermalClass: v['thermalClass'],
      altitudeM: num(v, 'altitude'),
      ratedCoolantC: nameplate.ambientC,
      loadPercent: num(v, 'load'),
    };
  },
  derived: [{ name: 'riseK', title: 'Temperature rise', unit: 'K' }],
  caution:
    'Hot and just stopped: locked and proved dead before leads are touched, no braking by hand. Local codes and licensed practice decide.',
};
