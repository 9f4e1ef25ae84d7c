import type { Signed } from '@norther/contracts';
import { Injectable } from '@nestjs/common';
import { and, asc, eq, isNull } from 'drizzle-orm';
import type { Reader, Transaction } from '../database/database.ts';
import { routeTemplate } from '../database/schema.ts';

export type TemplateRow = typeof routeTemplate.$inferSelect;

/** All SQL of the routes that a shop keeps. */
@Injectable()
export class TemplateRepository {
  async all(reader: Reader): Promise<TemplateRow[]> {
    return reader.select().from(routeTemplate).where(isNull(routeTemplate.retired)).orderBy(asc(routeTemplate.name));
  }

  async standing(tx: Transaction, id: string): Promise<TemplateRow | undefined> {
    const [found] = await tx
      .select()
      .from(routeTemplate)
      .where(and(eq(routeTemplate.id, id), isNull(routeTemplate.retired)));
    return found;
  }

  /** Its id; undefined when one of this name is kept. */
  async add(tx: Transaction, values: typeof routeTemplate.$inferInsert): Promise<string | undefined> {
    const [made] = await tx
      .insert(routeTemplate)
      .values(values)
      .onConflictDoNothing()
      .returning({ id: routeTemplate.id });
    return made?.id;
  }

  async retire(tx: Transaction, id: string, retired: Signed): Promise<void> {
    await tx
      .update(routeTemplate)
      .set({ retired })
      .where(and(eq(routeTemplate.id, id), isNull(routeTemplate.retired)));
  }
}
