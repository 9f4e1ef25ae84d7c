import type { PersonView, Role, SessionView } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import { and, count, eq, gt, sql } from 'drizzle-orm';
import { Database } from '../database/database.ts';
import { devicePerson, person, session, signInFailure } from '../database/schema.ts';
import { Problem } from '../problem/problem.ts';
import { newToken, secretFits, tokenHash } from './secrets.ts';

/** A session ends after this many hours; a full sign-in on a device keeps PIN switching for as many days. */
const SESSION_HOURS = 14;
const DEVICE_DAYS = 30;
const MOST_FAILURES = 8;
const FAILURE_MINUTES = 15;

type PersonRow = typeof person.$inferSelect;

export function personView(row: PersonRow): PersonView {
  return {
    id: row.id,
    name: row.name,
    signIn: row.signIn,
    role: row.role as Role,
    active: row.active,
    hasPin: row.pinHash !== null,
    version: row.version,
  };
}

@Injectable()
export class Sessions {
  readonly database: Database;
  constructor(@Inject(Database) database: Database) {
    this.database = database;
  }

  /** Full sign-in by name and password. */
  async signIn(
    name: string,
    password: string,
    address: string,
    device: string | undefined,
  ): Promise<{ token: string; device: string; person: PersonRow }> {
    const keys = [`name:${name}`, `address:${address}`];
    await this.refuseWhenThrottled(keys);
    const [row] = await this.database.tables.select().from(person).where(eq(person.signIn, name));
    const fits = await secretFits(row?.active ? row.passwordHash : null, password);
    if (!row || !fits) {
      await this.rememberFailure(keys);
      throw new Problem(401, 'Not signed in', 'Name and password do not belong together. Check both and try again.', {
        field: 'password',
      });
    }
    await this.database.tables.delete(signInFailure).where(eq(signInFailure.key, `name:${name}`));
    const deviceToken = device ?? newToken();
    await this.database.tables
      .insert(devicePerson)
      .values({ deviceHash: tokenHash(deviceToken), personId: row.id, signedInAt: new Date() })
      .onConflictDoUpdate({
        target: [devicePerson.deviceHash, devicePerson.personId],
        set: { signedInAt: new Date() },
      });
    return { token: await this.open(row.id, deviceToken), device: deviceToken, person: row };
  }

  /** Switch on a shared tablet: a person known on this device, and the PIN. */
  async switchByPin(
    personId: string,
    pin: string,
    device: string | undefined,
  ): Promise<{ token: string; person: PersonRow }> {
    const refuse = new Problem(
      401,
      'Not signed in',
      'This PIN does not fit. Try again, or sign in with name and password.',
      { field: 'pin' },
    );
    if (!device)
      throw new Problem(
        401,
        'Not signed in',
        'Sign in with name and password once on this device; after that the PIN is enough.',
      );
    const keys = [`pin:${tokenHash(device)}:${personId}`];
    await this.refuseWhenThrottled(keys);
    const [row] = await this.database.tables
      .select({ person })
      .from(devicePerson)
      .innerJoin(person, eq(person.id, devicePerson.personId))
      .where(
        and(
          eq(devicePerson.deviceHash, tokenHash(device)),
          eq(devicePerson.personId, personId),
          gt(devicePerson.signedInAt, sql`now() - interval '${sql.raw(String(DEVICE_DAYS))} days'`),
        ),
      );
    const fits = await secretFits(row?.person.active ? row.person.pinHash : null, pin);
    if (!row || !fits) {
      await this.rememberFailure(keys);
      throw refuse;
    }
    return { token: await this.open(row.person.id, device), person: row.person };
  }

  private async open(personId: string, device: string): Promise<string> {
    const token = newToken();
    await this.database.tables.insert(session).values({
      tokenHash: tokenHash(token),
      personId,
      deviceHash: tokenHash(device),
      expiresAt: new Date(Date.now() + SESSION_HOURS * 3_600_000),
    });
    return token;
  }

  async close(token: string | undefined): Promise<void> {
    if (token) await this.database.tables.delete(session).where(eq(session.tokenHash, tokenHash(token)));
  }

  /** Ends every session of a person: a changed role, password or a person no longer active. */
  async closeAllOf(personId: string): Promise<void> {
    await this.database.tables.delete(session).where(eq(session.personId, personId));
  }

  async personOf(token: string): Promise<PersonRow | undefined> {
    const { rows } = await this.database.pool.query<Record<string, unknown>>({
      name: 'session-person',
      text: `select p.* from session s join person p on p.id = s.person_id where s.token_hash = $1 and s.expires_at > now() and p.active`,
      values: [tokenHash(token)],
    });
    const row = rows[0];
    return row === undefined
      ? undefined
      : ({
          id: row['id'],
          name: row['name'],
          signIn: row['sign_in'],
          role: row['role'],
          passwordHash: row['password_hash'],
          pinHash: row['pin_hash'],
          active: row['active'],
          version: row['version'],
          createdAt: row['created_at'],
        } as PersonRow);
  }

  async view(row: PersonRow, device: string | undefined): Promise<SessionView> {
    return { person: personView(row), known: await this.knownOn(device) };
  }

  async knownOn(device: string | undefined): Promise<SessionView['known']> {
    if (!device) return [];
    const rows = await this.database.tables
      .select({ id: person.id, name: person.name, role: person.role })
      .from(devicePerson)
      .innerJoin(person, eq(person.id, devicePerson.personId))
      .where(
        and(
          eq(devicePerson.deviceHash, tokenHash(device)),
          eq(person.active, true),
          sql`${person.pinHash} is not null`,
        ),
      )
      .orderBy(person.name);
    return rows.map((r) => ({ ...r, role: r.role as Role }));
  }

  private async refuseWhenThrottled(keys: string[]): Promise<void> {
    for (const key of keys) {
      const [found] = await this.database.tables
        .select({ n: count() })
        .from(signInFailure)
        .where(
          and(
            eq(signInFailure.key, key),
            gt(signInFailure.at, sql`now() - interval '${sql.raw(String(FAILURE_MINUTES))} minutes'`),
          ),
        );
      const most = key.startsWith('address:') ? 5 * MOST_FAILURES : MOST_FAILURES;
      if ((found?.n ?? 0) >= most) {
        throw new Problem(
          429,
          'Too many tries',
          `Too many tries that did not fit. Wait ${FAILURE_MINUTES} minutes, or ask an admin for a new password.`,
        );
      }
    }
  }

  private async rememberFailure(keys: string[]): Promise<void> {
    await this.database.tables.insert(signInFailure).values(keys.map((key) => ({ key })));
  }
}
