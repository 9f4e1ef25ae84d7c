import 'reflect-metadata';
import type { NestFastifyApplication } from '@nestjs/platform-fastify';
import pg from 'pg';
import { inject } from 'vitest';
import { createApp } from '../app.ts';
import { Database } from '../database/database.ts';
import { loadDemo } from '../demo/demo.ts';
import { QueueRepository } from '../queue/queueRepository.ts';
import { Worker } from '../queue/worker.ts';
import { signedIn, type Client } from './client.ts';
import { clusterScripts } from './cluster.ts';

export { client, type Answer, type Client } from './client.ts';

export interface TestServer {
  name: string;
  app: NestFastifyApplication;
  base: string;
  pool: pg.Pool;
  as: (signIn: string) => Promise<Client>;
  stop: () => Promise<void>;
}
/** The address of a database of the test cluster, for one of its users. */
export function addressOf(name: string, user: 'runner' | 'owner' | 'admin' = 'admin'): string {
  const { url, ownerUrl, adminUrl } = inject('cluster');
  const address = new URL({ runner: url, owner: ownerUrl, admin: adminUrl }[user]);
  address.pathname = `/${name}`;
  return address.href;
}

/** Work as the cluster's superuser. */
export async function asAdmin<T>(database: string, work: (client: pg.Client) => Promise<T>): Promise<T> {
  const client = new pg.Client({ connectionString: addressOf(database) });
  await client.connect();
  try {
    return await work(client);
  } finally {
    await client.end();
  }
}

/** A database of its own: empty, or a copy of the demo shop, which is loaded once for all test files. */
export async function makeDatabase(name: string, kind: 'empty' | 'demo' = 'empty'): Promise<void> {
  const { ensureDatabase } = await clusterScripts();
  await asAdmin('postgres', async (client) => {
    await client.query(`drop database if exists "${name}" with (force)`);
    if (kind === 'demo') {
      await client.query('select pg_advisory_lock(471199)');
      const made = await client.query(`select 1 from pg_database where datname = '${TEMPLATE}'`);
      if (made.rowCount === 0) await makeTemplate();
      await ensureDatabase(inject('cluster'), name, { template: TEMPLATE });
      await client.query('select pg_advisory_unlock(471199)');
    } else await ensureDatabase(inject('cluster'), name);
  });
}

const TEMPLATE = 'norther_demo';

async function makeTemplate(): Promise<void> {
  const { ensureDatabase } = await clusterScripts();
  const making = `${TEMPLATE}_making`;
  await asAdmin('postgres', (client) => client.query(`drop database if exists "${making}" with (force)`));
  await ensureDatabase(inject('cluster'), making);
  const app = await openApp(making);
  await loadDemo(app);
  await app.get(Worker).start({ nights: false });
  await idle(app);
  await app.close();
  await asAdmin('postgres', (client) => client.query(`alter database "${making}" rename to "${TEMPLATE}"`));
}

/** Waits until no work waits or runs. */
export async function idle(app: NestFastifyApplication, seconds = 30): Promise<void> {
  for (let i = 0; i < 20 * seconds; i++) {
    const { waiting, running } = await app.get(QueueRepository).depth();
    if (waiting + running === 0) return;
    await new Promise((r) => setTimeout(r, 50));
  }
  throw new Error('work in the background does not end');
}

async function openApp(name: string): Promise<NestFastifyApplication> {
  process.env['DATABASE_URL'] = addressOf(name, 'runner');
  process.env['DATABASE_OWNER_URL'] = addressOf(name, 'owner');
  const app = await createApp({ log: 'quiet' });
  await app.get(Database).migrate();
  return app;
}

/** A server of its own on a database of its own, reached through HTTP like the interface reaches it. */
export async function startServer(
  name: string,
  kind: 'empty' | 'demo' = 'empty',
  worker: 'inside' | 'none' = 'inside',
): Promise<TestServer> {
  await makeDatabase(name, kind);
  return serve(name, worker);
}

/** A server on a database that is there already. */
export async function serve(name: string, worker: 'inside' | 'none' = 'inside', port = 0): Promise<TestServer> {
  const app = await openApp(name);
  if (worker === 'inside') await app.get(Worker).start({ nights: false });
  await app.listen({ host: '127.0.0.1', port });
  const address = app.getHttpServer().address() as { port: number };
  const base = `http://127.0.0.1:${address.port}/api`;
  // the owner's hand on the same database, to look at it and to try its guards
  const pool = new pg.Pool({ connectionString: addressOf(name, 'owner'), max: 4 });
  pool.on('error', () => undefined);
  return {
    name,
    app,
    base,
    pool,
    as: (signIn) => signedIn(base, signIn),
    stop: async () => {
      await pool.end();
      await app.close();
    },
  };
}
