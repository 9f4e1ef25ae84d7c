import type { changePersonBody, newPersonBody, PersonView, Role, setupBody, SetupView } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import { count, eq, sql } from 'drizzle-orm';
import type { z } from 'zod';
import { Database } from '../database/database.ts';
import { auditEvent, person, shop } from '../database/schema.ts';
import { type Act, Writes } from '../database/writes.ts';
import { DEMO_PASSWORD } from '../demo/demoPeople.ts';
import { badField, conflict, notFound, Problem } from '../problem/problem.ts';
import { Shop } from '../shop/shop.ts';
import { hashSecret } from './secrets.ts';
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
    const [people] = await this.database.tables.select({ n: count() }).from(person);
    const { settings } = await this.shop.view();
    const [row] = await this.database.tables.select({ demo: shop.demo }).from(shop);
    const demo = row?.demo
      ? (await this.database.tables.select().from(person).where(eq(person.active, true)).orderBy(person.createdAt)).map(
          (p) => ({
            signIn: p.signIn,
            password: DEMO_PASSWORD,
            name: p.name,
            role: p.role as Role,
          }),
        )
      : [];
    return { needsFirstAdmin: (people?.n ?? 0) === 0, demo, shopName: settings.name };
  }

  async createFirstAdmin(body: z.output<typeof setupBody>): Promise<void> {
    const passwordHash = await hashSecret(body.password);
    const { settings: current } = await this.shop.view();
    await this.database.tables.transaction(async (tx) => {
      await tx.execute(sql`select pg_advisory_xact_lock(471101)`);
      const [people] = await tx.select({ n: count() }).from(person);
      if ((people?.n ?? 0) > 0)
        throw new Problem(409, 'Set up already', 'This Norther has its first admin already. Sign in.');
      const [first] = await tx
        .insert(person)
        .values({ name: body.name, signIn: body.signIn, role: 'admin', passwordHash })
        .returning();
      const settings = { ...current, name: body.shopName };
      await tx.insert(shop).values({ id: 1, settings }).onConflictDoUpdate({ target: shop.id, set: { settings } });
      await tx.insert(auditEvent).values({
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
      const view = personView(row);
      await audit({ action: 'person.add', summary: `${body.name} added as ${body.role}`, after: view });
      await tell('people');
      return view;
    });
  }

  async change(act: Act, id: string, body: z.output<typeof changePersonBody>): Promise<PersonView> {
    const passwordHash = body.password === undefined ? undefined : await hashSecret(body.password);
    const view = await this.writes.run(act, async ({ tx, audit, tell }) => {
      const [before] = await tx.select().from(person).where(eq(person.id, id)).for('update');
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
      await audit({
        action: 'person.change',
        summary: `${body.name} changed${passwordHash === undefined ? '' : ', new password'}`,
        before: personView(before),
        after: personView(row),
      });
      await tell('people');
      return personView(row);
    });
    if (!body.active || body.password !== undefined) await this.sessions.closeAllOf(id);
    return view;
  }

  async setPin(act: Act, pin: string): Promise<void> {
    const pinHash = await hashSecret(pin);
    await this.writes.run(act, async ({ tx, audit }) => {
      await tx.update(person).set({ pinHash }).where(eq(person.id, act.actor.id));
      await audit({ action: 'person.pin', summary: `${act.actor.name} set a PIN` });
    });
  }
}
