import type { WallView } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import { and, asc, eq, isNull } from 'drizzle-orm';
import { tokenHash } from '../auth/secrets.ts';
import { Database } from '../database/database.ts';
import { wall } from '../database/schema.ts';
import type { Transaction } from '../database/tables.ts';

/** All SQL of the addresses under which the ovens hang on a wall. */
@Injectable()
export class WallRepository {
  readonly database: Database;
  constructor(@Inject(Database) database: Database) {
    this.database = database;
  }
  async all(): Promise<WallView[]> {
    const rows = await this.database.tables.select().from(wall).orderBy(asc(wall.at));
    return rows.map((r) => ({
      id: r.id,
      name: r.name,
      by: r.personName,
      at: r.at.toISOString(),
      revoked: r.revokedAt !== null,
    }));
  }
  async add(tx: Transaction, row: { name: string; secretHash: string; personName: string; at: Date }): Promise<string> {
    const [made] = await tx.insert(wall).values(row).returning({ id: wall.id });
    if (!made) throw new Error('wall not stored');
    return made.id;
  }
  /** @returns its name; undefined where there is none that is still open */
  async revoke(tx: Transaction, id: string, at: Date): Promise<string | undefined> {
    const [row] = await tx
      .update(wall)
      .set({ revokedAt: at })
      .where(and(eq(wall.id, id), isNull(wall.revokedAt)))
      .returning({ name: wall.name });
    return row?.name;
  }
  async isOpen(secret: string): Promise<boolean> {
    const rows = await this.database.tables
      .select({ id: wall.id })
      .from(wall)
      .where(and(eq(wall.secretHash, tokenHash(secret)), isNull(wall.revokedAt)));
    return rows.length > 0;
  }
}
