#!/usr/bin/env node
// npm run backup -- FILE: everything in the database, photographs and documents too, as one file that only its owner reads.
import { chmodSync, closeSync, openSync } from 'node:fs';
import { resolve } from 'node:path';
import { withDatabase } from './setup/withDatabase.mjs';
import { say, SetupError, stopWith } from './setup/say.mjs';

const file = process.argv[2] ?? `norther-${new Date().toISOString().slice(0, 10)}.dump`;
try {
  await withDatabase(async ({ ownerUrl, tool }) => {
    const path = resolve(file);
    try {
      // made readable by its owner only before a byte of it is written
      closeSync(openSync(path, 'w', 0o600));
      chmodSync(path, 0o600);
    } catch (error) {
      throw new SetupError(`The backup could not be written to ${file} (${error.code ?? error.message}).`);
    }
    const { code, out } = await tool('pg_dump', [
      '--format=custom',
      '--exclude-schema=pgboss',
      `--file=${path}`,
      `--dbname=${ownerUrl}`,
    ]);
    if (code !== 0) throw new SetupError(`The backup could not be written to ${file}.\n${out.slice(-1500)}`);
  });
  say(`backup written to ${file}.`);
} catch (error) {
  stopWith(error);
}
