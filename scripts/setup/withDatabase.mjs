import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { checkedUrl } from './checkedUrl.mjs';
import { ensureDatabase, startCluster } from './cluster.mjs';
import { ensureNodePackages } from './packages.mjs';
import { dataFolder } from './paths.mjs';
import { run } from './run.mjs';
import { SetupError } from './say.mjs';
import { useFolder } from './users.mjs';

/** Runs work against the shop's database as its owner: DATABASE_URL, a running cluster of this copy, or one started for the while. */
export async function withDatabase(work) {
  await ensureNodePackages();
  const base = '/usr/lib/postgresql';
  const version = existsSync(base) ? readdirSync(base).sort((a, b) => Number(b) - Number(a))[0] : undefined;
  if (!version) throw new SetupError('PostgreSQL is not installed; run npm start once first.');
  const tool = (name, args, options) => run(join(base, version, 'bin', name), args, options);
  if (process.env.DATABASE_URL) {
    const url = checkedUrl('DATABASE_URL');
    return work({ url, ownerUrl: process.env.DATABASE_OWNER_URL ? checkedUrl('DATABASE_OWNER_URL') : url, tool });
  }
  if (!existsSync(join(dataFolder, 'postgres', 'PG_VERSION')))
    throw new SetupError('There is no data yet; run npm start once first.');
  const user = useFolder(dataFolder);
  const cluster = await startCluster(dataFolder);
  try {
    await ensureDatabase(cluster);
    return await work({ url: cluster.url, ownerUrl: cluster.ownerUrl, tool });
  } finally {
    if (user.leave()) await cluster.stop();
  }
}
