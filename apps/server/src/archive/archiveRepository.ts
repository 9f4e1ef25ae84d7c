import type { ArchiveEntry } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import { Database, type Transaction } from '../database/database.ts';
import { archiveRecord } from '../database/schema.ts';

/** Beyond this the newest are compared; a shop reaches it after decades. */
const MOST_COMPARED = 20_000;
/** Rows of one statement. */
const AT_ONCE = 500;

/** All SQL of the archive: windings of every job and those brought in from tables. */
@Injectable()
export class ArchiveRepository {
  readonly database: Database;
  constructor(@Inject(Database) database: Database) {
    this.database = database;
  }

  /** Newest first; every word must stand somewhere in a record. */
  async entries(words: readonly string[]): Promise<ArchiveEntry[]> {
    const patterns = words.map((w) => `%${w.toLowerCase().replaceAll(/[\\%_]/g, (c) => `\\${c}`)}%`);
    const { rows } = await this.database.pool.query<Omit<ArchiveEntry, 'at'> & { at: Date }>({
      name: 'archive',
      text: `with entries as (
          select distinct on (w.job_id, w.part) 'job/' || j.number || '/' || w.part as key, j.what as title,
            j.number || ' · ' || c.name as source, w.part, j.nameplate, w.record, w.typed, w.read_with, w.at
          from winding_record w join job j on j.id = w.job_id join customer c on c.id = j.customer_id
          order by w.job_id, w.part, (w.role = 'planned') desc, w.revision desc
        ), everything as (
          select * from entries
          union all
          select 'old/' || id, title, file_name, 'stator', nameplate, record, typed, read_with, at from archive_record
        )
        select key, title, source as "from", part, nameplate, record, typed, read_with as "readWith", at from everything
        where (cardinality($1::text[]) = 0 or
          lower(key || ' ' || title || ' ' || source || ' ' || nameplate::text || ' ' || typed::text) like all ($1::text[]))
        order by at desc limit ${MOST_COMPARED}`,
      values: [patterns],
    });
    return rows.map((r) => ({ ...r, at: r.at.toISOString() }));
  }

  async add(tx: Transaction, values: readonly (typeof archiveRecord.$inferInsert)[]): Promise<void> {
    for (let i = 0; i < values.length; i += AT_ONCE)
      await tx.insert(archiveRecord).values(values.slice(i, i + AT_ONCE));
  }
}
