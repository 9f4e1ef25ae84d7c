import { mkdtempSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { KEPT_NIGHTS } from '../backup/nightBackup.ts';
import { now } from '../clock/clock.ts';
import { Database } from '../database/database.ts';
import { demo } from '../testing/demoNumber.ts';
import { idle, serve, startServer, type Client, type TestServer } from '../testing/server.ts';
import { Queue } from './queue.ts';
import { LOST_MS, QueueRepository } from './queueRepository.ts';
import { Worker } from './worker.ts';

/** One server that works by itself, one on the same database that has no worker. */
let busy: TestServer;
let lazy: TestServer;
let foreman: Client;
let admin: Client;
beforeAll(async () => {
  lazy = await startServer('norther_queue', 'demo', 'none');
  [foreman, admin] = await Promise.all([lazy.as('odd'), lazy.as('liv')]);
}, 120_000);
afterAll(async () => {
  await lazy.stop();
  await busy?.stop();
});
const view = async () => (await foreman('GET', 'work')).body;
const repository = () => lazy.app.get(QueueRepository);
const enqueue = (kind: 'prune' | 'backup' = 'prune') =>
  lazy.app.get(Database).transaction((tx) => lazy.app.get(Queue).enqueue(tx, { kind, data: {}, personName: 'a test' }));
const stateOf = async (id: string) => (await foreman('GET', `work/${id}`)).body;

describe('without a worker', () => {
  it('work waits, and the view says that nobody does it', async () => {
    const issued = await foreman('POST', `jobs/${demo(2)}/reports`, { reason: 'once more' });
    expect(issued.status).toBe(201);
    const { workers, waiting, running, work } = await view();
    expect({ workers, waiting, running }).toEqual({ workers: 0, waiting: 1, running: 0 });
    expect(work[0]).toMatchObject({ kind: 'report', state: 'waiting', person: 'Odd Marstein', attempt: 0 });
  });
  it('what waits can be cancelled, once', async () => {
    const id = await enqueue();
    expect((await foreman('POST', `work/${id}/cancel`)).body).toMatchObject({ cancelAsked: true });
    await repository().supervise();
    expect(await stateOf(id)).toMatchObject({ state: 'cancelled' });
    expect((await foreman('POST', `work/${id}/cancel`)).status).toBe(409);
    expect(await repository().take(id, crypto.randomUUID())).toBeUndefined();
  });
  it('a transaction that fails asks for nothing', async () => {
    const before = await view();
    const orders = () => lazy.pool.query('select count(*)::int as n from pgboss.job');
    const [was] = (await orders()).rows;
    await expect(
      lazy.app.get(Database).transaction(async (tx) => {
        await lazy.app.get(Queue).enqueue(tx, { kind: 'prune', data: {}, personName: 'a test' });
        throw new Error('no');
      }),
    ).rejects.toThrow('no');
    expect((await view()).waiting).toBe(before.waiting);
    expect((await orders()).rows[0]).toEqual(was);
  });
  it('an attempt whose worker is gone is taken up by another, and nothing of the first stands', async () => {
    const id = await enqueue();
    const { tables } = lazy.app.get(Database);
    const first = await repository().take(id, crypto.randomUUID());
    if (!first) throw new Error('not taken');
    expect(await repository().take(id, crypto.randomUUID())).toBeUndefined();
    await repository().supervise();
    expect(await stateOf(id)).toMatchObject({ state: 'running', attempt: 1 });
    const age = (ms: number) =>
      lazy.pool.query(`update work set heartbeat_at = now() - make_interval(secs => $2 / 1000.0) where id = $1`, [
        id,
        ms,
      ]);
    await age(LOST_MS - 2000);
    await repository().supervise();
    expect((await stateOf(id)).state).toBe('running');
    await age(LOST_MS + 1000);
    expect(await repository().supervise()).toContain(id);
    const second = await repository().take(id, crypto.randomUUID());
    expect(second?.attempt).toBe(2);
    expect(await repository().stillMine(first)).toBe(false);
    expect(await repository().end(tables, first, 'done')).toBe(false);
    expect(await repository().end(tables, first, 'failed')).toBe(false);
    expect(await repository().end(tables, second as typeof first, 'done')).toBe(true);
    expect(await stateOf(id)).toMatchObject({ state: 'done', attempt: 2 });
  });
  it('a running attempt that is asked to stop hears it at its next look', async () => {
    const id = await enqueue();
    const row = await repository().take(id, crypto.randomUUID());
    if (!row) throw new Error('not taken');
    expect(await repository().stillMine(row, 0.4)).toBe(true);
    expect(await stateOf(id)).toMatchObject({ progress: 0.4 });
    await foreman('POST', `work/${id}/cancel`);
    expect(await repository().stillMine(row, 0.5)).toBe(false);
    await repository().end(lazy.app.get(Database).tables, row, 'cancelled');
  });
  it('only a foreman looks, only an admin asks for a backup; what is no work is not found', async () => {
    const winder = await lazy.as('ines');
    expect((await winder('GET', 'work')).status).toBe(403);
    expect((await winder('POST', `work/${crypto.randomUUID()}/cancel`)).status).toBe(403);
    expect((await foreman('POST', 'work/backup')).status).toBe(403);
    for (const id of ['x', crypto.randomUUID()]) expect((await foreman('GET', `work/${id}`)).status).toBe(404);
  });
});

describe('with a worker', () => {
  beforeAll(async () => {
    busy = await serve('norther_queue');
  }, 60_000);
  it('what waited is done, within a second of being asked', async () => {
    await idle(lazy.app);
    expect((await view()).workers).toBe(1);
    const asked = Date.now();
    const id = await enqueue();
    while (!['running', 'done'].includes((await stateOf(id)).state)) await new Promise((r) => setTimeout(r, 20));
    expect(Date.now() - asked).toBeLessThan(process.env['CI'] ? 5000 : 2000);
    await idle(lazy.app);
    expect(await stateOf(id)).toMatchObject({ state: 'done', progress: 1, attempt: 1, problem: null });
    const { body } = await foreman('GET', `jobs/${demo(2)}`);
    expect((await foreman('GET', `reports/${body.reports[0].id}`)).headers.get('content-type')).toBe('application/pdf');
  });
  it('one that is asked to end while it begins ends without a fault', async () => {
    process.env['DATABASE_URL'] = lazy.app.get(Database).url;
    const { createWorker } = await import('../app.ts');
    for (const ms of [0, 3, 10, 20, 40]) {
      const app = await createWorker();
      const begun = app.get(Worker).start();
      await new Promise((r) => setTimeout(r, ms));
      await app.close();
      await expect(begun).resolves.toBeUndefined();
    }
    expect((await view()).workers).toBe(1);
  }, 30_000);
  it('the night asks for its work once, however many ask', async () => {
    const worker = busy.app.get(Worker);
    const before = (await lazy.pool.query(`select count(*)::int as n from work where person_name = 'every night'`))
      .rows[0].n;
    await worker.night();
    await worker.night();
    await idle(lazy.app);
    const { rows } = await lazy.pool.query(
      `select kind, count(*)::int as n from work where person_name = 'every night' group by 1 order by 1`,
    );
    expect(before).toBe(0);
    expect(rows.map((r) => r.kind)).toEqual(['backup', 'prune']);
  });

  describe('backups', () => {
    const folder = mkdtempSync(join(tmpdir(), 'norther-nights-'));
    afterEach(() => {
      delete process.env['NORTHER_BACKUPS'];
    });
    const backUp = async () => {
      const { body } = await admin('POST', 'work/backup');
      await idle(lazy.app);
      return stateOf(body.id);
    };
    it('without a folder: a sentence, and the view warns', async () => {
      expect(await backUp()).toMatchObject({
        state: 'failed',
        problem: expect.stringContaining('NORTHER_BACKUPS names no folder'),
      });
      expect((await view()).backup).toEqual({ kept: false, at: null, file: null, bytes: null, late: true });
    });
    it('where it cannot be written: a sentence', async () => {
      process.env['NORTHER_BACKUPS'] = '/proc/nowhere';
      expect(await backUp()).toMatchObject({ state: 'failed', problem: expect.stringMatching(/could not be written/) });
    });
    it('one file, for its owner only; the newest fourteen stay, what else lies there is left alone', async () => {
      process.env['NORTHER_BACKUPS'] = folder;
      for (let i = 1; i <= KEPT_NIGHTS + 3; i++)
        writeFileSync(join(folder, `norther-2020-01-${String(i).padStart(2, '0')}.dump`), 'old');
      writeFileSync(join(folder, 'norther-notes.txt'), 'mine');
      const done = await backUp();
      expect(done).toMatchObject({ state: 'done' });
      const { file, bytes } = done.result;
      const kept = readdirSync(folder);
      expect(kept.filter((f) => f.endsWith('.dump'))).toHaveLength(KEPT_NIGHTS);
      expect(kept).toContain(file);
      expect(kept).toContain('norther-notes.txt');
      expect(kept).not.toContain('norther-2020-01-04.dump');
      expect(kept).toContain('norther-2020-01-05.dump');
      const { mode, size } = statSync(join(folder, file));
      expect([mode & 0o777, size]).toEqual([0o600, bytes]);
      expect((await view()).backup).toMatchObject({ kept: true, file, bytes, late: false });
    });
    it.each([
      [47, false],
      [49, true],
    ])('%i hours old: late %s', async (hours, late) => {
      process.env['NORTHER_BACKUPS'] = folder;
      await lazy.pool.query(
        `update work set ended_at = $2::timestamptz - make_interval(hours => $1::int) where kind = 'backup' and state = 'done'`,
        [hours, now()],
      );
      expect((await view()).backup.late).toBe(late);
    });
  });

  describe('pruning', () => {
    it.each([
      [
        'idempotency_key',
        `insert into idempotency_key (person_id, key, fingerprint, at) select id, 'k' || $1::int, '', $2::timestamptz - make_interval(hours => $1::int) from person where sign_in = 'per'`,
        7 * 24,
      ],
      [
        'sign_in_failure',
        `insert into sign_in_failure (key, at) values ('old', $2::timestamptz - make_interval(hours => $1::int))`,
        30 * 24,
      ],
      [
        'draft',
        `insert into draft (person_id, key, body, at) select id, 'd' || $1::int, '{}', $2::timestamptz - make_interval(hours => $1::int) from person where sign_in = 'per'`,
        90 * 24,
      ],
      [
        'work',
        `insert into work (kind, data, state, person_name, at, ended_at) values ('prune', '{}', 'done', 'old', $2::timestamptz, $2::timestamptz - make_interval(hours => $1::int))`,
        30 * 24,
      ],
    ])('%s: gone after its days, not an hour before', async (table, insert, hours) => {
      const count = async () =>
        (
          await lazy.pool.query(
            `select count(*)::int as n from ${table} ${table === 'work' ? `where person_name = 'old'` : table === 'draft' ? `where key like 'd%' and body = '{}'` : table === 'idempotency_key' ? `where key like 'k%' and fingerprint = ''` : `where key = 'old'`}`,
          )
        ).rows[0].n;
      await lazy.pool.query(insert, [hours + 1, now()]);
      await lazy.pool.query(insert, [hours - 1, now()]);
      expect(await count()).toBe(2);
      await enqueue();
      await idle(lazy.app);
      expect(await count()).toBe(1);
    });
    it('a session that ran out goes, a good one stays', async () => {
      await lazy.pool.query(
        `insert into session (token_hash, person_id, device_hash, expires_at) select 'gone', id, '', $1::timestamptz - interval '1 minute' from person where sign_in = 'per'`,
        [now()],
      );
      const { rows: before } = await lazy.pool.query(`select count(*)::int as n from session where expires_at > $1`, [
        now(),
      ]);
      await enqueue();
      await idle(lazy.app);
      const { rows } = await lazy.pool.query(`select count(*)::int as n from session`);
      expect(rows).toEqual(before);
    });
    it('the last backup is remembered, however old', async () => {
      await lazy.pool.query(
        `update work set ended_at = $1::timestamptz - interval '90 days' where kind = 'backup' and state = 'done'`,
        [now()],
      );
      await enqueue();
      await idle(lazy.app);
      expect((await view()).backup.at).not.toBeNull();
    });
  });
});
