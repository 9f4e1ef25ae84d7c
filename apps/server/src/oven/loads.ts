import {
  BURN_PART_FIELDS,
  formatNumber,
  LOAD_FIELDS,
  LOAD_PART_FIELDS,
  operation,
  OVEN_READING_FIELDS,
  readForm,
  sayUse,
  whyNotIn,
  whyNotSo,
  type CorePlate,
  type FieldSpec,
  type Typed,
} from '@norther/core';
import {
  defaultsOf,
  type loadPartBody,
  type newLoadBody,
  type ovenEventBody,
  type ovenReadingBody,
  type PartOutAnswer,
  type probesBody,
} from '@norther/contracts';
import { Inject, Injectable } from '@nestjs/common';
import type { z } from 'zod';
import type { Reader, Transaction } from '../database/tables.ts';
import { type Act, type WriteUnit, Writes } from '../database/writes.ts';
import { Cures } from '../evaluate/cures.ts';
import { refuseClosed } from '../job/jobViews.ts';
import { ReadJob } from '../job/readJob.ts';
import { badField, badForm, notFound, Problem } from '../problem/problem.ts';
import { Steps } from '../process/steps.ts';
import { Shop } from '../shop/shop.ts';
import { addTrace } from '../trace/traceStatements.ts';
import { PartJudging } from './partJudging.ts';
import { OvenRepository, type LoadAll, type LoadRow, type PartRow } from './ovenRepository.ts';
import { Ovens, plannedOf } from './ovens.ts';

/** Readings are typed for what was, and not for long ago. */
const TYPED_BACK_MS = 72 * 3_600_000;

/** Loads: begun, filled, started, read, and emptied part by part. What stands against it is said in the transaction. */
@Injectable()
export class Loads {
  readonly writes: Writes;
  readonly read: ReadJob;
  readonly shop: Shop;
  readonly rows: OvenRepository;
  readonly ovens: Ovens;
  readonly steps: Steps;
  readonly cures: Cures;
  readonly judging: PartJudging;
  constructor(
    @Inject(Writes) writes: Writes,
    @Inject(ReadJob) read: ReadJob,
    @Inject(Shop) shop: Shop,
    @Inject(OvenRepository) rows: OvenRepository,
    @Inject(Ovens) ovens: Ovens,
    @Inject(Steps) steps: Steps,
    @Inject(Cures) cures: Cures,
    @Inject(PartJudging) judging: PartJudging,
  ) {
    this.writes = writes;
    this.read = read;
    this.shop = shop;
    this.rows = rows;
    this.ovens = ovens;
    this.steps = steps;
    this.cures = cures;
    this.judging = judging;
  }

  /** A load is begun in an empty chamber: what it is for, which resin, what the air is set to. */
  async begin(act: Act, body: z.output<typeof newLoadBody>): Promise<{ id: string; number: number }> {
    return this.writes.run(act, async ({ tx, audit, tell }) => {
      const chamber = await this.rows.chamber(tx, body.chamberId, 'lock');
      if (!chamber?.active) throw notFound('such chamber in use');
      const values = await this.valuesOf(tx, LOAD_FIELDS, body.typed);
      const { settings } = await this.shop.view(tx);
      const resin = body.use === 'bake' ? settings.resins.find((r) => r.name === body.resin) : undefined;
      if (body.use === 'bake' && body.resin !== undefined && !resin)
        throw badField('resin', `The shop has no resin named "${body.resin}"; an admin adds it on the shop page.`);
      const setPointC = Number(values['setPoint']);
      const faults = whyNotSo(chamber, { use: body.use, resin: resin?.name, setPointC }, resin);
      if (faults.length > 0) throw badForm(faults.map((f) => ({ field: f.field, message: f.says })));
      const load = await this.rows.addLoad(tx, {
        chamberId: chamber.id,
        use: body.use,
        resin: resin ?? null,
        setPointC,
        limits: settings.limits,
        school: settings.cureSchool,
        begunBy: act.actor.name,
        begunAt: act.at,
      });
      if (!load)
        throw new Problem(409, 'In use', `A load stands in ${chamber.name} already; put the part into it, or empty it first.`);
      await audit({
        action: 'oven.begin',
        summary: `Load ${load.number} begun in ${chamber.name}: to ${sayUse(load.use)}${resin ? ` ${resin.name}` : ''}, air ${formatNumber(setPointC)} °C`,
        after: body,
      });
      await tell('ovens');
      return { id: load.id, number: load.number };
    });
  }

  /** A card is scanned in: checked for door, mass, resin and use; its operation begins with it. */
  async putIn(act: Act, id: string, body: z.output<typeof loadPartBody>): Promise<{ part: string }> {
    return this.change(act, id, async (unit, all) => {
      const { tx } = unit;
      if (all.load.startedAt)
        throw new Problem(
          409,
          'Running',
          `Load ${all.load.number} runs: nothing joins it half way. Begin another when it is out.`,
        );
      const row = await this.read.row(body.job, tx, 'lock');
      refuseClosed(row);
      const inside = await this.rows.insideOf(tx, row.id);
      if (inside !== undefined) throw badField('job', `${row.number} stands in load ${inside} already.`);
      const step = await this.ovens.stepFor(tx, row, all.load.use);
      if (!step)
        throw badField('job', `${row.number} has nothing open to ${sayUse(all.load.use)}; look at its route.`);
      const specs = all.load.use === 'burn-off' ? BURN_PART_FIELDS : LOAD_PART_FIELDS;
      const values = await this.valuesOf(tx, specs, body.typed);
      const mm = (name: string) => 1000 * Number(values[name]);
      const faults = whyNotIn(all.chamber, plannedOf(all), {
        job: row.number,
        use: all.load.use,
        resin: await this.ovens.resinOf(tx, row),
        massKg: Number(values['mass']),
        widthMm: mm('width'),
        heightMm: mm('height'),
      });
      if (faults.length > 0) throw badForm(faults.map((f) => ({ field: f.field, message: f.says })));
      if (!step.running)
        await this.steps.start(act, row.number, step.code, body.override ? { override: body.override } : {}, unit);
      const part = await this.rows.addPart(tx, {
        loadId: id,
        jobId: row.id,
        code: step.code,
        typed: body.typed,
        massKg: Number(values['mass']),
        widthMm: mm('width'),
        heightMm: mm('height'),
        corePlate: (values['corePlate'] as CorePlate | undefined) ?? null,
        inBy: act.actor.name,
        inAt: act.at,
      });
      if (part === undefined) throw badField('job', `${row.number} stands in a load already.`);
      await this.sit(unit, act, all, body.channels.map((channel) => ({ channel, role: 'part' as const, part })), '');
      await unit.audit({
        action: 'oven.in',
        jobId: row.id,
        summary: `${row.number} went into ${all.chamber.name}, load ${all.load.number}: ${operation(step.code).title}`,
        after: body,
      });
      await unit.tell(`job:${row.number}`);
      return { part };
    });
  }

  /** Door shut, burner on: from here the load counts. */
  async start(act: Act, id: string): Promise<null> {
    return this.change(act, id, async (unit, all) => {
      if (all.load.startedAt) throw new Problem(409, 'Running', `Load ${all.load.number} runs already.`);
      const inside = all.parts.filter((p) => p.outAt === null);
      if (inside.length === 0) throw badField('job', 'Nothing stands in it yet; scan a card in first.');
      const running = all.chamber.instrumentId
        ? await this.rows.running(unit.tx, all.chamber.instrumentId)
        : undefined;
      await this.rows.setLoad(unit.tx, id, {
        startedAt: act.at,
        startedBy: act.actor.name,
        ...(running ? { traceId: running.id, traceFrom: running.to ?? 0 } : {}),
      });
      await this.event(unit, act, id, 'started', '');
      await unit.audit({
        action: 'oven.start',
        summary: `Load ${all.load.number} started in ${all.chamber.name}: ${inside.map((p) => p.job).join(', ')}`,
      });
      return null;
    });
  }

  /** Which sensor sits where. After the start a change is a correction: it counts for the whole load, and says why. */
  async probes(act: Act, id: string, body: z.output<typeof probesBody>): Promise<null> {
    return this.change(act, id, async (unit, all) => {
      if (all.load.startedAt && body.reason.length < 3)
        throw badField('reason', 'The load runs: say why the sensors are assigned otherwise.');
      const said = body.probes.map((p) => p.channel);
      if (new Set(said).size < said.length) throw badField('probes', 'A sensor is named twice.');
      const changed = body.probes.filter((p) => {
        const now = all.probes.find((b) => b.channel === p.channel);
        return now === undefined || now.role !== p.role || now.partId !== p.part;
      });
      await this.sit(unit, act, all, changed, body.reason);
      if (all.load.startedAt && changed.length > 0)
        await this.event(unit, act, id, 'probes', `${changed.map((p) => p.channel).join(', ')}: ${body.reason}`);
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
    return this.change(act, id, async (unit, all) => {
      const part = this.inside(all, body.part);
      if (!all.load.startedAt) throw new Problem(409, 'Not started', 'Start the load first; then its readings count.');
      const values = await this.valuesOf(unit.tx, OVEN_READING_FIELDS, body.typed);
      const readAt = body.at === undefined ? act.at : new Date(body.at);
      if (readAt.getTime() > act.at.getTime() + 60_000) throw badField('at', 'This time lies ahead.');
      if (readAt < all.load.startedAt || act.at.getTime() - readAt.getTime() > TYPED_BACK_MS)
        throw badField('at', 'This time lies before the load was started.');
      const c = Number(values['c']);
      if (c > BELIEVED_C) throw badField('c', `${formatNumber(c)} °C is more than an oven holds; was it meant in °F?`);
      await this.rows.addReading(unit.tx, {
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
    return this.change(act, id, async (unit, all) => {
      if (!all.load.startedAt) throw new Problem(409, 'Not started', 'The load has not been started.');
      if (body.kind === 'note' && body.note === '') throw badField('note', 'Write what there is to note.');
      await this.event(unit, act, id, body.kind, body.note);
      await unit.audit({
        action: 'oven.event',
        summary: `Load ${all.load.number}: ${body.kind}${body.note ? `, ${body.note}` : ''}`,
      });
      return null;
    });
  }

  /**
   * A part leaves: what its own temperature says is judged and recorded with it. Before it is done it leaves with a reason. The last
   * one out ends the load.
   */
  async takeOut(act: Act, id: string, partId: string, said: string): Promise<PartOutAnswer> {
    const before = await this.rows.database.reading((reader) => this.ovens.all(reader, id));
    const part = this.inside(before, partId);
    if (!before.load.startedAt) return this.takeBack(act, id, partId, said);
    const judged = await this.judging.judge(before, part, act.at);
    if (judged.verdict !== 'pass' && said.length < 3)
      throw badField('reason', `${judged.reason} Say why ${part.job} leaves now.`);
    return this.change(act, id, async (unit, all) => {
      const still = this.inside(all, partId);
      if (all.probes.length !== before.probes.length || all.probes.some((p, i) => p.id !== before.probes[i]?.id))
        throw new Problem(409, 'Changed meanwhile', 'The sensors were assigned otherwise meanwhile; look at it again.');
      const traceId = judged.trace
        ? await addTrace(
            unit.tx,
            {
              jobId: still.jobId,
              part: null,
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
      await this.rows.setPart(unit.tx, partId, {
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
      await this.event(unit, act, id, 'part out', `${still.job}: ${judged.reason}${said ? ` (${said})` : ''}`);
      if (all.load.use === 'bake' && judged.cure && traceId)
        await this.cures.keep(
          unit,
          act,
          still.job,
          {
            fileName: `${all.chamber.name}, load ${all.load.number}${judged.trace?.simulated ? ' (simulated)' : ''}`,
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
    return this.change(act, id, async (unit, all) => {
      const part = this.inside(all, partId);
      if (all.load.startedAt) throw new Problem(409, 'Running', `Load ${all.load.number} was started meanwhile.`);
      await this.sit(
        unit,
        act,
        all,
        all.probes.filter((p) => p.partId === partId).map((p) => ({ channel: p.channel, role: 'not used', part: null })),
        '',
      );
      await this.rows.setPart(unit.tx, partId, {
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
    const traces = await this.rows.tracesOf(unit.tx, load, chamber.instrumentId);
    await this.rows.setLoad(unit.tx, load.id, {
      endedAt: act.at,
      tracesTo: Object.fromEntries(traces.map((t) => [t.id, t.to ?? 0])),
    });
  }

  private inside(all: LoadAll, partId: string): PartRow {
    const part = all.parts.find((p) => p.id === partId);
    if (!part) throw notFound('such part in this load');
    if (part.outAt) throw new Problem(409, 'Out already', `${part.job} is out of load ${all.load.number} already.`);
    return part;
  }

  /** Puts sensors where they are said to be; what they were before stays readable. */
  private async sit(
    unit: WriteUnit,
    act: Act,
    all: LoadAll,
    probes: readonly { channel: string; role: 'part' | 'oven air' | 'not used'; part: string | null }[],
    reason: string,
  ): Promise<void> {
    for (const p of probes)
      if (p.part !== null && p.role !== 'part')
        throw badField('probes', `${p.channel} cannot be ${p.role} and sit on a part.`);
    const taken = probes.find((p) => {
      const now = all.probes.find((b) => b.channel === p.channel);
      return !all.load.startedAt && p.part !== null && now?.partId && now.partId !== p.part && reason === '';
    });
    if (taken) {
      const on = all.parts.find((p) => p.id === all.probes.find((b) => b.channel === taken.channel)?.partId);
      if (on && on.outAt === null)
        throw badField('channels', `${taken.channel} sits on ${on.job} already; take another, or move it first.`);
    }
    await this.rows.supersedeProbes(
      unit.tx,
      all.load.id,
      probes.map((p) => p.channel),
      act.at,
    );
    await this.rows.addProbes(
      unit.tx,
      probes.map((p) => ({
        loadId: all.load.id,
        channel: p.channel,
        role: p.role,
        partId: p.part,
        personName: act.actor.name,
        at: act.at,
        reason,
      })),
    );
  }

  private async event(
    unit: WriteUnit,
    act: Act,
    loadId: string,
    kind: Parameters<OvenRepository['addEvent']>[1]['kind'],
    note: string,
  ): Promise<void> {
    await this.rows.addEvent(unit.tx, { loadId, kind, note, personName: act.actor.name, at: act.at });
  }

  private async valuesOf(reader: Reader, specs: readonly FieldSpec[], typed: Typed) {
    const { settings } = await this.shop.view(reader);
    const reading = readForm(specs, typed, defaultsOf(settings), 'complete');
    if (reading.problems.length > 0) throw badForm(reading.problems);
    return reading.values;
  }

  /** One change of an open load, which nobody else changes meanwhile. */
  private async change<T>(
    act: Act,
    id: string,
    change: (unit: WriteUnit, all: LoadAll) => Promise<T>,
  ): Promise<T> {
    return this.writes.run(act, async (unit) => {
      const load = await this.locked(unit.tx, id);
      const [all] = await this.rows.all(unit.tx, [load]);
      if (!all) throw notFound('such oven load');
      const answer = await change(unit, all);
      await unit.tell('ovens');
      return answer;
    });
  }

  private async locked(tx: Transaction, id: string): Promise<LoadRow> {
    const load = await this.rows.load(tx, id, 'lock');
    if (!load) throw notFound('such oven load');
    if (load.endedAt) throw new Problem(409, 'Ended', `Load ${load.number} has ended; it is kept as it is.`);
    return load;
  }
}

/** Hotter is not believed of a part, °C. */
const BELIEVED_C = 600;
