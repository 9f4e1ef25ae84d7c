import { Inject, Injectable } from '@nestjs/common';
import { and, eq, sql } from 'drizzle-orm';
import { Database } from '../database/database.ts';
import { draft } from '../database/schema.ts';
import { type Act, Writes } from '../database/writes.ts';

/** What becomes of a draft that is given up. */
export type DraftEnd = 'discard' | 'recorded';

/** Drafts belong to a person: what was typed and not yet recorded. Its beginning, take-over and end leave an event, not each key. */
@Injectable()
export class Drafts {
  readonly database: Database;
  readonly writes: Writes;
  constructor(@Inject(Database) database: Database, @Inject(Writes) writes: Writes) {
    this.database = database;
    this.writes = writes;
  }

  async read(personId: string, key: string): Promise<{ body: unknown; at: string } | Record<string, never>> {
    const [row] = await this.database.tables
      .select()
      .from(draft)
      .where(and(eq(draft.personId, personId), eq(draft.key, key)));
    return row ? { body: row.body, at: row.at.toISOString() } : {};
  }

  async save(act: Act, key: string, body: object): Promise<void> {
    await this.writes.run({ ...act, key: undefined }, async ({ tx, audit }) => {
      const [row] = await tx
        .insert(draft)
        .values({ personId: act.actor.id, key, body, at: act.at })
        .onConflictDoUpdate({ target: [draft.personId, draft.key], set: { body, at: act.at } })
        .returning({ isNew: sql<boolean>`xmax = 0` });
      if (row?.isNew)
        await audit({ action: 'draft.begin', summary: `${act.actor.name} began a draft: ${key}`, after: { key } });
    });
  }

  /** A draft begun on another device goes on here. */
  async take(act: Act, key: string): Promise<void> {
    await this.writes.run({ ...act, key: undefined }, async ({ tx, audit }) => {
      const [row] = await tx
        .select({ at: draft.at })
        .from(draft)
        .where(and(eq(draft.personId, act.actor.id), eq(draft.key, key)));
      if (row)
        await audit({
          action: 'draft.take',
          summary: `${act.actor.name} went on with a draft on another device: ${key}`,
          after: { key, typedAt: row.at.toISOString() },
        });
    });
  }

  async end(act: Act, key: string, how: DraftEnd): Promise<void> {
    await this.writes.run({ ...act, key: undefined }, async ({ tx, audit }) => {
      const [gone] = await tx
        .delete(draft)
        .where(and(eq(draft.personId, act.actor.id), eq(draft.key, key)))
        .returning({ body: draft.body });
      if (gone)
        await audit({
          action: `draft.${how}`,
          summary: `${act.actor.name}: draft ${key} ${how === 'recorded' ? 'recorded' : 'discarded'}`,
          // what was thrown away can be looked up; what was recorded stands in its record
          before: how === 'discard' ? gone.body : null,
        });
    });
  }
}
