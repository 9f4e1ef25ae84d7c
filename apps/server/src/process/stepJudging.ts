import {
  coatsLived,
  combineVerdicts,
  judgedTogether,
  judgeStage,
  limit,
  runOf,
  testedOf,
  type Decider,
  type FieldValue,
  type Judged,
  type Operation,
  type RecordContext,
} from '@norther/core';
import { Inject, Injectable } from '@nestjs/common';
import type { Transaction } from '../database/database.ts';
import { EvaluationRepository, type LastCure } from '../evaluate/evaluationRepository.ts';
import type { JobRow } from '../job/jobRepository.ts';
import { ReadJob } from '../job/readJob.ts';
import { bakeOf } from '@norther/contracts';
import { Sensors } from '../sensor/sensors.ts';
import { Windings } from '../winding/windings.ts';

/** What a step is judged with beside its own record. */
@Injectable()
export class StepJudging {
  readonly read: ReadJob;
  readonly windings: Windings;
  readonly runs: EvaluationRepository;
  readonly sensors: Sensors;
  constructor(
    @Inject(ReadJob) read: ReadJob,
    @Inject(Windings) windings: Windings,
    @Inject(EvaluationRepository) runs: EvaluationRepository,
    @Inject(Sensors) sensors: Sensors,
  ) {
    this.sensors = sensors;
    this.read = read;
    this.windings = windings;
    this.runs = runs;
  }

  /** The winding as found, for the operations that are judged by it. */
  async windingFor(tx: Transaction, row: JobRow, op: Operation): Promise<Pick<RecordContext, 'winding'>> {
    if (!op.accept.some((r) => r.rule === 'copper')) return {};
    const { found } = await this.read.windings(row, tx);
    return found ? { winding: { record: found.record, nameplate: row.nameplate } } : {};
  }

  async earlier(tx: Transaction, row: JobRow, op: Operation): Promise<Record<string, Record<string, FieldValue>>> {
    const codes = op.accept.flatMap((r) => (r.rule === 'rise' ? [r.of] : []));
    const attempts = await this.read.attemptsOf(row, codes, tx);
    return Object.fromEntries(attempts.filter((a) => a.finishedAt !== null).map((a) => [a.code, a.values]));
  }

  /** What decides an operation beside its own record: tests of its stage, a cure, a balance, the winding record. */
  async decide(
    tx: Transaction,
    row: JobRow,
    decider: Decider,
    limits: Readonly<Record<string, number>>,
    code: string,
  ): Promise<Judged> {
    switch (decider.kind) {
      case 'tests': {
        const runs = await this.runs.tests(tx, row);
        const { found, plan } = await this.read.windings(row, tx);
        const judged = judgeStage(decider, row.came, runs, testedOf(row.nameplate, found, plan, row.route));
        const sensors = await this.sensors.at(tx, row, decider.stage);
        return sensors && sensors.verdict !== 'pass' ? judgedTogether([judged, sensors]) : judged;
      }
      case 'cure': {
        const cures = await this.runs.lastCures(tx, row);
        const last = cures.find((c) => c.code === code);
        return last
          ? cured(last, cures, limits)
          : { verdict: 'cannot judge', reason: 'No oven log was read in: cure is judged from the part temperature.' };
      }
      case 'burn-off':
        return (
          (await this.runs.lastBurn(tx, row)) ?? {
            verdict: 'pass',
            reason: 'No oven log was read: the typed figures stand alone.',
          }
        );
      case 'balance': {
        const last = await this.runs.lastBalance(tx, row);
        return last
          ? { verdict: last.verdict, reason: last.reason }
          : { verdict: 'cannot judge', reason: 'No balance run is recorded.' };
      }
      case 'winding record': {
        if (decider.role === 'verified') {
          const why = await this.windings.notVerified(tx, row, limits);
          return why
            ? { verdict: 'cannot judge', reason: why }
            : { verdict: 'pass', reason: 'The record is complete and its checks hold.' };
        }
        const { plan } = await this.read.windings(row, tx);
        return plan
          ? { verdict: 'pass', reason: `Plan ${plan.revision} released by ${plan.released?.by ?? ''}.` }
          : { verdict: 'cannot judge', reason: 'No plan is released; a foreman releases it on the winding page.' };
      }
    }
  }

  async reportIssued(tx: Transaction, row: JobRow): Promise<Judged> {
    return (await this.runs.reportIssued(tx, row))
      ? { verdict: 'pass', reason: 'Report issued.' }
      : { verdict: 'cannot judge', reason: 'No report is issued yet.' };
  }
}

/** What a bake says of its coat, and of those that it baked once more. */
function cured(last: LastCure, all: readonly LastCure[], limits: Readonly<Record<string, number>>): Judged {
  const lived = coatsLived(all.map(bakeOf), {
    overBakeDegree: limit('cure.overBakeDegree', limits),
    aboveRatedK: limit('cure.aboveRatedK', limits),
  }).filter((c) => c.coat < runOf(last.code) && c.judged.verdict !== 'pass');
  return lived.length === 0
    ? { verdict: last.verdict, reason: last.reason }
    : {
        verdict: combineVerdicts([last.verdict, ...lived.map((c) => c.judged.verdict)]),
        reason: [last.reason, ...lived.map((c) => c.judged.reason)].join(' '),
      };
}
