import { z } from 'zod';
import { defineCalculation, refuse, type Calculation } from '../calculation.ts';
import { limit } from '../limits/limits.ts';
import { shopLimitsSchema } from '../limits/shopLimitsSchema.ts';
import { choice, need, notes, quantity, text } from '../process/fieldKinds.ts';
import type { FieldSpec } from '../quantity/fields.ts';
import { formatNumber } from '../quantity/format.ts';
import { combineVerdicts, outOfCalibration } from '../verdict.ts';
import type { Due } from './due.ts';
import { ENDINGS, HOLD_S, judgeHighPotential, KINDS_OF_VOLTAGE, type Ending } from './highPotentialJudged.ts';
import { NOT_DISCHARGED } from './steppedVoltage.ts';
import { HIGH_VOLTAGE, num, type JudgingContext, type Readings, type TestKind } from './testKind.ts';
import { usualLeakageMA } from './usualLeakage.ts';
import {
  chargingA,
  DC_FACTOR,
  WITHSTAND_STANDARDS,
  WITHSTAND_STATES,
  WITHSTAND_WINDINGS,
  withstand,
  type WithstandQuestion,
  type WithstandState,
} from './withstand.ts';

const asked = {
  winding: z.enum(WITHSTAND_WINDINGS).default('armature or stator'),
  state: z.enum(WITHSTAND_STATES).default('new'),
  standard: z.enum(WITHSTAND_STANDARDS).default('IEC 60034-1'),
  /** the highest of the plate; of a field its highest excitation voltage, of a wound rotor its standstill ring voltage */
  ratedV: z.number().positive().max(1e6),
  outputKW: z.number().positive().max(1e7).optional(),
  machine: z.enum(['alternating', 'direct', 'universal']).optional(),
  limits: shopLimitsSchema.default({}),
};
const withFarad = {
  /** capacitance of the winding to ground, for the charging current */
  capacitanceNF: z.number().positive().max(1e6).optional(),
  frequencyHz: z.number().positive().max(1000).default(50),
};
const SOURCES = ['IEC 60034-1 and NEMA MG 1, tables of withstand voltages (from memory)', 'I = 2π f C U'];

/** Calculation `evaluate.withstandVoltage`. */
export const withstandVoltage = defineCalculation({
  id: 'evaluate.withstandVoltage',
  version: 1,
  title: 'High-potential test: voltage by winding and by what was done to it',
  sources: SOURCES,
  input: z.strictObject({
    ...asked,
    ...withFarad,
    /** tests at full value that this winding has had */
    fullTests: z.int().min(0).max(100).default(0),
  }),
  output: z.object({
    fullV: z.number(),
    testV: z.number(),
    dcV: z.number(),
    formula: z.string(),
    source: z.string(),
    startV: z.number(),
    rampS: z.number(),
    holdS: z.number(),
    productionV: z.number().optional(),
    chargingMA: z.number().optional(),
    tripMA: z.number().optional(),
  }),
  example: { ratedV: 400, outputKW: 5.5, state: 'new', capacitanceNF: 12 },
  compute: (x, note) => {
    if (x.state === 'new' && x.fullTests > 0)
      refuse(
        'state',
        `This winding had ${x.fullTests} test${x.fullTests === 1 ? '' : 's'} at full value already; it is not done twice. Repeat at 80 %: ${formatNumber(withstand({ ...x, state: 'repeat' }, x.limits).testV)} V.`,
      );
    const w = withstand(x, x.limits);
    note?.({
      name: 'Test voltage, rms',
      symbol: 'U_t',
      formula: w.formula,
      numbers: `U = ${formatNumber(x.ratedV)} V`,
      value: w.testV,
      unit: 'V',
      source: w.source,
    });
    note?.({
      name: 'The same as direct voltage',
      symbol: 'U_dc',
      formula: `${DC_FACTOR} · U_t`,
      numbers: `${DC_FACTOR} · ${formatNumber(w.testV)}`,
      value: w.dcV,
      unit: 'V',
      source: 'IEC 60034-1, IEEE 95 (from memory)',
    });
    const charging =
      x.capacitanceNF === undefined ? undefined : chargingA(x.capacitanceNF * 1e-9, w.testV, x.frequencyHz);
    if (charging !== undefined)
      note?.({
        name: 'Charging current',
        symbol: 'I_c',
        formula: '2π f C U',
        numbers: `2π · ${x.frequencyHz} Hz · ${x.capacitanceNF} nF · ${formatNumber(w.testV)} V`,
        value: charging * 1000,
        unit: 'mA',
        source: 'I = 2π f C U',
      });
    return {
      fullV: w.fullV,
      testV: w.testV,
      dcV: w.dcV,
      formula: w.formula,
      source: w.source,
      startV: w.testV / 2,
      rampS: limit('hipot.rampS', x.limits),
      holdS: HOLD_S,
      ...(w.productionV === undefined ? {} : { productionV: w.productionV }),
      ...(charging === undefined
        ? {}
        : { chargingMA: charging * 1000, tripMA: limit('hipot.tripFactor', x.limits) * charging * 1000 }),
    };
  },
});

/** Calculation `evaluate.highPotential`. */
export const highPotential = defineCalculation({
  id: 'evaluate.highPotential',
  version: 2,
  title: 'High-potential test: voltage, time, ending, current',
  sources: SOURCES,
  input: z.strictObject({
    ...asked,
    ...withFarad,
    kind: z.enum(KINDS_OF_VOLTAGE).default('AC'),
    ended: z.enum(ENDINGS).default('held'),
    reachedV: z.number().positive().max(1e6).optional(),
    heldS: z.number().min(0).max(86_400).optional(),
    /** from half to full voltage */
    rampS: z.number().min(0).max(86_400).optional(),
    currentMA: z.number().min(0).max(1e6).optional(),
    tripMA: z.number().positive().max(1e6).optional(),
    /** median of motors of its kind */
    usualMA: z.number().positive().max(1e6).optional(),
    /** it held, but something was seen */
    seen: z.boolean().default(false),
    calibrationExpired: z.boolean().default(false),
  }),
  output: z.object({
    verdict: z.enum(['pass', 'attention', 'fail', 'cannot judge']),
    reason: z.string(),
    requiredV: z.number(),
    fullV: z.number(),
    state: z.enum(WITHSTAND_STATES),
    /** it proved the full value: not to be done a second time */
    fullValue: z.boolean(),
    chargingMA: z.number().optional(),
    currentMA: z.number().optional(),
    usualMA: z.number().optional(),
  }),
  example: { ratedV: 400, outputKW: 5.5, reachedV: 1800, heldS: 60, currentMA: 4.2 },
  compute: (x, note) => {
    const required = withstand(x, x.limits);
    const milli = (v: number | undefined) => (v === undefined ? undefined : v / 1000);
    const judged = judgeHighPotential({
      kind: x.kind,
      required,
      state: x.state,
      ended: x.ended,
      reachedV: x.reachedV,
      heldS: x.heldS,
      rampS: x.rampS,
      currentA: milli(x.currentMA),
      tripA: milli(x.tripMA),
      farad: x.capacitanceNF === undefined ? undefined : x.capacitanceNF * 1e-9,
      frequencyHz: x.frequencyHz,
      usualA: milli(x.usualMA),
      seen: x.seen,
      limits: x.limits,
    });
    note?.({
      name: 'Required voltage',
      symbol: x.kind === 'DC' ? 'U_dc' : 'U_t',
      formula: x.kind === 'DC' ? `${DC_FACTOR} · (${required.formula})` : required.formula,
      numbers: `U = ${formatNumber(x.ratedV)} V, ${x.state}`,
      value: judged.requiredV,
      unit: 'V',
      source: required.source,
    });
    if (judged.charging !== undefined)
      note?.({
        name: 'Charging current',
        symbol: 'I_c',
        formula: '2π f C U',
        numbers: `2π · ${x.frequencyHz} Hz · ${x.capacitanceNF} nF`,
        value: judged.charging * 1000,
        unit: 'mA',
        source: 'I = 2π f C U',
      });
    const late = outOfCalibration(x.calibrationExpired);
    const verdict = combineVerdicts([judged.verdict, ...late.map((l) => l.verdict)]);
    return {
      verdict,
      reason: [judged.reason, ...late.map((l) => l.reason)].join(' '),
      requiredV: judged.requiredV,
      fullV: required.fullV,
      state: x.state,
      fullValue: x.state === 'new' && (judged.verdict === 'pass' || judged.verdict === 'attention'),
      ...(judged.charging === undefined ? {} : { chargingMA: judged.charging * 1000 }),
      ...(x.currentMA === undefined ? {} : { currentMA: x.currentMA }),
      ...(x.usualMA === undefined ? {} : { usualMA: x.usualMA }),
    };
  },
});

/** What was done to the winding, as far as the test goes. */
export function withstandStateOf(c: Pick<JudgingContext, 'stage' | 'newWinding' | 'before'>): WithstandState {
  if (!c.newWinding) return 'overhauled';
  if (c.stage === 'AC') return 'before resin';
  return c.stage === 'VC' && (c.before?.fullTests ?? 0) === 0 ? 'new' : 'repeat';
}

/** The question of the required voltage for a motor on the bench; undefined where its plate names no voltage. */
function questionOf(c: JudgingContext, v: Readings): WithstandQuestion | undefined {
  const volts = c.nameplate.voltagesV;
  if (!volts?.length) return undefined;
  return {
    winding: c.part === 'wound-rotor' ? 'wound rotor' : 'armature or stator',
    state: (v['state'] as WithstandState | undefined) ?? withstandStateOf(c),
    standard: v['standard'] === 'NEMA MG 1' ? 'NEMA MG 1' : 'IEC 60034-1',
    ratedV: Math.max(...volts),
    outputKW: c.nameplate.outputW === undefined ? undefined : c.nameplate.outputW / 1000,
  };
}

/** What is said before a high-potential test. */
function due(c: JudgingContext): Due {
  const question = questionOf(c, {});
  if (!question) return { says: ['The nameplate names no voltage: the test voltage cannot be worked out.'] };
  const w = withstand(question, c.limits);
  const usual = usualLeakageMA(c.ofItsKind ?? [], { testV: w.testV });
  const full = (c.before?.fullTests ?? 0) > 0 && c.newWinding;
  return {
    says: [
      `${formatNumber(w.testV)} V AC rms (or ${formatNumber(w.dcV)} V DC) for ${HOLD_S} s: ${question.state}, ${w.formula} (${w.source}).`,
      ...(full ? ['This winding was tested at its full value already: not a second time, 80 % instead.'] : []),
      `Begin at no more than ${formatNumber(w.testV / 2)} V, from there to full in at least ${limit('hipot.rampS', c.limits)} s; back to half, off, earth.`,
      ...(w.productionV === undefined
        ? []
        : [`Of a series: 1 s at ${formatNumber(w.productionV)} V may stand for the minute.`]),
      ...(usual === undefined
        ? []
        : [`Usual of its kind: ${formatNumber(usual, 3)} mA (median of the other motors, brought to this voltage).`]),
      'Only after resistance, insulation resistance and surge have passed. Everything not under test joined and earthed.',
    ],
    short: `${formatNumber(w.testV)} V`,
    typed: { testV: formatNumber(w.testV), seconds: String(HOLD_S), state: question.state },
  };
}

const ENDING_OF: Readonly<Record<string, Ending>> = {
  pass: 'held',
  attention: 'held',
  fail: 'breakdown',
  trip: 'trip',
};

const outcome: FieldSpec = {
  name: 'outcome',
  label: 'Outcome',
  required: true,
  read: {
    kind: 'choice',
    options: [
      { value: 'pass', label: 'held' },
      { value: 'fail', label: 'breakdown, flash or collapse' },
      { value: 'trip', label: 'current trip without collapse' },
      { value: 'attention', label: 'held, with something seen' },
    ],
  },
};

/** High potential in the test matrix. */
export const highPotentialTest: TestKind = {
  id: 'highPotential',
  title: 'High potential',
  stages: { AC: 'optional', VC: 'required', FI: 'optional' },
  calculation: highPotential as unknown as Calculation,
  fields: [
    quantity('testV', 'Test voltage, rms', 'voltage', 'V', { ...need, hint: 'DC: the direct voltage' }),
    quantity('seconds', 'Held for', 'time', 's', need),
    outcome,
    choice('voltage', 'Voltage', [...KINDS_OF_VOLTAGE], { hint: 'blank: AC' }),
    choice('state', 'Winding is', [...WITHSTAND_STATES], { hint: 'decides the share of the full value' }),
    quantity('ramp', 'Half to full in', 'time', 's'),
    quantity('current', 'Largest current', 'current', 'mA'),
    quantity('trip', 'Set trips at', 'current', 'mA'),
    quantity('capacitance', 'Winding to ground', 'capacitance', 'nF', { hint: 'for the charging current' }),
    choice('standard', 'By', [...WITHSTAND_STANDARDS], { hint: 'blank: IEC 60034-1' }),
    { name: 'discharged', label: 'Discharged and earthed', read: { kind: 'flag' }, hint: 'after direct voltage' },
    text('instrument', 'Instrument', need),
    notes('finding', 'What was seen'),
  ],
  lacks: (v) =>
    v['voltage'] === 'DC' && v['discharged'] !== true ? { field: 'discharged', message: NOT_DISCHARGED } : undefined,
  input: (v, c) => {
    const question = questionOf(c, v);
    if (!question) return undefined;
    const milli = (name: string) => {
      const amps = num(v, name);
      return amps === undefined ? undefined : amps * 1000;
    };
    const seconds = (name: string) => {
      const minutes = num(v, name);
      return minutes === undefined ? undefined : minutes * 60;
    };
    const farad = num(v, 'capacitance');
    return {
      ...question,
      kind: v['voltage'],
      seen: v['outcome'] === 'attention',
      ended: ENDING_OF[typeof v['outcome'] === 'string' ? v['outcome'] : 'pass'],
      reachedV: num(v, 'testV'),
      heldS: seconds('seconds'),
      rampS: seconds('ramp'),
      currentMA: milli('current'),
      tripMA: milli('trip'),
      capacitanceNF: farad === undefined ? undefined : farad * 1e9,
      frequencyHz: c.nameplate.frequencyHz,
      usualMA: c.again ? c.again['usualMA'] : usualLeakageMA(c.ofItsKind ?? [], v),
    };
  },
  setAgainstItsKind: true,
  derived: [
    { name: 'currentMA', title: 'Current at the test voltage', unit: 'mA' },
    { name: 'requiredV', title: 'Voltage that was wanted', unit: 'V' },
  ],
  due,
  caution: HIGH_VOLTAGE,
};
