import { SENSOR_STAGES, WINDING_PARTS, type PartKind, type SensorStage, type Verdict } from '@norther/core';
import { z } from 'zod';
import type { Signed } from './typed.ts';

const typed = z.record(z.string().max(40), z.string().max(300));

export const fitSensorBody = z.strictObject({ part: z.enum(WINDING_PARTS).default('stator'), typed });
export const readSensorBody = z.strictObject({ stage: z.enum(SENSOR_STAGES), typed });
export const removeSensorBody = z.strictObject({ reason: z.string().trim().min(3, 'Say why.').max(500) });

export interface SensorReadingView {
  id: string;
  stage: SensorStage;
  typed: Record<string, string>;
  verdict: Verdict;
  reason: string;
  person: string;
  at: string;
}
export interface SensorView {
  id: string;
  part: PartKind;
  typed: Record<string, string>;
  person: string;
  at: string;
  removed: Signed | null;
  /** the oldest first */
  readings: SensorReadingView[];
}
