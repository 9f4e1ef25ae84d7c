import type { ArchiveEntry } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import { Database, type Transaction } from '../database/database.ts';
import { archiveRecord } from '../database/schema.ts';

/** Beyond this the newest are compared; a shop reaches it after decades. */
const MOST_COMPARED = 20_000;
/** Rows of one statement. */
const AT_ONCE = 500;

export type ComparedRow = Pick<ArchiveEntry, 'key' | 'part' | 'nameplate' | 'record'>;

/** The newest winding of each part of each job, the plan before what was found, and the old records that were brought in. */
const EVERYTHING = `entries as (
          select distinct on (w.job_id, w.part) 'job/' || j.number || '/' || w.part as key, j.what as title,
            j.number || ' · ' || c.name as source, w.part, j.nameplate, w.record, w.typed, w.read_with, w.at
          from winding_record w join job j on j.id = w.job_id join customer c on c.id = j.customer_id
          order by w.job_id, w.part, (w.role = 'planned') desc, w.revision desc
        ), everything as (
          select * from entries
          union all
          select 'old/' || id, title, file_name, 'stator', nameplate, record, typed, read_with, at from archive_record
        )`;

/** All SQL of the archive: windings of every job and those brought in from tables. */
@Injectable()
export class ArchiveRepository {
  readonly database: Database;
  constructor(@Inject(Database) database: Database) {
    this.database = database;
  }

  /** Newest first; every word must stand somewhere in a record. */
  async entries(words: readonly string[], most: number): Promise<ArchiveEntry[]> {
    const patterns = words.map((w) => `%${w.toLowerCase().replaceAll(/[\\%_]/g, (c) => `\\${c}`)}%`);
    return this.rows(
      'archive',
      `(cardinality($1::text[]) = 0 or
          lower(key || ' ' || title || ' ' || source || ' ' || nameplate::text || ' ' || typed::text) like all ($1::text[]))`,
      [patterns, most],
    );
  }

  /** Some records by their keys. */
  async byKeys(keys: readonly string[]): Promise<ArchiveEntry[]> {
    return this.rows('archive-keys', 'key = any($1::text[])', [keys, keys.length]);
  }

  private async rows(name: string, where: string, values: unknown[]): Promise<ArchiveEntry[]> {
    const { rows } = await this.database.pool.query<Omit<ArchiveEntry, 'at'> & { at: Date }>({
      name,
      text: `with ${EVERYTHING}
        select key, title, source as "from", part, nameplate, record, typed, read_with as "readWith", at from everything
        where ${where} order by at desc limit $2`,
      values,
    });
    return rows.map((r) => ({ ...r, at: r.at.toISOString() }));
  }

  /** How many records there are to compare with. */
  async count(): Promise<number> {
    const { rows } = await this.database.pool.query<{ n: number }>({
      name: 'archive-count',
      text: `select (select count(*) from (select distinct job_id, part from winding_record) w)::int +
          (select count(*) from archive_record)::int as n`,
    });
    return rows[0]?.n ?? 0;
  }

  /** What the newest records are compared by. */
  async compared(): Promise<ComparedRow[]> {
    const { rows } = await this.database.pool.query<ComparedRow>({
      name: 'archive-compared',
      text: `with ${EVERYTHING}
        select key, part, nameplate, record from everything order by at desc limit ${MOST_COMPARED}`,
    });
    return rows;
  }

  async add(tx: Transaction, values: readonly (typeof archiveRecord.$inferInsert)[]): Promise<void> {
    for (let i = 0; i < values.length; i += AT_ONCE)
      await tx.insert(archiveRecord).values(values.slice(i, i + AT_ONCE));
  }
}
