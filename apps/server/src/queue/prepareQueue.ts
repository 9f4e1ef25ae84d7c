import PgBoss from 'pg-boss';
import type pg from 'pg';
import { QUEUE_SCHEMA, QUEUES } from './kinds.ts';

/** Makes the queue's own tables and queues, as their owner; does nothing where they stand already. */
export async function prepareQueue(owner: pg.Client): Promise<void> {
  const made = await owner.query<{ there: boolean }>(
    `select to_regclass('${QUEUE_SCHEMA}.version') is not null as there`,
  );
  const db = { executeSql: (text: string, values: unknown[]) => owner.query(text, values as never) };
  const boss = new PgBoss({ db, schema: QUEUE_SCHEMA, migrate: true, supervise: false, schedule: false });
  boss.on('error', () => undefined);
  await boss.start();
  try {
    const known = made.rows[0]?.there ? (await boss.getQueues()).map((q) => q.name) : [];
    for (const name of QUEUES) if (!known.includes(name)) await boss.createQueue(name, { name, policy: 'standard' });
  } finally {
    await boss.stop({ graceful: false, close: false });
  }
}
