import { Inject, Injectable } from '@nestjs/common';
import { nowMs } from '../clock/clock.ts';
import { Database } from '../database/database.ts';
import { Problem } from '../problem/problem.ts';
import { PeopleRepository } from './peopleRepository.ts';

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
  readonly people: PeopleRepository;
  constructor(@Inject(Database) database: Database, @Inject(PeopleRepository) people: PeopleRepository) {
    this.database = database;
    this.people = people;
  }

  /** Counts one try under every key, or refuses it; what is refused does not count. Throws 429. */
  async count(keys: readonly TriesKey[]): Promise<void> {
    const since = new Date(nowMs() - TRIES_MINUTES * 60_000);
    await this.database.transaction(async (tx) => {
      // keys are locked in one order, so that two tries never wait for each other
      for (const { key, most } of [...keys].sort((a, b) => (a.key < b.key ? -1 : 1))) {
        if ((await this.people.lockedTries(tx, key, since)) >= most)
          throw new Problem(
            429,
            'Too many tries',
            `Too many tries that did not fit. Wait ${TRIES_MINUTES} minutes, or ask an admin for a new password.`,
          );
      }
      await this.people.addTries(
        tx,
        keys.map((k) => k.key),
      );
    });
  }

  /** The secret fitted: its tries are forgotten. */
  async forget(keys: readonly string[]): Promise<void> {
    await this.people.forgetTries(keys);
  }

  /** Takes one counted try back: it fitted, so it was none against the address. */
  async takeBack(key: string): Promise<void> {
    await this.people.takeTryBack(key);
  }

  /** Tries too old to count. */
  async prune(): Promise<void> {
    await this.people.pruneTries(new Date(nowMs() - TRIES_MINUTES * 60_000));
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
