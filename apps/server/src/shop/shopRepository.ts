import type { ShopSettings } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import { eq } from 'drizzle-orm';
import { Database, type Reader, type Transaction } from '../database/database.ts';
import { shop } from '../database/schema.ts';

export type ShopRow = typeof shop.$inferSelect;

/** All SQL of the shop's settings: one row. */
@Injectable()
export class ShopRepository {
  readonly database: Database;
  constructor(@Inject(Database) database: Database) {
    this.database = database;
  }

  async row(reader: Reader): Promise<ShopRow | undefined> {
    const [row] = await reader.select().from(shop);
    return row;
  }

  async locked(tx: Transaction): Promise<ShopRow | undefined> {
    const [row] = await tx.select().from(shop).for('no key update');
    return row;
  }

  /** The settings as they are from now on. Without a version the version stays. */
  async put(reader: Reader, values: { settings: ShopSettings; version?: number; demo?: boolean }): Promise<void> {
    await reader
      .insert(shop)
      .values({ id: 1, ...values })
      .onConflictDoUpdate({ target: shop.id, set: values });
  }

  /** Whether the demo shop is as it was loaded. */
  async isDemo(): Promise<boolean> {
    return (await this.row(this.database.tables))?.demo === true;
  }

  /** A demo shop whose people were changed is a shop of its own. */
  async isNoDemo(tx: Transaction): Promise<void> {
    await tx.update(shop).set({ demo: false }).where(eq(shop.demo, true));
  }
}
