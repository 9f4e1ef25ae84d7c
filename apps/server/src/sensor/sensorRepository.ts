import type { Signed } from '@norther/contracts';
import { Injectable } from '@nestjs/common';
import { and, asc, eq, isNull } from 'drizzle-orm';
import type { Reader, Transaction } from '../database/database.ts';
import { fittedSensor, sensorReading } from '../database/schema.ts';

export type SensorRow = typeof fittedSensor.$inferSelect;
export type SensorReadingRow = typeof sensorReading.$inferSelect;
type OfJob = { id: string };

/** All SQL of sensors and heaters, and what was read of them. */
@Injectable()
export class SensorRepository {
  /** Every sensor that is or was fitted to a motor, with its readings, the oldest first. */
  async ofJob(reader: Reader, row: OfJob): Promise<{ sensor: SensorRow; readings: SensorReadingRow[] }[]> {
    const sensors = await reader
      .select()
      .from(fittedSensor)
      .where(eq(fittedSensor.jobId, row.id))
      .orderBy(asc(fittedSensor.at), asc(fittedSensor.id));
    const readings = await reader
      .select({ reading: sensorReading })
      .from(sensorReading)
      .innerJoin(fittedSensor, eq(fittedSensor.id, sensorReading.sensorId))
      .where(eq(fittedSensor.jobId, row.id))
      .orderBy(asc(sensorReading.at), asc(sensorReading.id));
    return sensors.map((sensor) => ({
      sensor,
      readings: readings.map((r) => r.reading).filter((r) => r.sensorId === sensor.id),
    }));
  }

  async one(tx: Transaction, row: OfJob, id: string): Promise<SensorRow | undefined> {
    const [found] = await tx
      .select()
      .from(fittedSensor)
      .where(and(eq(fittedSensor.id, id), eq(fittedSensor.jobId, row.id)));
    return found;
  }

  async add(tx: Transaction, values: typeof fittedSensor.$inferInsert): Promise<string> {
    const [made] = await tx.insert(fittedSensor).values(values).returning({ id: fittedSensor.id });
    if (!made) throw new Error('sensor not stored');
    return made.id;
  }

  async addReading(tx: Transaction, values: typeof sensorReading.$inferInsert): Promise<void> {
    await tx.insert(sensorReading).values(values);
  }

  async remove(tx: Transaction, id: string, removed: Signed): Promise<void> {
    await tx
      .update(fittedSensor)
      .set({ removed })
      .where(and(eq(fittedSensor.id, id), isNull(fittedSensor.removed)));
  }
}
