import { sql } from 'drizzle-orm';
import { boolean, check, doublePrecision, index, integer, jsonb, pgTable, text, uuid } from 'drizzle-orm/pg-core';
import { id, now, when } from './columns.ts';
import { ofJob } from './jobs.ts';

/** A process that does what is queued; it says every few seconds that it is there. */
export const worker = pgTable('worker', {
  id: uuid('id').primaryKey(),
  host: text('host').notNull(),
  pid: integer('pid').notNull(),
  startedAt: now('started_at'),
  heartbeatAt: now('heartbeat_at'),
});

/** Work in the background as people see it; the queue (pg-boss) only hands out its id. */
export const work = pgTable(
  'work',
  {
    id: id(),
    kind: text('kind').notNull(),
    data: jsonb('data').notNull(),
    state: text('state').notNull().default('waiting'),
    /** counts every taking up: what an attempt has done stands only while it is the newest */
    attempt: integer('attempt').notNull().default(0),
    workerId: uuid('worker_id'),
    heartbeatAt: when('heartbeat_at'),
    /** 0 to 1; null where it cannot be said */
    progress: doublePrecision('progress'),
    cancelAsked: boolean('cancel_asked').notNull().default(false),
    jobId: uuid('job_id'),
    personName: text('person_name').notNull(),
    at: now('at'),
    startedAt: when('started_at'),
    endedAt: when('ended_at'),
    result: jsonb('result'),
    problem: text('problem'),
  },
  (t) => [
    ofJob('work_job', t),
    index('work_open')
      .on(t.at)
      .where(sql`state in ('waiting','running')`),
    index('work_kind').on(t.kind, t.at.desc()),
    check('work_state', sql`${t.state} in ('waiting','running','done','failed','cancelled')`),
  ],
);
