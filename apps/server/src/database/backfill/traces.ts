import { chunksOf } from '@norther/core';
import type pg from 'pg';
import { column } from '../../trace/packing.ts';
import { addTrace } from '../../trace/traceStatements.ts';
import { onceByOwner } from './onceByOwner.ts';

const NAME = 'oven logs of before as traces';

interface Old {
  id: string;
  jobId: string;
  fileName: string;
  at: Date;
  timesMin: number[];
  channels: { name: string; role: string; valuesC: (number | null)[] }[];
}

/** Once: the samples of oven logs recorded before go into chunks; where they stood is dropped. By the owner, after the migrations. */
export async function backfillTraces(owner: pg.Client): Promise<void> {
  await onceByOwner(owner, NAME, async (tables) => {
    const { rows: ids } = await owner.query<{ id: string }>('select id from cure_run where trace_id is null');
    await owner.query('alter table cure_run disable trigger user');
    for (const { id } of ids) {
      const { rows } = await owner.query<Old>(
        `select id, job_id as "jobId", file_name as "fileName", at, times_min as "timesMin", channels from cure_run where id = $1`,
        [id],
      );
      const old = rows[0] as Old;
      const traceId = await addTrace(
        tables,
        {
          jobId: old.jobId,
          part: 'stator',
          what: 'oven',
          channels: old.channels.map(({ name, role }) => ({ name, unit: '°C', role })),
          xUnit: 'min',
          source: 'file',
          sourceName: old.fileName,
          at: old.at,
          endedAt: old.at,
        },
        chunksOf({ x: Float64Array.from(old.timesMin), values: old.channels.map((c) => column(c.valuesC)) }),
      );
      await owner.query('update cure_run set trace_id = $2 where id = $1', [id, traceId]);
    }
    await owner.query('alter table cure_run enable trigger user');
    await owner.query(
      `alter table cure_run alter column trace_id set not null,
        drop column if exists times_min, drop column if exists channels, drop column if exists rows, drop column if exists shown`,
    );
  });
}
