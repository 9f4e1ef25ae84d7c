import { Inject, Injectable } from '@nestjs/common';
import { type Act, Writes } from '../database/writes.ts';
import { DraftRepository } from './draftRepository.ts';

/** What becomes of a draft that is given up. */
export type DraftEnd = 'discard' | 'recorded';

/** Drafts belong to a person: what was typed and not yet recorded. Its beginning, take-over and end leave an event, not each key. */
@Injectable()
export class Drafts {
  readonly writes: Writes;
  readonly drafts: DraftRepository;
  constructor(@Inject(Writes) writes: Writes, @Inject(DraftRepository) drafts: DraftRepository) {
    this.writes = writes;
    this.drafts = drafts;
  }

  async read(personId: string, key: string): Promise<{ body: unknown; at: string } | Record<string, never>> {
    const row = await this.drafts.get(personId, key);
    return row ? { body: row.body, at: row.at.toISOString() } : {};
  }

  keys(personId: string): Promise<string[]> {
    return this.drafts.keys(personId);
  }

  async save(act: Act, key: string, body: object): Promise<void> {
    await this.writes.run({ ...act, key: undefined }, async ({ tx, audit }) => {
      const isNew = await this.drafts.put(tx, { personId: act.actor.id, key, body, at: act.at });
      if (isNew)
        await audit({ action: 'draft.begin', summary: `${act.actor.name} began a draft: ${key}`, after: { key } });
    });
  }

  /** A draft begun on another device goes on here. */
  async take(act: Act, key: string): Promise<void> {
    await this.writes.run({ ...act, key: undefined }, async ({ tx, audit }) => {
      const row = await this.drafts.get(act.actor.id, key, tx);
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
      const gone = await this.drafts.take(tx, act.actor.id, key);
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
