import { CalculationInputError } from '@norther/core';
import { Inject, Injectable } from '@nestjs/common';
import { now } from '../clock/clock.ts';
import { Writes } from '../database/writes.ts';
import { type Effect, type WorkData, type WorkHandler, WorkProblem } from '../queue/kinds.ts';
import { Cures } from './cures.ts';

/** Reads and judges a long oven log in the background and keeps it under the name of who read it in. */
@Injectable()
export class LongLog implements WorkHandler<'ovenLog'> {
  readonly kind = 'ovenLog';
  readonly cures: Cures;
  readonly writes: Writes;
  constructor(@Inject(Cures) cures: Cures, @Inject(Writes) writes: Writes) {
    this.cures = cures;
    this.writes = writes;
  }

  async prepare({ number, body, actor }: WorkData['ovenLog']): Promise<Effect> {
    const by = { actor, at: now() };
    const keep = await this.cures.judged(number, body).catch((error: unknown) => {
      if (error instanceof CalculationInputError) throw new WorkProblem(error.problems.map((p) => p.message).join(' '));
      throw error;
    });
    return async (tx) => ({ result: await keep(this.writes.unit(tx, by), by) });
  }
}
