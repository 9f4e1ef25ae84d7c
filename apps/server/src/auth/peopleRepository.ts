import { Inject, Injectable } from '@nestjs/common';
import { and, count, eq, gt, inArray, lte, ne, sql } from 'drizzle-orm';
import { now, nowMs } from '../clock/clock.ts';
import { Database, type Reader, type Transaction } from '../database/database.ts';
import { auditEvent, devicePerson, person, session, signInFailure } from '../database/schema.ts';

export type PersonRow = typeof person.$inferSelect;
type NewPerson = Pick<PersonRow, 'name' | 'signIn' | 'role' | 'passwordHash' | 'createdAt'> & { pinHash?: string };
/** The lock under which the first admin is made. */
const FIRST_ADMIN_LOCK = 471101;
const TRIES_LOCK = 471102;

/** All SQL of people, their sessions, known devices and tries. */
@Injectable()
export class PeopleRepository {
  readonly database: Database;
  constructor(@Inject(Database) database: Database) {
    this.database = database;
  }

  /** Everybody, the first who came first. */
  async all(): Promise<PersonRow[]> {
    return this.database.tables.select().from(person).orderBy(person.createdAt);
  }

  async howMany(reader: Reader = this.database.tables): Promise<number> {
    const [people] = await reader.select({ n: count() }).from(person);
    return people?.n ?? 0;
  }

  async byId(id: string, reader: Reader = this.database.tables): Promise<PersonRow | undefined> {
    const [row] = await reader.select().from(person).where(eq(person.id, id));
    return row;
  }

  async bySignIn(signIn: string, reader: Reader = this.database.tables): Promise<PersonRow | undefined> {
    const [row] = await reader.select().from(person).where(eq(person.signIn, signIn));
    return row;
  }

  async locked(tx: Transaction, id: string): Promise<PersonRow | undefined> {
    const [row] = await tx.select().from(person).where(eq(person.id, id)).for('no key update');
    return row;
  }

  /** Two that make the first admin at once come one after the other. */
  async lockFirstAdmin(tx: Transaction): Promise<void> {
    await tx.execute(sql`select pg_advisory_xact_lock(${FIRST_ADMIN_LOCK})`);
  }

  async add(reader: Reader, values: NewPerson): Promise<PersonRow> {
    const [row] = await reader.insert(person).values(values).returning();
    if (!row) throw new Error('person not stored');
    return row;
  }

  async change(tx: Transaction, id: string, values: Partial<Omit<PersonRow, 'id'>>): Promise<PersonRow> {
    const [row] = await tx
      .update(person)
      .set({ ...values, version: sql`${person.version} + 1` })
      .where(eq(person.id, id))
      .returning();
    if (!row) throw new Error('person not stored');
    return row;
  }

  async setPin(tx: Transaction, id: string, pinHash: string): Promise<void> {
    await tx.update(person).set({ pinHash }).where(eq(person.id, id));
  }

  /** Active admins beside one. */
  async otherAdmins(tx: Transaction, id: string): Promise<number> {
    const [admins] = await tx
      .select({ n: count() })
      .from(person)
      .where(sql`${person.role} = 'admin' and ${person.active} and ${person.id} <> ${id}`);
    return admins?.n ?? 0;
  }

  /** What happened before or beside sign-in, where nobody acts yet. */
  async note(
    reader: Reader,
    who: Pick<PersonRow, 'id' | 'name'> | undefined,
    event: { action: string; summary: string },
  ) {
    await reader
      .insert(auditEvent)
      .values({ at: now(), personId: who?.id ?? null, personName: who?.name ?? 'unknown', ...event });
  }

  /** The active person of a session that is not over. */
  async ofSession(tokenHash: string): Promise<PersonRow | undefined> {
    const { rows } = await this.database.pool.query<PersonRow>({
      name: 'session-person',
      text: `select p.id, p.name, p.sign_in as "signIn", p.role, p.password_hash as "passwordHash", p.pin_hash as "pinHash",
          p.active, p.version, p.created_at as "createdAt"
        from session s join person p on p.id = s.person_id where s.token_hash = $1 and s.expires_at > $2 and p.active`,
      values: [tokenHash, now()],
    });
    return rows[0];
  }

  async openSession(tx: Transaction, values: typeof session.$inferInsert): Promise<void> {
    await tx.insert(session).values(values);
  }

  async closeSession(tx: Transaction, tokenHash: string): Promise<{ personId: string } | undefined> {
    const [gone] = await tx
      .delete(session)
      .where(eq(session.tokenHash, tokenHash))
      .returning({ personId: session.personId });
    return gone;
  }

  /** Ends sessions and known devices of a person, but one session and its device. */
  async endSessions(tx: Transaction, personId: string, but: { tokenHash: string; deviceHash: string }): Promise<void> {
    await tx.delete(session).where(and(eq(session.personId, personId), ne(session.tokenHash, but.tokenHash)));
    await tx
      .delete(devicePerson)
      .where(and(eq(devicePerson.personId, personId), ne(devicePerson.deviceHash, but.deviceHash)));
  }

  /** A device gets another token: who is known on it and who is signed in there stay so. */
  async renameDevice(tx: Transaction, was: string, is: string): Promise<void> {
    await tx.update(devicePerson).set({ deviceHash: is }).where(eq(devicePerson.deviceHash, was));
    await tx.update(session).set({ deviceHash: is }).where(eq(session.deviceHash, was));
  }

  async knowOn(tx: Transaction, deviceHash: string, personId: string): Promise<void> {
    await tx
      .insert(devicePerson)
      .values({ deviceHash, personId, signedInAt: now() })
      .onConflictDoUpdate({ target: [devicePerson.deviceHash, devicePerson.personId], set: { signedInAt: now() } });
  }

  /** Whether a person signed in fully on a device since then. */
  async isKnownOn(deviceHash: string, personId: string, since: Date): Promise<boolean> {
    const rows = await this.database.tables
      .select({ personId: devicePerson.personId })
      .from(devicePerson)
      .where(
        and(
          eq(devicePerson.deviceHash, deviceHash),
          eq(devicePerson.personId, personId),
          gt(devicePerson.signedInAt, since),
        ),
      );
    return rows.length > 0;
  }

  /** Active people with a PIN who signed in fully on a device since then. */
  async knownOn(deviceHash: string, since: Date): Promise<Pick<PersonRow, 'id' | 'name' | 'role'>[]> {
    return this.database.tables
      .select({ id: person.id, name: person.name, role: person.role })
      .from(devicePerson)
      .innerJoin(person, eq(person.id, devicePerson.personId))
      .where(
        and(
          eq(devicePerson.deviceHash, deviceHash),
          eq(person.active, true),
          sql`${person.pinHash} is not null`,
          gt(devicePerson.signedInAt, since),
        ),
      )
      .orderBy(person.name);
  }

  /** Tries under a key since then; whoever asks next for the same key waits until this transaction ends. */
  async lockedTries(tx: Transaction, key: string, since: Date): Promise<number> {
    await tx.execute(sql`select pg_advisory_xact_lock(${TRIES_LOCK}, hashtext(${key}))`);
    const [found] = await tx
      .select({ n: count() })
      .from(signInFailure)
      .where(and(eq(signInFailure.key, key), gt(signInFailure.at, since)));
    return found?.n ?? 0;
  }

  async addTries(tx: Transaction, keys: readonly string[]): Promise<void> {
    await tx.insert(signInFailure).values(keys.map((key) => ({ key, at: new Date(nowMs()) })));
  }

  async forgetTries(keys: readonly string[]): Promise<void> {
    if (keys.length > 0) await this.database.tables.delete(signInFailure).where(inArray(signInFailure.key, [...keys]));
  }

  async takeTryBack(key: string): Promise<void> {
    await this.database.tables.execute(
      sql`delete from sign_in_failure where id = (select max(id) from sign_in_failure where key = ${key})`,
    );
  }

  async pruneTries(until: Date): Promise<void> {
    await this.database.tables.delete(signInFailure).where(lte(signInFailure.at, until));
  }
}
