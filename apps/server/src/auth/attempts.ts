import { Inject, Injectable } from '@nestjs/common';
import { and, count, eq, gt, inArray, lte, sql } from 'drizzle-orm';
import { nowMs } from '../clock/clock.ts';
import { Database } from '../database/database.ts';
import { signInFailure } from '../database/schema.ts';
import { Problem } from '../problem/problem.ts';

/** Tries that did not fit, and the time after which they are forgotten (common practice for interactive sign-in). */
export const MOST_TRIES = 8;
/** From one address many people sign in; against one name many addresses may try. */
export const MOST_TRIES_WIDE = 40;
export const TRIES_MINUTES = 15;

export interface TriesKey {
  key: string;
  most: number;
}

/** Counts tries of passwords and PINs before they are tried, so that a hundred at once are counted one after the other. */
@Injectable()
export class Attempts {
  readonly database: Database;
  constructor(@Inject(Database) database: Database) {
    this.database = database;
  }

  /** Counts one try under every key, or refuses it; what is refused does not count. Throws 429. */
  async count(keys: readonly TriesKey[]): Promise<void> {
    const since = new Date(nowMs() - TRIES_MINUTES * 60_000);
    await this.database.transaction(async (tx) => {
      // keys are locked in one order, so that two tries never wait for each other
      for (const { key, most } of [...keys].sort((a, b) => (a.key < b.key ? -1 : 1))) {
        await tx.execute(sql`select pg_advisory_xact_lock(471102, hashtext(${key}))`);
        const [found] = await tx
          .select({ n: count() })
          .from(signInFailure)
          .where(and(eq(signInFailure.key, key), gt(signInFailure.at, since)));
        if ((found?.n ?? 0) >= most)
          throw new Problem(
            429,
            'Too many tries',
            `Too many tries that did not fit. Wait ${TRIES_MINUTES} minutes, or ask an admin for a new password.`,
          );
      }
      await tx.insert(signInFailure).values(keys.map(({ key }) => ({ key, at: new Date(nowMs()) })));
    });
  }

  /** The secret fitted: its tries are forgotten. */
  async forget(keys: readonly string[]): Promise<void> {
    if (keys.length > 0) await this.database.tables.delete(signInFailure).where(inArray(signInFailure.key, [...keys]));
  }

  /** Takes one counted try back: it fitted, so it was none against the address. */
  async takeBack(key: string): Promise<void> {
    await this.database.tables.execute(
      sql`delete from sign_in_failure where id = (select max(id) from sign_in_failure where key = ${key})`,
    );
  }

  /** Tries too old to count. */
  async prune(): Promise<void> {
    await this.database.tables
      .delete(signInFailure)
      .where(lte(signInFailure.at, new Date(nowMs() - TRIES_MINUTES * 60_000)));
  }
}

/** Tries from one place: an IPv6 network counts as one address. */
export function placeOf(address: string): string {
  if (!address.includes(':') || address.startsWith('::ffff:')) return address;
  const [head = '', tail = ''] = address.split('::');
  const left = head.split(':').filter(Boolean);
  const right = tail.split(':').filter(Boolean);
  const groups = address.includes('::')
    ? [...left, ...Array.from({ length: Math.max(0, 8 - left.length - right.length) }, () => '0'), ...right]
    : left;
  return `${groups.slice(0, 4).join(':')}::/64`;
}
