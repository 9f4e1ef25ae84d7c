import { Inject, Injectable } from '@nestjs/common';
import { eq } from 'drizzle-orm';
import { Database, type Transaction } from '../database/database.ts';
import { attachment } from '../database/schema.ts';

/** All SQL of photographs and documents. */
@Injectable()
export class FileRepository {
  readonly database: Database;
  constructor(@Inject(Database) database: Database) {
    this.database = database;
  }

  async add(tx: Transaction, values: typeof attachment.$inferInsert): Promise<string> {
    const [stored] = await tx.insert(attachment).values(values).returning({ id: attachment.id });
    if (!stored) throw new Error('attachment not stored');
    return stored.id;
  }

  async get(id: string): Promise<typeof attachment.$inferSelect | undefined> {
    const [row] = await this.database.tables.select().from(attachment).where(eq(attachment.id, id));
    return row;
  }
}
