import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Inject, Injectable } from '@nestjs/common';
import { Database } from '../database/database.ts';
import { migrationsFolder } from '../database/prepareDatabase.ts';
import { Problem } from '../problem/problem.ts';
import { QueueRepository } from '../queue/queueRepository.ts';

interface Journal {
  entries: { when: number }[];
}

/** Whether this server can do its work: the database answers, has the newest shape, and the queue is there. */
@Injectable()
export class Readiness {
  readonly database: Database;
  readonly queue: QueueRepository;
  private readonly newest = Math.max(
    ...(JSON.parse(readFileSync(join(migrationsFolder, 'meta', '_journal.json'), 'utf8')) as Journal).entries.map(
      (e) => e.when,
    ),
  );
  constructor(@Inject(Database) database: Database, @Inject(QueueRepository) queue: QueueRepository) {
    this.database = database;
    this.queue = queue;
  }

  async check(): Promise<{ status: 'ready'; workers: number; waiting: number }> {
    const not = (why: string) => new Problem(503, 'Not ready', why);
    const at = await this.database.newestMigration().catch(() => undefined);
    if (at === undefined) throw not('The database does not answer.');
    if (at < this.newest) throw not('The database has not the newest shape yet; it is brought to it at start.');
    if (!(await this.queue.isThere())) throw not('The queue of background work is not there.');
    const { workers, waiting } = await this.queue.depth();
    return { status: 'ready', workers, waiting };
  }
}
