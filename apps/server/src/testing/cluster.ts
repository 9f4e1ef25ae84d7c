import { existsSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { tmpdir } from 'node:os';
import type { TestProject } from 'vitest/node';

/** A cluster as the set-up scripts hand it out: addresses of its three users. */
export interface Cluster {
  port: number;
  url: string;
  ownerUrl: string;
  adminUrl: string;
  secrets: Record<string, string>;
}

declare module 'vitest' {
  interface ProvidedContext {
    cluster: Cluster;
  }
}

interface ClusterScripts {
  startCluster: (folder: string, o: object) => Promise<Cluster & { stop: () => Promise<void> }>;
  ensureDatabase: (c: Cluster, name?: string, options?: { template?: string }) => Promise<void>;
}

/** The set-up scripts, which are plain JavaScript. */
export async function clusterScripts(): Promise<ClusterScripts> {
  const path = new URL('../../../../scripts/setup/cluster.mjs', import.meta.url).href;
  return (await import(/* @vite-ignore */ path)) as ClusterScripts;
}

/** A throw-away PostgreSQL cluster for the whole test run. */
export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  process.env['NORTHER_TESTS'] = 'yes';
  const { startCluster, ensureDatabase } = await clusterScripts();
  const folder = join(tmpdir(), `norther-test-${process.pid}-${project.name}`);
  const { stop, ...cluster } = await startCluster(folder, { throwAway: true });
  await ensureDatabase(cluster);
  project.provide('cluster', cluster);
  return async () => {
    await stop();
    if (existsSync(folder)) rmSync(folder, { recursive: true, force: true });
  };
}
