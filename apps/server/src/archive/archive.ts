import { defaultsOf } from '@norther/contracts';
import {
  checkRecord,
  NAMEPLATE_FIELDS,
  nameplateSchema,
  plateOfPart,
  readForm,
  readWindingRecord,
  similarityOf,
  windingRecordSchema,
  type Nameplate,
  type WindingPart,
  type WindingRecord,
} from '@norther/core';
import type { archiveImportBody, archiveQuery, ArchiveEntry, similarBody } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import { Database } from '../database/database.ts';
import { archiveRecord } from '../database/schema.ts';
import { type Act, Writes } from '../database/writes.ts';
import { ReadJob } from '../job/readJob.ts';
import { badForm, notFound } from '../problem/problem.ts';
import { Shop } from '../shop/shop.ts';

const MOST_SHOWN = 60;
/** Beyond this the newest are compared; a shop reaches it after decades. */
const MOST_COMPARED = 20_000;

const keyOf = (e: ArchiveEntry): { record: WindingRecord; nameplate: Nameplate } => ({
  record: windingRecordSchema.parse(e.record),
  nameplate: plateOfPart(nameplateSchema.parse(e.nameplate), e.part),
});

/** Every winding that was ever recorded or brought in: searched by anything, ranked by likeness. */
@Injectable()
export class Archive {
  readonly database: Database;
  readonly writes: Writes;
  readonly read: ReadJob;
  readonly shop: Shop;
  constructor(
    @Inject(Database) database: Database,
    @Inject(Writes) writes: Writes,
    @Inject(ReadJob) read: ReadJob,
    @Inject(Shop) shop: Shop,
  ) {
    this.database = database;
    this.writes = writes;
    this.read = read;
    this.shop = shop;
  }

  /** Newest first. Every word of the text must stand somewhere in a record. */
  async find(query: z.output<typeof archiveQuery>): Promise<ArchiveEntry[]> {
    return (await this.entries(query.q ?? '')).slice(0, MOST_SHOWN);
  }

  /** The windings most like one of the archive, or like what is being typed; most alike first, with what differs. */
  async similar(body: z.output<typeof similarBody>): Promise<ArchiveEntry[]> {
    const all = await this.entries('');
    let own: { record: WindingRecord; nameplate: Nameplate };
    let without: string;
    let isRotor: boolean;
    if ('key' in body) {
      const found = all.find((e) => e.key === body.key);
      if (!found) throw notFound(`archive record ${body.key}`);
      without = body.key;
      isRotor = found.part === 'rotor';
      own = keyOf(found);
    } else {
      const { settings } = await this.shop.view(this.shop.database.tables);
      const row = await this.read.row(body.number, this.database.tables);
      without = `job/${body.number}/${body.part}`;
      isRotor = body.part === 'rotor';
      own = {
        record: readWindingRecord(body.typed, defaultsOf(settings)).record,
        nameplate: plateOfPart(row.nameplate as Nameplate, body.part),
      };
    }
    return (
      all
        // a rotor is compared with rotors only
        .filter((e) => e.key !== without && (e.part === 'rotor') === isRotor)
        .map((e) => ({ ...e, ...similarityOf(own, keyOf(e)) }))
        .sort((a, b) => b.score - a.score)
        .slice(0, MOST_SHOWN)
    );
  }

  private async entries(text: string): Promise<ArchiveEntry[]> {
    const words = text.toLowerCase().split(/\s+/).filter(Boolean);
    const patterns = words.map((w) => `%${w.replaceAll(/[\\%_]/g, (c) => `\\${c}`)}%`);
    const { rows } = await this.database.pool.query<Record<string, unknown>>({
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
        select * from everything
        where (cardinality($1::text[]) = 0 or
          lower(key || ' ' || title || ' ' || source || ' ' || nameplate::text || ' ' || typed::text) like all ($1::text[]))
        order by at desc limit ${MOST_COMPARED}`,
      values: [patterns],
    });
    return rows.map((r): ArchiveEntry => ({
      key: r['key'] as string,
      title: r['title'] as string,
      from: r['source'] as string,
      part: r['part'] as WindingPart,
      nameplate: r['nameplate'] as ArchiveEntry['nameplate'],
      record: r['record'] as ArchiveEntry['record'],
      typed: r['typed'] as Record<string, string>,
      readWith: r['read_with'] as Record<string, string>,
      at: (r['at'] as Date).toISOString(),
    }));
  }

  /** Keeps old records; all or none. A row that cannot be right names its line. */
  async bring(act: Act, body: z.output<typeof archiveImportBody>): Promise<{ kept: number }> {
    const { settings } = await this.shop.view(this.shop.database.tables);
    const defaults = defaultsOf(settings);
    const problems: { field: string; message: string }[] = [];
    const values = body.rows.map((row) => {
      const plate = readForm(NAMEPLATE_FIELDS, row.plateTyped, defaults);
      const winding = readWindingRecord(row.typed, defaults);
      const nameplate = nameplateSchema.safeParse(plate.values);
      const say = (message: string) =>
        problems.push({ field: `rows.${row.line}`, message: `Line ${row.line}: ${message}` });
      for (const p of [...plate.problems, ...winding.problems]) say(`${p.label}: ${p.message}`);
      if (winding.record.slots === undefined || winding.record.poles === undefined) say('Slots and poles are needed.');
      if (!nameplate.success) say('The nameplate cannot be read.');
      const wrong = checkRecord(
        winding.record,
        nameplate.success ? nameplate.data : ({} as Nameplate),
        settings.limits,
      );
      for (const f of wrong) if (f.severity === 'E') say(f.message);
      return {
        title: row.title,
        nameplateTyped: row.plateTyped,
        nameplate: nameplate.success ? nameplate.data : {},
        typed: row.typed,
        record: winding.record,
        readWith: defaults,
        fileName: body.fileName,
        personName: act.actor.name,
        at: act.at,
      };
    });
    if (problems.length > 0) throw badForm(problems);
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      for (let i = 0; i < values.length; i += 500) await tx.insert(archiveRecord).values(values.slice(i, i + 500));
      await audit({
        action: 'archive.bring',
        summary: `${values.length} old winding records from ${body.fileName}`,
        after: { fileName: body.fileName, rows: values.length },
      });
      await tell('archive');
      return { kept: values.length };
    });
  }
}
