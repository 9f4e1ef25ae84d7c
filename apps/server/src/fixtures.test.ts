import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { unpack } from './trace/packing.ts';
import { addressOf, makeDatabase, serve, type TestServer } from './testing/server.ts';

const root = fileURLToPath(new URL('../../..', import.meta.url));
const fixture = join(root, 'apps/server/fixtures/shop-2026-11-27.dump');
const postgres = (tool: string, args: string[]): string => {
  const done = spawnSync(
    'sh',
    ['-c', `exec "$(ls -d /usr/lib/postgresql/*/bin | sort -V | tail -n 1)/${tool}" "$@"`, tool, ...args],
    {
      encoding: 'utf8',
    },
  );
  if (done.status !== 0) throw new Error(done.stderr);
  return done.stdout;
};

/** A shop as it was when the fixture was made, without any of what came later. */
async function asItWas(name: string): Promise<pg.Client> {
  await makeDatabase(name);
  postgres('pg_restore', [
    '--no-owner',
    '--no-privileges',
    '--clean',
    '--if-exists',
    `--dbname=${addressOf(name, 'owner')}`,
    fixture,
  ]);
  const client = new pg.Client({ connectionString: addressOf(name, 'owner') });
  await client.connect();
  return client;
}

/** Columns that came later and stand at their defaults, and those that moved, by table. */
const MOVED: Readonly<Record<string, { gone?: string[]; added?: string[] }>> = {
  motor: { gone: ['nameplate', 'nameplate_typed', 'read_with'] },
  job: { added: ['family', 'customer_id', 'nameplate', 'nameplate_typed', 'read_with', 'own_route'] },
  cure_run: { gone: ['times_min', 'channels'], added: ['trace_id', 'part', 'code'] },
  winding_record: { gone: ['record', 'part'], added: ['record', 'part'] },
  archive_record: { gone: ['record'], added: ['record'] },
  joint_sheet: { gone: ['part'], added: ['part'] },
  material_sheet: { gone: ['part'], added: ['part'] },
  stock_entry: { gone: ['part'], added: ['part'] },
  test_run: { added: ['part', 'unit_id', 'override', 'lesser'] },
  balance_run: { added: ['part', 'unit_id'] },
  step_attempt: { added: ['unit_id'] },
  report: { added: ['source'] },
};

async function rowsOf(client: pg.Client, table: string, but: readonly string[]): Promise<string[]> {
  const minus = but.map((c) => ` - '${c}'`).join('');
  const { rows } = await client.query<{ row: string }>(
    `select (to_jsonb(t)${minus})::text as row from "${table}" t order by 1`,
  );
  return rows.map((r) => r.row);
}

let was: pg.Client;
let is: pg.Client;
let server: TestServer;
beforeAll(async () => {
  was = await asItWas('norther_was');
  await makeDatabase('norther_is');
  const put = spawnSync(process.execPath, [join(root, 'scripts/restore.mjs'), fixture], {
    cwd: root,
    encoding: 'utf8',
    env: {
      ...process.env,
      DATABASE_URL: addressOf('norther_is', 'runner'),
      DATABASE_OWNER_URL: addressOf('norther_is', 'owner'),
    },
  });
  if (put.status !== 0) throw new Error(put.stderr);
  is = new pg.Client({ connectionString: addressOf('norther_is', 'owner') });
  await is.connect();
  server = await serve('norther_is');
}, 120_000);
afterAll(async () => {
  await was.end();
  await is.end();
  await server.stop();
});

describe('the shop of 2026-11-27 restored into this version', () => {
  it('holds every row of every table as it was', async () => {
    const { rows: tables } = await was.query<{ name: string }>(
      `select tablename as name from pg_tables where schemaname = 'public' order by 1`,
    );
    expect(tables.length).toBeGreaterThan(20);
    for (const { name } of tables) {
      const moved = MOVED[name] ?? {};
      expect(await rowsOf(is, name, moved.added ?? []), name).toEqual(await rowsOf(was, name, moved.gone ?? []));
    }
  });
  it('gives each visit the nameplate and customer its motor had', async () => {
    const before = await was.query(
      `select j.number, m.customer_id, m.nameplate, m.nameplate_typed, m.read_with from job j join motor m on m.id = j.motor_id order by 1`,
    );
    const after = await is.query(
      'select number, customer_id, nameplate, nameplate_typed, read_with from job order by 1',
    );
    expect(after.rows).toEqual(before.rows);
    expect(after.rows.length).toBe(19);
  });
  it('every winding record is of its kind and hangs on its part, and says what it said', async () => {
    const text = 'select id, job_id, part, record from winding_record order by id';
    const before = (await was.query(text)).rows;
    const after = (await is.query(text)).rows;
    expect(after.length).toBe(before.length);
    const kinds = new Set<string>();
    after.forEach(({ part, record: { kind, ...said } }, i) => {
      const { part: partBefore, record: old } = before[i];
      kinds.add(kind);
      expect(part).toBe(partBefore === 'rotor' ? 'wound-rotor' : partBefore);
      const { kind: kindBefore = 'three-phase', ...saidBefore } = old;
      expect([kind, said]).toEqual([kindBefore, saidBefore]);
    });
    expect([...kinds].sort()).toEqual(['single-phase', 'three-phase', 'two-speed']);
    // each visit has its parts, and whatever was recorded hangs on one of them
    const { rows: parts } = await is.query(
      `select j.came, array_agg(p.kind order by p.kind) as kinds from job j join part p on p.job_id = j.id group by j.id, j.came`,
    );
    expect(parts.length).toBe(19);
    for (const { came, kinds: has } of parts) {
      expect(has.includes('stator')).toBe(came !== 'rotor only');
      if (came === 'stator only') expect(has).toEqual(['stator']);
      else expect(has.some((k: string) => k.endsWith('rotor'))).toBe(true);
    }
    const { rows: balanced } = await is.query('select distinct part from balance_run');
    expect(balanced.every((r) => r.part.endsWith('rotor'))).toBe(true);
  });
  it('what was measured before can be compared: a row for each quantity, as the documents say', async () => {
    const { rows } = await is.query<{ source: string; n: number }>(
      'select source, count(*)::int as n from measurement group by 1 order by 1',
    );
    expect(rows.map((r) => r.source)).toEqual(['balance', 'step', 'test']);
    const { rows: tests } = await is.query<{ value: number; said: number; what: string; typed: string }>(
      `select m.value, (t.values->>'ab')::float8 as said, m.what, m.typed from measurement m join test_run t on t.id = m.source_id
        where m.what = 'windingResistance.ab'`,
    );
    const { rows: counted } = await is.query(
      `select count(*)::int as n from test_run where kind = 'windingResistance'`,
    );
    expect(tests.length).toBe(counted[0].n);
    for (const t of tests) {
      expect(t.value).toBe(t.said);
      expect(t.typed).toMatch(/Ω$/);
    }
    const { rows: derived } = await is.query(
      `select m.value, (t.result->'values'->>'correctedMeanOhm')::float8 as said from measurement m join test_run t on t.id = m.source_id
        where m.what = 'windingResistance.correctedMeanOhm'`,
    );
    expect(derived.length).toBeGreaterThan(5);
    for (const d of derived) expect(d.value).toBe(d.said);
    const { rows: families } = await is.query('select count(*)::int as n from job where family is null');
    expect(families[0]).toEqual({ n: 0 });
    // done once: a second start adds nothing
    const before = await is.query('select count(*)::int as n, max(id)::int as last from measurement');
    const again = await serve('norther_is');
    await again.stop();
    expect((await is.query('select count(*)::int as n, max(id)::int as last from measurement')).rows).toEqual(
      before.rows,
    );
  });
  it('every sample of every oven log is as it was, now in chunks', async () => {
    const { rows: before } = await was.query(
      'select id, file_name, times_min as "timesMin", channels from cure_run order by id',
    );
    expect(before.length).toBeGreaterThan(0);
    for (const b of before) {
      const { rows: chunks } = await is.query(
        `select k.packed, k.count, t.channels from cure_run c join trace t on t.id = c.trace_id join trace_chunk k on k.trace_id = t.id
          where c.id = $1 order by k.first`,
        [b.id],
      );
      const { x, values } = unpack(chunks, b.channels.length);
      expect(Array.from(x)).toEqual(b.timesMin);
      b.channels.forEach((c: { name: string; role: string; valuesC: (number | null)[] }, i: number) => {
        expect(chunks[0].channels[i]).toEqual({ name: c.name, unit: '°C', role: c.role });
        expect(Array.from(values[i] ?? [])).toEqual(c.valuesC.map((v) => v ?? NaN));
      });
    }
  });
  it('opens: floor, every motor, its papers', async () => {
    const viewer = await server.as('per');
    const { body: open } = await viewer('GET', 'jobs');
    const { body: closed } = await viewer('GET', 'jobs?closed=yes');
    for (const { number } of [...open, ...closed]) {
      const { status, body } = await viewer('GET', `jobs/${number}`);
      expect(status, number).toBe(200);
      for (const r of body.reports)
        expect((await viewer('GET', `reports/${r.id}`)).headers.get('content-type')).toBe('application/pdf');
      for (const c of body.cures) {
        const trace = await viewer('GET', `traces/${c.trace.id}`);
        expect([trace.status, trace.body.x.length > 2]).toEqual([200, true]);
      }
    }
  });
});

describe('motors of before', () => {
  it('two motors made of one serial number come together, with the visits of both', async () => {
    const client = await asItWas('norther_twins');
    await client.query(`
      with c as (select customer_id from motor where serial = 'MW-2207'),
        m as (insert into motor (customer_id, serial, nameplate_typed, nameplate, read_with)
          select customer_id, 'mw-2207', '{"outputW":"9"}', '{"outputW":9000}', '{}' from c returning id)
      insert into job (number, motor_id, what, came, intake, route, impregnation, priority)
        select '19-0001', id, 'Mooring winch', 'stator only', '{}', 'ac_random_rewind', 'dip', 'ordinary' from m`);
    await client.end();
    const twins = await serve('norther_twins');
    const { rows } = await twins.pool.query(
      `select count(distinct motor_id)::int as motors, count(*)::int as visits from job j where nameplate->>'serial' = 'MW-2207' or number = '19-0001'`,
    );
    expect(rows[0]).toEqual({ motors: 1, visits: 2 });
    const plates = await twins.pool.query(`select nameplate->>'outputW' as w from job where number = '19-0001'`);
    expect(plates.rows[0]).toEqual({ w: '9000' });
    await twins.stop();
  }, 60_000);
});
