import autocannon from 'autocannon';
import pg from 'pg';
import { inDemoShop } from './shop.ts';
import type { Figure } from './figure.ts';

const USERS = 50;
const SECONDS = 6;

/** Requests per second of the raw driver doing what one request does: session look-up and the statements of the call. */
async function rawRate(
  url: string,
  statements: readonly { name: string; text: string; values: unknown[] }[],
): Promise<number> {
  const pool = new pg.Pool({ connectionString: url, max: 20 });
  const end = Date.now() + SECONDS * 1000;
  let done = 0;
  await Promise.all(
    Array.from({ length: USERS }, async () => {
      while (Date.now() < end) {
        for (const s of statements) await pool.query(s);
        done += 1;
      }
    }),
  );
  await pool.end();
  return done / SECONDS;
}

/** Fills the records with closed visits, so that the house stands in a large archive. */
async function fill(client: pg.Client, motors: number): Promise<void> {
  const { rows } = await client.query<{ n: number }>('select count(*)::int as n from job');
  const add = motors - (rows[0]?.n ?? 0);
  if (add <= 0) return;
  await client.query(
    `with c as (select id from customer limit 1),
      m as (insert into motor (customer_id, serial)
        select c.id, 'ARC-' || g || '-' || $2 from c, generate_series(1, $1::int) g returning id, serial, customer_id)
      insert into job (number, motor_id, customer_id, nameplate_typed, nameplate, read_with, what, came, intake, route, impregnation, priority, taken_in_at, closed_at)
      select 'A' || serial, id, customer_id, '{}', '{"outputW": 4000, "poles": 4}', '{}', 'Archived motor', 'whole motor', '{"came":"whole motor"}', 'ac_random_rewind', 'dip', 'ordinary', now() - interval '900 days', now() - interval '880 days' from m`,
    [add, motors],
  );
  await client.query(
    `insert into route_step (job_id, code, state) select j.id, c.code, 'passed' from job j, (select distinct code from route_step) c where j.number like 'A%' on conflict do nothing`,
  );
  await client.query('vacuum analyze');
}

/** List, detail and floor call against their budgets. */
export async function benchApi(): Promise<Figure[]> {
  return inDemoShop(async ({ origin, url: database, ownerUrl }) => {
    const base = `${origin}/api`;
    const client = new pg.Client({ connectionString: ownerUrl });
    try {
      await client.connect();
      const signed = await fetch(`${base}/session`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: '{"signIn":"odd","password":"harbour-2026"}',
      });
      const cookie = signed.headers
        .getSetCookie()
        .map((c) => c.split(';')[0])
        .join('; ');
      const load = async (url: string, others: readonly string[] = []) => {
        const r = await autocannon({
          url: `${base}/${url}`,
          connections: USERS,
          duration: SECONDS,
          headers: { cookie },
          ...(others.length > 0 ? { requests: others.map((path) => ({ path: `/api/${path}` })) } : {}),
        });
        if (r.non2xx > 0) throw new Error(`${url}: ${r.non2xx} answers were no success`);
        return { rate: r.requests.average, p95: r.latency.p97_5 };
      };
      const { rows } = await client.query<{ token_hash: string }>('select token_hash from session limit 1');
      const session = {
        name: 's',
        text: 'select p.* from session s join person p on p.id = s.person_id where s.token_hash = $1 and s.expires_at > now() and p.active',
        values: [rows[0]?.token_hash],
      };
      const list = {
        name: 'l',
        text: `select j.*, c.name as customer_name, (select json_agg(json_build_array(s.code, s.state, s.changed_at, exists(select 1 from step_attempt a where a.job_id = s.job_id and a.code = s.code and a.override is not null))) from route_step s where s.job_id = j.id) as steps, exists(select 1 from material_sheet ms where ms.job_id = j.id and ms.part = 'stator' and ms.lists is not null) as lists_made from job j join customer c on c.id = j.customer_id where j.closed_at is null order by j.closed_at desc nulls last, j.taken_in_at`,
        values: [],
      };
      const { rows: jobs } = await client.query<{ id: string }>(`select id from job where number = '26-0007'`);
      const of = (name: string, text: string, value = jobs[0]?.id) => ({ name, text, values: [value] });
      const detail = [
        of('d0', `select lists is null from material_sheet where job_id = $1 and part = 'stator'`),
        of('d1', `select * from job where id = $1`),
        of('d3', 'select c.* from customer c join job j on j.customer_id = c.id where j.id = $1'),
        of('d4', 'select * from route_step where job_id = $1'),
        of('d5', 'select * from step_attempt where job_id = $1 order by number'),
        of('d6', 'select * from test_run where job_id = $1 order by taken_at'),
        of('d7', 'select * from cure_run where job_id = $1 order by at desc'),
        of('d8', 'select * from balance_run where job_id = $1'),
        of('d9', 'select id, name, media_type, bytes, person_name, at from attachment where job_id = $1'),
        of('d10', 'select id, revision, person_name, at, sha256 from report where job_id = $1'),
        of('d11', 'select * from winding_record where job_id = $1 order by revision desc'),
      ];
      await fill(client, 200);
      const smallFloor = await load('jobs');
      const listRaw = await rawRate(database, [session, list]);
      const detailLoad = await load('jobs/26-0007');
      const open = await client.query<{ number: string }>('select number from job where closed_at is null');
      // everybody goes through the house motor by motor
      const inTurn = await load(
        'jobs',
        open.rows.map((r) => `jobs/${r.number}`),
      );
      const detailRaw = await rawRate(database, [session, ...detail]);
      await fill(client, 20_000);
      const largeFloor = await load('jobs');
      const figure = (name: string, l: { rate: number; p95: number }, raw: number, least: number): Figure => ({
        name: `${name}, ${USERS} users`,
        value: `${l.rate.toFixed(0)} requests/s, p97.5 ${l.p95} ms; raw driver ${raw.toFixed(0)}/s`,
        ratio: l.rate / raw,
        must: `at least ${least} of the raw driver`,
        holds: l.rate / raw >= least,
      });
      const grown = smallFloor.rate / largeFloor.rate;
      return [
        figure('API list (floor)', smallFloor, listRaw, 0.6),
        figure('API detail (one motor)', detailLoad, detailRaw, 0.6),
        figure('API detail (every motor of the house in turn)', inTurn, detailRaw, 0.3),
        {
          name: 'floor call, 200 against 20,000 motors in the records',
          value: `${smallFloor.rate.toFixed(0)} -> ${largeFloor.rate.toFixed(0)} requests/s`,
          ratio: grown,
          must: 'at most 1.5 times',
          holds: grown <= 1.5,
        },
      ];
    } finally {
      await client.end().catch(() => undefined);
    }
  });
}
