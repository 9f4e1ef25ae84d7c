import {
  formatNumber,
  judgeTankTest,
  lotsWithin,
  readForm,
  TANK_FIELDS,
  TANK_TEST_FIELDS,
  tankBlocks,
  tankLimitDay,
  type FieldSpec,
  type TankSetUp,
  type TankTested,
  type Typed,
} from '@norther/core';
import {
  dayInZone,
  defaultsOf,
  type changeTankBody,
  type fillTankBody,
  type StockLotView,
  type tankBody,
  type TankView,
} from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import type { Reader } from '../database/tables.ts';
import { type Act, Writes } from '../database/writes.ts';
import { badField, badForm, conflict, notFound } from '../problem/problem.ts';
import { Shop } from '../shop/shop.ts';
import { Stock } from '../stock/stock.ts';
import { TankRepository, type TankRow, type TestRow } from './tankRepository.ts';

const DAY_MS = 86_400_000;

/** Resin tanks: what each holds, its shelf tests and trend, and whether it may be used today. */
@Injectable()
export class Tanks {
  readonly writes: Writes;
  readonly shop: Shop;
  readonly stock: Stock;
  readonly rows: TankRepository;
  constructor(
    @Inject(Writes) writes: Writes,
    @Inject(Shop) shop: Shop,
    @Inject(Stock) stock: Stock,
    @Inject(TankRepository) rows: TankRepository,
  ) {
    this.writes = writes;
    this.shop = shop;
    this.stock = stock;
    this.rows = rows;
  }

  async list(): Promise<TankView[]> {
    return this.rows.database.reading(async (reader) => {
      const out: TankView[] = [];
      for (const row of await this.rows.tanks(reader)) out.push(await this.view(reader, row));
      return out;
    });
  }

  private async view(reader: Reader, row: TankRow): Promise<TankView> {
    const today = await this.shop.today(reader);
    const { settings } = await this.shop.view(reader);
    const tests = await this.rows.tests(reader, row.id);
    const lot = row.lotId === null ? undefined : await this.stock.one(row.lotId, reader);
    const edges = lot ? await this.stock.lots.parents(reader) : [];
    const numbers = new Map((await this.stock.list(reader)).map((l) => [l.id, l.lot]));
    const tested = testedOf(tests, settings.timeZone);
    const last = tested.at(-1);
    return {
      id: row.id,
      name: row.name,
      resin: row.resin,
      typed: row.typed,
      setUp: row.setUp,
      lot: lot
        ? { id: lot.id, lot: lot.lot, leftKg: lot.left, expires: lot.expires, quarantined: lot.quarantined }
        : null,
      within: lot ? lotsWithin(lot.id, edges).flatMap((id) => numbers.get(id) ?? []) : [],
      tests: tests
        .map((t) => ({
          id: t.id,
          at: t.at.toISOString(),
          by: t.personName,
          lot: t.lot,
          typed: t.typed,
          atReference: t.atReference,
          verdict: t.verdict,
          reason: t.reason,
        }))
        .reverse(),
      blocked: row.active ? tankBlocks(row.setUp, tested, lot, today) : ['It is out of use.'],
      limitDay: tankLimitDay(tested, row.setUp.most) ?? null,
      nextTest: last ? new Date(Date.parse(last.day) + row.setUp.everyDays * DAY_MS).toISOString().slice(0, 10) : null,
      active: row.active,
      version: row.version,
    };
  }

  async add(act: Act, body: z.output<typeof tankBody>): Promise<{ id: string }> {
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const set = await this.tankOf(tx, body.typed);
      const row = await this.rows.add(tx, { ...set, at: act.at });
      if (!row) throw badField('name', `There is a tank named ${set.name} already.`);
      await audit({ action: 'tank.add', summary: `Tank ${row.name} for ${row.resin}`, after: body });
      await tell('ovens');
      return { id: row.id };
    });
  }

  async change(act: Act, id: string, body: z.output<typeof changeTankBody>): Promise<{ id: string }> {
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const before = await this.rows.tank(tx, id, 'lock');
      if (!before) throw notFound('such tank');
      const set = await this.tankOf(tx, body.typed);
      const row = await this.rows.change(tx, id, body.version, { ...set, active: body.active });
      if (!row) throw conflict(`${before.name} was changed meanwhile.`, before, body);
      await audit({ action: 'tank.change', summary: `Tank ${row.name} changed`, before, after: body });
      await tell('ovens');
      return { id };
    });
  }

  /** A shelf test: judged by what the tank is set to now; an earlier one stays as it was judged. */
  async test(act: Act, id: string, typed: Typed): Promise<{ verdict: string; reason: string }> {
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const row = await this.rows.tank(tx, id, 'lock');
      if (!row) throw notFound('such tank');
      const values = await this.valuesOf(tx, TANK_TEST_FIELDS, typed);
      const { settings } = await this.shop.view(tx);
      const disc = values['disc'] as boolean | undefined;
      const judged = judgeTankTest(row.setUp, {
        viscosity: Number(values['viscosity']),
        temperature: Number(values['temperature']),
        clean: values['clean'] === true,
        disc,
      });
      if (!(Number(values['viscosity']) > 0)) throw badField('viscosity', 'A viscosity is above zero.');
      await this.rows.addTest(tx, {
        tankId: id,
        lotId: row.lotId,
        typed,
        values,
        setUp: row.setUp,
        atReference: judged.atReference,
        verdict: judged.verdict,
        reason: judged.reason,
        day: dayInZone(act.at, settings.timeZone),
        personName: act.actor.name,
        at: act.at,
      });
      await audit({
        action: 'tank.test',
        summary: `${row.name} tested: ${judged.verdict}. ${judged.reason}`,
        after: typed,
      });
      await tell('ovens');
      return { verdict: judged.verdict, reason: judged.reason };
    });
  }

  /** A top-up: what was in it and what came is a new lot, whose parents are all of them. */
  async fill(act: Act, id: string, body: z.output<typeof fillTankBody>): Promise<{ lot: string }> {
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const row = await this.rows.tank(tx, id, 'lock');
      if (!row) throw notFound('such tank');
      const today = await this.shop.today(tx);
      await this.stock.lots.lockAll(tx);
      const parents: { lot: StockLotView; quantity: number }[] = [];
      for (const [i, { lotId, quantity }] of body.lots.entries()) {
        const lot = await this.stock.one(lotId, tx);
        const field = `lots.${i}`;
        const name = lot.what.kind === 'material' ? lot.what.name : '';
        if (name.toLowerCase() !== row.resin.toLowerCase())
          throw badField(field, `Lot ${lot.lot} is ${name || 'wire'}, not ${row.resin}: they are not mixed.`);
        if (lot.id === row.lotId || parents.some((p) => p.lot.id === lot.id))
          throw badField(field, `Lot ${lot.lot} is named twice, or in it already.`);
        if (lot.unit !== 'kg') throw badField(field, `Lot ${lot.lot} is kept in ${lot.unit}; resin is weighed in kg.`);
        if (lot.quarantined) throw badField(field, `Lot ${lot.lot} is in quarantine.`);
        if (lot.expires !== null && lot.expires < today)
          throw badField(field, `Lot ${lot.lot} ran out on ${lot.expires}.`);
        if (quantity > lot.left + 1e-9)
          throw badField(field, `Only ${formatNumber(lot.left)} kg of lot ${lot.lot} are left.`);
        parents.push({ lot, quantity });
      }
      const before = row.lotId === null ? undefined : await this.stock.one(row.lotId, tx);
      const left = body.leftKg ?? before?.left ?? 0;
      if (before?.quarantined)
        throw badField('lots', `What is in it (lot ${before.lot}) is in quarantine: nothing is added to it.`);
      const prefix = `${row.name.replaceAll(/\s+/g, '-')}/`;
      const number = `${prefix}${(await this.rows.lotsNamed(tx, prefix)) + 1}`;
      const all = [...(before ? [{ lot: before, quantity: left }] : []), ...parents];
      const expiries = all.flatMap((p) => (p.lot.expires === null ? [] : [p.lot.expires])).sort();
      const made = await this.stock.lots.addLot(tx, {
        lot: number,
        what: { kind: 'material', name: row.resin },
        unit: 'kg',
        expires: expiries[0] ?? null,
        note: `in ${row.name}: ${all.map((p) => p.lot.lot).join(', ')}`,
        receivedAt: act.at,
      });
      await this.stock.lots.addParents(
        tx,
        all.map((p) => ({ lotId: made.id, parentId: p.lot.id, quantity: p.quantity })),
      );
      for (const { lot, quantity } of parents)
        await this.stock.put(tx, act, lot.id, 'used', quantity, { reason: `into ${row.name}, lot ${number}` });
      // what was in it goes on as the new lot
      if (before && Math.abs(before.left) > 1e-9)
        await this.stock.put(tx, act, before.id, 'counted', -before.left, { reason: `topped up: now lot ${number}` });
      const total = left + parents.reduce((n, p) => n + p.quantity, 0);
      if (total > 0) await this.stock.put(tx, act, made.id, 'received', total, { reason: `mixed in ${row.name}` });
      await this.rows.hold(tx, id, made.id);
      await audit({
        action: 'tank.fill',
        summary: `${row.name} topped up: lot ${number} of ${all.map((p) => `${p.lot.lot} (${formatNumber(p.quantity, 4)} kg)`).join(', ')}`,
        after: body,
      });
      await tell('stock');
      await tell('ovens');
      return { lot: number };
    });
  }

  /** Why nothing may be impregnated from a tank today. */
  async blocks(reader: Reader, row: TankRow): Promise<string[]> {
    if (!row.active) return ['It is out of use.'];
    const { settings } = await this.shop.view(reader);
    const lot = row.lotId === null ? undefined : await this.stock.one(row.lotId, reader);
    return tankBlocks(
      row.setUp,
      testedOf(await this.rows.tests(reader, row.id), settings.timeZone),
      lot,
      await this.shop.today(reader),
    );
  }

  /** Why a motor may not get this lot: quarantine, shelf life, a tank that was topped up since or is not passed. */
  async whyNotLot(reader: Reader, number: string): Promise<string | undefined> {
    const lot = await this.stock.lots.byNumber(reader, number.trim());
    if (!lot) return undefined;
    const today = await this.shop.today(reader);
    if (lot.quarantined)
      return `Lot ${lot.lot} is in quarantine${lot.heldBy ? ` with lot ${lot.heldBy}, which is in it` : ''}.`;
    if (lot.expires !== null && lot.expires < today) return `Lot ${lot.lot} ran out on ${lot.expires}.`;
    const { settings } = await this.shop.view(reader);
    const edges = await this.stock.lots.parents(reader);
    for (const row of await this.rows.tanks(reader)) {
      if (!row.active || row.lotId === null) continue;
      if (row.lotId === lot.id) {
        const [why] = tankBlocks(
          row.setUp,
          testedOf(await this.rows.tests(reader, row.id), settings.timeZone),
          lot,
          today,
        );
        if (why) return `${row.name}: ${why}`;
      } else if (
        lotsWithin(row.lotId, edges).includes(lot.id) &&
        lot.lot.startsWith(`${row.name.replaceAll(/\s+/g, '-')}/`)
      ) {
        const now = await this.stock.one(row.lotId, reader);
        return `Lot ${lot.lot} was topped up: ${row.name} holds lot ${now.lot} now.`;
      }
    }
    return undefined;
  }

  private async tankOf(reader: Reader, typed: Typed) {
    const v = await this.valuesOf(reader, TANK_FIELDS, typed);
    const n = (name: string) => (v[name] === undefined ? undefined : Number(v[name]));
    const setUp: TankSetUp = {
      unit: v['unit'] as TankSetUp['unit'],
      reference: Number(v['reference']),
      most: Number(v['most']),
      coldest: Number(v['coldest']),
      warmest: Number(v['warmest']),
      everyDays: Number(v['everyDays']),
      ...(n('least') === undefined ? {} : { least: n('least') }),
      ...(n('perK') === undefined ? {} : { perK: n('perK') }),
    };
    if (setUp.least !== undefined && setUp.least >= setUp.most)
      throw badField('most', 'The highest viscosity must lie above the lowest.');
    if (setUp.coldest >= setUp.warmest) throw badField('warmest', 'This must lie above where it begins.');
    if (setUp.everyDays < 1) throw badField('everyDays', 'Type a number of days, 1 or more.');
    return { name: String(v['name']), resin: String(v['resin']), typed, setUp };
  }

  private async valuesOf(reader: Reader, specs: readonly FieldSpec[], typed: Typed) {
    const { settings } = await this.shop.view(reader);
    const reading = readForm(specs, typed, defaultsOf(settings), 'complete');
    if (reading.problems.length > 0) throw badForm(reading.problems);
    return reading.values;
  }
}

const testedOf = (tests: readonly TestRow[], zone: string): TankTested[] =>
  tests.map((t) => ({
    day: dayInZone(t.at, zone),
    verdict: t.verdict,
    reason: t.reason,
    atReference: t.atReference,
  }));
