import { type ChildProcess, spawn } from 'node:child_process';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import pg from 'pg';

const root = fileURLToPath(new URL('..', import.meta.url));
export const TEMPLATE = 'norther_demo';

export interface Cluster {
  port: number;
  url: string;
  ownerUrl: string;
  adminUrl: string;
  secrets: Record<string, string>;
}
interface ClusterScripts {
  startCluster: (folder: string, o: object) => Promise<Cluster & { stop: () => Promise<void> }>;
  ensureDatabase: (c: Cluster, name?: string, options?: { template?: string }) => Promise<void>;
}
export async function clusterScripts(): Promise<ClusterScripts> {
  const path = new URL('../scripts/setup/cluster.mjs', import.meta.url).href;
  return (await import(path)) as ClusterScripts;
}

const cluster = (): Cluster => JSON.parse(process.env['NORTHER_CLUSTER'] ?? '{}') as Cluster;
const addressOf = (database: string, user: 'url' | 'ownerUrl' | 'adminUrl'): string => {
  const address = new URL(cluster()[user]);
  address.pathname = `/${database}`;
  return address.href;
};

/** A database that holds the demo shop as it was loaded. */
export async function copyOfDemo(name: string): Promise<string> {
  const client = new pg.Client({ connectionString: cluster().adminUrl });
  await client.connect();
  await client.query(`drop database if exists "${name}" with (force)`);
  // copies are made one after the other: PostgreSQL wants nobody else at the template
  await client.query('select pg_advisory_lock(471198)');
  await (await clusterScripts()).ensureDatabase(cluster(), name, { template: TEMPLATE });
  await client.query('select pg_advisory_unlock(471198)');
  await client.end();
  return name;
}

export interface RunningNorther {
  base: string;
  databaseUrl: string;
  /** the server is killed; its worker goes on */
  kill: () => Promise<void>;
  /** server and worker are gone */
  end: () => Promise<void>;
  start: () => Promise<void>;
  /** waits until no report is without its paper */
  settled: () => Promise<void>;
}

/** The built server, as people run it, on one database of the run's cluster. */
export async function serveNorther(database: string, port: number): Promise<RunningNorther> {
  let child: ChildProcess | undefined;
  let worker: ChildProcess | undefined;
  const base = `http://127.0.0.1:${port}`;
  const start = async (): Promise<void> => {
    const env = {
      ...process.env,
      NODE_ENV: 'production',
      DATABASE_URL: addressOf(database, 'url'),
      DATABASE_OWNER_URL: addressOf(database, 'ownerUrl'),
      NORTHER_TESTS: 'yes',
      PORT: String(port),
      HOST: '127.0.0.1',
      NORTHER_DEMO: 'yes',
    };
    const run = (file: string) =>
      spawn(process.execPath, [join(root, 'apps/server/dist', file)], { env, stdio: ['ignore', 'ignore', 'inherit'] });
    child = run('main.js');
    worker ??= run('worker.js');
    for (let i = 0; i < 600; i++) {
      try {
        if ((await fetch(`${base}/api/health`)).ok) return;
      } catch {
        // not listening yet
      }
      await new Promise((r) => setTimeout(r, 100));
    }
    throw new Error('Norther did not start within a minute.');
  };
  const killed = (one: ChildProcess | undefined): Promise<void> =>
    new Promise((resolve) => {
      if (!one || one.exitCode !== null || one.signalCode !== null) return resolve();
      one.once('exit', () => resolve());
      one.kill('SIGKILL');
    });
  await start();
  return {
    base,
    databaseUrl: addressOf(database, 'ownerUrl'),
    kill: () => killed(child),
    end: async () => {
      await Promise.all([killed(child), killed(worker)]);
    },
    start,
    async settled() {
      const client = new pg.Client({ connectionString: addressOf(database, 'ownerUrl') });
      await client.connect();
      for (let i = 0; i < 100; i++) {
        const { rows } = await client.query<{ n: number }>(
          'select count(*)::int as n from report where content is null',
        );
        if (rows[0]?.n === 0) break;
        await new Promise((r) => setTimeout(r, 100));
      }
      await client.end();
    },
  };
}
