import type { YieldBy, YieldGroup } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import { Database } from '../database/database.ts';

/** Motors that are named of a group. */
const MOST_NAMED = 50;
/** Groups at most. */
const MOST_GROUPS = 200;

/** What a reading is counted by; `f` is the reading, `j` its visit. */
const NAME: Readonly<Record<YieldBy, string>> = {
  test: `f.kind || ' ' || f.stage`,
  month: `to_char(f.taken_at at time zone $3, 'YYYY-MM')`,
  poles: `coalesce(j.nameplate ->> 'poles', '?')`,
  customer: `c.name`,
  lot: `l.lot`,
};

/** First-pass yield, counted in the database. */
@Injectable()
export class YieldRepository {
  readonly database: Database;
  constructor(@Inject(Database) database: Database) {
    this.database = database;
  }

  /**
   * The first reading of each test, part and stage of a visit; of a corrected one what it was corrected to.
   * @param from @param to days as the shop counts them, both included
   */
  async groups(by: YieldBy, from: string, to: string, timeZone: string): Promise<YieldGroup[]> {
    const { rows } = await this.database.pool.query<YieldGroup>({
      name: `yield-${by}`,
      text: `
        with f as (
          select distinct on (t.job_id, t.part, t.unit_id, t.kind, t.stage) t.job_id, t.kind, t.stage, t.verdict, t.taken_at
          from test_run t
          where not exists (select 1 from test_run s where s.supersedes = t.id)
          order by t.job_id, t.part, t.unit_id, t.kind, t.stage, t.taken_at
        )
        select ${NAME[by]} as name,
          ${by === 'test' ? 'min(f.kind)' : 'null'} as kind, ${by === 'test' ? 'min(f.stage)' : 'null'} as stage,
          count(*)::int as tested, count(*) filter (where f.verdict = 'pass')::int as passed,
          coalesce((array_agg(distinct j.number order by j.number desc) filter (where f.verdict <> 'pass'))[1:${MOST_NAMED}], '{}') as others
        from f join job j on j.id = f.job_id join customer c on c.id = j.customer_id
        ${by === 'lot' ? `join (select distinct job_id, lot_id from stock_entry where kind = 'used') u on u.job_id = j.id join stock_lot l on l.id = u.lot_id` : ''}
        where (f.taken_at at time zone $3)::date between $1::date and $2::date
        group by 1 order by ${by === 'month' ? '1' : "count(*) filter (where f.verdict <> 'pass') desc, 1"}
        limit ${MOST_GROUPS}`,
      values: [from, to, timeZone],
    });
    return rows;
  }
}
