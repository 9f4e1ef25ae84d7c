import {
  PLANT_FIGURES,
  PLANT_FLAGS,
  type Lamp,
  type PlateauState,
  type VesselSetUp,
  type VesselStage,
} from '@norther/core';
import { z } from 'zod';

const typed = z.record(z.string().max(40), z.string().max(300));
const line = (most: number) => z.string().trim().min(1).max(most);
const reason = z.string().trim().max(500);

export const vesselBody = z.strictObject({
  typed,
  tankId: z.uuid().nullable().default(null),
  instrumentId: z.uuid().nullable().default(null),
});
export const changeVesselBody = vesselBody.extend({ version: z.int().min(1), active: z.boolean() });
/** Motors that go in together, and how high the highest of them stands. */
export const newCycleBody = z.strictObject({ jobs: z.array(line(40)).min(1, 'Scan a card in.').max(20), typed });
/** The next stage begins; over a lamp that is out only with a foreman's reason. */
export const stageBody = z.strictObject({ reason: reason.default('') });
export const SIGNALS = [...PLANT_FIGURES, ...PLANT_FLAGS] as const;
/** What a person read on the plant: figures in the unit their name says, flags as 0 or 1. */
export const signalsBody = z.strictObject({
  values: z.partialRecord(z.enum(SIGNALS), z.number().min(-1e5).max(1e6)),
});
export const cycleNoteBody = z.strictObject({
  kind: z.enum(['leak test', 'note', 'broken off']),
  note: reason.default(''),
});
export type VesselEventKind = 'stage' | 'leak test' | 'note' | 'broken off';

export interface VesselView {
  id: string;
  name: string;
  typed: Record<string, string>;
  setUp: VesselSetUp;
  tank: { id: string; name: string; blocked: string[]; lot: string | null } | null;
  instrument: { id: string; name: string; simulated: boolean } | null;
  active: boolean;
  version: number;
  cycle: CycleView | null;
}
export interface CycleView {
  id: string;
  number: number;
  jobs: { job: string; what: string; code: string }[];
  partTopMm: number;
  lot: string | null;
  begun: { by: string; at: string };
  stage: VesselStage;
  stageMin: number;
  next: VesselStage | null;
  act: string | null;
  lamps: Lamp[];
  signals: Record<string, number | boolean | null>;
  plateau: { state: PlateauState; risePercent: number; slopePercentMin: number | null } | null;
  leak: 'runs' | { riseMbar: number; passed: boolean } | null;
  alarms: string[];
  events: {
    kind: VesselEventKind;
    stage: VesselStage | null;
    missing: string[];
    note: string;
    by: string;
    at: string;
  }[];
  traces: string[];
  simulated: boolean;
  /** what the record of the impregnation takes of it, so far */
  figures: Record<string, string>;
}
/** A cycle that a motor went through, or goes through. */
export interface JobCycleView {
  vessel: string;
  number: number;
  code: string;
  at: string;
  ended: boolean;
  figures: Record<string, string>;
}
