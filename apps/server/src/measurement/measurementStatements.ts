import type { Measurement, PartKind, Verdict } from '@norther/core';
import { measurement } from '../database/schema.ts';
import type { Reader } from '../database/tables.ts';

/** Where a measurement comes from. */
export interface MeasurementOf {
  jobId: string;
  source: 'test' | 'step' | 'balance';
  sourceId: string;
  stage?: string | undefined;
  part?: PartKind | undefined;
  unitId?: string | null | undefined;
  at: Date;
  personName: string | null;
  verdict: Verdict | null;
}

/** Adds what one document measured; what stands already is left as it is. */
export async function addMeasurements(tx: Reader, of: MeasurementOf, list: readonly Measurement[]): Promise<void> {
  if (list.length === 0) return;
  const { stage = null, part = null, unitId = null, ...rest } = of;
  await tx
    .insert(measurement)
    .values(list.map((m) => ({ ...m, ...rest, stage, part, unitId })))
    .onConflictDoNothing();
}
