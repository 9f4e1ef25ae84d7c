import { ALL_LIMITS } from '@norther/core';
import {
  dayInZone,
  shopSettingsSchema,
  type changeShopBody,
  type ShopSettings,
  type ShopView,
} from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import { now } from '../clock/clock.ts';
import { Database, type Reader } from '../database/database.ts';
import { type Act, Writes } from '../database/writes.ts';
import { badField, conflict } from '../problem/problem.ts';
import { ShopRepository } from './shopRepository.ts';

const FIRST: ShopSettings = shopSettingsSchema.parse({
  name: 'Motor shop',
  resins: [{ name: 'Polyester dip resin', ratedC: 145, ratedH: 5, floorC: 130, thermalClassC: 155 }],
});

/** A changed time zone counts everywhere within so long. */
const ZONE_KEPT_MS = 10_000;

const LIMIT_IDS = new Set<string>(ALL_LIMITS.map((l) => l.id));
/** A limit that an older Norther had and nothing reads any more stands in nobody's way. */
const withoutRetired = (settings: ShopSettings): ShopSettings => ({
  ...settings,
  limits: Object.fromEntries(Object.entries(settings.limits).filter(([id]) => LIMIT_IDS.has(id))),
});

/** The shop's settings: one row, versioned. */
@Injectable()
export class Shop {
  readonly database: Database;
  readonly writes: Writes;
  readonly rows: ShopRepository;
  private zone: { name: string; readAt: number } | undefined;
  constructor(
    @Inject(Database) database: Database,
    @Inject(Writes) writes: Writes,
    @Inject(ShopRepository) rows: ShopRepository,
  ) {
    this.database = database;
    this.writes = writes;
    this.rows = rows;
  }

  async view(reader: Reader): Promise<ShopView> {
    const row = await this.rows.row(reader);
    return row
      ? { version: row.version, settings: withoutRetired(shopSettingsSchema.parse(row.settings)) }
      : { version: 0, settings: FIRST };
  }

  /** What the shop has settled on, as it is now. */
  async settings(): Promise<ShopSettings> {
    return (await this.view(this.database.tables)).settings;
  }

  async store(settings: ShopSettings, demo: boolean): Promise<void> {
    await this.rows.put(this.database.tables, { settings, demo });
  }

  /** Today where the shop is, year-month-day. */
  async today(reader: Reader = this.database.tables): Promise<string> {
    const { zone } = this;
    if (zone && performance.now() - zone.readAt < ZONE_KEPT_MS) return dayInZone(now(), zone.name);
    const { timeZone } = (await this.view(reader)).settings;
    this.zone = { name: timeZone, readAt: performance.now() };
    return dayInZone(now(), timeZone);
  }

  async change(act: Act, body: z.output<typeof changeShopBody>): Promise<ShopView> {
    for (const [id, value] of Object.entries(body.settings.limits)) {
      const entry = ALL_LIMITS.find((l) => l.id === id);
      if (!entry) throw badField(`limits.${id}`, `There is no limit named ${id}.`);
      if (!(value > 0))
        throw badField(
          `limits.${id}`,
          `${entry.title}: type a number above zero, or clear it for the published ${entry.published}.`,
        );
    }
    const names = body.settings.resins.map((r) => r.name.toLowerCase());
    const twice = names.find((n, i) => names.indexOf(n) !== i);
    if (twice !== undefined) throw badField('resins', `Two resins are called "${twice}"; give each its own name.`);
    const materials = body.settings.materials.map((m) => m.name.toLowerCase());
    const same = materials.find((n, i) => materials.indexOf(n) !== i);
    if (same !== undefined) throw badField('materials', `Two materials are called "${same}"; give each its own name.`);
    const changed = await this.writes.run(act, async ({ tx, audit, tell }) => {
      const row = await this.rows.locked(tx);
      const version = row?.version ?? 0;
      if (version !== body.version)
        throw conflict(
          'The shop settings were changed meanwhile.',
          row ? { version, settings: row.settings } : { version: 0, settings: FIRST },
          body,
        );
      const next = version + 1;
      await this.rows.put(tx, { settings: body.settings, version: next, demo: false });
      await audit({
        action: 'shop.change',
        summary: 'Shop settings changed',
        before: row?.settings ?? FIRST,
        after: body.settings,
      });
      await tell('shop');
      return { version: next, settings: body.settings };
    });
    // once it stands: what is read before would be the old one
    this.zone = undefined;
    return changed;
  }
}
