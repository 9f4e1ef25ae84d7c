import { dayInZone, defaultsOf, may, type Signed } from '@norther/contracts';
import {
  balanceOnePlane,
  gaugeNamed,
  judgeTest,
  judgingContext,
  readForm,
  runCalculation,
  FIRST_PART,
  testedOf,
  testKind,
  stressBars,
  testsFor,
  type TestJudgement,
  type TestKind,
  type TestStage,
  type Verdict,
  type PartKind,
  type FieldValue,
} from '@norther/core';
import { BALANCE_FIELDS, balanceInput, type balanceBody, type ShopSettings, type testBody } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import type { Transaction } from '../database/database.ts';
import { type Act, Writes } from '../database/writes.ts';
import { JobRepository, type JobRow } from '../job/jobRepository.ts';
import { refuseClosed } from '../job/jobViews.ts';
import { partThatCame } from '../job/partThatCame.ts';
import { ReadJob } from '../job/readJob.ts';
import { measuredByBalance, measuredByTest } from '../measurement/measured.ts';
import { MeasurementRepository } from '../measurement/measurementRepository.ts';
import { badField, badForm, notFound, Problem } from '../problem/problem.ts';
import { Units } from '../job/units.ts';
import { Shop } from '../shop/shop.ts';
import { ComparedTests } from './comparedTests.ts';
import { EvaluationRepository, type TestRow } from './evaluationRepository.ts';
import { TestTraces } from './testTraces.ts';

/** Readings come in, verdicts go out; each row keeps what was typed, the limits and the calculation it was judged by. */
@Injectable()
export class Evaluations {
  readonly writes: Writes;
  readonly read: ReadJob;
  readonly shop: Shop;
  readonly measurements: MeasurementRepository;
  readonly runs: EvaluationRepository;
  readonly jobs: JobRepository;
  readonly units: Units;
  readonly traces: TestTraces;
  readonly compared: ComparedTests;
  constructor(
    @Inject(Writes) writes: Writes,
    @Inject(ReadJob) read: ReadJob,
    @Inject(Shop) shop: Shop,
    @Inject(MeasurementRepository) measurements: MeasurementRepository,
    @Inject(EvaluationRepository) runs: EvaluationRepository,
    @Inject(JobRepository) jobs: JobRepository,
    @Inject(Units) units: Units,
    @Inject(TestTraces) traces: TestTraces,
    @Inject(ComparedTests) compared: ComparedTests,
  ) {
    this.compared = compared;
    this.traces = traces;
    this.writes = writes;
    this.read = read;
    this.shop = shop;
    this.measurements = measurements;
    this.runs = runs;
    this.jobs = jobs;
    this.units = units;
  }

  async test(
    act: Act,
    number: string,
    body: z.output<typeof testBody>,
  ): Promise<{ id: string; verdict: Verdict; reason: string }> {
    const kind = testKind(body.kind);
    if (!kind) throw badField('kind', `There is no test named ${body.kind}.`);
    const settings = await this.shop.settings();
    const reading = readForm(kind.fields, body.typed, defaultsOf(settings), 'complete');
    if (reading.problems.length > 0) throw badForm(reading.problems);
    const attached = await this.traces.of(number, body, kind.takesWaves === true);
    const earlierWaves = attached.waves ? await this.traces.earlierWaves(number, body) : undefined;
    const lacks = kind.lacks?.(reading.values, { waves: attached.waves !== undefined });
    if (lacks) throw badField(lacks.field, lacks.message);
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const row = await this.read.row(number, tx, 'lock');
      if (body.supersedes === undefined) refuseClosed(row);
      const old = body.supersedes === undefined ? undefined : await this.mayCorrect(tx, row, body);
      // a correction stays with the part and piece of what it corrects
      const part = old?.part ?? (await partThatCame(this.jobs, tx, row, body.part ?? kind.part, 'stator'));
      const unitId = old ? old.unitId : body.unit === undefined ? null : (await this.units.of(row, body.unit, tx)).id;
      const calibrationExpired = outOfDate(
        reading.values['instrument'],
        body.calibratedUntil ?? attached.calibratedUntil,
        settings,
        act.at,
      );
      await this.refuseOtherMachine(tx, row, kind);
      const tests = await this.runs.earlierTests(tx, row, part, unitId);
      const override = old ? null : await this.mayStress(act, tx, row, kind, body, tests);
      const context = await this.testContext(tx, row, part, body.stage, settings.limits, calibrationExpired, {
        tests,
        corrects: old?.id,
        // a piece of a lot has no earlier visits of its own
        visits: unitId === null ? await this.compared.visits(tx, row) : [],
        ofItsKind: kind.setAgainstItsKind ? await this.compared.ofItsKind(tx, row, kind) : undefined,
        waves: attached.waves,
        earlierWaves,
      });
      const judged = asLesser(judgeTest(kind, reading.values, context, act.actor.name), body.lesser);
      const id = await this.runs.addTest(tx, {
        jobId: row.id,
        part,
        unitId,
        stage: body.stage,
        kind: kind.id,
        typed: body.typed,
        values: reading.values,
        calculation: judged.result?.id ?? null,
        calculationVersion: judged.result?.version ?? null,
        limits: settings.limits,
        verdict: judged.verdict,
        reason: judged.reason,
        result: judged.result ?? null,
        personName: act.actor.name,
        takenAt: act.at,
        supersedes: body.supersedes ?? null,
        correctionReason: body.reason ?? null,
        override,
        lesser: body.lesser ?? null,
      });
      await attached.keep(tx, id, { jobId: row.id, part, at: act.at });
      await this.measurements.add(
        tx,
        {
          jobId: row.id,
          source: 'test',
          sourceId: id,
          stage: body.stage,
          part,
          unitId,
          at: act.at,
          personName: act.actor.name,
          verdict: judged.verdict,
        },
        measuredByTest({ ...body, values: reading.values, result: judged.result }, defaultsOf(settings)),
      );
      await audit({
        action: body.supersedes ? 'test.correct' : 'test.record',
        jobId: row.id,
        summary: `${kind.title} of ${number}: ${judged.verdict}. ${judged.reason}`,
        after: { ...withoutFile(body), verdict: judged.verdict },
      });
      await tell(`job:${number}`);
      return { id, verdict: judged.verdict, reason: judged.reason };
    });
  }

  /** A tester puts a name under an attention. */
  async signTest(act: Act, number: string, id: string, reason: string): Promise<null> {
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const row = await this.read.row(number, tx, 'lock');
      const run = await this.runs.test(tx, row, id);
      if (!run) throw notFound('such test');
      if (run.verdict !== 'attention')
        throw new Problem(409, 'Nothing to sign', `This test is "${run.verdict}"; only an attention is signed off.`);
      if (run.lesser !== null && !may(act.actor.role, 'foreman'))
        throw new Problem(403, 'Foreman', 'A lesser test stands only with the name of a foreman.');
      if (run.signed !== null) throw new Problem(409, 'Signed already', 'This test was signed off already.');
      const signed = {
        by: act.actor.name,
        role: act.actor.role,
        at: act.at.toISOString(),
        meaning: 'accepted with attention',
        reason,
      };
      await this.runs.signTest(tx, id, signed);
      await audit({
        action: 'test.sign',
        jobId: row.id,
        summary: `${testKind(run.kind)?.title ?? run.kind} of ${number} signed: ${reason}`,
        after: signed,
      });
      await tell(`job:${number}`);
      return null;
    });
  }

  async balance(
    act: Act,
    number: string,
    body: z.output<typeof balanceBody>,
  ): Promise<{ id: string; verdict: Verdict; reason: string }> {
    const settings = await this.shop.settings();
    const reading = readForm(BALANCE_FIELDS, body.typed, defaultsOf(settings), 'complete');
    if (reading.problems.length > 0) throw badForm(reading.problems);
    const result = runCalculation(balanceOnePlane, balanceInput(reading.values, settings.limits));
    const { verdict, reason } = result.values;
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const row = await this.read.row(number, tx, 'lock');
      refuseClosed(row);
      const part = await partThatCame(this.jobs, tx, row, body.part, 'rotor');
      const unitId = body.unit === undefined ? null : (await this.units.of(row, body.unit, tx)).id;
      const id = await this.runs.addBalance(tx, {
        jobId: row.id,
        part,
        unitId,
        typed: body.typed,
        values: reading.values,
        limits: settings.limits,
        calculation: result.id,
        calculationVersion: result.version,
        verdict,
        reason,
        result,
        personName: act.actor.name,
        at: act.at,
      });
      await this.measurements.add(
        tx,
        {
          jobId: row.id,
          source: 'balance',
          sourceId: id,
          part,
          unitId,
          at: act.at,
          personName: act.actor.name,
          verdict,
        },
        measuredByBalance({ typed: body.typed, values: reading.values }, defaultsOf(settings)),
      );
      await audit({
        action: 'balance.record',
        jobId: row.id,
        summary: `Balance of ${number}: ${verdict}. ${reason}`,
        after: { ...body, verdict },
      });
      await tell(`job:${number}`);
      return { id, verdict, reason };
    });
  }

  /** How a recorded verdict was worked out, step by step. */
  async working(number: string, id: string): Promise<unknown[]> {
    const { tables } = this.jobs.database;
    const result = UUID.test(id) ? await this.runs.result(tables, await this.jobs.row(number, tables), id) : undefined;
    if (result === undefined) throw notFound(`reading, cure or balance of ${number} with this id`);
    return (result as { working?: unknown[] } | null)?.working ?? [];
  }

  private async mayCorrect(tx: Transaction, row: JobRow, body: z.output<typeof testBody>): Promise<TestRow> {
    if (!body.reason) throw badField('reason', 'A correction needs its reason.');
    const old = await this.runs.test(tx, row, body.supersedes ?? '');
    if (!old) throw notFound('reading to correct');
    if (old.kind !== body.kind || old.stage !== body.stage)
      throw badField('kind', 'A correction must be of the same test at the same stage.');
    if (await this.runs.isCorrected(tx, old.id))
      throw new Problem(409, 'Corrected already', 'This reading was corrected already; correct the newest one.');
    return old;
  }

  /** A test of another kind of machine is refused: its figures would be compared with nothing of this one. */
  private async refuseOtherMachine(tx: Transaction, row: JobRow, kind: TestKind): Promise<void> {
    if (!kind.for) return;
    const { found, plan } = await this.read.windings(row, tx, FIRST_PART);
    const tested = testedOf(row.nameplate, found, plan, row.route);
    if (!kind.for(tested))
      throw badField(
        'kind',
        `${kind.title} is not for this machine (${tested.machine}${tested.record?.auxKind ? `, ${tested.record.auxKind}` : ''}). It can have: ${testsFor(
          tested,
        )
          .map((k) => k.title)
          .join(', ')}.`,
      );
  }

  /** The order of stress: who lets a test go on that a lower one bars, else it is refused. */
  private async mayStress(
    act: Act,
    tx: Transaction,
    row: JobRow,
    kind: TestKind,
    body: z.output<typeof testBody>,
    tests: readonly TestRow[],
  ): Promise<Signed | null> {
    const { found, plan } = await this.read.windings(row, tx, FIRST_PART);
    const came = row.intake.came;
    const bars = stressBars(kind.id, body.stage, tests, came, testedOf(row.nameplate, found, plan, row.route));
    if (bars.length === 0) return null;
    const says = bars.map((b) => b.says).join(' ');
    if (body.override === undefined)
      throw new Problem(
        409,
        'Order of stress',
        `${says} ${kind.title} would strain the winding more. A foreman may override with a reason.`,
        {
          field: 'override',
        },
      );
    if (!may(act.actor.role, 'foreman'))
      throw new Problem(403, 'Foreman', `${says} Only a foreman lets it go on.`, { field: 'override' });
    return {
      by: act.actor.name,
      role: act.actor.role,
      at: act.at.toISOString(),
      meaning: 'order of stress overridden',
      reason: `${body.override} (${says})`,
    };
  }

  private async rotorOf(row: JobRow, tx: Transaction) {
    return kept(await this.read.windings(row, tx, 'wound-rotor'));
  }

  private async testContext(
    tx: Transaction,
    row: JobRow,
    part: PartKind,
    stage: TestStage,
    limits: Readonly<Record<string, number>>,
    calibrationExpired: boolean,
    more: Pick<
      Parameters<typeof judgingContext>[0],
      'tests' | 'corrects' | 'visits' | 'ofItsKind' | 'waves' | 'earlierWaves'
    >,
  ) {
    return judgingContext({
      ...more,
      stage,
      part,
      route: row.route,
      nameplate: row.nameplate,
      ...(await this.read.windings(row, tx, part)),
      rotor: part === FIRST_PART ? await this.rotorOf(row, tx) : null,
      limits,
      calibrationExpired,
    });
  }
}

/** A simpler instrument that stood in passes nothing by itself: a foreman puts a name under it. */
function asLesser(judged: TestJudgement, lesser: string | undefined): TestJudgement {
  if (lesser === undefined) return judged;
  return {
    ...judged,
    verdict: judged.verdict === 'pass' ? 'attention' : judged.verdict,
    reason: `Lesser test, ${lesser}: it waits for the name of a foreman. ${judged.reason}`,
  };
}

/** A body as the record of events keeps it: the samples stand with the reading. */
const withoutFile = ({ waves, ...body }: z.output<typeof testBody>) => ({
  ...body,
  ...(waves ? { waves: waves.fileName } : {}),
});

/** The winding that counts of a part: as planned, else as found. */
const kept = <T>(w: { found: T; plan: T }): T => w.plan ?? w.found;

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;

/** Whether what it was measured with was out of calibration: as the reading says, else as the shop keeps it. */
function outOfDate(
  named: FieldValue | undefined,
  stated: string | undefined,
  { gauges, timeZone }: Pick<ShopSettings, 'gauges' | 'timeZone'>,
  at: Date,
): boolean {
  const kept = typeof named === 'string' ? gaugeNamed(gauges, named)?.calibratedUntil : undefined;
  const until = stated ?? kept ?? undefined;
  return until !== undefined && until < dayInZone(at, timeZone);
}
