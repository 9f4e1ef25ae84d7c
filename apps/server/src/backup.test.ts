import { spawnSync } from 'node:child_process';
import { chmodSync, existsSync, mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { addressOf, makeDatabase } from './testing/server.ts';

const root = fileURLToPath(new URL('../../..', import.meta.url));
const folder = mkdtempSync(join(tmpdir(), 'norther-backup-'));
chmodSync(folder, 0o777);
const file = join(folder, 'shop.dump');

const urlOf = (name: string): string => addressOf(name, 'owner');
function run(script: string, args: string[], database: string): { code: number | null; said: string } {
  const done = spawnSync(process.execPath, [join(root, 'scripts', `${script}.mjs`), ...args], {
    cwd: root,
    encoding: 'utf8',
    env: {
      ...process.env,
      DATABASE_URL: addressOf(database, 'runner'),
      DATABASE_OWNER_URL: addressOf(database, 'owner'),
    },
  });
  return { code: done.status, said: done.stdout + done.stderr };
}
/** Rows of every table, and a sum over their text, so that a changed row shows. */
async function contents(database: string): Promise<Record<string, string>> {
  const client = new pg.Client({ connectionString: urlOf(database) });
  await client.connect();
  const { rows: tables } = await client.query<{ name: string }>(
    `select table_name as name from information_schema.tables where table_schema = 'public' and table_type = 'BASE TABLE' order by 1`,
  );
  const out: Record<string, string> = {};
  for (const { name } of tables) {
    const { rows } = await client.query<{ n: string; sum: string }>(
      `select count(*)::text as n, coalesce(md5(string_agg(md5(t::text), '' order by md5(t::text))), '') as sum from "${name}" t`,
    );
    out[name] = `${rows[0]?.n} ${rows[0]?.sum}`;
  }
  await client.end();
  return out;
}

let before: Record<string, string>;
beforeAll(async () => {
  await makeDatabase('norther_backup', 'demo');
  before = await contents('norther_backup');
  await makeDatabase('norther_restored');
}, 120_000);
afterAll(() => rmSync(folder, { recursive: true, force: true }));

describe('backup and restore', () => {
  it('one file holds everything, and puts it back into an empty database to the last row', async () => {
    const written = run('backup', [file], 'norther_backup');
    expect(written.said).toMatch(/backup written to/);
    expect(written.code).toBe(0);
    expect(statSync(file).size).toBeGreaterThan(50_000);
    // a backup holds password hashes and customers: its owner reads it and nobody else
    expect(statSync(file).mode & 0o777).toBe(0o600);
    const put = run('restore', [file], 'norther_restored');
    expect(put.said).toMatch(/the backup is put back/);
    const after = await contents('norther_restored');
    expect(Object.keys(after).length).toBeGreaterThan(15);
    expect(after).toEqual(before);
  }, 120_000);
  it('replaces what was entered since', async () => {
    const client = new pg.Client({ connectionString: urlOf('norther_restored') });
    await client.connect();
    await client.query(`insert into customer (name) values ('Entered after the backup')`);
    await client.end();
    expect(run('restore', [file], 'norther_restored').code).toBe(0);
    expect(await contents('norther_restored')).toEqual(before);
  }, 120_000);
  it('a file that is none, or is missing, changes nothing and says so', async () => {
    const none = run('restore', [join(folder, 'missing.dump')], 'norther_restored');
    expect(none.code).not.toBe(0);
    expect(none.said).toMatch(/Name the backup file/);
    const wrong = join(folder, 'wrong.dump');
    writeFileSync(wrong, 'not a backup');
    const bad = run('restore', [wrong], 'norther_restored');
    expect(bad.code).not.toBe(0);
    expect(bad.said).toMatch(/could not be put back; nothing was changed/);
    expect(await contents('norther_restored')).toEqual(before);
  }, 60_000);
  it('where it cannot be written, says so', () => {
    const bad = run('backup', [join(folder, 'no', 'such', 'folder.dump')], 'norther_backup');
    expect(bad.code).not.toBe(0);
    expect(bad.said).toMatch(/could not be written/);
    expect(existsSync(join(folder, 'no'))).toBe(false);
  }, 60_000);
});
