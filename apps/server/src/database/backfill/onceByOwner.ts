import { drizzle } from 'drizzle-orm/node-postgres';
import type pg from 'pg';
import * as schema from '../schema.ts';
import type { Tables } from '../tables.ts';

/** Work on old rows that is done once after the migrations, by the owner and as a whole or not at all. */
export async function onceByOwner(
  owner: pg.Client,
  name: string,
  work: (tables: Tables) => Promise<void>,
): Promise<void> {
  const known = await owner.query('select 1 from done_once where name = $1', [name]);
  if (known.rowCount !== 0) return;
  await owner.query('begin');
  try {
    await work(drizzle(owner, { schema }));
    await owner.query('insert into done_once (name) values ($1)', [name]);
    await owner.query('commit');
  } catch (error) {
    await owner.query('rollback');
    throw error;
  }
}
