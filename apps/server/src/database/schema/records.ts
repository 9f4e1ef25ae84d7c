import { bigserial, index, jsonb, pgTable, primaryKey, text, uuid } from 'drizzle-orm/pg-core';
import { now } from './columns.ts';

export const idempotencyKey = pgTable(
  'idempotency_key',
  {
    personId: uuid('person_id').notNull(),
    key: text('key').notNull(),
    fingerprint: text('fingerprint').notNull(),
    response: jsonb('response'),
    at: now('at'),
  },
  (t) => [primaryKey({ name: 'idempotency_key_key', columns: [t.personId, t.key] })],
);

export const auditEvent = pgTable(
  'audit_event',
  {
    id: bigserial('id', { mode: 'number' }).primaryKey(),
    at: now('at'),
    personId: uuid('person_id'),
    personName: text('person_name').notNull(),
    action: text('action').notNull(),
    jobId: uuid('job_id'),
    summary: text('summary').notNull(),
    before: jsonb('before'),
    after: jsonb('after'),
  },
  (t) => [index('audit_event_job').on(t.jobId, t.id)],
);

/** Work on old rows that was done once, after a migration. */
export const doneOnce = pgTable('done_once', { name: text('name').primaryKey(), at: now('at') });
