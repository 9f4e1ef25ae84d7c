import { defaultsOf } from '@norther/contracts';
import {
  familyOf,
  NAMEPLATE_FIELDS,
  nameplateSchema,
  polesFrom,
  readForm,
  type Nameplate,
  type ReadingDefaults,
  type RouteId,
} from '@norther/core';
import type { changeJobBody, JobDetail, newJobBody, ShopSettings, Visit } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import { desc, eq, sql } from 'drizzle-orm';
import type { z } from 'zod';
import type { Transaction } from '../database/database.ts';
import { customer, job, jobCounter, motor, routeStep } from '../database/schema.ts';
import { type Act, Writes } from '../database/writes.ts';
import { badField, badForm, conflict } from '../problem/problem.ts';
import { Shop } from '../shop/shop.ts';
import { ReadJob, refuseClosed, templateOf } from './readJob.ts';

/** The nameplate as typed -> in core units, with the poles worked out when nobody typed them. */
export function readNameplate(typed: Record<string, string>, defaults: ReadingDefaults): Nameplate {
  const reading = readForm(NAMEPLATE_FIELDS, typed, defaults);
  if (reading.problems.length > 0)
    throw badForm(
      reading.problems.map((p) => ({ field: `nameplate.${p.field}`, message: `${p.label}: ${p.message}` })),
    );
  const parsed = nameplateSchema.safeParse(reading.values);
  if (!parsed.success)
    throw badForm(
      parsed.error.issues.map((i) => ({
        field: `nameplate.${i.path.join('.')}`,
        message: `${i.path.join('.')}: ${i.message}.`,
      })),
    );
  const plate = parsed.data;
  if (plate.poles === undefined && plate.speedRpm !== undefined && plate.frequencyHz !== undefined) {
    const found = polesFrom(plate.speedRpm, plate.frequencyHz);
    if (found.likely !== 'not an induction motor speed') plate.poles = found.poles;
  }
  return plate;
}

/** The operations a motor gets when it is taken in: the route's, less what this shop leaves out. */
function operationsOf(row: Parameters<typeof templateOf>[0], settings: ShopSettings): string[] {
  const out = new Set(settings.leaveOut[row.route as RouteId] ?? []);
  return Object.keys(templateOf(row)).filter((code) => !out.has(code));
}

/** Takes motors in and keeps what is known of a visit. */
@Injectable()
export class Jobs {
  readonly writes: Writes;
  readonly read: ReadJob;
  readonly shop: Shop;
  constructor(@Inject(Writes) writes: Writes, @Inject(ReadJob) read: ReadJob, @Inject(Shop) shop: Shop) {
    this.writes = writes;
    this.read = read;
    this.shop = shop;
  }

  async take(act: Act, body: z.output<typeof newJobBody>): Promise<{ number: string }> {
    const { settings } = await this.shop.view(this.shop.database.tables);
    const defaults = defaultsOf(settings);
    const plate = readNameplate(body.nameplate, defaults);
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const owner = await customerOf(tx, body.customerId, body.customerName);
      const motorId = await motorFor(tx, owner, plate.serial);
      const number = await this.nextNumber(tx, act.at);
      const [row] = await tx
        .insert(job)
        .values({
          number,
          motorId,
          customerId: owner,
          nameplateTyped: body.nameplate,
          nameplate: plate,
          family: familyOf(plate) ?? null,
          readWith: defaults,
          what: body.what,
          came: body.intake.came,
          quantity: body.intake.quantity,
          intake: body.intake,
          route: body.route,
          impregnation: body.impregnation,
          priority: body.priority,
          promised: body.promised ?? null,
          takenInAt: act.at,
        })
        .returning();
      if (!row) throw new Error('job not stored');
      await tx.insert(routeStep).values(operationsOf(row, settings).map((code) => ({ jobId: row.id, code })));
      await audit({
        action: 'job.take',
        jobId: row.id,
        summary: `${number} taken in: ${body.what} of ${body.customerName}`,
        after: body,
      });
      await tell(`job:${number}`);
      return { number };
    });
  }

  async change(act: Act, number: string, body: z.output<typeof changeJobBody>): Promise<JobDetail> {
    const { settings } = await this.shop.view(this.shop.database.tables);
    const defaults = defaultsOf(settings);
    const plate = readNameplate(body.nameplate, defaults);
    await this.writes.run(act, async ({ tx, audit, tell }) => {
      const row = await this.read.row(number, tx, 'lock');
      refuseClosed(row);
      const before = await this.read.detailWith(tx, number);
      if (row.version !== body.version) throw conflict(`Job ${number} was changed meanwhile.`, before, body);
      const owner = await customerOf(tx, undefined, body.customerName);
      const was = (row.nameplate as Nameplate).serial?.trim().toLowerCase();
      const same = owner === row.customerId && was === plate.serial?.trim().toLowerCase();
      const changed = {
        ...row,
        // another customer or serial number: this visit belongs to another motor, earlier visits stay with theirs
        motorId: same ? row.motorId : await motorFor(tx, owner, plate.serial),
        customerId: owner,
        nameplateTyped: body.nameplate,
        nameplate: plate,
        family: familyOf(plate) ?? null,
        readWith: defaults,
        what: body.what,
        came: body.intake.came,
        quantity: body.intake.quantity,
        intake: body.intake,
        route: body.route,
        impregnation: body.impregnation,
        priority: body.priority,
        promised: body.promised ?? null,
        version: row.version + 1,
      };
      const routeChanged =
        row.came !== changed.came || row.route !== changed.route || row.impregnation !== changed.impregnation;
      if (routeChanged && act.actor.role !== 'foreman' && act.actor.role !== 'admin') {
        throw badField('route', 'Only a foreman changes the route of a job that is in the house.');
      }
      await tx.update(job).set(changed).where(eq(job.id, row.id));
      // a changed route keeps every operation that both have
      if (routeChanged)
        await tx
          .insert(routeStep)
          .values(operationsOf(changed, settings).map((code) => ({ jobId: row.id, code })))
          .onConflictDoNothing();
      await audit({
        action: 'job.change',
        jobId: row.id,
        summary: `${number} changed`,
        before: {
          version: before.version,
          customerName: before.customer,
          what: before.what,
          nameplate: before.nameplateTyped,
          intake: before.intake,
          route: before.route,
          impregnation: before.impregnation,
          priority: before.priority,
          ...(before.promised === null ? {} : { promised: before.promised }),
        },
        after: body,
      });
      await tell(`job:${number}`);
      return null;
    });
    return this.read.detail(number);
  }

  /** Earlier visits of a serial number, newest first. */
  async visits(serial: string): Promise<Visit[]> {
    const rows = await this.read.database.tables
      .select({
        number: job.number,
        what: job.what,
        customer: customer.name,
        takenInAt: job.takenInAt,
        closedAt: job.closedAt,
      })
      .from(job)
      .innerJoin(motor, eq(motor.id, job.motorId))
      .innerJoin(customer, eq(customer.id, job.customerId))
      .where(sql`lower(${motor.serial}) = ${serial.trim().toLowerCase()}`)
      .orderBy(desc(job.takenInAt))
      .limit(20);
    return rows.map((r) => ({
      ...r,
      takenInAt: r.takenInAt.toISOString(),
      closedAt: r.closedAt?.toISOString() ?? null,
    }));
  }

  async customers(query: string): Promise<{ id: string; name: string }[]> {
    return this.read.database.tables
      .select({ id: customer.id, name: customer.name })
      .from(customer)
      .where(sql`${customer.name} ilike ${`%${query.replaceAll(/[%_\\]/g, '\\$&')}%`}`)
      .orderBy(customer.name)
      .limit(20);
  }

  private async nextNumber(tx: Transaction, at: Date): Promise<string> {
    const year = at.getUTCFullYear();
    const [row] = await tx
      .insert(jobCounter)
      .values({ year, last: 1 })
      .onConflictDoUpdate({ target: jobCounter.year, set: { last: sql`${jobCounter.last} + 1` } })
      .returning({ last: jobCounter.last });
    return `${String(year % 100).padStart(2, '0')}-${String(row?.last ?? 1).padStart(4, '0')}`;
  }
}

/** The customer of that id, or of that name, made where there is none. */
export async function customerOf(tx: Transaction, id: string | undefined, name: string): Promise<string> {
  if (id !== undefined) {
    const [known] = await tx.select({ id: customer.id }).from(customer).where(eq(customer.id, id));
    if (!known) throw badField('customerId', 'There is no such customer; choose one from the list or type a new name.');
    return known.id;
  }
  await tx.insert(customer).values({ name }).onConflictDoNothing();
  const [row] = await tx
    .select({ id: customer.id })
    .from(customer)
    .where(sql`lower(${customer.name}) = lower(${name})`);
  if (!row) throw new Error('customer not stored');
  return row.id;
}

/** The same serial number of the same customer is the same motor on another visit; the database holds two intakes at once to it. */
export async function motorFor(tx: Transaction, customerId: string, said: string | undefined): Promise<string> {
  const serial = said?.trim() || null;
  const [made] = await tx
    .insert(motor)
    .values({ customerId, serial })
    .onConflictDoNothing()
    .returning({ id: motor.id });
  if (made) return made.id;
  const [known] = await tx
    .select({ id: motor.id })
    .from(motor)
    .where(sql`${motor.customerId} = ${customerId} and lower(${motor.serial}) = lower(${serial})`);
  if (!known) throw new Error('motor not stored');
  return known.id;
}
