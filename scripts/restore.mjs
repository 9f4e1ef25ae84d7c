#!/usr/bin/env node
// npm run restore -- FILE: puts a backup back. What is in the database now is replaced.
import { existsSync } from 'node:fs';
import { resolve } from 'node:path';
import { withDatabase } from './setup/withDatabase.mjs';
import { say, SetupError, stopWith } from './setup/say.mjs';

const file = process.argv[2];
try {
  if (!file || !existsSync(file))
    throw new SetupError('Name the backup file: npm run restore -- norther-2026-11-23.dump');
  await withDatabase(async ({ url, tool }) => {
    const { code, out } = await tool('pg_restore', [
      '--clean',
      '--if-exists',
      '--no-owner',
      '--single-transaction',
      `--dbname=${url}`,
      resolve(file),
    ]);
    if (code !== 0) throw new SetupError(`The backup could not be put back; nothing was changed.\n${out.slice(-1500)}`);
  });
  say('the backup is put back.');
} catch (error) {
  stopWith(error);
}
