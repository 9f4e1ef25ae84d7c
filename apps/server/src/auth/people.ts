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
import type { z } from 'zod';
import { now } from '../clock/clock.ts';
import { Database } from '../database/database.ts';
import { type Act, Writes } from '../database/writes.ts';
import { DEMO_PASSWORD } from '../demo/demoPeople.ts';
import { badField, conflict, notFound, Problem } from '../problem/problem.ts';
import { Shop } from '../shop/shop.ts';
import { ShopRepository } from '../shop/shopRepository.ts';
import { MOST_TRIES } from './attempts.ts';
import { PeopleRepository } from './peopleRepository.ts';
import { hashSecret, secretFits } from './secrets.ts';
import { personView, Sessions } from './sessions.ts';

@Injectable()
export class People {
  readonly database: Database;
  readonly writes: Writes;
  readonly sessions: Sessions;
  readonly shop: Shop;
  readonly people: PeopleRepository;
  readonly shopRow: ShopRepository;
  constructor(
    @Inject(Database) database: Database,
    @Inject(Writes) writes: Writes,
    @Inject(Sessions) sessions: Sessions,
    @Inject(Shop) shop: Shop,
    @Inject(PeopleRepository) people: PeopleRepository,
    @Inject(ShopRepository) shopRow: ShopRepository,
  ) {
    this.database = database;
    this.writes = writes;
    this.sessions = sessions;
    this.shop = shop;
    this.people = people;
    this.shopRow = shopRow;
  }

  async setup(): Promise<SetupView> {
    const settings = await this.shop.settings();
    // names are told before sign-in only while the demo shop is as it was loaded
    const demo = (await this.shopRow.isDemo())
      ? (await this.people.all())
          .filter((p) => p.active)
          .map((p) => ({ signIn: p.signIn, password: DEMO_PASSWORD, name: p.name, role: p.role }))
      : [];
    return { needsFirstAdmin: (await this.people.howMany()) === 0, demo, shopName: settings.name };
  }

  /** Who was admin first, to act for the shop itself. */
  async firstAdmin(): Promise<{ id: string; name: string; role: Role } | undefined> {
    const first = (await this.people.all()).find((p) => p.role === 'admin');
    return first && { id: first.id, name: first.name, role: first.role };
  }

  async createFirstAdmin(body: z.output<typeof setupBody>): Promise<void> {
    const passwordHash = await hashSecret(body.password);
    await this.database.transaction(async (tx) => {
      const { settings: current } = await this.shop.view(tx);
      await this.people.lockFirstAdmin(tx);
      if ((await this.people.howMany(tx)) > 0)
        throw new Problem(409, 'Set up already', 'This Norther has its first admin already. Sign in.');
      const first = await this.people.add(tx, {
        name: body.name,
        signIn: body.signIn,
        role: 'admin',
        passwordHash,
        createdAt: now(),
      });
      await this.shopRow.put(tx, { settings: { ...current, name: body.shopName } });
      await this.people.note(tx, first, {
        action: 'shop.setup',
        summary: `${body.shopName} set up, ${body.name} is its first admin`,
      });
    });
  }

  async list(): Promise<PersonView[]> {
    return (await this.people.all()).sort((a, b) => a.name.localeCompare(b.name)).map(personView);
  }

  async create(act: Act, body: z.output<typeof newPersonBody>): Promise<PersonView> {
    const passwordHash = await hashSecret(body.password);
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      if (await this.people.bySignIn(body.signIn, tx))
        throw badField('signIn', `The sign-in name ${body.signIn} is taken; choose another.`);
      const row = await this.people.add(tx, {
        name: body.name,
        signIn: body.signIn,
        role: body.role,
        passwordHash,
        createdAt: act.at,
      });
      await this.shopRow.isNoDemo(tx);
      const view = personView(row);
      await audit({ action: 'person.add', summary: `${body.name} added as ${body.role}`, after: view });
      await tell('people');
      return view;
    });
  }

  async change(act: Act, id: string, body: z.output<typeof changePersonBody>): Promise<PersonView> {
    const passwordHash = body.password === undefined ? undefined : await hashSecret(body.password);
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const before = await this.people.locked(tx, id);
      if (!before) throw notFound('such person');
      if (before.version !== body.version)
        throw conflict(`${before.name} was changed meanwhile.`, personView(before), body);
      if (before.role === 'admin' && (body.role !== 'admin' || !body.active)) {
        if ((await this.people.otherAdmins(tx, id)) === 0)
          throw badField('role', 'At least one active admin must remain.');
      }
      const row = await this.people.change(tx, id, {
        name: body.name,
        role: body.role,
        active: body.active,
        ...(passwordHash === undefined ? {} : { passwordHash }),
      });
      await this.shopRow.isNoDemo(tx);
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
    const row = await this.people.byId(act.actor.id);
    if (!(await secretFits(row?.passwordHash ?? null, body.current)))
      throw badField('current', 'This is not the password you have now.');
    await this.sessions.attempts.forget([key]);
    const passwordHash = await hashSecret(body.password);
    await this.writes.run(act, async ({ tx, audit }) => {
      await this.people.change(tx, act.actor.id, { passwordHash });
      await this.shopRow.isNoDemo(tx);
      await this.sessions.endAllOf(tx, act.actor.id, act.session);
      await audit({ action: 'person.password', summary: `${act.actor.name} changed the password` });
    });
  }

  /** Ends every session and PIN entry of a person; one's own goes on where `id` is oneself. */
  async signOutEverywhere(act: Act, id: string): Promise<void> {
    await this.writes.run(act, async ({ tx, audit }) => {
      const row = await this.people.byId(id, tx);
      if (!row) throw notFound('such person');
      await this.sessions.endAllOf(tx, id, id === act.actor.id ? act.session : undefined);
      await audit({ action: 'session.end', summary: `${row.name} signed out everywhere` });
    });
  }

  async setPin(act: Act, pin: string): Promise<void> {
    const pinHash = await hashSecret(pin);
    await this.writes.run(act, async ({ tx, audit }) => {
      await this.people.setPin(tx, act.actor.id, pinHash);
      await this.shopRow.isNoDemo(tx);
      await audit({ action: 'person.pin', summary: `${act.actor.name} set a PIN` });
    });
  }
}
