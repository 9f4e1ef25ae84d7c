import type { JointTick, StockEntryView, WindingView } from '@norther/contracts';
import type { FieldValue } from '@norther/core';
import { sql } from 'drizzle-orm';
import { customType, timestamp, uuid } from 'drizzle-orm/pg-core';

/** What was typed, by field name; what was read of it, in base units; limits in force, by name. */
export type Typed = Record<string, string>;
export type Values = Record<string, FieldValue>;
export type Limits = Record<string, number>;
export type WindingRole = WindingView['role'];
export type Redesigned = NonNullable<WindingView['redesign']>;
export type JointTicks = Record<string, JointTick>;
export type EntryKind = StockEntryView['kind'];
/** A row of a file that could not be used. */
export interface BadRow {
  line: number;
  text: string;
  reason: string;
}
/** A channel of a trace as it is kept. */
export interface TraceChannelKept {
  name: string;
  unit: string;
  role: string;
}

export const bytea = customType<{ data: Buffer }>({ dataType: () => 'bytea' });
export const now = (name: string) => timestamp(name, { withTimezone: true }).notNull().defaultNow();
export const when = (name: string) => timestamp(name, { withTimezone: true });
export const id = () => uuid('id').primaryKey().defaultRandom();
export const verdictIn = (column: string) => sql.raw(`${column} in ('pass','attention','fail','cannot judge')`);
