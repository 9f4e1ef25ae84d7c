import { defaultsOf, failedWinding, failureInputOf, type FailureView, type failureBody } from '@norther/contracts';
import {
  failureAnalysis,
  FAILURE_FIELDS,
  lacksFailure,
  readForm,
  readPins,
  runCalculation,
  sayPart,
} from '@norther/core';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import { type Act, Writes } from '../database/writes.ts';
import { failureView, refuseClosed } from '../job/jobViews.ts';
import { ReadJob } from '../job/readJob.ts';
import { badField, badForm, conflict } from '../problem/problem.ts';
import { Shop } from '../shop/shop.ts';
import { WindingRepository } from './windingRepository.ts';

/** Why a winding failed: each save is a new revision, worked out again from what the job knows by then. */
@Injectable()
export class Failures {
  readonly writes: Writes;
  readonly read: ReadJob;
  readonly shop: Shop;
  readonly records: WindingRepository;
  constructor(
    @Inject(Writes) writes: Writes,
    @Inject(ReadJob) read: ReadJob,
    @Inject(Shop) shop: Shop,
    @Inject(WindingRepository) records: WindingRepository,
  ) {
    this.writes = writes;
    this.read = read;
    this.shop = shop;
    this.records = records;
  }

  async save(act: Act, number: string, body: z.output<typeof failureBody>): Promise<FailureView> {
    const settings = await this.shop.settings();
    const reading = readForm(FAILURE_FIELDS, body.typed, defaultsOf(settings), 'complete');
    if (reading.problems.length > 0) throw badForm(reading.problems);
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const row = await this.read.row(number, tx, 'lock');
      refuseClosed(row);
      const job = await this.read.detailWith(tx, number);
      if (!job.parts.some((p) => p.kind === body.part))
        throw badField('part', `${number} has no ${sayPart(body.part) || body.part}.`);
      const now = job.failures?.find((f) => f.part === body.part);
      if ((now?.revision ?? 0) !== body.revision)
        throw conflict(
          `The failure analysis of ${number} was saved by ${now?.person ?? 'someone'} meanwhile.`,
          now ?? null,
          body,
        );
      const lacks = lacksFailure(reading.values, failedWinding(job, body.part).layout);
      if (lacks) throw badField(lacks.field, lacks.message);
      const beyond = readPins(body.typed['pins'] ?? '').find((p) => (p.photograph ?? 1) > job.attachments.length);
      if (beyond)
        throw badField(
          'pins',
          `There is no photograph ${beyond.photograph}: ${job.attachments.length} are kept with ${number}.`,
        );
      const result = runCalculation(failureAnalysis, failureInputOf(job, body.part, reading.values, settings.limits));
      const stored = await this.records.addFailure(tx, {
        jobId: row.id,
        part: body.part,
        revision: body.revision + 1,
        typed: body.typed,
        values: reading.values,
        verdict: result.values.verdict,
        reason: result.values.reason,
        result,
        personName: act.actor.name,
        at: act.at,
      });
      await audit({
        action: 'failure.save',
        jobId: row.id,
        summary: `Failure analysis of ${number}, revision ${body.revision + 1}: ${result.values.reason}`,
        before: now?.typed ?? null,
        after: body.typed,
      });
      await tell(`job:${number}`);
      return failureView(stored);
    });
  }
}
