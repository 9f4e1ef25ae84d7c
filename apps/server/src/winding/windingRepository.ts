import type { JointSheet } from '@norther/contracts';
import type { WindingPart } from '@norther/core';
import { Injectable } from '@nestjs/common';
import { and, eq } from 'drizzle-orm';
import type { Reader, Transaction } from '../database/database.ts';
import { failureRecord, jointSheet, windingRecord } from '../database/schema.ts';
import type { JobRow, WindingRow } from '../job/jobRepository.ts';

export type NewWindingRow = typeof windingRecord.$inferInsert;

/** All SQL of winding records and joint sheets. (Reading every revision of a job stands with the job.) */
@Injectable()
export class WindingRepository {
  /** A revision is only ever added. */
  async add(tx: Transaction, values: NewWindingRow): Promise<WindingRow> {
    const [stored] = await tx.insert(windingRecord).values(values).returning();
    if (!stored) throw new Error('winding record not stored');
    return stored;
  }

  /** A revision is only ever added. */
  async addFailure(
    tx: Transaction,
    values: typeof failureRecord.$inferInsert,
  ): Promise<typeof failureRecord.$inferSelect> {
    const [stored] = await tx.insert(failureRecord).values(values).returning();
    if (!stored) throw new Error('failure record not stored');
    return stored;
  }

  async joints(
    row: Pick<JobRow, 'id'>,
    part: WindingPart,
    reader: Reader,
  ): Promise<typeof jointSheet.$inferSelect | undefined> {
    const [found] = await reader
      .select()
      .from(jointSheet)
      .where(and(eq(jointSheet.jobId, row.id), eq(jointSheet.part, part)));
    return found;
  }

  async putJoints(tx: Transaction, row: Pick<JobRow, 'id'>, next: JointSheet): Promise<void> {
    const values = { version: next.version, order: next.order, ticks: next.ticks, asMade: next.asMade };
    await tx
      .insert(jointSheet)
      .values({ jobId: row.id, part: next.part, ...values })
      .onConflictDoUpdate({ target: [jointSheet.jobId, jointSheet.part], set: values });
  }
}
