import type { ShopSettings } from '@norther/contracts';
import { sql } from 'drizzle-orm';
import { boolean, check, integer, jsonb, pgTable } from 'drizzle-orm/pg-core';

export const shop = pgTable(
  'shop',
  {
    id: integer('id').primaryKey().default(1),
    version: integer('version').notNull().default(1),
    settings: jsonb('settings').$type<ShopSettings>().notNull(),
    demo: boolean('demo').notNull().default(false),
  },
  (t) => [check('shop_is_one', sql`${t.id} = 1`)],
);
