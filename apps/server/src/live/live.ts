import { Inject, Injectable, Logger, type OnApplicationShutdown, type OnModuleInit } from '@nestjs/common';
import pg from 'pg';
import { Subject } from 'rxjs';
import { Database } from '../database/database.ts';

/** One LISTEN connection per process; every open screen of this process hears what any process has changed. */
@Injectable()
export class Live implements OnModuleInit, OnApplicationShutdown {
  readonly topics = new Subject<string>();
  readonly database: Database;
  private client: pg.Client | undefined;
  private closed = false;
  private readonly log = new Logger('live');
  constructor(@Inject(Database) database: Database) {
    this.database = database;
  }

  async onModuleInit(): Promise<void> {
    await this.listen();
  }

  private async listen(): Promise<void> {
    if (this.closed) return;
    const client = new pg.Client({ connectionString: this.database.url });
    client.on('notification', (n) => this.topics.next(n.payload ?? ''));
    client.on('error', () => undefined);
    client.on('end', () => {
      if (this.closed) return;
      this.log.warn('the database connection for live changes ended; trying again');
      setTimeout(() => void this.listen(), 1000).unref();
    });
    try {
      await client.connect();
      await client.query('listen norther');
      this.client = client;
      this.topics.next('all');
    } catch {
      await client.end().catch(() => undefined);
    }
  }

  async onApplicationShutdown(): Promise<void> {
    this.closed = true;
    this.topics.complete();
    await this.client?.end().catch(() => undefined);
  }
}
