import type {
  changeLotBody,
  lotBody,
  StockEntryView,
  stockEntryBody,
  StockLotView,
  StockWhat,
} from '@norther/contracts';
import type { WindingPart } from '@norther/core';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import type { Reader, Transaction } from '../database/database.ts';
import { type Act, Writes } from '../database/writes.ts';
import { badField, conflict, notFound } from '../problem/problem.ts';
import { lotView, StockRepository } from './stockRepository.ts';

type EntryKind = StockEntryView['kind'];

/** Entries of a lot that are shown. */
const MOST_ENTRIES = 200;

/** What a lot is of, in words. */
export const sayWhat = (w: StockWhat): string =>
  w.kind === 'wire' ? `${w.label} grade ${w.grade} ${w.material}` : w.name;

/** Lots and their entries. What is left of a lot is the sum of its entries; nothing is overwritten. */
@Injectable()
export class Stock {
  readonly writes: Writes;
  readonly lots: StockRepository;
  constructor(@Inject(Writes) writes: Writes, @Inject(StockRepository) lots: StockRepository) {
    this.writes = writes;
    this.lots = lots;
  }

  async list(reader?: Reader): Promise<StockLotView[]> {
    return this.lots.lots(reader);
  }

  async one(id: string, reader: Reader): Promise<StockLotView> {
    const [found] = await this.lots.lots(reader, id);
    if (!found) throw notFound(`stock lot ${id}`);
    return found;
  }

  async entries(id: string): Promise<StockEntryView[]> {
    return this.lots.entries(id, MOST_ENTRIES);
  }

  /** A lot comes in. */
  async receive(act: Act, body: z.output<typeof lotBody>): Promise<StockLotView> {
    if (body.what.kind === 'wire' && body.unit !== 'kg') throw badField('unit', 'Wire is kept in kg.');
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      if (await this.lots.isLot(tx, body.lot))
        throw badField('lot', `Lot ${body.lot} is in the list already; give this one its own number.`);
      const row = await this.lots.addLot(tx, {
        lot: body.lot,
        what: body.what,
        unit: body.unit,
        pricePerUnit: body.pricePerUnit ?? null,
        spools: body.spools ?? null,
        expires: body.expires ?? null,
        note: body.note,
        receivedAt: act.at,
      });
      await this.put(tx, act, row.id, 'received', body.quantity, {});
      await audit({
        action: 'stock.receive',
        summary: `Lot ${body.lot} of ${sayWhat(body.what)}: ${body.quantity} ${body.unit} came in`,
        after: body,
      });
      await tell('stock');
      return lotView(row, body.quantity, 0);
    });
  }

  async change(act: Act, id: string, body: z.output<typeof changeLotBody>): Promise<StockLotView> {
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      await this.lots.lock(tx, id);
      const now = await this.one(id, tx);
      if (now.version !== body.version) throw conflict(`Lot ${now.lot} was changed meanwhile.`, now, body);
      const { version, ...rest } = body;
      await this.lots.changeLot(tx, id, { ...rest, version: version + 1 });
      await audit({ action: 'stock.change', summary: `Lot ${now.lot} changed`, before: now, after: body });
      await tell('stock');
      return this.one(id, tx);
    });
  }

  /** What came, went, was brought back, or is left by a count. */
  async enter(act: Act, id: string, body: z.output<typeof stockEntryBody>): Promise<StockLotView> {
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      await this.lots.lock(tx, id);
      const now = await this.one(id, tx);
      if (body.kind !== 'counted' && body.quantity <= 0) throw badField('quantity', 'Type how much, above zero.');
      if (body.kind === 'used' && now.quarantined)
        throw badField('kind', `Lot ${now.lot} is in quarantine; a foreman frees it before any of it is used.`);
      if (body.kind === 'returned') {
        const out = await this.lots.usedOf(tx, id);
        if (body.quantity > out + 1e-9)
          throw badField(
            'quantity',
            `Only ${say(out)} ${now.unit} of lot ${now.lot} were used and not brought back yet; a find beyond that is a count.`,
          );
      }
      if (body.kind === 'used' && body.quantity > now.left + 1e-9)
        throw badField('quantity', `Only ${say(now.left)} ${now.unit} of lot ${now.lot} are left; count it first.`);
      if (body.kind === 'counted' && body.reason === '')
        throw badField('reason', 'A count that changes what is left needs its reason.');
      const quantity = body.kind === 'counted' ? body.quantity - now.left : body.quantity;
      await this.put(tx, act, id, body.kind, quantity, { reason: body.reason });
      await audit({
        action: `stock.${body.kind}`,
        summary: `Lot ${now.lot}: ${body.kind} ${say(body.quantity)} ${now.unit}${body.reason ? `, ${body.reason}` : ''}`,
        before: { left: now.left },
        after: { left: now.left + (body.kind === 'used' ? -quantity : quantity) },
      });
      await tell('stock');
      return this.one(id, tx);
    });
  }

  /** Promises parts of lots to a job, in one statement. */
  async reserve(
    tx: Transaction,
    act: Act,
    picks: readonly { lotId: string; quantity: number }[],
    of: { jobId: string; part: WindingPart; reason: string },
  ): Promise<void> {
    const rest = { kind: 'reserved' as const, ...of, personName: act.actor.name, at: act.at };
    await this.lots.addEntries(
      tx,
      picks.map(({ lotId, quantity }) => ({ lotId, quantity, ...rest })),
    );
  }

  /** One entry, inside a change that does more. */
  async put(
    tx: Transaction,
    act: Act,
    lotId: string,
    kind: EntryKind,
    quantity: number,
    of: { jobId?: string; part?: WindingPart; code?: string; reason?: string },
  ): Promise<void> {
    await this.lots.addEntries(tx, [
      {
        lotId,
        kind,
        quantity,
        jobId: of.jobId ?? null,
        part: of.part ?? null,
        code: of.code ?? null,
        reason: of.reason === '' ? null : (of.reason ?? null),
        personName: act.actor.name,
        at: act.at,
      },
    ]);
  }
}

const say = (x: number): string => String(Number(x.toFixed(3)));
