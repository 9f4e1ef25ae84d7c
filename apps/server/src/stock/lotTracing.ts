import { limit, lotsAfter, lotsWithin, operationIf, orderAgain } from '@norther/core';
import type { LotTrace, MotorLot, OrderAgain, StockLotView } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import { now } from '../clock/clock.ts';
import { notFound } from '../problem/problem.ts';
import { Shop } from '../shop/shop.ts';
import { sayWhat } from './stock.ts';
import { StockRepository } from './stockRepository.ts';

/** Days that use is looked at over. */
const USE_DAYS = 90;

/** Lots traced both ways: what is in a lot, what it went into, which motors have it; and when material is to be ordered again. */
@Injectable()
export class LotTracing {
  readonly lots: StockRepository;
  readonly shop: Shop;
  constructor(@Inject(StockRepository) lots: StockRepository, @Inject(Shop) shop: Shop) {
    this.lots = lots;
    this.shop = shop;
  }

  async of(id: string): Promise<LotTrace> {
    return this.lots.database.reading(async (reader) => {
      const all = await this.lots.lots(reader);
      const own = all.find((l) => l.id === id);
      if (!own) throw notFound(`stock lot ${id}`);
      const edges = await this.lots.parents(reader);
      const after = pick(all, lotsAfter(id, edges));
      const motors = await this.lots.motorsOf(reader, [own, ...after]);
      return {
        within: pick(all, lotsWithin(id, edges)).map(short),
        after: after.map(short),
        motors: motors
          .map((m) => ({ ...m, how: sayHow(m.code), at: m.at.toISOString() }))
          .filter((m, i, list) => list.findIndex((o) => o.job === m.job && o.lot === m.lot && o.how === m.how) === i)
          .sort((a, b) => b.at.localeCompare(a.at))
          .map(({ code: _, ...m }) => m),
      };
    });
  }

  /** The lots in a motor. */
  async inMotor(number: string): Promise<MotorLot[]> {
    return this.lots.database.reading(async (reader) => {
      const all = await this.lots.lots(reader);
      const edges = await this.lots.parents(reader);
      const found = await this.lots.lotsOf(reader, number);
      return found
        .map(({ lot, code }): MotorLot => {
          const own = all.find((l) => l.lot === lot);
          return {
            lot,
            what: own ? sayWhat(own.what) : 'not in the stock list',
            how: sayHow(code),
            quarantined: own?.quarantined ?? false,
            within: own ? pick(all, lotsWithin(own.id, edges)).map((l) => l.lot) : [],
          };
        })
        .filter((m, i, list) => list.findIndex((o) => o.lot === m.lot && o.how === m.how) === i)
        .sort((a, b) => a.lot.localeCompare(b.lot));
    });
  }

  /** What is to be ordered again, from its use of the last months. */
  async reorder(): Promise<OrderAgain[]> {
    return this.lots.database.reading(async (reader) => {
      const { settings } = await this.shop.view(reader);
      const today = await this.shop.today(reader);
      const all = await this.lots.lots(reader);
      const used = await this.lots.usedByDay(reader, new Date(now().getTime() - USE_DAYS * 86_400_000));
      const lead = {
        days: limit('stock.leadDays', settings.limits),
        sdDays: limit('stock.leadSdDays', settings.limits),
        z: limit('stock.orderZ', settings.limits),
      };
      const groups = new Map<string, StockLotView[]>();
      for (const l of all) {
        const key = `${sayWhat(l.what)}|${l.unit}`;
        groups.set(key, [...(groups.get(key) ?? []), l]);
      }
      return [...groups.values()]
        .map((lots): OrderAgain => {
          const ids = new Set(lots.map((l) => l.id));
          const byDay = new Map<string, number>();
          for (const u of used) if (ids.has(u.lotId)) byDay.set(u.day, (byDay.get(u.day) ?? 0) + Math.max(0, u.used));
          const is = orderAgain([...byDay.values()], USE_DAYS, lead);
          const free = lots
            .filter((l) => !l.quarantined && (l.expires === null || l.expires >= today))
            .reduce((n, l) => n + l.free, 0);
          const [first] = lots;
          return {
            what: first ? sayWhat(first.what) : '',
            unit: first?.unit ?? '',
            free,
            perDay: is.meanPerDay,
            point: is.point,
            order: is.meanPerDay > 0 && free <= is.point,
          };
        })
        .filter((o) => o.perDay > 0)
        .sort((a, b) => Number(b.order) - Number(a.order) || a.free / (a.point || 1) - b.free / (b.point || 1));
    });
  }
}

const pick = (all: readonly StockLotView[], ids: readonly string[]): StockLotView[] =>
  all.filter((l) => ids.includes(l.id));
const short = (l: StockLotView) => ({ id: l.id, lot: l.lot, what: sayWhat(l.what), quarantined: l.quarantined });
const sayHow = (code: string | null): string =>
  code === null ? 'drawn from stock' : (operationIf(code)?.title ?? code);
