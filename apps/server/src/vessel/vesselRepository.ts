import { Inject, Injectable } from '@nestjs/common';
import { and, asc, desc, eq, inArray, isNotNull, isNull, sql } from 'drizzle-orm';
import { Database } from '../database/database.ts';
import {
  instrument,
  job,
  tank,
  trace,
  traceChunk,
  vessel,
  vesselCycle,
  vesselEvent,
  vesselPart,
  vesselSignal,
} from '../database/schema.ts';
import type { Reader, Transaction } from '../database/tables.ts';

export type VesselRow = typeof vessel.$inferSelect;
export type CycleRow = typeof vesselCycle.$inferSelect;
export type EventRow = typeof vesselEvent.$inferSelect;
/** A run of the plant's instrument that a cycle was read by. */
export interface CycleTrace {
  id: string;
  startAt: Date | null;
  channels: (typeof trace.$inferSelect)['channels'];
  seenAt: Date | null;
  simulated: boolean;
}

/** All SQL of vessels and their cycles. */
@Injectable()
export class VesselRepository {
  readonly database: Database;
  constructor(@Inject(Database) database: Database) {
    this.database = database;
  }

  async vessels(reader: Reader) {
    return reader
      .select({
        vessel,
        tankName: tank.name,
        tankLot: tank.lotId,
        name: instrument.name,
        simulated: instrument.simulated,
      })
      .from(vessel)
      .leftJoin(tank, eq(tank.id, vessel.tankId))
      .leftJoin(instrument, eq(instrument.id, vessel.instrumentId))
      .orderBy(asc(vessel.at), asc(vessel.name));
  }

  async vessel(reader: Reader, id: string, lock: 'lock' | 'read' = 'read'): Promise<VesselRow | undefined> {
    const query = reader.select().from(vessel).where(eq(vessel.id, id));
    const [row] = lock === 'lock' ? await query.for('no key update') : await query;
    return row;
  }

  async add(tx: Transaction, row: typeof vessel.$inferInsert): Promise<VesselRow | undefined> {
    const [made] = await tx.insert(vessel).values(row).onConflictDoNothing().returning();
    return made;
  }

  async change(tx: Transaction, id: string, version: number, set: Partial<VesselRow>): Promise<VesselRow | undefined> {
    const [row] = await tx
      .update(vessel)
      .set({ ...set, version: version + 1 })
      .where(and(eq(vessel.id, id), eq(vessel.version, version)))
      .returning();
    return row;
  }

  async isInstrument(reader: Reader, id: string): Promise<boolean> {
    const rows = await reader
      .select({ id: instrument.id })
      .from(instrument)
      .where(and(eq(instrument.id, id), sql`${instrument.mayWrite} ? 'resin tank'`));
    return rows.length > 0;
  }

  async openCycle(reader: Reader, vesselId: string): Promise<CycleRow | undefined> {
    const [row] = await reader
      .select()
      .from(vesselCycle)
      .where(and(eq(vesselCycle.vesselId, vesselId), isNull(vesselCycle.endedAt)));
    return row;
  }

  async cycle(tx: Transaction, id: string): Promise<CycleRow | undefined> {
    const [row] = await tx.select().from(vesselCycle).where(eq(vesselCycle.id, id)).for('no key update');
    return row;
  }

  async addCycle(tx: Transaction, row: typeof vesselCycle.$inferInsert): Promise<CycleRow | undefined> {
    const [made] = await tx.insert(vesselCycle).values(row).onConflictDoNothing().returning();
    return made;
  }

  async endCycle(tx: Transaction, id: string, set: Partial<CycleRow>): Promise<void> {
    await tx.update(vesselCycle).set(set).where(eq(vesselCycle.id, id));
  }

  async addParts(tx: Transaction, rows: (typeof vesselPart.$inferInsert)[]): Promise<void> {
    await tx.insert(vesselPart).values(rows);
  }

  async parts(reader: Reader, cycleId: string) {
    return reader
      .select({ job: job.number, what: job.what, code: vesselPart.code })
      .from(vesselPart)
      .innerJoin(job, eq(job.id, vesselPart.jobId))
      .where(eq(vesselPart.cycleId, cycleId))
      .orderBy(asc(job.number));
  }

  /** Whether a motor stands in a cycle that is open. */
  async isIn(reader: Reader, jobId: string): Promise<boolean> {
    const rows = await reader
      .select({ id: vesselPart.id })
      .from(vesselPart)
      .innerJoin(vesselCycle, eq(vesselCycle.id, vesselPart.cycleId))
      .where(and(eq(vesselPart.jobId, jobId), isNull(vesselCycle.endedAt)));
    return rows.length > 0;
  }

  /** The cycles of a motor, the newest first. */
  async cyclesOf(reader: Reader, number: string) {
    return reader
      .select({ cycle: vesselCycle, vessel: vessel.name, code: vesselPart.code, vesselId: vessel.id })
      .from(vesselPart)
      .innerJoin(job, eq(job.id, vesselPart.jobId))
      .innerJoin(vesselCycle, eq(vesselCycle.id, vesselPart.cycleId))
      .innerJoin(vessel, eq(vessel.id, vesselCycle.vesselId))
      .where(eq(job.number, number))
      .orderBy(desc(vesselCycle.begunAt));
  }

  async events(reader: Reader, cycleId: string): Promise<EventRow[]> {
    return reader.select().from(vesselEvent).where(eq(vesselEvent.cycleId, cycleId)).orderBy(asc(vesselEvent.at));
  }

  async addEvent(tx: Transaction, row: typeof vesselEvent.$inferInsert): Promise<void> {
    await tx.insert(vesselEvent).values(row);
  }

  async signals(reader: Reader, cycleId: string) {
    return reader.select().from(vesselSignal).where(eq(vesselSignal.cycleId, cycleId)).orderBy(asc(vesselSignal.at));
  }

  async addSignals(tx: Transaction, rows: (typeof vesselSignal.$inferInsert)[]): Promise<void> {
    if (rows.length > 0) await tx.insert(vesselSignal).values(rows);
  }

  /** The run that the plant's instrument sends now, and where it stands. */
  async running(reader: Reader, instrumentId: string): Promise<{ id: string; to: number | null } | undefined> {
    const [row] = await reader
      .select({
        id: trace.id,
        to: sql<number | null>`(select max(x_to) from trace_chunk where trace_id = ${trace.id})`,
      })
      .from(trace)
      .where(
        and(
          eq(trace.instrumentId, instrumentId),
          eq(trace.what, 'resin tank'),
          isNotNull(trace.stream),
          isNull(trace.endedAt),
        ),
      )
      .orderBy(desc(trace.at))
      .limit(1);
    return row;
  }

  async traces(reader: Reader, cycle: CycleRow, instrumentId: string | null): Promise<CycleTrace[]> {
    if (instrumentId === null) return [];
    const to = cycle.endedAt?.toISOString() ?? null;
    return reader
      .select({
        id: trace.id,
        startAt: trace.startAt,
        channels: trace.channels,
        seenAt: instrument.lastSeenAt,
        simulated: instrument.simulated,
      })
      .from(trace)
      .innerJoin(instrument, eq(instrument.id, trace.instrumentId))
      .where(
        and(
          eq(trace.instrumentId, instrumentId),
          eq(trace.what, 'resin tank'),
          isNotNull(trace.stream),
          sql`(${trace.id} = ${cycle.traceId} or (${trace.at} >= ${cycle.begunAt.toISOString()}::timestamptz and (${to}::timestamptz is null or ${trace.at} <= ${to}::timestamptz)))`,
        ),
      )
      .orderBy(asc(trace.at));
  }

  async chunks(reader: Reader, ids: readonly string[]) {
    if (ids.length === 0) return [];
    return reader
      .select({ traceId: traceChunk.traceId, packed: traceChunk.packed, count: traceChunk.count })
      .from(traceChunk)
      .where(inArray(traceChunk.traceId, [...ids]))
      .orderBy(asc(traceChunk.from));
  }
}
