import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { ensureDatabase, startCluster } from './cluster.mjs';
import { ensureNodePackages } from './packages.mjs';
import { dataFolder } from './paths.mjs';
import { run } from './run.mjs';
import { SetupError } from './say.mjs';

/** Runs work against the shop's database: DATABASE_URL, a running cluster of this copy, or one started for the while. */
export async function withDatabase(work) {
  await ensureNodePackages();
  const base = '/usr/lib/postgresql';
  const version = existsSync(base) ? readdirSync(base).sort((a, b) => Number(b) - Number(a))[0] : undefined;
  if (!version) throw new SetupError('PostgreSQL is not installed; run npm start once first.');
  const tool = (name, args) => run(join(base, version, 'bin', name), args);
  if (process.env.DATABASE_URL) return work({ url: process.env.DATABASE_URL, tool });
  if (!existsSync(join(dataFolder, 'postgres', 'PG_VERSION')))
    throw new SetupError('There is no data yet; run npm start once first.');
  const running = existsSync(join(dataFolder, 'postgres', 'postmaster.pid'));
  const cluster = await startCluster(dataFolder);
  try {
    await ensureDatabase(cluster);
    return await work({ url: cluster.url, tool });
  } finally {
    if (!running) await cluster.stop();
  }
}
