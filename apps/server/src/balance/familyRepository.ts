import type { Signed } from '@norther/contracts';
import { balanceSetUpSchema } from '@norther/core';
import { Injectable } from '@nestjs/common';
import { and, asc, eq, isNull } from 'drizzle-orm';
import type { Reader, Transaction } from '../database/database.ts';
import { rotorFamily } from '../database/schema.ts';

export type FamilyRow = typeof rotorFamily.$inferSelect;

/** All SQL of the rotor families that a shop keeps. */
@Injectable()
export class FamilyRepository {
  async all(reader: Reader): Promise<FamilyRow[]> {
    return (
      await reader.select().from(rotorFamily).where(isNull(rotorFamily.retired)).orderBy(asc(rotorFamily.name))
    ).map(ofNow);
  }

  async standing(reader: Reader, id: string): Promise<FamilyRow | undefined> {
    const [found] = await reader
      .select()
      .from(rotorFamily)
      .where(and(eq(rotorFamily.id, id), isNull(rotorFamily.retired)));
    return found && ofNow(found);
  }

  /** Its id; undefined when one of this name is kept. */
  async add(tx: Transaction, values: typeof rotorFamily.$inferInsert): Promise<string | undefined> {
    const [made] = await tx.insert(rotorFamily).values(values).onConflictDoNothing().returning({ id: rotorFamily.id });
    return made?.id;
  }

  async retire(tx: Transaction, id: string, retired: Signed): Promise<void> {
    await tx
      .update(rotorFamily)
      .set({ retired })
      .where(and(eq(rotorFamily.id, id), isNull(rotorFamily.retired)));
  }
}
const ofNow = (f: FamilyRow): FamilyRow => ({ ...f, setUp: balanceSetUpSchema.parse(f.setUp) });
