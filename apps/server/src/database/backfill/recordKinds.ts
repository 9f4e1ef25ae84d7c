import {
  METRIC_DEFAULTS,
  readWindingRecord,
  recordOfBefore,
  type ReadingDefaults,
  type WindingRecord,
} from '@norther/core';
import type pg from 'pg';
import { onceByOwner } from './onceByOwner.ts';

interface Old {
  id: string;
  record: Record<string, unknown>;
  typed: Record<string, string>;
  readWith: Partial<ReadingDefaults>;
}

/** A record that no longer reads as it was kept is read once more from what was typed. */
function ofNow({ record, typed, readWith }: Old): WindingRecord {
  try {
    return recordOfBefore(record);
  } catch {
    return readWindingRecord(typed, { ...METRIC_DEFAULTS, ...readWith }).record;
  }
}

/** Once: winding records get the kind of their winding, and lose fields of other kinds that never belonged to them. */
export async function backfillRecordKinds(owner: pg.Client): Promise<void> {
  await onceByOwner(owner, 'winding records by kind', async () => {
    for (const table of ['winding_record', 'archive_record']) {
      await owner.query(`alter table ${table} disable trigger user`);
      for (let last = '00000000-0000-0000-0000-000000000000'; ;) {
        const { rows } = await owner.query<Old>(
          `select id, record, typed, read_with as "readWith" from ${table} where id > $1 order by id limit 500`,
          [last],
        );
        for (const old of rows)
          await owner.query(`update ${table} set record = $2 where id = $1`, [old.id, ofNow(old)]);
        const end = rows.at(-1);
        if (!end) break;
        last = end.id;
      }
      await owner.query(`alter table ${table} enable trigger user`);
    }
  });
}
