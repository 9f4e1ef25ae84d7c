import { Inject, Injectable } from '@nestjs/common';
import { now } from '../clock/clock.ts';
import { type Control, type Effect, type WorkData, type WorkHandler, WorkProblem } from '../queue/kinds.ts';
import { Shop } from '../shop/shop.ts';
import { ArchiveRepository } from './archiveRepository.ts';
import { readOldRecords, type OldRecord } from './oldRecords.ts';

/** Rows read between two words of progress. */
const AT_ONCE = 250;
/** Rows a refusal names. */
const MOST_NAMED = 5;

/** Reads a long table of old records in the background and keeps it, all or none. */
@Injectable()
export class ArchiveImport implements WorkHandler<'archiveImport'> {
  readonly kind = 'archiveImport';
  readonly shop: Shop;
  readonly records: ArchiveRepository;
  constructor(@Inject(Shop) shop: Shop, @Inject(ArchiveRepository) records: ArchiveRepository) {
    this.shop = shop;
    this.records = records;
  }

  async prepare({ fileName, rows, personName }: WorkData['archiveImport'], control: Control): Promise<Effect> {
    const settings = await this.shop.settings();
    const at = now();
    const values: OldRecord[] = [];
    const problems: string[] = [];
    for (let i = 0; i < rows.length; i += AT_ONCE) {
      const read = readOldRecords(rows.slice(i, i + AT_ONCE), settings, { fileName, personName, at });
      values.push(...read.values);
      problems.push(...read.problems.map((p) => p.message));
      await control.progress(Math.min(1, (i + AT_ONCE) / rows.length));
    }
    if (problems.length > 0) {
      const more = problems.length - MOST_NAMED;
      throw new WorkProblem(
        `Nothing was kept. ${problems.slice(0, MOST_NAMED).join(' ')}${more > 0 ? ` And ${more} more.` : ''}`,
      );
    }
    return async (tx) => {
      await this.records.add(tx, values);
      return { result: { kept: values.length }, tell: 'archive' };
    };
  }
}
