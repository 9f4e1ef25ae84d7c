import {
  OVEN_USES,
  type Alarm,
  type BurnNow,
  type CorePlate,
  type OvenFault,
  type OvenUse,
  type Resin,
  type Verdict,
} from '@norther/core';
import { z } from 'zod';

const typed = z.record(z.string().max(40), z.string().max(300));
const reason = z.string().trim().max(500);
const line = (most: number) => z.string().trim().min(1).max(most);

export const chamberBody = z.strictObject({
  typed,
  uses: z.array(z.enum(OVEN_USES)).min(1, 'Say what the chamber is for.').max(OVEN_USES.length),
  instrumentId: z.uuid().nullable().default(null),
});
export const changeChamberBody = chamberBody.extend({ version: z.int().min(1), active: z.boolean() });

export const newLoadBody = z.strictObject({
  chamberId: z.uuid(),
  use: z.enum(OVEN_USES),
  resin: line(80).optional(),
  typed,
});
/** A card scanned in: the job, how it stands, the sensors that sit on it. */
export const loadPartBody = z.strictObject({
  job: line(40),
  typed,
  channels: z.array(line(60)).max(16).default([]),
  /** a foreman lets a held step begin */
  override: z.strictObject({ reason: reason.min(3, 'Say why.') }).optional(),
});
export const takeOutBody = z.strictObject({ reason: reason.default('') });
export const PROBE_ROLES = ['part', 'oven air', 'not used'] as const;
export type ProbeRole = (typeof PROBE_ROLES)[number];
/** Which sensor sits where. After the start a change says why. */
export const probesBody = z.strictObject({
  probes: z
    .array(z.strictObject({ channel: line(60), role: z.enum(PROBE_ROLES), part: z.uuid().nullable().default(null) }))
    .max(32),
  reason: reason.default(''),
});
export const ovenReadingBody = z.strictObject({
  part: z.uuid(),
  typed,
  /** when it was read; left out: now */
  at: z.iso.datetime({ offset: true }).optional(),
});
export const OVEN_EVENTS = ['burner off', 'door opened', 'door shut', 'note'] as const;
export type OvenEventKind = (typeof OVEN_EVENTS)[number] | 'started' | 'part out' | 'probes';
export const ovenEventBody = z.strictObject({ kind: z.enum(OVEN_EVENTS), note: reason.default('') });

export interface ChamberView {
  id: string;
  name: string;
  uses: OvenUse[];
  doorWidthMm: number;
  doorHeightMm: number;
  mostKg: number;
  highestC: number;
  instrument: { id: string; name: string; simulated: boolean; channels: string[] } | null;
  active: boolean;
  version: number;
  typed: Record<string, string>;
}

/** How a part stands now, or how it left. */
export interface LoadPartNow {
  c: number | null;
  /** of what it is to have: cure, or minutes at temperature */
  degree: number;
  hottestC: number | null;
  simpleMin: number | null;
  forecastMin: number | null;
  /** why there is no figure */
  why: string;
  verdict: string;
  schools: { equivalentTime: boolean; holdOnly: boolean };
  heldMin: number;
  totalMin: number;
  lagMin: number | null;
  /** the sensor that lags most behind */
  slowest: string | null;
  /** of a burn-off: how it goes on, and when it may be opened at the rate of now */
  burn: { state: BurnNow['state']; openMin: number | null; openC: number } | null;
  hotC: number | null;
  touchMin: number | null;
  alarms: Alarm[];
}
/** Minutes until the next thing to do at a part: what is left of its cure, or until a burn-off may be opened; null where nothing can be said. */
export const minutesLeft = (now: LoadPartNow | null): number | null =>
  now === null ? null : now.degree >= 1 ? (now.burn?.openMin ?? null) : (now.forecastMin ?? now.simpleMin);
export interface LoadPartView {
  id: string;
  job: string;
  what: string;
  code: string;
  massKg: number;
  widthMm: number;
  heightMm: number;
  corePlate: CorePlate | null;
  channels: string[];
  in: { by: string; at: string };
  out: {
    by: string;
    at: string;
    reason: string;
    verdict: Verdict;
    says: string;
    figures: Record<string, string>;
  } | null;
  now: LoadPartNow | null;
  /** record fields of the operations that this log answers, as typed text */
  figures: Record<string, Record<string, string>>;
}
export interface LoadView {
  id: string;
  number: number;
  chamber: { id: string; name: string };
  use: OvenUse;
  resin: Resin | null;
  setPointC: number;
  state: 'loading' | 'running' | 'done';
  begun: { by: string; at: string };
  startedAt: string | null;
  endedAt: string | null;
  massKg: number;
  parts: LoadPartView[];
  probes: { channel: string; role: ProbeRole; part: string | null }[];
  traces: string[];
  /** names of the sensors that sent or stand in a file */
  channels: string[];
  /** those of them that nobody has said anything of: on a part, in the air, or not used */
  leftOver: string[];
  simulated: boolean;
  /** readings of the logger that came with a time before earlier ones */
  late: number;
  readings: { part: string; c: number; at: string; by: string }[];
  events: { kind: OvenEventKind; note: string; by: string; at: string }[];
  alarms: Alarm[];
  maxC: number;
}
export interface OvensView {
  chambers: ChamberView[];
  loads: LoadView[];
}
/** A load that a motor stood or stands in. */
export interface JobOvenView {
  load: string;
  number: number;
  chamber: string;
  use: OvenUse;
  code: string;
  inAt: string;
  outAt: string | null;
  verdict: Verdict | null;
  says: string;
  /** record fields of the operations that this log answers, as typed text */
  figures: Record<string, Record<string, string>>;
}
/** What may go in, and what stands against it. */
export interface OvenCandidate {
  job: string;
  what: string;
  code: string;
  title: string;
  use: OvenUse;
  resin: string | null;
  /** as its record or nameplate says */
  massKg: number | null;
  promised: string | null;
  faults: OvenFault[];
}
/** A change of a part: what became of it. */
export interface PartOutAnswer {
  verdict: Verdict;
  reason: string;
}

export const wallBody = z.strictObject({ name: line(60) });
export interface WallView {
  id: string;
  name: string;
  by: string;
  at: string;
  revoked: boolean;
}
/** What hangs on the wall: no customer, no person. */
export interface WallLoad {
  chamber: string;
  use: OvenUse | null;
  state: 'empty' | 'loading' | 'running';
  parts: {
    job: string;
    what: string;
    degree: number | null;
    leftMin: number | null;
    c: number | null;
    hot: boolean;
    /** what the minutes lead to, or what it is now */
    says: string;
  }[];
  alarms: string[];
}

/** A log of a running load as a file, beside or instead of what its logger sends. */
export const ovenLogBody = z.strictObject({
  fileName: z.string().trim().min(1).max(200),
  csv: z.string().min(1, 'The file is empty.').max(20_000_000, 'At most 20 million characters.'),
  unit: z.enum(['°C', '°F']).optional(),
  /** when its first row was read; left out: when the load was started */
  firstAt: z.iso.datetime({ offset: true }).optional(),
});
export interface OvenLogAnswer {
  rows: number;
  channels: string[];
  badRows: { line: number; text: string; reason: string }[];
}
