import { existsSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { tmpdir } from 'node:os';
import type { TestProject } from 'vitest/node';

declare module 'vitest' {
  interface ProvidedContext {
    databaseUrl: string;
  }
}

interface Cluster {
  url: string;
  adminUrl: string;
  stop: () => Promise<void>;
}

/** A throw-away PostgreSQL cluster for the whole test run; NORTHER_TEST_URL takes one that runs already. */
export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  const given = process.env['NORTHER_TEST_URL'];
  if (given) {
    project.provide('databaseUrl', given);
    return async () => undefined;
  }
  const path = new URL('../../../../scripts/setup/cluster.mjs', import.meta.url).href;
  const { startCluster, ensureDatabase } = (await import(path)) as {
    startCluster: (folder: string, o: object) => Promise<Cluster>;
    ensureDatabase: (c: Cluster) => Promise<void>;
  };
  const folder = join(tmpdir(), `norther-test-${process.pid}`);
  const cluster = await startCluster(folder, { throwAway: true });
  await ensureDatabase(cluster);
  project.provide('databaseUrl', cluster.url);
  return async () => {
    await cluster.stop();
    if (existsSync(folder)) rmSync(folder, { recursive: true, force: true });
  };
}
