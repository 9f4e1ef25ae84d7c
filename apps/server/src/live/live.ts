import { randomBytes } from 'node:crypto';
import { Inject, Injectable, Logger, type OnApplicationShutdown, type OnModuleInit } from '@nestjs/common';
import pg from 'pg';
import { Subject } from 'rxjs';
import { Database } from '../database/database.ts';

/** Topics kept for lines that dropped. */
const MOST_HEARD = 2000;

/** One LISTEN connection per process; every open screen of this process hears what any process has changed. */
@Injectable()
export class Live implements OnModuleInit, OnApplicationShutdown {
  readonly topics = new Subject<string>();
  /** the newest topics, so that a line that dropped for a moment hears what it missed; numbers count in this process only */
  readonly heard: { number: number; topic: string }[] = [];
  readonly process = randomBytes(6).toString('hex');
  private count = 0;
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
    client.on('notification', (n) => this.say(n.payload ?? ''));
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
      this.say('all');
    } catch {
      await client.end().catch(() => undefined);
    }
  }

  private say(topic: string): void {
    this.heard.push({ number: ++this.count, topic });
    if (this.heard.length > MOST_HEARD) this.heard.splice(0, this.heard.length - MOST_HEARD);
    this.topics.next(topic);
  }

  /** The number of the newest topic, as a stream's event carries it. */
  get last(): string {
    return `${this.process}-${this.count}`;
  }

  /** Topics after one that a stream had; undefined where it cannot be said what was missed. */
  since(id: string): string[] | undefined {
    const [process, number] = id.split('-');
    const after = Number(number);
    if (process !== this.process || !Number.isSafeInteger(after) || after > this.count) return undefined;
    const oldest = this.heard[0]?.number ?? this.count + 1;
    if (after + 1 < oldest) return undefined;
    return this.heard.filter((h) => h.number > after).map((h) => h.topic);
  }

  async onApplicationShutdown(): Promise<void> {
    this.closed = true;
    this.topics.complete();
    await this.client?.end().catch(() => undefined);
  }
}
