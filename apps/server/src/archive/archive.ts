import {
  defaultsOf,
  type archiveImportBody,
  type ArchiveEntry,
  type archiveQuery,
  type BroughtAnswer,
  type SimilarAnswer,
  type similarBody,
} from '@norther/contracts';
import { nameplateSchema, PARTS, plateOfPart, readWindingRecord } from '@norther/core';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import { Database } from '../database/database.ts';
import { type Act, Writes } from '../database/writes.ts';
import { ReadJob } from '../job/readJob.ts';
import { badForm, notFound, Problem } from '../problem/problem.ts';
import type { WorkData } from '../queue/kinds.ts';
import { Queue } from '../queue/queue.ts';
import { Works } from '../queue/works.ts';
import { Shop } from '../shop/shop.ts';
import { ArchiveRepository } from './archiveRepository.ts';
import { rank, type Ranked } from './likeness.ts';
import { readOldRecords } from './oldRecords.ts';

const MOST_SHOWN = 60;
/** With so many records a winding is compared at once; with more in the background, for it takes processor time. */
export const COMPARED_AT_ONCE = 300;
/** So many old records are read and kept at once; more in the background. */
export const BROUGHT_AT_ONCE = 200;

/** Every winding that was ever recorded or brought in: searched by anything, ranked by likeness. */
@Injectable()
export class Archive {
  readonly database: Database;
  readonly writes: Writes;
  readonly read: ReadJob;
  readonly shop: Shop;
  readonly records: ArchiveRepository;
  readonly queue: Queue;
  readonly works: Works;
  constructor(
    @Inject(Database) database: Database,
    @Inject(Writes) writes: Writes,
    @Inject(ReadJob) read: ReadJob,
    @Inject(Shop) shop: Shop,
    @Inject(ArchiveRepository) records: ArchiveRepository,
    @Inject(Queue) queue: Queue,
    @Inject(Works) works: Works,
  ) {
    this.queue = queue;
    this.works = works;
    this.database = database;
    this.writes = writes;
    this.read = read;
    this.shop = shop;
    this.records = records;
  }

  /** Newest first. Every word of the text must stand somewhere in a record. */
  async find(query: z.output<typeof archiveQuery>): Promise<ArchiveEntry[]> {
    return this.records.entries((query.q ?? '').split(/\s+/).filter(Boolean), MOST_SHOWN);
  }

  /**
   * The windings most like one of the archive, or like what is being typed; most alike first, with what differs. In a large archive
   * the work that compares them.
   */
  async similar(act: Act, body: z.output<typeof similarBody>): Promise<SimilarAnswer> {
    const to = await this.compared(body);
    if ((await this.records.count()) <= COMPARED_AT_ONCE)
      return { entries: await this.shown(rank(to, await this.records.compared())) };
    const work = await this.database.transaction(async (tx) => {
      const id = await this.queue.enqueue(tx, { kind: 'likeness', data: to, personName: act.actor.name });
      await this.writes.tell(tx, `work:${id}`);
      return id;
    });
    return { work };
  }

  /** What a comparison in the background has come to. */
  async likenessOf(work: string): Promise<SimilarAnswer> {
    const view = await this.works.one(work);
    if (view.kind !== 'likeness') throw notFound('such comparison');
    if (view.problem !== null) throw new Problem(409, 'Not compared', view.problem);
    if (view.state !== 'done') return { work };
    return { entries: await this.shown((view.result?.['ranked'] ?? []) as Ranked[]) };
  }

  private async shown(ranked: readonly Ranked[]): Promise<ArchiveEntry[]> {
    const found = new Map((await this.records.byKeys(ranked.map((r) => r.key))).map((e) => [e.key, e]));
    return ranked.flatMap(({ key, ...more }) => {
      const entry = found.get(key);
      return entry ? [{ ...entry, ...more }] : [];
    });
  }

  /** The winding that others are compared with. */
  private async compared(body: z.output<typeof similarBody>): Promise<WorkData['likeness']> {
    if ('key' in body) {
      const [found] = await this.records.byKeys([body.key]);
      if (!found) throw notFound(`archive record ${body.key}`);
      return {
        record: found.record,
        nameplate: plateOfPart(nameplateSchema.parse(found.nameplate), found.part),
        without: body.key,
        rail: PARTS[found.part].rail,
      };
    }
    const settings = await this.shop.settings();
    const row = await this.read.row(body.number, this.database.tables);
    return {
      record: readWindingRecord(body.typed, defaultsOf(settings)).record,
      nameplate: plateOfPart(row.nameplate, body.part),
      without: `job/${body.number}/${body.part}`,
      rail: PARTS[body.part].rail,
    };
  }

  /** Keeps old records; all or none. A row that cannot be right names its line. A long table is read in the background. */
  async bring(act: Act, body: z.output<typeof archiveImportBody>): Promise<BroughtAnswer> {
    const { fileName, rows } = body;
    const personName = act.actor.name;
    const summary = `${rows.length} old winding records from ${fileName}`;
    const after = { fileName, rows: rows.length };
    if (rows.length > BROUGHT_AT_ONCE)
      return this.writes.run(act, async ({ tx, audit, tell }) => {
        const work = await this.queue.enqueue(tx, {
          kind: 'archiveImport',
          data: { fileName, rows, personName },
          personName,
        });
        await audit({ action: 'archive.ask', summary: `${summary}, to be read in the background`, after });
        await tell(`work:${work}`);
        return { work };
      });
    const { values, problems } = readOldRecords(rows, await this.shop.settings(), { fileName, personName, at: act.at });
    if (problems.length > 0) throw badForm(problems);
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      await this.records.add(tx, values);
      await audit({ action: 'archive.bring', summary, after });
      await tell('archive');
      return { kept: values.length };
    });
  }
}
