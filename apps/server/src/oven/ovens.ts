import {
  burnNow,
  CHAMBER_FIELDS,
  mostC,
  operation,
  ovenStepsFor,
  ovenUseOf,
  partOnRail,
  readForm,
  startRefusal,
  targetOf,
  whyNotIn,
  type LiveNow,
  type OvenUse,
} from '@norther/core';
import {
  defaultsOf,
  type chamberBody,
  type changeChamberBody,
  type ChamberView,
  type JobOvenView,
  type LoadPartNow,
  type LoadView,
  type OvenCandidate,
  type OvensView,
} from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import type { Reader } from '../database/tables.ts';
import { type Act, Writes } from '../database/writes.ts';
import type { JobRow } from '../job/jobRepository.ts';
import { graphOf, readableWhy, statesOf } from '../job/jobViews.ts';
import { ReadJob } from '../job/readJob.ts';
import { badField, badForm, conflict, notFound, Problem } from '../problem/problem.ts';
import type { LoadMotor } from '../report/loadSheet.ts';
import { Shop } from '../shop/shop.ts';
import { figuresNow } from './figures.ts';
import { leftOver, loadAlarms, LoadFollowing, partNow } from './loadFollowing.ts';
import { OvenRepository, type ChamberRow, type LoadAll } from './ovenRepository.ts';

/** Loads that ended and are still shown. */
const ENDED_SHOWN = 12;

export const plannedOf = (all: LoadAll) => ({
  use: all.load.use,
  resin: all.load.resin?.name,
  setPointC: all.load.setPointC,
  items: all.parts.filter((p) => p.outAt === null).map((p) => ({ job: p.job, massKg: p.massKg })),
});

/** Chambers, what stands in them and how it stands, what may still go in. */
@Injectable()
export class Ovens {
  readonly writes: Writes;
  readonly read: ReadJob;
  readonly shop: Shop;
  readonly rows: OvenRepository;
  readonly following: LoadFollowing;
  constructor(
    @Inject(Writes) writes: Writes,
    @Inject(ReadJob) read: ReadJob,
    @Inject(Shop) shop: Shop,
    @Inject(OvenRepository) rows: OvenRepository,
    @Inject(LoadFollowing) following: LoadFollowing,
  ) {
    this.writes = writes;
    this.read = read;
    this.shop = shop;
    this.rows = rows;
    this.following = following;
  }

  async view(): Promise<OvensView> {
    return this.rows.database.reading(async (reader) => {
      const loggers = await this.rows.loggers(reader);
      const chambers = (await this.rows.chambers(reader)).map((c) => chamberView(c, loggers));
      const loads: LoadView[] = [];
      for (const all of await this.rows.all(reader, await this.rows.loads(reader, ENDED_SHOWN)))
        loads.push(await this.loadView(reader, all));
      return { chambers, loads };
    });
  }

  async load(id: string): Promise<LoadView> {
    return this.rows.database.reading((reader) => this.oneLoad(reader, id));
  }

  /** Everything of one load. */
  async all(reader: Reader, id: string): Promise<LoadAll> {
    const load = await this.rows.load(reader, id);
    const [all] = load ? await this.rows.all(reader, [load]) : [];
    if (!all) throw notFound('such oven load');
    return all;
  }

  async loadView(reader: Reader, all: LoadAll): Promise<LoadView> {
    const { load, parts } = all;
    // what has ended is not followed any more: each part left with its verdict
    const followed = load.endedAt ? undefined : await this.following.follow(reader, all);
    const traces = followed?.traces ?? (await this.rows.tracesOf(reader, load, all.chamber.instrumentId));
    const nows = new Map(
      followed ? parts.filter((p) => p.outAt === null).map((p) => [p.id, partNow(followed, all, p.id)]) : [],
    );
    const target = targetOf(load.use, load.resin ?? undefined, load.setPointC, load.limits);
    const begun = load.startedAt !== null;
    return {
      id: load.id,
      number: load.number,
      chamber: { id: all.chamber.id, name: all.chamber.name },
      use: load.use,
      resin: load.resin,
      setPointC: load.setPointC,
      state: load.endedAt ? 'done' : begun ? 'running' : 'loading',
      begun: { by: load.begunBy, at: load.begunAt.toISOString() },
      startedAt: load.startedAt?.toISOString() ?? null,
      endedAt: load.endedAt?.toISOString() ?? null,
      massKg: parts.filter((p) => p.outAt === null).reduce((n, p) => n + p.massKg, 0),
      parts: parts.map((p) => {
        const now = nows.get(p.id);
        return {
          id: p.id,
          job: p.job,
          what: p.what,
          code: p.code,
          massKg: p.massKg,
          widthMm: p.widthMm,
          heightMm: p.heightMm,
          corePlate: p.corePlate,
          channels: all.probes.filter((b) => b.partId === p.id).map((b) => b.channel),
          in: { by: p.inBy, at: p.inAt.toISOString() },
          out: p.outAt
            ? {
                by: p.outBy ?? '',
                at: p.outAt.toISOString(),
                reason: p.outReason ?? '',
                verdict: p.verdict ?? 'cannot judge',
                says: p.says ?? '',
                figures: {},
              }
            : null,
          now: begun && now ? nowView(now, all) : null,
          figures: p.figures ?? (begun && now ? figuresNow(all, p, now) : {}),
        };
      }),
      probes: all.probes.map((p) => ({ channel: p.channel, role: p.role, part: p.partId })),
      traces: traces.map((t) => t.id),
      simulated: traces.some((t) => t.simulated),
      late: followed?.state.late ?? 0,
      channels: [...new Set(traces.flatMap((t) => t.channels.map((c) => c.name)))],
      leftOver: followed && begun ? leftOver(all, followed) : [],
      readings: all.readings.map((r) => ({ part: r.partId, c: r.c, at: r.readAt.toISOString(), by: r.personName })),
      events: all.events.map((e) => ({ kind: e.kind, note: e.note, by: e.personName, at: e.at.toISOString() })),
      alarms: begun && followed ? loadAlarms(followed, all, [...nows.values()]) : [],
      maxC: mostC(load.use, target, undefined, load.limits),
    };
  }

  /** The loads that a motor stood or stands in, newest first. */
  async ofJob(number: string): Promise<JobOvenView[]> {
    return this.rows.database.reading(async (reader) => {
      const out: JobOvenView[] = [];
      for (const { part, load, chamber } of await this.rows.ofJob(reader, number)) {
        // taken back before the start: it was never in the heat
        if (part.outAt !== null && part.verdict === null) continue;
        const still = part.outAt === null ? await this.oneLoad(reader, load.id) : undefined;
        const own = still?.parts.find((p) => p.id === part.id);
        out.push({
          load: load.id,
          number: load.number,
          chamber,
          use: load.use,
          code: part.code,
          inAt: part.inAt.toISOString(),
          outAt: part.outAt?.toISOString() ?? null,
          verdict: part.verdict,
          says: part.says ?? '',
          figures: part.figures ?? own?.figures ?? {},
        });
      }
      return out;
    });
  }

  private async oneLoad(reader: Reader, id: string): Promise<LoadView> {
    return this.loadView(reader, await this.all(reader, id));
  }

  /** What goes with each motor of a load: the part that is in it, and what is fitted to it. */
  async motorsOf(load: LoadView): Promise<LoadMotor[]> {
    return this.rows.database.reading(async (reader) => {
      const out: LoadMotor[] = [];
      for (const { job } of load.parts) {
        const row = await this.read.row(job, reader);
        const parts = await this.read.jobs.parts(row, reader);
        out.push({ job, part: partOnRail(parts, 'stator') ?? parts[0] ?? 'stator', fitted: row.intake.fitted });
      }
      return out;
    });
  }

  /** What may go into a load now: every motor whose next work stands in such an oven, with what stands against it. */
  async candidates(id: string): Promise<OvenCandidate[]> {
    return this.rows.database.reading(async (reader) => {
      const all = await this.all(reader, id);
      const codes = ovenStepsFor(all.load.use);
      const out: OvenCandidate[] = [];
      for (const number of await this.rows.jobsFor(reader, codes)) {
        const row = await this.read.row(number, reader);
        const found = await this.stepFor(reader, row, all.load.use);
        if (!found || found.why !== undefined) continue;
        if ((await this.rows.insideOf(reader, row.id)) !== undefined) continue;
        const { massKg } = row.nameplate;
        const resin = await this.resinOf(reader, row);
        const faults = whyNotIn(all.chamber, plannedOf(all), {
          job: number,
          use: all.load.use,
          resin,
          massKg,
          // the door is asked about when it goes in
          widthMm: 1,
          heightMm: 1,
        });
        out.push({
          job: number,
          what: row.what,
          code: found.code,
          title: operation(found.code).title,
          use: all.load.use,
          resin: resin ?? null,
          massKg: massKg ?? null,
          promised: row.promised,
          faults: faults.filter((f) => f.field !== 'mass' || massKg !== undefined),
        });
      }
      return out.sort(
        (a, b) => a.faults.length - b.faults.length || (a.promised ?? '9').localeCompare(b.promised ?? '9'),
      );
    });
  }

  /** The operation of a motor that stands in an oven of this use now, or why there is none. */
  async stepFor(
    reader: Reader,
    row: JobRow,
    use: OvenUse,
  ): Promise<{ code: string; running: boolean; why?: string } | undefined> {
    const steps = await this.read.steps(row, reader);
    const graph = graphOf(row, steps);
    const states = statesOf(steps);
    const codes = Object.keys(graph).filter((c) => ovenUseOf(c) === use);
    const running = codes.find((c) => states[c] === 'running');
    if (running) return { code: running, running: true };
    const ready = codes.find(
      (c) => ['open', 'recheck'].includes(states[c] ?? 'open') && !startRefusal(graph, states, c),
    );
    if (ready) return { code: ready, running: false };
    const first = codes.find((c) => ['open', 'recheck'].includes(states[c] ?? 'open'));
    return first
      ? { code: first, running: false, why: readableWhy(startRefusal(graph, states, first)?.why ?? '') }
      : undefined;
  }

  /** The resin that a motor was impregnated with, where its lot says so. */
  async resinOf(reader: Reader, row: JobRow): Promise<string | undefined> {
    const codes = (await this.read.steps(row, reader)).map((s) => s.code).filter((c) => operation(c).impregnatesBy);
    const attempts = await this.read.attemptsOf(row, codes, reader);
    const lot = attempts.findLast((a) => a.finishedAt !== null)?.typed['lot'];
    return lot ? this.rows.materialOfLot(reader, lot) : undefined;
  }

  async addChamber(act: Act, body: z.output<typeof chamberBody>): Promise<{ id: string }> {
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const values = await this.chamberOf(tx, body);
      const row = await this.rows.addChamber(tx, { ...values, at: act.at });
      if (!row) throw badField('name', `There is a chamber named ${values.name} already.`);
      await audit({ action: 'oven.add', summary: `Chamber ${row.name} came into use`, after: body });
      await tell('ovens');
      return { id: row.id };
    });
  }

  async changeChamber(act: Act, id: string, body: z.output<typeof changeChamberBody>): Promise<{ id: string }> {
    const { version, active, ...rest } = body;
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const before = await this.rows.chamber(tx, id, 'lock');
      if (!before) throw notFound('such chamber');
      const open = (await this.rows.loads(tx)).find((l) => l.chamberId === id);
      const values = await this.chamberOf(tx, rest);
      if (open && (!active || values.instrumentId !== before.instrumentId))
        throw new Problem(409, 'In use', `Load ${open.number} stands in ${before.name}; change it when it is empty.`);
      const row = await this.rows.changeChamber(tx, id, version, { ...values, active });
      if (!row) throw conflict(`${before.name} was changed meanwhile.`, chamberView(before, new Map()), body);
      await audit({ action: 'oven.change', summary: `Chamber ${row.name} changed`, before, after: body });
      await tell('ovens');
      return { id };
    });
  }

  private async chamberOf(reader: Reader, body: z.output<typeof chamberBody>) {
    const { settings } = await this.shop.view(reader);
    const reading = readForm(CHAMBER_FIELDS, body.typed, defaultsOf(settings), 'complete');
    if (reading.problems.length > 0) throw badForm(reading.problems);
    if (body.instrumentId !== null && !(await this.rows.loggers(reader)).has(body.instrumentId))
      throw badField('instrumentId', 'This instrument sends no oven logs; choose one that does.');
    const v = reading.values as Record<string, number> & { name: string };
    const sizes = {
      doorWidthMm: 1000 * Number(v['doorWidth']),
      doorHeightMm: 1000 * Number(v['doorHeight']),
      mostKg: Number(v['mostMass']),
      highestC: Number(v['highest']),
    };
    for (const [field, value] of [
      ['doorWidth', sizes.doorWidthMm],
      ['doorHeight', sizes.doorHeightMm],
      ['mostMass', sizes.mostKg],
    ] as const)
      if (!(value > 0)) throw badField(field, 'This must be above zero.');
    return { name: v.name, typed: body.typed, uses: body.uses, instrumentId: body.instrumentId, ...sizes };
  }
}

function chamberView(
  c: ChamberRow,
  loggers: ReadonlyMap<string, { name: string; simulated: boolean; channels: string[] }>,
): ChamberView {
  const logger = c.instrumentId ? loggers.get(c.instrumentId) : undefined;
  return {
    id: c.id,
    name: c.name,
    uses: c.uses,
    doorWidthMm: c.doorWidthMm,
    doorHeightMm: c.doorHeightMm,
    mostKg: c.mostKg,
    highestC: c.highestC,
    instrument: c.instrumentId && logger ? { id: c.instrumentId, ...logger } : null,
    active: c.active,
    version: c.version,
    typed: c.typed,
  };
}

const finite = (x: number | undefined): number | null => (x === undefined || !Number.isFinite(x) ? null : x);

function nowView(is: LiveNow, { load }: LoadAll): LoadPartNow {
  const burn = load.use === 'burn-off' ? burnNow(is.parts, is.coldest?.degree ?? 0, load.limits) : undefined;
  return {
    burn: burn ? { state: burn.state, openMin: finite(burn.openMin), openC: burn.openC } : null,
    c: finite(is.coldest?.c),
    degree: is.coldest?.degree ?? 0,
    hottestC: finite(Math.max(...is.parts.map((p) => p.hottest))),
    simpleMin: finite(is.left.simpleMin),
    forecastMin: finite(is.left.forecastMin),
    why: is.left.why,
    verdict: is.verdict,
    schools: is.schools,
    heldMin: is.coldest?.heldMin ?? 0,
    totalMin: is.coldest?.totalMin ?? 0,
    lagMin: finite(is.coldest?.lag?.lagMin),
    slowest: is.parts.length > 1 ? (is.coldest?.name ?? null) : null,
    hotC: finite(is.hotC),
    touchMin: finite(is.touchMin),
    alarms: [...is.alarms, ...(burn?.alarm ? [burn.alarm] : [])],
  };
}
