import type { PartOutAnswer } from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import type { Act, WriteUnit } from '../database/writes.ts';
import { Cures } from '../evaluate/cures.ts';
import { partThatCame } from '../job/partThatCame.ts';
import { ReadJob } from '../job/readJob.ts';
import { badField, Problem } from '../problem/problem.ts';
import { addTrace } from '../trace/traceStatements.ts';
import { OpenLoads } from './openLoads.ts';
import type { LoadAll } from './ovenRepository.ts';
import { Ovens } from './ovens.ts';
import { PartJudging } from './partJudging.ts';

/** Parts that leave a load. */
@Injectable()
export class PartsOut {
  readonly open: OpenLoads;
  readonly ovens: Ovens;
  readonly cures: Cures;
  readonly judging: PartJudging;
  readonly read: ReadJob;
  constructor(
    @Inject(OpenLoads) open: OpenLoads,
    @Inject(Ovens) ovens: Ovens,
    @Inject(Cures) cures: Cures,
    @Inject(PartJudging) judging: PartJudging,
    @Inject(ReadJob) read: ReadJob,
  ) {
    this.read = read;
    this.open = open;
    this.ovens = ovens;
    this.cures = cures;
    this.judging = judging;
  }

  /**
   * A part leaves: what its own temperature says is judged and recorded with it. Before it is done it leaves with a reason. The last
   * one out ends the load.
   */
  async takeOut(act: Act, id: string, partId: string, said: string): Promise<PartOutAnswer> {
    const before = await this.open.rows.database.reading((reader) => this.ovens.all(reader, id));
    const part = this.open.inside(before, partId);
    if (!before.load.startedAt) return this.takeBack(act, id, partId, said);
    const judged = await this.judging.judge(before, part, act.at);
    if (judged.verdict !== 'pass' && said.length < 3)
      throw badField('reason', `${judged.reason} Say why ${part.job} leaves now.`);
    return this.open.change(act, id, async (unit, all) => {
      const still = this.open.inside(all, partId);
      if (all.probes.length !== before.probes.length || all.probes.some((p, i) => p.id !== before.probes[i]?.id))
        throw new Problem(409, 'Changed meanwhile', 'The sensors were assigned otherwise meanwhile; look at it again.');
      const row = await this.read.row(still.job, unit.tx);
      const traceId = judged.trace
        ? await addTrace(
            unit.tx,
            {
              jobId: still.jobId,
              part: await partThatCame(this.read.jobs, unit.tx, row, undefined, 'stator'),
              what: 'oven',
              channels: judged.trace.channels,
              xUnit: 'min',
              startAt: new Date(judged.trace.zeroMs),
              source: all.chamber.instrumentId ? 'instrument' : 'by hand',
              sourceName: `${all.chamber.name}, load ${all.load.number}${judged.trace.simulated ? ' (simulated)' : ''}`,
              instrumentId: all.chamber.instrumentId,
              at: act.at,
              endedAt: act.at,
            },
            judged.trace.chunks,
          )
        : null;
      await this.open.rows.setPart(unit.tx, partId, {
        outBy: act.actor.name,
        outAt: act.at,
        outReason: said,
        verdict: judged.verdict,
        says: judged.reason,
        figures: judged.figures,
        ...(judged.result
          ? {
              calculation: judged.result.id,
              calculationVersion: judged.result.version,
              result: judged.result,
            }
          : {}),
        ...(traceId ? { traceId } : {}),
      });
      await this.open.event(unit, act, id, 'part out', `${still.job}: ${judged.reason}${said ? ` (${said})` : ''}`);
      if (all.load.use === 'bake' && judged.cure && traceId)
        await this.cures.keep(
          unit,
          act,
          still.job,
          {
            fileName: `${all.chamber.name}, load ${all.load.number}${judged.trace?.simulated ? ' (simulated)' : ''}`,
            code: still.code,
            reason: said || `oven load ${all.load.number}`,
            resin: judged.cure.resin,
            settings: judged.cure.settings,
            log: judged.cure.log,
          },
          () => Promise.resolve(traceId),
        );
      await unit.audit({
        action: 'oven.out',
        jobId: still.jobId,
        summary: `${still.job} out of ${all.chamber.name}, load ${all.load.number}: ${judged.verdict}. ${judged.reason}${said ? ` Reason: ${said}` : ''}`,
        after: { verdict: judged.verdict, reason: said },
      });
      if (all.parts.filter((p) => p.outAt === null).length === 1) await this.end(unit, act, all);
      await unit.tell(`job:${still.job}`);
      return { verdict: judged.verdict, reason: judged.reason };
    });
  }

  /** Before the start a part is simply taken back; nothing is judged. */
  private async takeBack(act: Act, id: string, partId: string, said: string): Promise<PartOutAnswer> {
    return this.open.change(act, id, async (unit, all) => {
      const part = this.open.inside(all, partId);
      if (all.load.startedAt) throw new Problem(409, 'Running', `Load ${all.load.number} was started meanwhile.`);
      await this.open.sit(
        unit,
        act,
        all,
        all.probes
          .filter((p) => p.partId === partId)
          .map((p) => ({ channel: p.channel, role: 'not used', part: null })),
        '',
      );
      await this.open.rows.setPart(unit.tx, partId, {
        outBy: act.actor.name,
        outAt: act.at,
        outReason: said || 'taken back before the start',
      });
      await unit.audit({
        action: 'oven.back',
        jobId: part.jobId,
        summary: `${part.job} taken back out of load ${all.load.number} before it was started`,
      });
      await unit.tell(`job:${part.job}`);
      if (all.parts.filter((p) => p.outAt === null).length === 1) await this.end(unit, act, all);
      return { verdict: 'cannot judge', reason: `${part.job} was taken back before the load was started.` };
    });
  }

  private async end(unit: WriteUnit, act: Act, { load, chamber }: LoadAll): Promise<void> {
    const traces = await this.open.rows.tracesOf(unit.tx, load, chamber.instrumentId);
    await this.open.rows.setLoad(unit.tx, load.id, {
      endedAt: act.at,
      tracesTo: Object.fromEntries(traces.map((t) => [t.id, t.to ?? 0])),
    });
  }
}
