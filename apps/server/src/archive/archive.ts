import { defaultsOf } from '@norther/contracts';
import {
  checkRecord,
  NAMEPLATE_FIELDS,
  PARTS,
  nameplateSchema,
  plateOfPart,
  readForm,
  readWindingRecord,
  similarityOf,
  type Nameplate,
  type WindingRecord,
} from '@norther/core';
import type { archiveImportBody, archiveQuery, ArchiveEntry, similarBody } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import { Database } from '../database/database.ts';
import { type Act, Writes } from '../database/writes.ts';
import { ReadJob } from '../job/readJob.ts';
import { badForm, notFound } from '../problem/problem.ts';
import { Shop } from '../shop/shop.ts';
import { ArchiveRepository } from './archiveRepository.ts';

const MOST_SHOWN = 60;

const keyOf = (e: ArchiveEntry): { record: WindingRecord; nameplate: Nameplate } => ({
  record: e.record,
  nameplate: plateOfPart(nameplateSchema.parse(e.nameplate), e.part),
});

/** Every winding that was ever recorded or brought in: searched by anything, ranked by likeness. */
@Injectable()
export class Archive {
  readonly database: Database;
  readonly writes: Writes;
  readonly read: ReadJob;
  readonly shop: Shop;
  readonly records: ArchiveRepository;
  constructor(
    @Inject(Database) database: Database,
    @Inject(Writes) writes: Writes,
    @Inject(ReadJob) read: ReadJob,
    @Inject(Shop) shop: Shop,
    @Inject(ArchiveRepository) records: ArchiveRepository,
  ) {
    this.database = database;
    this.writes = writes;
    this.read = read;
    this.shop = shop;
    this.records = records;
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
    let rail: string;
    if ('key' in body) {
      const found = all.find((e) => e.key === body.key);
      if (!found) throw notFound(`archive record ${body.key}`);
      without = body.key;
      rail = PARTS[found.part].rail;
      own = keyOf(found);
    } else {
      const settings = await this.shop.settings();
      const row = await this.read.row(body.number, this.database.tables);
      without = `job/${body.number}/${body.part}`;
      rail = PARTS[body.part].rail;
      own = {
        record: readWindingRecord(body.typed, defaultsOf(settings)).record,
        nameplate: plateOfPart(row.nameplate, body.part),
      };
    }
    return (
      all
        // a rotor is compared with rotors only
        .filter((e) => e.key !== without && PARTS[e.part].rail === rail)
        .map((e) => ({ ...e, ...similarityOf(own, keyOf(e)) }))
        .sort((a, b) => b.score - a.score)
        .slice(0, MOST_SHOWN)
    );
  }

  private async entries(text: string): Promise<ArchiveEntry[]> {
    return this.records.entries(text.split(/\s+/).filter(Boolean));
  }

  /** Keeps old records; all or none. A row that cannot be right names its line. */
  async bring(act: Act, body: z.output<typeof archiveImportBody>): Promise<{ kept: number }> {
    const settings = await this.shop.settings();
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
      await this.records.add(tx, values);
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
