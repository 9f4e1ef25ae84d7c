import { balanceNow, type StoredSet } from '@norther/core';
import { standingEntries, type keepFamilyBody, type RotorFamilyView } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import type { Reader } from '../database/database.ts';
import { type Act, Writes } from '../database/writes.ts';
import { ReadJob } from '../job/readJob.ts';
import { badField, notFound, Problem } from '../problem/problem.ts';
import { BalanceRepository } from './balanceRepository.ts';
import { FamilyRepository, type FamilyRow } from './familyRepository.ts';

/** Rotor families: set-ups, places and influence sets that the shop keeps under a name for the rotors to come. */
@Injectable()
export class Families {
  readonly writes: Writes;
  readonly read: ReadJob;
  readonly rows: BalanceRepository;
  readonly families: FamilyRepository;
  constructor(
    @Inject(Writes) writes: Writes,
    @Inject(ReadJob) read: ReadJob,
    @Inject(BalanceRepository) rows: BalanceRepository,
    @Inject(FamilyRepository) families: FamilyRepository,
  ) {
    this.writes = writes;
    this.read = read;
    this.rows = rows;
    this.families = families;
  }

  async list(): Promise<RotorFamilyView[]> {
    return (await this.read.database.reading((reader) => this.families.all(reader))).map((f) => ({
      id: f.id,
      name: f.name,
      typed: f.typed,
      setUp: f.setUp,
      influence: f.influence !== null,
      fromJob: f.fromJob,
      person: f.personName,
      at: f.at.toISOString(),
    }));
  }

  async one(reader: Reader, id: string): Promise<FamilyRow> {
    const found = await this.families.standing(reader, id);
    if (!found) throw badField('family', 'This rotor family is not kept any more.');
    return found;
  }

  /** Keeps the set-up of a balance, and the influence of its own trials where both planes were tried. */
  async keep(act: Act, body: z.output<typeof keepFamilyBody>): Promise<{ id: string }> {
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const row = await this.read.row(body.job, tx);
      const found = await this.rows.one(tx, row, body.session);
      if (!found) throw notFound('such balance');
      const is = balanceNow(found.session.setUp, standingEntries(found.entries), found.session.limits);
      const { stored, ...setUp } = found.session.setUp;
      const influence: StoredSet['influence'] | undefined = is.stored ? stored?.influence : is.influence;
      const id = await this.families.add(tx, {
        name: body.name,
        typed: found.session.typed,
        setUp,
        influence: influence ?? null,
        fromJob: row.number,
        personName: act.actor.name,
        at: act.at,
      });
      if (id === undefined)
        throw new Problem(
          409,
          'Exists already',
          `A rotor family named ${body.name} is kept already; take another name.`,
        );
      await audit({
        action: 'balance.family',
        jobId: row.id,
        summary: `Rotor family ${body.name} kept from ${row.number}${influence ? ', with its influence set' : ''}`,
        after: body,
      });
      await tell('shop');
      return { id };
    });
  }

  async retire(act: Act, id: string, reason: string): Promise<void> {
    await this.writes.run(act, async ({ tx, audit, tell }) => {
      const found = await this.families.standing(tx, id);
      if (!found) throw notFound('such rotor family');
      await this.families.retire(tx, id, {
        by: act.actor.name,
        role: act.actor.role,
        at: act.at.toISOString(),
        meaning: 'retired',
        reason,
      });
      await audit({
        action: 'balance.family',
        summary: `Rotor family ${found.name} is not offered any more: ${reason}`,
      });
      await tell('shop');
    });
  }
}
