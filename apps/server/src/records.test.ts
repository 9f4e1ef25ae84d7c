import { DEMO_JOBS } from './demo/demoJobs.ts';
import { partOf } from './testing/partOf.ts';
import { demo } from './testing/demoNumber.ts';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import pg from 'pg';
import { addressOf, client, makeDatabase, serve, startServer, type Client, type TestServer } from './testing/server.ts';

let server: TestServer;
let winder: Client;
let foreman: Client;
let admin: Client;
beforeAll(async () => {
  server = await startServer('norther_records', 'demo');
  [winder, foreman, admin] = (await Promise.all(['ines', 'odd', 'liv'].map((n) => server.as(n)))) as [
    Client,
    Client,
    Client,
  ];
}, 120_000);
afterAll(() => server.stop());

const job = (n: string): string => demo(Number(n));

const intake = (serial: string, plate: Record<string, string> = {}, customerName = 'Sound Ferries') => ({
  customerName,
  what: 'Twin',
  route: 'ac_random_rewind',
  impregnation: 'dip',
  priority: 'ordinary',
  nameplate: { outputW: '4 kW', voltagesV: '400', frequencyHz: '50', speedRpm: '1440', serial, ...plate },
  intake: { came: 'whole motor', quantity: 1, fitted: [] },
});

describe('a visit keeps what was true when it came in', () => {
  it('a new visit of the same serial number changes nothing of an earlier one, closed or not', async () => {
    const first = (await winder('POST', 'jobs', intake('SAME-1'))).body.number as string;
    const before = (await winder('GET', `jobs/${first}`)).body;
    const second = (await winder('POST', 'jobs', intake('same-1', { outputW: '7.5 kW', currentsA: '15' }))).body
      .number as string;
    const after = (await winder('GET', `jobs/${first}`)).body;
    expect(after).toEqual(before);
    expect((await winder('GET', `jobs/${second}`)).body.nameplate.outputW).toBe(7500);
    const { body: visits } = await winder('GET', 'visits?serial=SAME-1');
    expect(visits.map((v: { number: string }) => v.number).sort()).toEqual([first, second].sort());
    const closed = (await winder('GET', `jobs/${job('0001')}`)).body;
    expect(closed.closedAt).not.toBeNull();
    await winder('POST', 'jobs', intake(closed.serial, { outputW: '99 kW' }, closed.customer));
    expect((await winder('GET', `jobs/${job('0001')}`)).body).toEqual(closed);
  });
  it('a correction of one visit leaves the other its nameplate, and its event holds all that was', async () => {
    const a = (await winder('POST', 'jobs', intake('SAME-2'))).body.number as string;
    const b = (await winder('POST', 'jobs', intake('SAME-2'))).body.number as string;
    const other = (await winder('GET', `jobs/${b}`)).body;
    const { body: now } = await winder('GET', `jobs/${a}`);
    const change = { ...intake('SAME-2X', { outputW: '5.5 kW' }, 'Valley Dairy'), version: now.version };
    expect((await winder('PUT', `jobs/${a}`, change)).body.nameplate.outputW).toBe(5500);
    expect((await winder('GET', `jobs/${b}`)).body).toEqual(other);
    const { body: history } = await winder('GET', `jobs/${a}/history`);
    const event = history.find((e: { action: string }) => e.action === 'job.change');
    for (const field of Object.keys(event.after))
      if (field !== 'version') expect(event.before, field).toHaveProperty(field);
    expect(event.before).toMatchObject({
      customerName: 'Sound Ferries',
      nameplate: { serial: 'SAME-2', outputW: '4 kW' },
    });
  });
  it('two intakes of one serial number at once give one motor', async () => {
    const made = await Promise.all(
      Array.from({ length: 8 }, (_, i) => winder('POST', 'jobs', intake(i % 2 ? 'RACE-1' : 'race-1'))),
    );
    expect(made.map((m) => m.status)).toEqual(made.map(() => 201));
    const { rows } = await server.pool.query(`select count(*)::int as n from motor where lower(serial) = 'race-1'`);
    expect(rows[0]).toEqual({ n: 1 });
  });
});

describe('order', () => {
  it('work that runs while something before it fails goes to recheck at its finish, and a name clears it', async () => {
    const number = (await winder('POST', 'jobs', intake('ORDER-1'))).body.number as string;
    const start = (code: string, more: object = { override: { reason: 'rush' } }) =>
      foreman('POST', `jobs/${number}/steps/${code}/start`, more);
    const finish = (code: string, typed: object) => foreman('POST', `jobs/${number}/steps/${code}/finish`, { typed });
    const state = async (code: string) =>
      (await winder('GET', `jobs/${number}`)).body.detailSteps.find((s: { code: string }) => s.code === code).state;
    // MEC runs while DIS, before it, fails
    expect((await start('DIS')).status).toBe(200);
    expect((await start('MEC')).status).toBe(200);
    expect((await finish('DIS', { matchMarks: 'no', leadSide: 'right' })).body.verdict).toBe('fail');
    const done = await finish('MEC', { fits: 'inside the table' });
    expect(done.status).toBe(200);
    expect(await state('MEC')).toBe('recheck');
    expect((await foreman('POST', `jobs/${number}/steps/MEC/sign`, { reason: 'looked at it again' })).status).toBe(200);
    expect(await state('MEC')).toBe('passed');
  });
  it('the same plan asked for twice at once is released once', async () => {
    const { body: j } = await foreman('GET', `jobs/${job('0013')}`);
    const release = () =>
      foreman('POST', `jobs/${job('0013')}/winding/release`, { revision: partOf(j).found.revision, planRevision: 0 });
    const both = await Promise.all([release(), release(), release()]);
    expect(both.map((r) => r.status).sort()).toEqual([201, 409, 409]);
    const again = await foreman('POST', `jobs/${job('0013')}/winding/release`, { revision: partOf(j).found.revision });
    expect([again.status, again.body.detail]).toEqual([409, expect.stringMatching(/released already, by Odd/)]);
  });
  it('the floor lists every motor in the house, however many', async () => {
    const { rows } = await server.pool.query<{ id: string; motor_id: string; customer_id: string }>(
      'select motor_id, customer_id from job limit 1',
    );
    await server.pool.query(
      `insert into job (number, motor_id, customer_id, nameplate_typed, nameplate, read_with, what, came, intake, route, impregnation, priority, closed_at)
       select 'M-' || g, $1, $2, '{}', '{}', '{}', 'Many', 'stator only', '{}', 'overhaul', 'dip', 'ordinary', case when g > 450 then now() end
       from generate_series(1, 900) g`,
      [rows[0]?.motor_id, rows[0]?.customer_id],
    );
    const open = await winder('GET', 'jobs');
    expect(open.body.filter((j: { number: string }) => j.number.startsWith('M-'))).toHaveLength(450);
    const closed = await winder('GET', 'jobs?closed=yes');
    expect(Number(closed.headers.get('x-total-count'))).toBeGreaterThan(449);
    expect(closed.body.length).toBeLessThanOrEqual(400);
  });
});

describe('stock', () => {
  it('brings back no more than was used, and takes nothing from quarantine', async () => {
    const { body: lot } = await winder('POST', 'stock', {
      lot: 'K-1',
      what: { kind: 'wire', bareM: 0.0009, label: '0.9', grade: '2', material: 'copper' },
      unit: 'kg',
      quantity: 10,
    });
    const enter = (kind: string, quantity: number) =>
      winder('POST', `stock/${lot.id}/entries`, { kind, quantity, reason: 'test' });
    expect((await enter('returned', 0.1)).body).toMatchObject({ field: 'quantity' });
    expect((await enter('used', 3)).status).toBeLessThan(300);
    expect((await enter('returned', 3.1)).body.detail).toMatch(/Only 3 kg .* not brought back/);
    expect((await enter('returned', 3)).status).toBeLessThan(300);
    expect((await enter('returned', 0.1)).status).toBe(422);
    const { body: now } = await winder('GET', 'stock');
    const version = now.find((l: { lot: string }) => l.lot === 'K-1').version;
    await foreman('PUT', `stock/${lot.id}`, {
      version,
      quarantined: true,
      pricePerUnit: null,
      expires: null,
      note: 'wet',
    });
    expect((await enter('used', 1)).body).toMatchObject({ field: 'kind', detail: expect.stringMatching(/quarantine/) });
    expect((await enter('counted', 9)).status).toBeLessThan(300);
  });
});

describe('guards in the database', () => {
  const KEPT = [
    'customer',
    'motor',
    'job',
    'job_counter',
    'winding_record',
    'archive_record',
    'joint_sheet',
    'failure_record',
    'material_sheet',
    'stock_lot',
    'stock_entry',
    'route_step',
    'step_attempt',
    'attachment',
    'report',
    'person',
    'shop',
    'audit_event',
    'test_run',
    'test_trace',
    'cure_run',
    'balance_run',
    'measurement',
    'trace',
    'trace_chunk',
    'oven_load',
    'oven_part',
    'oven_probe',
    'oven_reading',
    'oven_event',
    'lot_parent',
    'tank',
    'tank_test',
    'vessel_cycle',
    'vessel_part',
    'vessel_event',
    'vessel_signal',
    'wall',
    'fitted_sensor',
    'sensor_reading',
    'route_template',
    'oven_log',
    'balance_session',
    'rotor_family',
    'load_run',
    'balance_entry',
  ];
  it.each(KEPT)('%s: nothing is deleted or truncated, by the owner neither', async (table) => {
    await expect(server.pool.query(`delete from ${table}`)).rejects.toThrow(/kept as written/);
    await expect(server.pool.query(`truncate ${table} cascade`)).rejects.toThrow(/kept as written|kept/);
  });
  it.each([
    ['winding_record', 'person_name = person_name'],
    ['archive_record', 'title = title'],
    ['attachment', 'name = name'],
    ['audit_event', 'summary = summary'],
    ['cure_run', 'verdict = verdict'],
    ['balance_run', 'verdict = verdict'],
    ['stock_entry', 'quantity = quantity'],
    ['measurement', 'value = value'],
    ['trace_chunk', 'count = count'],
    ['oven_reading', 'c = c'],
    ['oven_event', 'note = note'],
    ['lot_parent', 'quantity = quantity'],
    ['tank_test', 'verdict = verdict'],
    ['vessel_part', 'code = code'],
    ['vessel_event', 'note = note'],
    ['vessel_signal', 'value = value'],
    ['sensor_reading', 'verdict = verdict'],
    ['oven_log', 'at = at'],
    ['balance_entry', 'reason = reason'],
  ])('%s is never updated', async (table, set) => {
    await expect(server.pool.query(`update ${table} set ${set}`)).rejects.toThrow(/kept as written/);
  });
  it('a step’s record: what is empty is filled once, what stands is kept', async () => {
    const one = `where id = (select id from step_attempt where finished_at is not null and signed is null limit 1)`;
    for (const set of [
      `typed = '{"a":"b"}'`,
      `verdict = 'pass', reason = 'other'`,
      'finished_at = now()',
      `started_by = 'x'`,
      'typed = null',
      'finished_at = null',
    ])
      await expect(server.pool.query(`update step_attempt set ${set} ${one}`), set).rejects.toThrow(
        /kept as written|null value/,
      );
    const { rows } = await server.pool.query(
      `update step_attempt set signed = '{"by":"x","role":"foreman","at":"2026-11-27T10:00:00Z","meaning":"m","reason":"r"}' ${one} returning id`,
    );
    expect(rows).toHaveLength(1);
    await expect(
      server.pool.query(`update step_attempt set signed = '{"by":"y"}' where id = $1`, [rows[0].id]),
    ).rejects.toThrow(/kept/);
  });
  it('an issued report keeps what it says and its paper', async () => {
    const one = `where id = (select id from report where content is not null limit 1)`;
    for (const set of [`content = 'x'`, `sha256 = 'x'`, `source = '{"a":1}'`, 'revision = 9'])
      await expect(server.pool.query(`update report set ${set} ${one}`), set).rejects.toThrow(/kept as written/);
  });
  it('a reading is only signed, once', async () => {
    await expect(server.pool.query(`update test_run set verdict = 'pass'`)).rejects.toThrow(/kept as written/);
    await expect(
      server.pool.query(`update test_run set signed = '{"a":1}' where signed is not null`),
    ).resolves.toBeDefined();
  });
  it.each(['joint_sheet', 'material_sheet', 'job', 'stock_lot'])('%s only rises in version', async (table) => {
    if (table === 'joint_sheet')
      await server.pool.query(
        `insert into joint_sheet (job_id, part, ticks) select id, 'stator', '{}' from job where closed_at is null limit 1 on conflict do nothing`,
      );
    const where = table === 'job' ? 'where closed_at is null' : '';
    await expect(server.pool.query(`update ${table} set version = version ${where}`)).rejects.toThrow(/higher version/);
    await expect(server.pool.query(`update ${table} set version = version - 1 ${where}`)).rejects.toThrow(
      /higher version/,
    );
  });
  it('a job that left the house is not changed', async () => {
    await expect(
      server.pool.query(`update job set version = version + 1, what = 'x' where closed_at is not null`),
    ).rejects.toThrow(/left the house/);
  });
  it('the running user has no right beyond its work', async () => {
    const app = new pg.Client({ connectionString: addressOf('norther_records', 'runner') });
    await app.connect();
    for (const table of KEPT)
      await expect(app.query(`delete from ${table}`), table).rejects.toThrow(/permission denied/);
    for (const table of ['audit_event', 'cure_run', 'balance_run', 'stock_entry', 'winding_record', 'archive_record'])
      await expect(app.query(`update ${table} set id = id`), table).rejects.toThrow(/permission denied/);
    await app.end();
  });
});

describe('out and in again', () => {
  it('every job of the demo equals row by row what it was', async () => {
    const { rows: demo } = await server.pool.query<{ number: string }>(
      'select number from job where number = any($1)',
      [Array.from({ length: DEMO_JOBS.length }, (_, i) => job(String(i + 1).padStart(4, '0')))],
    );
    const numbers = demo.map((r) => r.number);
    expect(numbers).toHaveLength(DEMO_JOBS.length);
    await winder('PUT', `jobs/${job('0007')}/joints/stator`, { version: 0, order: 'leads first', asMade: '' });
    await makeDatabase('norther_other');
    const other = await serve('norther_other');
    const stranger = client(other.base);
    const set = await stranger('POST', 'setup', {
      name: 'First',
      signIn: 'first',
      password: 'a-long-password',
      shopName: 'Other',
    });
    const first = client(
      other.base,
      set.headers
        .getSetCookie()
        .map((c) => c.split(';')[0])
        .join('; '),
    );
    for (const number of numbers) {
      const { body: file } = await admin('GET', `jobs/${number}/export.json`);
      const brought = await first('POST', 'import', file);
      expect(brought.body, number).toEqual({ number });
    }
    // ids and links of rows are each shop's own; everything else is the same
    const minus = (columns: string[]) => columns.map((c) => ` - '${c}'`).join('');
    const rows = async (from: TestServer, table: string, columns: string[]) =>
      (
        await from.pool.query(
          `select (to_jsonb(t)${minus(['job_id', 'customer_id', 'motor_id', ...columns])})::text as row
           from ${table} t join job j on j.id = ${table === 'job' ? 't.id' : 't.job_id'} where j.number = any($1)
           ${table === 'audit_event' ? `and t.action <> 'job.import'` : ''} order by 1`,
          [numbers],
        )
      ).rows.map((r: { row: string }) => r.row);
    for (const [table, own] of [
      ['job', ['id', 'version', 'imported_from']],
      ['part', []],
      ['unit', ['id', 'at']],
      ['winding_record', ['id']],
      ['joint_sheet', []],
      ['failure_record', ['id']],
      ['material_sheet', []],
      ['route_step', []],
      ['step_attempt', ['id']],
      ['test_run', ['unit_id']],
      ['cure_run', ['id', 'trace_id']],
      ['trace', ['id']],
      ['measurement', ['id', 'source_id', 'unit_id']],
      ['balance_run', ['id', 'unit_id']],
      ['attachment', ['id']],
      ['report', ['id']],
      ['stock_entry', ['id', 'lot_id']],
      ['audit_event', ['id', 'person_id']],
    ] as const) {
      const was = await rows(server, table, [...own]);
      expect(await rows(other, table, [...own]), table).toEqual(was);
      if (table !== 'attachment') expect(was.length, table).toBeGreaterThan(0);
    }
    const samples = (from: TestServer) =>
      from.pool.query(
        `select j.number, t.what, k.first, k.count, md5(k.packed) as packed, md5(k.overview) as overview
          from trace_chunk k join trace t on t.id = k.trace_id join job j on j.id = t.job_id order by 1, 2, 3, 5`,
      );
    expect((await samples(other)).rows).toEqual((await samples(server)).rows);
    await other.stop();
  }, 120_000);
});
