import { Injectable } from '@nestjs/common';
import { sql } from 'drizzle-orm';
import { now } from '../clock/clock.ts';
import type { Transaction } from '../database/tables.ts';

/** How long each is kept, days. */
export const KEPT_DAYS = { keys: 7, failures: 30, drafts: 90, work: 30 } as const;

/** All SQL of pruning. */
@Injectable()
export class PruneRepository {
  async prune(tx: Transaction): Promise<Record<'keys' | 'sessions' | 'failures' | 'drafts' | 'work', number>> {
    const at = now().toISOString();
    const before = (days: number) => sql`${at}::timestamptz - make_interval(days => ${days})`;
    const gone = async (statement: ReturnType<typeof sql>): Promise<number> =>
      (await tx.execute(statement)).rowCount ?? 0;
    return {
      keys: await gone(sql`delete from idempotency_key where at < ${before(KEPT_DAYS.keys)}`),
      sessions: await gone(sql`delete from session where expires_at < ${at}::timestamptz`),
      failures: await gone(sql`delete from sign_in_failure where at < ${before(KEPT_DAYS.failures)}`),
      drafts: await gone(sql`delete from draft where at < ${before(KEPT_DAYS.drafts)}`),
      work: await gone(
        sql`delete from work where state in ('done','failed','cancelled') and ended_at < ${before(KEPT_DAYS.work)}
          and id not in (select id from work where kind = 'backup' and state = 'done' order by ended_at desc limit 1)`,
      ),
    };
  }
}
