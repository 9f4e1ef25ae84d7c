import { formatNumber, OVEN_READING_FIELDS } from '@norther/core';
import type { ovenEventBody, ovenReadingBody, probesBody } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import type { Act } from '../database/writes.ts';
import { badField, Problem } from '../problem/problem.ts';
import { OpenLoads } from './openLoads.ts';

/** Readings are typed for what was, and not for long ago. */
const TYPED_BACK_MS = 72 * 3_600_000;
/** Hotter is not believed of a part, °C. */
const BELIEVED_C = 600;

/** What is noted of a load while it runs: where its sensors sit, what a person read, what happened. */
@Injectable()
export class LoadNotes {
  readonly open: OpenLoads;
  constructor(@Inject(OpenLoads) open: OpenLoads) {
    this.open = open;
  }

  /** Which sensor sits where. After the start a change is a correction: it counts for the whole load, and says why. */
  async probes(act: Act, id: string, body: z.output<typeof probesBody>): Promise<null> {
    return this.open.change(act, id, async (unit, all) => {
      if (all.load.startedAt && body.reason.length < 3)
        throw badField('reason', 'The load runs: say why the sensors are assigned otherwise.');
      const said = body.probes.map((p) => p.channel);
      if (new Set(said).size < said.length) throw badField('probes', 'A sensor is named twice.');
      const changed = body.probes.filter((p) => {
        const now = all.probes.find((b) => b.channel === p.channel);
        return now === undefined || now.role !== p.role || now.partId !== p.part;
      });
      await this.open.sit(unit, act, all, changed, body.reason);
      if (all.load.startedAt && changed.length > 0)
        await this.open.event(unit, act, id, 'probes', `${changed.map((p) => p.channel).join(', ')}: ${body.reason}`);
      await unit.audit({
        action: 'oven.probes',
        summary: `Sensors of load ${all.load.number}: ${changed.map((p) => `${p.channel} ${p.role}`).join(', ') || 'unchanged'}`,
        before: all.probes.map(({ channel, role, partId }) => ({ channel, role, partId })),
        after: body,
      });
      return null;
    });
  }

  /** A part temperature that a person read. */
  async reading(act: Act, id: string, body: z.output<typeof ovenReadingBody>): Promise<null> {
    return this.open.change(act, id, async (unit, all) => {
      const part = this.open.inside(all, body.part);
      if (!all.load.startedAt) throw new Problem(409, 'Not started', 'Start the load first; then its readings count.');
      const values = await this.open.valuesOf(unit.tx, OVEN_READING_FIELDS, body.typed);
      const readAt = body.at === undefined ? act.at : new Date(body.at);
      if (readAt.getTime() > act.at.getTime() + 60_000) throw badField('at', 'This time lies ahead.');
      if (readAt < all.load.startedAt || act.at.getTime() - readAt.getTime() > TYPED_BACK_MS)
        throw badField('at', 'This time lies before the load was started.');
      const c = Number(values['c']);
      if (c > BELIEVED_C) throw badField('c', `${formatNumber(c)} °C is more than an oven holds; was it meant in °F?`);
      await this.open.rows.addReading(unit.tx, {
        loadId: id,
        partId: part.id,
        typed: body.typed,
        c,
        readAt,
        personName: act.actor.name,
        at: act.at,
      });
      await unit.audit({
        action: 'oven.reading',
        jobId: part.jobId,
        summary: `${part.job} read at ${formatNumber(c, 4)} °C in load ${all.load.number}`,
        after: { c, readAt },
      });
      return null;
    });
  }

  /** The burner goes off, the door is opened or shut, something is noted. */
  async happened(act: Act, id: string, body: z.output<typeof ovenEventBody>): Promise<null> {
    return this.open.change(act, id, async (unit, all) => {
      if (!all.load.startedAt) throw new Problem(409, 'Not started', 'The load has not been started.');
      if (body.kind === 'note' && body.note === '') throw badField('note', 'Write what there is to note.');
      await this.open.event(unit, act, id, body.kind, body.note);
      await unit.audit({
        action: 'oven.event',
        summary: `Load ${all.load.number}: ${body.kind}${body.note ? `, ${body.note}` : ''}`,
      });
      return null;
    });
  }
}
