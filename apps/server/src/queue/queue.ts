import { Inject, Injectable, type OnApplicationShutdown } from '@nestjs/common';
import PgBoss from 'pg-boss';
import { afterTransaction, Database, ownConnection } from '../database/database.ts';
import type { Transaction } from '../database/tables.ts';
import { QUEUE_SCHEMA, WORK_QUEUE, type WorkData, type WorkKind } from './kinds.ts';
import { QueueRepository } from './queueRepository.ts';

/** Hands work to the background: the row people see and the queue's order are written in the transaction that asks for it. */
@Injectable()
export class Queue implements OnApplicationShutdown {
  readonly database: Database;
  readonly repository: QueueRepository;
  private starting: Promise<PgBoss> | undefined;
  constructor(@Inject(Database) database: Database, @Inject(QueueRepository) repository: QueueRepository) {
    this.database = database;
    this.repository = repository;
  }

  /** The queue's door, opened at first use; it makes and changes no tables. */
  boss(): Promise<PgBoss> {
    this.starting ??= afterTransaction(async () => {
      const boss = new PgBoss({
        connectionString: this.database.url,
        schema: QUEUE_SCHEMA,
        migrate: false,
        supervise: false,
        schedule: false,
        max: 2,
      });
      boss.on('error', () => undefined);
      await boss.start();
      return boss;
    }).catch((error: unknown) => {
      this.starting = undefined;
      throw error;
    });
    return this.starting;
  }

  async enqueue<K extends WorkKind>(
    tx: Transaction,
    row: { kind: K; data: WorkData[K]; personName: string; jobId?: string | undefined },
  ): Promise<string> {
    const id = await this.repository.add(tx, row);
    const client = ownConnection();
    const boss = await this.boss();
    await boss.send(
      WORK_QUEUE,
      { id },
      {
        retryLimit: 0,
        expireInHours: 2,
        db: { executeSql: (text, values) => client.query(text, values as unknown[]) },
      },
    );
    return id;
  }

  /** Orders the queue has lost or whose worker is gone are given out again; who took them up first has them. */
  async again(id: string): Promise<void> {
    await (
      await this.boss()
    ).send(WORK_QUEUE, { id }, { retryLimit: 0, expireInHours: 2, singletonKey: id, singletonSeconds: 5 });
  }

  async onApplicationShutdown(): Promise<void> {
    const boss = await this.starting?.catch(() => undefined);
    await boss?.stop({ graceful: false }).catch(() => undefined);
  }
}
