import type { OvenEventKind } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import { and, asc, desc, eq, gt, inArray, isNotNull, isNull, sql } from 'drizzle-orm';
import { Database } from '../database/database.ts';
import {
  chamber,
  instrument,
  job,
  ovenEvent,
  ovenLoad,
  ovenLog,
  ovenPart,
  ovenProbe,
  ovenReading,
  stockLot,
  trace,
  traceChunk,
} from '../database/schema.ts';
import type { Reader, Transaction } from '../database/tables.ts';

export type ChamberRow = typeof chamber.$inferSelect;
export type LoadRow = typeof ovenLoad.$inferSelect;
export type PartRow = typeof ovenPart.$inferSelect & { job: string; what: string };
export type ProbeRow = typeof ovenProbe.$inferSelect;
export type ReadingRow = typeof ovenReading.$inferSelect;
export type EventRow = typeof ovenEvent.$inferSelect;
/** A run of the logger that a load was read by: from where, to where, and how much of it is here. */
export interface LoadTrace {
  id: string;
  startAt: Date | null;
  channels: (typeof trace.$inferSelect)['channels'];
  xUnit: string;
  ended: boolean;
  seenAt: Date | null;
  simulated: boolean;
  /** it came as a file */
  file: boolean;
  chunks: number;
  lastFirst: number | null;
  to: number | null;
}
/** Everything that stands with a load. */
export interface LoadAll {
  load: LoadRow;
  chamber: ChamberRow;
  parts: PartRow[];
  probes: ProbeRow[];
  readings: ReadingRow[];
  events: EventRow[];
}

/** All SQL of chambers and their loads. */
@Injectable()
export class OvenRepository {
  readonly database: Database;
  constructor(@Inject(Database) database: Database) {
    this.database = database;
  }

  async chambers(reader: Reader): Promise<ChamberRow[]> {
    return reader.select().from(chamber).orderBy(asc(chamber.at), asc(chamber.name));
  }

  async chamber(reader: Reader, id: string, lock: 'lock' | 'read' = 'read'): Promise<ChamberRow | undefined> {
    const query = reader.select().from(chamber).where(eq(chamber.id, id));
    const [row] = lock === 'lock' ? await query.for('no key update') : await query;
    return row;
  }

  async addChamber(tx: Transaction, row: typeof chamber.$inferInsert): Promise<ChamberRow | undefined> {
    const [made] = await tx.insert(chamber).values(row).onConflictDoNothing().returning();
    return made;
  }

  async changeChamber(
    tx: Transaction,
    id: string,
    version: number,
    set: Partial<ChamberRow>,
  ): Promise<ChamberRow | undefined> {
    const [row] = await tx
      .update(chamber)
      .set({ ...set, version: version + 1 })
      .where(and(eq(chamber.id, id), eq(chamber.version, version)))
      .returning();
    return row;
  }

  /** Instruments that send oven logs, with the channels of what each sent last. */
  async loggers(reader: Reader): Promise<Map<string, { name: string; simulated: boolean; channels: string[] }>> {
    const rows = await reader
      .selectDistinctOn([instrument.id], {
        id: instrument.id,
        name: instrument.name,
        simulated: instrument.simulated,
        channels: trace.channels,
      })
      .from(instrument)
      .leftJoin(trace, and(eq(trace.instrumentId, instrument.id), eq(trace.what, 'oven'), isNotNull(trace.stream)))
      .where(sql`${instrument.active} and ${instrument.mayWrite} ? 'oven'`)
      .orderBy(instrument.id, desc(trace.at));
    return new Map(
      rows.map((r) => [
        r.id,
        { name: r.name, simulated: r.simulated, channels: (r.channels ?? []).map((c) => c.name) },
      ]),
    );
  }

  /** Loads that are open, and the newest ones that ended. */
  async loads(reader: Reader, ended = 0): Promise<LoadRow[]> {
    const open = await reader.select().from(ovenLoad).where(isNull(ovenLoad.endedAt)).orderBy(asc(ovenLoad.number));
    const gone =
      ended === 0
        ? []
        : await reader
            .select()
            .from(ovenLoad)
            .where(sql`${ovenLoad.endedAt} is not null`)
            .orderBy(desc(ovenLoad.endedAt))
            .limit(ended);
    return [...open, ...gone];
  }

  async load(reader: Reader, id: string, lock: 'lock' | 'read' = 'read'): Promise<LoadRow | undefined> {
    const query = reader.select().from(ovenLoad).where(eq(ovenLoad.id, id));
    const [row] = lock === 'lock' ? await query.for('no key update') : await query;
    return row;
  }

  /** Everything of some loads, in five statements. */
  async all(reader: Reader, loads: readonly LoadRow[]): Promise<LoadAll[]> {
    if (loads.length === 0) return [];
    const ids = loads.map((l) => l.id);
    const chambers = await reader
      .select()
      .from(chamber)
      .where(inArray(chamber.id, [...new Set(loads.map((l) => l.chamberId))]));
    const parts = await reader
      .select({ part: ovenPart, job: job.number, what: job.what })
      .from(ovenPart)
      .innerJoin(job, eq(job.id, ovenPart.jobId))
      .where(inArray(ovenPart.loadId, ids))
      .orderBy(asc(ovenPart.inAt), asc(ovenPart.id));
    const probes = await reader
      .select()
      .from(ovenProbe)
      .where(and(inArray(ovenProbe.loadId, ids), isNull(ovenProbe.supersededAt)))
      .orderBy(asc(ovenProbe.channel));
    const readings = await reader
      .select()
      .from(ovenReading)
      .where(inArray(ovenReading.loadId, ids))
      .orderBy(asc(ovenReading.readAt));
    const events = await reader
      .select()
      .from(ovenEvent)
      .where(inArray(ovenEvent.loadId, ids))
      .orderBy(asc(ovenEvent.at));
    const of = <T extends { loadId: string }>(rows: readonly T[], load: LoadRow) =>
      rows.filter((r) => r.loadId === load.id);
    return loads.flatMap((load) => {
      const own = chambers.find((c) => c.id === load.chamberId);
      return own
        ? [
            {
              load,
              chamber: own,
              parts: parts
                .filter((p) => p.part.loadId === load.id)
                .map((p) => ({ ...p.part, job: p.job, what: p.what })),
              probes: of(probes, load),
              readings: of(readings, load),
              events: of(events, load),
            },
          ]
        : [];
    });
  }

  async addLoad(tx: Transaction, row: typeof ovenLoad.$inferInsert): Promise<LoadRow | undefined> {
    const [made] = await tx.insert(ovenLoad).values(row).onConflictDoNothing().returning();
    return made;
  }

  async setLoad(tx: Transaction, id: string, set: Partial<LoadRow>): Promise<void> {
    await tx.update(ovenLoad).set(set).where(eq(ovenLoad.id, id));
  }

  async addPart(tx: Transaction, row: typeof ovenPart.$inferInsert): Promise<string | undefined> {
    const [made] = await tx.insert(ovenPart).values(row).onConflictDoNothing().returning({ id: ovenPart.id });
    return made?.id;
  }

  async setPart(tx: Transaction, id: string, set: Partial<typeof ovenPart.$inferSelect>): Promise<void> {
    await tx.update(ovenPart).set(set).where(eq(ovenPart.id, id));
  }

  /** The load that a job stands in now. */
  async insideOf(reader: Reader, jobId: string): Promise<number | undefined> {
    const [row] = await reader
      .select({ number: ovenLoad.number })
      .from(ovenPart)
      .innerJoin(ovenLoad, eq(ovenLoad.id, ovenPart.loadId))
      .where(and(eq(ovenPart.jobId, jobId), isNull(ovenPart.outAt)));
    return row?.number;
  }

  async supersedeProbes(tx: Transaction, loadId: string, channels: readonly string[], at: Date): Promise<void> {
    if (channels.length === 0) return;
    await tx
      .update(ovenProbe)
      .set({ supersededAt: at })
      .where(
        and(eq(ovenProbe.loadId, loadId), inArray(ovenProbe.channel, [...channels]), isNull(ovenProbe.supersededAt)),
      );
  }

  async addProbes(tx: Transaction, rows: (typeof ovenProbe.$inferInsert)[]): Promise<void> {
    if (rows.length > 0) await tx.insert(ovenProbe).values(rows);
  }

  async addReading(tx: Transaction, row: typeof ovenReading.$inferInsert): Promise<void> {
    await tx.insert(ovenReading).values(row);
  }

  async addEvent(
    tx: Transaction,
    row: { loadId: string; kind: OvenEventKind; note: string; personName: string; at: Date },
  ): Promise<void> {
    await tx.insert(ovenEvent).values(row);
  }

  /** The run that a logger is sending now, and where it stands. */
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
          eq(trace.what, 'oven'),
          isNotNull(trace.stream),
          isNull(trace.endedAt),
        ),
      )
      .orderBy(desc(trace.at))
      .limit(1);
    return row;
  }

  /** The runs of the logger that a load is read by: the one it began in, and those begun while it ran. */
  async tracesOf(reader: Reader, load: LoadRow, instrumentId: string | null): Promise<LoadTrace[]> {
    if (load.startedAt === null) return [];
    const files = await this.filesOf(reader, load);
    if (instrumentId === null) return files;
    const sent = await reader
      .select({
        id: trace.id,
        startAt: trace.startAt,
        channels: trace.channels,
        xUnit: trace.xUnit,
        ended: sql<boolean>`${trace.endedAt} is not null`,
        seenAt: sql<Date | null>`${instrument.lastSeenAt}`.mapWith(instrument.lastSeenAt),
        simulated: instrument.simulated,
        file: sql<boolean>`false`,
        chunks: sql<number>`(select count(*)::int from trace_chunk where trace_id = ${trace.id})`,
        lastFirst: sql<number | null>`(select max(first) from trace_chunk where trace_id = ${trace.id})`,
        to: sql<number | null>`(select max(x_to) from trace_chunk where trace_id = ${trace.id})`,
      })
      .from(trace)
      .innerJoin(instrument, eq(instrument.id, trace.instrumentId))
      .where(
        and(
          eq(trace.instrumentId, instrumentId),
          eq(trace.what, 'oven'),
          // what it sent itself, not what was kept of it with a verdict
          isNotNull(trace.stream),
          sql`(${trace.id} = ${load.traceId} or (${trace.at} >= ${load.startedAt.toISOString()}::timestamptz and (${load.endedAt?.toISOString() ?? null}::timestamptz is null or ${trace.at} <= ${load.endedAt?.toISOString() ?? null}::timestamptz)))`,
        ),
      )
      .orderBy(asc(trace.at));
    return [...sent, ...files];
  }

  /** Logs of a load that came as files, in the order in which they came. */
  private async filesOf(reader: Reader, load: LoadRow): Promise<LoadTrace[]> {
    return reader
      .select({
        id: trace.id,
        startAt: trace.startAt,
        channels: trace.channels,
        xUnit: trace.xUnit,
        ended: sql<boolean>`true`,
        seenAt: sql<Date | null>`null`,
        simulated: sql<boolean>`false`,
        file: sql<boolean>`true`,
        chunks: sql<number>`(select count(*)::int from trace_chunk where trace_id = ${trace.id})`,
        lastFirst: sql<number | null>`(select max(first) from trace_chunk where trace_id = ${trace.id})`,
        to: sql<number | null>`(select max(x_to) from trace_chunk where trace_id = ${trace.id})`,
      })
      .from(ovenLog)
      .innerJoin(trace, eq(trace.id, ovenLog.traceId))
      .where(eq(ovenLog.loadId, load.id))
      .orderBy(asc(ovenLog.at));
  }

  async addLog(tx: Transaction, row: typeof ovenLog.$inferInsert): Promise<void> {
    await tx.insert(ovenLog).values(row);
  }

  /** Packed samples of a run, of the chunks after a number. */
  async chunksAfter(
    reader: Reader,
    traceId: string,
    first: number,
  ): Promise<{ first: number; from: number; packed: Buffer; count: number }[]> {
    return reader
      .select({ first: traceChunk.first, from: traceChunk.from, packed: traceChunk.packed, count: traceChunk.count })
      .from(traceChunk)
      .where(and(eq(traceChunk.traceId, traceId), gt(traceChunk.first, first)))
      .orderBy(asc(traceChunk.from));
  }

  /** The loads that a motor stood in, newest first. */
  async ofJob(reader: Reader, number: string) {
    return reader
      .select({ part: ovenPart, load: ovenLoad, chamber: chamber.name })
      .from(ovenPart)
      .innerJoin(job, eq(job.id, ovenPart.jobId))
      .innerJoin(ovenLoad, eq(ovenLoad.id, ovenPart.loadId))
      .innerJoin(chamber, eq(chamber.id, ovenLoad.chamberId))
      .where(eq(job.number, number))
      .orderBy(desc(ovenPart.inAt));
  }

  /** What a stock lot is of, by the number on its label. */
  async materialOfLot(reader: Reader, lot: string): Promise<string | undefined> {
    const [row] = await reader.select({ what: stockLot.what }).from(stockLot).where(eq(stockLot.lot, lot));
    return row?.what.kind === 'material' ? row.what.name : undefined;
  }

  /** Open jobs that have an operation which stands in an oven. */
  async jobsFor(reader: Reader, codes: readonly string[]): Promise<string[]> {
    const rows = await reader.execute<{ number: string }>(
      sql`select distinct j.number from job j join route_step s on s.job_id = j.id
          where j.closed_at is null and split_part(s.code, '.', 1) in (${sql.join(
            codes.map((c) => sql`${c}`),
            sql`, `,
          )}) and s.state in ('open','running','recheck')`,
    );
    return rows.rows.map((r) => r.number);
  }
}
