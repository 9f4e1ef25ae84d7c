import { defaultsOf } from '@norther/contracts';
import {
  familyOf,
  NAMEPLATE_FIELDS,
  partOnRail,
  PARTS,
  partsTakenIn,
  ROUTES,
  WINDING_PARTS,
  nameplateSchema,
  polesFrom,
  readForm,
  sentenceOfIssue,
  type Nameplate,
  type ReadingDefaults,
} from '@norther/core';
import type { changeJobBody, JobDetail, newJobBody, ShopSettings, Visit } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import { type Act, Writes } from '../database/writes.ts';
import { badField, badForm, conflict } from '../problem/problem.ts';
import { Shop } from '../shop/shop.ts';
import type { Transaction } from '../database/database.ts';
import { JobRepository, type JobRow } from './jobRepository.ts';
import { refuseClosed, templateOf } from './jobViews.ts';
import { ReadJob } from './readJob.ts';
import { UnitRepository } from './unitRepository.ts';

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
        message: `${i.path.join('.')}: ${sentenceOfIssue(i)}`,
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
  const out = new Set(settings.leaveOut[row.route] ?? []);
  return Object.keys(templateOf(row)).filter((code) => !out.has(code));
}

/** Takes motors in and keeps what is known of a visit. */
@Injectable()
export class Jobs {
  readonly writes: Writes;
  readonly jobs: JobRepository;
  readonly read: ReadJob;
  readonly shop: Shop;
  readonly units: UnitRepository;
  constructor(
    @Inject(Writes) writes: Writes,
    @Inject(JobRepository) jobs: JobRepository,
    @Inject(ReadJob) read: ReadJob,
    @Inject(Shop) shop: Shop,
    @Inject(UnitRepository) units: UnitRepository,
  ) {
    this.writes = writes;
    this.jobs = jobs;
    this.read = read;
    this.shop = shop;
    this.units = units;
  }

  async take(act: Act, body: z.output<typeof newJobBody>): Promise<{ number: string }> {
    const settings = await this.shop.settings();
    const defaults = defaultsOf(settings);
    const plate = readNameplate(body.nameplate, defaults);
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const owner = await this.jobs.customerOf(tx, body.customerId, body.customerName);
      const motorId = await this.jobs.motorFor(tx, owner, plate.serial);
      const number = await this.jobs.nextNumber(tx, act.at);
      const row = await this.jobs.add(tx, {
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
      });
      await this.jobs.addParts(tx, row, partsTakenIn(ROUTES[row.route].parts, row.came, plate));
      await this.jobs.addSteps(tx, row, operationsOf(row, settings));
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
    const settings = await this.shop.settings();
    const defaults = defaultsOf(settings);
    const plate = readNameplate(body.nameplate, defaults);
    await this.writes.run(act, async ({ tx, audit, tell }) => {
      const row = await this.read.row(number, tx, 'lock');
      refuseClosed(row);
      const before = await this.read.detailWith(tx, number);
      if (row.version !== body.version) throw conflict(`Job ${number} was changed meanwhile.`, before, body);
      const owner = await this.jobs.customerOf(tx, undefined, body.customerName);
      const was = row.nameplate.serial?.trim().toLowerCase();
      const same = owner === row.customerId && was === plate.serial?.trim().toLowerCase();
      const changed = {
        ...row,
        // another customer or serial number: this visit belongs to another motor, earlier visits stay with theirs
        motorId: same ? row.motorId : await this.jobs.motorFor(tx, owner, plate.serial),
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
      const pieces = await this.units.howMany(row, tx);
      if (changed.quantity < pieces)
        throw badField('intake.quantity', `${pieces} pieces of ${number} are numbered; it cannot be of fewer.`);
      // an edited route was that of its kind: of another kind there is none yet
      if (routeChanged) changed.ownRoute = null;
      await this.jobs.change(tx, changed);
      await this.keepParts(tx, changed);
      // a changed route keeps every operation that both have
      if (routeChanged) await this.jobs.addSteps(tx, row, operationsOf(changed, settings));
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

  /** What came in as the changed nameplate and intake say; parts something is recorded of stay. */
  private async keepParts(tx: Transaction, row: JobRow): Promise<void> {
    const have = await this.jobs.parts(row, tx);
    for (const kind of partsTakenIn(ROUTES[row.route].parts, row.came, row.nameplate)) {
      if (have.includes(kind)) continue;
      const other = partOnRail(have, PARTS[kind].rail);
      // a rotor whose winding is recorded is a wound one, whatever the plate leaves out
      if (other && WINDING_PARTS.some((p) => p === other)) continue;
      if (!other || !(await this.jobs.renamePart(tx, row, other, kind))) await this.jobs.addParts(tx, row, [kind]);
    }
  }

  /** Earlier visits of a serial number, newest first. */
  async visits(serial: string): Promise<Visit[]> {
    const rows = await this.jobs.visitsOf(serial);
    return rows.map((r) => ({
      ...r,
      takenInAt: r.takenInAt.toISOString(),
      closedAt: r.closedAt?.toISOString() ?? null,
    }));
  }

  async customers(query: string): Promise<{ id: string; name: string }[]> {
    return this.jobs.customersLike(query);
  }
}
