import { Inject, Injectable } from '@nestjs/common';
import { and, desc, eq, sql } from 'drizzle-orm';
import { Database, type Reader, type Transaction } from '../database/database.ts';
import { draft } from '../database/schema.ts';

/** Drafts of one person that a list names at most. */
const MOST_KEYS = 500;

/** All SQL of drafts: one of a person and a key. */
@Injectable()
export class DraftRepository {
  readonly database: Database;
  constructor(@Inject(Database) database: Database) {
    this.database = database;
  }

  async get(
    personId: string,
    key: string,
    reader: Reader = this.database.tables,
  ): Promise<typeof draft.$inferSelect | undefined> {
    const [row] = await reader.select().from(draft).where(of(personId, key));
    return row;
  }

  /** Keys of a person's drafts, the newest first. */
  async keys(personId: string): Promise<string[]> {
    const rows = await this.database.tables
      .select({ key: draft.key })
      .from(draft)
      .where(eq(draft.personId, personId))
      .orderBy(desc(draft.at))
      .limit(MOST_KEYS);
    return rows.map((r) => r.key);
  }

  /** Keeps what was typed; whether it is the first of its key. */
  async put(tx: Transaction, values: { personId: string; key: string; body: object; at: Date }): Promise<boolean> {
    const { body, at } = values;
    const [row] = await tx
      .insert(draft)
      .values(values)
      .onConflictDoUpdate({ target: [draft.personId, draft.key], set: { body, at } })
      .returning({ isNew: sql<boolean>`xmax = 0` });
    return row?.isNew === true;
  }

  /** Takes a draft away and gives what it held. */
  async take(tx: Transaction, personId: string, key: string): Promise<{ body: unknown } | undefined> {
    const [gone] = await tx.delete(draft).where(of(personId, key)).returning({ body: draft.body });
    return gone;
  }
}

const of = (personId: string, key: string) => and(eq(draft.personId, personId), eq(draft.key, key));
