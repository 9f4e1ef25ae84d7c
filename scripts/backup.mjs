#!/usr/bin/env node
// npm run backup -- FILE: everything in the database, photographs and documents too, as one file.
import { resolve } from 'node:path';
import { withDatabase } from './setup/withDatabase.mjs';
import { say, SetupError, stopWith } from './setup/say.mjs';

const file = process.argv[2] ?? `norther-${new Date().toISOString().slice(0, 10)}.dump`;
try {
  await withDatabase(async ({ url, tool }) => {
    const { code, out } = await tool('pg_dump', ['--format=custom', `--file=${resolve(file)}`, url]);
    if (code !== 0) throw new SetupError(`The backup could not be written to ${file}.\n${out.slice(-1500)}`);
  });
  say(`backup written to ${file}.`);
} catch (error) {
  stopWith(error);
}
