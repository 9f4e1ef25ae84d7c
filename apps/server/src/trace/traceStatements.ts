import type { TestTraceView } from '@norther/contracts';
import type { Chunk } from '@norther/core';
import { sql } from 'drizzle-orm';
import { trace, traceChunk } from '../database/schema.ts';
import type { Reader } from '../database/tables.ts';
import { toBytes } from './packing.ts';

export type NewTrace = Omit<typeof trace.$inferInsert, 'id'>;

/** Adds a trace and its first chunks. */
export async function addTrace(tx: Reader, row: NewTrace, chunks: readonly Chunk[]): Promise<string> {
  const [made] = await tx.insert(trace).values(row).returning({ id: trace.id });
  if (!made) throw new Error('trace not stored');
  await addChunks(tx, made.id, chunks);
  return made.id;
}

/** Adds chunks, one statement each: they are large. A chunk that is there already is left as it is. */
export async function addChunks(tx: Reader, traceId: string, chunks: readonly Chunk[]): Promise<void> {
  for (const { packed, overview, ...c } of chunks)
    await tx
      .insert(traceChunk)
      .values({ traceId, ...c, packed: toBytes(packed), overview: toBytes(overview) })
      .onConflictDoNothing();
}

/** Traces that a reading is made of, in their order; within a select of test_run. */
export const tracesOfTest = sql<TestTraceView[]>`coalesce((
  select json_agg(json_build_object(
    'id', t.id, 'what', t.what, 'channels', t.channels, 'simulated', coalesce(i.simulated, t.source_name like '%(simulated)')
  ) order by u.ordinal)
  from test_trace u join trace t on t.id = u.trace_id left join instrument i on i.id = t.instrument_id
  where u.test_id = test_run.id), '[]'::json)`;
