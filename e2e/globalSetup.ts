import { mkdtempSync, rmSync, chmodSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { freePort } from './freePort.ts';
import { type Cluster, clusterScripts, serveNorther, TEMPLATE } from './server.ts';

/** One cluster for the run; the demo shop is loaded once and copied for every worker. */
export default async function globalSetup(): Promise<() => Promise<void>> {
  const { startCluster, ensureDatabase } = await clusterScripts();
  const folder = mkdtempSync(join(tmpdir(), 'norther-e2e-'));
  chmodSync(folder, 0o755);
  const { stop, ...cluster } = await startCluster(folder, { throwAway: true });
  process.env['NORTHER_CLUSTER'] = JSON.stringify(cluster satisfies Cluster);
  await ensureDatabase(cluster, TEMPLATE);
  const loading = await serveNorther(TEMPLATE, await freePort());
  await loading.settled();
  await loading.end();
  return async () => {
    await stop();
    rmSync(folder, { recursive: true, force: true });
  };
}
