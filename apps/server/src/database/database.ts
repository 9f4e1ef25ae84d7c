import { fileURLToPath } from 'node:url';
import { Injectable, type OnApplicationShutdown } from '@nestjs/common';
import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';
import * as schema from './schema.ts';

export type Tables = NodePgDatabase<typeof schema>;
export type Transaction = Parameters<Parameters<Tables['transaction']>[0]>[0];

/** The connection pool and the typed tables. */
@Injectable()
export class Database implements OnApplicationShutdown {
  readonly pool: pg.Pool;
  readonly tables: Tables;
  constructor() {
    const connectionString = process.env['DATABASE_URL'];
    if (!connectionString) throw new Error('DATABASE_URL is not set; start with npm start.');
    this.pool = new pg.Pool({ connectionString, max: 20 });
    this.pool.on('error', () => undefined); // a lost idle connection is replaced at the next query
    this.tables = drizzle(this.pool, { schema });
  }

  /** Brings the database to the newest shape; one process at a time. */
  async migrate(): Promise<void> {
    const folder = fileURLToPath(new URL('../../drizzle', import.meta.url));
    const client = await this.pool.connect();
    try {
      await client.query('select pg_advisory_lock(471100)');
      await migrate(drizzle(client), { migrationsFolder: folder });
    } finally {
      await client.query('select pg_advisory_unlock(471100)');
      client.release();
    }
  }

  async onApplicationShutdown(): Promise<void> {
    await this.pool.end();
  }
}
