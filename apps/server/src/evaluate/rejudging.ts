import { newest } from '../job/jobViews.ts';
import { ReadJob } from '../job/readJob.ts';
import { Shop } from '../shop/shop.ts';
import { WorkThread } from '../thread/workThread.ts';
import { PART_KINDS, type MotorTests, type Rejudged } from '@norther/core';
import { Inject, Injectable } from '@nestjs/common';
import { EvaluationRepository } from './evaluationRepository.ts';
import { TestTraces } from './testTraces.ts';

/** What the tests of motors in the house would say by the limits of today; nothing that is recorded changes. */
@Injectable()
export class Rejudging {
  readonly read: ReadJob;
  readonly shop: Shop;
  readonly runs: EvaluationRepository;
  readonly thread: WorkThread;
  readonly traces: TestTraces;
  constructor(
    @Inject(ReadJob) read: ReadJob,
    @Inject(Shop) shop: Shop,
    @Inject(EvaluationRepository) runs: EvaluationRepository,
    @Inject(WorkThread) thread: WorkThread,
    @Inject(TestTraces) traces: TestTraces,
  ) {
    this.traces = traces;
    this.read = read;
    this.shop = shop;
    this.runs = runs;
    this.thread = thread;
  }

  async list(): Promise<Rejudged> {
    const { limits } = await this.shop.settings();
    const motors = await this.read.database.reading(async (reader) => {
      const kept = await this.runs.openTests(reader);
      const out: MotorTests[] = [];
      for (const number of new Set(kept.map((k) => k.number))) {
        const row = await this.read.row(number, reader);
        const revisions = await this.read.windingRevisions(row, reader);
        out.push({
          number,
          what: row.what,
          route: row.route,
          nameplate: row.nameplate,
          windings: Object.fromEntries(PART_KINDS.map((part) => [part, newest(revisions, part)])),
          tests: kept
            .filter((k) => k.number === number)
            .map(({ test, traces }) => ({ ...test, fromTraces: traces > 0 })),
        });
      }
      return out;
    });
    // comparisons are judged from their samples, which are read one after the other
    for (const motor of motors)
      for (const test of motor.tests)
        if (test.kind === 'surge' && test.fromTraces) test.waves = await this.traces.wavesOf(motor.number, test.id);
    return this.thread.do('otherwise', { motors, limits });
  }
}
