import type { Calculation } from '../calculation.ts';
import type { ShopLimits } from '../limits/limits.ts';
import type { MachineKind } from '../machine/machineKind.ts';
import type { Nameplate } from '../machine/nameplate.ts';
import type { PartKind } from '../machine/parts.ts';
import { need, notes, stated, text } from '../process/fieldKinds.ts';
import type { TestStage } from '../process/operation.ts';
import type { RouteId } from '../process/routes.ts';
import type { FieldSpec, FieldValue } from '../quantity/fields.ts';
import type { Due } from './due.ts';
import type { WindingFigures } from '../winding/figures.ts';
import type { WindingRecord } from '../winding/record.ts';

/** What was read of the same winding before, as far as it decides how another test is done or judged. */
export interface Before {
  /** phases solved of the resistance at this stage, U, V, W */
  phasesOhm?: readonly [number, number, number] | undefined;
  /** what insulation resistance said at this stage */
  insulation?: 'low' | 'sound' | undefined;
  /** tests at full value that the new winding has had */
  fullTests: number;
}

/** A figure with where and how it was read. */
export interface ReadFigure {
  kind: string;
  part: PartKind;
  stage: TestStage;
  /** the first figure that its calculation derived */
  figure: number;
  values: Readings;
  /** the earlier visit that it was read at */
  visit?: string | undefined;
}

/** What a reading is judged with beside itself: made once by `judgingContext`, the same on screen, server and paper. */
export interface JudgingContext {
  nameplate: Nameplate;
  /** the winding that is judged: the released plan of a rewound motor from the winding on, else as found */
  record: WindingRecord | undefined;
  figures: WindingFigures | undefined;
  stage: TestStage;
  /** decides what its stages are called */
  route?: RouteId | undefined;
  part: PartKind;
  machine: MachineKind;
  /** the wound rotor's winding, where it is recorded */
  rotor: WindingRecord | undefined;
  /** the route rewinds this part */
  rewound: boolean;
  /** it is the new winding that is measured */
  newWinding: boolean;
  limits: ShopLimits;
  calibrationExpired: boolean;
  before?: Before | undefined;
  /** readings of before, of this visit and earlier ones, that a new one may be set against; the oldest first */
  past?: readonly ReadFigure[] | undefined;
  /** the same test of other motors of its kind */
  ofItsKind?: readonly { figure: number; values: Readings }[] | undefined;
  /** what the result said when it was judged first: judged again, a test is set against what it was set against then */
  again?: Readonly<Record<string, unknown>> | undefined;
  /** waves of a surge comparison, where a tester gave them */
  waves?: readonly SurgeWaves[] | undefined;
  /** waves of the test before, of the same winding */
  earlierWaves?: { said: string; acrossCure: boolean; waves: SurgeWaves[] } | undefined;
}

/** The records of one wave, in the order in which they were taken. */
export interface SurgeWaves {
  name?: string;
  pulses: { appliedV: number; dtUs: number; v: number[] }[];
}

/** The machine that is tested, as far as it decides which tests there are and what they read. */
export interface Tested {
  machine: MachineKind;
  record: WindingRecord | undefined;
  /** highest voltage of the plate */
  ratedV?: number | undefined;
  /** decides what its stages are called */
  route?: RouteId | undefined;
}

export type Readings = Readonly<Record<string, FieldValue>>;

/** A test of the matrix: its fields, what it is judged with, its calculation, and where it belongs. One file each. */
export interface TestKind {
  readonly id: string;
  readonly title: string;
  readonly fields: readonly FieldSpec[];
  /** stages at which the matrix wants it: required or optional */
  readonly stages: Readonly<Partial<Record<TestStage, 'required' | 'optional'>>>;
  /** absent: Norther does not work this test out; the result is stated by a person */
  readonly calculation?: Calculation;
  /** undefined: too little to work it out; the outcome is then stated by a person */
  readonly input?: (values: Readings, context: JudgingContext) => Record<string, unknown> | undefined;
  /** what it is to be done with, said before it is done */
  readonly due?: (context: JudgingContext) => Due;
  /** its first derived figure is set against that of other motors of its kind */
  readonly setAgainstItsKind?: true;
  /** whether waves belong to it */
  readonly takesWaves?: true;
  /** figures of the result that are worth comparing over stages, visits and motors */
  readonly derived?: readonly { name: string; title: string; unit: string }[];
  /** why two readings of it are not to be compared: read otherwise, at another voltage */
  readonly alike?: (was: Readings, now: Readings) => string | undefined;
  /** the first derived figure is a bound: the instrument was over its range */
  readonly boundOf?: (values: Readings) => 'at least' | undefined;
  /** machines it is meant for; every one where nothing is said */
  readonly for?: (tested: Tested) => boolean;
  /** fields that this machine has no use for */
  readonly hides?: (tested: Tested) => readonly string[];
  /** nothing is measured: somebody looks and signs */
  readonly signs?: true;
  /** what a form still lacks that no single field can tell: the field and a sentence */
  readonly lacks?: (values: Readings, given?: { waves: boolean }) => { field: string; message: string } | undefined;
  /** fields that hold lead marks, written in the reader's school */
  readonly leadMarked?: readonly string[];
  /** the part whose winding is read, where it is not the stator's */
  readonly part?: PartKind;
  /** only a whole motor can be run */
  readonly needsWholeMotor?: true;
  /** what is usually read, filled in when the entry opens */
  readonly usual?: (tested: Tested) => Readonly<Record<string, string>>;
  readonly caution: string;
}

export const EARTH =
  'Isolate, lock, prove dead; discharge and earth at least four times the test time. Local codes and licensed practice decide.';
export const HIGH_VOLTAGE =
  'High voltage: barrier and lamp, two-hand start, earth afterwards. Local codes and licensed practice decide.';

/** The number of a field, or undefined. */
export const num = (values: Readings, name: string): number | undefined =>
  typeof values[name] === 'number' ? values[name] : undefined;

/** A test whose result a person states. */
export function statedTest(kind: Pick<TestKind, 'id' | 'title' | 'stages' | 'caution' | 'fields'>): TestKind {
  return {
    ...kind,
    fields: [...kind.fields, stated(), text('instrument', 'Instrument', need), notes('finding', 'What was seen')],
  };
}
