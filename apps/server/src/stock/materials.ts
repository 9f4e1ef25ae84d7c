import { windingOfPart, defaultsOf } from '@norther/contracts';
import {
  stockBillOfRecord,
  limit,
  operation,
  pickLots,
  useVariancePercent,
  WINDING_PARTS,
  type BillLine,
  type StockBill,
  type WindingPart,
} from '@norther/core';
import { enamelClassOf, dayInZone } from '@norther/contracts';
import type {
  LinePick,
  makeListsBody,
  materialBody,
  MaterialLists,
  MaterialSheet,
  MaterialUse,
  ShopSettings,
  StockLotView,
  useMaterialBody,
} from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import type { Reader, Transaction } from '../database/database.ts';
import { type Act, Writes } from '../database/writes.ts';
import type { JobRow } from '../job/jobRepository.ts';
import { refuseClosed } from '../job/jobViews.ts';
import { partThatCame } from '../job/partThatCame.ts';
import { ReadJob } from '../job/readJob.ts';
import { badField, conflict, notFound, Problem } from '../problem/problem.ts';
import { Shop } from '../shop/shop.ts';
import { sayWhat, Stock } from './stock.ts';
import { StockRepository, type SheetValues } from './stockRepository.ts';

const today = (act: Act, settings: ShopSettings): string => dayInZone(act.at, settings.timeZone);

interface MadeBill {
  bill?: StockBill;
  planRevision?: number;
  why: string;
  settings: ShopSettings;
}

/** Bill, cutting and picking lists of a winding, and what is reserved and used for it. */
@Injectable()
export class Materials {
  readonly writes: Writes;
  readonly read: ReadJob;
  readonly shop: Shop;
  readonly stock: Stock;
  readonly lots: StockRepository;
  constructor(
    @Inject(Writes) writes: Writes,
    @Inject(ReadJob) read: ReadJob,
    @Inject(Shop) shop: Shop,
    @Inject(Stock) stock: Stock,
    @Inject(StockRepository) lots: StockRepository,
  ) {
    this.writes = writes;
    this.read = read;
    this.shop = shop;
    this.stock = stock;
    this.lots = lots;
  }

  async sheet(number: string, part: WindingPart): Promise<MaterialSheet> {
    return this.writes.database.reading(async (reader) => {
      const row = await this.read.row(number, reader);
      const stored = await this.stored(row, part, reader);
      const uses = await this.uses(row, part, reader);
      // lists that are made could be made; only where there are none the reason is looked for
      const why = stored.lists ? '' : (await this.billWith(reader, number, part, stored.typed)).why;
      return { ...stored, part, uses, why };
    });
  }

  /** The bill as it is now, of the released plan; or why there is none. */
  async bill(number: string, part: WindingPart, typed: Record<string, string>): Promise<MadeBill> {
    return this.writes.database.reading((reader) => this.billWith(reader, number, part, typed));
  }

  private async billWith(
    reader: Reader,
    number: string,
    part: WindingPart,
    typed: Record<string, string>,
  ): Promise<MadeBill> {
    const { settings } = await this.shop.view(reader);
    const job = await this.read.detailWith(reader, number);
    const own = windingOfPart(job, part);
    if (!own.plan)
      return { settings, why: 'The winding is not released as a plan yet; the lists are made from the plan.' };
    const lots = await this.stock.list(reader);
    const made = stockBillOfRecord(own.record, own.nameplate, typed, {
      materials: settings.materials,
      defaults: defaultsOf(settings),
      limits: settings.limits,
      enamelClass: enamelClassOf(lots),
    });
    if (!made.bill) return { settings, why: made.problems.map((p) => p.message).join(' ') };
    return { settings, bill: made.bill, planRevision: own.plan.revision, why: '' };
  }

  private async stored(row: JobRow, part: WindingPart, reader?: Reader): Promise<SheetValues> {
    const found = await this.lots.sheet(row, part, reader);
    return { version: found?.version ?? 0, typed: found?.typed ?? {}, lists: found?.lists ?? null };
  }

  /** What the person altered of the bill. Lists made before no longer hold and what they reserved is freed. */
  async save(act: Act, number: string, part: WindingPart, body: z.output<typeof materialBody>): Promise<MaterialSheet> {
    await this.writes.run(act, async ({ tx, audit, tell }) => {
      const row = await this.read.row(number, tx, 'lock');
      refuseClosed(row);
      await partThatCame(this.read.jobs, tx, row, part, 'stator');
      const now = await this.stored(row, part, tx);
      if (now.version !== body.version) throw conflict(`The material of ${number} was changed meanwhile.`, now, body);
      await this.free(tx, act, row, part);
      await this.lots.putSheet(tx, row, part, { version: now.version + 1, typed: body.typed, lists: null });
      await audit({
        action: 'material.save',
        jobId: row.id,
        summary: `Material of ${number} altered`,
        before: now.typed,
        after: body.typed,
      });
      await tell(`job:${number}`);
      return null;
    });
    return this.sheet(number, part);
  }

  /** Makes the cutting and picking lists from the released plan and reserves what the stock has. */
  async makeLists(
    act: Act,
    number: string,
    part: WindingPart,
    body: z.output<typeof makeListsBody>,
  ): Promise<MaterialSheet> {
    await this.writes.run(act, async ({ tx, audit, tell }) => {
      const row = await this.read.row(number, tx, 'lock');
      refuseClosed(row);
      const now = await this.stored(row, part, tx);
      if (now.version !== body.version) throw conflict(`The material of ${number} was changed meanwhile.`, now, body);
      const { bill, planRevision, why, settings } = await this.billWith(tx, number, part, now.typed);
      if (!bill || planRevision === undefined) throw new Problem(422, 'No lists', why);
      // lots are locked in one order and before anything is entered, so that two lists made at once do not promise the same
      // kilogram and never wait for each other
      await this.lots.lockAll(tx);
      await this.free(tx, act, row, part);
      const lots = await this.stock.list(tx);
      const lines = bill.lines.map((line) => pickFor(line, lots, today(act, settings)));
      await this.stock.reserve(
        tx,
        act,
        lines.flatMap((l) => l.picks),
        { jobId: row.id, part, reason: 'picking list' },
      );
      const lists: MaterialLists = { by: act.actor.name, at: act.at.toISOString(), planRevision, bill, lines };
      await this.lots.putSheet(tx, row, part, { version: now.version + 1, typed: now.typed, lists });
      await audit({
        action: 'material.lists',
        jobId: row.id,
        summary: `Cutting and picking lists of ${number} made from plan ${planRevision}`,
        after: { lines },
      });
      await tell(`job:${number}`);
      await tell('stock');
      return null;
    });
    return this.sheet(number, part);
  }

  /** Material taken into a step. Beyond the bill by more than the shop allows, a reason is asked. */
  async use(
    act: Act,
    number: string,
    part: WindingPart,
    body: z.output<typeof useMaterialBody>,
  ): Promise<MaterialSheet> {
    let title = body.code;
    try {
      title = operation(body.code).title;
    } catch {
      throw badField('code', `There is no operation ${body.code}.`);
    }
    const settings = await this.shop.settings();
    await this.writes.run(act, async ({ tx, audit, tell }) => {
      const row = await this.read.row(number, tx, 'lock');
      refuseClosed(row);
      const steps = await this.read.steps(row, tx);
      if (!steps.some((s) => s.code === body.code))
        throw badField('code', `${title} is not in the route of ${number}.`);
      await this.lots.lock(tx, body.lotId);
      const lot = await this.stock.one(body.lotId, tx);
      if (lot.quarantined) throw badField('lotId', `Lot ${lot.lot} is in quarantine; take another.`);
      if (lot.expires !== null && lot.expires < today(act, settings))
        throw badField('lotId', `Lot ${lot.lot} expired on ${lot.expires}; take another.`);
      if (body.quantity > lot.left + 1e-9)
        throw badField('quantity', `Only ${Number(lot.left.toFixed(3))} ${lot.unit} of lot ${lot.lot} are left.`);
      const uses = await this.uses(row, part, tx);
      const mine = uses.find((u) => u.lotId === lot.id);
      const { lists } = await this.stored(row, part, tx);
      // one material may stand in several lines: liner, separator and phase paper of one sheet
      const asked = lists?.bill.lines.filter((l) => isOf(l, lot)) ?? [];
      const billed = asked.length === 0 ? undefined : asked.reduce((n, l) => n + l.quantity, 0);
      const sameLine = uses.filter((u) => u.what === sayWhat(lot.what));
      const total = sameLine.reduce((n, u) => n + u.used, 0) + body.quantity;
      const allowed = limit('stock.useVariancePercent', settings.limits);
      if (billed !== undefined && useVariancePercent(total, billed) > allowed + 1e-9 && body.reason === '')
        throw badField(
          'reason',
          `${Number(total.toFixed(3))} ${lot.unit} are more than ${allowed} % above the ${Number(billed.toFixed(3))} ${lot.unit} of the bill: say why.`,
        );
      const fromReserve = Math.min(mine?.reserved ?? 0, body.quantity);
      const of = { jobId: row.id, part, code: body.code };
      if (fromReserve > 0) await this.stock.put(tx, act, lot.id, 'freed', fromReserve, of);
      await this.stock.put(tx, act, lot.id, 'used', body.quantity, { ...of, reason: body.reason });
      await audit({
        action: 'material.use',
        jobId: row.id,
        summary: `${Number(body.quantity.toFixed(3))} ${lot.unit} of ${sayWhat(lot.what)}, lot ${lot.lot}, used in ${title}${body.reason ? `: ${body.reason}` : ''}`,
        after: body,
      });
      await tell(`job:${number}`);
      await tell('stock');
      return null;
    });
    return this.sheet(number, part);
  }

  /** Whether the lists of the stator's plan are made. */
  async listsMade(row: JobRow, reader: Reader): Promise<boolean> {
    return (await this.stored(row, 'stator', reader)).lists !== null;
  }

  /** A new plan: lists of the old one no longer hold. */
  async drop(tx: Transaction, act: Act, row: JobRow, part: WindingPart): Promise<void> {
    const now = await this.stored(row, part, tx);
    if (now.version === 0) return;
    await this.free(tx, act, row, part);
    await this.lots.putSheet(tx, row, part, { ...now, version: now.version + 1, lists: null });
  }

  /** The motor leaves: what was reserved and not used is free again. */
  async release(tx: Transaction, act: Act, row: JobRow): Promise<void> {
    for (const part of WINDING_PARTS) await this.free(tx, act, row, part, 'the motor left');
  }

  private async free(
    tx: Transaction,
    act: Act,
    row: JobRow,
    part: WindingPart,
    reason = 'lists made anew',
  ): Promise<void> {
    for (const u of await this.uses(row, part, tx))
      if (u.reserved > 1e-9)
        await this.stock.put(tx, act, u.lotId, 'freed', u.reserved, { jobId: row.id, part, reason });
  }

  private async uses(row: JobRow, part: WindingPart, reader: Reader): Promise<MaterialUse[]> {
    return (await this.lots.usesOf(row, part, reader))
      .map((r) => ({
        ...r,
        what: sayWhat(r.what),
        reserved: r.reserved < 1e-9 ? 0 : r.reserved,
        used: r.used < 1e-9 ? 0 : r.used,
      }))
      .filter((r) => r.reserved > 0 || r.used > 0);
  }

  /** The lists as they were made, for printing. */
  async lists(number: string, part: WindingPart): Promise<MaterialLists> {
    const { tables } = this.writes.database;
    const { lists } = await this.stored(await this.read.row(number, tables), part, tables);
    if (!lists) throw notFound(`cutting and picking list of ${number}; make the lists first`);
    return lists;
  }
}

/** Whether a lot is what a line of the bill asks for. */
export function isOf(line: BillLine, lot: Pick<StockLotView, 'what' | 'unit'>): boolean {
  if (lot.what.kind === 'wire')
    return (
      line.use === 'winding wire' &&
      line.bareM !== undefined &&
      Math.abs(line.bareM - lot.what.bareM) < 1e-7 &&
      line.material.endsWith(`grade ${lot.what.grade} ${lot.what.material}`)
    );
  return line.use !== 'winding wire' && lot.what.name === line.material && lot.unit === line.unit;
}

function pickFor(line: BillLine, lots: StockLotView[], today: string): LinePick {
  const able = lots.filter((l) => isOf(line, l));
  const { picks, short } = pickLots(able, line.quantity, today);
  // lines of one material share its lots: what one takes is no longer free for the next
  for (const p of picks) p.lot.free -= p.quantity;
  const priced = picks.filter((p) => p.lot.pricePerUnit !== null);
  return {
    picks: picks.map((p) => ({ lotId: p.lot.id, lot: p.lot.lot, quantity: p.quantity })),
    cost: priced.length === 0 ? null : priced.reduce((n, p) => n + p.quantity * (p.lot.pricePerUnit ?? 0), 0),
    short,
  };
}
