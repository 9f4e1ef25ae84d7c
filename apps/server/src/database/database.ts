import { AsyncLocalStorage } from 'node:async_hooks';
import { Injectable, type OnApplicationShutdown } from '@nestjs/common';
import { drizzle } from 'drizzle-orm/node-postgres';
import pg from 'pg';
import { prepareDatabase } from './prepareDatabase.ts';
import * as schema from './schema.ts';
import type { Tables, Transaction } from './tables.ts';

export type { Reader, Tables, Transaction } from './tables.ts';

/** Connections of one process, and how many may wait for one before more are turned away. */
const MOST_CONNECTIONS = 20;
export const MOST_WAITING = 200;
const WAIT_MS = 15_000;

/** More wait for the database than can be served; the answer is 503. */
export class TooManyWaiting extends Error {
  constructor() {
    super('too many requests wait for the database');
    this.name = 'TooManyWaiting';
  }
}

const holding = new AsyncLocalStorage<pg.PoolClient>();

/** The connection of the transaction one stands in, for a library that brings statements of its own. */
export function ownConnection(): pg.PoolClient {
  const client = holding.getStore();
  if (!client) throw new Error('This belongs inside a transaction.');
  return client;
}

/** Leaves the transaction or reading one stands in: for work that is started there and goes on after it. */
export const afterTransaction = <T>(work: () => T): T => holding.exit(work);

/**
 * A pool that refuses two things: a second connection for who holds one already (twenty such requests at once would wait for
 * each other for good), and a queue that grows without end.
 */
class GuardedPool extends pg.Pool {
  override connect(): Promise<pg.PoolClient>;
  override connect(
    callback: (error: Error | undefined, client: pg.PoolClient | undefined, done: () => void) => void,
  ): void;
  override connect(
    callback?: (error: Error | undefined, client: pg.PoolClient | undefined, done: () => void) => void,
  ): Promise<pg.PoolClient> | undefined {
    const refused = holding.getStore()
      ? new Error('A second connection was asked for inside a transaction; only its own is used there.')
      : this.waitingCount >= MOST_WAITING
        ? new TooManyWaiting()
        : undefined;
    if (callback) {
      if (refused) callback(refused, undefined, () => undefined);
      else super.connect(callback as never);
      return undefined;
    }
    return refused ? Promise.reject(refused) : super.connect();
  }
}

/** The connection pool and the typed tables. */
@Injectable()
export class Database implements OnApplicationShutdown {
  readonly url: string;
  readonly ownerUrl: string | undefined;
  readonly pool: pg.Pool;
  readonly tables: Tables;
  private readonly readers = new WeakMap<pg.PoolClient, Tables>();

  constructor() {
    const url = process.env['DATABASE_URL'];
    if (!url) throw new Error('DATABASE_URL is not set; start with npm start.');
    this.url = url;
    this.ownerUrl = process.env['DATABASE_OWNER_URL'];
    this.pool = new GuardedPool({
      connectionString: url,
      max: MOST_CONNECTIONS,
      connectionTimeoutMillis: WAIT_MS,
      statement_timeout: 120_000,
      lock_timeout: 20_000,
      idle_in_transaction_session_timeout: 60_000,
    });
    // a lost connection is replaced at the next query: idle ones tell the pool, those in use fail their statement
    this.pool.on('error', () => undefined);
    this.pool.on('connect', (client) => client.on('error', () => undefined));
    this.tables = drizzle(this.pool, { schema });
  }

  /** One transaction on one connection. Inside it only `tx` reaches the database. */
  async transaction<T>(work: (tx: Transaction) => Promise<T>): Promise<T> {
    return this.holding((own) => own.transaction(work));
  }

  /** Several statements over one connection, so that one request waits in the queue once. */
  async reading<T>(work: (reader: Tables) => Promise<T>): Promise<T> {
    return this.holding(work);
  }

  /**
   * Takes a connection and gives it back whatever happens. (The library's own way over the pool keeps it for good where the line
   * drops before the transaction has begun.)
   */
  private async holding<T>(work: (own: Tables) => Promise<T>): Promise<T> {
    const client = await this.pool.connect();
    try {
      let own = this.readers.get(client);
      if (!own) this.readers.set(client, (own = drizzle(client, { schema })));
      const mine = own;
      return await holding.run(client, async () => await work(mine));
    } finally {
      client.release();
    }
  }

  /** Brings the database to the newest shape, as its owner; one process at a time. */
  async migrate(): Promise<void> {
    await prepareDatabase(this.ownerUrl, this.url);
  }

  /** When the newest migration that was applied was written, ms. */
  async newestMigration(): Promise<number> {
    const { rows } = await this.pool.query<{ at: string | null }>(
      'select max(created_at) as at from drizzle.__drizzle_migrations',
    );
    return Number(rows[0]?.at ?? 0);
  }

  /** Work that only one process at a time may do, however many servers start at once; the lock goes with its connection. */
  async alone<T>(lock: number, work: () => Promise<T>): Promise<T> {
    const client = new pg.Client({ connectionString: this.url });
    client.on('error', () => undefined);
    await client.connect();
    try {
      await client.query('select pg_advisory_lock($1)', [lock]);
      return await work();
    } finally {
      await client.end();
    }
  }

  async onApplicationShutdown(): Promise<void> {
    await this.pool.end();
  }
}
