import { Inject, Injectable } from '@nestjs/common';
import { desc, eq } from 'drizzle-orm';
import { Database } from '../database/database.ts';
import { auditEvent } from '../database/schema.ts';

export interface FoundJob {
  number: string;
  what: string;
  customer: string;
  serial: string | null;
  closedAt: Date | null;
}

/** Word for word as the index \`job_search\` has it, so that it is used. */
const SEARCHED = `(j.number || E'\\n' || j.what || E'\\n' || coalesce(j.nameplate->>'serial', '') || E'\\n' || coalesce(j.nameplate->>'manufacturer', '') || E'\\n' || coalesce(j.nameplate->>'typeMark', ''))`;

/** SQL of the search from anywhere and of a job's history. */
@Injectable()
export class SearchRepository {
  readonly database: Database;
  constructor(@Inject(Database) database: Database) {
    this.database = database;
  }

  /** Jobs in which the words stand, an exact number first, those in the house before those that left. */
  async jobs(words: string): Promise<FoundJob[]> {
    const like = `%${words.replaceAll(/[%_\\]/g, '\\$&')}%`;
    const { rows } = await this.database.pool.query<FoundJob>({
      name: 'search',
      text: `select j.number, j.what, c.name as customer, j.nameplate->>'serial' as serial, j.closed_at as "closedAt"
        from job j join customer c on c.id = j.customer_id
        where ${SEARCHED} ilike $1 or j.customer_id = any(array(select id from customer where name ilike $1))
        order by (lower(j.number) = lower($2)) desc, j.closed_at desc nulls first, j.taken_in_at desc limit 20`,
      values: [like, words],
    });
    return rows;
  }

  /** What happened to a job, the newest first. */
  async events(jobId: string, most: number): Promise<(typeof auditEvent.$inferSelect)[]> {
    return this.database.tables
      .select()
      .from(auditEvent)
      .where(eq(auditEvent.jobId, jobId))
      .orderBy(desc(auditEvent.id))
      .limit(most);
  }
}
