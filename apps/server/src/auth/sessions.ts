import type { PersonView, SessionView } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import { now, nowMs } from '../clock/clock.ts';
import { Database, type Transaction } from '../database/database.ts';
import { Writes } from '../database/writes.ts';
import { Problem } from '../problem/problem.ts';
import { Attempts, MOST_TRIES, MOST_TRIES_WIDE, placeOf, type TriesKey } from './attempts.ts';
import { PeopleRepository, type PersonRow } from './peopleRepository.ts';
import { newToken, secretFits, tokenHash } from './secrets.ts';

/** A session ends after this many hours; a full sign-in on a device keeps PIN switching for as many days. */
const SESSION_HOURS = 14;
const DEVICE_DAYS = 30;

export function personView(row: PersonRow): PersonView {
  return {
    id: row.id,
    name: row.name,
    signIn: row.signIn,
    role: row.role,
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
  readonly people: PeopleRepository;
  readonly writes: Writes;
  constructor(
    @Inject(Database) database: Database,
    @Inject(Attempts) attempts: Attempts,
    @Inject(PeopleRepository) people: PeopleRepository,
    @Inject(Writes) writes: Writes,
  ) {
    this.database = database;
    this.attempts = attempts;
    this.people = people;
    this.writes = writes;
  }

  /** Full sign-in by name and password. The device gets a new token: one planted before is worth nothing. */
  async signIn(
    name: string,
    password: string,
    address: string,
    device: string | undefined,
  ): Promise<{ token: string; device: string; person: PersonRow }> {
    const row = await this.people.bySignIn(name);
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
        await this.people.renameDevice(tx, tokenHash(device), tokenHash(fresh));
      }
      await this.people.knowOn(tx, tokenHash(fresh), row.id);
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
    const row = (await this.isKnown(device, personId)) ? await this.people.byId(personId) : undefined;
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
    await this.people.note(reader, row, {
      action,
      summary: `${row?.name ?? 'An unknown name'}: ${what}, from ${address}`,
    });
  }

  private async open(tx: Transaction, personId: string, device: string): Promise<string> {
    const token = newToken();
    await this.people.openSession(tx, {
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
      const gone = await this.people.closeSession(tx, hash);
      if (!gone) return;
      const row = await this.people.byId(gone.personId, tx);
      await this.people.note(tx, row, { action: 'session.close', summary: `${row?.name ?? 'Somebody'} signed out` });
      await this.writes.tell(tx, endedSession(hash));
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
    await this.people.endSessions(tx, personId, { tokenHash: kept, deviceHash: device });
    await this.writes.tell(tx, endedPerson(personId, kept));
  }

  async personOf(token: string): Promise<PersonRow | undefined> {
    return this.people.ofSession(tokenHash(token));
  }

  async view(row: PersonRow, device: string | undefined): Promise<SessionView> {
    return { person: personView(row), known: await this.knownOn(device) };
  }

  /** Whether a person signed in fully on a device not long ago. */
  private async isKnown(device: string, personId: string): Promise<boolean> {
    return this.people.isKnownOn(tokenHash(device), personId, deviceSince());
  }

  async knownOn(device: string | undefined): Promise<SessionView['known']> {
    if (!device) return [];
    return this.people.knownOn(tokenHash(device), deviceSince());
  }
}

const deviceSince = (): Date => new Date(nowMs() - DEVICE_DAYS * 86_400_000);
