import { Inject, Injectable } from '@nestjs/common';
import { and, asc, desc, eq, gte, inArray, isNotNull, lte, sql } from 'drizzle-orm';
import { Database } from '../database/database.ts';
import { instrument, job, trace, traceChunk } from '../database/schema.ts';
import type { Reader } from '../database/tables.ts';

export interface TraceHead {
  id: string;
  what: string;
  job: string | null;
  channels: (typeof trace.$inferSelect)['channels'];
  xUnit: string;
  startAt: Date | null;
  source: string;
  sourceName: string;
  simulated: boolean;
  ended: boolean;
  samples: number;
  from: number | null;
  to: number | null;
}

/** All SQL of traces. */
@Injectable()
export class TraceRepository {
  readonly database: Database;
  constructor(@Inject(Database) database: Database) {
    this.database = database;
  }

  async head(reader: Reader, id: string): Promise<TraceHead | undefined> {
    const [row] = await reader
      .select({
        id: trace.id,
        what: trace.what,
        job: job.number,
        channels: trace.channels,
        xUnit: trace.xUnit,
        startAt: trace.startAt,
        source: trace.source,
        sourceName: trace.sourceName,
        simulated: sql<boolean>`coalesce(${instrument.simulated}, false)`,
        ended: sql<boolean>`${trace.endedAt} is not null`,
        samples: sql<number>`(select coalesce(sum(count), 0)::int from trace_chunk where trace_id = ${trace.id})`,
        from: sql<number | null>`(select min(x_from) from trace_chunk where trace_id = ${trace.id})`,
        to: sql<number | null>`(select max(x_to) from trace_chunk where trace_id = ${trace.id})`,
      })
      .from(trace)
      .leftJoin(job, eq(job.id, trace.jobId))
      .leftJoin(instrument, eq(instrument.id, trace.instrumentId))
      .where(eq(trace.id, id));
    return row;
  }

  /** The newest traces of a kind that instruments have sent. */
  async sent(what: string, number?: string) {
    return this.database.tables
      .select({
        id: trace.id,
        stream: sql<string>`coalesce(${trace.stream}, '')`,
        sourceName: trace.sourceName,
        simulated: instrument.simulated,
        channels: trace.channels,
        at: trace.at,
        ended: sql<boolean>`${trace.endedAt} is not null`,
      })
      .from(trace)
      .innerJoin(instrument, eq(instrument.id, trace.instrumentId))
      .leftJoin(job, eq(job.id, trace.jobId))
      .where(
        and(eq(trace.what, what), isNotNull(trace.stream), number === undefined ? undefined : eq(job.number, number)),
      )
      .orderBy(desc(trace.at))
      .limit(20);
  }

  /** How many samples the chunks that touch a window hold. */
  async samplesIn(reader: Reader, id: string, from: number, to: number): Promise<number> {
    const [row] = await reader
      .select({ n: sql<number>`coalesce(sum(${traceChunk.count}), 0)::int` })
      .from(traceChunk)
      .where(within(id, from, to));
    return row?.n ?? 0;
  }

  /** Packed samples of the chunks that touch a window, in order. */
  async chunks(
    reader: Reader,
    id: string,
    from = -Infinity,
    to = Infinity,
  ): Promise<{ packed: Buffer; count: number }[]> {
    return reader
      .select({ packed: traceChunk.packed, count: traceChunk.count })
      .from(traceChunk)
      .where(within(id, from, to))
      .orderBy(asc(traceChunk.first));
  }

  /** Packed samples of some chunks, by the number of their first sample or batch, in order. */
  async chunksAt(reader: Reader, id: string, firsts: readonly number[]): Promise<{ packed: Buffer; count: number }[]> {
    return reader
      .select({ packed: traceChunk.packed, count: traceChunk.count })
      .from(traceChunk)
      .where(and(eq(traceChunk.traceId, id), inArray(traceChunk.first, [...firsts])))
      .orderBy(asc(traceChunk.first));
  }

  /** Overviews of the chunks that touch a window, in order. */
  async overviews(reader: Reader, id: string, from: number, to: number): Promise<Buffer[]> {
    const rows = await reader
      .select({ overview: traceChunk.overview })
      .from(traceChunk)
      .where(within(id, from, to))
      .orderBy(asc(traceChunk.first));
    return rows.map((r) => r.overview);
  }
}

const within = (id: string, from: number, to: number) =>
  and(eq(traceChunk.traceId, id), gte(traceChunk.to, from), lte(traceChunk.from, to));
