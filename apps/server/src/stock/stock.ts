import type {
  changeLotBody,
  lotBody,
  StockEntryView,
  stockEntryBody,
  StockLotView,
  StockUnit,
  StockWhat,
} from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import { desc, eq, sql } from 'drizzle-orm';
import type { z } from 'zod';
import type { Reader, Transaction } from '../database/database.ts';
import { job, stockEntry, stockLot } from '../database/schema.ts';
import { type Act, Writes } from '../database/writes.ts';
import { badField, conflict, notFound } from '../problem/problem.ts';

type EntryKind = StockEntryView['kind'];

const LEFT = sql<number>`coalesce(sum(case ${stockEntry.kind} when 'received' then ${stockEntry.quantity} when 'counted' then ${stockEntry.quantity} when 'returned' then ${stockEntry.quantity} when 'used' then -${stockEntry.quantity} else 0 end), 0)`;
const RESERVED = sql<number>`coalesce(sum(case ${stockEntry.kind} when 'reserved' then ${stockEntry.quantity} when 'freed' then -${stockEntry.quantity} else 0 end), 0)`;
/** Binary dust of many sums. */
const clean = (x: number): number => Math.round(x * 1e8) / 1e8;

/** What a lot is of, in words. */
export const sayWhat = (w: StockWhat): string =>
  w.kind === 'wire' ? `${w.label} grade ${w.grade} ${w.material}` : w.name;

/** Lots and their entries. What is left of a lot is the sum of its entries; nothing is overwritten. */
@Injectable()
export class Stock {
  readonly writes: Writes;
  constructor(@Inject(Writes) writes: Writes) {
    this.writes = writes;
  }

  async list(reader: Reader, id?: string): Promise<StockLotView[]> {
    const rows = await reader
      .select({ lot: stockLot, left: LEFT, reserved: RESERVED })
      .from(stockLot)
      .leftJoin(stockEntry, eq(stockEntry.lotId, stockLot.id))
      .where(id === undefined ? undefined : eq(stockLot.id, id))
      .groupBy(stockLot.id)
      .orderBy(stockLot.lot);
    return rows.map(({ lot, left, reserved }) => lotView(lot, Number(left), Number(reserved)));
  }

  async one(id: string, reader: Reader): Promise<StockLotView> {
    const [found] = await this.list(reader, id);
    if (!found) throw notFound(`stock lot ${id}`);
    return found;
  }

  async entries(id: string): Promise<StockEntryView[]> {
    const rows = await this.writes.database.tables
      .select({ entry: stockEntry, number: job.number })
      .from(stockEntry)
      .leftJoin(job, eq(job.id, stockEntry.jobId))
      .where(eq(stockEntry.lotId, id))
      .orderBy(desc(stockEntry.id))
      .limit(200);
    return rows.map(({ entry, number }) => ({
      id: entry.id,
      kind: entry.kind as EntryKind,
      quantity: entry.quantity,
      job: number,
      code: entry.code,
      reason: entry.reason,
      person: entry.personName,
      at: entry.at.toISOString(),
    }));
  }

  /** A lot comes in. */
  async receive(act: Act, body: z.output<typeof lotBody>): Promise<StockLotView> {
    if (body.what.kind === 'wire' && body.unit !== 'kg') throw badField('unit', 'Wire is kept in kg.');
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const twice = await tx.select({ id: stockLot.id }).from(stockLot).where(eq(stockLot.lot, body.lot));
      if (twice.length > 0)
        throw badField('lot', `Lot ${body.lot} is in the list already; give this one its own number.`);
      const [row] = await tx
        .insert(stockLot)
        .values({
          lot: body.lot,
          what: body.what,
          unit: body.unit,
          pricePerUnit: body.pricePerUnit ?? null,
          spools: body.spools ?? null,
          expires: body.expires ?? null,
          note: body.note,
          receivedAt: act.at,
        })
        .returning();
      if (!row) throw new Error('lot not stored');
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
      await tx.select({ id: stockLot.id }).from(stockLot).where(eq(stockLot.id, id)).for('no key update');
      const now = await this.one(id, tx);
      if (now.version !== body.version) throw conflict(`Lot ${now.lot} was changed meanwhile.`, now, body);
      const { version, ...rest } = body;
      await tx
        .update(stockLot)
        .set({ ...rest, version: version + 1 })
        .where(eq(stockLot.id, id));
      await audit({ action: 'stock.change', summary: `Lot ${now.lot} changed`, before: now, after: body });
      await tell('stock');
      return this.one(id, tx);
    });
  }

  /** What was taken of a lot and has not come back. */
  private async usedOf(tx: Transaction, id: string): Promise<number> {
    const [row] = await tx
      .select({
        out: sql<number>`coalesce(sum(case ${stockEntry.kind} when 'used' then ${stockEntry.quantity} when 'returned' then -${stockEntry.quantity} else 0 end), 0)`,
      })
      .from(stockEntry)
      .where(eq(stockEntry.lotId, id));
    return clean(Number(row?.out ?? 0));
  }

  /** What came, went, was brought back, or is left by a count. */
  async enter(act: Act, id: string, body: z.output<typeof stockEntryBody>): Promise<StockLotView> {
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      await tx.select({ id: stockLot.id }).from(stockLot).where(eq(stockLot.id, id)).for('no key update');
      const now = await this.one(id, tx);
      if (body.kind !== 'counted' && body.quantity <= 0) throw badField('quantity', 'Type how much, above zero.');
      if (body.kind === 'used' && now.quarantined)
        throw badField('kind', `Lot ${now.lot} is in quarantine; a foreman frees it before any of it is used.`);
      if (body.kind === 'returned') {
        const out = await this.usedOf(tx, id);
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
    of: { jobId: string; part: string; reason: string },
  ): Promise<void> {
    if (picks.length === 0) return;
    const rest = { kind: 'reserved', ...of, personName: act.actor.name, at: act.at };
    await tx.insert(stockEntry).values(picks.map(({ lotId, quantity }) => ({ lotId, quantity, ...rest })));
  }

  /** One entry, inside a change that does more. */
  async put(
    tx: Transaction,
    act: Act,
    lotId: string,
    kind: EntryKind,
    quantity: number,
    of: { jobId?: string; part?: string; code?: string; reason?: string },
  ): Promise<void> {
    await tx.insert(stockEntry).values({
      lotId,
      kind,
      quantity,
      jobId: of.jobId ?? null,
      part: of.part ?? null,
      code: of.code ?? null,
      reason: of.reason === '' ? null : (of.reason ?? null),
      personName: act.actor.name,
      at: act.at,
    });
  }
}

const say = (x: number): string => String(Number(x.toFixed(3)));

function lotView(row: typeof stockLot.$inferSelect, left: number, reserved: number): StockLotView {
  return {
    id: row.id,
    lot: row.lot,
    what: row.what as StockWhat,
    unit: row.unit as StockUnit,
    left: clean(left),
    reserved: clean(reserved),
    free: Math.max(0, clean(left - reserved)),
    pricePerUnit: row.pricePerUnit,
    spools: row.spools,
    expires: row.expires,
    quarantined: row.quarantined,
    note: row.note,
    receivedAt: row.receivedAt.toISOString(),
    version: row.version,
  };
}
