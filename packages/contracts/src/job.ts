import type { TestView } from './evaluate.ts';
import type { FailureView } from './failure.ts';
import { day, partKindSchema, typedSchema, type Signed } from './typed.ts';
import type { TraceHeadView } from './trace.ts';
import {
  candidateKeySchema,
  IMPREGNATIONS,
  MOST_RUNS,
  REMOVALS,
  MOST_CSV,
  redesignWishSchema,
  rewireSchema,
  ROUTE_IDS,
  WHAT_CAME,
  windingPartSchema,
  type FieldValue,
  type Nameplate,
  type PartKind,
  type PlanChange,
  type ReadingDefaults,
  type Resin,
  type StepState,
  type StepStatus,
  type Verdict,
  type WindingPart,
  type WindingRecord,
} from '@norther/core';
import { z } from 'zod';

const words = (max: number) => z.string().trim().max(max).default('');

export const PRIORITIES = ['ordinary', 'urgent'] as const;
export type Priority = (typeof PRIORITIES)[number];

export const intakeSchema = z.strictObject({
  came: z.enum(WHAT_CAME),
  quantity: z.int().min(1).max(100_000).default(1),
  fitted: z
    .array(z.enum(['bearings', 'thermal sensors', 'heaters', 'brake', 'encoder', 'fan', 'coupling']))
    .default([]),
  looseParts: words(400),
  complaint: words(2000),
  condition: words(2000),
  leadPosition: words(200),
  boxPosition: words(200),
  missing: words(400),
});
export type Intake = z.output<typeof intakeSchema>;

export const newJobBody = z.strictObject({
  customerId: z.uuid().optional(),
  customerName: z.string().trim().min(1, 'Name the customer.').max(120),
  what: z.string().trim().min(1, 'Say what it is, as the floor will call it: "winch stator", "milk pump".').max(120),
  nameplate: typedSchema,
  intake: intakeSchema,
  route: z.enum(ROUTE_IDS),
  impregnation: z.enum(IMPREGNATIONS),
  priority: z.enum(PRIORITIES),
  promised: day.optional(),
});
export const changeJobBody = newJobBody.omit({ customerId: true }).extend({ version: z.int() });
export type NewJob = z.input<typeof newJobBody>;

export const startStepBody = z.strictObject({
  override: z.strictObject({ reason: z.string().trim().min(3, 'Say why the hold is passed.').max(500) }).optional(),
});
export const finishStepBody = z.strictObject({ typed: typedSchema });
/** Joining a running step, leaving it for a while, or giving it to somebody else. */
export const workBody = z.discriminatedUnion('what', [
  z.strictObject({ what: z.literal('join') }),
  z.strictObject({ what: z.literal('pause') }),
  z.strictObject({ what: z.literal('hand over'), to: z.uuid('Say to whom it is handed over.') }),
]);
export const reasonBody = z.strictObject({ reason: z.string().trim().min(3, 'A reason is needed.').max(500) });

export const windingBody = z.strictObject({
  part: windingPartSchema.default('stator'),
  /** revision this edit started from; 0 when there was none */
  revision: z.int().min(0),
  typed: typedSchema,
  reason: z.string().trim().max(500).optional(),
});
export const releasePlanBody = z.strictObject({
  part: windingPartSchema.default('stator'),
  revision: z.int().min(1),
  reason: z.string().trim().max(500).default('Rewind as found.'),
  /** revision of the plan in force when this was asked; 0 when there was none */
  planRevision: z.int().min(0).optional(),
  /** a changed rewind: what was wished and the candidate chosen */
  redesign: z.strictObject({ wish: redesignWishSchema, candidate: candidateKeySchema }).optional(),
  /** the same winding with other wire, metal or turns */
  rewire: rewireSchema.optional(),
});

export const cureBody = z.strictObject({
  fileName: z.string().max(200).default(''),
  csv: z.string().min(1).max(MOST_CSV),
  unit: z.enum(['°C', '°F']).optional(),
  roles: z
    .array(z.enum(['part', 'oven air', 'not used']))
    .min(1)
    .max(32),
  resin: z.string().min(1),
  maxGapMin: z.number().positive().max(100000).optional(),
  reason: z.string().trim().max(500).optional(),
});
/** A recorded cure, or the work in the background that reads a long log. */
export type CuredAnswer = { id: string; verdict: Verdict; reason: string } | { work: string };
/** A cure judged from a trace that an instrument has sent. */
export const traceCureBody = cureBody.omit({ csv: true, unit: true, fileName: true }).extend({ traceId: z.uuid() });
export const balanceBody = z.strictObject({
  part: partKindSchema.optional(),
  unit: z.int().min(1).optional(),
  /** the piece tested, by its number, in a job of many */
  typed: typedSchema,
  reason: z.string().trim().max(500).optional(),
});

export const SPELL_ENDS = ['pause', 'hand over', 'finish'] as const;
export type SpellEnd = (typeof SPELL_ENDS)[number];
/** A stretch that somebody worked at a step. */
export interface SpellView {
  person: string;
  personId: string;
  from: string;
  to: string | null;
  ended: SpellEnd | null;
  handedTo: string | null;
}
export interface AttemptView {
  id: string;
  number: number;
  startedBy: string;
  startedAt: string;
  override: string | null;
  finishedBy: string | null;
  finishedAt: string | null;
  typed: Record<string, string>;
  values: Record<string, FieldValue>;
  verdict: Verdict | null;
  reason: string;
  signed: Signed | null;
  /** who worked at it, in order */
  spells: SpellView[];
}
/** How far a job of many alike is with an operation that is walked piece by piece. */
export interface PiecesDone {
  done: number;
  of: number;
}
export interface StepViewRow {
  code: string;
  state: StepState;
  status: StepStatus;
  heldBy: string[];
  why: string;
  after: string[];
  changedAt: string | null;
  waived: Signed | null;
  notes: Signed[];
  attempts: AttemptView[];
  /** pieces it is done for, where it is walked piece by piece */
  pieces: PiecesDone | null;
}
export interface CureView {
  id: string;
  part: PartKind;
  /** the bake that it is of */
  code: string;
  fileName: string;
  resin: string;
  rated: Resin;
  verdict: Verdict;
  reason: string;
  result: unknown;
  /** its samples are asked for apart */
  trace: TraceHeadView;
  badRows: { line: number; text: string; reason: string }[];
  ratedC: number;
  person: string;
  at: string;
}
export interface BalanceView {
  id: string;
  part: PartKind;
  typed: Record<string, string>;
  values: Record<string, FieldValue>;
  verdict: Verdict;
  reason: string;
  result: unknown;
  person: string;
  at: string;
}
export interface WindingView {
  revision: number;
  part: WindingPart;
  role: 'as_found' | 'planned';
  typed: Record<string, string>;
  record: WindingRecord;
  readWith: ReadingDefaults;
  reason: string | null;
  person: string;
  at: string;
  released: Signed | null;
  /** a plan that is not as found: what it changes, from which record, and the nameplate the motor gets */
  redesign: { changes: PlanChange[]; fromRevision: number; nameplate: Nameplate; warnings: string[] } | null;
}
/** A part of the visit: what is known of its winding, where it has one. */
export interface PartView {
  kind: PartKind;
  found: WindingView | null;
  plan: WindingView | null;
}
export interface AttachmentView {
  id: string;
  name: string;
  mediaType: string;
  bytes: number;
  /** the operation it was taken at */
  step: string | null;
  person: string;
  at: string;
}
export interface ReportView {
  id: string;
  revision: number;
  person: string;
  at: string;
  /** null while the paper is being laid out */
  sha256: string | null;
}
export interface JobSummary {
  number: string;
  what: string;
  customer: string;
  came: string;
  route: string;
  priority: string;
  promised: string | null;
  takenInAt: string;
  closedAt: string | null;
  late: boolean;
  outputW: number | null;
  poles: number | null;
  steps: {
    code: string;
    state: StepState;
    status: StepStatus;
    why: string;
    overridden: boolean;
    changedAt: string | null;
  }[];
}
export interface JobDetail extends JobSummary {
  version: number;
  serial: string | null;
  impregnation: string;
  quantity: number;
  nameplateTyped: Record<string, string>;
  nameplate: Nameplate;
  intake: Intake;
  /** what came in, each with the newest record and the released plan of its winding */
  parts: PartView[];
  windingRevisions: WindingView[];
  detailSteps: StepViewRow[];
  tests: TestView[];
  /** the failure analysis in force of each part; left out in reports of before */
  failures?: FailureView[];
  cures: CureView[];
  balances: BalanceView[];
  attachments: AttachmentView[];
  reports: ReportView[];
  /** present when the job came from another Norther */
  importedFrom: string | null;
}
export interface AuditView {
  id: string;
  at: string;
  person: string;
  action: string;
  summary: string;
  before: unknown;
  after: unknown;
}
export interface SearchHit {
  kind: 'job' | 'customer';
  number: string | null;
  title: string;
  detail: string;
}
export interface Visit {
  number: string;
  what: string;
  customer: string;
  takenInAt: string;
  closedAt: string | null;
}
export interface ProblemDetail {
  type: string;
  title: string;
  status: number;
  detail: string;
  field?: string;
  problems?: { field: string; message: string }[];
  /** 409: what stands now, beside what was sent */
  current?: unknown;
  sent?: unknown;
}

const opCode = z.string().regex(/^[A-Z][A-Z0-9]{2,3}(\.[2-9])?$/, 'Name the operation by its code.');
const why = z.string().trim().min(3, 'Say why.').max(500);
/** A foreman's change of one job's route. */
export const routeEditBody = z.strictObject({
  edit: z.discriminatedUnion('do', [
    z.strictObject({
      do: z.literal('add'),
      code: opCode,
      after: z.array(opCode).min(1, 'Say after which operation it comes.').max(20),
      before: z.array(opCode).max(20).default([]),
    }),
    z.strictObject({ do: z.literal('take out'), code: opCode }),
    z.strictObject({ do: z.literal('wait'), code: opCode, after: z.array(opCode).min(1).max(20) }),
    z.strictObject({ do: z.literal('coats'), coats: z.number().int().min(1).max(MOST_RUNS) }),
    z.strictObject({ do: z.literal('removal'), way: z.enum(REMOVALS) }),
    z.strictObject({ do: z.literal('take'), template: z.uuid() }),
  ]),
  reason: why,
});
/** An overhaul whose tests failed becomes a rewind. */
export const convertBody = z.strictObject({ reason: why });

/** A job's route is kept under a name for the jobs to come. */
export const keepRouteBody = z.strictObject({
  name: z.string().trim().min(1, 'Name the route.').max(80, 'At most 80 characters.'),
});
export const retireRouteBody = z.strictObject({ reason: why });
export interface RouteTemplateView {
  id: string;
  name: string;
  route: string;
  came: string;
  impregnation: string;
  graph: Record<string, string[]>;
  fromJob: string;
  person: string;
  at: string;
}
