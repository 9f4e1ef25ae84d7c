import type { AuditView, SearchHit } from '@norther/contracts';
import { Controller, Get, Inject, Param, Query } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { desc, eq } from 'drizzle-orm';
import { Database } from '../database/database.ts';
import { auditEvent } from '../database/schema.ts';
import { ReadJob } from '../job/readJob.ts';

/** Word for word as the index \`job_search\` has it, so that it is used. */
const SEARCHED = `(j.number || E'\\n' || j.what || E'\\n' || coalesce(j.nameplate->>'serial', '') || E'\\n' || coalesce(j.nameplate->>'manufacturer', '') || E'\\n' || coalesce(j.nameplate->>'typeMark', ''))`;

@ApiTags('search')
@Controller('api')
export class SearchController {
  readonly database: Database;
  readonly read: ReadJob;
  constructor(@Inject(Database) database: Database, @Inject(ReadJob) read: ReadJob) {
    this.database = database;
    this.read = read;
  }

  /** One search from anywhere: job number (also as scanned from a label), what it is, customer, serial, maker, type. */
  @Get('search')
  async search(@Query('q') q?: string): Promise<SearchHit[]> {
    const words = (q ?? '').trim().replace(/^norther:job:/i, '');
    if (words === '') return [];
    const like = `%${words.replaceAll(/[%_\\]/g, '\\$&')}%`;
    const { rows } = await this.database.pool.query<{
      number: string;
      what: string;
      customer: string;
      serial: string | null;
      closed_at: Date | null;
      exact: boolean;
    }>({
      name: 'search',
      text: `select j.number, j.what, c.name as customer, j.nameplate->>'serial' as serial, j.closed_at, (lower(j.number) = lower($2)) as exact
        from job j join customer c on c.id = j.customer_id
        where ${SEARCHED} ilike $1 or j.customer_id = any(array(select id from customer where name ilike $1))
        order by exact desc, j.closed_at desc nulls first, j.taken_in_at desc limit 20`,
      values: [like, words],
    });
    return rows.map((r) => ({
      kind: 'job' as const,
      number: r.number,
      title: `${r.number} · ${r.what}`,
      detail: [r.customer, r.serial ? `serial ${r.serial}` : '', r.closed_at ? 'left the house' : 'in the house']
        .filter(Boolean)
        .join(' · '),
    }));
  }

  @Get('jobs/:number/history')
  async history(@Param('number') number: string): Promise<AuditView[]> {
    const row = await this.read.row(number, this.database.tables);
    const events = await this.database.tables
      .select()
      .from(auditEvent)
      .where(eq(auditEvent.jobId, row.id))
      .orderBy(desc(auditEvent.id))
      .limit(500);
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
