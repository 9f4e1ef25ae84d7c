import type {
  changePersonBody,
  newPersonBody,
  ownPasswordBody,
  PersonView,
  Role,
  setupBody,
  SetupView,
} from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import { count, eq, sql } from 'drizzle-orm';
import type { z } from 'zod';
import { now } from '../clock/clock.ts';
import { Database, type Transaction } from '../database/database.ts';
import { auditEvent, person, shop } from '../database/schema.ts';
import { type Act, Writes } from '../database/writes.ts';
import { DEMO_PASSWORD } from '../demo/demoPeople.ts';
import { badField, conflict, notFound, Problem } from '../problem/problem.ts';
import { Shop } from '../shop/shop.ts';
import { MOST_TRIES } from './attempts.ts';
import { hashSecret, secretFits } from './secrets.ts';
import { personView, Sessions } from './sessions.ts';

@Injectable()
export class People {
  readonly database: Database;
  readonly writes: Writes;
  readonly sessions: Sessions;
  readonly shop: Shop;
  constructor(
    @Inject(Database) database: Database,
    @Inject(Writes) writes: Writes,
    @Inject(Sessions) sessions: Sessions,
    @Inject(Shop) shopService: Shop,
  ) {
    this.database = database;
    this.writes = writes;
    this.sessions = sessions;
    this.shop = shopService;
  }

  async setup(): Promise<SetupView> {
    const { tables } = this.database;
    const [people] = await tables.select({ n: count() }).from(person);
    const { settings } = await this.shop.view(tables);
    // names are told before sign-in only while the demo shop is as it was loaded
    const [row] = await tables.select({ demo: shop.demo }).from(shop);
    const demo = row?.demo
      ? (await tables.select().from(person).where(eq(person.active, true)).orderBy(person.createdAt)).map((p) => ({
          signIn: p.signIn,
          password: DEMO_PASSWORD,
          name: p.name,
          role: p.role as Role,
        }))
      : [];
    return { needsFirstAdmin: (people?.n ?? 0) === 0, demo, shopName: settings.name };
  }

  /** Who was admin first, to act for the shop itself. */
  async firstAdmin(): Promise<{ id: string; name: string; role: Role } | undefined> {
    const [row] = await this.database.tables
      .select({ id: person.id, name: person.name, role: person.role })
      .from(person)
      .where(eq(person.role, 'admin'))
      .orderBy(person.createdAt)
      .limit(1);
    return row && { ...row, role: row.role as Role };
  }

  async createFirstAdmin(body: z.output<typeof setupBody>): Promise<void> {
    const passwordHash = await hashSecret(body.password);
    await this.database.transaction(async (tx) => {
      const { settings: current } = await this.shop.view(tx);
      await tx.execute(sql`select pg_advisory_xact_lock(471101)`);
      const [people] = await tx.select({ n: count() }).from(person);
      if ((people?.n ?? 0) > 0)
        throw new Problem(409, 'Set up already', 'This Norther has its first admin already. Sign in.');
      const [first] = await tx
        .insert(person)
        .values({ name: body.name, signIn: body.signIn, role: 'admin', passwordHash, createdAt: now() })
        .returning();
      const settings = { ...current, name: body.shopName };
      await tx.insert(shop).values({ id: 1, settings }).onConflictDoUpdate({ target: shop.id, set: { settings } });
      await tx.insert(auditEvent).values({
        at: now(),
        personId: first?.id ?? null,
        personName: body.name,
        action: 'shop.setup',
        summary: `${body.shopName} set up, ${body.name} is its first admin`,
      });
    });
  }

  async list(): Promise<PersonView[]> {
    return (await this.database.tables.select().from(person).orderBy(person.name)).map(personView);
  }

  async create(act: Act, body: z.output<typeof newPersonBody>): Promise<PersonView> {
    const passwordHash = await hashSecret(body.password);
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const [taken] = await tx.select({ id: person.id }).from(person).where(eq(person.signIn, body.signIn));
      if (taken) throw badField('signIn', `The sign-in name ${body.signIn} is taken; choose another.`);
      const [row] = await tx
        .insert(person)
        .values({ name: body.name, signIn: body.signIn, role: body.role, passwordHash, createdAt: act.at })
        .returning();
      if (!row) throw new Error('person not stored');
      await this.touch(tx);
      const view = personView(row);
      await audit({ action: 'person.add', summary: `${body.name} added as ${body.role}`, after: view });
      await tell('people');
      return view;
    });
  }

  async change(act: Act, id: string, body: z.output<typeof changePersonBody>): Promise<PersonView> {
    const passwordHash = body.password === undefined ? undefined : await hashSecret(body.password);
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const [before] = await tx.select().from(person).where(eq(person.id, id)).for('no key update');
      if (!before) throw notFound('such person');
      if (before.version !== body.version)
        throw conflict(`${before.name} was changed meanwhile.`, personView(before), body);
      if (before.role === 'admin' && (body.role !== 'admin' || !body.active)) {
        const [admins] = await tx
          .select({ n: count() })
          .from(person)
          .where(sql`${person.role} = 'admin' and ${person.active} and ${person.id} <> ${id}`);
        if ((admins?.n ?? 0) === 0) throw badField('role', 'At least one active admin must remain.');
      }
      const [row] = await tx
        .update(person)
        .set({
          name: body.name,
          role: body.role,
          active: body.active,
          version: before.version + 1,
          ...(passwordHash === undefined ? {} : { passwordHash }),
        })
        .where(eq(person.id, id))
        .returning();
      if (!row) throw new Error('person not stored');
      await this.touch(tx);
      if (!body.active || passwordHash !== undefined || body.role !== before.role)
        await this.sessions.endAllOf(tx, id, id === act.actor.id ? act.session : undefined);
      await audit({
        action: 'person.change',
        summary: `${body.name} changed${passwordHash === undefined ? '' : ', new password'}`,
        before: personView(before),
        after: personView(row),
      });
      await tell('people');
      return personView(row);
    });
  }

  /** One's own password; every other session, PIN entry elsewhere and open streams end. */
  async changeOwnPassword(act: Act, body: z.output<typeof ownPasswordBody>): Promise<void> {
    const key = `password:${act.actor.id}`;
    await this.sessions.attempts.count([{ key, most: MOST_TRIES }]);
    const [row] = await this.database.tables.select().from(person).where(eq(person.id, act.actor.id));
    if (!(await secretFits(row?.passwordHash ?? null, body.current)))
      throw badField('current', 'This is not the password you have now.');
    await this.sessions.attempts.forget([key]);
    const passwordHash = await hashSecret(body.password);
    await this.writes.run(act, async ({ tx, audit }) => {
      await tx
        .update(person)
        .set({ passwordHash, version: sql`${person.version} + 1` })
        .where(eq(person.id, act.actor.id));
      await this.touch(tx);
      await this.sessions.endAllOf(tx, act.actor.id, act.session);
      await audit({ action: 'person.password', summary: `${act.actor.name} changed the password` });
    });
  }

  /** Ends every session and PIN entry of a person; one's own goes on where `id` is oneself. */
  async signOutEverywhere(act: Act, id: string): Promise<void> {
    await this.writes.run(act, async ({ tx, audit }) => {
      const [row] = await tx.select().from(person).where(eq(person.id, id));
      if (!row) throw notFound('such person');
      await this.sessions.endAllOf(tx, id, id === act.actor.id ? act.session : undefined);
      await audit({ action: 'session.end', summary: `${row.name} signed out everywhere` });
    });
  }

  /** A demo shop whose people were changed is a shop of its own: its people are no longer told before sign-in. */
  private async touch(tx: Transaction): Promise<void> {
    await tx.update(shop).set({ demo: false }).where(eq(shop.demo, true));
  }

  async setPin(act: Act, pin: string): Promise<void> {
    const pinHash = await hashSecret(pin);
    await this.writes.run(act, async ({ tx, audit }) => {
      await tx.update(person).set({ pinHash }).where(eq(person.id, act.actor.id));
      await this.touch(tx);
      await audit({ action: 'person.pin', summary: `${act.actor.name} set a PIN` });
    });
  }
}
