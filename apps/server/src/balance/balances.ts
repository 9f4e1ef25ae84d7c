import {
  BALANCE_SET_UP_FIELDS,
  balanceNow,
  balanceSession,
  balanceSetUpOf,
  isForbidden,
  measuredBySession,
  readForm,
  runCalculation,
  storedMisfit,
  type BalanceEntry,
  type BalanceNow,
  type BalanceSetUp,
  type SentBy,
  type StandRun,
  type StoredSet,
  type Verdict,
} from '@norther/core';
import {
  defaultsOf,
  standingEntries,
  type balanceEntryBody,
  type BalanceSessionView,
  type beginBalanceBody,
} from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import type { Transaction } from '../database/database.ts';
import { type Act, type WriteUnit, Writes } from '../database/writes.ts';
import { EvaluationRepository } from '../evaluate/evaluationRepository.ts';
import { JobRepository, type JobRow } from '../job/jobRepository.ts';
import { refuseClosed } from '../job/jobViews.ts';
import { Units } from '../job/units.ts';
import { partThatCame } from '../job/partThatCame.ts';
import { ReadJob } from '../job/readJob.ts';
import { MeasurementRepository } from '../measurement/measurementRepository.ts';
import { badField, badForm, notFound, Problem } from '../problem/problem.ts';
import { Shop } from '../shop/shop.ts';
import { Families } from './families.ts';
import { isGone, sessionView } from './sessionView.ts';
import { StandRuns } from './standRuns.ts';
import { BalanceRepository, type EntryRow, type SessionRow } from './balanceRepository.ts';

/** Rows at most in one balance. */
const MOST_ROWS = 200;
const WORDS = {
  run: 'run',
  trial: 'trial run',
  correction: 'correction',
  moved: 'residual check by a moved mass',
} as const;

/** Balances as sessions: set-up, runs, trials, corrections, each kept; the verdict joins the rotor's rail. */
@Injectable()
export class Balances {
  readonly writes: Writes;
  readonly read: ReadJob;
  readonly jobs: JobRepository;
  readonly shop: Shop;
  readonly rows: BalanceRepository;
  readonly runs: EvaluationRepository;
  readonly units: Units;
  readonly families: Families;
  readonly standRuns: StandRuns;
  readonly measurements: MeasurementRepository;
  constructor(
    @Inject(Writes) writes: Writes,
    @Inject(ReadJob) read: ReadJob,
    @Inject(JobRepository) jobs: JobRepository,
    @Inject(Shop) shop: Shop,
    @Inject(BalanceRepository) rows: BalanceRepository,
    @Inject(EvaluationRepository) runs: EvaluationRepository,
    @Inject(Units) units: Units,
    @Inject(Families) families: Families,
    @Inject(StandRuns) standRuns: StandRuns,
    @Inject(MeasurementRepository) measurements: MeasurementRepository,
  ) {
    this.measurements = measurements;
    this.writes = writes;
    this.read = read;
    this.jobs = jobs;
    this.shop = shop;
    this.rows = rows;
    this.runs = runs;
    this.units = units;
    this.families = families;
    this.standRuns = standRuns;
  }

  async list(number: string): Promise<BalanceSessionView[]> {
    return this.read.database.reading(async (reader) => {
      const row = await this.read.row(number, reader);
      return (await this.rows.ofJob(reader, row)).map(({ session, entries }) => sessionView(session, entries));
    });
  }

  /** One balance with everything in it. */
  async one(number: string, id: string): Promise<BalanceSessionView> {
    const found = (await this.list(number)).find((s) => s.id === id);
    if (!found) throw notFound('such balance');
    return found;
  }

  async begin(act: Act, number: string, body: z.output<typeof beginBalanceBody>): Promise<{ id: string }> {
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const row = await this.read.row(number, tx, 'lock');
      refuseClosed(row);
      const { settings } = await this.shop.view(tx);
      const reading = readForm(BALANCE_SET_UP_FIELDS, body.typed, defaultsOf(settings), 'complete');
      if (reading.problems.length > 0) throw badForm(reading.problems);
      const bare = balanceSetUpOf(reading.values);
      if ('message' in bare) throw badField(bare.field, bare.message);
      const made = { setUp: { ...bare.setUp, ...(await this.storedFor(tx, body, bare.setUp)) } };
      const id = await this.rows.begin(tx, {
        jobId: row.id,
        part: await partThatCame(this.jobs, tx, row, body.part, 'rotor'),
        unitId: body.unit === undefined ? null : (await this.units.of(row, body.unit, tx)).id,
        typed: body.typed,
        setUp: made.setUp,
        limits: settings.limits,
        personName: act.actor.name,
        at: act.at,
      });
      if (id === undefined)
        throw new Problem(
          409,
          'On the stand',
          `A balance of ${number}${body.unit === undefined ? '' : `, piece ${body.unit},`} is open already; go on with it, or end it.`,
        );
      await audit({
        action: 'balance.begin',
        jobId: row.id,
        summary: `Balance of ${number} begun: ${made.setUp.planes.length === 1 ? 'one plane' : 'two planes'}, G ${made.setUp.grade}`,
        after: body,
      });
      await tell(`job:${number}`);
      return { id };
    });
  }

  /** The influence set of a kept family, where it may be tried on this rotor. */
  private async storedFor(
    tx: Transaction,
    { family, typed }: z.output<typeof beginBalanceBody>,
    setUp: BalanceSetUp,
  ): Promise<{ stored?: StoredSet }> {
    if (family === undefined) return {};
    const kept = await this.families.one(tx, family);
    if (!kept.influence) return {};
    const misfit = storedMisfit(
      { setUp: kept.setUp, stand: kept.typed['stand'] ?? '' },
      { setUp, stand: typed['stand'] ?? '' },
    );
    // another stand, speed or plane: the set-up was taken over, the set is not used
    return misfit === undefined ? { stored: { from: `${kept.name}, ${kept.fromJob}`, influence: kept.influence } } : {};
  }

  /** A run, a trial or a correction; or one that stands for an earlier one, with its reason. */
  async enter(
    act: Act,
    number: string,
    id: string,
    body: z.output<typeof balanceEntryBody>,
  ): Promise<{ ordinal: number; stage: string; verdict: Verdict; reason: string }> {
    const sent = body.trace === undefined ? undefined : await this.standRuns.reading(number, id, body.trace);
    return this.change(act, number, id, async (unit, row, session, entries) => {
      const { supersedes } = body;
      const entry = entryFrom(body.entry, sent);
      if (
        sent &&
        entries.some((e) => 'sent' in e.entry && e.entry.sent?.trace === sent.sent.trace && !isGone(entries, e))
      )
        throw badField('trace', 'This run was taken already; spin it again.');
      if (entries.length >= MOST_ROWS)
        throw new Problem(409, 'Full', 'This balance holds 200 rows; end it and begin another.');
      if (supersedes !== undefined) {
        const old = entries.find((e) => e.ordinal === supersedes);
        if (!old) throw badField('supersedes', `This balance has no row ${supersedes}.`);
        if (entries.some((e) => e.supersedes === supersedes))
          throw badField('supersedes', `Row ${supersedes} was corrected already; correct the newest one.`);
        if (old.entry.kind !== entry.kind)
          throw badField(
            'entry.kind',
            `Row ${supersedes} is a ${WORDS[old.entry.kind]}; it is corrected by another ${WORDS[old.entry.kind]}.`,
          );
        if (body.reason.length < 3) throw badField('reason', 'A correction needs its reason.');
      } else if (body.withdrawn) throw badField('supersedes', 'Say which row is taken back.');
      refuseEntry(session, entry);
      const ordinal = entries.length + 1;
      await this.rows.add(unit.tx, {
        sessionId: id,
        ordinal,
        entry,
        supersedes: supersedes ?? null,
        withdrawn: body.withdrawn,
        reason: body.reason,
        personName: act.actor.name,
        at: act.at,
      });
      const is = nowOf(session, [
        ...entries,
        { ordinal, entry, supersedes: supersedes ?? null, withdrawn: body.withdrawn },
      ]);
      await unit.audit({
        action: 'balance.enter',
        jobId: row.id,
        summary: `Balance of ${number}: ${WORDS[entry.kind]}${supersedes === undefined ? '' : ` in place of row ${supersedes}: ${body.reason}`}`,
        after: body,
      });
      return { ordinal, stage: is.stage, verdict: is.verdict, reason: is.reason };
    });
  }

  /** The session ends: inside it passes; before that it needs a reason and is kept as it stands. */
  async end(act: Act, number: string, id: string, reason: string): Promise<{ verdict: Verdict; reason: string }> {
    return this.change(act, number, id, async (unit, row, session, entries) => {
      const is = nowOf(session, entries);
      if (is.verdict !== 'pass' && reason.length < 3) throw badField('reason', `${is.reason} Say why it ends now.`);
      const result = runCalculation(balanceSession, {
        setUp: session.setUp,
        entries: standingEntries(entries),
        limits: session.limits,
      });
      // nothing was found out: the rail waits as before
      const judged = is.verdict !== 'cannot judge' || entries.length > 0;
      const balanceId = judged
        ? await this.runs.addBalance(unit.tx, {
            jobId: row.id,
            part: session.part,
            unitId: session.unitId,
            typed: session.typed,
            values: {},
            limits: session.limits,
            calculation: result.id,
            calculationVersion: result.version,
            verdict: is.verdict,
            reason: is.reason,
            result,
            personName: act.actor.name,
            at: act.at,
          })
        : null;
      if (balanceId !== null)
        await this.measurements.add(
          unit.tx,
          {
            jobId: row.id,
            source: 'balance',
            sourceId: balanceId,
            part: session.part,
            unitId: session.unitId,
            at: act.at,
            personName: act.actor.name,
            verdict: is.verdict,
          },
          measuredBySession(result),
        );
      await this.rows.end(
        unit.tx,
        id,
        { by: act.actor.name, role: act.actor.role, at: act.at.toISOString(), meaning: is.verdict, reason },
        balanceId,
      );
      await unit.audit({
        action: 'balance.end',
        jobId: row.id,
        summary: `Balance of ${number}: ${is.verdict}. ${is.reason}${reason ? ` (${reason})` : ''}`,
        after: { verdict: is.verdict, reason },
      });
      return { verdict: is.verdict, reason: is.reason };
    });
  }

  private async change<T>(
    act: Act,
    number: string,
    id: string,
    change: (unit: WriteUnit, row: JobRow, session: SessionRow, entries: EntryRow[]) => Promise<T>,
  ): Promise<T> {
    return this.writes.run(act, async (unit) => {
      const row = await this.read.row(number, unit.tx, 'lock');
      refuseClosed(row);
      const found = await this.open(unit.tx, row, id);
      const answer = await change(unit, row, found.session, found.entries);
      await unit.tell(`job:${number}`);
      return answer;
    });
  }

  private async open(tx: Transaction, row: JobRow, id: string) {
    const found = await this.rows.one(tx, row, id);
    if (!found) throw notFound('such balance');
    if (found.session.ended) throw new Problem(409, 'Ended', 'This balance has ended; it is kept as it is.');
    return found;
  }
}

const nowOf = (session: SessionRow, entries: Parameters<typeof standingEntries>[0]): BalanceNow =>
  balanceNow(session.setUp, standingEntries(entries), session.limits);

/** An entry as it is kept: where a stand sent the run its readings count; who sent it is never taken from what was typed. */
function entryFrom(typed: BalanceEntry, sent: { run: StandRun; sent: SentBy } | undefined): BalanceEntry {
  if (typed.kind !== 'run' && typed.kind !== 'trial') {
    if (sent) throw badField('trace', 'A stand sends runs and trial runs only.');
    return typed;
  }
  const { sent: _, ...own } = typed;
  if (!sent) return own;
  const { readings, rpm } = sent.run;
  return { ...own, readings, ...(rpm === undefined ? {} : { rpm }), sent: sent.sent };
}

/** What an entry says that this rotor does not have. */
function refuseEntry(session: SessionRow, entry: z.output<typeof balanceEntryBody>['entry']): void {
  const { planes, readings } = session.setUp;
  const wanted = readings === 'vibration' ? 2 : planes.length;
  if (entry.kind === 'correction') {
    const strange = entry.masses.find((m) => m.plane > planes.length);
    if (strange) throw badField('entry.masses', `This rotor has no plane ${strange.plane}.`);
    for (const m of entry.masses) {
      const p = planes[m.plane - 1];
      if (m.place !== undefined && p && isForbidden(p, p.firstDeg + (360 * (m.place - 1)) / Math.max(1, p.places)))
        throw badField(
          'entry.masses',
          `Place ${m.place} of plane ${m.plane} lies where nothing may be fixed or taken. If the mass sits there, enter its angle without the place.`,
        );
      if (m.place !== undefined && p && (m.place > p.places || p.taken.includes(m.place)))
        throw badField(
          'entry.masses',
          m.place > p.places
            ? `Plane ${m.plane} has places 1 to ${p.places}; there is no place ${m.place}.`
            : `Place ${m.place} of plane ${m.plane} is taken or forbidden. If the mass sits there, enter its angle without the place.`,
        );
    }
    return;
  }
  if (entry.kind === 'moved') {
    if (entry.plane > planes.length) throw badField('entry.plane', `This rotor has no plane ${entry.plane}.`);
    const angles = new Set(entry.positions.map((p) => Math.round((((p.angleDeg % 360) + 360) % 360) * 100)));
    if (angles.size < entry.positions.length)
      throw badField(
        'entry.positions',
        'Each position of the test mass is another one; the first read again has a field of its own.',
      );
    return;
  }
  if (entry.readings.length !== wanted && !(planes.length === 1 && entry.readings.length === 1))
    throw badField(
      'entry.readings',
      readings === 'vibration'
        ? 'Both bearings are read: A and B.'
        : `This stand shows ${wanted === 1 ? 'one plane' : 'two planes'}.`,
    );
  if (entry.kind === 'trial') {
    // a stand that separates the planes is checked with a known mass, which comes out again
    if (readings !== 'vibration' && entry.staysIn)
      throw badField('entry.staysIn', 'This stand separates the planes: a known mass checks it and comes out again.');
    if (entry.plane > planes.length) throw badField('entry.plane', `This rotor has no plane ${entry.plane}.`);
  }
}
