import { may, type workBody } from '@norther/contracts';
import { operation } from '@norther/core';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import { PeopleRepository } from '../auth/peopleRepository.ts';
import { type Act, Writes } from '../database/writes.ts';
import { refuseClosed, statesOf } from '../job/jobViews.ts';
import { ReadJob } from '../job/readJob.ts';
import { badField, notFound, Problem } from '../problem/problem.ts';
import { doneAt } from './doneAt.ts';
import { StepRepository } from './stepRepository.ts';

/** Who works at a running step: the time of each person is counted apart. */
@Injectable()
export class Spells {
  readonly writes: Writes;
  readonly read: ReadJob;
  readonly records: StepRepository;
  readonly people: PeopleRepository;
  constructor(
    @Inject(Writes) writes: Writes,
    @Inject(ReadJob) read: ReadJob,
    @Inject(StepRepository) records: StepRepository,
    @Inject(PeopleRepository) people: PeopleRepository,
  ) {
    this.writes = writes;
    this.read = read;
    this.records = records;
    this.people = people;
  }

  async work(act: Act, number: string, code: string, body: z.output<typeof workBody>): Promise<void> {
    await this.writes.run(act, async (unit) => {
      const row = await this.read.row(number, unit.tx, 'lock');
      refuseClosed(row);
      const states = statesOf(await this.read.steps(row, unit.tx));
      if (!Object.hasOwn(states, code)) throw notFound(`operation ${code} in the route of ${number}`);
      const { title } = operation(code);
      const attempt = await this.records.lastAttempt(unit.tx, row, code);
      if (states[code] !== 'running' || !attempt || attempt.finishedAt !== null)
        throw new Problem(409, 'Not running', `${title} is not running; start it first.`);
      const at = await this.records.openSpells(unit.tx, attempt.id);
      const own = at.some((s) => s.personId === act.actor.id);
      const person = act.actor;
      const when = doneAt(act, attempt.startedAt);
      const tell = (summary: string) =>
        unit.audit({
          action: `step.${body.what === 'hand over' ? 'handOver' : body.what}`,
          jobId: row.id,
          summary,
          after: { code },
        });
      if (body.what === 'join') {
        // whoever is at it already stays at it: a press too many does no harm
        if (own) return;
        await this.records.addSpell(unit.tx, { row, attemptId: attempt.id, person, at: when });
        await tell(`${person.name} works at ${title} of ${number}`);
      } else {
        if (!own) throw new Problem(409, 'Not at it', `${person.name} is not at ${title} just now.`);
        if (body.what === 'pause') {
          await this.records.endSpells(unit.tx, attempt.id, { at: when, how: 'pause', personId: person.id });
          await tell(`${person.name} paused ${title} of ${number}`);
        } else {
          const to = await this.people.byId(body.to, unit.tx);
          if (!to?.active || !may(to.role, 'winder'))
            throw badField('to', 'A step is handed over to somebody of this shop who may work at it.');
          if (to.id === person.id) throw badField('to', 'It cannot be handed over to oneself.');
          await this.records.endSpells(unit.tx, attempt.id, {
            at: when,
            how: 'hand over',
            personId: person.id,
            handedTo: to.name,
          });
          if (!at.some((s) => s.personId === to.id))
            await this.records.addSpell(unit.tx, { row, attemptId: attempt.id, person: to, at: when });
          await tell(`${person.name} handed ${title} of ${number} over to ${to.name}`);
        }
      }
      await unit.tell(`job:${number}`);
    });
  }
}
