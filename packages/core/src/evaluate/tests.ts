import { runCalculation, type Calculation, type CalculationResult } from '../calculation.ts';
import type { ShopLimits } from '../limits/limits.ts';
import type { Nameplate } from '../machine/nameplate.ts';
import { celsius, choice, need, notes, quantity, stated, text } from '../process/fieldKinds.ts';
import type { TestStage } from '../process/operation.ts';
import type { WhatCame } from '../process/routes.ts';
import type { FieldSpec, FieldValue } from '../quantity/fields.ts';
import type { Verdict } from '../verdict.ts';
import { ratingOf, type WindingFigures } from '../winding/figures.ts';
import type { WindingRecord } from '../winding/record.ts';
import { insulationResistance, WINDING_KINDS } from './insulationResistance.ts';
import { noLoadRun } from './noLoadRun.ts';
import { shaftHeightOf } from './vibration.ts';
import { windingResistance } from './windingResistance.ts';

/** What a test is judged with beside its readings. */
export interface TestContext {
  nameplate: Nameplate;
  record: WindingRecord | undefined;
  figures: WindingFigures | undefined;
  stage: TestStage;
  rewound: boolean;
  limits: ShopLimits;
  calibrationExpired: boolean;
}

export interface TestKind {
  readonly id: string;
  readonly title: string;
  readonly fields: readonly FieldSpec[];
  /** stages at which the matrix wants it: required or optional */
  readonly stages: Readonly<Partial<Record<TestStage, 'required' | 'optional'>>>;
  /** absent: Norther does not work this test out; the result is stated by a person */
  readonly calculation?: Calculation;
  readonly input?: (values: Readonly<Record<string, FieldValue>>, context: TestContext) => Record<string, unknown>;
  readonly caution: string;
}

const num = (values: Readonly<Record<string, FieldValue>>, name: string): number | undefined =>
  typeof values[name] === 'number' ? values[name] : undefined;
const megohm = (name: string, label: string, o: { required?: true; hint?: string } = {}): FieldSpec => ({
  name,
  label,
  read: { kind: 'quantity', dimension: 'insulation', unit: 'MΩ', min: 0, overRange: true },
  ...o,
});
const reading = (values: Readonly<Record<string, FieldValue>>, name: string) => {
  const value = num(values, name);
  return value === undefined ? undefined : { megohm: value, overRange: values[`${name}OverRange`] === true };
};
const withoutUndefined = (o: Record<string, unknown>) =>
  Object.fromEntries(Object.entries(o).filter(([, v]) => v !== undefined));

const EARTH =
  'Isolate, lock, prove dead; discharge and earth at least four times the test time. Local codes and licensed practice decide.';
const HV =
  'High voltage: barrier and lamp, two-hand start, earth afterwards. Local codes and licensed practice decide.';

function statedTest(
  id: string,
  title: string,
  stages: TestKind['stages'],
  extra: readonly FieldSpec[],
  caution: string,
): TestKind {
  return {
    id,
    title,
    stages,
    caution,
    fields: [...extra, stated(), text('instrument', 'Instrument', need), notes('finding', 'What was seen')],
  };
}

/** Every test of the matrix, in the order of stress: resistance, insulation resistance, surge, high potential. */
export const TEST_KINDS: readonly TestKind[] = [
  {
    id: 'windingResistance',
    title: 'Winding resistance',
    calculation: windingResistance as unknown as Calculation,
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
      planned20Ohm: judgedByPlan(c.stage, c.rewound) ? c.figures?.lineResistance20Ohm : undefined,
      meanTurnEstimated: c.figures?.meanTurnFrom === 'geometry',
      newWinding: judgedByPlan(c.stage, c.rewound),
      strandsInHand: c.figures?.wiresInHand,
    }),
  },
  {
    id: 'insulationResistance',
    title: 'Insulation resistance',
    calculation: insulationResistance as unknown as Calculation,
    caution: EARTH,
    stages: { IN: 'required', BS: 'optional', AC: 'required', VC: 'required', AA: 'required', FI: 'required' },
    fields: [
      quantity('testV', 'Test voltage, DC', 'voltage', 'V', need),
      megohm('r30s', 'after 30 s'),
      megohm('r1min', 'after 1 min', { required: true, hint: '>2000 when the instrument is over its range' }),
      megohm('r10min', 'after 10 min'),
      celsius('windingC', 'Winding temperature', need),
      celsius('airC', 'Air temperature'),
      quantity('humidity', 'Humidity', 'percent', '%'),
      choice('measured', 'Measured', ['whole winding', 'one phase, others earthed', 'one phase, others guarded'], need),
      choice('kind', 'Winding', [...WINDING_KINDS], need),
      choice('system', 'Insulation', ['thermosetting', 'thermoplastic'], need),
      text('instrument', 'Instrument', need),
    ],
    input: (v, c) => ({
      kind: v['kind'],
      system: v['system'],
      measured: v['measured'],
      testV: num(v, 'testV'),
      windingC: num(v, 'windingC'),
      airC: num(v, 'airC'),
      humidityPercent: num(v, 'humidity'),
      r30s: reading(v, 'r30s'),
      r1min: reading(v, 'r1min'),
      r10min: reading(v, 'r10min'),
      ratedV: c.nameplate.voltagesV ? Math.max(...c.nameplate.voltagesV) : undefined,
      ratedKVA: c.nameplate.outputW === undefined ? undefined : c.nameplate.outputW / 1000,
      insulationClass: c.nameplate.insulationClass,
      stage: c.stage,
      rewound: c.rewound,
    }),
  },
  statedTest(
    'surge',
    'Surge comparison',
    { IN: 'required', BS: 'optional', AC: 'required', VC: 'required', FI: 'optional' },
    [quantity('testV', 'Peak voltage', 'voltage', 'V', need)],
    HV,
  ),
  statedTest('polarity', 'Polarity and rotation', { AC: 'required', AA: 'required', FI: 'optional' }, [], EARTH),
  statedTest(
    'highPotential',
    'High potential',
    { AC: 'optional', VC: 'required', FI: 'optional' },
    [quantity('testV', 'Test voltage, rms', 'voltage', 'V', need), quantity('seconds', 'Held for', 'time', 's', need)],
    HV,
  ),
  {
    id: 'noLoadRun',
    title: 'No-load run',
    calculation: noLoadRun as unknown as Calculation,
    caution: 'Rotating: guard on, key secured. First start at reduced voltage.',
    stages: { IN: 'optional', AA: 'required', FI: 'required' },
    fields: [
      quantity('u12', 'U 1–2', 'voltage', 'V', need),
      quantity('u23', 'U 2–3', 'voltage', 'V', need),
      quantity('u31', 'U 3–1', 'voltage', 'V', need),
      quantity('i1', 'I 1', 'current', 'A', need),
      quantity('i2', 'I 2', 'current', 'A', need),
      quantity('i3', 'I 3', 'current', 'A', need),
      quantity('power', 'Power', 'power', 'kW'),
      quantity('minutes', 'Run for', 'time', 'min'),
      quantity('vibration', 'Vibration, worst', 'velocity', 'mm/s'),
      choice('mounting', 'Mounted for the run', ['free', 'rigid']),
      choice('vibrationGrade', 'Vibration grade', ['A', 'B']),
      celsius('ambientC', 'Air temperature'),
      celsius('bearingDrive', 'Drive-end bearing'),
      celsius('bearingOther', 'Opposite-end bearing'),
      text('instrument', 'Instrument', need),
    ],
    input: (v, c) => {
      const rating = ratingOf(c.nameplate, c.record ?? {});
      const three = (a: string, b: string, d: string) => {
        const list = [num(v, a), num(v, b), num(v, d)];
        return list.includes(undefined) ? undefined : list;
      };
      return {
        voltsV: three('u12', 'u23', 'u31'),
        ampsA: three('i1', 'i2', 'i3'),
        powerW: num(v, 'power'),
        minutes: num(v, 'minutes'),
        vibrationMmS: num(v, 'vibration'),
        shaftHeightMm: shaftHeightOf(c.nameplate.frame),
        mounting: v['mounting'],
        vibrationGrade: v['vibrationGrade'],
        ambientC: num(v, 'ambientC'),
        bearingDriveC: num(v, 'bearingDrive'),
        bearingOtherC: num(v, 'bearingOther'),
        ratedV: rating.voltageV,
        ratedA: rating.currentA,
        ratedW: c.nameplate.outputW,
        poles: c.record?.poles ?? c.nameplate.poles,
      };
    },
  },
];

/** The test of an id, or undefined. */
export function testKind(id: string): TestKind | undefined {
  return TEST_KINDS.find((t) => t.id === id);
}

/** Tests that a stage needs before its operation can pass, for what came in: a stator alone is not run, a rotor alone has no winding. */
export function requiredTests(stage: TestStage, came: WhatCame = 'whole motor'): TestKind[] {
  if (came === 'rotor only') return [];
  return TEST_KINDS.filter((t) => t.stages[stage] === 'required' && (came === 'whole motor' || t.id !== 'noLoadRun'));
}

/** Whether a test is judged against the released plan (a rewound winding) or against the winding as found. */
export function judgedByPlan(stage: TestStage, rewound: boolean): boolean {
  return rewound && !['IN', 'BS', 'AB'].includes(stage);
}

export interface TestJudgement {
  verdict: Verdict;
  reason: string;
  result: CalculationResult | undefined;
}

/** Judges a test from what was read: by its calculation, or as stated by the person. */
export function judgeTest(
  kind: TestKind,
  values: Readonly<Record<string, FieldValue>>,
  context: TestContext,
  person: string,
): TestJudgement {
  if (!kind.calculation || !kind.input) {
    const outcome = values['outcome'];
    const verdict: Verdict =
      outcome === 'pass' || outcome === 'attention' || outcome === 'fail' ? outcome : 'cannot judge';
    const instrument = typeof values['instrument'] === 'string' ? values['instrument'] : 'no instrument named';
    const late = context.calibrationExpired && verdict === 'pass';
    return {
      verdict: late ? 'attention' : verdict,
      reason: `Stated by ${person}, with ${instrument}.${late ? ' The instrument is out of calibration.' : ''}`,
      result: undefined,
    };
  }
  const input = withoutUndefined({
    ...kind.input(values, context),
    limits: context.limits,
    calibrationExpired: context.calibrationExpired,
  });
  const result = runCalculation(kind.calculation, input);
  const out = result.values as { verdict: Verdict; reason: string };
  return { verdict: out.verdict, reason: out.reason, result };
}
