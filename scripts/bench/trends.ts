import pg from 'pg';
import { signedIn } from '../../apps/server/src/testing/client.ts';
import { inDemoShop } from './shop.ts';
import type { Figure } from './figure.ts';

const WHAT = 'windingResistance.correctedMeanOhm';

/** The trend of one family among 2,000,000 measurements, through the server and by the raw driver. */
export const benchTrends = (): Promise<Figure[]> =>
  inDemoShop(async ({ origin, url, ownerUrl }) => {
    const owner = new pg.Client({ connectionString: ownerUrl });
    const raw = new pg.Client({ connectionString: url });
    await owner.connect();
    await raw.connect();
    try {
      // 20,000 visits of twenty families, a hundred measurements each
      await owner.query(`
        with c as (select id from customer limit 1),
          m as (insert into motor (customer_id, serial) select c.id, 'TR-' || g from c, generate_series(1, 20000) g returning id, serial, customer_id)
        insert into job (number, motor_id, customer_id, nameplate_typed, nameplate, read_with, what, came, intake, route, impregnation, priority, taken_in_at, closed_at, family)
        select serial, id, customer_id, '{}', '{"outputW": 4000, "poles": 4}', '{}', 'Archived motor', 'whole motor', '{"came":"whole motor"}', 'ac_random_rewind', 'dip', 'ordinary',
          now() - interval '1 hour' * substr(serial, 4)::int, now(), 'family ' || substr(serial, 4)::int % 20 from m`);
      await owner.query(`
        insert into measurement (job_id, source, source_id, what, value, unit, stage, at, person_name, verdict)
        select j.id, 'test', gen_random_uuid(), (array['${WHAT}', 'windingResistance.ab', 'insulationResistance.r1min', 'noLoadRun.i1', 'noLoadRun.power'])[1 + g % 5],
          random(), 'Ω', (array['IN','AC','VC','FI'])[1 + g % 4], j.taken_in_at + interval '1 minute' * g, 'Ada', 'pass'
        from job j, generate_series(1, 100) g where j.number like 'TR-%'`);
      await owner.query('vacuum analyze');
      const { rows } = await owner.query<{ n: string }>('select count(*) as n from measurement');
      const foreman = await signedIn(`${origin}/api`, 'odd');
      const time = async (work: (i: number) => Promise<number>) => {
        const times: number[] = [];
        let read = 0;
        for (let i = 0; i < 40; i++) {
          const begun = performance.now();
          read = await work(i);
          if (i >= 5) times.push(performance.now() - begun);
        }
        return { ms: times.sort((a, b) => a - b)[Math.floor(times.length / 2)] ?? 0, read };
      };
      const through = await time(async (i) => {
        const { status, body } = await foreman('GET', `jobs/TR-${1 + i}/trend?what=${WHAT}`);
        if (status !== 200) throw new Error(JSON.stringify(body));
        return body.own.length + body.others.value.length;
      });
      const driver = await time(async (i) => {
        const found = await raw.query({
          name: 'raw',
          text: `select j.number, m.at, m.value, m.bound, m.stage, m.verdict from (select id, number from job where family = $1 order by taken_in_at desc limit 500) j
            cross join lateral (select * from measurement m where m.job_id = j.id and m.what = $2 order by m.at desc limit 10) m`,
          values: [`family ${i % 20}`, WHAT],
        });
        return found.rows.length;
      });
      return [
        {
          name: `trend of one family among ${Number(rows[0]?.n).toLocaleString('en')} measurements`,
          value: `${through.ms.toFixed(1)} ms for ${through.read} values; raw driver ${driver.ms.toFixed(1)} ms for ${driver.read} (meant: under 50 ms)`,
          ratio: through.ms / driver.ms,
          must: 'at most 5 times the raw driver',
          holds: through.ms <= 5 * driver.ms && through.read >= 4000 && through.read <= 5000 + 100,
        },
      ];
    } finally {
      await owner.end();
      await raw.end();
    }
  });
