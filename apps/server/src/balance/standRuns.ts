import { massesAlong, spinOrder, standRunOf, type SentBy, type StandRun, type SpinOrder } from '@norther/core';
import { standingEntries, type spinBody, type StandRunView } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import { Writes, type Act } from '../database/writes.ts';
import { Commands } from '../instrument/commands.ts';
import { refuseClosed } from '../job/jobViews.ts';
import { ReadJob } from '../job/readJob.ts';
import { badField, notFound, Problem } from '../problem/problem.ts';
import { Shop } from '../shop/shop.ts';
import { Traces } from '../trace/traces.ts';
import { BalanceRepository, type EntryRow, type SessionRow } from './balanceRepository.ts';

/** A stand's clock and ours may stray by this. */
const BEFORE_MS = 60_000;

/** Runs that stands send through the instrument door, as a balance reads them. */
@Injectable()
export class StandRuns {
  readonly writes: Writes;
  readonly read: ReadJob;
  readonly rows: BalanceRepository;
  readonly traces: Traces;
  readonly commands: Commands;
  readonly shop: Shop;
  constructor(
    @Inject(Writes) writes: Writes,
    @Inject(ReadJob) read: ReadJob,
    @Inject(BalanceRepository) rows: BalanceRepository,
    @Inject(Traces) traces: Traces,
    @Inject(Commands) commands: Commands,
    @Inject(Shop) shop: Shop,
  ) {
    this.writes = writes;
    this.read = read;
    this.rows = rows;
    this.traces = traces;
    this.commands = commands;
    this.shop = shop;
  }

  /** What stands have sent since the balance began, the newest first. */
  async list(number: string, id: string): Promise<StandRunView[]> {
    const { session, entries, sent, today } = await this.read.database.reading(async (reader) => {
      const row = await this.read.row(number, reader);
      const found = await this.rows.one(reader, row, id);
      if (!found) throw notFound('such balance');
      const since = new Date(found.session.at.getTime() - BEFORE_MS);
      return { ...found, sent: await this.rows.sentSince(reader, row, since), today: await this.shop.today(reader) };
    });
    const taken = takenBy(entries);
    const out: StandRunView[] = [];
    for (const s of sent) {
      const run = await this.reckoned(session, s.id);
      out.push({
        trace: s.id,
        instrument: s.instrument,
        simulated: s.simulated,
        outOfDate: s.calibratedUntil !== null && s.calibratedUntil < today,
        stream: s.stream ?? '',
        at: s.at.toISOString(),
        ended: s.endedAt !== null,
        taken: taken.has(s.id),
        run: 'wrong' in run ? undefined : run,
        wrong: 'wrong' in run ? run.wrong : undefined,
      });
    }
    return out;
  }

  /** The readings of one run for a row of a balance; refused where it is none of it. */
  async reading(number: string, id: string, trace: string): Promise<{ run: StandRun; sent: SentBy }> {
    const found = (await this.list(number, id)).find((r) => r.trace === trace);
    if (!found) throw badField('trace', 'No stand has sent this run since the balance began.');
    if (!found.ended) throw badField('trace', 'This run has not ended yet.');
    if (found.taken) throw badField('trace', 'This run was taken already; spin it again.');
    if (!found.run) throw badField('trace', found.wrong ?? 'This run cannot be read.');
    const { instrument, simulated, outOfDate } = found;
    return { run: found.run, sent: { trace, instrument, simulated, outOfDate } };
  }

  /** Spins the rotor on a simulated stand as it is now, with a trial mass where one is in. */
  async spin(act: Act, number: string, id: string, body: z.output<typeof spinBody>): Promise<{ stand: string }> {
    return this.writes.run(act, async (unit) => {
      const row = await this.read.row(number, unit.tx, 'lock');
      refuseClosed(row);
      const found = await this.rows.one(unit.tx, row, id);
      if (!found) throw notFound('such balance');
      if (found.session.ended) throw new Problem(409, 'Ended', 'This balance has ended; it is kept as it is.');
      const { setUp } = found.session;
      if (body.trial && body.trial.plane > setUp.planes.length)
        throw badField('trial.plane', `This rotor has no plane ${body.trial.plane}.`);
      // every mass of this rotor, those of earlier balances too
      const all = (await this.rows.ofJob(unit.tx, row)).filter(
        (o) => o.session.part === found.session.part && o.session.unitId === found.session.unitId,
      );
      const masses = all.flatMap((o) => massesAlong(o.session.setUp, standingEntries(o.entries)));
      const order: SpinOrder = spinOrder(setUp, {
        job: number,
        rotor: `${number} ${found.session.part} ${found.session.piece ?? ''}`.trim(),
        masses: [
          ...masses,
          ...(body.trial
            ? [
                {
                  xMm: setUp.planes[body.trial.plane - 1]?.xMm ?? 0,
                  gMm: body.trial.gMm,
                  angleDeg: body.trial.angleDeg,
                },
              ]
            : []),
        ],
      });
      const stand = await this.commands.simulate(act, unit, body.instrument, {
        kind: 'balancing stand',
        command: 'spin',
        detail: order,
      });
      await unit.audit({
        action: 'balance.spin',
        jobId: row.id,
        summary: `${number} spun on ${stand} (simulated)`,
        after: body,
      });
      return { stand };
    });
  }

  private async reckoned(session: SessionRow, trace: string): Promise<StandRun | { wrong: string }> {
    const { head, samples } = await this.traces.samples(trace);
    return standRunOf(head.channels, samples.values, session.setUp, session.typed['unit'] ?? '');
  }
}

const takenBy = (entries: readonly EntryRow[]): Set<string> => {
  const gone = new Set(entries.flatMap((e) => (e.supersedes === null ? [] : [e.supersedes])));
  return new Set(
    entries.flatMap(({ entry, ordinal, withdrawn }) =>
      !withdrawn && !gone.has(ordinal) && 'sent' in entry && entry.sent ? [entry.sent.trace] : [],
    ),
  );
};
