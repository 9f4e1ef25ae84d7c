import { createHash } from 'node:crypto';
import type { Role } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import { and, eq, sql } from 'drizzle-orm';
import { Problem } from '../problem/problem.ts';
import { Database, type Transaction } from './database.ts';
import { auditEvent, idempotencyKey } from './schema.ts';

export interface Actor {
  id: string;
  name: string;
  role: Role;
}

/** Who acts, when, and the key under which a repeated request is known. */
export interface Act {
  actor: Actor;
  at: Date;
  /** seconds that the request waited for the network */
  waitedS?: number | undefined;
  key?: string | undefined;
  /** the session that acts and its device; a person who changes a password keeps it */
  session?: { token: string; device: string | undefined } | undefined;
  fingerprint?: string | undefined;
}

export interface AuditEntry {
  action: string;
  summary: string;
  jobId?: string | undefined;
  before?: unknown;
  after?: unknown;
}

export interface WriteUnit {
  tx: Transaction;
  audit: (entry: AuditEntry) => Promise<void>;
  /** tells every open screen, once the transaction has ended well */
  tell: (topic: string) => Promise<void>;
}

/**
 * Every change goes through here: one transaction that holds the change, its audit events, its idempotency key and its
 * notice to open screens. A repeated key gets the first answer again and changes nothing.
 */
@Injectable()
export class Writes {
  readonly database: Database;
  constructor(@Inject(Database) database: Database) {
    this.database = database;
  }

  /** A change nobody asks for anew (a paper laid out, a preview kept), with its notice to open screens. */
  async notice(topic: string, change: (tx: Transaction) => Promise<unknown>): Promise<void> {
    await this.database.transaction(async (tx) => {
      await change(tx);
      await tx.execute(sql`select pg_notify('norther', ${topic})`);
    });
  }

  /** Tells every open screen once the transaction has ended well. */
  async tell(tx: Transaction, topic: string): Promise<void> {
    await tx.execute(sql`select pg_notify('norther', ${topic})`);
  }

  async run<T>(act: Act, change: (unit: WriteUnit) => Promise<T>): Promise<T> {
    for (let tries = 1; ; tries++) {
      try {
        return await this.once(act, change);
      } catch (error) {
        // two changes that waited for each other: the database let one go, it is done again
        if (tries >= 4 || !wasInTheWay(error)) throw error;
      }
    }
  }

  /** What a change needs beside its transaction: in a request's own, or in the one that ends work in the background. */
  unit(tx: Transaction, act: Pick<Act, 'actor' | 'at'>): WriteUnit {
    return {
      tx,
      audit: async (entry) => {
        await tx.insert(auditEvent).values({
          at: act.at,
          personId: act.actor.id,
          personName: act.actor.name,
          action: entry.action,
          summary: entry.summary,
          jobId: entry.jobId ?? null,
          before: entry.before ?? null,
          after: entry.after ?? null,
        });
      },
      tell: (topic) => this.tell(tx, topic),
    };
  }

  private async once<T>(act: Act, change: (unit: WriteUnit) => Promise<T>): Promise<T> {
    return this.database.transaction(async (tx) => {
      if (act.key !== undefined) {
        const fingerprint = act.fingerprint ?? '';
        const fresh = await tx
          .insert(idempotencyKey)
          .values({ personId: act.actor.id, key: act.key, fingerprint, at: act.at })
          .onConflictDoNothing()
          .returning({ key: idempotencyKey.key });
        if (fresh.length === 0) {
          const [known] = await tx
            .select()
            .from(idempotencyKey)
            .where(and(eq(idempotencyKey.personId, act.actor.id), eq(idempotencyKey.key, act.key)));
          if (known?.fingerprint !== fingerprint) {
            throw new Problem(422, 'Not taken', 'This idempotency key was used for another request.');
          }
          return known.response as T;
        }
      }
      const answer = await change(this.unit(tx, act));
      if (act.key !== undefined) {
        await tx
          .update(idempotencyKey)
          .set({ response: (answer ?? null) as object })
          .where(and(eq(idempotencyKey.personId, act.actor.id), eq(idempotencyKey.key, act.key)));
      }
      return answer;
    });
  }
}

const wasInTheWay = (error: unknown): boolean => {
  const { code, cause } = (error ?? {}) as { code?: string; cause?: { code?: string } };
  return ['40P01', '40001'].includes(cause?.code ?? code ?? '');
};

/** What is never kept, not even as part of a fingerprint. */
const SECRETS = /^(password|current|pin)$/i;

/** Fingerprint of a request, so that one key cannot stand for two different ones. */
export function fingerprintOf(method: string, path: string, body: unknown): string {
  return createHash('sha256')
    .update(
      `${method} ${path} ${Buffer.isBuffer(body) ? createHash('sha256').update(body).digest('hex') : JSON.stringify(body ?? null, (name, value: unknown) => (SECRETS.test(name) ? null : value))}`,
    )
    .digest('hex');
}
