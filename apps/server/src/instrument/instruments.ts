import { randomBytes } from 'node:crypto';
import {
  MOST_BATCH,
  type BatchAnswer,
  type changeInstrumentBody,
  type InstrumentView,
  type newInstrumentBody,
  type samplesBody,
} from '@norther/contracts';
import { chunksOf } from '@norther/core';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import { tokenHash } from '../auth/secrets.ts';
import { now } from '../clock/clock.ts';
import type { Transaction } from '../database/database.ts';
import { type Act, Writes } from '../database/writes.ts';
import { refuseClosed } from '../job/jobViews.ts';
import { ReadJob } from '../job/readJob.ts';
import { badField, conflict, notFound, Problem } from '../problem/problem.ts';
import { addChunks } from '../trace/traceStatements.ts';
import { column } from '../trace/packing.ts';
import { CommandRepository } from './commandRepository.ts';
import { Shop } from '../shop/shop.ts';
import { InstrumentRepository, type InstrumentRow, type TraceRow } from './instrumentRepository.ts';

/** Clocks further apart than this are said so; a time this far off is refused. */
export const CLOCK_SAID_S = 120;
const FUTURE_S = 86_400;
/** Silent: not heard of for so many of its intervals. */
export const SILENT_INTERVALS = 3;
const SHORTEST_S = 2;
const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;

/** A batch as it was stored. */
export interface BatchCame {
  what: string;
  trace: TraceRow;
  channels: { name: string; unit: string }[];
  /** seconds from the start of the trace */
  x: Float64Array;
  values: Float64Array[];
  at: Date;
  /** the run on the instrument has ended with it */
  last: boolean;
}
export type BatchWatcher = (tx: Transaction, who: InstrumentRow, came: BatchCame) => Promise<void>;

type Change = Partial<Pick<InstrumentRow, 'name' | 'calibratedUntil' | 'mayWrite' | 'active'>>;

const newKey = (): string => `ni_${randomBytes(24).toString('base64url')}`;

/** Instruments: made by an admin, known by a key that is shown once, sending numbered batches of samples. */
@Injectable()
export class Instruments {
  readonly writes: Writes;
  readonly jobs: ReadJob;
  readonly repository: InstrumentRepository;
  readonly commands: CommandRepository;
  readonly shop: Shop;
  /** what looks at samples as they come, in the same change that stores them */
  private readonly watchers: BatchWatcher[] = [];
  constructor(
    @Inject(Writes) writes: Writes,
    @Inject(ReadJob) jobs: ReadJob,
    @Inject(InstrumentRepository) repository: InstrumentRepository,
    @Inject(CommandRepository) commands: CommandRepository,
    @Inject(Shop) shop: Shop,
  ) {
    this.shop = shop;
    this.writes = writes;
    this.jobs = jobs;
    this.repository = repository;
    this.commands = commands;
  }

  /** Who a key belongs to. */
  async ofKey(authorization: string | undefined): Promise<InstrumentRow | undefined> {
    const key = /^Bearer (ni_[\w-]{20,80})$/.exec(authorization ?? '')?.[1];
    return key === undefined ? undefined : this.repository.ofKey(tokenHash(key));
  }

  watch(watcher: BatchWatcher): void {
    this.watchers.push(watcher);
  }

  async list(): Promise<InstrumentView[]> {
    const newest = await this.repository.newest();
    const commands = await this.commands.newest(now());
    const hearing = await this.commands.hearing();
    const today = await this.shop.today();
    return (await this.repository.all()).map((row): InstrumentView => {
      const trace = newest.get(row.id);
      const quietS = row.lastSeenAt ? (now().getTime() - row.lastSeenAt.getTime()) / 1000 : 0;
      return {
        ...plain(row, today),
        state: row.state,
        hears: hearing.has(row.id),
        commands: commands.get(row.id) ?? [],
        silent:
          row.active &&
          trace !== undefined &&
          trace.endedAt === null &&
          quietS > SILENT_INTERVALS * Math.max(SHORTEST_S, row.intervalS ?? 0),
        trace: trace
          ? {
              id: trace.id,
              what: trace.what,
              stream: trace.stream ?? '',
              startAt: trace.startAt?.toISOString() ?? null,
              ended: trace.endedAt !== null,
              missing: trace.missing,
            }
          : null,
      };
    });
  }

  async add(
    act: Act,
    body: z.output<typeof newInstrumentBody>,
    more: { simulated: boolean; key?: string | undefined } = { simulated: false },
  ): Promise<{ id: string; key: string }> {
    const key = more.key ?? newKey();
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const row = await this.repository.add(tx, {
        ...body,
        keyHash: tokenHash(key),
        simulated: more.simulated,
        at: act.at,
      });
      if (!row) throw new Problem(409, 'Exists already', `There is an instrument named ${body.name} already.`);
      await audit({ action: 'instrument.add', summary: `${body.name} (${body.kind}) may send`, after: body });
      await tell('instruments');
      return { id: row.id, key };
    });
  }

  async change(act: Act, id: string, body: z.output<typeof changeInstrumentBody>): Promise<InstrumentView> {
    const { version, ...said } = body;
    const set = Object.fromEntries(Object.entries(said).filter(([, v]) => v !== undefined)) as Change;
    await this.writes.run(act, async ({ tx, audit, tell }) => {
      const before = UUID.test(id) ? await this.repository.one(tx, id) : undefined;
      if (!before) throw notFound('such instrument');
      const row = await this.repository.change(tx, id, version, set);
      const was = plain(before, await this.shop.today(tx));
      if (!row) throw conflict(`${before.name} was changed meanwhile.`, was, body);
      await audit({ action: 'instrument.change', summary: `${row.name} changed`, before: was, after: set });
      await tell('instruments');
      return null;
    });
    const view = (await this.list()).find((i) => i.id === id);
    if (!view) throw notFound('such instrument');
    return view;
  }

  /** A new key; the old one is worth nothing from now on. */
  async renew(act: Act, id: string): Promise<{ id: string; key: string }> {
    const key = newKey();
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const before = UUID.test(id) ? await this.repository.one(tx, id) : undefined;
      if (!before) throw notFound('such instrument');
      await this.repository.change(tx, id, before.version, { keyHash: tokenHash(key) });
      await audit({ action: 'instrument.key', summary: `${before.name} has a new key` });
      await tell('instruments');
      return { id, key };
    });
  }

  /** Stores a batch once, in its place, whatever order batches come in. */
  async batch(who: InstrumentRow, body: z.output<typeof samplesBody>): Promise<BatchAnswer> {
    const { x, values } = samplesIn(body);
    if (!who.mayWrite.includes(body.what))
      throw badField('what', `${who.name} may send ${who.mayWrite.join(', ')}, not "${body.what}".`);
    const at = now();
    const start = Date.parse(body.start);
    const sentAt = new Date(start + (x.at(-1) ?? 0) * 1000);
    if (sentAt.getTime() - at.getTime() > FUTURE_S * 1000)
      throw badField('start', 'These samples lie more than a day ahead; set the clock of the instrument.');
    return this.writes.database.transaction(async (tx) => {
      const job = body.job === undefined ? undefined : await this.jobs.row(body.job, tx);
      if (job) refuseClosed(job);
      const trace = await this.repository.streamFor(tx, {
        jobId: job?.id ?? null,
        what: body.what,
        channels: body.channels,
        xUnit: 's',
        startAt: new Date(start),
        source: 'instrument',
        sourceName: who.name,
        instrumentId: who.id,
        stream: body.stream,
        at,
      });
      const named = (c: { name: string; unit: string }[]) => c.map((k) => `${k.name} (${k.unit})`).join(', ');
      if (named(trace.channels) !== named(body.channels))
        throw badField(
          'channels',
          `The stream ${body.stream} has the channels ${named(trace.channels)}; this batch has ${named(body.channels)}.`,
        );
      const offset = (start - (trace.startAt?.getTime() ?? start)) / 1000;
      const waited = await this.repository.missing(tx, trace.id);
      const stored = await this.repository.noteBatch(tx, {
        traceId: trace.id,
        batch: body.batch,
        receivedAt: at,
        sentAt,
      });
      if (stored) {
        // a batch that was late on its way still comes in; a new one does not
        if (trace.endedAt !== null && waited === 0)
          throw new Problem(409, 'Ended', `The stream ${body.stream} has ended; begin another.`);
        const [chunk] = chunksOf({ x: x.map((s) => s + offset), values });
        if (chunk) await addChunks(tx, trace.id, [{ ...chunk, first: body.batch }]);
        await this.repository.seen(tx, who.id, {
          at,
          intervalS: Math.max(SHORTEST_S, (x.at(-1) ?? 0) - (x[0] ?? 0)),
          clockOffS: (at.getTime() - sentAt.getTime()) / 1000,
        });
        if (body.last) await this.repository.end(tx, trace.id, at);
        await this.writes.tell(tx, `trace:${trace.id}:${body.batch}`);
        const came = { what: body.what, channels: body.channels, x: x.map((s) => s + offset), values, at };
        for (const watcher of this.watchers) await watcher(tx, who, { ...came, trace, last: body.last });
      }
      return { trace: trace.id, batch: body.batch, stored, missing: await this.repository.missing(tx, trace.id) };
    });
  }
}

/** A row as it is shown: the key stays here. */
function plain(
  row: InstrumentRow,
  today: string,
): Omit<InstrumentView, 'silent' | 'trace' | 'state' | 'hears' | 'commands'> {
  return {
    id: row.id,
    name: row.name,
    kind: row.kind,
    calibratedUntil: row.calibratedUntil,
    outOfDate: row.calibratedUntil !== null && row.calibratedUntil < today,
    mayWrite: row.mayWrite,
    simulated: row.simulated,
    active: row.active,
    version: row.version,
    lastSeenAt: row.lastSeenAt?.toISOString() ?? null,
    clockOffS: row.clockOffS !== null && Math.abs(row.clockOffS) > CLOCK_SAID_S ? row.clockOffS : null,
  };
}

/** The samples of a batch, seconds from its start; a sentence for what does not fit together. */
function samplesIn(body: z.output<typeof samplesBody>): { x: Float64Array; values: Float64Array[] } {
  const n = body.values[0]?.length ?? 0;
  if (body.values.length !== body.channels.length)
    throw badField('values', `There are ${body.channels.length} channels but ${body.values.length} rows of values.`);
  if (body.values.some((v) => v.length !== n))
    throw badField('values', 'Every channel needs as many values as the others; a lost one is null.');
  if (n === 0) throw badField('values', 'The batch is empty.');
  if (n > MOST_BATCH)
    throw new Problem(413, 'Too large', `A batch holds at most ${MOST_BATCH} samples; this one has ${n}.`, {
      field: 'values',
    });
  const { step, times } = body;
  if ((step === undefined) === (times === undefined))
    throw badField('step', 'Say either step (seconds from sample to sample) or times (seconds from start).');
  if (times && times.length !== n) throw badField('times', `There are ${times.length} times for ${n} samples.`);
  if (times?.some((t, i) => i > 0 && t <= (times[i - 1] ?? 0))) throw badField('times', 'Times must rise.');
  return {
    x: Float64Array.from({ length: n }, (_, i) => times?.[i] ?? i * (step ?? 0)),
    values: body.values.map(column),
  };
}
