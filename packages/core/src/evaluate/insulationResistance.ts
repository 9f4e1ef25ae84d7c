import { z } from 'zod';
import { defineCalculation } from '../calculation.ts';
import { limit, quoteLimit } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { formatAgainst, formatNumber } from '../quantity/format.ts';
import { combineVerdicts, notAbove, notBelow, type Verdict } from '../verdict.ts';
import type { Calculation } from '../calculation.ts';
import { celsius, choice, need, quantity, text } from '../process/fieldKinds.ts';
import type { FieldSpec, FieldValue } from '../quantity/fields.ts';
import { belowRange } from './insulationBelowRange.ts';
import {
  CORRECTION_RANGE_C,
  dewPointC,
  insulationReading,
  insulationTemperatureFactor,
  minimumInsulationMegohm,
  testVoltageRange,
  WINDING_KINDS,
} from './insulationCorrection.ts';
import { isFormWound } from '../winding/record.ts';
import { phasesApart } from './phasesApart.ts';
import { polarization } from './polarization.ts';
import { changeBase, saidOf, sameWay } from './change.ts';
import { EARTH, num, type JudgingContext, type Readings, type TestKind } from './testKind.ts';

/** Calculation `evaluate.insulationResistance`. */
export const insulationResistance = defineCalculation({
  id: 'evaluate.insulationResistance',
  version: 3,
  title: 'Insulation resistance at 40 °C, polarization index, verdict',
  sources: ['IEEE 43-2013 (from memory)', 'Magnus dew point', 'attention bands: common practice'],
  input: z.strictObject({
    kind: z.enum(WINDING_KINDS).optional(),
    system: z.enum(['thermosetting', 'thermoplastic']).default('thermosetting'),
    ratedV: z.number().positive().optional(),
    ratedKVA: z.number().positive().optional(),
    insulationClass: z.enum(['A', 'E', 'B', 'F', 'H', 'N']).optional(),
    testV: z.number().positive().optional(),
    windingC: z.number().optional(),
    airC: z.number().optional(),
    humidityPercent: z.number().min(1).max(100).optional(),
    r15s: insulationReading.optional(),
    r30s: insulationReading.optional(),
    r1min: insulationReading.optional(),
    r10min: insulationReading.optional(),
    phases: z
      .array(insulationReading.nullable())
      .length(3)
      .optional()
      .describe('phases A, B, C alone after one minute, the others earthed; null: not read'),
    measured: z
      .enum(['whole winding', 'one phase, others earthed', 'one phase, others guarded'])
      .default('whole winding'),
    stage: z.enum(['IN', 'BS', 'AB', 'AC', 'VC', 'AA', 'FI']).optional(),
    rewound: z.boolean().default(false),
    earlier: z
      .strictObject({
        r40Megohm: z.number().positive().max(1e9),
        /** it was over the range of its instrument */
        overRange: z.boolean().default(false),
        said: z.string().min(1).max(120),
      })
      .optional()
      .describe('the reading of the same winding, read the same way, that this one is set against'),
    calibrationExpired: z.boolean().default(false),
    limits: shopLimitsSchema.default({}),
  }),
  output: z.object({
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
    factor: z.number().optional(),
    r40Megohm: z.number().optional(),
    minimumMegohm: z.number().optional(),
    polarizationIndex: z.number().optional(),
    polarizationIndexIsBound: z.boolean().optional(),
    absorptionRatio: z.number().optional(),
    dewPointC: z.number().optional(),
    phases40Megohm: z.array(z.number().nullable()).optional(),
    mayTestHighVoltage: z.boolean(),
    earlier: z.object({ r40Megohm: z.number(), overRange: z.boolean(), said: z.string() }).optional(),
    changePercent: z.number().optional(),
    byLaw: z.object({ thermosetting: z.number(), thermoplastic: z.number() }).optional(),
  }),
  example: {
    kind: 'random-wound',
    ratedV: 400,
    testV: 500,
    windingC: 20,
    airC: 20,
    humidityPercent: 50,
    r1min: { megohm: 850 },
    r10min: { megohm: 1900 },
  },
  compute: (x, note) => {
    const cannot = (reason: string, more: object = {}) => ({
      verdict: 'cannot judge' as const,
      reason,
      mayTestHighVoltage: false,
      ...more,
    });
    const r1 = x.r1min;
    if (r1?.underRange) return belowRange({ ...x, bound: r1.megohm });
    if (!x.kind) return cannot('The kind of winding decides the minimum; choose it.');
    if (!r1 || !(r1.megohm > 0)) return cannot('The reading after one minute is missing or not above zero.');
    if (x.windingC === undefined)
      return cannot('The winding temperature is needed: insulation resistance halves with some 10 K.');
    if (x.testV === undefined) return cannot('The test voltage is needed.');
    if (x.ratedV === undefined) return cannot('The rated voltage decides test voltage and minimum.');
    const [coldest, hottest] = CORRECTION_RANGE_C[x.system];
    const dew =
      x.airC !== undefined && x.humidityPercent !== undefined ? dewPointC(x.airC, x.humidityPercent) : undefined;
    if (x.windingC < coldest || x.windingC > hottest) {
      return cannot(
        `The correction holds from ${coldest} to ${hottest} °C; the winding had ${formatNumber(x.windingC)} °C. Take a reading inside that range.`,
      );
    }
    const factor = insulationTemperatureFactor(x.windingC, x.system);
    const divisor = x.measured === 'whole winding' ? 1 : x.measured === 'one phase, others earthed' ? 2 : 3;
    const r40 = (factor * r1.megohm) / divisor;
    const minimum = minimumInsulationMegohm(x.kind, x.ratedV);
    const byLaw = {
      thermosetting: (insulationTemperatureFactor(x.windingC, 'thermosetting') * r1.megohm) / divisor,
      thermoplastic: (insulationTemperatureFactor(x.windingC, 'thermoplastic') * r1.megohm) / divisor,
    };
    note?.({
      name: 'Temperature factor to 40 °C',
      symbol: 'K_T',
      formula:
        x.system === 'thermoplastic'
          ? '0.5^((40 − T)/10)'
          : `exp(−${x.windingC >= 40 ? 4230 : 1245} (1/(T + 273) − 1/313))`,
      numbers: `T = ${x.windingC} °C`,
      value: factor,
      unit: '',
      source: x.system === 'thermoplastic' ? 'halving per 10 K' : 'IEEE 43-2013 (from memory)',
    });
    note?.({
      name: 'Resistance of the whole winding at 40 °C',
      symbol: 'R₄₀',
      formula: divisor === 1 ? 'K_T R' : `K_T R / ${divisor} (${x.measured})`,
      numbers: `${factor.toFixed(5)} · ${r1.megohm}${divisor === 1 ? '' : ` / ${divisor}`}`,
      value: r40,
      unit: 'MΩ',
      source: 'IEEE 43-2013 (from memory)',
    });
    note?.({
      name: 'Minimum',
      symbol: 'R_min',
      formula: minimum.rule,
      numbers: '',
      value: minimum.megohm,
      unit: 'MΩ',
      source: 'IEEE 43-2013 (from memory)',
    });
    const [shown] = formatAgainst(r40, minimum.megohm);
    const measuredText = `R at 1 min ${r1.overRange ? 'above ' : ''}${formatNumber(r1.megohm)} MΩ at ${formatNumber(x.windingC)} °C and ${x.testV} V, ${r1.overRange ? 'above ' : ''}${shown} MΩ at 40 °C (${x.system} rule${divisor === 1 ? '' : `, ${x.measured}: divided by ${divisor}`}); minimum ${minimum.rule}.`;
    const base = {
      factor,
      r40Megohm: r40,
      minimumMegohm: minimum.megohm,
      byLaw,
      ...(dew === undefined ? {} : { dewPointC: dew }),
    };
    const pi = polarization(x, r40);
    const bound = { ...base, ...pi.values };
    let verdict: Verdict;
    let tail = '';
    if (r1.overRange) {
      if (notBelow(r40, minimum.megohm)) verdict = 'pass';
      else
        return cannot(
          `${measuredText} The instrument's range ends below the minimum: use one that reaches higher.`,
          bound,
        );
    } else {
      const margin = limit('ir.dewPointMarginK', x.limits);
      const low = !notBelow(r40, minimum.megohm);
      if (low && dew !== undefined && !notBelow(x.windingC, dew + margin)) {
        return cannot(
          `${measuredText} The winding is only ${formatNumber(x.windingC - dew, 2)} K above the dew point of ${formatNumber(dew, 3)} °C: surface moisture likely. Warm, dry, repeat. No high-voltage test.`,
          bound,
        );
      }
      if (low) {
        const atIntake = x.stage === 'IN' && (x.ratedKVA ?? 0) <= 10_000 && pi.met === true;
        verdict = atIntake ? 'attention' : 'fail';
        tail = atIntake
          ? ' The polarization index is met, which IEEE 43 accepts up to 10 MVA.'
          : ' Clean, dry, repeat before condemning. No high-voltage test.';
      } else if (!notBelow(r40, limit('ir.attentionFactor', x.limits) * minimum.megohm)) {
        verdict = 'attention';
        tail = ` Below ${limit('ir.attentionFactor', x.limits)} times the minimum (common practice).`;
      } else if (
        x.rewound &&
        x.stage === 'VC' &&
        x.ratedV < 1000 &&
        !notBelow(r40, limit('ir.freshRewindMegohm', x.limits))
      ) {
        verdict = 'attention';
        tail = ` A fresh, cured low-voltage rewind should reach ${limit('ir.freshRewindMegohm', x.limits)} MΩ (common practice).`;
      } else verdict = 'pass';
    }
    const [uLow, uHigh] = testVoltageRange(x.ratedV);
    const offTable = x.testV < uLow || x.testV > uHigh;
    verdict = combineVerdicts([verdict, pi.verdict]);
    const apart = x.phases?.some((p) => p !== null)
      ? phasesApart({
          phases: x.phases.map((p) => p ?? undefined),
          factor,
          minimumMegohm: minimum.megohm,
          limits: x.limits,
        })
      : undefined;
    if (apart) {
      verdict = combineVerdicts([verdict, apart.verdict]);
      if (apart.reason !== '') tail += ` ${apart.reason}`;
    }
    const since = x.earlier && r1.overRange !== true ? 100 * (r40 / x.earlier.r40Megohm - 1) : undefined;
    if (x.earlier && since !== undefined && !notAbove(-since, limit('change.insulationPercent', x.limits))) {
      verdict = combineVerdicts([verdict, 'attention']);
      tail += ` ${x.earlier.overRange ? 'At least ' : ''}${formatNumber(-since, 3)} % less than ${x.earlier.said} (${x.earlier.overRange ? 'above ' : ''}${formatNumber(x.earlier.r40Megohm, 3)} MΩ at 40 °C), more than ${quoteLimit('change.insulationPercent', x.limits)}: clean, dry, repeat before condemning.`;
    }
    if (offTable) {
      verdict = combineVerdicts([verdict, 'attention']);
      tail += ` Tested at ${x.testV} V; ${uLow === uHigh ? uLow : `${uLow} to ${uHigh}`} V belongs to ${x.ratedV} V: do not compare with readings at another voltage.`;
    }
    if (x.calibrationExpired && verdict === 'pass') {
      verdict = 'attention';
      tail += ' The instrument is out of calibration.';
    }
    return {
      verdict,
      reason: `${measuredText}${tail}${pi.text}`,
      mayTestHighVoltage: verdict !== 'fail',
      ...bound,
      ...(apart ? { phases40Megohm: apart.wholeMegohm } : {}),
      ...(x.earlier ? { earlier: x.earlier } : {}),
      ...(since === undefined || (x.earlier?.overRange && since > 0) ? {} : { changePercent: since }),
    };
  },
});

const megohm = (name: string, label: string, o: { required?: true; hint?: string } = {}): FieldSpec => ({
  name,
  label,
  read: { kind: 'quantity', dimension: 'insulation', unit: 'MΩ', min: 0, overRange: true, underRange: true },
  ...o,
});
const megohmOf = (values: Readonly<Record<string, FieldValue>>, name: string) => {
  const value = num(values, name);
  return value === undefined
    ? undefined
    : {
        megohm: value,
        overRange: values[`${name}OverRange`] === true,
        underRange: values[`${name}UnderRange`] === true,
      };
};

const PHASES_ALONE = ['phaseA', 'phaseB', 'phaseC'] as const;

/** The reading that one is set against; undefined where there is none of the same winding, read the same way. */
function earlierOf(v: Readings, c: JudgingContext) {
  if (c.again) return c.again['earlier'];
  const was = changeBase(insulationResistanceTest, v, c);
  return was && was.figure > 0
    ? { r40Megohm: was.figure, overRange: was.values['r1minOverRange'] === true, said: saidOf(was, c.route) }
    : undefined;
}

/** Insulation resistance in the test matrix. */
export const insulationResistanceTest: TestKind = {
  id: 'insulationResistance',
  title: 'Insulation resistance',
  calculation: insulationResistance as unknown as Calculation,
  alike: (was, now) =>
    typeof was['testV'] === 'number' && typeof now['testV'] === 'number' && was['testV'] !== now['testV']
      ? `read at ${formatNumber(was['testV'])} V`
      : sameWay('measured', 'system')(was, now),
  boundOf: (v) => (v['r1minOverRange'] === true ? 'at least' : undefined),
  derived: [
    { name: 'r40Megohm', title: 'At 40 °C after 1 min', unit: 'MΩ' },
    { name: 'polarizationIndex', title: 'Polarization index', unit: '' },
    { name: 'absorptionRatio', title: 'Absorption ratio', unit: '' },
  ],
  caution: EARTH,
  usual: ({ record, ratedV = 0 }) => ({
    testV: String(testVoltageRange(ratedV)[1]),
    measured: 'whole winding',
    kind: isFormWound(record) ? 'form-wound' : 'random-wound',
    system: 'thermosetting',
  }),
  due: (c) => {
    const { nameplate, record, limits } = c;
    if (!nameplate.voltagesV?.length)
      return { says: ['The nameplate names no voltage: test voltage and minimum cannot be told.'] };
    const ratedV = Math.max(...nameplate.voltagesV);
    const [low, high] = testVoltageRange(ratedV);
    const minimum = minimumInsulationMegohm(isFormWound(record) ? 'form-wound' : 'random-wound', ratedV);
    const was = changeBase(insulationResistanceTest, {}, c);
    return {
      says: [
        `${low === high ? low : `${low} to ${high}`} V DC for ${formatNumber(ratedV)} V (IEEE 43-2013, from memory); at least ${minimum.rule}, after one minute at 40 °C.`,
        `Winding at least ${limit('ir.dewPointMarginK', limits)} K above the dew point. Short and earth it afterwards at least four times as long as it was charged.`,
        ...(was
          ? [
              `Before, ${saidOf(was, c.route)}: ${was.values['r1minOverRange'] === true ? 'above ' : ''}${formatNumber(was.figure, 3)} MΩ at 40 °C${typeof was.values['testV'] === 'number' ? `, read at ${formatNumber(was.values['testV'])} V` : ''}.`,
            ]
          : []),
      ],
      short: `≥ ${formatNumber(minimum.megohm)} MΩ`,
    };
  },
  stages: { IN: 'required', BS: 'optional', AC: 'required', VC: 'required', AA: 'required', FI: 'required' },
  fields: [
    quantity('testV', 'Test voltage, DC', 'voltage', 'V', need),
    megohm('r30s', 'after 30 s'),
    megohm('r1min', 'after 1 min', { required: true, hint: '>2000 over the range of the instrument, <0.1 below it' }),
    megohm('r10min', 'after 10 min'),
    megohm('phaseA', 'Phase A alone, 1 min', { hint: 'the others earthed' }),
    megohm('phaseB', 'Phase B alone, 1 min'),
    megohm('phaseC', 'Phase C alone, 1 min'),
    celsius('windingC', 'Winding temperature'),
    celsius('airC', 'Air temperature'),
    quantity('humidity', 'Humidity', 'percent', '%'),
    choice('measured', 'Measured', ['whole winding', 'one phase, others earthed', 'one phase, others guarded'], need),
    choice('kind', 'Winding', [...WINDING_KINDS], need),
    choice('system', 'Insulation', ['thermosetting', 'thermoplastic'], need),
    text('instrument', 'Instrument', need),
  ],
  hides: ({ machine, record }) =>
    machine !== 'single-phase' && (record?.leads === '6' || record?.leads === '12') ? [] : PHASES_ALONE,
  lacks: (v) =>
    v['windingC'] === undefined && v['r1minUnderRange'] !== true
      ? { field: 'windingC', message: 'Winding temperature is needed.' }
      : undefined,
  input: (v, c) => ({
    kind: v['kind'],
    system: v['system'],
    measured: v['measured'],
    testV: num(v, 'testV'),
    windingC: num(v, 'windingC'),
    airC: num(v, 'airC'),
    humidityPercent: num(v, 'humidity'),
    r30s: megohmOf(v, 'r30s'),
    r1min: megohmOf(v, 'r1min'),
    r10min: megohmOf(v, 'r10min'),
    phases: PHASES_ALONE.some((p) => v[p] !== undefined) ? PHASES_ALONE.map((p) => megohmOf(v, p) ?? null) : undefined,
    ratedV: c.nameplate.voltagesV ? Math.max(...c.nameplate.voltagesV) : undefined,
    ratedKVA: c.nameplate.outputW === undefined ? undefined : c.nameplate.outputW / 1000,
    insulationClass: c.nameplate.insulationClass,
    stage: c.stage,
    rewound: c.rewound,
    earlier: earlierOf(v, c),
  }),
};
