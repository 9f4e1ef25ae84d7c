import { Inject, Injectable } from '@nestjs/common';
import { and, asc, desc, eq, sql } from 'drizzle-orm';
import { Database } from '../database/database.ts';
import { stockLot, tank, tankTest } from '../database/schema.ts';
import type { Reader, Transaction } from '../database/tables.ts';

export type TankRow = typeof tank.$inferSelect;
export type TestRow = typeof tankTest.$inferSelect & { lot: string | null };

/** Tests of a tank that are looked at. */
const MOST_TESTS = 60;

/** All SQL of resin tanks and their tests. */
@Injectable()
export class TankRepository {
  readonly database: Database;
  constructor(@Inject(Database) database: Database) {
    this.database = database;
  }

  async tanks(reader: Reader): Promise<TankRow[]> {
    return reader.select().from(tank).orderBy(asc(tank.at), asc(tank.name));
  }

  async tank(reader: Reader, id: string, lock: 'lock' | 'read' = 'read'): Promise<TankRow | undefined> {
    const query = reader.select().from(tank).where(eq(tank.id, id));
    const [row] = lock === 'lock' ? await query.for('no key update') : await query;
    return row;
  }

  async add(tx: Transaction, row: typeof tank.$inferInsert): Promise<TankRow | undefined> {
    const [made] = await tx.insert(tank).values(row).onConflictDoNothing().returning();
    return made;
  }

  async change(tx: Transaction, id: string, version: number, set: Partial<TankRow>): Promise<TankRow | undefined> {
    const [row] = await tx
      .update(tank)
      .set({ ...set, version: version + 1 })
      .where(and(eq(tank.id, id), eq(tank.version, version)))
      .returning();
    return row;
  }

  async hold(tx: Transaction, id: string, lotId: string): Promise<void> {
    await tx.update(tank).set({ lotId }).where(eq(tank.id, id));
  }

  /** Tests of a tank, the oldest first. */
  async tests(reader: Reader, tankId: string): Promise<TestRow[]> {
    const rows = await reader
      .select({ test: tankTest, lot: stockLot.lot })
      .from(tankTest)
      .leftJoin(stockLot, eq(stockLot.id, tankTest.lotId))
      .where(eq(tankTest.tankId, tankId))
      .orderBy(desc(tankTest.at))
      .limit(MOST_TESTS);
    return rows.map(({ test, lot }) => ({ ...test, lot })).reverse();
  }

  async addTest(tx: Transaction, row: typeof tankTest.$inferInsert): Promise<void> {
    await tx.insert(tankTest).values(row);
  }

  /** How many lots this tank has held: the next of them is numbered so. */
  async lotsNamed(tx: Transaction, prefix: string): Promise<number> {
    const [row] = await tx
      .select({ n: sql<number>`count(*)::int` })
      .from(stockLot)
      .where(sql`starts_with(${stockLot.lot}, ${prefix})`);
    return row?.n ?? 0;
  }
}
