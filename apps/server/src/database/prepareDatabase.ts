import { fileURLToPath } from 'node:url';
import { backfillMeasurements } from './backfill/measurements.ts';
import { QUEUE_SCHEMA } from '../queue/kinds.ts';
import { prepareQueue } from '../queue/prepareQueue.ts';
import { backfillRecordKinds } from './backfill/recordKinds.ts';
import { backfillTraces } from './backfill/traces.ts';
import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';

/** Tables whose rows may go: what is not a record of work. */
const MAY_DELETE = ['session', 'device_person', 'sign_in_failure', 'draft', 'idempotency_key', 'work', 'worker'];
/** Tables whose rows are only ever added. */
const ONLY_ADDED = [
  'audit_event',
  'cure_run',
  'balance_run',
  'stock_entry',
  'winding_record',
  'failure_record',
  'archive_record',
  'measurement',
  'trace_chunk',
  'instrument_batch',
  'done_once',
  'oven_reading',
  'oven_event',
  'lot_parent',
  'tank_test',
  'vessel_part',
  'vessel_event',
  'vessel_signal',
  'sensor_reading',
  'oven_log',
  'balance_entry',
  'test_trace',
];

export const migrationsFolder = fileURLToPath(new URL('../../drizzle', import.meta.url));

/**
 * Brings the database to the newest shape and gives the running user what it needs and no more. Migrations run as the owner
 * where one is named; with one user for both, that user could drop the guards, and the start says so.
 */
export async function prepareDatabase(ownerUrl: string | undefined, url: string): Promise<void> {
  const client = new pg.Client({ connectionString: ownerUrl || url });
  client.on('error', () => undefined);
  await client.connect();
  try {
    await client.query('select pg_advisory_lock(471100)');
    await migrate(drizzle(client), { migrationsFolder });
    await backfillMeasurements(client);
    await backfillTraces(client);
    await backfillRecordKinds(client);
    await prepareQueue(client);
    const runner = decodeURIComponent(new URL(url).username);
    if (ownerUrl && runner !== '' && runner !== decodeURIComponent(new URL(ownerUrl).username))
      await grantTo(client, runner);
  } finally {
    await client.query('select pg_advisory_unlock(471100)').catch(() => undefined);
    await client.end();
  }
}

/** The running user reads and adds everywhere, changes where rows change, deletes where rows may go; it owns nothing. */
async function grantTo(client: pg.Client, user: string): Promise<void> {
  const name = client.escapeIdentifier(user);
  const { rows } = await client.query<{ name: string }>(
    `select tablename as name from pg_tables where schemaname = 'public'`,
  );
  const statements = [
    `grant usage on schema public to ${name}`,
    `revoke create on schema public from public`,
    `grant usage on all sequences in schema public to ${name}`,
    `grant usage on schema drizzle to ${name}`,
    `grant select on all tables in schema drizzle to ${name}`,
    `grant usage on schema ${QUEUE_SCHEMA} to ${name}`,
    `grant select, insert, update, delete on all tables in schema ${QUEUE_SCHEMA} to ${name}`,
    `grant execute on all functions in schema ${QUEUE_SCHEMA} to ${name}`,
  ];
  for (const { name: table } of rows) {
    const rights = [
      'select',
      'insert',
      ...(ONLY_ADDED.includes(table) ? [] : ['update']),
      ...(MAY_DELETE.includes(table) ? ['delete'] : []),
    ];
    const on = client.escapeIdentifier(table);
    statements.push(`revoke all on ${on} from ${name}`, `grant ${rights.join(', ')} on ${on} to ${name}`);
  }
  await client.query(`begin; ${statements.join('; ')}; commit`);
}

/** Whether the user of this address could drop what guards the records. */
export async function couldDropGuards(url: string): Promise<boolean> {
  const client = new pg.Client({ connectionString: url });
  client.on('error', () => undefined);
  await client.connect();
  try {
    const { rows } = await client.query<{ could: boolean }>(
      `select (select rolsuper from pg_roles where rolname = current_user)
         or exists(select 1 from pg_class c join pg_namespace n on n.oid = c.relnamespace
              where n.nspname = 'public' and c.relkind = 'r' and pg_has_role(current_user, c.relowner, 'member')) as could`,
    );
    return rows[0]?.could ?? true;
  } finally {
    await client.end();
  }
}
