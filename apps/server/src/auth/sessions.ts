import type { PersonView, Role, SessionView } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import { and, eq, gt, ne, sql } from 'drizzle-orm';
import { now, nowMs } from '../clock/clock.ts';
import { Database, type Transaction } from '../database/database.ts';
import { auditEvent, devicePerson, person, session } from '../database/schema.ts';
import { Problem } from '../problem/problem.ts';
import { Attempts, MOST_TRIES, MOST_TRIES_WIDE, placeOf, type TriesKey } from './attempts.ts';
import { newToken, secretFits, tokenHash } from './secrets.ts';

/** A session ends after this many hours; a full sign-in on a device keeps PIN switching for as many days. */
const SESSION_HOURS = 14;
const DEVICE_DAYS = 30;

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

/** Where a session ended: its stream, or every stream of a person but one, is closed on every server. */
export const endedSession = (hash: string): string => `!session ${hash}`;
export const endedPerson = (personId: string, but = ''): string => `!person ${personId} ${but}`;

@Injectable()
export class Sessions {
  readonly database: Database;
  readonly attempts: Attempts;
  constructor(@Inject(Database) database: Database, @Inject(Attempts) attempts: Attempts) {
    this.database = database;
    this.attempts = attempts;
  }

  /** Full sign-in by name and password. The device gets a new token: one planted before is worth nothing. */
  async signIn(
    name: string,
    password: string,
    address: string,
    device: string | undefined,
  ): Promise<{ token: string; device: string; person: PersonRow }> {
    const { tables } = this.database;
    const [row] = await tables.select().from(person).where(eq(person.signIn, name));
    const place = placeOf(address);
    const own: TriesKey[] =
      row && device && (await this.isKnown(device, row.id))
        ? // who signed in here before is not locked out by others' tries
          [{ key: `device:${tokenHash(device)}:${name}`, most: MOST_TRIES }]
        : [
            { key: `name:${name}@${place}`, most: MOST_TRIES },
            { key: `name:${name}`, most: MOST_TRIES_WIDE },
          ];
    const wide = `address:${place}`;
    const isDevice = own.length === 1;
    await this.attempts.count(isDevice ? own : [...own, { key: wide, most: MOST_TRIES_WIDE }]);
    const fits = await secretFits(row?.active ? row.passwordHash : null, password);
    if (!row || !fits) {
      await this.audit(this.database.tables, row, 'session.refused', 'name and password did not fit', address);
      throw new Problem(401, 'Not signed in', 'Name and password do not belong together. Check both and try again.', {
        field: 'password',
      });
    }
    await this.attempts.forget(own.map((k) => k.key));
    if (!isDevice) await this.attempts.takeBack(wide);
    const fresh = newToken();
    const token = await this.database.transaction(async (tx) => {
      if (device) {
        const [was, is] = [tokenHash(device), tokenHash(fresh)];
        await tx.update(devicePerson).set({ deviceHash: is }).where(eq(devicePerson.deviceHash, was));
        await tx.update(session).set({ deviceHash: is }).where(eq(session.deviceHash, was));
      }
      await tx
        .insert(devicePerson)
        .values({ deviceHash: tokenHash(fresh), personId: row.id, signedInAt: now() })
        .onConflictDoUpdate({ target: [devicePerson.deviceHash, devicePerson.personId], set: { signedInAt: now() } });
      await this.audit(tx, row, 'session.open', 'signed in', address);
      return this.open(tx, row.id, fresh);
    });
    return { token, device: fresh, person: row };
  }

  /** Switch on a shared tablet: a person known on this device, and the PIN. */
  async switchByPin(
    personId: string,
    pin: string,
    address: string,
    device: string | undefined,
  ): Promise<{ token: string; person: PersonRow }> {
    if (!device)
      throw new Problem(
        401,
        'Not signed in',
        'Sign in with name and password once on this device; after that the PIN is enough.',
      );
    const key = `pin:${tokenHash(device)}:${personId}`;
    await this.attempts.count([{ key, most: MOST_TRIES }]);
    const [row] = (await this.isKnown(device, personId))
      ? await this.database.tables.select().from(person).where(eq(person.id, personId))
      : [];
    const fits = await secretFits(row?.active ? row.pinHash : null, pin);
    if (!row || !fits) {
      await this.audit(this.database.tables, row, 'session.refused', 'the PIN did not fit', address);
      throw new Problem(401, 'Not signed in', 'This PIN does not fit. Try again, or sign in with name and password.', {
        field: 'pin',
      });
    }
    await this.attempts.forget([key]);
    const token = await this.database.transaction(async (tx) => {
      await this.audit(tx, row, 'session.open', 'signed in by PIN', address);
      return this.open(tx, row.id, device);
    });
    return { token, person: row };
  }

  private async audit(
    reader: Transaction | Database['tables'],
    row: PersonRow | undefined,
    action: string,
    what: string,
    address: string,
  ): Promise<void> {
    await reader.insert(auditEvent).values({
      at: now(),
      personId: row?.id ?? null,
      personName: row?.name ?? 'unknown',
      action,
      summary: `${row?.name ?? 'An unknown name'}: ${what}, from ${address}`,
    });
  }

  private async open(tx: Transaction, personId: string, device: string): Promise<string> {
    const token = newToken();
    await tx.insert(session).values({
      tokenHash: tokenHash(token),
      personId,
      deviceHash: tokenHash(device),
      createdAt: now(),
      expiresAt: new Date(nowMs() + SESSION_HOURS * 3_600_000),
    });
    return token;
  }

  /** Sign-out: the session and its live stream end. */
  async close(token: string | undefined): Promise<void> {
    if (!token) return;
    const hash = tokenHash(token);
    await this.database.transaction(async (tx) => {
      const [gone] = await tx.delete(session).where(eq(session.tokenHash, hash)).returning();
      if (!gone) return;
      const [row] = await tx.select().from(person).where(eq(person.id, gone.personId));
      await tx.insert(auditEvent).values({
        at: now(),
        personId: gone.personId,
        personName: row?.name ?? 'unknown',
        action: 'session.close',
        summary: `${row?.name ?? 'Somebody'} signed out`,
      });
      await tx.execute(sql`select pg_notify('norther', ${endedSession(hash)})`);
    });
  }

  /**
   * Ends every session of a person, PIN entry on every device and every open stream: another role or password, no longer
   * active, or signed out everywhere. `but` is the session that goes on, with its device.
   */
  async endAllOf(
    tx: Transaction,
    personId: string,
    but?: { token: string; device: string | undefined },
  ): Promise<void> {
    const kept = but ? tokenHash(but.token) : '';
    const device = but?.device ? tokenHash(but.device) : '';
    await tx.delete(session).where(and(eq(session.personId, personId), ne(session.tokenHash, kept)));
    await tx.delete(devicePerson).where(and(eq(devicePerson.personId, personId), ne(devicePerson.deviceHash, device)));
    await tx.execute(sql`select pg_notify('norther', ${endedPerson(personId, kept)})`);
  }

  async personOf(token: string): Promise<PersonRow | undefined> {
    const { rows } = await this.database.pool.query<Record<string, unknown>>({
      name: 'session-person',
      text: `select p.* from session s join person p on p.id = s.person_id where s.token_hash = $1 and s.expires_at > $2 and p.active`,
      values: [tokenHash(token), now()],
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

  /** Whether a person signed in fully on a device not long ago. */
  private async isKnown(device: string, personId: string): Promise<boolean> {
    const [row] = await this.database.tables
      .select({ personId: devicePerson.personId })
      .from(devicePerson)
      .where(
        and(
          eq(devicePerson.deviceHash, tokenHash(device)),
          eq(devicePerson.personId, personId),
          gt(devicePerson.signedInAt, new Date(nowMs() - DEVICE_DAYS * 86_400_000)),
        ),
      );
    return row !== undefined;
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
          gt(devicePerson.signedInAt, new Date(nowMs() - DEVICE_DAYS * 86_400_000)),
        ),
      )
      .orderBy(person.name);
    return rows.map((r) => ({ ...r, role: r.role as Role }));
  }
}
