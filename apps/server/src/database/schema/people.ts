import type { Role } from '@norther/contracts';
import { sql } from 'drizzle-orm';
import {
  bigserial,
  boolean,
  check,
  foreignKey,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  unique,
  uuid,
} from 'drizzle-orm/pg-core';
import { id, now, when } from './columns.ts';

export const person = pgTable(
  'person',
  {
    id: id(),
    name: text('name').notNull(),
    signIn: text('sign_in').notNull(),
    role: text('role').$type<Role>().notNull(),
    passwordHash: text('password_hash'),
    pinHash: text('pin_hash'),
    active: boolean('active').notNull().default(true),
    version: integer('version').notNull().default(1),
    createdAt: now('created_at'),
  },
  (t) => [
    unique('person_sign_in_unique').on(t.signIn),
    check('person_role_known', sql`${t.role} in ('viewer','winder','tester','foreman','admin')`),
  ],
);

export const session = pgTable(
  'session',
  {
    tokenHash: text('token_hash').primaryKey(),
    personId: uuid('person_id').notNull(),
    deviceHash: text('device_hash').notNull(),
    createdAt: now('created_at'),
    expiresAt: when('expires_at').notNull(),
  },
  (t) => [
    foreignKey({ name: 'session_person', columns: [t.personId], foreignColumns: [person.id] }).onDelete('cascade'),
    index('session_device').on(t.deviceHash),
  ],
);

/** People who signed in fully on a device and may switch to themselves by PIN there. */
export const devicePerson = pgTable(
  'device_person',
  { deviceHash: text('device_hash').notNull(), personId: uuid('person_id').notNull(), signedInAt: now('signed_in_at') },
  (t) => [
    primaryKey({ name: 'device_person_key', columns: [t.deviceHash, t.personId] }),
    foreignKey({ name: 'device_person_person', columns: [t.personId], foreignColumns: [person.id] }).onDelete(
      'cascade',
    ),
  ],
);

export const signInFailure = pgTable(
  'sign_in_failure',
  { id: bigserial('id', { mode: 'number' }).primaryKey(), key: text('key').notNull(), at: now('at') },
  (t) => [index('sign_in_failure_key_at').on(t.key, t.at)],
);

export const draft = pgTable(
  'draft',
  { personId: uuid('person_id').notNull(), key: text('key').notNull(), body: jsonb('body').notNull(), at: now('at') },
  (t) => [
    primaryKey({ name: 'draft_key', columns: [t.personId, t.key] }),
    foreignKey({ name: 'draft_person', columns: [t.personId], foreignColumns: [person.id] }).onDelete('cascade'),
  ],
);
