import type { AuditView, SearchHit } from '@norther/contracts';
import { Controller, Get, Inject, Param, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { Database } from '../database/database.ts';
import { ReadJob } from '../job/readJob.ts';
import { SearchRepository } from './searchRepository.ts';

/** Events of one job that are shown. */
const MOST_EVENTS = 500;

@ApiTags('search')
@Controller('api')
export class SearchController {
  readonly database: Database;
  readonly read: ReadJob;
  readonly found: SearchRepository;
  constructor(
    @Inject(Database) database: Database,
    @Inject(ReadJob) read: ReadJob,
    @Inject(SearchRepository) found: SearchRepository,
  ) {
    this.database = database;
    this.read = read;
    this.found = found;
  }

  /** One search from anywhere: job number (also as scanned from a label), what it is, customer, serial, maker, type. */
  @Get('search')
  async search(@Query('q') q?: string): Promise<SearchHit[]> {
    const words = (q ?? '').trim().replace(/^norther:job:/i, '');
    if (words === '') return [];
    const rows = await this.found.jobs(words);
    return rows.map((r) => ({
      kind: 'job' as const,
      number: r.number,
      title: `${r.number} · ${r.what}`,
      detail: [r.customer, r.serial ? `serial ${r.serial}` : '', r.closedAt ? 'left the house' : 'in the house']
        .filter(Boolean)
        .join(' · '),
    }));
  }

  @Get('jobs/:number/history')
  async history(@Param('number') number: string): Promise<AuditView[]> {
    const row = await this.read.row(number, this.database.tables);
    const events = await this.found.events(row.id, MOST_EVENTS);
    return events.map((e) => ({
      id: String(e.id),
      at: e.at.toISOString(),
      person: e.personName,
      action: e.action,
      summary: e.summary,
      before: e.before,
      after: e.after,
    }));
  }
}
