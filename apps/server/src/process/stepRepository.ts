import type { Signed, SpellEnd } from '@norther/contracts';
import type { FieldValue, StepState, Verdict } from '@norther/core';
import { Injectable } from '@nestjs/common';
import { and, desc, eq, gte, isNull, sql } from 'drizzle-orm';
import type { Transaction } from '../database/database.ts';
import { routeStep, stepAttempt, stepSpell } from '../database/schema.ts';
import type { AttemptRow, JobRow, SpellRow } from '../job/jobRepository.ts';

/** All SQL of steps and the attempts at them. */
@Injectable()
export class StepRepository {
  async setState(tx: Transaction, row: JobRow, code: string, state: StepState, at: Date): Promise<void> {
    await tx
      .update(routeStep)
      .set({ state, changedAt: at, ...(state === 'waived' ? {} : { waived: null }) })
      .where(and(eq(routeStep.jobId, row.id), eq(routeStep.code, code)));
  }

  async setWaived(tx: Transaction, row: JobRow, code: string, waived: Signed): Promise<void> {
    await tx
      .update(routeStep)
      .set({ waived })
      .where(and(eq(routeStep.jobId, row.id), eq(routeStep.code, code)));
  }

  async addNote(tx: Transaction, row: JobRow, code: string, signed: Signed): Promise<void> {
    await tx
      .update(routeStep)
      .set({ notes: sql`${routeStep.notes} || ${JSON.stringify([signed])}::jsonb` })
      .where(and(eq(routeStep.jobId, row.id), eq(routeStep.code, code)));
  }

  async addAttempt(
    tx: Transaction,
    values: Pick<AttemptRow, 'jobId' | 'code' | 'number' | 'startedBy' | 'startedAt' | 'override'>,
  ): Promise<string> {
    const [made] = await tx.insert(stepAttempt).values(values).returning({ id: stepAttempt.id });
    if (!made) throw new Error('attempt not stored');
    return made.id;
  }

  /** Who stands at an attempt now. */
  async openSpells(tx: Transaction, attemptId: string): Promise<SpellRow[]> {
    return tx
      .select()
      .from(stepSpell)
      .where(and(eq(stepSpell.attemptId, attemptId), isNull(stepSpell.endedAt)));
  }

  async addSpell(
    tx: Transaction,
    of: { row: JobRow; attemptId: string; person: { id: string; name: string }; at: Date },
  ): Promise<void> {
    await tx.insert(stepSpell).values({
      jobId: of.row.id,
      attemptId: of.attemptId,
      personId: of.person.id,
      personName: of.person.name,
      startedAt: of.at,
    });
  }

  /** Ends one person's stretch, or everybody's. */
  async endSpells(
    tx: Transaction,
    attemptId: string,
    end: { at: Date; how: SpellEnd; personId?: string; handedTo?: string },
  ): Promise<void> {
    await tx
      .update(stepSpell)
      .set({ endedAt: end.at, ended: end.how, handedTo: end.handedTo ?? null })
      .where(
        and(
          eq(stepSpell.attemptId, attemptId),
          isNull(stepSpell.endedAt),
          end.personId === undefined ? undefined : eq(stepSpell.personId, end.personId),
        ),
      );
  }

  async lastAttempt(tx: Transaction, row: JobRow, code: string): Promise<AttemptRow | undefined> {
    const [last] = await tx
      .select()
      .from(stepAttempt)
      .where(and(eq(stepAttempt.jobId, row.id), eq(stepAttempt.code, code)))
      .orderBy(desc(stepAttempt.number))
      .limit(1);
    return last;
  }

  async finishAttempt(
    tx: Transaction,
    id: string,
    end: {
      finishedBy: string;
      finishedAt: Date;
      typed: Record<string, string>;
      values: Record<string, FieldValue>;
      verdict: Verdict;
      reason: string;
    },
  ): Promise<void> {
    await tx.update(stepAttempt).set(end).where(eq(stepAttempt.id, id));
  }

  async signAttempt(tx: Transaction, id: string, signed: Signed): Promise<void> {
    await tx.update(stepAttempt).set({ signed }).where(eq(stepAttempt.id, id));
  }

  /** Operations that failed or were reopened after a moment. */
  async failedSince(tx: Transaction, row: JobRow, since: Date): Promise<string[]> {
    const failed = await tx
      .select({ code: stepAttempt.code })
      .from(stepAttempt)
      .where(and(eq(stepAttempt.jobId, row.id), eq(stepAttempt.verdict, 'fail'), gte(stepAttempt.finishedAt, since)));
    const reopened = await tx
      .select({ code: routeStep.code })
      .from(routeStep)
      .where(
        and(
          eq(routeStep.jobId, row.id),
          sql`exists (select 1 from jsonb_array_elements(${routeStep.notes}) n
            where n->>'meaning' = 'reopened' and (n->>'at')::timestamptz >= ${since})`,
        ),
      );
    return [...failed, ...reopened].map((r) => r.code);
  }
}
