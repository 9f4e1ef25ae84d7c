import {
  takesOf,
  type CommandView,
  type endLoadRunBody,
  type loadCommandBody,
  type loadFileBody,
  type loadRunBody,
  type LoadRunView,
} from '@norther/contracts';
import {
  chunksOf,
  classTemperatureC,
  FIRST_PART,
  goneOn,
  highestRating,
  GUARD_BEGIN,
  judgingContext,
  limit,
  plateMachine,
  readLoadCsv,
  saidOfPoints,
  ratedAt,
  type GuardSettings,
  type Nameplate,
  type ShopLimits,
} from '@norther/core';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import { now } from '../clock/clock.ts';
import { Writes, type Act } from '../database/writes.ts';
import type { Reader } from '../database/tables.ts';
import { CommandRepository } from '../instrument/commandRepository.ts';
import { Commands } from '../instrument/commands.ts';
import { InstrumentRepository } from '../instrument/instrumentRepository.ts';
import { refuseClosed } from '../job/jobViews.ts';
import { ReadJob } from '../job/readJob.ts';
import { badField, notFound, Problem } from '../problem/problem.ts';
import { Shop } from '../shop/shop.ts';
import { addTrace } from '../trace/traceStatements.ts';
import { column } from '../trace/packing.ts';
import { LoadPoints } from './loadPoints.ts';
import { LoadRepository, type LoadRunRow } from './loadRepository.ts';

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;
/** A simulated dynamometer takes this much more than the motor gives. */
const SIMULATED_MOST = 1.7;

/** Motors under load: runs begun, told, ended; what was sent of each with its points. */
@Injectable()
export class LoadRuns {
  readonly writes: Writes;
  readonly read: ReadJob;
  readonly shop: Shop;
  readonly rows: LoadRepository;
  readonly points: LoadPoints;
  readonly commands: Commands;
  readonly told: CommandRepository;
  readonly instruments: InstrumentRepository;
  constructor(
    @Inject(Writes) writes: Writes,
    @Inject(ReadJob) read: ReadJob,
    @Inject(Shop) shop: Shop,
    @Inject(LoadRepository) rows: LoadRepository,
    @Inject(LoadPoints) points: LoadPoints,
    @Inject(Commands) commands: Commands,
    @Inject(CommandRepository) told: CommandRepository,
    @Inject(InstrumentRepository) instruments: InstrumentRepository,
  ) {
    this.writes = writes;
    this.read = read;
    this.shop = shop;
    this.rows = rows;
    this.points = points;
    this.commands = commands;
    this.told = told;
    this.instruments = instruments;
  }

  /** The load runs of a motor, the newest first. */
  async list(number: string): Promise<LoadRunView[]> {
    const { limits } = await this.shop.settings();
    const hearing = await this.told.hearing();
    const told = await this.told.newest(now());
    return this.read.database.reading(async (reader) => {
      const job = await this.read.row(number, reader);
      const today = await this.shop.today(reader);
      const plate = await this.plateOf(reader, number);
      const out: LoadRunView[] = [];
      for (const { run, instrument: i, channels, taken } of await this.rows.ofJob(reader, job.id)) {
        const ratedNm = ratedNmOf(plate);
        const found =
          run.traceId === null || channels === null
            ? { points: [], unsteady: undefined }
            : await this.points.of(reader, { traceId: run.traceId, channels, ratedNm }, limits);
        const silent =
          run.endedAt === null && i?.lastSeenAt && run.traceId !== null
            ? Math.max(0, (now().getTime() - i.lastSeenAt.getTime()) / 1000)
            : null;
        out.push({
          id: run.id,
          stage: run.stage,
          instrument: i
            ? {
                id: i.id,
                name: i.name,
                simulated: i.simulated,
                outOfDate: i.calibratedUntil !== null && i.calibratedUntil < today,
                calibratedUntil: i.calibratedUntil,
                hears: hearing.has(i.id),
                state: i.state,
                takes: takesOf(i),
              }
            : null,
          source: run.sourceName,
          trace: run.traceId,
          at: run.at.toISOString(),
          person: run.personName,
          endedAt: run.endedAt?.toISOString() ?? null,
          why: run.why,
          settings: run.settings,
          guard: { says: run.guard.says, why: run.guard.why, at: run.guard.at },
          ratedNm: ratedNm ?? null,
          wantedNm: i && run.endedAt === null ? wantedOf(told.get(i.id) ?? [], run) : 0,
          poles: plate.poles ?? null,
          points: found.points,
          unsteady: found.unsteady ?? null,
          said: saidOfPoints(found.points, { ratedNm, hz: plate.frequencyHz }, limits),
          silentS: silent,
          taken,
        });
      }
      return out;
    });
  }

  /** @param withinS how long what a simulated instrument is told counts, s */
  async begin(act: Act, number: string, body: z.output<typeof loadRunBody>, withinS?: number): Promise<{ id: string }> {
    const { limits } = await this.shop.settings();
    return this.writes.run(act, async (unit) => {
      const { tx } = unit;
      const job = await this.read.row(number, tx, 'lock');
      refuseClosed(job);
      const to = await this.instruments.one(tx, body.instrument);
      if (!to?.mayWrite.includes('load'))
        throw badField('instrument', 'Choose an instrument that sends load runs: a dynamometer, or one allowed to.');
      const { plate, own } = await this.machineOf(tx, number, body.stage, limits);
      const settings = guardSettings(plate, limits, body.loadPercent);
      const row = await this.rows.add(tx, {
        jobId: job.id,
        stage: body.stage,
        instrumentId: to.id,
        sourceName: to.name,
        settings,
        guard: GUARD_BEGIN,
        personName: act.actor.name,
        at: act.at,
      });
      if (!row)
        throw new Problem(
          409,
          'Under way',
          `A load run of ${number}, or another on ${to.name}, has not ended; end it first.`,
        );
      if (to.simulated) {
        const machine = plateMachine(plate, own);
        if (typeof machine === 'string') throw badField('instrument', `${machine} A simulated run needs them.`);
        await this.commands.simulate(act, unit, to.id, {
          kind: 'dynamometer',
          command: 'load',
          detail: {
            job: number,
            stream: `${number}, load ${act.at.toISOString()}`,
            circuit: machine.circuit,
            supply: machine.supply,
            ratedNm: machine.ratedNm,
            ratedA: machine.ratedA,
            mostNm: SIMULATED_MOST * machine.ratedNm,
            line20Ohm: own.line20Ohm ?? 2 * machine.circuit.r1,
          },
          withinS,
        });
      }
      await unit.audit({
        action: 'load.begin',
        jobId: job.id,
        summary: `${number} loaded on ${to.name}${to.simulated ? ' (simulated)' : ''}`,
        after: { ...body, settings },
      });
      await unit.tell(`job:${number}`);
      return { id: row.id };
    });
  }

  /** A run from a file: kept as a trace like one that was sent. */
  async fromFile(act: Act, number: string, body: z.output<typeof loadFileBody>): Promise<{ id: string }> {
    const { limits } = await this.shop.settings();
    const read = readLoadCsv(body.csv);
    if (read.problem) throw badField('csv', read.problem);
    if (read.frames.length < 8) throw badField('csv', `The file holds ${read.frames.length} readings; at least 8.`);
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const job = await this.read.row(number, tx, 'lock');
      refuseClosed(job);
      const { plate } = await this.machineOf(tx, number, body.stage, limits);
      const sourceName = body.fileName || 'file';
      const values = read.channels.map((_, k) => column(read.columns[k] ?? []));
      const traceId = await addTrace(
        tx,
        {
          jobId: job.id,
          what: 'load',
          channels: read.channels.map((c) => ({ ...c, role: '' })),
          xUnit: 's',
          source: 'file',
          sourceName,
          at: act.at,
          endedAt: act.at,
        },
        chunksOf({ x: Float64Array.from(read.frames, (f) => f.t), values }).map((c, i) => ({ ...c, first: i })),
      );
      const row = await this.rows.add(tx, {
        jobId: job.id,
        stage: body.stage,
        sourceName,
        traceId,
        settings: guardSettings(plate, limits),
        guard: GUARD_BEGIN,
        personName: act.actor.name,
        at: act.at,
        endedAt: act.at,
        why: 'from a file',
      });
      if (!row) throw new Error('load run not stored');
      await audit({ action: 'load.file', jobId: job.id, summary: `${number} load run from ${sourceName}` });
      await tell(`job:${number}`);
      return { id: row.id };
    });
  }

  /** Raises, lowers, takes the load off, stops; or lets a run go on that the guard stopped. */
  async command(act: Act, number: string, id: string, body: z.output<typeof loadCommandBody>): Promise<null> {
    return this.writes.run(act, async (unit) => {
      const { row, job } = await this.open(unit.tx, number, id);
      if (body.command === 'set load' && row.guard.says === 'unload')
        throw new Problem(409, 'Guarded', `The load was taken off: ${row.guard.why}. Look, then let it go on.`);
      const now = row.guard.past.at(-1)?.nm ?? 0;
      if (row.guard.says === 'hold' && body.torqueNm !== undefined && body.torqueNm > now)
        throw new Problem(409, 'Held', `More load is held back: ${row.guard.why}. Lower it first.`);
      if (body.command === 'go on') {
        await this.rows.letGoOn(unit.tx, row.id, goneOn(row.guard, row.guard.at));
        await unit.audit({ action: 'load.goOn', jobId: job.id, summary: `${number} goes on after: ${row.guard.why}` });
      } else if (row.instrumentId !== null)
        await this.commands.giveWithin(act, unit, row.instrumentId, {
          command: body.command,
          ...(body.torqueNm === undefined ? {} : { value: body.torqueNm }),
          withinS: 10,
        });
      return null;
    });
  }

  /** A run ends as it is; what was sent stays. */
  async end(act: Act, number: string, id: string, body: z.output<typeof endLoadRunBody>): Promise<null> {
    return this.writes.run(act, async (unit) => {
      const { row, job } = await this.open(unit.tx, number, id);
      await this.rows.end(unit.tx, row.id, act.at, body.why);
      await unit.audit({ action: 'load.end', jobId: job.id, summary: `${number} load run ended: ${body.why}` });
      await unit.tell(`job:${number}`);
      const on = row.instrumentId === null ? undefined : await this.instruments.one(unit.tx, row.instrumentId);
      // what is still under load comes to rest; an instrument that hears nothing does so by itself
      if (on?.active && takesOf(on).includes('stop'))
        await this.commands.giveWithin(act, unit, on.id, { command: 'stop', withinS: 10 });
      return null;
    });
  }

  private async open(tx: Reader & Parameters<LoadRepository['locked']>[0], number: string, id: string) {
    const job = await this.read.row(number, tx, 'lock');
    const row: LoadRunRow | undefined = UUID.test(id) ? await this.rows.locked(tx, job.id, id) : undefined;
    if (!row) throw notFound('such load run');
    if (row.endedAt) throw new Problem(409, 'Ended', 'This load run has ended; it is kept as it is.');
    return { row, job };
  }

  private async plateOf(reader: Reader, number: string): Promise<Nameplate> {
    const row = await this.read.row(number, reader);
    const { found, plan } = await this.read.windings(row, reader, FIRST_PART);
    return withPoles((plan ?? found)?.redesign?.nameplate ?? row.nameplate, (plan ?? found)?.record.poles);
  }

  /** The plate as the motor is now, and what its own winding tells. */
  private async machineOf(reader: Reader, number: string, stage: 'AA' | 'FI', limits: ShopLimits) {
    const row = await this.read.row(number, reader);
    const { found, plan } = await this.read.windings(row, reader, FIRST_PART);
    const context = judgingContext({
      stage,
      route: row.route,
      nameplate: row.nameplate,
      found,
      plan,
      limits,
      calibrationExpired: false,
      tests: [],
    });
    return {
      plate: withPoles(context.nameplate, context.record?.poles),
      own: { line20Ohm: context.figures?.lineResistance20Ohm, noLoadA: ratedAt(context, 'only').expectedA },
    };
  }
}

/** The load that was told last: none after it was taken off; what is on where more was held back. */
function wantedOf(newest: readonly CommandView[], run: LoadRunRow): number {
  for (const c of [...newest].sort((a, b) => b.id - a.id)) {
    if (c.answer === 'refused' || c.answer === 'expired' || new Date(c.at) < run.at) continue;
    if (c.command === 'set load') return c.value ?? 0;
    if (c.command === 'hold') return run.guard.past.at(-1)?.nm ?? 0;
    if (c.command === 'unload' || c.command === 'stop') return 0;
  }
  return 0;
}

const withPoles = (plate: Nameplate, poles: number | undefined): Nameplate =>
  plate.poles === undefined && poles !== undefined ? { ...plate, poles } : plate;

const ratedNmOf = ({ outputW, speedRpm }: Nameplate): number | undefined =>
  outputW === undefined || speedRpm === undefined ? undefined : (outputW * 30) / (Math.PI * speedRpm);

/** How a run is guarded; refused where the plate names no current. */
function guardSettings(plate: Nameplate, limits: ShopLimits, loadPercent?: number): GuardSettings {
  const { insulationClass } = plate;
  const { ratedA } = highestRating(plate);
  if (ratedA === undefined)
    throw badField('nameplate', 'The rated current guards a load run; put it into the nameplate first.');
  return {
    ratedA,
    loadFactor: (loadPercent ?? limit('guard.loadPercent', limits)) / 100,
    overS: limit('guard.overS', limits),
    unloadFactor: limit('guard.unloadFactor', limits),
    overloadS: limit('guard.overloadS', limits),
    windingC: insulationClass === undefined ? undefined : classTemperatureC(insulationClass),
    bearingC: limit('guard.bearingC', limits),
    vibrationMmS: limit('guard.vibrationMmS', limits),
    pullSpeedPercent: limit('guard.pullSpeedPercent', limits),
    pullTorquePercent: limit('guard.pullTorquePercent', limits),
  };
}
