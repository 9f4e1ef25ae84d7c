#!/usr/bin/env node
// npm run restore -- FILE: puts a backup back, also one made by an older Norther. What is in the database now is replaced.
import { existsSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { withDatabase } from './setup/withDatabase.mjs';
import { newestMigration, prepare } from './setup/prepare.mjs';
import { say, SetupError, stopWith } from './setup/say.mjs';

const file = process.argv[2];
const refuse = (out) => new SetupError(`The backup could not be put back; nothing was changed.\n${out.slice(-1500)}`);
try {
  if (!file || !existsSync(file))
    throw new SetupError('Name the backup file: npm run restore -- norther-2026-11-23.dump');
  await withDatabase(async ({ url, ownerUrl, tool }) => {
    const folder = mkdtempSync(join(tmpdir(), 'norther-restore-'));
    try {
      const dump = join(folder, 'shop.sql');
      const read = await tool('pg_restore', [
        '--no-owner',
        '--no-privileges',
        '--no-comments',
        `--file=${dump}`,
        resolve(file),
      ]);
      if (read.code !== 0) throw refuse(read.out);
      // the schemas are emptied first: what an older Norther does not know would stand in the way
      const before = join(folder, 'before.sql');
      writeFileSync(
        before,
        'drop schema if exists public cascade; drop schema if exists drizzle cascade; create schema public;',
      );
      const after = join(folder, 'after.sql');
      writeFileSync(
        after,
        `do $$ begin
  if (select max(created_at) from drizzle.__drizzle_migrations) > ${newestMigration()} then
    raise exception 'the backup was made by a newer Norther; update this one first';
  end if;
end $$;`,
      );
      const put = await tool('psql', [
        '--no-psqlrc',
        '--quiet',
        '--single-transaction',
        '--set=ON_ERROR_STOP=1',
        ...[before, dump, after].map((f) => `--file=${f}`),
        `--dbname=${ownerUrl}`,
      ]);
      if (put.code !== 0) throw refuse(put.out);
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
    await prepare(ownerUrl, url);
  });
  say('the backup is put back.');
} catch (error) {
  stopWith(error);
}
