import { windingOfPart } from '@norther/contracts';
import { connectionOfRecord, jointList, parseJoints, type WindingPart } from '@norther/core';
import type { JointSheet, jointSheetBody, tickBody } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import type { Reader } from '../database/database.ts';
import { type Act, Writes } from '../database/writes.ts';
import type { JobRow } from '../job/jobRepository.ts';
import { refuseClosed } from '../job/jobViews.ts';
import { ReadJob } from '../job/readJob.ts';
import { badField, conflict, Problem } from '../problem/problem.ts';
import { Shop } from '../shop/shop.ts';
import { WindingRepository } from './windingRepository.ts';

/** Joints of a winding: ticked by the person who made them, looked at by another, altered as they really are. */
@Injectable()
export class Joints {
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

  async sheet(number: string, part: WindingPart): Promise<JointSheet> {
    const reader = this.writes.database.tables;
    return this.stored(await this.read.row(number, reader), part, reader);
  }

  private async stored(row: JobRow, part: WindingPart, reader: Reader): Promise<JointSheet> {
    const found = await this.records.joints(row, part, reader);
    return {
      part,
      version: found?.version ?? 0,
      order: found?.order ?? (await this.shop.view(reader)).settings.jointOrder,
      ticks: found?.ticks ?? {},
      asMade: found?.asMade ?? '',
    };
  }

  /** One joint made, taken back, or looked at by a second person. */
  async tick(act: Act, number: string, part: WindingPart, body: z.output<typeof tickBody>): Promise<JointSheet> {
    const job = await this.read.detail(number);
    const made = connectionOfRecord(windingOfPart(job, part).record);
    if (!made.connection)
      throw new Problem(422, 'Not drawn', made.why || 'This winding has no connection to tick yet.');
    const known = jointList(made.connection, 'jumpers first').some((j) => j.key === body.joint);
    if (!known) throw badField('joint', `${body.joint} is no joint of this connection.`);
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const row = await this.read.row(number, tx, 'lock');
      refuseClosed(row);
      const now = await this.stored(row, part, tx);
      const tick = now.ticks[body.joint];
      const at = act.at.toISOString();
      const ticks = Object.fromEntries(
        Object.entries(now.ticks).filter(([key]) => body.what !== 'not made' || key !== body.joint),
      );
      if (body.what === 'made')
        ticks[body.joint] = { kind: body.kind, by: act.actor.name, at, checkedBy: null, checkedAt: null };
      else if (!tick) throw badField('joint', `${body.joint} has not been made yet.`);
      else if (body.what === 'checked') {
        if (tick.by === act.actor.name)
          throw badField('joint', `${body.joint} was made by ${tick.by}; a second person looks at it.`);
        ticks[body.joint] = { ...tick, checkedBy: act.actor.name, checkedAt: at };
      }
      const next = { ...now, ticks, version: now.version + 1 };
      await this.records.putJoints(tx, row, next);
      await audit({
        action: 'joint.tick',
        jobId: row.id,
        summary: `Joint ${body.joint} of ${number}: ${body.what}`,
        before: tick ?? null,
        after: ticks[body.joint] ?? null,
      });
      await tell(`job:${number}`);
      return next;
    });
  }

  /** The order of work and the joints as they really are. */
  async save(act: Act, number: string, part: WindingPart, body: z.output<typeof jointSheetBody>): Promise<JointSheet> {
    const { problems } = parseJoints(body.asMade);
    if (problems.length > 0) throw badField('asMade', problems[0] as string);
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const row = await this.read.row(number, tx, 'lock');
      refuseClosed(row);
      const now = await this.stored(row, part, tx);
      if (now.version !== body.version) throw conflict(`The joints of ${number} were changed meanwhile.`, now, body);
      const next = { ...now, order: body.order, asMade: body.asMade, version: now.version + 1 };
      await this.records.putJoints(tx, row, next);
      await audit({
        action: 'joint.sheet',
        jobId: row.id,
        summary: `Joints of ${number} as made`,
        before: { order: now.order, asMade: now.asMade },
        after: { order: body.order, asMade: body.asMade },
      });
      await tell(`job:${number}`);
      return next;
    });
  }
}
