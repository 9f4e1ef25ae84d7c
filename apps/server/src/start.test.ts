import { spawnSync } from 'node:child_process';
import { chmodSync, existsSync, mkdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { startKit } from './testing/startKit.ts';

const { folder, start, left, freePort, answers, silent, gone, ended } = startKit('norther-start-');
let port = 0;
beforeAll(async () => {
  port = await freePort();
});
afterAll(async () => {
  for (const line of left()) process.kill(Number(line.trim().split(' ')[0]), 'SIGKILL');
  await new Promise((r) => setTimeout(r, 300));
  rmSync(folder, { recursive: true, force: true });
});

const pidOf = (what: RegExp): number =>
  Number(
    left()
      .find((l) => what.test(l))
      ?.trim()
      .split(' ')[0] ?? 0,
  );
/** The server below a start script. */
const serverOf = (pid: number | undefined): number =>
  Number(
    spawnSync('ps', ['-eo', 'pid,ppid,args'], { encoding: 'utf8' })
      .stdout.split('\n')
      .map((l) => l.trim().split(/\s+/))
      .find(([, parent, ...args]) => Number(parent) === pid && args.join(' ').includes('main.js'))?.[0] ?? 0,
  );

/** Kills one process for certain: 0 would be the test's own group. */
function kill(pid: number): void {
  if (pid < 2) throw new Error('no such process');
  process.kill(pid, 'SIGKILL');
}

describe('npm start holds', () => {
  it('passwords are made, for their owner only; the running user owns nothing and is no superuser', async () => {
    const { child, said } = start(port, ['--empty']);
    await answers(port);
    const file = join(folder, 'database.json');
    expect(statSync(file).mode & 0o777).toBe(0o600);
    const secrets = JSON.parse(readFileSync(file, 'utf8')) as Record<string, string>;
    const dbPort = readFileSync(join(folder, 'postgres', 'postmaster.pid'), 'utf8').split('\n')[3];
    const login = async (user: string, password: string): Promise<pg.Client> => {
      const client = new pg.Client({ host: '127.0.0.1', port: Number(dbPort), user, password, database: 'norther' });
      await client.connect();
      return client;
    };
    for (const user of Object.keys(secrets)) await expect(login(user, 'wrong'), user).rejects.toThrow(/password/);
    const app = await login('norther_app', secrets['norther_app'] ?? '');
    for (const change of [
      'drop trigger audit_event_is_kept on audit_event',
      'alter table audit_event disable trigger all',
      'drop function refuse_change() cascade',
      'truncate session',
      'delete from job',
      'update audit_event set summary = summary',
      'create table x (a int)',
      `set session_replication_role = 'replica'`,
      `alter role norther_app superuser`,
    ])
      await expect(app.query(change), change).rejects.toThrow(/permission denied|must be (owner|superuser)/);
    await app.end();
    expect(said()).not.toMatch(/could drop/);
    child.kill('SIGTERM');
    await ended(child);
  }, 200_000);

  it('a second start on the same folder shares the database, and its end leaves the first one running', async () => {
    const first = start(port, ['--empty']);
    await answers(port);
    const other = await freePort();
    const second = start(other, ['--empty']);
    await answers(other);
    expect(second.said()).toMatch(/another Norther runs on this data folder/);
    second.child.kill('SIGTERM');
    await ended(second.child);
    expect((await fetch(`http://127.0.0.1:${port}/api/health`)).status).toBe(200);
    first.child.kill('SIGTERM');
    await ended(first.child);
    expect(left()).toEqual([]);
  }, 120_000);

  it('a killed server ends everything with a sentence', async () => {
    const { child, said } = start(port, ['--empty']);
    await answers(port);
    kill(serverOf(child.pid));
    expect(await ended(child)).toBe(1);
    expect(said()).toMatch(/the server was ended by SIGKILL/);
    expect(left()).toEqual([]);
  }, 120_000);

  it('after a crash of the database the next start lets it recover', async () => {
    const { child } = start(port, ['--empty']);
    await answers(port);
    // killed with everything of it, in the middle of its work: a running Norther starts it again
    kill(pidOf(/postgres -D/));
    await silent(port);
    await answers(port);
    // both killed at once: the next start lets the database recover
    child.kill('SIGKILL');
    kill(pidOf(/postgres -D/));
    await ended(child);
    await gone(port);
    const again = start(port, ['--empty']);
    await answers(port);
    again.child.kill('SIGTERM');
    await ended(again.child);
    expect(left()).toEqual([]);
  }, 90_000);

  it.each([
    [
      'a file in its place',
      () => (writeFileSync(join(folder, 'a-file'), ''), join(folder, 'a-file')),
      /is a file, not a folder/,
    ],
    ['a place where nothing can be made', () => '/proc/x', /cannot be written/],
    ['a folder below a file', () => join(folder, 'a-file', 'below'), /cannot be written/],
  ])(
    'a data folder that is %s is said in one sentence',
    async (_, make, sentence) => {
      const { child, said } = start(await freePort(), ['--empty'], { NORTHER_DATA: make() });
      expect(await ended(child)).toBe(1);
      expect(said()).toMatch(sentence);
      expect(said()).not.toMatch(/^\s+at /m);
    },
    30_000,
  );

  it.each([
    ['no address', 'hello', /DATABASE_URL must be an address like/],
    ['of another kind', 'mysql://a:b@127.0.0.1/x', /it begins with "mysql:"/],
    ['without a name', 'postgres://a:b@127.0.0.1:1/', /the name of the database is missing/],
    ['where nobody listens', 'postgres://a:b@127.0.0.1:1/x', /cannot be reached/],
  ])(
    'a DATABASE_URL %s is said in one sentence, without its password',
    async (_, url, sentence) => {
      const { child, said } = start(await freePort(), [], { DATABASE_URL: url.replace('a:b@', 'a:hunter2@') });
      expect(await ended(child)).toBe(1);
      expect(said()).toMatch(sentence);
      expect(said()).not.toMatch(/^\s+at |hunter2/m);
    },
    180_000,
  );

  it.each([
    ['TRUST_PROXY', 'yes', /TRUST_PROXY: "yes" is no address/],
    ['NORTHER_CLOCK_DAYS', '40', /NORTHER_CLOCK_DAYS is for tests only/],
  ])(
    '%s=%s is refused in words',
    async (name, value, sentence) => {
      const { child, said } = start(await freePort(), ['--empty'], { [name]: value, NORTHER_TESTS: '' });
      expect(await ended(child)).toBe(1);
      expect(said()).toMatch(sentence);
      expect(said()).not.toMatch(/^\s+at /m);
    },
    180_000,
  );
});

describe('a data folder made before (one superuser, no passwords)', () => {
  it('is changed over at start without loss', async () => {
    const old = join(folder, 'old');
    mkdirSync(old);
    chmodSync(old, 0o755);
    // a cluster as it was made before
    const made = start(port, ['--empty'], { NORTHER_DATA: old });
    await answers(port);
    const dbPort = Number(readFileSync(join(old, 'postgres', 'postmaster.pid'), 'utf8').split('\n')[3]);
    const secrets = JSON.parse(readFileSync(join(old, 'database.json'), 'utf8')) as Record<string, string>;
    const superuser = new pg.Client({
      host: '127.0.0.1',
      port: dbPort,
      user: 'norther',
      password: secrets['norther'] ?? '',
      database: 'norther',
    });
    await superuser.connect();
    await superuser.query(`insert into customer (name) values ('Kept through it')`);
    await superuser.query(
      'reassign owned by norther_owner to norther; drop owned by norther_app; drop owned by norther_owner',
    );
    await superuser.query('drop role norther_app; drop role norther_owner').catch(() => undefined);
    await superuser.end();
    made.child.kill('SIGTERM');
    await ended(made.child);
    rmSync(join(old, 'database.json'));
    writeFileSync(join(old, 'postgres', 'pg_hba.conf'), 'host all all 127.0.0.1/32 trust\n');
    const again = start(port, ['--empty'], { NORTHER_DATA: old });
    await answers(port);
    expect(again.said()).toMatch(/changing the database over/);
    expect(existsSync(join(old, 'database.json'))).toBe(true);
    const fresh = JSON.parse(readFileSync(join(old, 'database.json'), 'utf8')) as Record<string, string>;
    const nowPort = Number(readFileSync(join(old, 'postgres', 'postmaster.pid'), 'utf8').split('\n')[3]);
    const owner = new pg.Client({
      host: '127.0.0.1',
      port: nowPort,
      user: 'norther_owner',
      password: fresh['norther_owner'] ?? '',
      database: 'norther',
    });
    await owner.connect();
    expect((await owner.query(`select name from customer`)).rows).toEqual([{ name: 'Kept through it' }]);
    await owner.end();
    await expect(
      new pg.Client({ host: '127.0.0.1', port: nowPort, user: 'norther', database: 'norther' }).connect(),
    ).rejects.toThrow();
    again.child.kill('SIGTERM');
    await ended(again.child);
    expect(left()).toEqual([]);
  }, 90_000);
});
