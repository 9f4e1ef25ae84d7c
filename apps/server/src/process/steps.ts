import { dayInZone, defaultsOf } from '@norther/contracts';
import {
  afterFinish,
  afterReopen,
  coatsOf,
  combineVerdicts,
  failedBefore,
  judgeRecord,
  LISTS_MISSING,
  operation,
  parsePieces,
  readForm,
  routeEditRefusal,
  sayPieces,
  startRefusal,
  type FieldValue,
  type Judged,
  type Operation,
  type RouteGraph,
  type StepState,
  type StepStates,
  type Verdict,
} from '@norther/core';
import type { finishStepBody, markPiecesBody, PiecesDone, Signed, startStepBody } from '@norther/contracts';
import { may } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import type { Transaction } from '../database/database.ts';
import { type Act, type WriteUnit, Writes } from '../database/writes.ts';
import { JobRepository, type JobRow } from '../job/jobRepository.ts';
import { graphOf, readableWhy, refuseClosed, statesOf } from '../job/jobViews.ts';
import { ReadJob } from '../job/readJob.ts';
import { UnitRepository } from '../job/unitRepository.ts';
import { measuredByStep, partOfStep } from '../measurement/measured.ts';
import { MeasurementRepository } from '../measurement/measurementRepository.ts';
import { badField, badForm, notFound, Problem } from '../problem/problem.ts';
import { Shop } from '../shop/shop.ts';
import { Tanks } from '../tank/tanks.ts';
import { Windings } from '../winding/windings.ts';
import { doneAt } from './doneAt.ts';
import { RouteChanges } from './routeChanges.ts';
import { StepJudging } from './stepJudging.ts';
import { StepRepository } from './stepRepository.ts';

/** Rules of order: what may start, what a finish means, who may mend, waive, sign. Enforced in the transaction. */
@Injectable()
export class Steps {
  readonly writes: Writes;
  readonly read: ReadJob;
  readonly shop: Shop;
  readonly windings: Windings;
  readonly measurements: MeasurementRepository;
  readonly jobs: JobRepository;
  readonly records: StepRepository;
  readonly judging: StepJudging;
  readonly units: UnitRepository;
  readonly tanks: Tanks;
  readonly routes: RouteChanges;
  constructor(
    @Inject(Writes) writes: Writes,
    @Inject(ReadJob) read: ReadJob,
    @Inject(Shop) shop: Shop,
    @Inject(Windings) windings: Windings,
    @Inject(MeasurementRepository) measurements: MeasurementRepository,
    @Inject(JobRepository) jobs: JobRepository,
    @Inject(StepRepository) records: StepRepository,
    @Inject(StepJudging) judging: StepJudging,
    @Inject(UnitRepository) units: UnitRepository,
    @Inject(Tanks) tanks: Tanks,
    @Inject(RouteChanges) routes: RouteChanges,
  ) {
    this.routes = routes;
    this.tanks = tanks;
    this.units = units;
    this.writes = writes;
    this.read = read;
    this.shop = shop;
    this.windings = windings;
    this.measurements = measurements;
    this.jobs = jobs;
    this.records = records;
    this.judging = judging;
  }

  async start(
    act: Act,
    number: string,
    code: string,
    { override: over }: z.output<typeof startStepBody>,
    /** the change that it is part of */
    within?: WriteUnit,
  ): Promise<null> {
    const overrideReason = over?.reason;
    return this.change(act, number, code, within, async ({ unit, row, op, states, graph }) => {
      const state = states[code] ?? 'open';
      if (state === 'running') throw new Problem(409, 'Running already', `${op.title} was started already.`);
      if (state !== 'open' && state !== 'recheck')
        throw new Problem(409, 'Not open', `${op.title} is ${word(state)}. A foreman can reopen it.`);
      const refusal =
        startRefusal(graph, states, code) ??
        (op.waitsForLists && !(await this.windings.materials.listsMade(row, unit.tx))
          ? { heldBy: [], why: LISTS_MISSING }
          : undefined);
      if (refusal && overrideReason === undefined) {
        throw new Problem(
          409,
          'Hold point',
          `${op.title} is held: ${readableWhy(refusal.why)}. A foreman may override with a reason.`,
          { field: code },
        );
      }
      if (refusal && !may(act.actor.role, 'foreman'))
        throw new Problem(
          403,
          'Not allowed',
          `Only a foreman may pass a hold point; ${act.actor.name} is signed in as ${act.actor.role}.`,
        );
      const attempts = await this.read.attemptsOf(row, [code], unit.tx);
      const override = refusal ? (overrideReason ?? null) : null;
      const at = doneAt(act);
      const attemptId = await this.records.addAttempt(unit.tx, {
        jobId: row.id,
        code,
        number: attempts.length + 1,
        startedBy: act.actor.name,
        startedAt: at,
        override,
      });
      await this.records.addSpell(unit.tx, { row, attemptId, person: act.actor, at });
      if (override !== null) await this.records.addNote(unit.tx, row, code, this.signature(act, 'override', override));
      await unit.audit({
        action: override === null ? 'step.start' : 'step.override',
        jobId: row.id,
        summary: `${op.title} of ${number} started${override === null ? '' : ` over a hold: ${override}`}`,
        after: { code, override },
      });
      return { states: { [code]: 'running' }, answer: null };
    });
  }

  async finish(
    act: Act,
    number: string,
    code: string,
    { typed }: z.output<typeof finishStepBody>,
  ): Promise<{ verdict: Verdict; reason: string }> {
    return this.change(act, number, code, undefined, async ({ unit, row, op, states, graph }) => {
      if (states[code] !== 'running')
        throw new Problem(409, 'Not running', `${op.title} is not running; start it first.`);
      await this.allPiecesDone(unit.tx, row, op);
      const { settings } = await this.shop.view(unit.tx);
      const reading = readForm(op.fields, typed, defaultsOf(settings), 'complete');
      if (reading.problems.length > 0) throw badForm(reading.problems);
      await this.agreeCoats(unit, row, op, { graph, states }, reading.values['coats']);
      const lot = reading.values['lot'];
      const whyNot = op.takesMaterial && typeof lot === 'string' ? await this.tanks.whyNotLot(unit.tx, lot) : undefined;
      if (whyNot) throw badField('lot', `${whyNot} Take another, or set it right first.`);
      const parts: Judged[] = [
        judgeRecord(op, reading.values, {
          limits: settings.limits,
          earlier: await this.judging.earlier(unit.tx, row, op),
          person: { name: act.actor.name },
          gauges: { kept: settings.gauges, today: dayInZone(act.at, settings.timeZone) },
          ...(await this.judging.windingFor(unit.tx, row, op)),
        }),
      ];
      if (op.decidedBy) parts.push(await this.judging.decide(unit.tx, row, op.decidedBy, settings.limits, code));
      if (op.closesJob) parts.push(await this.judging.reportIssued(unit.tx, row));
      const verdict = combineVerdicts(parts.map((p) => p.verdict));
      const open = await this.records.lastAttempt(unit.tx, row, code);
      if (!open) throw notFound(`started ${op.title}`);
      const meanwhile = await this.records.failedSince(unit.tx, row, open.startedAt);
      const disturbedBy = verdict === 'fail' ? [] : failedBefore(graph, states, code, meanwhile);
      const reason = [
        ...parts.filter((p) => p.verdict === verdict).map((p) => p.reason),
        ...(disturbedBy.length > 0
          ? [
              `${disturbedBy.map((c) => operation(c).title).join(', ')} failed or was reopened meanwhile: to be looked at again.`,
            ]
          : []),
      ].join(' ');
      const at = doneAt(act, open.startedAt);
      await this.records.finishAttempt(unit.tx, open.id, {
        finishedBy: act.actor.name,
        finishedAt: at,
        typed,
        values: reading.values,
        verdict,
        reason,
      });
      await this.records.endSpells(unit.tx, open.id, { at, how: 'finish' });
      await this.measurements.add(
        unit.tx,
        {
          jobId: row.id,
          source: 'step',
          sourceId: open.id,
          part: partOfStep(code, await this.jobs.parts(row, unit.tx)),
          at,
          personName: act.actor.name,
          verdict,
        },
        measuredByStep({ code, typed, values: reading.values }, defaultsOf(settings)),
      );
      await unit.audit({
        action: 'step.finish',
        jobId: row.id,
        summary: `${op.title} of ${number}: ${verdict}. ${reason}`,
        after: { code, typed, verdict },
      });
      return { states: afterFinish(graph, states, code, verdict, meanwhile), answer: { verdict, reason } };
    });
  }

  /** The coats of resin that were agreed with the winding become runs of the route. */
  private async agreeCoats(
    unit: WriteUnit,
    row: JobRow,
    op: Operation,
    now: { graph: RouteGraph; states: StepStates },
    coats: FieldValue | undefined,
  ): Promise<void> {
    if (!op.agreesCoats || typeof coats !== 'number' || coats === coatsOf(now.graph)) return;
    const edit = { do: 'coats', coats } as const;
    const refusal = routeEditRefusal(now.graph, edit, {
      states: now.states,
      came: row.came,
      impregnation: row.impregnation,
    });
    if (refusal) throw badField('coats', refusal);
    const steps = await this.read.steps(row, unit.tx);
    await this.routes.apply(unit, row, { steps, graph: now.graph }, edit, `Agreed with ${op.title.toLowerCase()}.`);
  }

  /** A running operation of a job of many alike is done, or not done after all, for some of its pieces. */
  async markPieces(act: Act, number: string, code: string, body: z.output<typeof markPiecesBody>): Promise<PiecesDone> {
    return this.change(act, number, code, undefined, async ({ unit, row, op, states }) => {
      if (states[code] !== 'running')
        throw new Problem(409, 'Not running', `${op.title} is not running; start it first.`);
      const of = await this.units.howMany(row, unit.tx);
      const read = parsePieces(body.pieces, of);
      if ('problem' in read) throw badField('pieces', read.problem);
      const changed = await this.units.mark(unit.tx, row, { code, ranges: read.ranges, done: body.done, at: act.at });
      const done = (await this.units.marked(row, unit.tx)).get(code) ?? 0;
      if (changed > 0)
        await unit.audit({
          action: body.done ? 'unit.step' : 'unit.unstep',
          jobId: row.id,
          summary: `${op.title} of ${number}: ${body.done ? 'done' : 'not done after all'} for pieces ${sayPieces(read.ranges)}`,
          after: { code, pieces: sayPieces(read.ranges), done, of },
        });
      return { states: {}, answer: { done, of } };
    });
  }

  /** An operation that is walked piece by piece is finished when it is done for all of them. */
  private async allPiecesDone(tx: Transaction, row: JobRow, op: Operation): Promise<void> {
    if (row.quantity === 1 || !(await this.units.marked(row, tx)).has(op.code)) return;
    const missing = await this.units.unmarked(tx, row, op.code);
    if (missing.length > 0)
      throw badField(
        'pieces',
        `${op.title} is not done yet for pieces ${sayPieces(missing.slice(0, 8))}${missing.length > 8 ? ' …' : ''}. Mark them too, or take the marks away to finish it for all at once.`,
      );
  }

  /** A foreman reopens the step that mends a failure; what had passed after it goes to recheck. */
  async reopen(act: Act, number: string, code: string, reason: string): Promise<null> {
    return this.change(act, number, code, undefined, async ({ unit, row, op, states, graph }) => {
      if (['open', 'running'].includes(states[code] ?? 'open'))
        throw new Problem(409, 'Open already', `${op.title} is open already.`);
      await this.records.addNote(unit.tx, row, code, this.signature(act, 'reopened', reason));
      await unit.audit({
        action: 'step.reopen',
        jobId: row.id,
        summary: `${op.title} of ${number} reopened: ${reason}`,
        after: { code },
      });
      // it is walked anew, piece by piece or at once
      await this.units.unmark(unit.tx, row, code, act.at);
      return { states: afterReopen(graph, states, code), answer: null };
    });
  }

  async waive(act: Act, number: string, code: string, reason: string): Promise<null> {
    return this.change(act, number, code, undefined, async ({ unit, row, op, states }) => {
      if (!['open', 'recheck'].includes(states[code] ?? 'open'))
        throw new Problem(
          409,
          'Not open',
          `${op.title} is ${word(states[code] ?? 'open')}; only an open step can be waived.`,
        );
      const signed = this.signature(act, 'waived', reason);
      await this.records.setWaived(unit.tx, row, code, signed);
      await this.records.addNote(unit.tx, row, code, signed);
      await unit.audit({
        action: 'step.waive',
        jobId: row.id,
        summary: `${op.title} of ${number} waived: ${reason}`,
        after: { code },
      });
      return { states: { [code]: 'waived' }, answer: null };
    });
  }

  /** A named person passes an attention, or clears a recheck, with a reason. "Cannot judge" is never signed away. */
  async signOff(act: Act, number: string, code: string, reason: string): Promise<null> {
    return this.change(act, number, code, undefined, async ({ unit, row, op, states }) => {
      const state = states[code] ?? 'open';
      if (state !== 'attention' && state !== 'recheck') {
        throw new Problem(
          409,
          'Nothing to sign',
          state === 'undecided'
            ? `${op.title} cannot be judged yet; a sign-off does not replace the missing data.`
            : `${op.title} is ${word(state)}; there is nothing to sign off.`,
        );
      }
      if (op.decidedBy?.kind !== 'tests' && !may(act.actor.role, 'foreman')) {
        throw new Problem(403, 'Not allowed', `Testers sign tests; ${op.title} is signed off by a foreman.`);
      }
      const signed = this.signature(act, state === 'attention' ? 'accepted with attention' : 'rechecked', reason);
      const last = await this.records.lastAttempt(unit.tx, row, code);
      if (last && last.signed === null) await this.records.signAttempt(unit.tx, last.id, signed);
      await this.records.addNote(unit.tx, row, code, signed);
      await unit.audit({
        action: 'step.sign',
        jobId: row.id,
        summary: `${op.title} of ${number} ${signed.meaning}: ${reason}`,
        after: { code },
      });
      return { states: { [code]: 'passed' }, answer: null };
    });
  }

  private async change<T>(
    act: Act,
    number: string,
    code: string,
    within: WriteUnit | undefined,
    decide: (x: {
      unit: WriteUnit;
      row: JobRow;
      op: Operation;
      states: Readonly<Record<string, StepState>>;
      graph: ReturnType<typeof graphOf>;
    }) => Promise<{ states: Record<string, StepState>; answer: T }>,
  ): Promise<T> {
    const change = async (unit: WriteUnit): Promise<T> => {
      const row = await this.read.row(number, unit.tx, 'lock');
      refuseClosed(row);
      const steps = await this.read.steps(row, unit.tx);
      const graph = graphOf(row, steps);
      if (!Object.hasOwn(graph, code)) throw notFound(`operation ${code} in the route of ${number}`);
      const op = operation(code);
      const states = statesOf(steps);
      const { states: next, answer } = await decide({ unit, row, op, states, graph });
      for (const [changed, state] of Object.entries(next)) {
        if (states[changed] === state) continue;
        await this.records.setState(unit.tx, row, changed, state, act.at);
      }
      if (op.closesJob && next[code] === 'passed' && states[code] !== 'passed') {
        await this.jobs.close(unit.tx, row, act.at);
        await this.windings.materials.release(unit.tx, act, row);
      }
      await unit.tell(`job:${number}`);
      return answer;
    };
    return within ? change(within) : this.writes.run(act, change);
  }

  private signature(act: Act, meaning: string, reason: string): Signed {
    return { by: act.actor.name, role: act.actor.role, at: act.at.toISOString(), meaning, reason };
  }
}

function word(state: StepState): string {
  return {
    open: 'open',
    running: 'running',
    passed: 'passed',
    attention: 'waiting for a sign-off',
    undecided: 'not judged yet',
    failed: 'failed',
    waived: 'waived',
    recheck: 'to be looked at again',
  }[state];
}
