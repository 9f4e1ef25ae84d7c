import type { measureBody } from '@norther/contracts';
import {
  asLinkedToRun,
  connectionOfRecord,
  FIRST_PART,
  jointsOf,
  judgedByPlan,
  judgingContext,
  parseJoints,
  ROUTES,
  testKind,
  testVoltageRange,
  type AnalyserOrder,
} from '@norther/core';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import { Writes, type Act } from '../database/writes.ts';
import { Commands } from '../instrument/commands.ts';
import { refuseClosed } from '../job/jobViews.ts';
import { ReadJob } from '../job/readJob.ts';
import { badField } from '../problem/problem.ts';
import { Shop } from '../shop/shop.ts';
import { WindingRepository } from '../winding/windingRepository.ts';
import { EvaluationRepository } from './evaluationRepository.ts';

/** A motor on a simulated analyser: what it is told of the winding, worked out from the record and the joints as they were made. */
@Injectable()
export class Analysers {
  readonly writes: Writes;
  readonly read: ReadJob;
  readonly commands: Commands;
  readonly shop: Shop;
  readonly windings: WindingRepository;
  readonly runs: EvaluationRepository;
  constructor(
    @Inject(Writes) writes: Writes,
    @Inject(ReadJob) read: ReadJob,
    @Inject(Commands) commands: Commands,
    @Inject(Shop) shop: Shop,
    @Inject(WindingRepository) windings: WindingRepository,
    @Inject(EvaluationRepository) runs: EvaluationRepository,
  ) {
    this.runs = runs;
    this.writes = writes;
    this.read = read;
    this.commands = commands;
    this.shop = shop;
    this.windings = windings;
  }

  async measure(act: Act, number: string, body: z.output<typeof measureBody>): Promise<{ analyser: string }> {
    const { limits } = await this.shop.settings();
    return this.writes.run(act, async (unit) => {
      const row = await this.read.row(number, unit.tx, 'lock');
      refuseClosed(row);
      const { found, plan } = await this.read.windings(row, unit.tx, FIRST_PART);
      const isNew = judgedByPlan(body.stage, ROUTES[row.route].rewinds.includes(FIRST_PART));
      const kept = isNew ? (plan ?? found) : found;
      if (!kept) throw badField('test', 'No winding is recorded of this motor yet: there is nothing to simulate.');
      const nameplate = kept.redesign?.nameplate ?? row.nameplate;
      const made = connectionOfRecord(kept.record);
      if (!made.connection) throw badField('test', `This winding cannot be simulated: ${made.why}`);
      const context = judgingContext({
        stage: body.stage,
        route: row.route,
        nameplate: row.nameplate,
        found,
        plan,
        limits,
        calibrationExpired: false,
        tests: await this.runs.earlierTests(unit.tx, row, FIRST_PART, null),
      });
      const figures = context.figures;
      const sheet = isNew ? await this.windings.joints(row, FIRST_PART, unit.tx) : undefined;
      const asMade = sheet?.asMade ? parseJoints(sheet.asMade) : undefined;
      const linked = asLinkedToRun(made.layout, made.connection) ?? made.connection;
      const due = testKind(body.test)?.due?.(context).typed?.['testV'];
      const volts = Number(due ?? testVoltageRange(Math.max(0, ...(nameplate.voltagesV ?? [])))[1]);
      const detail: AnalyserOrder = {
        job: number,
        test: body.test,
        stage: body.stage,
        layout: made.layout,
        joints: asMade && asMade.problems.length === 0 && asMade.joints.length > 0 ? asMade.joints : jointsOf(linked),
        lineOhm: figures?.lineResistance20Ohm ?? 1,
        volts: Math.max(1, Math.round(volts)),
        cured: isNew && body.stage !== 'AC',
      };
      const analyser = await this.commands.simulate(act, unit, body.instrument, {
        kind: 'winding analyser',
        command: 'measure',
        detail,
      });
      await unit.audit({
        action: 'test.measure',
        jobId: row.id,
        summary: `${number} measured on ${analyser} (simulated): ${body.test}`,
        after: body,
      });
      return { analyser };
    });
  }
}
