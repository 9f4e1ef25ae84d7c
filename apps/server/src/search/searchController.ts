import type { AuditView, SearchHit } from '@norther/contracts';
import { Controller, Delete, Get, HttpCode, Inject, Param, Put, Query, Req, Body } from '@nestjs/common';
import { ApiTags } from '@nestjs/swagger';
import { and, desc, eq } from 'drizzle-orm';
import { Needs, type Request } from '../auth/guard.ts';
import { Database } from '../database/database.ts';
import { auditEvent, draft } from '../database/schema.ts';
import { ReadJob } from '../job/readJob.ts';
import { badField } from '../problem/problem.ts';

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
        where j.number ilike $1 or j.what ilike $1 or c.name ilike $1 or j.nameplate->>'serial' ilike $1
           or j.nameplate->>'manufacturer' ilike $1 or j.nameplate->>'typeMark' ilike $1
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

  /** Drafts belong to a person: what was typed and not yet recorded. */
  @Get('drafts/:key')
  async draft(
    @Param('key') key: string,
    @Req() request: Request,
  ): Promise<{ body: unknown; at: string } | Record<string, never>> {
    const [row] = await this.database.tables
      .select()
      .from(draft)
      .where(and(eq(draft.personId, request.person?.id ?? ''), eq(draft.key, key)));
    return row ? { body: row.body, at: row.at.toISOString() } : {};
  }

  @Needs('winder')
  @Put('drafts/:key')
  @HttpCode(204)
  async saveDraft(@Param('key') key: string, @Body() body: unknown, @Req() request: Request): Promise<void> {
    if (key.length > 120) throw badField('key', 'This draft has too long a name.');
    if (typeof body !== 'object' || body === null || JSON.stringify(body).length > 200_000)
      throw badField('body', 'This draft is too large.');
    const at = new Date();
    await this.database.tables
      .insert(draft)
      .values({ personId: request.person?.id ?? '', key, body, at })
      .onConflictDoUpdate({ target: [draft.personId, draft.key], set: { body, at } });
  }

  @Needs('winder')
  @Delete('drafts/:key')
  @HttpCode(204)
  async dropDraft(@Param('key') key: string, @Req() request: Request): Promise<void> {
    await this.database.tables
      .delete(draft)
      .where(and(eq(draft.personId, request.person?.id ?? ''), eq(draft.key, key)));
  }
}
