import {
  BURN_PART_FIELDS,
  formatNumber,
  LOAD_FIELDS,
  LOAD_PART_FIELDS,
  operation,
  sayUse,
  whyNotIn,
  whyNotSo,
  type CorePlate,
} from '@norther/core';
import type { loadPartBody, newLoadBody } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import { type Act, Writes } from '../database/writes.ts';
import { refuseClosed } from '../job/jobViews.ts';
import { ReadJob } from '../job/readJob.ts';
import { badField, badForm, notFound, Problem } from '../problem/problem.ts';
import { Steps } from '../process/steps.ts';
import { Shop } from '../shop/shop.ts';
import { OpenLoads } from './openLoads.ts';
import { OvenRepository } from './ovenRepository.ts';
import { Ovens, plannedOf } from './ovens.ts';

/** Loads begun, filled and started. What stands against it is said in the transaction. */
@Injectable()
export class Loads {
  readonly writes: Writes;
  readonly read: ReadJob;
  readonly shop: Shop;
  readonly rows: OvenRepository;
  readonly ovens: Ovens;
  readonly steps: Steps;
  readonly open: OpenLoads;
  constructor(
    @Inject(Writes) writes: Writes,
    @Inject(ReadJob) read: ReadJob,
    @Inject(Shop) shop: Shop,
    @Inject(OvenRepository) rows: OvenRepository,
    @Inject(Ovens) ovens: Ovens,
    @Inject(Steps) steps: Steps,
    @Inject(OpenLoads) open: OpenLoads,
  ) {
    this.writes = writes;
    this.read = read;
    this.shop = shop;
    this.rows = rows;
    this.ovens = ovens;
    this.steps = steps;
    this.open = open;
  }

  /** A load is begun in an empty chamber: what it is for, which resin, what the air is set to. */
  async begin(act: Act, body: z.output<typeof newLoadBody>): Promise<{ id: string; number: number }> {
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const chamber = await this.rows.chamber(tx, body.chamberId, 'lock');
      if (!chamber?.active) throw notFound('such chamber in use');
      const values = await this.open.valuesOf(tx, LOAD_FIELDS, body.typed);
      const { settings } = await this.shop.view(tx);
      const resin = body.use === 'bake' ? settings.resins.find((r) => r.name === body.resin) : undefined;
      if (body.use === 'bake' && body.resin !== undefined && !resin)
        throw badField('resin', `The shop has no resin named "${body.resin}"; an admin adds it on the shop page.`);
      const setPointC = Number(values['setPoint']);
      const faults = whyNotSo(chamber, { use: body.use, resin: resin?.name, setPointC }, resin);
      if (faults.length > 0) throw badForm(faults.map((f) => ({ field: f.field, message: f.says })));
      const load = await this.rows.addLoad(tx, {
        chamberId: chamber.id,
        use: body.use,
        resin: resin ?? null,
        setPointC,
        limits: settings.limits,
        school: settings.cureSchool,
        begunBy: act.actor.name,
        begunAt: act.at,
      });
      if (!load)
        throw new Problem(
          409,
          'In use',
          `A load stands in ${chamber.name} already; put the part into it, or empty it first.`,
        );
      await audit({
        action: 'oven.begin',
        summary: `Load ${load.number} begun in ${chamber.name}: to ${sayUse(load.use)}${resin ? ` ${resin.name}` : ''}, air ${formatNumber(setPointC)} °C`,
        after: body,
      });
      await tell('ovens');
      return { id: load.id, number: load.number };
    });
  }

  /** A card is scanned in: checked for door, mass, resin and use; its operation begins with it. */
  async putIn(act: Act, id: string, body: z.output<typeof loadPartBody>): Promise<{ part: string }> {
    return this.open.change(act, id, async (unit, all) => {
      const { tx } = unit;
      if (all.load.startedAt)
        throw new Problem(
          409,
          'Running',
          `Load ${all.load.number} runs: nothing joins it half way. Begin another when it is out.`,
        );
      const row = await this.read.row(body.job, tx, 'lock');
      refuseClosed(row);
      const inside = await this.rows.insideOf(tx, row.id);
      if (inside !== undefined) throw badField('job', `${row.number} stands in load ${inside} already.`);
      const step = await this.ovens.stepFor(tx, row, all.load.use);
      if (!step) throw badField('job', `${row.number} has nothing open to ${sayUse(all.load.use)}; look at its route.`);
      const specs = all.load.use === 'burn-off' ? BURN_PART_FIELDS : LOAD_PART_FIELDS;
      const values = await this.open.valuesOf(tx, specs, body.typed);
      const mm = (name: string) => 1000 * Number(values[name]);
      const faults = whyNotIn(all.chamber, plannedOf(all), {
        job: row.number,
        use: all.load.use,
        resin: await this.ovens.resinOf(tx, row),
        massKg: Number(values['mass']),
        widthMm: mm('width'),
        heightMm: mm('height'),
      });
      if (faults.length > 0) throw badForm(faults.map((f) => ({ field: f.field, message: f.says })));
      if (!step.running)
        await this.steps.start(act, row.number, step.code, body.override ? { override: body.override } : {}, unit);
      const part = await this.rows.addPart(tx, {
        loadId: id,
        jobId: row.id,
        code: step.code,
        typed: body.typed,
        massKg: Number(values['mass']),
        widthMm: mm('width'),
        heightMm: mm('height'),
        corePlate: (values['corePlate'] as CorePlate | undefined) ?? null,
        inBy: act.actor.name,
        inAt: act.at,
      });
      if (part === undefined) throw badField('job', `${row.number} stands in a load already.`);
      await this.open.sit(
        unit,
        act,
        all,
        body.channels.map((channel) => ({ channel, role: 'part' as const, part })),
        '',
      );
      await unit.audit({
        action: 'oven.in',
        jobId: row.id,
        summary: `${row.number} went into ${all.chamber.name}, load ${all.load.number}: ${operation(step.code).title}`,
        after: body,
      });
      await unit.tell(`job:${row.number}`);
      return { part };
    });
  }

  /** Door shut, burner on: from here the load counts. */
  async start(act: Act, id: string): Promise<null> {
    return this.open.change(act, id, async (unit, all) => {
      if (all.load.startedAt) throw new Problem(409, 'Running', `Load ${all.load.number} runs already.`);
      const inside = all.parts.filter((p) => p.outAt === null);
      if (inside.length === 0) throw badField('job', 'Nothing stands in it yet; scan a card in first.');
      const running = all.chamber.instrumentId ? await this.rows.running(unit.tx, all.chamber.instrumentId) : undefined;
      await this.rows.setLoad(unit.tx, id, {
        startedAt: act.at,
        startedBy: act.actor.name,
        ...(running ? { traceId: running.id, traceFrom: running.to ?? 0 } : {}),
      });
      await this.open.event(unit, act, id, 'started', '');
      await unit.audit({
        action: 'oven.start',
        summary: `Load ${all.load.number} started in ${all.chamber.name}: ${inside.map((p) => p.job).join(', ')}`,
      });
      return null;
    });
  }
}
